import type { LimitEntry } from './limitEntry.ts';

const CP = 'common practice';
const group = 'high potential';

/** Limits of the high-potential tests. */
export const HIGH_POTENTIAL_LIMITS = [
  {
    id: 'hipot.beforeResinPercent',
    title: 'Before resin, of the full value',
    unit: '%',
    published: 60,
    source: CP,
    group,
  },
  {
    id: 'hipot.reconditionedPercent',
    title: 'Reconditioned, by trade practice, of the full value',
    unit: '%',
    published: 65,
    source: CP,
    group,
  },
  {
    id: 'hipot.reachedPercent',
    title: 'Voltage reached, of what is required, at least',
    unit: '%',
    published: 97,
    source: CP,
    group,
  },
  {
    id: 'hipot.overPercent',
    title: 'Voltage reached, of what is required, attention above',
    unit: '%',
    published: 105,
    source: CP,
    group,
  },
  {
    id: 'hipot.leakageFactor',
    title: 'Current against the median of motors of its kind, attention above',
    unit: '×',
    published: 1.5,
    source: CP,
    group,
  },
  {
    id: 'hipot.tripFactor',
    title: 'Trip of the set against the charging current, at least',
    unit: '×',
    published: 1.5,
    source: CP,
    group,
  },
  {
    id: 'hipot.kneeFactor',
    title: 'Rise of current per volt against that of the step before, stop above',
    unit: '×',
    published: 2,
    source: CP,
    group,
  },
  {
    id: 'hipot.rampS',
    title: 'From half to full voltage in at least',
    unit: 's',
    published: 10,
    source: 'IEC 60034-1 (from memory)',
    group,
  },
] as const satisfies readonly LimitEntry[];
