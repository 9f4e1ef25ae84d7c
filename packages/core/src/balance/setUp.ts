import { z } from 'zod';
import { limit, quoteLimit, type ShopLimits } from '../limits/limits.ts';
import { formatAgainst, formatNumber } from '../quantity/format.ts';
import { toBase } from '../quantity/units.ts';
import { notAbove, type Judged } from '../verdict.ts';
import { forceN, planesAreClose } from './planes.ts';
import { halfKeyG } from './material.ts';
import { bearingShares, permissibleUnbalanceGMm } from './tolerance.ts';
import { trialMass } from './trialMass.ts';

export const ROTOR_KINDS = ['cage rotor', 'armature', 'wound rotor', 'magnet rotor', 'fan', 'coupling half'] as const;
export type RotorKind = (typeof ROTOR_KINDS)[number];
/** The usual grade of each kind, and why (common practice; a customer's figure stands beside it). */
export const USUAL_GRADE: Readonly<Record<RotorKind, { grade: number; why: string }>> = {
  'cage rotor': {
    grade: 2.5,
    why: 'motors of 80 mm shaft height and more above 950 r/min; 1 for two poles and quiet ones',
  },
  armature: { grade: 2.5, why: 'armatures of tools 2.5 to 6.3' },
  'wound rotor': { grade: 2.5, why: 'as a cage rotor: leads and bands tied before it is spun' },
  'magnet rotor': { grade: 2.5, why: 'fast and light: 1 where it runs above 6000 r/min' },
  fan: { grade: 6.3, why: 'fans, pumps, general machinery' },
  'coupling half': { grade: 6.3, why: 'on a plain mandrel, with the other half of the key' },
};
/** What the places of a plane are called. */
export const PLACE_NAMES = ['place', 'pin', 'hole', 'blade', 'stud', 'tooth'] as const;
export const UNBALANCE_UNITS = ['g·mm', 'g·in', 'oz·in', 'g·cm', 'kg·mm', 'kg·in', 'lb·in'] as const;
export type UnbalanceUnit = (typeof UNBALANCE_UNITS)[number];
/** g·mm of one of a unit. */
export const unbalanceFactor = (unit: UnbalanceUnit): number => toBase(1, 'unbalance', unit);
/** An unbalance as its session shows it. */
export const sayUnbalance = (gMm: number, unit: UnbalanceUnit, digits = 4): string =>
  `${formatNumber(gMm / unbalanceFactor(unit), digits)} ${unit}`;
export const WAYS = ['add', 'drill', 'mill a flat', 'mill tooth tops'] as const;
export type Way = (typeof WAYS)[number];

const planeSchema = z.strictObject({
  xMm: z.number().describe('place along the axis'),
  radiusMm: z.number().positive().describe('where masses are fixed or material is taken'),
  way: z.enum(WAYS).default('add'),
  places: z.int().min(0).max(360).default(0).describe('equally spaced; 0 = anywhere'),
  firstDeg: z.number().min(-360).max(720).default(0),
  taken: z.array(z.int().min(1).max(360)).default([]).describe('places that are used or forbidden, counted from 1'),
  mostG: z.number().positive().optional().describe('most that one place holds, g'),
  mostDepthMm: z.number().positive().optional(),
  drillMm: z.number().positive().optional(),
  lengthMm: z.number().positive().optional().describe('of a flat or slot along the axis'),
  widthMm: z.number().positive().optional().describe('of a slot on a tooth'),
  thickMm: z.number().positive().optional().describe('material under the surface, to insulation, bar, bore or shaft'),
  called: z.enum(PLACE_NAMES).default('place'),
  forbidden: z
    .array(z.strictObject({ fromDeg: z.number().min(0).max(360), toDeg: z.number().min(0).max(360) }))
    .default([])
    .describe('angles where nothing is fixed or taken, each from one angle up to another'),
});
export type BalancePlane = z.output<typeof planeSchema>;

const vectorSchema = z.strictObject({ size: z.number().min(0), angleDeg: z.number() });
/** An influence set of an earlier balance: usable on the same stand, at the same speed, in the same planes, once a trial agrees. */
const storedSetSchema = z.strictObject({
  /** where it comes from, in words */
  from: z.string().max(200),
  /** [bearing][plane], reading per g·mm, phase as lead */
  influence: z.array(z.array(vectorSchema).min(1).max(2)).length(2),
});
export type StoredSet = z.output<typeof storedSetSchema>;

export const balanceSetUpSchema = z.strictObject({
  kind: z.enum(ROTOR_KINDS),
  massKg: z.number().positive(),
  grade: z.number().positive().max(4000),
  serviceRpm: z.number().positive().describe('highest service speed'),
  balancingRpm: z.number().positive(),
  criticalRpm: z.number().positive().optional().describe('first bending critical speed, where it is known'),
  bearingAMm: z.number(),
  bearingBMm: z.number(),
  centreMm: z.number().describe('centre of mass'),
  bodyMm: z.number().positive().optional().describe('axial length that carries the unbalance; for one plane'),
  planes: z.array(planeSchema).min(1).max(2),
  stockG: z.array(z.number().positive()).default([]).describe('masses that the shop has; none = cut to weight'),
  readings: z.enum(['vibration', 'unbalance per plane']).default('vibration'),
  phase: z.enum(['lead', 'lag']).default('lead').describe('what the phase meter shows'),
  unbalanceUnit: z
    .enum(UNBALANCE_UNITS)
    .default('g·mm')
    .describe('in which a separating stand reads, and all is shown'),
  driveEnd: z.enum(['A', 'B']).default('A').describe('bearing at the drive end'),
  view: z.enum(['drive end', 'other end']).default('drive end').describe('end from which angles are seen'),
  stored: storedSetSchema.optional(),
  trimMmS: z
    .number()
    .positive()
    .optional()
    .describe('trim of the assembled motor: the once-per-turn velocity that either bearing may show, mm/s rms'),
  ownGMm: z.number().positive().optional().describe('stricter figure of shop or customer, whole rotor'),
  uncertaintyGMm: z.number().min(0).default(0).describe('of a residual at a bearing'),
  key: z.enum(['half', 'full', 'none']).default('half'),
  keyMm: z
    .strictObject({ width: z.number().positive(), height: z.number().positive(), length: z.number().positive() })
    .optional(),
  keyRadiusMm: z.number().positive().optional(),
  seatTirMm: z.number().min(0).optional().describe('worse of the two bearing seats'),
  shaftEndTirMm: z.number().min(0).optional(),
  shaftMm: z.number().positive().optional(),
  coreTirMm: z.number().min(0).optional(),
  airGapMm: z.number().positive().optional().describe('one side'),
  commutatorTirMm: z.number().min(0).optional(),
  loose: z.boolean().default(false).describe('bars, rings, wedges or magnets are loose by tap'),
});
export type BalanceSetUp = z.output<typeof balanceSetUpSchema>;

export interface BalanceTolerance {
  permissibleGMm: number;
  /** the stricter of the grade's and the shop's or customer's own */
  countsGMm: number;
  /** of bearing A and B, after the clamps */
  sharesGMm: readonly [number, number];
  clamped: boolean;
  /** what planes at the correction radii would be allowed: a guide, never judged */
  planesGMm: number[];
}

/** Permissible unbalance of a rotor, shared to its bearings. */
export function toleranceOf(s: BalanceSetUp): BalanceTolerance {
  const permissibleGMm = permissibleUnbalanceGMm(s.grade, s.massKg, s.serviceRpm);
  const countsGMm = Math.min(permissibleGMm, s.ownGMm ?? Infinity);
  const { a, b, clamped } = bearingShares(countsGMm, s.bearingAMm, s.bearingBMm, s.centreMm);
  return {
    permissibleGMm,
    countsGMm,
    sharesGMm: [a, b],
    clamped,
    planesGMm: s.planes.length === 1 ? [countsGMm] : [countsGMm / 2, countsGMm / 2],
  };
}

/** What stands against balancing a rotor so, or is to be said of it. A rotor that fails here is repaired first. */
export function judgeSetUp(s: BalanceSetUp, limits: ShopLimits = {}): Judged[] {
  const out: Judged[] = [];
  const say = (verdict: Judged['verdict'], reason: string): void => void out.push({ verdict, reason });
  const own = (id: Parameters<typeof limit>[0]): number => limit(id, limits);
  if (s.loose) say('fail', 'Bars, rings, wedges or magnets are loose: the vector wanders. Repair it first.');
  if (s.seatTirMm !== undefined && !notAbove(s.seatTirMm, own('route.journalTirMm')))
    say(
      'fail',
      `Bearing seats run out by ${formatAgainst(s.seatTirMm, own('route.journalTirMm'))[0]} mm; at most ${quoteLimit('route.journalTirMm', limits)}. That alone moves the rotor by ${formatNumber((s.seatTirMm / 2) * s.massKg * 1000, 3)} g·mm: repair the shaft first.`,
    );
  if (s.shaftEndTirMm !== undefined) {
    const large = s.shaftMm !== undefined && !notAbove(s.shaftMm, own('route.shaftLargeMm'));
    const id = large ? 'route.shaftEndLargeTirMm' : 'route.shaftEndTirMm';
    if (!notAbove(s.shaftEndTirMm, own(id)))
      say(
        'fail',
        `The shaft end runs out by ${formatAgainst(s.shaftEndTirMm, own(id))[0]} mm; at most ${quoteLimit(id, limits)}: it is bent. Straighten or replace it first.`,
      );
  }
  if (s.coreTirMm !== undefined && s.airGapMm !== undefined) {
    const percent = (100 * s.coreTirMm) / s.airGapMm;
    if (!notAbove(percent, own('route.coreTirPercent')))
      say(
        'attention',
        `The core runs out by ${formatAgainst(percent, own('route.coreTirPercent'))[0]} % of the air gap; at most ${quoteLimit('route.coreTirPercent', limits)}: a large correction on one side hides it.`,
      );
  }
  if (s.commutatorTirMm !== undefined && !notAbove(s.commutatorTirMm, own('balance.commutatorTirMm')))
    say(
      'attention',
      `The commutator runs out by ${formatAgainst(s.commutatorTirMm, own('balance.commutatorTirMm'))[0]} mm; at most ${quoteLimit('balance.commutatorTirMm', limits)}: turn it before it is balanced.`,
    );
  if (s.criticalRpm !== undefined) {
    const share = (100 * s.serviceRpm) / s.criticalRpm;
    if (!(share < own('balance.rigidPercent')))
      say(
        'cannot judge',
        `Service speed is ${formatAgainst(share, own('balance.rigidPercent'))[0]} % of the first critical; a rigid rotor stays below ${quoteLimit('balance.rigidPercent', limits)}. It wants flexible methods.`,
      );
  }
  if (s.balancingRpm > s.serviceRpm)
    say(
      'attention',
      'The balancing speed is above the highest service speed: never exceed what the rotor is made for.',
    );
  const places = {
    bearingAMm: s.bearingAMm,
    bearingBMm: s.bearingBMm,
    centreMm: s.centreMm,
    planesMm: s.planes.map((p) => p.xMm),
  };
  if (planesAreClose(places))
    say(
      'attention',
      'The correction planes stand nearer to each other than a third of the bearing span: the masses grow large for little.',
    );
  // a trim is judged by what both bearings show, so one plane may do
  if (s.planes.length === 1 && s.trimMmS === undefined) {
    const span = Math.abs(s.bearingBMm - s.bearingAMm);
    if (s.bodyMm === undefined)
      say(
        'cannot judge',
        'How long the body of the rotor is decides whether one plane is enough; enter it, or take two planes.',
      );
    else if (!(s.bodyMm / span < own('balance.discWidthShare')))
      say(
        'cannot judge',
        `The rotor is too long for one plane: body over bearing span is ${formatAgainst(s.bodyMm / span, own('balance.discWidthShare'))[0]}, below ${quoteLimit('balance.discWidthShare', limits)} is wanted. A couple would stay unseen; take two planes.`,
      );
  }
  return out;
}

/** What the half key weighs and shifts, and the trial masses of a set-up. */
export function guideOf(s: BalanceSetUp): {
  halfKeyG: number | undefined;
  halfKeyGMm: number | undefined;
  trials: {
    gMm: number;
    massG: number;
    byForceGMm: number;
    byToleranceGMm: readonly [number, number];
    forceN: number;
  }[];
  shareForceN: number;
} {
  const t = toleranceOf(s);
  const half = s.keyMm && halfKeyG({ widthMm: s.keyMm.width, heightMm: s.keyMm.height, lengthMm: s.keyMm.length });
  return {
    halfKeyG: half,
    halfKeyGMm: half !== undefined && s.keyRadiusMm !== undefined ? half * s.keyRadiusMm : undefined,
    trials: s.planes.map((p, i) => {
      const trial = trialMass(s.massKg, s.balancingRpm, t.planesGMm[i] ?? t.countsGMm);
      return { ...trial, massG: trial.gMm / p.radiusMm };
    }),
    shareForceN: forceN(t.countsGMm, s.serviceRpm),
  };
}
