import { describe, expect, it } from 'vitest';
import { connect, type ConnectionChoice } from '../winding/connection.ts';
import { layoutOf } from '../winding/layout.ts';
import { jointsOf, type Joint } from './joints.ts';
import { networkOf, signatureOf } from './network.ts';
import { bypassed, exchanged, openedCircuit, phaseReversed, reversed } from './mistakes.ts';

const layout = layoutOf({
  slots: 36,
  poles: 4,
  layers: 2,
  form: 'lap',
  poleGroups: 'every-pole',
  spanSlots: 8,
  turns: [10],
});
const planned = (connection: 'wye' | 'delta', circuits: number, jumper: ConnectionChoice['jumper'] = 'adjacent-pole') =>
  connect(layout, { connection, circuits, jumper, leads: 3 });

/** docs/derivations.md 8: R/R0, R unbalance, f/f0, I/I0, V/V0 by pair or lead (derived there; ideal gap, λ = 0.15). */
const TABLE: [string, 'wye' | 'delta', number, (j: Joint[]) => Joint[], number[], number[], number[], number[]][] = [
  [
    'group 4 reversed',
    'wye',
    1,
    (j) => reversed(j, 4),
    [1, 1, 1],
    [1.13, 1, 1.13],
    [1.4, 1.11, 1.11],
    [0.764, 1, 0.764],
  ],
  [
    'group 4 bypassed',
    'wye',
    1,
    (j) => bypassed(j, 4),
    [0.875, 1, 0.875],
    [1.1, 1, 1.1],
    [1.31, 1.09, 1.09],
    [0.878, 1, 0.878],
  ],
  [
    'groups 3 and 4 exchanged',
    'wye',
    1,
    (j) => exchanged(j, 3, 4),
    [1, 1, 1],
    [1, 1.11, 1.11],
    [1.09, 1.09, 1.32],
    [1, 0.878, 0.878],
  ],
  [
    'phase A reversed',
    'wye',
    1,
    (j) => phaseReversed(j, planned('wye', 1), 'A'),
    [1, 1, 1],
    [1.51, 1, 1.51],
    [3.98, 2.17, 2.17],
    [0.577, 1, 0.577],
  ],
  [
    'group 4 reversed',
    'wye',
    2,
    (j) => reversed(j, 4),
    [1, 1, 1],
    [1.36, 1, 1.36],
    [2.59, 1.56, 1.56],
    [0.764, 1, 0.764],
  ],
  [
    'one circuit of A open',
    'wye',
    2,
    (j) => openedCircuit(j, planned('wye', 2), 'A', 1),
    [1.5, 1, 1.5],
    [0.87, 1, 0.87],
    [0.71, 0.94, 0.94],
    [1, 1, 1],
  ],
  [
    'one circuit of A open',
    'wye',
    4,
    (j) => openedCircuit(j, planned('wye', 4), 'A', 1),
    [1.167, 1, 1.167],
    [0.99, 1, 0.99],
    [0.97, 0.99, 0.99],
    [1, 1, 1],
  ],
  [
    'group 4 reversed',
    'delta',
    1,
    (j) => reversed(j, 4),
    [1, 1, 1],
    [1.18, 1.04, 1.04],
    [1.31, 1.31, 1],
    [0.667, 0.928, 0.928],
  ],
  [
    'group 4 bypassed',
    'delta',
    1,
    (j) => bypassed(j, 4),
    [0.818, 0.955, 0.955],
    [1.17, 1.03, 1.03],
    [1.28, 1.28, 1],
    [0.818, 0.958, 0.958],
  ],
  [
    'phase A reversed',
    'delta',
    1,
    (j) => phaseReversed(j, planned('delta', 1), 'A'),
    [1, 1, 1],
    [2.4, 1.12, 1.12],
    [4.99, 4.99, 1],
    [0.333, 0.882, 0.882],
  ],
  [
    'one circuit of A open',
    'delta',
    2,
    (j) => openedCircuit(j, planned('delta', 2), 'A', 1),
    [1.5, 1.125, 1.125],
    [0.92, 0.98, 0.98],
    [0.89, 0.89, 1],
    [1, 1, 1],
  ],
  [
    'group 4 reversed',
    'delta',
    2,
    (j) => reversed(j, 4),
    [1, 1, 1],
    [1.64, 1.09, 1.09],
    [2.38, 2.38, 1],
    [0.667, 0.928, 0.928],
  ],
];

describe('what a fault looks like, against the table', () => {
  it.each(TABLE)('%s, %s %d', (_, connection, circuits, spoil, R, f, I, V) => {
    const joints = jointsOf(planned(connection, circuits));
    const good = signatureOf(networkOf(layout, joints));
    const bad = signatureOf(networkOf(layout, spoil([...joints])));
    const near = (got: number[], want: number[], digits: number) =>
      got.forEach((x, i) =>
        expect(x, `${i}: ${got.map((y) => y.toFixed(3)).join(' ')}`).toBeCloseTo(want[i] ?? 0, digits),
      );
    near(
      bad.resistance.map((x, i) => x / (good.resistance[i] ?? 1)),
      R,
      3,
    );
    near(
      bad.voltage.map((x, i) => x / (good.voltage[i] ?? 1)),
      V,
      3,
    );
    bad.inductance.forEach((x, i) => expect(Math.sqrt((good.inductance[i] ?? 1) / x)).toBeCloseTo(f[i] ?? 0, 1));
    bad.inductance.forEach((x, i) =>
      expect(Math.abs(Math.sqrt((good.inductance[i] ?? 1) / x) - (f[i] ?? 0))).toBeLessThan(0.0051),
    );
    bad.current.forEach((x, i) => expect(Math.abs(x / (good.current[i] ?? 1) - (I[i] ?? 0))).toBeLessThan(0.0051));
  });
});
