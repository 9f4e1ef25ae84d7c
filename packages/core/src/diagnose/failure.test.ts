import { describe, expect, it } from 'vitest';
import { worked } from '../../../../scripts/testing/worked.ts';
import { complaintSigns } from './complaint.ts';
import { failureAnalysis, type FailureFacts } from './failure.ts';

interface Coil {
  coil: number;
  phase: 'A' | 'B' | 'C';
  group: number;
  damage: number;
  worst?: 'slot middle' | 'slot end' | 'end turn' | 'lead' | 'phase boundary';
}
const map = (damage: (c: Coil) => number, more: (c: Coil) => Partial<Coil> = () => ({})): Coil[] =>
  Array.from({ length: 36 }, (_, i) => {
    const group = Math.floor(i / 3) + 1;
    const plain: Coil = { coil: i + 1, phase: (['A', 'C', 'B'] as const)[(group - 1) % 3] ?? 'A', group, damage: 0 };
    return { ...plain, ...more(plain), damage: damage(plain) };
  });
const told = (x: object) => worked(failureAnalysis, { coils: [], connection: 'wye', ...x });
const first = (x: object) => told(x).causes[0];
const idsOf = (x: object) => told(x).causes.map((c) => c.id);
const confidence = (id: string, x: object) => told(x).causes.find((c) => c.id === id)?.confidence ?? 0;
const twoBurnt = map((c) => (c.phase === 'C' ? 0 : 3));
const oneSpot = map((c) => (c.coil === 5 ? 3 : 0));

describe('causes ranked from map, bench, strip-down and complaint', () => {
  it('the pattern leads, and what was found beside it strengthens it', () => {
    const alone = confidence('single_phasing_wye', { coils: twoBurnt });
    expect(first({ coils: twoBurnt })?.id).toBe('single_phasing_wye');
    // 4 × 0.9 for it, nothing against: 3.6 / 4.6
    expect(alone).toBeCloseTo(3.6 / 4.6, 12);
    const helped = confidence('single_phasing_wye', {
      coils: twoBurnt,
      facts: { terminals: 'burnt or loose', protection: 'did not trip' },
      complaint: ['hums', 'lost a phase'],
    });
    expect(helped).toBeCloseTo(6.6 / 7.6, 12);
  });
  /** Each finding moves the cause it belongs to, up or down. */
  const MOVES: readonly [cause: string, up: boolean, coils: Coil[], x: object][] = [
    ['open_phase_in_delta', true, twoBurnt, { connection: 'delta', facts: { resistance: 'open' } }],
    ['open_phase_in_delta', true, twoBurnt, { connection: 'delta', facts: { resistance: 'unequal' } }],
    ['open_phase_in_delta', false, twoBurnt, { connection: 'delta', facts: { resistance: 'equal' } }],
    ['turn_short', true, oneSpot, { facts: { surge: 'turn fault' } }],
    ['turn_short', false, oneSpot, { facts: { surge: 'sound' } }],
    ['turn_short', true, oneSpot, { facts: { resistance: 'unequal' } }],
    ['turn_short', true, oneSpot, { facts: { insulation: 'sound' } }],
    ['turn_short', true, oneSpot, { facts: { endTurns: 'loose' } }],
    ['overload', true, map(() => 2), { facts: { cooling: 'blocked' } }],
    ['overload', true, map(() => 2), { facts: { bearings: 'failed' } }],
    ['overload', true, map(() => 2), { facts: { cage: 'broken bars' } }],
    ['overload', true, map(() => 2), { facts: { protection: 'did not trip' } }],
    ['overload', true, map(() => 2), { complaint: ['hot'] }],
    ['overload', true, map(() => 2), { complaint: ['trips'] }],
    ['locked_rotor', true, map(() => 2), { rotorBlued: true, facts: { bearings: 'failed' } }],
    ['locked_rotor', true, map(() => 2), { rotorBlued: true, complaint: ['hums'] }],
    ['locked_rotor', true, map(() => 2), { rotorBlued: true, complaint: ['trips'] }],
    ['locked_rotor', true, map(() => 2), { rotorBlued: true, facts: { cage: 'broken bars' } }],
    ['rotor_rub', true, twoBurnt, { rotorRub: true, facts: { bearings: 'failed' } }],
    ['rotor_rub', true, twoBurnt, { rotorRub: true, facts: { bearings: 'worn' } }],
    ['rotor_rub', false, twoBurnt, { rotorRub: true, facts: { bearings: 'sound' } }],
    ['rotor_rub', true, twoBurnt, { rotorRub: true, facts: { shaft: 'bent' } }],
    ['rotor_rub', true, twoBurnt, { rotorRub: true, complaint: ['noise'] }],
    [
      'voltage_unbalance',
      true,
      map((c) => ({ A: 3, B: 2, C: 1 })[c.phase]),
      { facts: { terminals: 'burnt or loose' } },
    ],
    ['voltage_unbalance', true, map((c) => ({ A: 3, B: 2, C: 1 })[c.phase]), { complaint: ['hot'] }],
    ['single_phasing_wye', true, twoBurnt, { complaint: ['hums'] }],
    ['single_phasing_wye', true, twoBurnt, { complaint: ['lost a phase'] }],
    [
      'one_circuit',
      true,
      map((c) => (c.phase === 'A' && c.group < 6 ? 2 : 0)),
      { circuits: 2, facts: { resistance: 'unequal' } },
    ],
    [
      'one_circuit',
      false,
      map((c) => (c.phase === 'A' && c.group < 6 ? 2 : 0)),
      { circuits: 2, facts: { resistance: 'equal' } },
    ],
  ];
  it.each(MOVES)('%s: up %s', (id, up, coils, x) => {
    const { facts: _facts, complaint: _complaint, ...plain } = x as { facts?: unknown; complaint?: unknown };
    const before = confidence(id, { coils, ...plain });
    const after = confidence(id, { coils, ...x });
    expect(before).toBeGreaterThan(0);
    expect(Math.sign(after - before)).toBe(up ? 1 : -1);
  });
  const groundSpot = map(
    (c) => (c.coil === 5 ? 2 : 0),
    (c) => (c.coil === 5 ? { worst: 'slot middle' } : {}),
  );
  it('a ground spot stands or falls with the insulation resistance', () => {
    expect(first({ coils: groundSpot, facts: { insulation: 'low' } })?.id).toBe('ground_in_slot');
    const against = told({ coils: groundSpot, facts: { insulation: 'sound' } }).causes.find(
      (c) => c.id === 'ground_in_slot',
    );
    expect(against?.speaksAgainst).toEqual(['insulation to ground sound']);
    expect(against?.confidence).toBeCloseTo(3.2 / 6.2, 12);
  });
  it('steep fronts: the first coils, an inverter that the owner names', () => {
    const coils = map((c) => (c.coil === 1 ? 2 : 0)).map((c) => (c.coil === 1 ? { ...c, place: 'line end' } : c));
    const plain = confidence('surge_line_end', { coils, steepSupply: true });
    expect(plain).toBeGreaterThan(0);
    expect(confidence('surge_line_end', { coils, steepSupply: true, complaint: ['drive'] })).toBeGreaterThan(plain);
    expect(confidence('surge_line_end', { coils, steepSupply: true, facts: { surge: 'turn fault' } })).toBeGreaterThan(
      plain,
    );
  });
  it('phase to phase: dirt and loose end turns', () => {
    const coils = map(
      (c) => (c.coil === 5 ? 2 : 0),
      (c) => (c.coil === 5 ? { worst: 'phase boundary' } : {}),
    );
    const plain = confidence('phase_to_phase', { coils });
    for (const x of [{ facts: { insulation: 'low' } }, { facts: { endTurns: 'loose' } }, { contamination: true }])
      expect(confidence('phase_to_phase', { coils, ...x })).toBeGreaterThan(plain);
  });
  it('without a map, findings alone bring a cause forward', () => {
    const FINDINGS: readonly [string, object][] = [
      ['turn_short', { facts: { surge: 'turn fault' } }],
      ['contamination', { contamination: true, facts: { insulation: 'low' } }],
      ['contamination', { complaint: ['wet'], facts: { insulation: 'low' } }],
      ['ground_fault', { facts: { insulation: 'low' } }],
      ['open_joint', { facts: { resistance: 'open' } }],
      ['bearing', { facts: { bearings: 'failed' } }],
      ['bearing', { facts: { bearings: 'worn' }, complaint: ['noise'] }],
      ['cage', { facts: { cage: 'broken bars' }, complaint: ['hums'] }],
      ['rotor_rub', { rotorRub: true }],
    ];
    for (const [id, x] of FINDINGS) expect([first(x)?.id, JSON.stringify(x)]).toEqual([id, JSON.stringify(x)]);
    expect(
      idsOf({ facts: { insulation: 'sound', surge: 'sound', bearings: 'sound', cage: 'sound', resistance: 'equal' } }),
    ).toEqual([]);
    expect(idsOf({ facts: { bearings: 'sound' }, complaint: ['noise'] })).toEqual([]);
  });
  it('in a winding burnt all over a turn fault, an open place or a bad bearing comes after', () => {
    const coils = map(() => 2);
    expect(idsOf({ coils, facts: { surge: 'turn fault' } })[0]).toBe('overload');
    const turn = told({ coils, facts: { surge: 'turn fault' } }).causes.find((c) => c.id === 'turn_short');
    expect(turn?.speaksAgainst).toEqual(['many coils are burnt: a turn fault may be the result']);
    expect(confidence('open_joint', { coils, facts: { resistance: 'open' } })).toBeLessThan(
      confidence('open_joint', { facts: { resistance: 'open' } }),
    );
    expect(confidence('bearing', { coils, facts: { bearings: 'failed' } })).toBeLessThan(
      confidence('bearing', { facts: { bearings: 'failed' } }),
    );
    expect(confidence('cage', { coils, facts: { cage: 'broken bars' } })).toBeLessThan(
      confidence('cage', { facts: { cage: 'broken bars' } }),
    );
    // with a rub, the bearing is believed although the winding is burnt
    expect(confidence('bearing', { coils, rotorRub: true, facts: { bearings: 'failed' } })).toBeGreaterThan(
      confidence('bearing', { coils, facts: { bearings: 'failed' } }),
    );
  });
  it('single-phase: which of its two windings is burnt, at 80 % and 10 % of its coils', () => {
    const ten = (main: number, auxiliary: number) => [
      ...Array.from({ length: 10 }, (_, i) => ({ coil: i + 1, phase: 'A', group: 1, damage: i < main ? 2 : 0 })),
      ...Array.from({ length: 10 }, (_, i) => ({ coil: i + 11, phase: 'B', group: 2, damage: i < auxiliary ? 2 : 0 })),
    ];
    const says = (main: number, auxiliary: number, singlePhase = true) =>
      told({ coils: ten(main, auxiliary), singlePhase, connection: undefined }).causes.map((c) => c.id);
    expect(says(1, 8)).toContain('start_winding');
    expect(says(8, 1)).toContain('run_winding');
    for (const [m, a] of [
      [1, 7],
      [2, 8],
      [7, 1],
      [8, 2],
    ] as const)
      expect(says(m, a).filter((id) => id.endsWith('_winding'))).toEqual([]);
    expect(says(1, 8, false)).not.toContain('start_winding');
    expect(told({ coils: ten(0, 10), singlePhase: true, complaint: ['hums'] }).causes[0]?.speaksFor).toContain(
      'the owner says it hummed or did not start',
    );
  });
  it('what helps a fault along is told with its advice, but not what is the cause itself', () => {
    const all = told({
      coils: twoBurnt,
      contamination: true,
      steepSupply: true,
      facts: {
        cooling: 'blocked',
        bearings: 'worn',
        shaft: 'bent',
        core: 'hot spots',
        cage: 'broken bars',
        terminals: 'burnt or loose',
        protection: 'did not trip',
        endTurns: 'loose',
      },
    });
    expect(all.contributing.map((c) => c.id)).toEqual([
      'cooling',
      'bearings',
      'shaft',
      'contamination',
      'steep supply',
      'core',
      'cage',
      'terminals',
      'protection',
      'end turns',
    ]);
    expect(all.contributing.every((c) => c.advice.length > 10)).toBe(true);
    expect(all.reason).toMatch(/Helped along by: air path blocked, bearings worn/);
    expect(told({ facts: { bearings: 'failed' } }).contributing.map((c) => c.id)).toEqual([]);
    expect(told({ facts: { insulation: 'low' }, complaint: ['wet', 'drive'] }).contributing.map((c) => c.id)).toEqual([
      'steep supply',
    ]);
    expect(told({ coils: twoBurnt, complaint: ['wet'] }).contributing.map((c) => c.says)).toEqual([
      'Water told of by the owner',
    ]);
    expect(
      told({
        coils: twoBurnt,
        facts: {
          cooling: 'clear',
          bearings: 'sound',
          shaft: 'true',
          core: 'sound',
          cage: 'sound',
          terminals: 'sound',
          protection: 'tripped',
          endTurns: 'tied',
        },
      }).contributing,
    ).toEqual([]);
  });
  it('unknown is an answer: it says what is missing', () => {
    const none = told({ connection: undefined });
    expect(none.verdict).toBe('cannot judge');
    expect(none.missing).toEqual([
      'the map of the old winding',
      'wye or delta',
      'insulation resistance as found',
      'winding resistance as found',
      'bearings',
      'terminals and leads',
      'air path',
      'whether the protection tripped',
    ]);
    expect(none.reason).toMatch(/^Nothing fits. Missing: the map of the old winding, wye or delta/);
    const known: FailureFacts = {
      insulation: 'sound',
      resistance: 'equal',
      bearings: 'sound',
      terminals: 'sound',
      cooling: 'clear',
      protection: 'tripped',
    };
    const full = told({ coils: map(() => 0), facts: known });
    expect(full.missing).toEqual([]);
    expect(full.reason).toMatch(/nothing that Norther asks for/);
    expect(told({ coils: map(() => 2), facts: known }).missing).toEqual(['where the burnt coils are worst']);
    expect(told({ coils: [], connection: undefined, singlePhase: true }).missing).not.toContain('wye or delta');
  });
  it('phases are told with mean damage and burnt share', () => {
    expect(told({ coils: twoBurnt }).phases).toEqual([
      { phase: 'A', coils: 12, meanDamage: 3, burntShare: 1 },
      { phase: 'B', coils: 12, meanDamage: 3, burntShare: 1 },
      { phase: 'C', coils: 12, meanDamage: 0, burntShare: 0 },
    ]);
  });
});

describe("signs in the owner's words", () => {
  it.each([
    ['Trips after ten minutes, gets hot.', ['trips', 'hot']],
    ['Hums and does not start', ['hums']],
    ['Single-phased after a contactor failure.', ['lost a phase']],
    ['Ground fault trip in the morning frost.', ['trips']],
    ['Bearings noisy, runs hot.', ['hot', 'noise']],
    ['Stood in sea water', ['wet']],
    ['Smelt, smoke from the box; fed by an inverter', ['hot', 'drive']],
    ['Overhaul', []],
    ['', []],
  ])('%s', (words, signs) => {
    expect(complaintSigns(words)).toEqual(signs);
  });
});
