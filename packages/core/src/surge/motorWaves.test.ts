import { describe, expect, it } from 'vitest';
import { bypassed, exchanged, openedCircuit, reversed } from '../network/mistakes.ts';
import { jointsOf, type Joint } from '../network/joints.ts';
import { connect } from '../winding/connection.ts';
import { layoutOf } from '../winding/layout.ts';
import { circuitOf, portsOf } from './motorWaves.ts';
import { circuitHz } from './simulatedWave.ts';

const layout = layoutOf({
  slots: 36,
  poles: 4,
  layers: 2,
  form: 'lap',
  poleGroups: 'every-pole',
  spanSlots: 8,
  turns: [10],
});
const made = (connection: 'wye' | 'delta', circuits = 1) =>
  connect(layout, { connection, circuits, jumper: 'adjacent-pole', leads: 3 });
const joints = (connection: 'wye' | 'delta', circuits = 1) => jointsOf(made(connection, circuits));

type Mode = Parameters<typeof portsOf>[2];
const ratios = (sound: Joint[], bad: Joint[], mode: Mode) => {
  const [a, b] = [portsOf(layout, sound, mode), portsOf(layout, bad, mode)];
  return a.map((p, i) => Math.sqrt(p.inductance / (b[i]?.inductance ?? NaN)));
};

describe('what the waves of a motor see', () => {
  // derived on the model of the ideal gap; the reference prints two of them to four places
  it.each([
    ['C61: wye, lead to lead, group 4 of U reversed', 'wye', 'lead to lead', [1.1273, 1, 1.1273]],
    ['wye, one against two', 'wye', 'one against two', [1.18, 1.05, 1.05]],
    ['delta, lead to lead', 'delta', 'lead to lead', [1.18, 1.04, 1.04]],
    ['C62: delta, one against two', 'delta', 'one against two', [1.1392, 1.1392, 1]],
  ] as const)('%s', (_, connection, mode, want) => {
    const sound = joints(connection);
    ratios(sound, reversed(sound, 4), mode).forEach((f, i) =>
      expect(Math.abs(f / (want[i] as number) - 1)).toBeLessThan((want[i] as number) % 0.01 === 0 ? 6e-3 : 1e-3 * 5),
    );
    if (mode === 'lead to lead' && connection === 'wye')
      expect(ratios(sound, reversed(sound, 4), mode)[0]).toBeCloseTo(1.1273, 3);
    if (mode === 'one against two' && connection === 'delta')
      expect(ratios(sound, reversed(sound, 4), mode)[0]).toBeCloseTo(1.1392, 3);
  });

  it.each([
    ['wye', 'lead to lead', [1.11, 1, 1.11]],
    ['wye', 'one against two', [1.15, 1.04, 1.04]],
    ['delta', 'lead to lead', [1.22, 1.04, 1.04]],
    ['delta', 'one against two', [1.17, 1.17, 1]],
  ] as const)('%s, %s: neighbouring groups of V and W exchanged look like U', (connection, mode, want) => {
    const sound = joints(connection);
    const groups = layout.groups.filter((g) => g.phase !== 'A').map((g) => g.number);
    const [b, c] = [groups[0] as number, groups[1] as number];
    ratios(sound, exchanged(sound, b, c), mode).forEach((f, i) => expect(f).toBeCloseTo(want[i] as number, 1.7));
  });

  it('as the network knows it: bypassed, and one of two circuits open', () => {
    const one = joints('wye');
    expect(ratios(one, bypassed(one, 4), 'lead to lead').map((f) => f.toFixed(2))).toEqual(['1.10', '1.00', '1.10']);
    const two = joints('wye', 2);
    const open = openedCircuit(two, made('wye', 2), 'A', 1);
    expect(ratios(two, open, 'lead to lead').map((f) => f.toFixed(2))).toEqual(['0.87', '1.00', '0.87']);
  });

  it('a shorted turn takes inductance from the waves that hold it, the more the less it resists', () => {
    const sound = portsOf(layout, joints('wye'), 'lead to lead');
    const bench = { farad: 0.1e-6, henryPerUnit: 1e-6, quality: 3 };
    const hz = (loopOhm: number) =>
      portsOf(layout, joints('wye'), 'lead to lead', { coil: 1, turns: 1, loopOhm }).map((p, i) =>
        circuitHz(circuitOf(p, sound[i] as never, bench, loopOhm)),
      );
    const healthy = sound.map((p) => circuitHz(circuitOf(p, p, bench)));
    const [hard, soft] = [hz(0), hz(0.05)];
    expect((hard[0] as number) / (healthy[0] as number)).toBeGreaterThan(1.01);
    expect(hard[0]).toBeGreaterThan(soft[0] as number);
    // coil 1 is of phase U: VW sees less of it than the two others
    expect((hard[1] as number) / (healthy[1] as number)).toBeLessThan((hard[0] as number) / (healthy[0] as number));
  });

  it('turns that are not there cannot be shorted', () => {
    const short = (coil: number, turns: number) => () =>
      portsOf(layout, joints('wye'), 'lead to lead', { coil, turns, loopOhm: 0 });
    expect(short(99, 1)).toThrow(/no coil 99/);
    expect(short(1, 11)).toThrow(/has 10 turns/);
    expect(short(1, 0)).toThrow(/has 10 turns/);
    expect(short(1, 10)).not.toThrow();
  });
});
