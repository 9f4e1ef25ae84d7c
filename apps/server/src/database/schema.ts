/** Every table; each stands in the file of its trade word. */
export * from './schema/people.ts';
export * from './schema/shop.ts';
export * from './schema/jobs.ts';
export * from './schema/windings.ts';
export * from './schema/stock.ts';
export * from './schema/process.ts';
export * from './schema/evaluations.ts';
export * from './schema/instruments.ts';
export * from './schema/ovens.ts';
export * from './schema/vessels.ts';
export * from './schema/records.ts';
export * from './schema/background.ts';
export type { TraceChannelKept } from './schema/columns.ts';
