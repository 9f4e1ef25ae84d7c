import { z } from 'zod';
import { defineCalculation } from '../calculation.ts';
import { limit, type ShopLimits } from '../limits/limits.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { formatNumber } from '../quantity/format.ts';
import { notAbove, notBelow } from '../verdict.ts';

/** Damage of a coil: none, discoloured, burnt, destroyed. */
export const DAMAGES = ['none', 'discoloured', 'burnt', 'destroyed'] as const;
export const WORST_AT = ['slot middle', 'slot end', 'end turn', 'lead', 'phase boundary'] as const;
export const GROUP_PLACES = ['line end', 'middle', 'neutral end'] as const;

/** The share of a phase's coils that makes it burnt, or clean. Source: common practice. */
export const burntFrom = (limits: ShopLimits): number => limit('failure.highPercent', limits) / 100;
export const cleanUpTo = (limits: ShopLimits): number => limit('failure.lowPercent', limits) / 100;
/** How many burnt coils are still one spot. */
export const mostLocal = ({ coils, limits }: { coils: readonly unknown[]; limits: ShopLimits }): number =>
  Math.max(limit('failure.localCoils', limits), (limit('failure.localPercent', limits) / 100) * coils.length);

const coilSchema = z.strictObject({
  coil: z.int().min(1).max(500),
  phase: z.enum(['A', 'B', 'C']),
  group: z.int().min(1).max(500),
  place: z.enum(GROUP_PLACES).optional(),
  damage: z.int().min(0).max(3),
  worst: z.enum(WORST_AT).optional(),
});
type Coil = z.output<typeof coilSchema>;

export const burntInputSchema = z.strictObject({
  /** every coil of the winding that was looked at */
  coils: z.array(coilSchema).max(500),
  connection: z.enum(['wye', 'delta']).optional(),
  circuits: z.int().min(1).max(48).default(1),
  /** core smeared, rotor polished */
  rotorRub: z.boolean().default(false),
  /** bars blued or molten */
  rotorBlued: z.boolean().default(false),
  /** wet, oily or conductive dust */
  contamination: z.boolean().default(false),
  /** fed by an inverter, or switched often */
  steepSupply: z.boolean().default(false),
  limits: shopLimitsSchema.default({}),
});
type Asked = z.output<typeof burntInputSchema>;

/** What a pattern is told as, and what its owner is advised to do. */
export const PATTERNS = {
  rotor_rub: ['Rotor rub', 'Bearings, shaft and gap before the winding is replaced.'],
  turn_short: ['Turn insulation', 'A short between turns; look at supply and resin of the new winding.'],
  surge_line_end: [
    'Steep-front voltage',
    'A filter or shorter cable between inverter and motor; wire and resin for inverter duty.',
  ],
  ground_in_slot: [
    'Ground fault in the slot',
    'Slot edges, liner, foreign bodies; a core test before it is wound again.',
  ],
  ground_at_slot_end: [
    'Ground fault at the end of the slot',
    'Liner longer than the core, no sharp edge, end turns tied.',
  ],
  phase_to_phase: ['Phase to phase', 'Phase separators that reach the core; keep the end turns clean.'],
  contamination: ['Moisture, dirt, chemicals', 'Enclosure, seals, drain, heater; clean the surroundings.'],
  single_phasing_wye: [
    'Single-phasing, one line open',
    'Fuses, contacts, terminals; protection against loss of a phase.',
  ],
  single_phasing_delta: [
    'Single-phasing, one line open',
    'Fuses, contacts, terminals; protection against loss of a phase.',
  ],
  open_phase_in_delta: ['A phase open inside the delta', 'Leads and joints of the clean phase.'],
  one_circuit: ['One parallel circuit open, reversed, or badly joined', 'Check the joints of that phase as made.'],
  voltage_unbalance: ['Unbalanced voltages', 'Measure the line voltages at load; spread the single-phase loads.'],
  locked_rotor: ['Locked rotor', 'What held it, how often it starts; the trip time of the protection.'],
  overload: [
    'Overload, blocked cooling, low or high voltage',
    'Load, cooling, starts per hour, voltage, ambient; overload relay.',
  ],
} as const satisfies Record<string, readonly [string, string]>;
export type PatternId = keyof typeof PATTERNS;

interface Found {
  id: PatternId;
  confidence: number;
  evidence: string[];
}

const list = (numbers: readonly number[]): string => [...new Set(numbers)].sort((a, b) => a - b).join(', ');
const burnt = (c: Coil): boolean => c.damage >= 2;

/** Of each phase: its coils, their mean damage, and the share that is burnt. */
export const phaseShares = z.array(
  z.object({ phase: z.enum(['A', 'B', 'C']), coils: z.int(), meanDamage: z.number(), burntShare: z.number() }),
);

/** Calculation `diagnose.burntPattern`. */
export const burntPattern = defineCalculation({
  id: 'diagnose.burntPattern',
  version: 1,
  title: 'Failure analysis: what the map of burnt coils says',
  sources: ['patterns: common practice', 'currents of an open line: derived'],
  input: burntInputSchema,
  output: z.object({
    verdict: z.enum(['pass', 'cannot judge']),
    reason: z.string(),
    /** mean damage and share of burnt coils of each phase */
    phases: phaseShares,
    patterns: z.array(
      z.object({
        id: z.string(),
        title: z.string(),
        confidence: z.number(),
        evidence: z.array(z.string()),
        advice: z.string(),
      }),
    ),
  }),
  example: {
    connection: 'wye',
    coils: [
      { coil: 1, phase: 'A', group: 1, damage: 2 },
      { coil: 2, phase: 'B', group: 2, damage: 2 },
      { coil: 3, phase: 'C', group: 3, damage: 0 },
    ],
  },
  compute: (x) => {
    const phases = (['A', 'B', 'C'] as const).flatMap((phase) => {
      const own = x.coils.filter((c) => c.phase === phase);
      return own.length === 0
        ? []
        : [
            {
              phase,
              coils: own.length,
              meanDamage: own.reduce((s, c) => s + c.damage, 0) / own.length,
              burntShare: own.filter(burnt).length / own.length,
            },
          ];
    });
    if (x.coils.length === 0)
      return {
        verdict: 'cannot judge' as const,
        reason: 'No group was recorded: mark at least one whole group.',
        phases,
        patterns: [],
      };
    const found = [...rubOf(x), ...localOf(x), ...phasePatterns(x, phases), ...wholeOf(x, phases)];
    const spots = spotsInBurnt(x, found);
    const patterns = [...found, ...spots].map(({ id, confidence, evidence }) => ({
      id,
      title: PATTERNS[id][0],
      confidence,
      evidence,
      advice: PATTERNS[id][1],
    }));
    const [first] = patterns;
    if (!first)
      return {
        verdict: 'cannot judge' as const,
        reason: `Nothing fits. ${missingOf(x, phases)}`,
        phases,
        patterns: [],
      };
    return {
      verdict: 'pass' as const,
      reason: `${first.title}: ${first.evidence.join('; ')}.${
        patterns.length > 1
          ? ` Also possible: ${patterns
              .slice(1)
              .map((p) => p.title.toLowerCase())
              .join(', ')}.`
          : ''
      }`,
      phases,
      patterns,
    };
  },
});

type Phases = readonly { phase: 'A' | 'B' | 'C'; coils: number; meanDamage: number; burntShare: number }[];

function rubOf(x: Asked): Found[] {
  if (!x.rotorRub) return [];
  const hurt = x.coils.filter((c) => c.damage >= 1);
  return [
    {
      id: 'rotor_rub',
      confidence: 0.9,
      evidence: [
        'core smeared, rotor polished',
        ...(hurt.length > 0 ? [`coils ${list(hurt.map((c) => c.coil))} damaged`] : []),
      ],
    },
  ];
}

/** The coils beside one, round the bore: the last one lies beside the first where all were looked at. */
function neighbours(of: Coil, coils: readonly Coil[]): Coil[] {
  const last = Math.max(...coils.map((c) => c.coil));
  return coils.filter((o) => {
    const apart = Math.abs(o.coil - of.coil);
    return apart === 1 || (apart === last - 1 && last === coils.length && last > 2);
  });
}

/** Faults of one spot: few burnt coils. */
function localOf(x: Asked): Found[] {
  const bad = x.coils.filter(burnt);
  if (bad.length === 0 || bad.length > mostLocal(x)) return [];
  const out: Found[] = [];
  const where = (c: Coil) => `coil ${c.coil} of group ${c.group}`;
  const one = bad.length === 1 ? bad[0] : undefined;
  if (x.steepSupply && bad.every((c) => c.place === 'line end'))
    out.push({
      id: 'surge_line_end',
      confidence: 0.85,
      evidence: [`${bad.map(where).join(', ')} at the line leads, the others clean`, 'inverter or frequent switching'],
    });
  for (const [at, id] of [
    ['slot middle', 'ground_in_slot'],
    ['slot end', 'ground_at_slot_end'],
  ] as const)
    if (one?.worst === at) out.push({ id, confidence: 0.8, evidence: [`a single spot at the ${at} of ${where(one)}`] });
  const boundary = bad.filter((c) => c.worst === 'phase boundary');
  const phasesHurt = new Set(bad.map((c) => c.phase));
  if (boundary.length > 0 || (bad.length === 2 && phasesHurt.size === 2 && bad.every((c) => c.worst === 'end turn')))
    out.push({
      id: 'phase_to_phase',
      confidence: boundary.length > 0 ? 0.85 : 0.65,
      evidence: [`${bad.map(where).join(' and ')}: damage where phases meet`],
    });
  const destroyed = bad.filter((c) => c.damage === 3);
  const worst = destroyed.length === 1 ? destroyed[0] : undefined;
  if (
    worst &&
    neighbours(worst, x.coils).every((c) => c.damage <= 1) &&
    worst.worst !== 'slot end' &&
    worst.worst !== 'phase boundary'
  )
    out.push({
      id: 'turn_short',
      confidence: one && (worst.worst === 'end turn' || worst.worst === undefined) ? 0.75 : 0.5,
      evidence: [`${where(worst)} destroyed, its neighbours sound`],
    });
  if (x.contamination && bad.length > 1 && bad.every((c) => c.worst === 'end turn'))
    out.push({
      id: 'contamination',
      confidence: 0.7,
      evidence: [`coils ${list(bad.map((c) => c.coil))} at the end turns`, 'wet, oily or conductive dust'],
    });
  return out.sort((a, b) => b.confidence - a.confidence);
}

/** Patterns of whole phases. */
function phasePatterns(x: Asked, phases: Phases): Found[] {
  if (phases.length < 3) return [];
  const high = phases.filter((p) => notBelow(p.burntShare, burntFrom(x.limits)));
  const low = phases.filter((p) => notAbove(p.burntShare, cleanUpTo(x.limits)));
  const names = (of: Phases) => of.map((p) => `phase ${p.phase}`).join(' and ');
  const shares = phases.map((p) => `phase ${p.phase} ${formatNumber(100 * p.burntShare, 2)} % burnt`).join(', ');
  const out: Found[] = [];
  // phases that are not burnt but dark took current as well
  const clean = low.every((p) => p.meanDamage < limit('failure.leastDamage', x.limits));
  const twoAndOne = high.length === 2 && low.length === 1;
  const oneAndTwo = high.length === 1 && low.length === 2;
  if (twoAndOne && x.connection === 'wye')
    out.push({
      id: 'single_phasing_wye',
      confidence: clean ? 0.9 : 0.6,
      evidence: [
        shares,
        `line of ${names(low)} open: ${names(high)} in series carried the whole (1.73 times the current)`,
      ],
    });
  if (oneAndTwo && x.connection === 'delta')
    out.push({
      id: 'single_phasing_delta',
      confidence: clean ? 0.9 : 0.6,
      evidence: [shares, `${names(high)} lay across the live lines (2 times the current, the others once)`],
    });
  if (twoAndOne && x.connection === 'delta')
    out.push({
      id: 'open_phase_in_delta',
      confidence: clean ? 0.8 : 0.55,
      evidence: [shares, `${names(low)} took no current: ${names(high)} ran as open delta`],
    });
  const hurt = [...new Set(x.coils.filter(burnt).map((c) => c.phase))];
  const groups = [...new Set(x.coils.filter(burnt).map((c) => c.group))];
  const ofPhase = new Set(x.coils.filter((c) => c.phase === hurt[0]).map((c) => c.group));
  if (
    x.circuits > 1 &&
    hurt.length === 1 &&
    groups.length < ofPhase.size &&
    x.coils.filter(burnt).length > limit('failure.localCoils', x.limits)
  )
    out.push({
      id: 'one_circuit',
      confidence: 0.75,
      evidence: [`only groups ${list(groups)} of phase ${hurt[0]} are burnt, ${x.circuits} circuits in parallel`],
    });
  const means = phases.map((p) => p.meanDamage);
  if (
    notBelow(Math.max(...means) - Math.min(...means), limit('failure.unlikeDamage', x.limits)) &&
    notBelow(Math.min(...means), limit('failure.leastDamage', x.limits))
  )
    out.push({
      id: 'voltage_unbalance',
      confidence: 0.65,
      evidence: [
        `mean damage ${phases.map((p) => `phase ${p.phase} ${formatNumber(p.meanDamage, 2)}`).join(', ')}: unlike, but none is clean`,
      ],
    });
  return out.sort((a, b) => b.confidence - a.confidence);
}

/** The whole winding alike; dirt without a pattern of phases. */
function wholeOf(x: Asked, phases: Phases): Found[] {
  if (phases.length < 3) return [];
  const means = phases.map((p) => p.meanDamage);
  const spread = Math.max(...means) - Math.min(...means);
  const out: Found[] = [];
  if (
    spread < limit('failure.alikeDamage', x.limits) &&
    notBelow(Math.min(...means), limit('failure.overloadDamage', x.limits))
  ) {
    const ends = x.coils.filter((c) => c.worst === 'end turn').length;
    const alike = `all phases alike, mean damage ${formatNumber(Math.min(...means), 2)} to ${formatNumber(Math.max(...means), 2)}`;
    if (x.rotorBlued)
      out.push({
        id: 'locked_rotor',
        confidence: 2 * ends >= x.coils.length ? 0.85 : 0.7,
        evidence: [alike, 'rotor blued or bars molten', ...(2 * ends >= x.coils.length ? ['end turns worst'] : [])],
      });
    else out.push({ id: 'overload', confidence: 0.75, evidence: [alike, 'rotor not blued'] });
  }
  const bad = x.coils.filter(burnt);
  const local = bad.length <= mostLocal(x);
  if (
    x.contamination &&
    !local &&
    bad.some((c) => c.worst === 'end turn') &&
    notAbove(spread, limit('failure.alikeDamage', x.limits)) &&
    out.length === 0
  )
    out.push({
      id: 'contamination',
      confidence: 0.6,
      evidence: [
        `more than one spot (coils ${list(bad.map((c) => c.coil))}), no phase stands out`,
        'wet, oily or conductive dust',
      ],
    });
  return out;
}

/** A ground spot in a winding that is burnt otherwise is a result, not the cause: it comes after. */
function spotsInBurnt(x: Asked, found: readonly Found[]): Found[] {
  if (found.length === 0 || found.some((f) => f.id.startsWith('ground'))) return [];
  const spots = x.coils.filter((c) => burnt(c) && (c.worst === 'slot middle' || c.worst === 'slot end'));
  const [spot] = spots;
  if (!spot || x.coils.filter(burnt).length <= mostLocal(x)) return [];
  return [
    {
      id: spot.worst === 'slot middle' ? 'ground_in_slot' : 'ground_at_slot_end',
      confidence: 0.3,
      evidence: [`a spot at coil ${spot.coil} of group ${spot.group}: in a burnt winding a result, hardly the cause`],
    },
  ];
}

/** What would help to tell more. */
function missingOf(x: Asked, phases: Phases): string {
  const lacks = [
    ...(phases.length < 3 ? ['coils of all three phases'] : []),
    ...(x.connection === undefined ? ['wye or delta'] : []),
    ...(x.coils.some((c) => burnt(c) && c.worst === undefined) ? ['where each burnt coil is worst'] : []),
    ...(x.coils.every((c) => c.damage === 0) ? ['any damage at all'] : []),
  ];
  return lacks.length === 0 ? 'Joints, supply and bearings may say more.' : `Missing: ${lacks.join(', ')}.`;
}
