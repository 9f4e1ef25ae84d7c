/** Simulated instruments of the demo shop: each is a program of `npm run instruments`, with a key of its own. */
export const DEMO_PROGRAMS = ['oven', 'burn', 'tank', 'stand', 'analyser', 'dynamometer'];
/** Where the key of one is kept, in the data folder. */
export const demoKeyFile = (program) => (program === 'oven' ? 'demo-instrument.key' : `demo-${program}.key`);
/** So long before now its first run began, min: as the demo's loads (`apps/server/src/demo/demoInstrument.ts`). */
export const BEHIND_MIN = { oven: 210, burn: 760, tank: 168 };
