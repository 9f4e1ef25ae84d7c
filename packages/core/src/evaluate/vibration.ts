import { limit, quoteLimit, type LimitId, type ShopLimits } from '../limits/limits.ts';
import { formatAgainst, formatNumber } from '../quantity/format.ts';
import { notAbove, type Judged } from '../verdict.ts';

/** Shaft heights of IEC 60072, mm: a frame number that is one of them is read so. */
const IEC_HEIGHTS = [
  56, 63, 71, 80, 90, 100, 112, 132, 160, 180, 200, 225, 250, 280, 315, 355, 400, 450, 500, 560, 630,
];

/**
 * Shaft height in mm of a frame as it stands on a plate: an IEC height ("160M"), else NEMA: the first two of three or four digits over
 * four, two digits over sixteen, inch ("254T").
 * @example shaftHeightOf('132S') // 132
 */
export function shaftHeightOf(frame: string | undefined): number | undefined {
  const digits = /\d{2,4}/.exec(frame ?? '')?.[0];
  if (!digits) return undefined;
  if (IEC_HEIGHTS.includes(Number(digits))) return Number(digits);
  const inches = digits.length === 2 ? Number(digits) / 16 : Number(digits.slice(0, 2)) / 4;
  return inches > 0 ? inches * 25.4 : undefined;
}

export type Mounting = 'free' | 'rigid';
export type VibrationGrade = 'A' | 'B';

/** Limits by height up to 132, up to 280 and above, mm/s rms. Source: IEC 60034-14 (older table, from memory). */
const ROWS: Readonly<Record<Mounting, Readonly<Record<VibrationGrade, readonly (LimitId | undefined)[]>>>> = {
  free: {
    A: ['vibration.freeA132', 'vibration.freeA280', 'vibration.freeAAbove'],
    B: ['vibration.freeB132', 'vibration.freeB280', 'vibration.freeBAbove'],
  },
  rigid: {
    A: ['vibration.rigidA132', 'vibration.rigidA280', 'vibration.rigidAAbove'],
    B: [undefined, 'vibration.rigidB280', 'vibration.rigidBAbove'],
  },
};

/** Judges the largest vibration velocity at no load, mm/s rms, by shaft height, mounting and grade. Source: docs/derivations.md 16. */
export function judgeVibration(x: {
  mmS: number;
  heightMm?: number | undefined;
  mounting?: Mounting | undefined;
  grade?: VibrationGrade | undefined;
  limits: ShopLimits;
}): Judged {
  const own = x.limits['noLoad.vibrationMmS'];
  const row = ROWS[x.mounting ?? 'rigid'][x.grade ?? 'A'];
  const factor = limit('vibration.attentionFactor', x.limits);
  const how = `${x.mounting ?? 'rigid'} mounting${x.mounting ? '' : ' (not stated)'}, grade ${x.grade ?? 'A'}`;
  const within = (most: number, quoted: string, where: string): Judged => {
    const verdict = notAbove(x.mmS, most) ? 'pass' : notAbove(x.mmS, factor * most) ? 'attention' : 'fail';
    const [shown] = formatAgainst(x.mmS, verdict === 'fail' ? factor * most : most);
    return {
      verdict,
      reason: `Vibration ${shown} mm/s rms, ${verdict === 'pass' ? 'at most' : 'above'} ${quoted}${where}.`,
    };
  };
  if (own !== undefined) return within(own, quoteLimit('noLoad.vibrationMmS', x.limits), '');
  if (x.heightMm === undefined) {
    const last = row[2] as LimitId;
    const first = row[0] ?? (row[1] as LimitId);
    const most = factor * limit(last, x.limits);
    return {
      verdict: notAbove(x.mmS, most) ? 'attention' : 'fail',
      reason: `Vibration ${formatNumber(x.mmS, 3)} mm/s rms, shaft height missing: ${quoteLimit(first, x.limits)} for the smallest machines, ${quoteLimit(last, x.limits)} for the largest (${how}).`,
    };
  }
  const id = row[x.heightMm <= 132 ? 0 : x.heightMm <= 280 ? 1 : 2];
  if (id === undefined)
    return {
      verdict: 'cannot judge',
      reason: `Vibration ${formatNumber(x.mmS, 3)} mm/s rms: there is no figure for shaft height ${formatNumber(x.heightMm, 3)} mm, ${how}.`,
    };
  return within(
    limit(id, x.limits),
    quoteLimit(id, x.limits),
    ` for shaft height ${formatNumber(x.heightMm, 3)} mm, ${how}`,
  );
}
