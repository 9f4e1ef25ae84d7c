import type { LimitEntry } from './limitEntry.ts';

const CP = 'common practice';

/** Limits of the loaded motor: losses, locked rotor, efficiency, temperature rise. */
export const LOAD_LIMITS = [
  {
    id: 'load.frictionFit',
    title: 'Line of friction and core loss: correlation at least',
    unit: '',
    published: 0.99,
    source: CP,
    group: 'load test',
  },
  {
    id: 'load.balancedPercent',
    title: 'Leads rotated: balanced where neither leads nor lines are off by more than',
    unit: '%',
    published: 3,
    source: CP,
    group: 'load test',
  },
  {
    id: 'load.driftPercent',
    title: 'Leads rotated: the three runs may be apart by',
    unit: '%',
    published: 3,
    source: CP,
    group: 'load test',
  },
  {
    id: 'load.lockedExponentHigh',
    title: 'Locked current grows with the voltage to the power of, usual up to',
    unit: '',
    published: 1.15,
    source: CP,
    group: 'load test',
  },
  {
    id: 'load.fitB',
    title: 'Stray losses by method B: correlation at least',
    unit: '',
    published: 0.9,
    source: 'IEEE 112 (from memory)',
    group: 'load test',
  },
  {
    id: 'load.fitIec',
    title: 'Stray losses by method 2-1-1B: correlation at least',
    unit: '',
    published: 0.95,
    source: 'IEC 60034-2-1 (from memory)',
    group: 'load test',
  },
  {
    id: 'load.riseMarginK',
    title: 'Temperature rise: attention within so much of the limit',
    unit: 'K',
    published: 5,
    source: CP,
    group: 'load test',
  },
  {
    id: 'load.riseFit',
    title: 'Rise drawn back to the switch: square of the correlation at least',
    unit: '',
    published: 0.98,
    source: CP,
    group: 'load test',
  },
  {
    id: 'load.offPercent',
    title: 'Load off the rated one, no rise judged beyond',
    unit: '%',
    published: 5,
    source: CP,
    group: 'load test',
  },
] as const satisfies readonly LimitEntry[];
