/** Kinds of instruments and what each sends. */
export const INSTRUMENT_KINDS = [
  { value: 'oven logger', writes: 'oven' },
  { value: 'resin tank', writes: 'resin tank' },
  { value: 'balancing stand', writes: 'balance' },
  { value: 'winding analyser', writes: 'winding' },
  { value: 'dynamometer', writes: 'load' },
  { value: 'power meter', writes: 'power' },
  { value: 'insulation tester', writes: 'insulation' },
  { value: 'other', writes: 'other' },
] as const;
