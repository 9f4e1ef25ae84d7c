import { describe, expect, it } from 'vitest';
import { some } from '../../../../scripts/testing/draws.ts';
import { connect, type ConnectionChoice } from '../winding/connection.ts';
import { layoutOf } from '../winding/layout.ts';
import type { LayoutInput } from '../winding/layoutTypes.ts';
import { currentsOf, looksOf } from './dictionary.ts';
import { coilMistakes, mistakeDictionary, singleMistakes } from './explain.ts';
import type { Mistake } from './mistakes.ts';
import { exchanged } from './mistakes.ts';
import { jointsOf } from './joints.ts';
import { networkOf, signatureOf } from './network.ts';

const lap: Pick<LayoutInput, 'layers' | 'form' | 'poleGroups' | 'turns'> = {
  layers: 2,
  form: 'lap',
  poleGroups: 'every-pole',
  turns: [10],
};
const WINDINGS: [string, LayoutInput, Partial<ConnectionChoice>][] = [
  ['36/4 wye', { ...lap, slots: 36, poles: 4, spanSlots: 8 }, { connection: 'wye', circuits: 1 }],
  ['36/4 wye of two', { ...lap, slots: 36, poles: 4, spanSlots: 8 }, { connection: 'wye', circuits: 2 }],
  ['36/4 delta', { ...lap, slots: 36, poles: 4, spanSlots: 7 }, { connection: 'delta', circuits: 1 }],
  ['36/4 delta of four', { ...lap, slots: 36, poles: 4, spanSlots: 7 }, { connection: 'delta', circuits: 4 }],
  ['24/2 wye of two', { ...lap, slots: 24, poles: 2, spanSlots: 9 }, { connection: 'wye', circuits: 2 }],
  ['30/4, unequal groups', { ...lap, slots: 30, poles: 4, spanSlots: 6 }, { connection: 'wye', circuits: 2 }],
  ['30/4, unequal groups, delta', { ...lap, slots: 30, poles: 4, spanSlots: 6 }, { connection: 'delta', circuits: 1 }],
  [
    '24/4 single layer',
    { slots: 24, poles: 4, layers: 1, form: 'concentric', poleGroups: 'consequent', turns: [30] },
    { connection: 'wye', circuits: 1 },
  ],
  ['96/16 wye of four', { ...lap, slots: 96, poles: 16, spanSlots: 5 }, { connection: 'wye', circuits: 4 }],
];
const drawn = (input: LayoutInput, choice: Partial<ConnectionChoice>) => {
  const layout = layoutOf(input);
  const connection = connect(layout, { connection: 'wye', circuits: 1, jumper: 'adjacent-pole', leads: 3, ...choice });
  return { layout, connection };
};

describe('what a mistake shows', () => {
  it.each(some(WINDINGS, 4))(
    '%s: the same as the network with the mistake in it solved for itself',
    (_, input, choice) => {
      const { layout, connection } = drawn(input, choice);
      const joints = jointsOf(connection);
      // any two groups, also of one phase, also far apart
      const list = layout.groups;
      const pairs =
        list.length > 20
          ? [[0, 7] as const, [3, 30] as const]
          : list.flatMap((_, i) => list.map((__, j) => [i, j] as const));
      const others = pairs
        .filter(([i, j]) => i < j)
        .map(([i, j]): Mistake => {
          const [a, b] = [list[i]?.number ?? 0, list[j]?.number ?? 0];
          return { kind: 'exchanged groups', groups: [a, b], say: `${a} ${b}`, joints: exchanged(joints, a, b) };
        });
      const all = [...mistakeDictionary(layout, connection).map((x) => x.mistake), ...others];
      const those = some(all.length > 300 ? all.filter((__, i) => i % 7 === 0) : all, 3);
      const looks = looksOf(layout, connection, those);
      for (const [i, mistake] of those.entries()) {
        const own = signatureOf(networkOf(mistake.layout ?? layout, mistake.joints));
        const look = looks[i];
        for (const kind of ['resistance', 'inductance', 'current'] as const)
          own[kind].forEach((wanted, k) => {
            const got = look?.[kind][k] ?? Number.NaN;
            const alike = Number.isFinite(wanted)
              ? Math.abs(got - wanted) < 1e-7 * Math.max(1, wanted)
              : got === wanted;
            expect(alike, `${mistake.say}, ${kind} ${k}: ${got}, solved for itself ${wanted}`).toBe(true);
          });
      }
    },
  );
  it('a dictionary holds every single mistake and the winding as drawn, and is made once', () => {
    const { layout, connection } = drawn({ ...lap, slots: 36, poles: 4, spanSlots: 8 }, {});
    const made = mistakeDictionary(layout, connection);
    expect(made).toHaveLength(1 + singleMistakes(layout, connection).length + coilMistakes(layout, connection).length);
    expect(mistakeDictionary(layout, connection)).toBe(made);
  });
  it.each([
    // a star of 1, 1, 1: pairs of 2 and currents of one volt over one ohm
    [
      [2, 2, 2],
      [1, 1, 1],
    ],
    // arms 1, 2, 3
    [
      [3, 5, 4],
      [Math.sqrt(3 * (4 + 6 + 9)) / 11, Math.sqrt(3 * (1 + 3 + 9)) / 11, Math.sqrt(3 * (1 + 2 + 4)) / 11],
    ],
    [
      [Infinity, 5, Infinity],
      [0, Math.sqrt(3) / 5, Math.sqrt(3) / 5],
    ],
    [
      [Infinity, Infinity, 4],
      [Math.sqrt(3) / 4, 0, Math.sqrt(3) / 4],
    ],
    [
      [3, Infinity, Infinity],
      [Math.sqrt(3) / 3, Math.sqrt(3) / 3, 0],
    ],
    [
      [Infinity, Infinity, Infinity],
      [0, 0, 0],
    ],
    [
      [0, 5, 5],
      [Infinity, Infinity, Infinity],
    ],
  ])('pairs of %j draw %j', (pairs, currents) => {
    expect(currentsOf(pairs).map((x) => x.toFixed(9))).toEqual(currents.map((x) => x.toFixed(9)));
  });
});
