import { layoutOf, PHASES, windingFactors, type Layout } from '@norther/core';
import { type Figure, median } from './figure.ts';

/** The plain way: a complex sum over every slot for every order and phase. */
function plainFactors(layout: Layout, highest: number): number {
  let sum = 0;
  for (const phase of PHASES) {
    const net = new Array<number>(layout.slots).fill(0);
    let turns = 0;
    for (const c of layout.coils) {
      if (c.phase !== phase) continue;
      net[c.goSlot - 1] = (net[c.goSlot - 1] ?? 0) + c.sign * c.turns;
      net[c.returnSlot - 1] = (net[c.returnSlot - 1] ?? 0) - c.sign * c.turns;
      turns += c.turns;
    }
    for (let order = 1; order <= highest; order++) {
      let re = 0;
      let im = 0;
      for (let s = 0; s < layout.slots; s++) {
        const angle = (2 * Math.PI * order * (layout.poles / 2) * s) / layout.slots;
        re += (net[s] ?? 0) * Math.cos(angle);
        im += (net[s] ?? 0) * Math.sin(angle);
      }
      sum += Math.hypot(re, im) / (2 * turns);
    }
  }
  return sum;
}

/** Layout and factors to the 100th harmonic of windings up to 144 slots. */
export function benchLayout(): Figure[] {
  const input = (slots: number, poles: number) =>
    ({
      slots,
      poles,
      layers: 2,
      form: 'lap',
      poleGroups: 'every-pole',
      spanSlots: Math.floor((slots / poles) * 0.85),
      turns: [10],
    }) as const;
  const at = (slots: number, poles: number) => {
    const whole = median(() => windingFactors(layoutOf({ ...input(slots, poles), turns: [10] }), 100));
    const layout = layoutOf({ ...input(slots, poles), turns: [10] });
    return {
      whole,
      factors: median(() => windingFactors(layout, 100)),
      plain: median(() => plainFactors(layout, 100)),
    };
  };
  const large = at(144, 8);
  const small = at(24, 4);
  const growth = large.whole / small.whole;
  return [
    {
      name: 'layout and factors to the 100th harmonic, 144 slots',
      value: `${large.whole.toFixed(3)} ms (plain sum alone ${large.plain.toFixed(3)} ms)`,
      ratio: large.plain / large.whole,
      must: 'at least 10 times as fast as the plain sum',
      holds: large.plain / large.whole >= 10,
    },
    {
      name: 'growth from 24 to 144 slots',
      value: `${small.whole.toFixed(3)} -> ${large.whole.toFixed(3)} ms`,
      ratio: growth / 6,
      must: 'no faster than slots × orders: at most 1.5 × the sixfold',
      holds: growth <= 9,
    },
  ];
}
