import { describe, expect, it } from 'vitest';
import { worked } from '../../../../scripts/testing/worked.ts';
import { burntPattern } from './burntPattern.ts';

type Worst = 'slot middle' | 'slot end' | 'end turn' | 'lead' | 'phase boundary';
interface Coil {
  coil: number;
  phase: 'A' | 'B' | 'C';
  group: number;
  damage: number;
  worst?: Worst;
  place?: 'line end' | 'middle' | 'neutral end';
}
/** 36 coils in twelve groups of three, phases A, C, B in turn. */
const map = (damage: (c: Coil) => number, more: (c: Coil) => Partial<Coil> = () => ({})): Coil[] =>
  Array.from({ length: 36 }, (_, i) => {
    const group = Math.floor(i / 3) + 1;
    const plain: Coil = { coil: i + 1, phase: (['A', 'C', 'B'] as const)[(group - 1) % 3] ?? 'A', group, damage: 0 };
    const coil = { ...plain, ...more(plain) };
    return { ...coil, damage: damage(coil) };
  });
const told = (coils: Coil[], more: object = {}) => worked(burntPattern, { coils, connection: 'wye', ...more });
const ids = (coils: Coil[], more: object = {}) => told(coils, more).patterns.map((p) => p.id);
const byPhase = (a: number, b: number, c: number) => map((x) => ({ A: a, B: b, C: c })[x.phase]);
/** So many coils of a phase burnt. */
const share = (n: { A: number; B: number; C: number }) => {
  const seen = { A: 0, B: 0, C: 0 };
  return map((c) => (seen[c.phase]++ < n[c.phase] ? 2 : 0));
};

describe('what the map of burnt coils says', () => {
  it('two phases burnt, one clean: in wye one line open, in delta an open phase inside', () => {
    const coils = byPhase(3, 2, 0);
    expect(ids(coils)).toEqual(['single_phasing_wye']);
    expect(told(coils).patterns[0]?.evidence[1]).toMatch(/line of phase C open: phase A and phase B in series/);
    expect(ids(coils, { connection: 'delta' })).toEqual(['open_phase_in_delta']);
    expect(ids(coils, { connection: undefined })).toEqual([]);
    expect(told(coils, { connection: undefined }).reason).toMatch(/Missing: wye or delta/);
  });
  it('one phase burnt, two clean: in delta one line open; in wye no pattern', () => {
    expect(ids(byPhase(3, 0, 0), { connection: 'delta' })).toEqual(['single_phasing_delta']);
    expect(ids(byPhase(3, 0, 1), { connection: 'wye' })).toEqual([]);
  });
  it('80 % is high and 10 % is low, met by equality; of twelve coils ten and one', () => {
    expect(ids(share({ A: 10, B: 12, C: 1 }))).toEqual(['single_phasing_wye']);
    expect(ids(share({ A: 9, B: 12, C: 1 }))).not.toContain('single_phasing_wye');
    expect(ids(share({ A: 10, B: 12, C: 2 }))).not.toContain('single_phasing_wye');
    // ten coils a phase: eight and one are the borders themselves
    const ten = (n: { A: number; B: number; C: number }) =>
      (['A', 'B', 'C'] as const).flatMap((phase, p) =>
        Array.from({ length: 10 }, (_, i): Coil => ({
          coil: 10 * p + i + 1,
          phase,
          group: 2 * p + 1 + Math.floor(i / 5),
          damage: i < n[phase] ? 2 : 0,
        })),
      );
    expect(ids(ten({ A: 8, B: 8, C: 1 }))).toEqual(['single_phasing_wye']);
    expect(ids(ten({ A: 7, B: 8, C: 1 }))).not.toContain('single_phasing_wye');
  });
  it('unlike phases of which none is clean: unbalanced voltages', () => {
    expect(ids(byPhase(2, 1, 1))).toEqual(['voltage_unbalance']);
    expect(ids(byPhase(3, 1, 3))).toEqual(['voltage_unbalance', 'single_phasing_wye']);
    expect(ids(byPhase(2, 1, 1), { connection: 'delta' })).toEqual(['voltage_unbalance', 'single_phasing_delta']);
    const weak = map((c) => (c.phase === 'A' ? 2 : c.phase === 'B' ? 1 : c.coil % 4 === 0 ? 1 : 0));
    expect(told(weak).phases.find((p) => p.phase === 'C')?.meanDamage).toBeCloseTo(0.25, 2);
    expect(ids(weak)).not.toContain('voltage_unbalance');
  });
  it('all alike: overload, or a locked rotor where the bars are blued', () => {
    expect(ids(byPhase(1, 1, 1))).toEqual(['overload']);
    expect(ids(byPhase(2, 2, 2), { rotorBlued: true })).toEqual(['locked_rotor']);
    expect(ids(byPhase(0, 0, 0))).toEqual([]);
    const ends = map(
      () => 2,
      () => ({ worst: 'end turn' }),
    );
    const [plain, worst] = [told(byPhase(2, 2, 2), { rotorBlued: true }), told(ends, { rotorBlued: true })];
    expect((worst.patterns[0]?.confidence ?? 0) > (plain.patterns[0]?.confidence ?? 1)).toBe(true);
    // half a step between the phases is no longer alike
    const half = map((c) => (c.phase === 'A' && c.coil % 2 === 0 ? 2 : 1));
    expect(ids(half)).toEqual([]);
  });
  it('the shop may draw the lines elsewhere', () => {
    const by = (limits: object) => ({ limits });
    expect(ids(share({ A: 9, B: 12, C: 1 }), by({ 'failure.highPercent': 75 }))).toEqual(['single_phasing_wye']);
    expect(ids(share({ A: 10, B: 12, C: 2 }), by({ 'failure.lowPercent': 17 }))).toContain('single_phasing_wye');
    expect(ids(byPhase(2, 1, 1), by({ 'failure.unlikeDamage': 1.01 }))).not.toContain('voltage_unbalance');
    expect(ids(byPhase(2, 1, 1), by({ 'failure.leastDamage': 1.01 }))).not.toContain('voltage_unbalance');
    expect(ids(byPhase(1, 1, 1), by({ 'failure.overloadDamage': 1.01 }))).toEqual([]);
    const half = map((c) => (c.phase === 'A' && c.coil % 2 === 0 ? 2 : 1));
    expect(ids(half, by({ 'failure.alikeDamage': 0.51 }))).toEqual(['overload']);
    const first = (n: number) =>
      map(
        (c) => (c.coil <= n ? 2 : 0),
        (c) => (c.coil <= n ? { worst: 'end turn' } : {}),
      );
    const most = (n: number, limits: object) => told(first(n), { contamination: true, limits }).patterns[0]?.confidence;
    expect(most(4, { 'failure.localCoils': 4 })).toBe(0.7);
    expect(most(4, { 'failure.localPercent': 12 })).toBe(0.7);
    expect(most(3, { 'failure.localPercent': 8 })).toBe(0.6);
  });
  it('a rub comes first, whatever else is seen', () => {
    expect(ids(byPhase(3, 2, 0), { rotorRub: true })).toEqual(['rotor_rub', 'single_phasing_wye']);
    expect(told(byPhase(0, 0, 0), { rotorRub: true }).patterns[0]?.evidence).toEqual(['core smeared, rotor polished']);
  });
  it.each<[string, Partial<Coil>, object, string[]]>([
    ['one coil destroyed at its end turn', { damage: 3, worst: 'end turn' }, {}, ['turn_short']],
    ['one coil destroyed, place not said', { damage: 3 }, {}, ['turn_short']],
    ['one spot in the slot', { damage: 2, worst: 'slot middle' }, {}, ['ground_in_slot']],
    ['destroyed in the slot', { damage: 3, worst: 'slot middle' }, {}, ['ground_in_slot', 'turn_short']],
    ['one spot at the end of the slot', { damage: 3, worst: 'slot end' }, {}, ['ground_at_slot_end']],
    ['where phases meet', { damage: 3, worst: 'phase boundary' }, {}, ['phase_to_phase']],
    [
      'first coil, inverter',
      { damage: 3, worst: 'end turn', place: 'line end' },
      { steepSupply: true },
      ['surge_line_end', 'turn_short'],
    ],
    ['first coil, line supply', { damage: 3, worst: 'end turn', place: 'line end' }, {}, ['turn_short']],
    ['burnt, nowhere in particular', { damage: 2 }, {}, []],
  ])('a local fault: %s', (_, own, more, want) => {
    const coils = map(
      (c) => (c.coil === 10 ? (own.damage ?? 0) : 0),
      (c) => (c.coil === 10 ? own : {}),
    );
    expect(ids(coils, more)).toEqual(want);
  });
  it('a coil with damaged neighbours is no turn fault; two coils of two phases at the end turns are phase to phase', () => {
    const near = map((c) => (c.coil === 10 ? 3 : c.coil === 11 ? 1 : 0));
    expect(ids(near)).toEqual(['turn_short']);
    expect(ids(map((c) => (c.coil === 10 ? 3 : c.coil === 11 ? 2 : 0)))).toEqual([]);
    const two = (a: number, b: number) =>
      map(
        (c) => (c.coil === a || c.coil === b ? 2 : 0),
        (c) => (c.coil === a || c.coil === b ? { worst: 'end turn' } : {}),
      );
    expect(ids(two(3, 4))).toEqual(['phase_to_phase']);
    expect(ids(two(1, 2))).toEqual([]);
    expect(ids(two(3, 4), { contamination: true })).toEqual(['contamination', 'phase_to_phase']);
  });
  it('a tenth of all coils is still local, one more is not', () => {
    const first = (n: number) =>
      map(
        (c) => (c.coil <= n ? 2 : 0),
        (c) => (c.coil <= n ? { worst: 'end turn' } : {}),
      );
    expect(ids(first(3), { contamination: true })).toEqual(['contamination']);
    expect(told(first(3), { contamination: true }).patterns[0]?.confidence).toBe(0.7);
    expect(told(first(4), { contamination: true }).patterns[0]?.confidence).toBe(0.6);
  });
  it('parallel circuits: only some groups of one phase', () => {
    const groups = map((c) => (c.group === 1 || c.group === 4 ? 3 : 0));
    expect(ids(groups, { circuits: 2 })).toEqual(['one_circuit']);
    expect(told(groups, { circuits: 2 }).patterns[0]?.evidence[0]).toMatch(/groups 1, 4 of phase A/);
    expect(ids(groups, { circuits: 1 })).toEqual([]);
    expect(ids(byPhase(3, 0, 0), { circuits: 2, connection: 'wye' })).toEqual([]);
  });
  it('a spot to ground in a burnt winding is told second', () => {
    const coils = map(
      (c) => (c.phase === 'C' ? 0 : 3),
      (c) => (c.coil === 1 ? { worst: 'slot end' } : c.coil === 2 ? { worst: 'slot middle' } : {}),
    );
    expect(ids(coils)).toEqual(['single_phasing_wye', 'ground_at_slot_end']);
    expect(told(coils).reason).toMatch(/Also possible: ground fault at the end/);
  });
  it('says what is missing where nothing fits; nothing recorded cannot be judged', () => {
    expect(told([])).toMatchObject({ verdict: 'cannot judge', patterns: [] });
    expect(told(byPhase(0, 0, 0)).reason).toMatch(/any damage at all/);
    expect(told(map((c) => (c.coil === 10 ? 2 : 0))).reason).toMatch(/where each burnt coil is worst/);
    const onePhase = byPhase(2, 0, 0).filter((c) => c.phase === 'A');
    expect(told(onePhase).reason).toMatch(/coils of all three phases/);
    expect(told(byPhase(2, 0, 1)).verdict).toBe('cannot judge');
  });
});

describe('a destroyed coil and those beside it', () => {
  const at = (damage: Record<number, number>, more: (c: Coil) => Partial<Coil> = () => ({})) =>
    map((c) => damage[c.coil] ?? 0, more);
  const turn = (coils: Coil[]) => told(coils).patterns.find((p) => p.id === 'turn_short');
  it('its neighbours may be discoloured, not burnt; a burnt coil far off makes it less sure', () => {
    expect(turn(at({ 5: 3 }))).toMatchObject({
      confidence: 0.75,
      evidence: ['coil 5 of group 2 destroyed, its neighbours sound'],
    });
    expect(turn(at({ 5: 3, 4: 1, 6: 1 }))?.confidence).toBe(0.75);
    for (const beside of [4, 6]) expect(turn(at({ 5: 3, [beside]: 2 }))).toBeUndefined();
    expect(turn(at({ 5: 3, 20: 2 }))?.confidence).toBe(0.5);
    expect(turn(at({ 5: 3, 20: 3 }))).toBeUndefined();
  });
  it('the last coil lies beside the first where all were looked at', () => {
    expect(turn(at({ 1: 3, 36: 2 }))).toBeUndefined();
    expect(turn(at({ 36: 3, 1: 2 }))).toBeUndefined();
    expect(turn(at({ 1: 3, 35: 2 }))?.confidence).toBe(0.5);
    // of a part of the winding nothing is known of what lies beyond
    expect(turn(at({ 1: 3, 36: 2 }).filter((c) => c.group !== 5))?.confidence).toBe(0.5);
  });
  it('where it is worst decides how sure it is', () => {
    const worst = (place: Worst) => turn(at({ 5: 3 }, (c) => (c.coil === 5 ? { worst: place } : {})))?.confidence;
    expect([worst('end turn'), worst('slot middle'), worst('slot end'), worst('phase boundary')]).toEqual([
      0.75,
      0.5,
      undefined,
      undefined,
    ]);
  });
  it('says what is burnt where phases meet, and which coils tracked', () => {
    const boundary = told(at({ 5: 2, 6: 2 }, (c) => (c.coil === 5 ? { worst: 'phase boundary' } : {}))).patterns;
    expect(boundary.find((p) => p.id === 'phase_to_phase')).toMatchObject({
      confidence: 0.85,
      evidence: ['coil 5 of group 2 and coil 6 of group 2: damage where phases meet'],
    });
    const ends = (coils: Coil[]) => ids(coils);
    // two burnt end turns of two phases: where phases meet; of one phase not
    expect(ends(at({ 3: 2, 4: 2 }, () => ({ worst: 'end turn' })))).toContain('phase_to_phase');
    expect(ends(at({ 4: 2, 5: 2 }, () => ({ worst: 'end turn' })))).not.toContain('phase_to_phase');
    expect(ends(at({ 3: 2, 4: 2 }, (c) => (c.coil === 3 ? { worst: 'end turn' } : {})))).not.toContain(
      'phase_to_phase',
    );
    const wet = told(
      at({ 9: 2, 4: 2 }, () => ({ worst: 'end turn' })),
      { contamination: true },
    ).patterns;
    expect(wet.find((p) => p.id === 'contamination')?.evidence).toEqual([
      'coils 4, 9 at the end turns',
      'wet, oily or conductive dust',
    ]);
  });
  it('steep fronts: every burnt coil must be the first at a lead', () => {
    const line = (places: Record<number, NonNullable<Coil['place']>>) =>
      ids(
        at({ 1: 2, 10: 2 }, (c) => {
          const place = places[c.coil];
          return place ? { place } : {};
        }),
        { steepSupply: true },
      );
    expect(line({ 1: 'line end', 10: 'line end' })).toContain('surge_line_end');
    expect(line({ 1: 'line end', 10: 'middle' })).not.toContain('surge_line_end');
  });
});
