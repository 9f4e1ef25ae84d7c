import fc from 'fast-check';
import { draws } from '../../../../scripts/testing/draws.ts';
import { describe, expect, it } from 'vitest';
import { CalculationInputError } from '../calculation.ts';
import type { LayoutInput } from './layoutTypes.ts';
import { circuitLimitOf, layoutOf } from './layout.ts';
import { connect, deltaRingEmf, groupsPerPhase, possibleCircuits, readableCircuitLimit } from './connection.ts';
import { readConnection } from './readConnection.ts';
import { distributionFactor, pitchFactor, skewFactor, windingFactors, workingFactor } from './factors.ts';

const lap = (slots: number, poles: number, oneToN: number, more: Partial<LayoutInput> = {}): LayoutInput => ({
  slots,
  poles,
  layers: 2,
  form: 'lap',
  poleGroups: 'every-pole',
  spanSlots: oneToN - 1,
  turns: [1],
  ...more,
});
const single = (slots: number, poles: number, more: Partial<LayoutInput>): LayoutInput => ({
  slots,
  poles,
  layers: 1,
  form: 'lap',
  poleGroups: 'every-pole',
  turns: [1],
  ...more,
});

/** docs/derivations.md 4 (derived there by phasor sums; tables of section 5). */
describe('winding factors against the handbook table', () => {
  it.each([
    [36, 4, 9, 0.9452],
    [48, 4, 11, 0.925],
    [72, 6, 11, 0.925],
    [27, 6, 5, 0.9452],
    [30, 4, 7, 0.9099],
    [45, 8, 6, 0.9406],
    [48, 10, 5, 0.9231],
    [54, 10, 6, 0.949],
    [54, 8, 7, 0.941],
    [60, 8, 7, 0.9099],
    [72, 10, 7, 0.9227],
    [12, 10, 2, 0.933],
    [9, 8, 2, 0.9452],
    [12, 8, 2, 0.866],
    [9, 6, 2, 0.866],
    [18, 16, 2, 0.9452],
    [24, 22, 2, 0.9495],
    [12, 14, 2, 0.933],
    [15, 14, 2, 0.9514],
    [21, 20, 2, 0.9531],
    [36, 32, 2, 0.9452],
  ])('%d slots %d poles 1-%d double layer: %d', (slots, poles, oneToN, kw) => {
    expect(workingFactor(layoutOf(lap(slots, poles, oneToN)))).toBeCloseTo(kw, 4);
  });

  it.each([
    [24, 4, { spanSlots: 5 }, 0.9659],
    [18, 4, { spanSlots: 5 }, 0.9452],
    [12, 10, { spanSlots: 1 }, 0.9659],
    [24, 22, { spanSlots: 1 }, 0.9577],
    [36, 4, { spanSlots: 7 }, 0.9019],
    [36, 4, { spanSlots: 9 }, 0.9598],
    [36, 4, { form: 'concentric', poleGroups: 'consequent' }, 0.9598],
    [36, 4, { form: 'concentric' }, 0.9598],
    [48, 4, { form: 'concentric' }, 0.9577],
  ] as [number, number, Partial<LayoutInput>, number][])(
    '%d slots %d poles single layer %j: %d',
    (slots, poles, more, kw) => {
      expect(workingFactor(layoutOf(single(slots, poles, more)))).toBeCloseTo(kw, 4);
    },
  );

  it('consequent pole, 36 slots 8 poles 1-6 (two-speed low speed of section 3.3): 0.8312', () => {
    expect(workingFactor(layoutOf(lap(36, 8, 6, { poleGroups: 'consequent' })))).toBeCloseTo(0.8312, 4);
  });

  it('harmonics of 36 slots 4 poles 1-8 and 48 slots 4 poles 1-11', () => {
    const f8 = windingFactors(layoutOf(lap(36, 4, 8)), 7);
    expect(f8[6]?.size).toBeCloseTo(0.1359, 4);
    const f11 = windingFactors(layoutOf(lap(48, 4, 11)), 5);
    expect(f11[4]?.size).toBeCloseTo(0.0531, 4);
  });

  it('closed forms: distribution, pitch and skew (Say; section 5 tables)', () => {
    const kd = [1, 0.9659, 0.9598, 0.9577, 0.9567, 0.9561, 0.9558, 0.9556];
    kd.forEach((value, i) => expect(distributionFactor(i + 1, 60)).toBeCloseTo(value, 4));
    expect(distributionFactor(3, 120)).toBeCloseTo(0.844, 4);
    expect(Math.abs(pitchFactor(10, 12))).toBeCloseTo(0.9659, 4);
    expect(Math.abs(pitchFactor(7, 9, 5))).toBeCloseTo(0.1736, 4);
    expect(skewFactor(20, 1)).toBeCloseTo(0.9949, 4);
    expect(Math.abs(skewFactor(20, 17))).toBeCloseTo(0.0585, 4);
  });

  it('signed factors equal k_p · k_d of the closed forms for integer q', () => {
    for (const [S, P, n] of [
      [36, 4, 9],
      [36, 4, 8],
      [48, 4, 11],
      [24, 4, 6],
      [72, 6, 11],
    ] as const) {
      const q = S / (3 * P);
      for (const f of windingFactors(layoutOf(lap(S, P, n)), 31)) {
        if (f.order % 2 === 0) expect(f.size).toBeLessThan(1e-9);
        else expect(f.signed).toBeCloseTo(pitchFactor(n - 1, S / P, f.order) * distributionFactor(q, 60, f.order), 9);
      }
    }
  });
});

describe('spans and groups of single-layer forms (section 4.5)', () => {
  const spansOf = (input: LayoutInput) => {
    const layout = layoutOf(input);
    return layout.groups.map((g) => g.coils.map((n) => (layout.coils[n - 1]?.spanSlots ?? 0) + 1));
  };
  it('half-coiled 36 slots 4 poles: 1-12, 2-11, 3-10', () => {
    const groups = spansOf(single(36, 4, { form: 'concentric', poleGroups: 'consequent' }));
    expect(groups).toHaveLength(6);
    expect(groups[0]).toEqual([12, 10, 8]);
  });
  it('whole-coiled 48 slots 4 poles: 1-12 and 2-11', () => {
    expect(spansOf(single(48, 4, { form: 'concentric' }))[0]).toEqual([12, 10]);
  });
  it('whole-coiled 36 slots 4 poles: 1-10, 2-9 and 1-8 in turn', () => {
    const groups = spansOf(single(36, 4, { form: 'concentric' }));
    expect(groups[0]).toEqual([10, 8]);
    expect(groups[1]).toEqual([8]);
  });
  it('double-layer concentric has the slot contents of its lap winding', () => {
    const key = (input: LayoutInput) =>
      layoutOf(input)
        .sides.map((s) => `${s.slot}${s.layer}${s.phase}${s.sign}`)
        .sort()
        .join();
    expect(key(lap(36, 4, 9, { form: 'concentric' }))).toBe(key(lap(36, 4, 9)));
    expect(spansOf(lap(36, 4, 9, { form: 'concentric' }))[0]).toEqual([11, 9, 7]);
  });
  it('single-layer lap refuses an even span with the spans that would do', () => {
    expect(() => layoutOf(single(36, 4, { spanSlots: 8 }))).toThrow(CalculationInputError);
    expect(() => layoutOf(single(36, 4, { spanSlots: 8 }))).toThrow(/1-8 or 1-10/);
  });
});

/** Section 4.3 table. */
describe('circuit limits', () => {
  it.each([
    [36, 4, 4],
    [36, 6, 6],
    [72, 6, 6],
    [27, 6, 3],
    [30, 4, 2],
    [60, 8, 4],
    [45, 8, 1],
    [54, 8, 2],
    [54, 10, 2],
    [72, 10, 2],
    [12, 10, 2],
    [9, 8, 1],
    [18, 16, 2],
    [12, 8, 4],
  ])('%d/%d double layer: %d', (slots, poles, most) => {
    expect(circuitLimitOf(lap(slots, poles, 2))).toBe(most);
  });
  it('27 slots 6 poles: 3 circuits work with adjacent-pole jumpers only', () => {
    const found = possibleCircuits(layoutOf(lap(27, 6, 5))).find((x) => x.circuits === 3);
    expect(found?.jumpers).toEqual(['adjacent-pole']);
  });
  it('never offers more circuits than the star of slots allows', () => {
    for (const [S, P, n] of [
      [36, 4, 9],
      [36, 6, 6],
      [27, 6, 5],
      [48, 4, 11],
      [54, 6, 8],
      [72, 8, 9],
      [30, 4, 7],
    ] as const) {
      const layout = layoutOf(lap(S, P, n));
      for (const { circuits } of possibleCircuits(layout)) expect(layout.circuitLimit % circuits).toBe(0);
    }
  });
});

/** Section 8.3, printed examples. */
describe('connections as printed', () => {
  const make = (
    S: number,
    P: number,
    n: number,
    connection: 'wye' | 'delta',
    circuits: number,
    jumper: 'adjacent-pole' | 'skip-pole',
  ) => connect(layoutOf(lap(S, P, n)), { connection, circuits, jumper, leads: 3 });
  const said = (c: ReturnType<typeof make>, phase: string) =>
    c.circuits.filter((x) => x.phase === phase).map((x) => x.steps.map((s) => `${s.enter}-${s.leave}`).join(' '));
  const node = (c: ReturnType<typeof make>, name: string) => c.nodes.find((x) => x.name === name)?.ends;

  it('4 pole, 1 wye, 1-4', () => {
    const c = make(36, 4, 9, 'wye', 1, 'adjacent-pole');
    expect(said(c, 'A')).toEqual(['1S-1F 4F-4S 7S-7F 10F-10S']);
    expect(said(c, 'B')).toEqual(['3S-3F 6F-6S 9S-9F 12F-12S']);
    expect(said(c, 'C')).toEqual(['5S-5F 8F-8S 11S-11F 2F-2S']);
    expect(node(c, 'Y')).toEqual(['10S', '12S', '2S']);
  });
  it('4 pole, 1 wye, 1-7', () => {
    const c = make(36, 4, 9, 'wye', 1, 'skip-pole');
    expect(said(c, 'A')).toEqual(['1S-1F 7S-7F 4F-4S 10F-10S']);
    expect(said(c, 'C')).toEqual(['5S-5F 11S-11F 8F-8S 2F-2S']);
  });
  it('4 pole, 2 delta, 1-4 and 1-7', () => {
    const short = make(36, 4, 9, 'delta', 2, 'adjacent-pole');
    expect(node(short, 'T1')).toEqual(['1S', '7S', '8S', '2S']);
    expect(node(short, 'T2')).toEqual(['3S', '9S', '4S', '10S']);
    expect(node(short, 'T3')).toEqual(['5S', '11S', '6S', '12S']);
    const long = make(36, 4, 9, 'delta', 2, 'skip-pole');
    expect(node(long, 'T1')?.sort()).toEqual(['1S', '4F', '11F', '2S'].sort());
    expect(node(long, 'T2')?.sort()).toEqual(['3S', '6F', '7F', '10S'].sort());
  });
  it('6 pole, 3 delta, 1-4: what meets at T1', () => {
    expect(node(make(36, 6, 6, 'delta', 3, 'adjacent-pole'), 'T1')).toEqual(['1S', '7S', '13S', '8S', '14S', '2S']);
  });
  it('8 pole, 4 wye: 12 ends in the star, 4 jumpers a phase', () => {
    for (const jumper of ['adjacent-pole', 'skip-pole'] as const) {
      const c = make(48, 8, 6, 'wye', 4, jumper);
      expect(node(c, 'Y')).toHaveLength(12);
      expect(c.jumpers.filter((j) => j.phase === 'A')).toHaveLength(4);
    }
    expect(node(make(48, 8, 6, 'wye', 4, 'skip-pole'), 'T1')).toEqual(['1S', '13S', '4F', '16F']);
  });
  it('consequent pole, 8 poles 1 wye: every group entered at its start', () => {
    const layout = layoutOf(single(48, 8, { form: 'concentric', poleGroups: 'consequent' }));
    const c = connect(layout, { connection: 'wye', circuits: 1, jumper: 'adjacent-pole', leads: 3 });
    expect(c.circuits.map((x) => x.steps.map((s) => `${s.enter}-${s.leave}`).join(' '))).toEqual([
      '1S-1F 4S-4F 7S-7F 10S-10F',
      '2S-2F 5S-5F 8S-8F 11S-11F',
      '3S-3F 6S-6F 9S-9F 12S-12F',
    ]);
  });
  it('refuses circuits that would not be equal and says which would', () => {
    expect(() => make(36, 4, 9, 'wye', 3, 'adjacent-pole')).toThrow(/1 \(.*2 \(.*4 \(/);
  });
  it('delta ring: nothing when right, twice the phase EMF with one phase reversed (check 72)', () => {
    const layout = layoutOf(lap(36, 4, 9));
    expect(deltaRingEmf(layout)).toBeLessThan(1e-9);
    expect(deltaRingEmf(layout, 'B')).toBeCloseTo(2, 9);
  });
});

/** Section 3.1; its table of candidates is checked with readConnection. */
describe('ends per lead', () => {
  it('27 slots 6 poles, 6 ends: 3-circuit delta only (check 6)', () => {
    const layout = layoutOf(lap(27, 6, 5));
    const read = readConnection({
      leads: '3',
      endsPerLead: 6,
      circuitLimit: readableCircuitLimit(layout),
      groupsPerPhase: groupsPerPhase(layout),
    });
    expect(read.candidates.map((c) => c.say)).toEqual(['3-circuit delta']);
  });
});

describe('tooth coils', () => {
  it('coil and group go by the tooth: every one in two layers, every second in one', () => {
    const of = (layers: 1 | 2, slots = 12, poles = 10) =>
      layoutOf({ slots, poles, layers, form: 'lap', poleGroups: 'every-pole', spanSlots: 1, turns: [60] });
    expect(of(2).groups.map((g) => g.number)).toEqual(Array.from({ length: 12 }, (_, i) => i + 1));
    expect(of(1).groups.map((g) => g.number)).toEqual([1, 3, 5, 7, 9, 11]);
    for (const layout of [of(2), of(1), of(2, 9, 8), of(2, 18, 16)])
      for (const g of layout.groups) {
        const coil = layout.coils[(g.coils[0] ?? 0) - 1];
        expect([coil?.goSlot, coil?.group]).toEqual([g.number, g.number]);
      }
  });
});

describe('properties of every layout', () => {
  const anyMachine = fc
    .record({
      slots: fc.integer({ min: 6, max: 144 }),
      pairs: fc.integer({ min: 1, max: 24 }),
      short: fc.double({ min: 0.6, max: 1, noNaN: true }),
    })
    .filter(({ slots, pairs }) => slots >= pairs)
    .map(({ slots, pairs, short }) => ({
      slots,
      poles: 2 * pairs,
      span: Math.max(1, Math.floor((slots / (2 * pairs)) * short)),
    }));
  const gcd = (a: number, b: number): number => (b === 0 ? a : gcd(b, a % b));

  it('is balanced exactly when slots divide by three times the repeats', () => {
    fc.assert(
      fc.property(anyMachine, ({ slots, poles, span }) => {
        const layout = layoutOf(lap(slots, poles, span + 1));
        const t = gcd(slots, poles / 2);
        const vanishes = workingFactor(layout) < 1e-9;
        fc.pre(!vanishes);
        expect(layout.balance.balanced).toBe(slots % (3 * t) === 0);
      }),
      { numRuns: draws(300) },
    );
  });
  it('fills every slot with two coil sides and owns every coil once', () => {
    fc.assert(
      fc.property(anyMachine, ({ slots, poles, span }) => {
        const layout = layoutOf(lap(slots, poles, span + 1));
        expect(layout.sides).toHaveLength(2 * slots);
        expect(layout.groups.flatMap((g) => g.coils).sort((a, b) => a - b)).toEqual(layout.coils.map((c) => c.number));
      }),
      { numRuns: draws(100) },
    );
  });
  it('slot harmonics have the working factor (section 5)', () => {
    fc.assert(
      fc.property(anyMachine, ({ slots, poles, span }) => {
        const layout = layoutOf(lap(slots, poles, span + 1));
        const p = poles / 2;
        // order n = S ± p in mechanical terms is electrical order (S ± p)/p where that is whole
        fc.pre(slots % p === 0);
        const factors = windingFactors(layout, slots / p + 1);
        expect(factors[slots / p]?.size).toBeCloseTo(factors[0]?.size ?? 0, 9);
      }),
      { numRuns: draws(100) },
    );
  });
  it('equals a plain complex sum for every order', () => {
    fc.assert(
      fc.property(anyMachine, ({ slots, poles, span }) => {
        const layout = layoutOf(lap(slots, poles, span + 1));
        for (const f of windingFactors(layout, 25)) {
          let re = 0;
          let im = 0;
          let turns = 0;
          for (const c of layout.coils.filter((x) => x.phase === 'A')) {
            const n = f.order * (poles / 2);
            const a = (2 * Math.PI * n * (c.goSlot - 1)) / slots;
            const b = (2 * Math.PI * n * (c.returnSlot - 1)) / slots;
            re += c.sign * (Math.cos(a) - Math.cos(b));
            im += c.sign * (Math.sin(a) - Math.sin(b));
            turns += 1;
          }
          expect(f.size).toBeCloseTo(Math.hypot(re, im) / (2 * turns), 9);
        }
      }),
      { numRuns: draws(40) },
    );
  });
  it('joins every group end exactly once, whatever the circuits and jumpers', () => {
    fc.assert(
      fc.property(
        fc.constantFrom([36, 4, 9], [48, 4, 11], [36, 6, 6], [72, 8, 9], [24, 2, 11], [60, 4, 13]),
        fc.constantFrom('wye', 'delta'),
        fc.constantFrom(3, 6),
        ([S, P, n], connection, leads) => {
          const layout = layoutOf(lap(S as number, P as number, n as number));
          for (const { circuits, jumpers } of possibleCircuits(layout)) {
            for (const jumper of jumpers) {
              const c = connect(layout, {
                connection: connection as 'wye' | 'delta',
                circuits,
                jumper,
                leads: leads as 3 | 6,
              });
              const all = [...c.nodes.flatMap((x) => x.ends), ...c.jumpers.flatMap((j) => [j.from, j.to])].sort();
              expect(all).toEqual(layout.groups.flatMap((g) => [`${g.number}S`, `${g.number}F`]).sort());
            }
          }
        },
      ),
    );
  });
});
