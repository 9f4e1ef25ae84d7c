import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { runCalculation } from '../calculation.ts';
import { add, angleDegOf, polar, scale, sizeOf, subtract, type Complex } from './complex.ts';
import { connect, type Connection } from './connection.ts';
import { leadMark, LINKS, type LinkRow } from './leadMarks.ts';
import { feasibilityOf } from './feasibility.ts';
import { gcd } from './integers.ts';
import type { Layout, LayoutInput } from './layoutTypes.ts';
import { layoutOf } from './layout.ts';
import { gradedSpans, sinusoidalTurns, windingSinusoidalTurns } from './singlePhase.ts';
import { DUTIES, highSpeedLayout, twoSpeedOf } from './twoSpeed.ts';
import { windingFactors, workingFactor } from './factors.ts';

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

describe('feasibility (docs/derivations.md 3: phasor sums for every core)', () => {
  it.each([
    [36, 4, true],
    [36, 8, true],
    [48, 6, false],
    [24, 6, false],
    [30, 4, true],
    [36, 10, true],
    [27, 6, true],
    [45, 8, true],
    [72, 10, true],
    [12, 10, true],
    [9, 8, true],
    [12, 6, false],
    [9, 4, true],
  ])('%d slots %d poles: %s', (S, P, ok) => {
    const found = feasibilityOf(S, P);
    expect(found.feasible).toBe(ok);
    if (!ok) {
      for (const s of found.nearestSlots) expect(feasibilityOf(s, P).feasible).toBe(true);
      for (const p of found.nearestPoles) expect(feasibilityOf(S, p).feasible).toBe(true);
      expect(found.nearestSlots.length).toBeGreaterThan(0);
    }
  });
  it('48 slots 6 poles nearly balanced: negative 0.53 %, zero 1.24 %, equal coils (docs/derivations.md 3)', () => {
    const near = feasibilityOf(48, 6, 8).nearlyBalanced;
    expect(near?.balance.negativeSequencePercent).toBeCloseTo(0.53, 1);
    expect(near?.zeroSequencePercent).toBeCloseTo(1.24, 1);
    expect(near?.balance.phases.map((p) => p.coils)).toEqual([16, 16, 16]);
    const sizes = [...(near?.balance.phases.map((p) => p.size) ?? [])].sort((a, b) => a - b);
    // 15.258 / 15.258 / 15.095 coils
    expect((sizes[0] ?? 0) / (sizes[2] ?? 1)).toBeCloseTo(15.095 / 15.258, 3);
    const layout = layoutOf(lap(48, 6, 9, { grouping: near?.grouping }));
    expect(layout.groups.map((g) => g.coils.length)).toEqual(near?.grouping);
    expect(layout.balance.negativeSequencePercent).toBeCloseTo(near?.balance.negativeSequencePercent ?? 0, 9);
  });
  it('plain repetition gives 18, 12 and 18 coils', () => {
    expect(
      layoutOf(lap(48, 6, 9))
        .balance.phases.map((p) => p.coils)
        .sort(),
    ).toEqual([12, 18, 18]);
  });
});

describe('balance of every feasible layout up to 144 slots and 48 poles', () => {
  it('phases are equal and 120 degrees apart', () => {
    let tried = 0;
    for (let S = 6; S <= 144; S += 3)
      for (let P = 2; P <= 48; P += 2) {
        if (S % (3 * gcd(S, P / 2)) !== 0) continue;
        const y = Math.max(1, Math.floor(S / P));
        if (y >= S || Math.abs(Math.sin((Math.PI / 2) * ((y * P) / S))) < 1e-6) continue;
        tried += 1;
        const layout = layoutOf(lap(S, P, y + 1));
        expect(layout.balance.balanced, `${S}/${P}`).toBe(true);
        expect(new Set(layout.balance.phases.map((p) => p.coils)).size).toBe(1);
      }
    expect(tried).toBeGreaterThan(500);
  });
  it('slot harmonics have the working wave’s factor', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 40 }),
        fc.integer({ min: 1, max: 6 }),
        fc.integer({ min: 1, max: 12 }),
        (third, p, y) => {
          const S = 3 * third;
          fc.pre(S % (3 * gcd(S, p)) === 0 && y < S && S >= 6);
          const layout = layoutOf(lap(S, 2 * p, y + 1));
          const k = workingFactor(layout);
          fc.pre(k > 1e-6 && S % p === 0);
          const order = S / p + 1;
          expect(windingFactors(layout, order)[order - 1]?.size).toBeCloseTo(k, 9);
        },
      ),
    );
  });
});

/** docs/derivations.md 5, after Veinott. */
describe('sinusoidal turns', () => {
  it.each([
    [9, [8, 7 - 1, 4, 2], [34.73, 30.54, 22.67, 12.06], 0.7935],
    [9, [8, 6, 4], [39.49, 34.73, 25.78], 0.8554],
    [9, [9, 7, 5, 3], [18.48, 34.73, 28.31, 18.48], 0.8204],
    [9, [9, 7, 5, 3, 1], [17.36, 32.64, 26.6, 17.36, 6.03], 0.7814],
    [6, [5, 3, 1], [50, 36.6, 13.4], 0.7765],
    [6, [5, 3], [57.74, 42.26], 0.8565],
    [6, [6, 4, 2], [26.79, 46.41, 26.79], 0.8038],
    [12, [11, 9, 7, 5, 3, 1], [25.88, 24.12, 20.71, 15.89, 9.99, 3.41], 0.7832],
    [12, [11, 9, 7, 5], [29.89, 27.85, 23.91, 18.35], 0.855],
    [12, [12, 10, 8, 6], [16.45, 31.78, 28.5, 23.27], 0.8828],
    [4, [3, 1], [70.71, 29.29], 0.7654],
    [18, [17, 15, 13, 11, 9], [22.67, 21.98, 20.62, 18.64, 16.09], 0.8915],
  ])('pole pitch %d, spans %j', (pitch, spans, percent, factor) => {
    const made = sinusoidalTurns(pitch, spans, 200);
    made.coils.forEach((c, i) => expect(c.percent).toBeCloseTo(percent[i] ?? 0, 2));
    expect(made.factor).toBeCloseTo(factor, 4);
  });
  it('whole turns keep the total and stay within one of the exact share', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 3, max: 18 }),
        fc.integer({ min: 1, max: 8 }),
        fc.integer({ min: 10, max: 600 }),
        fc.boolean(),
        (pitch, coils, total, full) => {
          const spans = gradedSpans(pitch, coils, full);
          fc.pre((spans.at(-1) ?? 0) >= 1);
          const made = sinusoidalTurns(pitch, spans, total);
          expect(made.coils.reduce((a, c) => a + c.turns, 0)).toBe(total);
          for (const c of made.coils) expect(Math.abs(c.turns - (c.percent * total) / 100)).toBeLessThan(1 + 1e-9);
        },
      ),
    );
  });
  it('too many coils for the pole are refused with the most that fit', () => {
    expect(() => runCalculation(windingSinusoidalTurns, { slots: 24, poles: 4, coils: 4, totalTurns: 100 })).toThrow(
      /at most 3/,
    );
  });
});

const singlePhase = (more: Partial<LayoutInput> = {}): LayoutInput => ({
  kind: 'single-phase',
  slots: 24,
  poles: 4,
  layers: 2,
  form: 'concentric',
  poleGroups: 'every-pole',
  spansSlots: [5, 3],
  turns: [40, 30],
  auxiliary: { spansSlots: [5, 3], turns: [50, 36] },
  ...more,
});
describe('single-phase windings', () => {
  it('main and auxiliary stand 90 degrees apart, every pole has its groups', () => {
    const layout = layoutOf(singlePhase());
    expect(layout.phases).toEqual(['A', 'B']);
    expect(layout.groups).toHaveLength(8);
    const axis = (phase: 'A' | 'B') =>
      angleDegOf(
        layout.coils
          .filter((c) => c.phase === phase)
          .reduce<Complex>(
            (sum, c) =>
              add(
                sum,
                subtract(
                  polar(c.sign * c.turns, (c.goSlot - 1) * 30),
                  polar(c.sign * c.turns, (c.returnSlot - 1) * 30),
                ),
              ),
            { re: 0, im: 0 },
          ),
      );
    expect((axis('B') - axis('A') + 360) % 360).toBeCloseTo(90, 9);
    // effective turns from the sines, as the bench reckons them
    const kw = (40 * Math.sin((75 * Math.PI) / 180) + 30 * Math.sin((45 * Math.PI) / 180)) / 70;
    expect(workingFactor(layout)).toBeCloseTo(kw, 12);
  });
  it('an odd pole pitch wants even spans of one and odd spans of the other', () => {
    expect(() =>
      layoutOf(singlePhase({ slots: 36, spansSlots: [8, 6], auxiliary: { spansSlots: [8, 6], turns: [9] } })),
    ).toThrow(/half a pole apart/);
    const fits = layoutOf(
      singlePhase({ slots: 36, spansSlots: [8, 6], auxiliary: { spansSlots: [7, 5], turns: [9] } }),
    );
    expect(fits.coils).toHaveLength(16);
  });
  it('consequent pole has half the groups; a main alone is a winding too', () => {
    const one = layoutOf(singlePhase({ poleGroups: 'consequent', auxiliary: undefined }));
    expect(one.phases).toEqual(['A']);
    expect(one.groups).toHaveLength(2);
  });
  it('refuses slots that do not divide and turn counts that do not fit', () => {
    expect(() => layoutOf(singlePhase({ slots: 26 }))).toThrow(/do not divide by 4 poles/);
    expect(() => layoutOf(singlePhase({ turns: [1, 2, 3] }))).toThrow(/3 turn counts for 2 coils/);
  });
  it('is joined with leads of its own', () => {
    const made = connect(layoutOf(singlePhase()), {
      connection: 'wye',
      circuits: 2,
      jumper: 'adjacent-pole',
      leads: 3,
      partWinding: false,
    });
    expect(made.nodes.map((n) => n.name)).toEqual(['U1', 'U2', 'Z1', 'Z2']);
    expect(made.circuits.filter((c) => c.phase === 'A')).toHaveLength(2);
    expect(leadMark('Z1', 'T', 'single-phase')).toBe('T5');
  });
});

describe('two speeds from one winding', () => {
  it('36 slots 8/4 poles 1-6: factors and flux ratios (docs/derivations.md 2)', () => {
    const two = twoSpeedOf(layoutOf(lap(36, 8, 6, { kind: 'two-speed' })));
    expect(two.lowFactor).toBeCloseTo(0.8312, 4);
    expect(two.highFactor).toBeCloseTo(0.7352, 4);
    expect(two.fluxRatio['constant torque']).toBeCloseTo(0.6527, 3);
    expect(two.fluxRatio['variable torque']).toBeCloseTo(1.131, 3);
    expect(two.fluxRatio['constant power']).toBeCloseTo(0.49, 3);
    expect(two.highBalanced).toBe(true);
    expect(two.spaceOrderReversed).toBe(true);
  });
  it.each([
    [24, 4],
    [36, 4],
    [48, 8],
    [72, 12],
    [54, 12],
  ])('%d slots, %d poles at the low speed: balanced at both, space order reversed', (S, P) => {
    const layout = layoutOf(lap(S, P, Math.round((0.7 * S) / (P / 2)) + 1, { kind: 'two-speed' }));
    const two = twoSpeedOf(layout);
    expect(layout.balance.balanced).toBe(true);
    expect(two.highBalanced).toBe(true);
    expect(two.spaceOrderReversed).toBe(true);
    expect(workingFactor(highSpeedLayout(layout))).toBeCloseTo(two.highFactor, 9);
  });
  it('6 poles cannot be halved', () => {
    expect(() => twoSpeedOf(layoutOf(lap(36, 6, 7, { kind: 'two-speed' })))).toThrow(/halve to 3/);
  });
});

/** EMF potentials of the leads for one way of linking them; throws when a closed loop has a voltage left over. */
function lineVoltages(layout: Layout, made: Connection, row: LinkRow, poles: number): Complex[] {
  const parent = new Map<string, string>();
  const find = (x: string): string => {
    const up = parent.get(x) ?? x;
    return up === x ? x : find(up);
  };
  const lines = row.lines.map((l) => l.split('-'));
  for (const set of [...lines, ...row.links.map((l) => l.split('-'))])
    for (const name of set) parent.set(find(name), find(set[0] ?? name));
  const emf = (steps: Connection['circuits'][number]['steps']): Complex =>
    steps.reduce<Complex>(
      (sum, step) => {
        const group = layout.groups.find((g) => g.number === step.group);
        const raw = (group?.coils ?? []).reduce<Complex>(
          (s, n) => {
            const coil = layout.coils[n - 1];
            if (!coil) return s;
            const a = (180 * poles) / layout.slots;
            return add(
              s,
              subtract(polar(coil.turns, (coil.goSlot - 1) * a), polar(coil.turns, (coil.returnSlot - 1) * a)),
            );
          },
          { re: 0, im: 0 },
        );
        return add(sum, scale(raw, step.enter.endsWith('S') ? 1 : -1));
      },
      { re: 0, im: 0 },
    );
  const branches = made.circuits.map((c) => ({ a: find(c.from), b: find(c.to), e: emf(c.steps) }));
  const at = new Map<string, Complex>([[find(lines[0]?.[0] ?? ''), { re: 0, im: 0 }]]);
  for (let round = 0; round < branches.length + 1; round++)
    for (const { a, b, e } of branches) {
      const va = at.get(a);
      const vb = at.get(b);
      if (va && !vb) at.set(b, subtract(va, e));
      if (vb && !va) at.set(a, add(vb, e));
      if (va && vb && sizeOf(subtract(subtract(va, vb), e)) > 1e-6)
        throw new Error(`circulating voltage in ${row.use}`);
    }
  return lines.map((l) => at.get(find(l[0] ?? '')) as Complex);
}
/** Line voltage and whether L1, L2, L3 follow each other forward; fails when the three are not a balanced set. */
function judged(v: Complex[]): { size: number; forward: boolean } {
  const [a, b, c] = [
    subtract(v[0] as Complex, v[1] as Complex),
    subtract(v[1] as Complex, v[2] as Complex),
    subtract(v[2] as Complex, v[0] as Complex),
  ];
  const sizes = [a, b, c].map(sizeOf);
  for (const s of sizes) expect(s / (sizes[0] ?? 1)).toBeCloseTo(1, 9);
  const turn = (angleDegOf(b) - angleDegOf(a) + 360) % 360;
  expect([120, 240].some((x) => Math.abs(x - turn) < 1e-6)).toBe(true);
  return { size: sizes[0] ?? 0, forward: Math.abs(turn - 120) < 1e-6 };
}

describe('link tables as graphs (lead marks as published, docs/sources.md: NEMA MG 1, from memory; every row checked)', () => {
  const layout = layoutOf(lap(36, 4, 9));
  const half =
    sizeOf(
      layout.coils
        .filter((c) => c.phase === 'A')
        .reduce<Complex>(
          (s, c) => add(s, subtract(polar(c.sign, (c.goSlot - 1) * 20), polar(c.sign, (c.returnSlot - 1) * 20))),
          { re: 0, im: 0 },
        ),
    ) / 2;
  const make = (connection: 'wye' | 'delta', leads: 6 | 9 | 12, more: object = {}) =>
    connect(layout, { connection, circuits: 1, jumper: 'adjacent-pole', leads, partWinding: false, ...more });
  const root3 = Math.sqrt(3);
  it.each([
    ['6 leads', make('wye', 6), LINKS['6'], [2 * root3, 2]],
    ['9 leads, wye', make('wye', 9), LINKS['9 wye'], [2 * root3, root3, root3, root3]],
    ['9 leads, delta', make('delta', 9), LINKS['9 delta'], [2, 1]],
    ['12 leads', make('delta', 12), LINKS['12'], [2, 2 * root3, 1, root3]],
    ['part-winding', make('wye', 6, { partWinding: true }), LINKS['part-winding'], [root3, root3]],
  ] as const)('%s: line voltages in halves of a phase, all turning the same way', (_, made, rows, wanted) => {
    expect(made.links).toEqual(rows);
    rows.forEach((row, i) => {
      const found = judged(lineVoltages(layout, made, row as unknown as LinkRow, 4));
      expect(found.size / half, row.use).toBeCloseTo(wanted[i] ?? 0, 9);
      expect(found.forward).toBe(true);
    });
  });
  it('ends at the leads: nine-lead delta has twice as many at T1 to T3; stars hold three for each circuit', () => {
    const delta = make('delta', 9);
    expect(delta.nodes.map((n) => [n.name, n.ends.length])).toEqual([
      ['T1', 2],
      ['T2', 2],
      ['T3', 2],
      ['T4', 1],
      ['T5', 1],
      ['T6', 1],
      ['T7', 1],
      ['T8', 1],
      ['T9', 1],
    ]);
    expect(make('wye', 9).nodes.find((n) => n.kind === 'star')?.ends).toHaveLength(3);
    expect(make('wye', 12).nodes).toHaveLength(12);
    expect(make('wye', 6, { partWinding: true }).nodes.filter((n) => n.kind === 'star')).toHaveLength(2);
  });
  it('halves that cannot be equal are refused', () => {
    expect(() =>
      connect(layoutOf(lap(45, 8, 6)), {
        connection: 'wye',
        circuits: 1,
        jumper: 'adjacent-pole',
        leads: 9,
        partWinding: false,
      }),
    ).toThrow(/Two halves of 1 circuits/);
  });
  it.each(DUTIES)('two speeds, %s: both speeds balanced and turning the same way', (duty) => {
    for (const [S, P, n] of [
      [36, 8, 6],
      [48, 8, 8],
      [24, 4, 7],
    ] as const) {
      const two = layoutOf(lap(S, P, n, { kind: 'two-speed' }));
      const made = connect(two, {
        connection: 'delta',
        circuits: 1,
        jumper: 'skip-pole',
        leads: 6,
        partWinding: false,
        duty,
      });
      const [low, high] = made.links as [LinkRow, LinkRow];
      const slow = judged(lineVoltages(two, made, low, P));
      const fast = judged(lineVoltages(two, made, high, P / 2));
      expect(fast.forward, `${S}/${P} ${duty}`).toBe(slow.forward);
      // flux at equal line voltage and frequency: B ∝ P / EMF per unit flux
      const ratio = slow.size / P / (fast.size / (P / 2));
      expect(ratio).toBeCloseTo(twoSpeedOf(two).fluxRatio[duty], 9);
    }
  });
});
