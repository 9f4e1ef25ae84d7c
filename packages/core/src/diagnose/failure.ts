import { z } from 'zod';
import { notAbove, notBelow } from '../verdict.ts';
import { defineCalculation, runCalculation } from '../calculation.ts';
import {
  burntInputSchema,
  burntPattern,
  burntFrom,
  cleanUpTo,
  mostLocal,
  PATTERNS,
  phaseShares,
  type PatternId,
} from './burntPattern.ts';
import { SIGNS, type ComplaintSign } from './complaint.ts';
import { cause, ranked, type Cause, type Weighed } from './ranked.ts';

/** Findings of the bench and of the strip-down that speak for or against a cause; what was not looked at is left out. */
const factsSchema = z.strictObject({
  insulation: z.enum(['low', 'sound']).optional(),
  /** resistances between the leads as found */
  resistance: z.enum(['equal', 'unequal', 'open']).optional(),
  surge: z.enum(['turn fault', 'sound']).optional(),
  core: z.enum(['hot spots', 'sound']).optional(),
  cage: z.enum(['broken bars', 'sound']).optional(),
  bearings: z.enum(['sound', 'worn', 'failed']).optional(),
  shaft: z.enum(['true', 'bent']).optional(),
  cooling: z.enum(['clear', 'blocked']).optional(),
  terminals: z.enum(['sound', 'burnt or loose']).optional(),
  protection: z.enum(['tripped', 'did not trip']).optional(),
  endTurns: z.enum(['tied', 'loose']).optional(),
});
export type FailureFacts = z.output<typeof factsSchema>;

const input = burntInputSchema.extend({
  facts: factsSchema.default({}),
  /** signs read off the owner's words */
  complaint: z.array(z.enum(SIGNS)).max(SIGNS.length).default([]),
  /** phase A is the main winding, B the auxiliary */
  singlePhase: z.boolean().default(false),
});
type Asked = z.output<typeof input>;

/** Causes that no map of burnt coils shows by itself. */
const OTHERS = {
  ground_fault: [
    'Ground fault, place not found',
    'Part the phases, find the place; strip with care where it is found.',
  ],
  open_joint: ['Open joint or lead', 'Joints and leads as made; brazed joints, leads that are tied.'],
  bearing: ['Bearing failure', 'Grease, fit, alignment, belt pull; shaft voltage where an inverter feeds it.'],
  cage: ['Broken cage', 'Starts per hour, load at starting; the cage before the winding is trusted.'],
  start_winding: [
    'Start winding left in circuit',
    'Start switch or relay, capacitor, and how often it starts; a new switch with the winding.',
  ],
  run_winding: [
    'Main winding overheated: overload, or started without its auxiliary',
    'Load, capacitor and switch; current of both windings at the run.',
  ],
} as const satisfies Record<string, readonly [string, string]>;
export const CAUSES = { ...PATTERNS, ...OTHERS };
export type CauseId = PatternId | keyof typeof OTHERS;

/** A pattern's own confidence counts so many times a plain finding. */
const PATTERN_WEIGHT = 4;

const w = (when: boolean | undefined, weight: number, say: string): Weighed => (when ? { weight, say } : undefined);

const manyBurnt = (x: Pick<Asked, 'coils' | 'limits'>): boolean =>
  x.coils.filter((c) => c.damage >= 2).length > mostLocal(x);

/** What speaks for and against a cause beside the map. Weights: common practice, a plain finding weighs about one. */
function findings(id: CauseId, { facts: f, complaint, ...x }: Asked): Weighed[] {
  const told = (sign: ComplaintSign) => complaint.includes(sign);
  const oneLine: Weighed[] = [
    w(told('lost a phase'), 1, 'the owner tells of a lost phase'),
    w(told('hums'), 0.7, 'the owner says it hummed or did not start'),
    w(f.terminals === 'burnt or loose', 1, 'terminals burnt or loose'),
    w(f.protection === 'did not trip', 0.3, 'the protection did not trip'),
  ];
  const lowGround: Weighed[] = [
    w(f.insulation === 'low', 1.5, 'insulation to ground low'),
    w(f.insulation === 'sound', -2, 'insulation to ground sound'),
  ];
  switch (id) {
    case 'single_phasing_wye':
    case 'single_phasing_delta':
      return oneLine;
    case 'open_phase_in_delta':
      return [
        w(f.resistance === 'open', 1, 'a pair of leads reads open or far off'),
        w(f.resistance === 'unequal', 1, 'resistances unequal'),
        w(f.resistance === 'equal', -1.5, 'resistances equal: no phase is open now'),
      ];
    case 'one_circuit':
      return [
        w(f.resistance === 'unequal' || f.resistance === 'open', 1, 'resistances unequal'),
        w(f.resistance === 'equal', -1, 'resistances equal'),
      ];
    case 'turn_short':
      return [
        w(f.surge === 'turn fault', 1.5, 'surge comparison shows a turn fault'),
        w(f.surge === 'sound', -1.5, 'surge comparison sound'),
        w(f.resistance === 'unequal', 0.5, 'resistances unequal'),
        w(f.insulation === 'sound', 0.4, 'insulation to ground still good'),
        w(f.endTurns === 'loose', 0.4, 'end turns loose: they chafe'),
        w(manyBurnt(x), -1, 'many coils are burnt: a turn fault may be the result'),
      ];
    case 'surge_line_end':
      return [
        w(f.surge === 'turn fault', 0.5, 'surge comparison shows a turn fault'),
        w(told('drive'), 0.5, 'the owner names an inverter or soft starter'),
      ];
    case 'ground_in_slot':
    case 'ground_at_slot_end':
      return lowGround;
    case 'ground_fault':
      return [
        w(f.insulation === 'low', 1, 'insulation to ground low'),
        w(
          x.coils.some((c) => c.damage > 0),
          -0.5,
          'damage is to be seen elsewhere',
        ),
        w(x.contamination || told('wet'), -0.4, 'wet or dirty: dry and clean first, then read again'),
      ];
    case 'phase_to_phase':
      return [
        w(f.insulation === 'low', 0.3, 'insulation to ground low'),
        w(f.endTurns === 'loose', 0.4, 'end turns loose'),
        w(x.contamination, 0.4, 'wet, oily or conductive dust'),
      ];
    case 'contamination':
      return [
        w(x.contamination, 0.8, 'wet, oily or conductive dust seen'),
        w(told('wet'), 1, 'the owner tells of water'),
        w(f.insulation === 'low', 0.7, 'insulation to ground low'),
        w(f.insulation === 'sound', -1, 'insulation to ground sound'),
        w(
          x.coils.length > 0 && !x.coils.some((c) => c.damage > 0 && c.worst === 'end turn'),
          -0.3,
          'no trace of it at the end turns',
        ),
      ];
    case 'rotor_rub':
      return [
        w(x.rotorRub && x.coils.length === 0, 2, 'core smeared, rotor polished'),
        w(f.bearings === 'failed', 1, 'bearings failed'),
        w(f.bearings === 'worn', 0.6, 'bearings worn'),
        w(f.bearings === 'sound', -0.7, 'bearings sound'),
        w(f.shaft === 'bent', 1, 'shaft bent'),
        w(told('noise'), 0.5, 'the owner heard it'),
      ];
    case 'bearing':
      return [
        w(f.bearings === 'failed', 1.5, 'bearings failed'),
        w(f.bearings === 'worn', 0.8, 'bearings worn'),
        w(told('noise'), 0.7, 'the owner heard it'),
        w(f.bearings === 'sound', -2, 'bearings sound'),
        w(x.coils.some((c) => c.damage >= 2) && !x.rotorRub, -0.5, 'the winding is burnt without a rub'),
      ];
    case 'cage':
      return [
        w(f.cage === 'broken bars', 1.2, 'bars broken'),
        w(told('noise') || told('hums'), 0.4, 'the owner tells of noise or slow starting'),
        w(
          x.coils.some((c) => c.damage >= 2),
          -0.5,
          'the winding is burnt too',
        ),
      ];
    case 'open_joint':
      return [
        w(f.resistance === 'open', 1.2, 'a pair of leads reads open'),
        w(f.terminals === 'burnt or loose', 0.5, 'terminals burnt or loose'),
        w(
          x.coils.some((c) => c.damage >= 2),
          -0.5,
          'coils are burnt: the open place may be the result',
        ),
      ];
    case 'voltage_unbalance':
      return [
        w(f.terminals === 'burnt or loose', 0.7, 'terminals burnt or loose'),
        w(told('hot'), 0.3, 'the owner says it ran hot'),
      ];
    case 'locked_rotor':
      return [
        w(f.bearings === 'failed', 0.8, 'bearings failed'),
        w(told('hums'), 0.7, 'the owner says it hummed or did not start'),
        w(told('trips'), 0.3, 'the owner says it tripped'),
        w(f.cage === 'broken bars', 0.5, 'bars broken'),
      ];
    case 'overload':
      return [
        w(f.cooling === 'blocked', 1, 'air path blocked'),
        w(told('hot') || told('trips'), 0.5, 'the owner says it ran hot or tripped'),
        w(f.bearings === 'failed', 0.4, 'bearings failed: they brake'),
        w(f.cage === 'broken bars', 0.4, 'bars broken: it draws more'),
        w(f.protection === 'did not trip', 0.3, 'the protection did not trip'),
      ];
    case 'start_winding':
    case 'run_winding':
      return [w(told('hums'), 0.7, 'the owner says it hummed or did not start')];
  }
}

/** Of a single-phase winding: one of the two burnt, the other not. */
function singlePhaseMap(x: Asked): Partial<Record<CauseId, string>> {
  const share = (phase: 'A' | 'B'): number | undefined => {
    const own = x.coils.filter((c) => c.phase === phase);
    return own.length === 0 ? undefined : own.filter((c) => c.damage >= 2).length / own.length;
  };
  const [main, auxiliary] = [share('A'), share('B')];
  if (!x.singlePhase || main === undefined || auxiliary === undefined) return {};
  const [high, low] = [burntFrom(x.limits), cleanUpTo(x.limits)];
  if (notBelow(auxiliary, high) && notAbove(main, low)) return { start_winding: 'auxiliary burnt, main clean' };
  if (notBelow(main, high) && notAbove(auxiliary, low)) return { run_winding: 'main burnt, auxiliary clean' };
  return {};
}

/** Findings that help a fault along, whatever it was: each is told to the owner with what to do. */
function contributing(x: Asked, first: CauseId | undefined): { id: string; says: string; advice: string }[] {
  const f = x.facts;
  const told = (sign: ComplaintSign) => x.complaint.includes(sign);
  const all: (readonly [boolean, string, CauseId | '', string, string])[] = [
    [f.cooling === 'blocked', 'cooling', '', 'Air path blocked', 'Clean fan, ducts and fins; keep them so.'],
    [
      f.bearings === 'failed' || f.bearings === 'worn',
      'bearings',
      'bearing',
      `Bearings ${f.bearings ?? ''}`,
      'New bearings; grease, fit, alignment, belt pull.',
    ],
    [f.shaft === 'bent', 'shaft', '', 'Shaft bent', 'Straighten or renew it; look at coupling and belt.'],
    [
      x.contamination || told('wet'),
      'contamination',
      'contamination',
      x.contamination ? 'Moisture, dirt or chemicals inside' : 'Water told of by the owner',
      'Enclosure, seals, drain holes, a heater at standstill.',
    ],
    [
      x.steepSupply || told('drive'),
      'steep supply',
      'surge_line_end',
      'Fed by an inverter, or switched often',
      'Filter or shorter cable; wire and resin for inverter duty; earthing of the shaft.',
    ],
    [
      f.core === 'hot spots',
      'core',
      '',
      'Core with hot spots',
      'Mend the core before it is wound: a new winding over a hot spot lives short.',
    ],
    [
      f.cage === 'broken bars',
      'cage',
      'cage',
      'Bars of the cage broken',
      'Mend the cage: it draws more current and starts slowly.',
    ],
    [
      f.terminals === 'burnt or loose',
      'terminals',
      '',
      'Terminals burnt or loose',
      'New lugs, tightened to their torque.',
    ],
    [
      f.protection === 'did not trip',
      'protection',
      '',
      'The protection did not trip',
      'Setting and state of overload relay, sensors and phase-loss relay.',
    ],
    [f.endTurns === 'loose', 'end turns', '', 'End turns loose', 'Tie and impregnate the new end turns well.'],
  ];
  return all.filter(([when, , own]) => when && own !== first).map(([, id, , says, advice]) => ({ id, says, advice }));
}

/** What was not looked at and would tell more. */
function missingOf(x: Asked): string[] {
  const f = x.facts;
  const burnt = x.coils.filter((c) => c.damage >= 2);
  return [
    ...(x.coils.length === 0 ? ['the map of the old winding'] : []),
    ...(x.connection === undefined && !x.singlePhase ? ['wye or delta'] : []),
    ...(burnt.length > 0 && burnt.every((c) => c.worst === undefined) ? ['where the burnt coils are worst'] : []),
    ...(f.insulation === undefined ? ['insulation resistance as found'] : []),
    ...(f.resistance === undefined ? ['winding resistance as found'] : []),
    ...(f.bearings === undefined ? ['bearings'] : []),
    ...(f.terminals === undefined ? ['terminals and leads'] : []),
    ...(f.cooling === undefined ? ['air path'] : []),
    ...(f.protection === undefined ? ['whether the protection tripped'] : []),
  ];
}

/** What `diagnose.failure` gives. */
export type FailureFound = z.output<typeof failureAnalysis.output>;

/** Candidates that findings alone may bring forward, each by the finding that it cannot be without. */
const BY_FINDINGS: readonly (readonly [CauseId, (x: Asked) => boolean])[] = [
  ['rotor_rub', (x) => x.rotorRub],
  ['turn_short', (x) => x.facts.surge === 'turn fault'],
  ['contamination', (x) => x.contamination || x.complaint.includes('wet')],
  ['ground_fault', (x) => x.facts.insulation === 'low'],
  ['open_joint', (x) => x.facts.resistance === 'open'],
  ['bearing', (x) => x.facts.bearings === 'failed' || x.facts.bearings === 'worn' || x.complaint.includes('noise')],
  ['cage', (x) => x.facts.cage === 'broken bars'],
];

/**
 * Calculation `diagnose.failure`: the map of burnt coils joined with what bench, strip-down and owner say. Causes are ranked by what
 * speaks for each over all that was weighed; a person decides, and "unknown" is an answer that says what is missing.
 */
export const failureAnalysis = defineCalculation({
  id: 'diagnose.failure',
  version: 1,
  title: 'Failure analysis: causes from map, tests, strip-down and complaint',
  sources: ['patterns and weights of findings: common practice', 'currents of an open line: derived'],
  input,
  output: z.object({
    verdict: z.enum(['pass', 'cannot judge']),
    reason: z.string(),
    phases: phaseShares,
    causes: z.array(
      z.object({
        id: z.string(),
        title: z.string(),
        confidence: z.number(),
        speaksFor: z.array(z.string()),
        speaksAgainst: z.array(z.string()),
        next: z.string(),
      }),
    ),
    contributing: z.array(z.object({ id: z.string(), says: z.string(), advice: z.string() })),
    missing: z.array(z.string()),
  }),
  example: {
    connection: 'wye',
    coils: [
      { coil: 1, phase: 'A', group: 1, damage: 2 },
      { coil: 2, phase: 'B', group: 2, damage: 2 },
      { coil: 3, phase: 'C', group: 3, damage: 0 },
    ],
    facts: { terminals: 'burnt or loose' },
    complaint: ['hums'],
  },
  compute: (x) => {
    const asked = {
      coils: x.coils,
      connection: x.connection,
      circuits: x.circuits,
      rotorRub: x.rotorRub,
      rotorBlued: x.rotorBlued,
      contamination: x.contamination,
      steepSupply: x.steepSupply,
      limits: x.limits,
    };
    const map = runCalculation(burntPattern, asked, { working: 'none' }).values;
    const fromMap = new Map<CauseId, { confidence: number; evidence: string[] }>();
    for (const p of map.patterns) fromMap.set(p.id as CauseId, p);
    for (const [id, says] of Object.entries(singlePhaseMap(x)))
      fromMap.set(id as CauseId, { confidence: 0.8, evidence: [says] });
    const ids = [...fromMap.keys(), ...BY_FINDINGS.flatMap(([id, by]) => (!fromMap.has(id) && by(x) ? [id] : []))];
    const causes: Cause[] = ranked(
      ids.map((id) => {
        const seen = fromMap.get(id);
        const [title, next] = CAUSES[id];
        return cause(id, title, next, [
          ...(seen ? [{ weight: PATTERN_WEIGHT * seen.confidence, say: seen.evidence.join('; ') }] : []),
          ...findings(id, x),
        ]);
      }),
    );
    const [first] = causes;
    const missing = missingOf(x);
    const more = contributing(x, first?.id as CauseId | undefined);
    const helped = more.length > 0 ? ` Helped along by: ${more.map((m) => m.says.toLowerCase()).join(', ')}.` : '';
    return {
      verdict: first ? ('pass' as const) : ('cannot judge' as const),
      reason: first
        ? `${first.title}: ${first.speaksFor.join('; ')}.${helped}`
        : `Nothing fits. Missing: ${missing.join(', ') || 'nothing that Norther asks for; joints and supply may say more'}.${helped}`,
      phases: map.phases,
      causes,
      contributing: more,
      missing,
    };
  },
});
