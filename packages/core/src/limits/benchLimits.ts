import type { LimitEntry } from './limitEntry.ts';

const CP = 'common practice';

/** Limits of the bench tests beside resistance, insulation, surge and high potential. */
export const BENCH_LIMITS = [
  {
    id: 'balance.impedancePassPercent',
    title: 'Impedance of a phase off the mean, pass up to',
    unit: '%',
    published: 5,
    source: CP,
    group: 'phase balance',
  },
  {
    id: 'balance.impedanceFailPercent',
    title: 'Impedance of a phase off the mean, fail above',
    unit: '%',
    published: 10,
    source: CP,
    group: 'phase balance',
  },
  {
    id: 'compare.insulationFallPercent',
    title: 'Insulation resistance at 40 °C against earlier, attention below by more than',
    unit: '%',
    published: 50,
    source: CP,
    group: 'before and after',
  },
  {
    id: 'compare.resistancePercent',
    title: 'Resistance of a winding that was not rewound against earlier, attention beyond',
    unit: '%',
    published: 2,
    source: CP,
    group: 'before and after',
  },
] as const satisfies readonly LimitEntry[];
