import { describe, expect, it } from 'vitest';
import { bench, entry, HIDDEN, QUIET, setUp } from '../../../../scripts/testing/standBench.ts';
import { balanceNow, type BalanceNow } from './session.ts';
import type { BalanceSetUp } from './setUp.ts';
import { polar } from '../winding/complex.ts';
import { vectorOf } from './planes.ts';

type Reading = { size: number; angleDeg: number };
const direct = (planesMore: object[], readings: Reading[], more: object = {}): BalanceNow => {
  const of = setUp({
    readings: 'unbalance per plane',
    planes: planesMore.map((p, i) => ({ xMm: i === 0 ? 80 : 320, radiusMm: 60, ...p })),
    ...(planesMore.length === 1 ? { bodyMm: 40 } : {}),
    ...more,
  });
  return balanceNow(of, [entry({ kind: 'run', readings })]);
};
const OUT: Reading[] = [
  { size: 600, angleDeg: 100 },
  { size: 1, angleDeg: 0 },
];

describe('the next step in words', () => {
  // 600 g·mm at 60 mm: shares of the neighbours by sines, depths by hand from section 11 of the balancing reference
  it.each([
    [{}, 'fix 10 g at 280°'],
    [{ places: 8, called: 'stud' }, 'fix 8.112 g at stud 7 (270°) and 2.456 g at stud 8 (315°)'],
    [{ way: 'drill' }, 'drill 8 mm 38 mm deep'],
    [{ way: 'drill', drillMm: 12 }, 'drill 12 mm 15 mm deep'],
    [{ way: 'mill a flat' }, 'mill a flat 2.73 mm deep over 20 mm'],
    [{ way: 'mill a flat', lengthMm: 31 }, ' mm deep over 31 mm at 100°'],
    [{ way: 'mill tooth tops' }, ' mm deep over 20 mm at 100°'],
    [{ way: 'mill tooth tops', widthMm: 6 }, 'mill 11.8 mm deep'],
  ])('%j: %s', (more, says) => {
    expect(direct([more, {}], OUT).next?.[0]?.says).toContain(says);
  });
  it('a drill says nothing of a length; a plane with little in it is left alone', () => {
    const is = direct([{ way: 'drill' }, {}], [OUT[0] as Reading, { size: 0, angleDeg: 0 }]);
    expect(is.next?.[0]?.says).not.toContain('over');
    expect(is.next?.[1]?.says).toBe('Plane 2 (other side): leave it as it is.');
    expect(is.next?.[0]?.atDeg).toBeCloseTo(100, 9);
    expect(direct([{}, {}], OUT).next?.[0]?.atDeg).toBeCloseTo(280, 9);
  });
  it('names the ends by where the drive end is; one plane has no side', () => {
    const side = (more: object) => direct([{}, {}], OUT, more).next?.[0]?.says;
    expect(side({ driveEnd: 'B' })).toMatch(/^Plane 1 \(other side\)/);
    expect(side({ view: 'other end' })).toMatch(/seen from the other end\.$/);
    expect(direct([{}], [OUT[0] as Reading]).next?.[0]?.says).toMatch(/^Plane 1, radius 60 mm: fix/);
  });
  it('three masses are told as a list', () => {
    const is = direct([{ places: 6, mostG: 4 }, {}], OUT);
    expect(is.next?.[0]?.masses.length).toBeGreaterThan(2);
    expect(is.next?.[0]?.says).toMatch(/\d g at place \d \([\d.]+°\), [\d.]+ g at place .* and [\d.]+ g at place \d/);
  });
  it('what one place holds is grams at its radius', () => {
    const is = direct(
      [{ places: 4, mostG: 3 }, {}],
      [
        { size: 200, angleDeg: 180 },
        { size: 1, angleDeg: 0 },
      ],
    );
    // 200 g·mm wanted at 0°, one place holds 180 of it
    expect(is.next?.[0]?.masses[0]?.massG).toBeCloseTo(3, 9);
    const anywhere = direct(
      [{ mostG: 3 }, {}],
      [
        { size: 200, angleDeg: 180 },
        { size: 1, angleDeg: 0 },
      ],
    );
    expect(anywhere.next?.[0]?.masses[0]).toMatchObject({
      massG: expect.closeTo(3, 9) as number,
      gMm: expect.closeTo(180, 9) as number,
    });
    expect(anywhere.expectedGMm?.[0]).toBeLessThan(20);
  });
  it('a hole too shallow for what is wanted says so, and what is left at each bearing', () => {
    const is = direct(
      [{ way: 'drill', mostDepthMm: 5, drillMm: 6 }, {}],
      [
        { size: 900, angleDeg: 0 },
        { size: 0, angleDeg: 0 },
      ],
    );
    const left =
      (is.next?.[0]?.wanted.size ?? 0) -
      vectorOf(
        (is.next?.[0]?.masses ?? [])
          .map((m) => polar(m.gMm, m.angleDeg))
          .reduce((a, b) => ({ re: a.re + b.re, im: a.im + b.im })),
      ).size;
    // plane 1 stands at a fifth of the span: bearing A feels four fifths of it
    expect(is.expectedGMm?.[0]).toBeCloseTo(0.8 * left, 6);
    expect(is.expectedGMm?.[1]).toBeCloseTo(0.2 * left, 6);
    expect(is.reason).toMatch(/Plane 1 gives no more/);
  });
  it('stock is split only where both planes have places to add to', () => {
    const stock = { stockG: [2, 5, 9] };
    const grams = (is: BalanceNow, i = 0) => is.next?.[i]?.masses.map((m) => m.massG) ?? [];
    const both = direct([{ places: 12 }, { places: 12 }], OUT, stock);
    for (const g of grams(both)) expect([2, 5, 9]).toContain(g);
    for (const m of both.next?.[0]?.masses ?? []) expect(m.gMm).toBe(m.massG * 60);
    // cut to weight where one of the planes is drilled, or has no places
    expect(
      grams(direct([{ places: 12 }, { way: 'drill', places: 12 }], OUT, stock)).every((g) => [2, 5, 9].includes(g)),
    ).toBe(false);
    expect(grams(direct([{}, { places: 12 }], OUT, stock))).toEqual([expect.closeTo(10, 9)]);
  });
});

describe('what is expected after a correction', () => {
  const worked = (more: object = {}) => {
    const of = setUp(more);
    const b = bench(of, HIDDEN, 1, QUIET);
    b.run();
    b.trial(1, 600, 0);
    b.trial(2, 600, 90);
    return { of, b };
  };
  it('counts from the last run: what was fixed before it is in it already', () => {
    const { of, b } = worked();
    const fix = (massG: number) => {
      b.entries.push(entry({ kind: 'correction', masses: [{ plane: 1, angleDeg: 310, massG, radiusMm: 60 }] }));
      b.heavy.push({ gMm: massG * 60, angleDeg: 310, xMm: 80 });
    };
    fix(5);
    const first = balanceNow(of, b.entries);
    // 900 at 130° less 300; plane 2 untouched
    expect(first.expectedGMm?.[0]).toBeCloseTo(
      vectorOf({
        re: 0.8 * 600 * Math.cos((130 * Math.PI) / 180) + 0.2 * 500 * Math.cos((300 * Math.PI) / 180),
        im: 0.8 * 600 * Math.sin((130 * Math.PI) / 180) + 0.2 * 500 * Math.sin((300 * Math.PI) / 180),
      }).size,
      6,
    );
    b.run();
    fix(2);
    const second = balanceNow(of, b.entries);
    expect(second.stage).toBe('check run');
    b.run();
    const truth = balanceNow(of, b.entries);
    expect(second.expectedGMm?.[0]).toBeCloseTo(truth.bearings?.[0]?.gMm ?? NaN, 6);
    expect(second.expectedGMm?.[1]).toBeCloseTo(truth.bearings?.[1]?.gMm ?? NaN, 6);
    expect(second.expected).toBeCloseTo(Math.max(...(truth.bearings ?? []).map((x) => x.gMm / x.allowedGMm)), 6);
  });
  it('old masses that come out free their places; those of a drilled plane stay', () => {
    const planes = [
      { xMm: 80, radiusMm: 60, places: 6, mostG: 20 },
      { xMm: 320, radiusMm: 60, way: 'drill', drillMm: 20, places: 12 },
    ];
    const { of, b } = worked({ planes });
    const old = [
      ...[0, 60, 300].map((angleDeg) => ({ plane: 1, angleDeg, massG: 20, radiusMm: 60 })),
      ...[0, 90].map((angleDeg) => ({ plane: 2, angleDeg, massG: -1, radiusMm: 60 })),
    ];
    b.entries.push(entry({ kind: 'correction', masses: old }));
    for (const m of old) b.heavy.push({ gMm: m.massG * 60, angleDeg: m.angleDeg, xMm: m.plane === 1 ? 80 : 320 });
    b.run();
    const { merged, next } = balanceNow(of, b.entries);
    expect(merged?.out.map((m) => [m.plane, m.massG])).toEqual([
      [1, 20],
      [1, 20],
      [1, 20],
    ]);
    // 300° is full now, and free again when its mass is out
    expect(next?.[0]?.masses.map((m) => m.angleDeg)).not.toContain(300);
    expect(merged?.next[0]?.masses.map((m) => m.angleDeg)).toContain(300);
    expect(merged?.expected).toBeLessThan(1e-6);
  });
  it('one old mass in each plane is nothing to merge', () => {
    const { of, b } = worked({ planes: [80, 320].map((xMm) => ({ xMm, radiusMm: 60, places: 12 })) });
    const old = [1, 2].map((plane) => ({ plane, angleDeg: 0, massG: 3, radiusMm: 60 }));
    b.entries.push(entry({ kind: 'correction', masses: old }));
    for (const m of old) b.heavy.push({ gMm: 180, angleDeg: 0, xMm: m.plane === 1 ? 80 : 320 });
    b.run();
    expect(balanceNow(of, b.entries).merged).toBeUndefined();
  });
});

describe('what else is said of a balance', () => {
  const run = (of: BalanceSetUp, readings: Reading[], more: object = {}) =>
    balanceNow(of, [entry({ kind: 'run', readings, ...more })]);
  const of = setUp({ readings: 'unbalance per plane' });
  const fine = [
    { size: 10, angleDeg: 5 },
    { size: 8, angleDeg: 90 },
  ];
  it('a stand out of calibration', () => {
    const sent = { trace: '00000000-0000-4000-8000-000000000000', instrument: 'S', simulated: false };
    expect(run(of, fine, { sent: { ...sent, outOfDate: true } })).toMatchObject({ verdict: 'attention' });
    expect(run(of, fine, { sent: { ...sent, outOfDate: false } })).toMatchObject({ verdict: 'pass' });
  });
  it('as found only where nothing was fixed', () => {
    expect(run(of, fine).reason).toMatch(/As found; no correction is needed\./);
    const stays = balanceNow(setUp(), [
      entry({
        kind: 'run',
        readings: [
          { size: 0.1, angleDeg: 5 },
          { size: 0.1, angleDeg: 9 },
        ],
      }),
      entry({
        kind: 'trial',
        plane: 1,
        gMm: 600,
        angleDeg: 0,
        readings: [
          { size: 4, angleDeg: 80 },
          { size: 1, angleDeg: 100 },
        ],
        staysIn: true,
      }),
      entry({
        kind: 'trial',
        plane: 2,
        gMm: 600,
        angleDeg: 0,
        readings: [
          { size: 4.5, angleDeg: 60 },
          { size: 5, angleDeg: 90 },
        ],
      }),
    ]);
    expect(stays.stage).toBe('done');
    expect(stays.reason).not.toMatch(/As found/);
  });
  it('the uncertainty and the scatter of repeats add up', () => {
    const is = (uncertaintyGMm: number, stray: number) =>
      balanceNow(setUp({ readings: 'unbalance per plane', uncertaintyGMm }), [
        entry({
          kind: 'run',
          readings: [
            { size: 70 + stray, angleDeg: 5 },
            { size: 70 + stray, angleDeg: 5 },
          ],
        }),
        entry({
          kind: 'run',
          repeat: true,
          readings: [
            { size: 70 - stray, angleDeg: 5 },
            { size: 70 - stray, angleDeg: 5 },
          ],
        }),
      ]).verdict;
    // 79.58 g·mm allowed at each bearing; the bearings show 70
    expect(is(0, 0)).toBe('pass');
    expect(is(7, 2)).toBe('pass');
    expect(is(8, 2)).toBe('attention');
    expect(is(9.5, 0)).toBe('pass');
    expect(is(9.6, 0)).toBe('attention');
  });
  it('its figures in the unit of the session', () => {
    const oz = setUp({ readings: 'unbalance per plane', unbalanceUnit: 'g·in' });
    const is = run(oz, [
      { size: 10, angleDeg: 5 },
      { size: 10, angleDeg: 5 },
    ]);
    // 254 g·mm at both planes alike; 79.58 g·mm is 3.133 g·in
    expect(is.reason).toMatch(/^Bearing A 10 g·in of 3\.133 g·in, Bearing B 10 g·in of 3\.133 g·in: above it/);
  });
});
