import type { LimitEntry } from './limitEntry.ts';
import { ASSEMBLY_LIMITS } from './assemblyLimits.ts';
import { BALANCE_LIMITS } from './balanceLimits.ts';
import { BENCH_LIMITS } from './benchLimits.ts';
import { PROCESS_LIMITS } from './processLimits.ts';
import { HIGH_POTENTIAL_LIMITS } from './highPotentialLimits.ts';
import { SIZE_RANGES, type SizeLimitId } from './sizeRanges.ts';
import { LIVE_LIMITS } from './liveLimits.ts';
import { LOAD_LIMITS } from './loadLimits.ts';
import { RUN_LIMITS } from './runLimits.ts';
import { VIBRATION_LIMITS } from './vibrationLimits.ts';
import { SURGE_LIMITS } from './surgeLimits.ts';
import { TEST_LIMITS } from './testLimits.ts';
import { WINDING_LIMITS } from './windingLimits.ts';

export type { LimitEntry } from './limitEntry.ts';

/** Low and high of every usual size, as limits of their own. */
const SIZE_LIMITS: readonly LimitEntry[] = SIZE_RANGES.flatMap((r) =>
  (['low', 'high'] as const).map((end) => ({
    id: `range.${r.key}.${end}`,
    title: `${r.label}, usual ${end === 'low' ? 'from' : 'to'}`,
    unit: r.unit,
    published: r[end],
    source: 'common practice',
    group: 'sizes' as const,
  })),
);

export const ALL_LIMITS: readonly LimitEntry[] = [
  ...WINDING_LIMITS,
  ...TEST_LIMITS,
  ...SURGE_LIMITS,
  ...HIGH_POTENTIAL_LIMITS,
  ...BENCH_LIMITS,
  ...RUN_LIMITS,
  ...LOAD_LIMITS,
  ...LIVE_LIMITS,
  ...ASSEMBLY_LIMITS,
  ...VIBRATION_LIMITS,
  ...PROCESS_LIMITS,
  ...BALANCE_LIMITS,
  ...SIZE_LIMITS,
];
export type LimitId =
  | (typeof WINDING_LIMITS)[number]['id']
  | (typeof TEST_LIMITS)[number]['id']
  | (typeof SURGE_LIMITS)[number]['id']
  | (typeof HIGH_POTENTIAL_LIMITS)[number]['id']
  | (typeof BENCH_LIMITS)[number]['id']
  | (typeof RUN_LIMITS)[number]['id']
  | (typeof LOAD_LIMITS)[number]['id']
  | (typeof LIVE_LIMITS)[number]['id']
  | (typeof ASSEMBLY_LIMITS)[number]['id']
  | (typeof PROCESS_LIMITS)[number]['id']
  | (typeof BALANCE_LIMITS)[number]['id']
  | (typeof VIBRATION_LIMITS)[number]['id']
  | SizeLimitId;

/** The shop's own values by limit id; what is absent is as published. */
export type ShopLimits = Readonly<Record<string, number>>;

const byId = new Map<string, LimitEntry>(ALL_LIMITS.map((l) => [l.id, l]));

/** The value in force: the shop's, else the published one. */
export function limit(id: LimitId, shop: ShopLimits = {}): number {
  const own = shop[id];
  if (own !== undefined) return own;
  const entry = byId.get(id);
  if (!entry) throw new RangeError(`unknown limit ${id}`);
  return entry.published;
}

/** How a limit is quoted in a reason: value, unit, and whose it is. */
export function quoteLimit(id: LimitId, shop: ShopLimits = {}): string {
  const entry = byId.get(id);
  if (!entry) throw new RangeError(`unknown limit ${id}`);
  const own = shop[id];
  const value = `${own ?? entry.published}${entry.unit === '' ? '' : ` ${entry.unit}`}`;
  return own !== undefined && own !== entry.published
    ? `${value} (this shop; published ${entry.published}, ${entry.source})`
    : `${value} (${entry.source})`;
}
