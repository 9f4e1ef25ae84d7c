import fc from 'fast-check';

// The same generated cases every time, so that a run can be repeated; NORTHER_SEED=random looks for new ones.
const asked = process.env['NORTHER_SEED'];
if (asked !== 'random') fc.configureGlobal({ seed: Number(asked ?? 20261124) });
