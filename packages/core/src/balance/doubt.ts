import { formatNumber } from '../quantity/format.ts';
import type { Judged } from '../verdict.ts';
import { add, polar, scale, sizeOf, subtract, type Complex } from '../winding/complex.ts';
import { complexReadings, ZERO, type BalanceEntry } from './entries.ts';
import { influenceOf, predicted, type Influence } from './influence.ts';
import type { BalanceSetUp } from './setUp.ts';

const mirror = (z: Complex): Complex => ({ re: z.re, im: -z.im });
/** A run as it should have read strays from it by this much of what was before; a mistake explains it when it leaves this share of that. */
const STRAYS = 0.3;
const EXPLAINS = 0.35;

/**
 * A correction that did not do what it should: which single mistake would have read so. Masses opposite, angles counted the other way,
 * planes exchanged; each is reckoned forward from the run before it and compared with the run after it. Derived.
 */
export function doubtOf(
  setUp: BalanceSetUp,
  entries: readonly BalanceEntry[],
  influence: Influence,
  first: readonly Complex[],
): Judged | undefined {
  const at = entries.findLastIndex((e) => e.kind === 'correction');
  const after = entries.slice(at + 1).find((e) => e.kind === 'run');
  const before = entries.slice(0, at).findLast((e) => e.kind === 'run');
  if (at < 0 || after?.kind !== 'run' || before?.kind !== 'run') return undefined;
  const from = entries.indexOf(before);
  const [v, w] = [complexReadings(setUp, before.readings), complexReadings(setUp, after.readings)];
  const fixed = setUp.planes.map((_, i) => {
    let sum = ZERO;
    for (const e of entries.slice(from + 1, at + 1)) {
      if (e.kind === 'correction')
        for (const m of e.masses) if (m.plane === i + 1) sum = add(sum, polar(m.massG * m.radiusMm, m.angleDeg));
      if (e.kind === 'trial' && e.staysIn && e.plane === i + 1) sum = add(sum, polar(e.gMm, e.angleDeg));
    }
    return sum;
  });
  const whole = Math.hypot(...v.map(sizeOf));
  if (whole === 0) return undefined;
  const off = (a: Influence, masses: readonly Complex[]): number =>
    Math.hypot(...predicted(a, v, masses).map((z, i) => sizeOf(subtract(z, w[i] ?? ZERO)))) / whole;
  const plain = off(influence, fixed);
  if (!(plain > STRAYS)) return undefined;
  const trials = setUp.planes.map((_, k) =>
    entries.findLast((e): e is Extract<BalanceEntry, { kind: 'trial' }> => e.kind === 'trial' && e.plane === k + 1),
  );
  const mirrored =
    trials.every((t) => t !== undefined) &&
    trials.some((t) => t && Math.abs(Math.sin((t.angleDeg * Math.PI) / 180)) > 1e-9)
      ? influenceOf(
          first,
          trials.flatMap((t) =>
            t ? [{ readings: complexReadings(setUp, t.readings), trial: mirror(polar(t.gMm, t.angleDeg)) }] : [],
          ),
          trials[0]?.staysIn === true && setUp.planes.length === 2,
        )
      : undefined;
  const causes: { says: string; off: number }[] = [
    {
      says: 'the masses sat opposite, 180° away: added where material was to be taken away, or the other way round',
      off: off(
        influence,
        fixed.map((z) => scale(z, -1)),
      ),
    },
    { says: 'the angles of the masses were counted the other way round', off: off(influence, fixed.map(mirror)) },
    ...(setUp.planes.length === 2
      ? [{ says: 'the two planes were exchanged', off: off(influence, [fixed[1] ?? ZERO, fixed[0] ?? ZERO]) }]
      : []),
    ...(mirrored
      ? [
          {
            says: 'masses and phase are counted in different senses all through: number the rotor the other way, or change lead and lag',
            off: off(mirrored, fixed.map(mirror)),
          },
        ]
      : []),
  ];
  const [best] = causes.sort((a, b) => a.off - b.off);
  if (!best || !(best.off < EXPLAINS * plain) || best.off > STRAYS) return undefined;
  return {
    verdict: 'attention',
    reason: `It reads ${formatNumber(100 * plain, 2)} % away from what this correction should do; it reads as if ${best.says}.`,
  };
}
