import type { BalanceNow } from '../balance/session.ts';
import { polarPlot } from './polarPlot.ts';
import type { Drawing } from './shapes.ts';

/** What is left at the bearings as a share of what each is allowed, with the ring of the tolerance. */
export const bearingsPlot = (bearings: NonNullable<BalanceNow['bearings']>, size?: number): Drawing =>
  polarPlot({
    title: 'At the bearings, over what is allowed',
    vectors: bearings.map((b, i) => ({
      label: i === 0 ? 'A' : 'B',
      size: (100 * b.gMm) / b.allowedGMm,
      angleDeg: b.angleDeg,
      role: b.verdict === 'pass' ? ('good' as const) : ('bad' as const),
    })),
    unit: '% of the share of each bearing',
    limit: 100,
    ...(size === undefined ? {} : { size }),
  });
