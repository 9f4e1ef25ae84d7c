export * from './roles.ts';
export * from './people.ts';
export * from './shop.ts';
export * from './job.ts';
export * from './balance.ts';
export * from './exchange.ts';
export * from './archive.ts';
export * from './time.ts';
