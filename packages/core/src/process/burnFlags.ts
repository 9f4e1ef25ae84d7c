/** What may be wrong with a burn-off; none of them = as it should be (docs/derivations.md 28). */
export const BURN_FLAGS = [
  'over_limit',
  'incomplete',
  'cooled_too_fast',
  'opened_hot',
  'unknown_at_open',
  'log_gap',
] as const;
export type BurnFlag = (typeof BURN_FLAGS)[number];

/** Insulation of the core sheets: unknown counts as organic. */
export const CORE_PLATES = ['organic', 'inorganic', 'unknown'] as const;
export type CorePlate = (typeof CORE_PLATES)[number];
