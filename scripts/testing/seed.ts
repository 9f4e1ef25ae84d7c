import fc from 'fast-check';
import { draws } from './draws.ts';

// The same generated cases every time, so that a run can be repeated; NORTHER_SEED=random looks for new ones.
const asked = process.env['NORTHER_SEED'];
fc.configureGlobal({
  numRuns: draws(100),
  ...(asked === 'random' ? {} : { seed: Number(asked ?? 20261124) }),
});
