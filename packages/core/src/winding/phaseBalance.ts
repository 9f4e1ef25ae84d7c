import { add, polar, sizeOf, subtract, type Complex } from './complex.ts';
import type { Balance, Coil, Group, Layout } from './layoutTypes.ts';

/** EMF phasor of a coil of the working wave, in turns; signed by its polarity. */
export function coilPhasor(coil: Coil, slots: number, poles: number): Complex {
  const degrees = (180 * poles) / slots;
  const go = polar(coil.sign * coil.turns, (coil.goSlot - 1) * degrees);
  const back = polar(coil.sign * coil.turns, (coil.returnSlot - 1) * degrees);
  return subtract(go, back);
}

/** EMF phasor of a group from its start to its finish, in turns, whatever the polarity of its place. */
export function groupEmf(layout: Layout, group: Group, poles = layout.poles): Complex {
  return group.coils.reduce<Complex>(
    (sum, n) => {
      const coil = layout.coils[n - 1];
      return coil ? add(sum, coilPhasor({ ...coil, sign: 1 }, layout.slots, poles)) : sum;
    },
    { re: 0, im: 0 },
  );
}

/** How equal the phases of a coil table are, for a number of poles. */
export function balanceOf(coils: Coil[], slots: number, poles: number): Balance {
  const sums = (['A', 'B', 'C'] as const).map((phase) => {
    const own = coils.filter((c) => c.phase === phase);
    const sum = own.reduce<Complex>((acc, c) => add(acc, coilPhasor(c, slots, poles)), { re: 0, im: 0 });
    return { phase, coils: own.length, turns: own.reduce((n, c) => n + c.turns, 0), sum };
  });
  const [a, b, c] = sums.map((s) => s.sum) as [Complex, Complex, Complex];
  const turn = (v: Complex, deg: number): Complex => {
    const r = polar(1, deg);
    return { re: v.re * r.re - v.im * r.im, im: v.re * r.im + v.im * r.re };
  };
  // phase axes stand at 0, +120, +240 degrees: positive sequence turns B back by 120
  const positive = sizeOf(add(add(a, turn(b, -120)), turn(c, -240)));
  const negative = sizeOf(add(add(a, turn(b, 120)), turn(c, 240)));
  const largest = Math.max(...sums.map((s) => sizeOf(s.sum)));
  const angleA = Math.atan2(a.im, a.re);
  const phases = sums.map((s) => ({
    phase: s.phase,
    coils: s.coils,
    turns: s.turns,
    size: largest > 0 ? sizeOf(s.sum) / largest : 0,
    angleDeg: ((((Math.atan2(s.sum.im, s.sum.re) - angleA) * 180) / Math.PI + 360.0000001) % 360) - 0.0000001,
  }));
  const share = positive > 0 ? (100 * negative) / positive : 100;
  const spread = Math.max(...phases.map((x) => Math.abs(x.size - 1)));
  const angles = Math.max(...phases.map((x, i) => Math.abs(x.angleDeg - 120 * i)));
  return { balanced: share < 1e-7 && spread < 1e-9 && angles < 1e-6, phases, negativeSequencePercent: share };
}
