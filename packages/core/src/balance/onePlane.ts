import { z } from 'zod';
import { defineCalculation } from '../calculation.ts';
import { limit } from '../limits/limits.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { formatAgainst, formatNumber } from '../quantity/format.ts';
import { combineVerdicts, notAbove, type Verdict } from '../verdict.ts';
import { angleDegOf, divide, polar, scale, sizeOf, subtract, type Complex } from '../winding/complex.ts';
import { permissibleUnbalanceGMm } from './tolerance.ts';

const angle = z.number().min(-360).max(720);
/** A vibration reading: once-per-turn amplitude (any one unit all through) and phase in degrees. */
const vector = z.strictObject({ size: z.number().min(0), angleDeg: angle });

/** Splits a correction over two allowed angles left and right of it. Both parts are ≥ 0 when it lies between. */
export function splitBetween(u: number, atDeg: number, firstDeg: number, secondDeg: number): [number, number] {
  const rad = Math.PI / 180;
  const between = Math.sin((secondDeg - firstDeg) * rad);
  return [(u * Math.sin((secondDeg - atDeg) * rad)) / between, (u * Math.sin((atDeg - firstDeg) * rad)) / between];
}

export interface Placed {
  angleDeg: number;
  unbalanceGMm: number;
}

/** Puts a vector on N equally spaced positions counted from `firstDeg`: one when it lies on one, else two neighbours. */
export function onPositions(u: number, atDeg: number, positions: number, firstDeg: number): Placed[] | undefined {
  if (positions < 3) return undefined;
  const step = 360 / positions;
  const from = (((atDeg - firstDeg) % 360) + 360) % 360;
  const k = Math.floor(from / step + 1e-9);
  const low = (firstDeg + k * step) % 360;
  const high = (low + step) % 360;
  const parts = splitBetween(u, low + (from - k * step), low, low + step);
  return [
    { angleDeg: low, unbalanceGMm: parts[0] },
    { angleDeg: high, unbalanceGMm: parts[1] },
  ].filter((p) => p.unbalanceGMm > 1e-9 * Math.max(1, u));
}

export const onePlaneInputSchema = z.strictObject({
  grade: z.number().positive().describe('balance grade G, mm/s'),
  massKg: z.number().positive().optional(),
  serviceSpeedRpm: z.number().positive().optional(),
  balancingSpeedRpm: z.number().positive().optional(),
  planeWidthMm: z.number().positive().optional().describe('axial length of the body that carries the unbalance, mm'),
  bearingSpanMm: z.number().positive().optional(),
  correctionRadiusMm: z.number().positive(),
  method: z.enum(['add', 'remove']).default('add'),
  positions: z.int().min(0).max(360).default(0).describe('equally spaced places; 0 = anywhere'),
  firstPositionDeg: angle.default(0),
  asFound: vector,
  trial: z.strictObject({ unbalanceGMm: z.number().positive(), angleDeg: angle }),
  withTrial: vector,
  trialStaysIn: z.boolean().default(false),
  after: vector.optional().describe('reading after the correction'),
  scatterGMm: z.number().min(0).default(0).describe('scatter of repeat runs with unchanged rotor'),
  limits: shopLimitsSchema.default({}),
});

/** Calculation `balance.onePlane`. */
export const balanceOnePlane = defineCalculation({
  id: 'balance.onePlane',
  version: 1,
  title: 'One-plane balance by influence coefficient: correction, residual, verdict',
  sources: [
    'influence-coefficient method (derived)',
    'ISO 21940-11 tolerance',
    'trial response and disc rule: common practice',
  ],
  input: onePlaneInputSchema,
  output: z.object({
    permissibleGMm: z.number().optional(),
    influencePerGMm: vector.optional(),
    initialUnbalanceGMm: z.number().optional(),
    correction: z
      .object({ unbalanceGMm: z.number(), angleDeg: z.number(), massG: z.number(), method: z.enum(['add', 'remove']) })
      .optional(),
    placed: z.array(z.object({ angleDeg: z.number(), unbalanceGMm: z.number(), massG: z.number() })),
    residualGMm: z.number().optional(),
    residualAngleDeg: z.number().optional(),
    reductionPercent: z.number().optional(),
    verdict: z.enum(['pass', 'attention', 'fail', 'cannot judge']),
    reason: z.string(),
  }),
  example: {
    grade: 2.5,
    massKg: 20,
    serviceSpeedRpm: 3000,
    correctionRadiusMm: 60,
    planeWidthMm: 40,
    bearingSpanMm: 400,
    asFound: { size: 6.2, angleDeg: 35 },
    trial: { unbalanceGMm: 300, angleDeg: 60 },
    withTrial: { size: 8.1, angleDeg: 95 },
  },
  compute: (x, note) => {
    const v0 = polar(x.asFound.size, x.asFound.angleDeg);
    const v1 = polar(x.withTrial.size, x.withTrial.angleDeg);
    const ut = polar(x.trial.unbalanceGMm, x.trial.angleDeg);
    const parts: { verdict: Verdict; reason: string }[] = [];
    const permissibleGMm =
      x.massKg !== undefined && x.serviceSpeedRpm !== undefined
        ? permissibleUnbalanceGMm(x.grade, x.massKg, x.serviceSpeedRpm)
        : undefined;
    if (permissibleGMm === undefined) {
      parts.push({
        verdict: 'cannot judge',
        reason: 'Rotor mass and highest service speed are needed for the tolerance.',
      });
    } else {
      note?.({
        name: 'Permissible residual unbalance',
        symbol: 'U_per',
        formula: '9549.3 G m / n',
        numbers: `9549.3 · ${x.grade} · ${x.massKg} / ${x.serviceSpeedRpm}`,
        value: permissibleGMm,
        unit: 'g·mm',
        source: 'ISO 21940-11',
      });
    }
    if (x.planeWidthMm === undefined || x.bearingSpanMm === undefined) {
      parts.push({
        verdict: 'cannot judge',
        reason: 'The width of the rotor body and the bearing span decide whether one plane is enough; enter both.',
      });
    } else {
      const share = x.planeWidthMm / x.bearingSpanMm;
      const most = limit('balance.discWidthShare', x.limits);
      if (!(share < most)) {
        const [a, b] = formatAgainst(share, most);
        parts.push({
          verdict: 'cannot judge',
          reason: `The rotor is too long for one plane: width over bearing span is ${a}, below ${b} is wanted (common practice). A couple would stay unseen; balance it in two planes.`,
        });
      }
    }
    const change = subtract(v1, v0);
    const size0 = Math.max(x.asFound.size, 1e-12);
    const amplitude = (100 * Math.abs(x.withTrial.size - x.asFound.size)) / size0;
    const turned = Math.abs(((((x.withTrial.angleDeg - x.asFound.angleDeg) % 360) + 540) % 360) - 180);
    const tooWeak = sizeOf(change) <= 1e-9 * Math.max(1, size0);
    if (tooWeak) {
      return {
        ...(permissibleGMm === undefined ? {} : { permissibleGMm }),
        placed: [],
        verdict: 'cannot judge' as const,
        reason: 'The trial mass changed nothing: take a larger one, or check that it is fixed and the pick-up works.',
      };
    }
    if (amplitude < limit('balance.trialMinPercent', x.limits) && turned < limit('balance.trialMinDeg', x.limits)) {
      parts.push({
        verdict: 'attention',
        reason: `The trial altered the amplitude by ${formatNumber(amplitude, 2)} % and the phase by ${formatNumber(turned, 2)}°; ${limit('balance.trialMinPercent', x.limits)} % or ${limit('balance.trialMinDeg', x.limits)}° is wanted (common practice). Use a larger trial.`,
      });
    }
    const alpha = divide(change, ut);
    const wholeCorrection = scale(divide(v0, alpha), -1);
    const correction: Complex = x.trialStaysIn ? scale(divide(v1, alpha), -1) : wholeCorrection;
    note?.({
      name: 'Influence coefficient',
      symbol: 'α',
      formula: '(V₁ − V₀) / U_t',
      numbers: `(${x.withTrial.size} ∠ ${x.withTrial.angleDeg}° − ${x.asFound.size} ∠ ${x.asFound.angleDeg}°) / ${x.trial.unbalanceGMm} ∠ ${x.trial.angleDeg}°`,
      value: `${sizeOf(alpha).toPrecision(5)} ∠ ${angleDegOf(alpha).toFixed(2)}°`,
      unit: 'per g·mm',
      source: 'derived',
    });
    note?.({
      name: x.trialStaysIn ? 'Mass to add, trial left in' : 'Mass to add, trial taken out',
      symbol: 'U_c',
      formula: x.trialStaysIn ? '−V₁ / α' : '−V₀ / α',
      numbers: `${(x.trialStaysIn ? x.withTrial : x.asFound).size} / ${sizeOf(alpha).toPrecision(5)}`,
      value: `${sizeOf(correction).toFixed(2)} ∠ ${angleDegOf(correction).toFixed(2)}°`,
      unit: 'g·mm',
      source: 'derived',
    });
    const u = sizeOf(correction);
    const addAt = angleDegOf(correction);
    const at = x.method === 'add' ? addAt : (addAt + 180) % 360;
    const massG = u / x.correctionRadiusMm;
    let placed = [{ angleDeg: at, unbalanceGMm: u, massG }];
    if (x.positions > 0) {
      const on = onPositions(u, at, x.positions, x.firstPositionDeg);
      if (!on)
        parts.push({
          verdict: 'cannot judge',
          reason: `With ${x.positions} places not every direction can be reached; at least 3 are needed.`,
        });
      placed = (on ?? []).map((p) => ({ ...p, massG: p.unbalanceGMm / x.correctionRadiusMm }));
    }
    const initialUnbalanceGMm = sizeOf(wholeCorrection);
    let residualGMm: number | undefined;
    let residualAngleDeg: number | undefined;
    if (x.after) {
      const residual = divide(polar(x.after.size, x.after.angleDeg), alpha);
      residualGMm = sizeOf(residual);
      residualAngleDeg = angleDegOf(residual);
      note?.({
        name: 'Residual unbalance',
        symbol: 'U_r',
        formula: '|V_after| / |α|',
        numbers: `${x.after.size} / ${sizeOf(alpha).toPrecision(5)}`,
        value: residualGMm,
        unit: 'g·mm',
        source: 'derived',
      });
      if (permissibleGMm !== undefined) {
        const [a, b] = formatAgainst(residualGMm, permissibleGMm, 4);
        const grade = `G ${x.grade} at ${x.serviceSpeedRpm} r/min (ISO 21940-11)`;
        if (notAbove(residualGMm, permissibleGMm - x.scatterGMm)) {
          parts.push({ verdict: 'pass', reason: `Residual ${a} g·mm; at most ${b} g·mm, ${grade}.` });
        } else if (!notAbove(residualGMm, permissibleGMm + x.scatterGMm)) {
          parts.push({ verdict: 'fail', reason: `Residual ${a} g·mm is above ${b} g·mm, ${grade}. Correct again.` });
        } else {
          parts.push({
            verdict: 'attention',
            reason: `Residual ${a} g·mm lies within the scatter of ${formatNumber(x.scatterGMm)} g·mm round the limit ${b} g·mm, ${grade}.`,
          });
        }
      }
    } else {
      // a rotor found inside its tolerance needs no correction
      const isFine = permissibleGMm !== undefined && notAbove(initialUnbalanceGMm, permissibleGMm - x.scatterGMm);
      if (isFine) {
        const [a, b] = formatAgainst(initialUnbalanceGMm, permissibleGMm, 4);
        parts.push({
          verdict: 'pass',
          reason: `Found ${a} g·mm; at most ${b} g·mm, G ${x.grade} at ${x.serviceSpeedRpm} r/min (ISO 21940-11): no correction is needed.`,
        });
      } else
        parts.push({
          verdict: 'cannot judge',
          reason: 'Make the correction, spin again and enter the reading: the residual decides.',
        });
    }
    const verdict = combineVerdicts(parts.map((p) => p.verdict));
    const spoke = parts.filter((p) => p.verdict === verdict);
    const rest = parts.filter((p) => p.verdict !== verdict && p.verdict !== 'pass');
    return {
      ...(permissibleGMm === undefined ? {} : { permissibleGMm }),
      influencePerGMm: { size: sizeOf(alpha), angleDeg: angleDegOf(alpha) },
      initialUnbalanceGMm,
      correction: { unbalanceGMm: u, angleDeg: at, massG, method: x.method },
      placed,
      ...(residualGMm === undefined || residualAngleDeg === undefined
        ? {}
        : { residualGMm, residualAngleDeg, reductionPercent: 100 * (1 - residualGMm / initialUnbalanceGMm) }),
      verdict,
      reason: [...spoke, ...rest].map((p) => p.reason).join(' '),
    };
  },
});
