import { z } from 'zod';
import { defineCalculation, type Calculation } from '../calculation.ts';
import { num, type TestKind } from '../evaluate/testKind.ts';
import { limit, type LimitId } from '../limits/limits.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { need, quantity, text } from '../process/fieldKinds.ts';
import type { FieldSpec } from '../quantity/fields.ts';
import { formatAgainst, formatNumber } from '../quantity/format.ts';
import { judgedTogether, judgeUpTo, notAbove, outOfCalibration, type Judged } from '../verdict.ts';

const dial = z.number().min(-100).max(100);

const way = z.object({
  /** how far the motor's axis lies from the other at the coupling, mm */
  offsetMm: z.number(),
  /** mm in 100 mm */
  angle: z.number(),
  frontMm: z.number(),
  backMm: z.number(),
});

/** Calculation `evaluate.coupling`. */
export const coupling = defineCalculation({
  id: 'evaluate.coupling',
  version: 1,
  title: 'Coupling by rim and face: offset, angle, shims under the front and the back feet',
  sources: ['geometry: derived', 'limits: common practice'],
  input: z.strictObject({
    rim: z.strictObject({ top: dial, right: dial, bottom: dial, left: dial }).describe('dial on the motor’s rim, mm'),
    sagMm: dial.default(0).describe('what the bar alone reads at the bottom, zero at the top; below zero'),
    face: z.strictObject({ top: dial, right: dial, bottom: dial, left: dial }).describe('dial on the motor’s face, mm'),
    faceDiameterMm: z.number().min(10).max(5000),
    frontMm: z.number().min(0).max(20_000).describe('coupling to the front feet'),
    backMm: z.number().positive().max(20_000).describe('coupling to the back feet'),
    rpm: z.number().positive().max(1e5).optional(),
    calibrationExpired: z.boolean().default(false),
    limits: shopLimitsSchema.default({}),
  }),
  output: z.object({
    verdict: z.enum(['pass', 'attention', 'fail', 'cannot judge']),
    reason: z.string(),
    vertical: way.optional(),
    horizontal: way.optional(),
    words: z.array(z.string()),
  }),
  example: {
    rim: { top: 0, right: -0.13, bottom: -0.26, left: -0.13 },
    sagMm: -0.06,
    face: { top: 0, right: 0.02, bottom: 0.05, left: 0.03 },
    faceDiameterMm: 120,
    frontMm: 180,
    backMm: 420,
    rpm: 1470,
  },
  compute: (x, note) => {
    const { rim, face } = x;
    const cannot = (reason: string) => ({ verdict: 'cannot judge' as const, reason, words: [] });
    if (x.backMm <= x.frontMm) return cannot('The back feet lie further from the coupling than the front feet.');
    const closes = Math.abs(rim.top + rim.bottom - rim.left - rim.right);
    const most = limit('coupling.closesMm', x.limits);
    if (!notAbove(closes, most)) {
      const [shown, bound] = formatAgainst(closes, most);
      return cannot(
        `The rim readings do not close: top and bottom against the sides are ${shown} mm apart, at most ${bound} mm. The dial slipped or was misread.`,
      );
    }
    // pressed in at the bottom: the motor lies low by half the difference
    const low = (rim.bottom - x.sagMm - rim.top) / 2;
    const right = (rim.right - rim.left) / 2;
    const slope = (face.bottom - face.top) / x.faceDiameterMm;
    const turn = (face.right - face.left) / x.faceDiameterMm;
    const at = (offset: number, angle: number) => ({
      offsetMm: offset,
      angle: 100 * angle,
      frontMm: offset + angle * x.frontMm,
      backMm: offset + angle * x.backMm,
    });
    const [vertical, horizontal] = [at(low, slope), at(right, turn)];
    for (const [name, w] of [
      ['upright', vertical],
      ['sideways', horizontal],
    ] as const)
      for (const [foot, value] of [
        ['front', w.frontMm],
        ['back', w.backMm],
      ] as const)
        note?.({
          name: `Correction ${name}, ${foot} feet`,
          symbol: 'k',
          formula: 'offset + angle · x',
          numbers: `${formatNumber(w.offsetMm, 3)} + ${formatNumber(w.angle / 100, 3)} · ${foot === 'front' ? x.frontMm : x.backMm}`,
          value,
          unit: 'mm',
          source: 'derived',
        });
    const fast =
      x.rpm !== undefined && !notAbove(x.rpm, limit('coupling.fastRpm', x.limits))
        ? limit('coupling.fastFactor', x.limits)
        : 1;
    const judged = (what: string, value: number, unit: string, [good, worst]: readonly [LimitId, LimitId]): Judged => {
      const [a, b] = [fast * limit(good, x.limits), fast * limit(worst, x.limits)];
      const verdict = judgeUpTo(value, a, b);
      const [shown, bound] = formatAgainst(value, verdict === 'pass' ? a : b);
      return { verdict, reason: `${what} ${shown} ${unit}, at most ${bound} ${unit} (common practice).` };
    };
    const parts: Judged[] = [
      judged('Offset', Math.hypot(low, right), 'mm', ['coupling.offsetMm', 'coupling.offsetMostMm']),
      judged('Angle', 100 * Math.hypot(slope, turn), 'mm in 100 mm', ['coupling.angle', 'coupling.angleMost']),
    ];
    const least = limit('coupling.noShimMm', x.limits);
    const words = [
      shimWords('front', vertical.frontMm, least),
      shimWords('back', vertical.backMm, least),
      sideWords('front', horizontal.frontMm, least),
      sideWords('back', horizontal.backMm, least),
    ];
    const { verdict, reason } = judgedTogether([...parts, ...outOfCalibration(x.calibrationExpired)]);
    return { verdict, reason: `${reason} ${words.join(' ')}`, vertical, horizontal, words };
  },
});

/** Hundredths of a millimetre, as shims are cut. */
const hundredths = (mm: number): string => (Math.round(Math.abs(mm) * 100 + 1e-6) / 100).toFixed(2);
const shimWords = (feet: string, mm: number, leastMm: number): string =>
  Math.abs(mm) < leastMm
    ? `Under the ${feet} feet nothing.`
    : mm > 0
      ? `Under the ${feet} feet ${hundredths(mm)} mm more.`
      : `From under the ${feet} feet ${hundredths(mm)} mm away.`;
const sideWords = (feet: string, mm: number, leastMm: number): string =>
  Math.abs(mm) < leastMm
    ? `The ${feet} feet stay where they are sideways.`
    : `The ${feet} feet ${hundredths(mm)} mm to the ${mm > 0 ? 'left' : 'right'}.`;

const dialField = (name: string, label: string, more: Partial<FieldSpec> = {}): FieldSpec => ({
  name,
  label,
  read: { kind: 'quantity', dimension: 'length', unit: 'mm', min: -0.02 },
  ...more,
});
const POINTS = ['top', 'right', 'bottom', 'left'] as const;
const mm = (v: number | undefined): number | undefined => (v === undefined ? undefined : v * 1000);

/** Coupling to the dynamometer or the driven machine, in the test matrix. */
export const couplingTest: TestKind = {
  id: 'coupling',
  title: 'Coupling by rim and face',
  stages: { AA: 'optional', FI: 'optional' },
  calculation: coupling as unknown as Calculation,
  for: () => true,
  needsWholeMotor: true,
  fields: [
    ...POINTS.map((p) => dialField(`rim${p}`, `Rim, ${p}`, need)),
    dialField('sag', 'The bar’s own sag at the bottom', { hint: 'on a stiff tube, zero at the top: below zero' }),
    ...POINTS.map((p) => dialField(`face${p}`, `Face, ${p}`, need)),
    quantity('faceDiameter', 'Face taken at a diameter of', 'length', 'mm', need),
    quantity('front', 'Coupling to front feet', 'length', 'mm', need),
    quantity('back', 'Coupling to back feet', 'length', 'mm', need),
    text('instrument', 'Instrument', need),
  ],
  due: () => ({
    says: [
      'Isolated, locked and proved dead. Soft foot first. Bracket on the other shaft, dials on the motor’s rim and face; zero at the top, both shafts turned together; left and right as seen from the motor.',
    ],
  }),
  input: (v, { nameplate }) => {
    const four = (of: string) => Object.fromEntries(POINTS.map((p) => [p, mm(num(v, `${of}${p}`))]));
    return {
      rim: four('rim'),
      face: four('face'),
      sagMm: mm(num(v, 'sag')),
      faceDiameterMm: mm(num(v, 'faceDiameter')),
      frontMm: mm(num(v, 'front')),
      backMm: mm(num(v, 'back')),
      rpm: nameplate.speedRpm,
    };
  },
  caution:
    'Both machines isolated, locked and proved dead before a hand is at the coupling; guard on before it turns. Local codes and licensed practice decide.',
};
