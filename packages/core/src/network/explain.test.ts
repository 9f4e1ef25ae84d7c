import { describe, expect, it } from 'vitest';
import type { CalculationInputError } from '../calculation.ts';
import { runCalculation } from '../calculation.ts';
import { worked } from '../../../../scripts/testing/worked.ts';
import { connect } from '../winding/connection.ts';
import { layoutOf } from '../winding/layout.ts';
import type { Layout, LayoutInput } from '../winding/layoutTypes.ts';
import type { Look } from './dictionary.ts';
import { coilMistakes, explainReadings, mistakeDictionary, singleMistakes } from './explain.ts';
import { windingExplainReadings } from './poorJoint.ts';
import { jointsOf } from './joints.ts';
import { bypassed, exchanged, openedCircuit, phaseReversed, reversed } from './mistakes.ts';

const INPUT: LayoutInput = {
  slots: 24,
  poles: 4,
  layers: 2,
  form: 'lap',
  poleGroups: 'every-pole',
  spanSlots: 5,
  turns: [10],
};
const layout = layoutOf(INPUT);
const connection = connect(layout, { connection: 'wye', circuits: 2, jumper: 'adjacent-pole', leads: 3 });
const joints = jointsOf(connection);

describe('single mistakes of a connection', () => {
  const all = singleMistakes(layout, connection);
  const of = (kind: string) => all.filter((m) => m.kind === kind);
  it('twelve groups turned and left out, twenty-four neighbours exchanged, three phases, six circuits', () => {
    expect(all).toHaveLength(12 + 12 + 24 + 3 + 6);
    expect(of('reversed group').map((m) => m.groups)).toEqual(layout.groups.map((g) => [g.number]));
    expect(of('bypassed group').map((m) => m.groups)).toEqual(layout.groups.map((g) => [g.number]));
    expect(of('exchanged groups').map((m) => m.groups)).toEqual(
      layout.groups.flatMap((_, i) => [1, 2].map((step) => [i + 1, ((i + step) % 12) + 1])),
    );
  });
  it('each says what it is and has the joints it would leave', () => {
    expect(of('reversed group')[2]).toMatchObject({ say: 'group 3 reversed', joints: reversed(joints, 3) });
    expect(of('bypassed group')[2]).toMatchObject({ say: 'group 3 left out', joints: bypassed(joints, 3) });
    expect(of('exchanged groups')[1]).toMatchObject({
      say: 'groups 1 and 3 exchanged',
      joints: exchanged(joints, 1, 3),
    });
    expect(of('phase reversed').map((m) => m.say)).toEqual(layout.phases.map((p) => `phase ${p} reversed`));
    of('phase reversed').forEach((m, i) => {
      const phase = layout.phases[i] ?? 'A';
      expect(m.groups).toEqual(layout.groups.filter((g) => g.phase === phase).map((g) => g.number));
      expect(m.joints).toEqual(phaseReversed(joints, connection, phase));
    });
    let at = 0;
    for (const phase of layout.phases)
      connection.circuits
        .filter((c) => c.phase === phase)
        .forEach((c, i) => {
          const groups = c.steps.map((s) => s.group);
          expect(of('open circuit')[at++]).toMatchObject({
            groups,
            say: `circuit ${groups.join('-')} of phase ${phase} open`,
            joints: openedCircuit(joints, connection, phase, i + 1),
          });
        });
    expect(at).toBe(6);
  });
  it('groups of one phase are not taken for each other', () => {
    const alike: Layout = {
      ...layout,
      groups: layout.groups.map((g) => ({ ...g, phase: g.number < 4 ? 'A' : g.phase })),
    };
    const pairs = singleMistakes(alike, connection)
      .filter((m) => m.kind === 'exchanged groups')
      .map((m) => m.groups.join('-'));
    for (const gone of ['1-2', '1-3', '2-3', '2-4', '3-4', '12-1'])
      expect(pairs.includes(gone)).toBe(
        alike.groups[Number(gone.split('-')[0]) - 1]?.phase !== alike.groups[Number(gone.split('-')[1]) - 1]?.phase,
      );
  });
});

describe('single mistakes inside a group', () => {
  it('every coil of a group of two turned and left out; the joints outside stay', () => {
    const all = coilMistakes(layout, connection);
    expect(all).toHaveLength(48);
    expect(all.map((m) => m.coil)).toEqual(layout.groups.flatMap((g) => g.coils.flatMap((n) => [n, n])));
    const [turned, left] = all;
    expect(turned).toMatchObject({
      kind: 'coil turned',
      groups: [1],
      coil: 1,
      say: 'coil 1-6 of group 1 turned',
      joints,
    });
    expect(left).toMatchObject({
      kind: 'coil left out',
      groups: [1],
      coil: 1,
      say: 'coil 1-6 of group 1 left out',
      joints,
    });
    expect(turned?.layout?.coils.map((c) => c.turns)).toEqual([-10, ...Array.from({ length: 23 }, () => 10)]);
    expect(left?.layout?.coils.map((c) => c.turns)).toEqual([0, ...Array.from({ length: 23 }, () => 10)]);
  });
  it('a group of one coil is that coil; a coil without turns, or without a place, is none', () => {
    const one = layoutOf({ ...INPUT, slots: 12, spanSlots: 2 });
    expect(
      coilMistakes(one, connect(one, { connection: 'wye', circuits: 1, jumper: 'adjacent-pole', leads: 3 })),
    ).toEqual([]);
    const bare: Layout = { ...layout, coils: layout.coils.map((c) => (c.number === 2 ? { ...c, turns: 0 } : c)) };
    expect(coilMistakes(bare, connection).some((m) => m.coil === 2)).toBe(false);
    const wild: Layout = {
      ...layout,
      groups: layout.groups.map((g) => (g.number === 1 ? { ...g, coils: [1, 99] } : g)),
    };
    expect(coilMistakes(wild, connection).some((m) => m.coil === 99)).toBe(false);
  });
});

const dictionary = mistakeDictionary(layout, connection);
/** Readings of a mistake, in units of nobody’s meter. */
const readingsOf = (look: Look, kinds: readonly string[], unit = 1) => ({
  ...(kinds.includes('resistance') ? { resistance: look.resistance.map((x) => x * unit) } : {}),
  ...(kinds.includes('current') ? { current: look.current.map((x) => x * unit) } : {}),
  ...(kinds.includes('frequency')
    ? { frequency: look.inductance.map((l) => (Number.isFinite(l) ? unit / Math.sqrt(l) : 0)) }
    : {}),
});
describe('odd readings explained', () => {
  it.each([[['resistance', 'current', 'frequency']], [['resistance']], [['current']], [['frequency']]])(
    '%j of every mistake: it is among those that fit, whatever the unit',
    (kinds) => {
      for (const { mistake, look } of dictionary) {
        for (const unit of [1, 0.0371]) {
          const found = explainReadings(layout, connection, readingsOf(look, kinds, unit));
          const own = found.find((e) => e.kind === mistake.kind && e.says.includes(mistake.say));
          expect(own?.misfitPercent, mistake.say).toBeLessThan(0.04);
        }
      }
    },
  );
  it('best first; of those that fit alike the one that says least', () => {
    const found = explainReadings(layout, connection, { resistance: [1.2, 1, 1.1] });
    const keys = found.map((e) => [e.misfitPercent, e.says.length] as const);
    expect([...keys].sort((a, b) => a[0] - b[0] || a[1] - b[1])).toEqual(keys);
    expect(new Set(found.map((e) => e.kind)).size).toBeGreaterThan(3);
  });
  it('every mistake stands once, with those of its kind that look the same', () => {
    const found = explainReadings(layout, connection, { resistance: [1, 1, 1] });
    const closed = dictionary.filter(({ look }) => look.resistance.every((x) => Number.isFinite(x)));
    expect(found.reduce((n, e) => n + e.says.length, 0)).toBe(closed.length);
    expect(new Set(found.flatMap((e) => e.says)).size).toBe(closed.length);
    // wye of two circuits: any of eight groups of a phase left out reads the same; the three phases differ
    const left = found.filter((e) => e.kind === 'bypassed group');
    expect(left.map((e) => e.says.length)).toEqual([4, 4, 4]);
    for (const e of left) expect(e.groups).toHaveLength(4);
  });
  it('the misfit is the root mean square of the relative differences', () => {
    const none = (readings: object) =>
      explainReadings(layout, connection, readings).find((e) => e.kind === 'none')?.misfitPercent ?? NaN;
    expect(none({ resistance: [1.1, 1, 0.9] })).toBeCloseTo(100 * Math.sqrt(0.02 / 3), 9);
    expect(none({ resistance: [110, 100, 90], current: [1, 1, 1] })).toBeCloseTo(100 * Math.sqrt(0.02 / 6), 9);
    expect(none({ current: [0, 0, 0] })).toBeCloseTo(0, 9);
  });
  it.each([
    ['two readings', { resistance: [1, 2] }],
    ['a resistance of nothing', { resistance: [0, 1, 1] }],
    ['a current below nothing', { current: [-1, 1, 1] }],
    ['an endless current', { current: [Infinity, 1, 1] }],
    ['an endless frequency', { frequency: [Infinity, 1, 1] }],
  ])('%s says nothing: all fit alike', (_, readings) =>
    expect(explainReadings(layout, connection, readings).every((e) => e.misfitPercent === 0)).toBe(true),
  );
  it('a current or a wave of nothing is a reading', () => {
    for (const readings of [{ current: [0, 1, 1] }, { frequency: [0, 1, 1] }])
      expect(explainReadings(layout, connection, readings).some((e) => e.misfitPercent > 1)).toBe(true);
  });
  it('open pairs are open in the mistake too, and nowhere else', () => {
    const one = layoutOf({ ...INPUT, slots: 12, poles: 2 });
    const star = connect(one, { connection: 'wye', circuits: 1, jumper: 'adjacent-pole', leads: 3 });
    const found = explainReadings(one, star, { resistance: [Infinity, 2, Infinity] });
    expect(found.map((e) => e.kind)).toEqual(['open circuit']);
    expect(explainReadings(one, star, { resistance: [1, 1, 1] }).some((e) => e.kind === 'open circuit')).toBe(false);
  });
  it('each kind has its own word of where to look', () => {
    const looks = new Map(explainReadings(layout, connection, { resistance: [1, 1, 1] }).map((e) => [e.kind, e.look]));
    expect(new Set(looks.values()).size).toBe(looks.size);
    expect(looks.size).toBe(8);
  });
});

describe('the calculation', () => {
  const ask = (more: object) => worked(windingExplainReadings, { ...windingExplainReadings.example, ...more });
  const refusal = (more: object) => {
    try {
      runCalculation(windingExplainReadings, { ...windingExplainReadings.example, ...more });
      return 'taken';
    } catch (error) {
      return (error as CalculationInputError).field;
    }
  };
  it('resistance of the example: a circuit open in one phase', () => {
    const [best] = ask({ resistance: [1.5, 1, 1.5] }).explanations;
    expect(best?.kind).toBe('open circuit');
    expect(best?.misfitPercent).toBeCloseTo(0, 6);
  });
  it('the word open is an endless resistance, and no wave', () => {
    expect(ask({ circuits: 1, resistance: ['open', 2, 'open'] }).explanations[0]?.kind).toBe('open circuit');
    expect(ask({ circuits: 1, resistance: undefined, frequency: ['open', 2, 'open'] }).explanations[0]?.kind).toBe(
      'open circuit',
    );
    expect(ask({ circuits: 1, resistance: undefined, current: [0, 2, 2] }).explanations[0]?.kind).toBe('open circuit');
  });
  it.each([
    ['no reading at all', { resistance: undefined }, 'resistance'],
    ['current alone', { resistance: undefined, current: [1, 1, 1] }, 'taken'],
    ['waves alone', { resistance: undefined, frequency: [1, 1, 1] }, 'taken'],
    ['six leads', { leads: 6 }, 'leads'],
    [
      'two speeds',
      {
        kind: 'two-speed',
        slots: 36,
        poles: 8,
        spanSlots: 5,
        circuits: 1,
        leads: 6,
        poleGroups: 'consequent',
        duty: 'constant torque',
      },
      'leads',
    ],
  ])('%s', (_, more, field) => expect(refusal(more)).toBe(field));
});
