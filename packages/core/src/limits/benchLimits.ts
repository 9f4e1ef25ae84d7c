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
    id: 'failure.highPercent',
    title: 'A phase counts as burnt with this share of its coils burnt, or more',
    unit: '%',
    published: 80,
    source: CP,
    group: 'failure analysis',
  },
  {
    id: 'failure.lowPercent',
    title: 'A phase counts as clean with this share of its coils burnt, or less',
    unit: '%',
    published: 10,
    source: CP,
    group: 'failure analysis',
  },
  {
    id: 'failure.localCoils',
    title: 'A fault of one spot: burnt coils up to',
    unit: '',
    published: 2,
    source: CP,
    group: 'failure analysis',
  },
  {
    id: 'failure.localPercent',
    title: 'A fault of one spot: or this share of all coils burnt, up to',
    unit: '%',
    published: 10,
    source: CP,
    group: 'failure analysis',
  },
  {
    id: 'failure.unlikeDamage',
    title: 'Unequal voltages: mean damage of the phases (0 none to 3 destroyed) apart by at least',
    unit: '',
    published: 1,
    source: CP,
    group: 'failure analysis',
  },
  {
    id: 'failure.leastDamage',
    title: 'Unequal voltages: mean damage of every phase at least; a clean phase less',
    unit: '',
    published: 0.3,
    source: CP,
    group: 'failure analysis',
  },
  {
    id: 'failure.alikeDamage',
    title: 'Overload: mean damage of the phases apart by less than',
    unit: '',
    published: 0.5,
    source: CP,
    group: 'failure analysis',
  },
  {
    id: 'failure.overloadDamage',
    title: 'Overload: mean damage of every phase at least',
    unit: '',
    published: 1,
    source: CP,
    group: 'failure analysis',
  },
] as const satisfies readonly LimitEntry[];
