import { describe, expect, it } from 'vitest';
import { bench, entry, HIDDEN, QUIET, setUp } from '../../../../scripts/testing/standBench.ts';
import { balanceEntrySchema } from './entries.ts';
import { unbalanceOfDepth } from './depthTaken.ts';
import { deepestOf } from './nextStep.ts';
import { balanceNow } from './session.ts';
import { balanceSetUpSchema, type BalancePlane } from './setUp.ts';
import { apartDeg, freeAngles, freePlaces, isForbidden, massesAt, toolHalfDeg } from './used.ts';

const plane = (more: object): BalancePlane =>
  balanceSetUpSchema.shape.planes.element.parse({ xMm: 80, radiusMm: 60, ...more });
const mass = (angleDeg: number, massG: number, more: object = {}) => ({
  plane: 1,
  angleDeg,
  massG,
  radiusMm: 60,
  how: '',
  ...more,
});

describe('places of a plane', () => {
  it.each([
    [10, true],
    [0, false],
    [20, false],
    [19.9, true],
    [355, false],
    [350, false],
    [300, false],
  ])('%d° between 0° and 20° is forbidden: %s', (deg, is) => {
    expect(isForbidden(plane({ forbidden: [{ fromDeg: 0, toDeg: 20 }] }), deg)).toBe(is);
  });
  it('a zone goes over 0°', () => {
    const p = plane({ forbidden: [{ fromDeg: 350, toDeg: 10 }] });
    expect([349, 350, 351, 0, 9, 10, 11].map((d) => isForbidden(p, d))).toEqual([
      false,
      false,
      true,
      true,
      true,
      false,
      false,
    ]);
  });
  it('what is taken, forbidden or full is not free; what sits there takes its room', () => {
    const p = plane({ places: 8, taken: [2], mostG: 10, forbidden: [{ fromDeg: 80, toDeg: 100 }] });
    expect(freePlaces(p).map((f) => f.number)).toEqual([1, 4, 5, 6, 7, 8]);
    const there = [mass(0, 4), mass(135, 10), mass(180, 10.5)];
    expect(freePlaces(p, there).map((f) => [f.number, f.mostG])).toEqual([
      [1, 6],
      [6, 10],
      [7, 10],
      [8, 10],
    ]);
    // without a limit anything may be added to
    expect(freePlaces(plane({ places: 4 }), [mass(90, 99)])).toHaveLength(4);
  });
  it('a hole may be drilled deeper, and says what it took already', () => {
    const p = plane({ places: 4, way: 'drill' });
    expect(freePlaces(p, [mass(90, -2), mass(90, -1)]).map((f) => f.takenGMm)).toEqual([0, 180, 0, 0]);
    // a mass that was added does not count as taken
    expect(freePlaces(p, [mass(90, 2)])[1]?.takenGMm).toBe(0);
  });
  it('masses of one place count together; what was taken out again is gone', () => {
    const of = setUp();
    const c = (...masses: object[]) => balanceEntrySchema.parse({ kind: 'correction', masses });
    const there = massesAt(of, [
      c(mass(30, 5, { place: 1 }), mass(390, 2), mass(200, 3, { plane: 2 })),
      c(mass(30, -7), mass(60, 1)),
    ]);
    expect(there[0]).toMatchObject([{ angleDeg: 60, massG: 1 }]);
    expect(there[1]).toMatchObject([{ angleDeg: 200, massG: 3 }]);
  });
  it('without places it works at the angle, and beside what bars it', () => {
    expect(freeAngles(plane({}), 42)).toEqual([42]);
    expect(freeAngles(plane({}), -10)).toEqual([350]);
    expect(freeAngles(plane({ forbidden: [{ fromDeg: 30, toDeg: 60 }] }), 42)).toEqual([30, 60]);
    // with a limit there is room beside it
    expect(freeAngles(plane({ mostG: 5 }), 42)).toEqual([42, 32, 52]);
    const drilled = plane({ way: 'drill', drillMm: 12 });
    const half = toolHalfDeg(drilled);
    expect(half).toBeCloseTo((0.2 * 180) / Math.PI, 9);
    const [low = 0, high = 0] = freeAngles(drilled, 100, [mass(101, -3)]);
    expect(low).toBeCloseTo(101 - 2 * half, 6);
    expect(high).toBeCloseTo(101 + 2 * half, 6);
    // a mass that was fixed bars nothing
    expect(freeAngles(drilled, 100, [mass(101, 3)])[0]).toBe(100);
  });
  it('angles are compared round the circle', () => {
    expect(apartDeg(359, 1)).toBeCloseTo(2, 9);
    expect(apartDeg(10, 190)).toBe(180);
    expect(apartDeg(-90, 270)).toBe(0);
  });
});

describe('how deep it may go', () => {
  it.each([
    [{ mostDepthMm: 12 }, 12],
    [{ mostDepthMm: 12, thickMm: 20 }, 10],
    [{ mostDepthMm: 12, thickMm: 100 }, 12],
    // a wall of 3 mm stays
    [{ thickMm: 5 }, 2],
    [{ thickMm: 6 }, 3],
    [{ thickMm: 3 }, 0],
    [{ thickMm: 2 }, 0],
    [{}, 60],
  ])('%j: %d mm', (more, deepest) => {
    expect(deepestOf(plane({ way: 'drill', ...more }), 3)).toBeCloseTo(deepest, 9);
  });
  it('the unbalance of a depth is that of the hole, flat or slot', () => {
    // balancing reference, section 11: 428.56 g·mm of a 10 mm hole 15 deep at 60 mm; 24.04 of the flat; 16.36 of the slot (derived)
    expect(unbalanceOfDepth(plane({ way: 'drill', drillMm: 10 }), 15)).toBeCloseTo(428.56, 2);
    expect(
      unbalanceOfDepth(plane({ way: 'mill a flat', radiusMm: 25, lengthMm: 30 }), 0.6) * (7450 / 7850),
    ).toBeCloseTo(24.04, 2);
    expect(
      unbalanceOfDepth(plane({ way: 'mill tooth tops', radiusMm: 25, widthMm: 2.5, lengthMm: 30 }), 1.2) *
        (7450 / 7850),
    ).toBeCloseTo(16.36, 2);
    expect(unbalanceOfDepth(plane({}), 5)).toBe(0);
  });
});

describe('the next step on a rotor that was worked on', () => {
  const worked = (planeMore: object, more: object = {}) => {
    const of = setUp({
      planes: [80, 320].map((xMm) => ({ xMm, radiusMm: 60, ...planeMore })),
      ...more,
    });
    const b = bench(of, HIDDEN, 1, QUIET);
    b.run();
    b.trial(1, 600, 0);
    b.trial(2, 600, 90);
    return { of, b };
  };
  it('stays off forbidden angles and still balances', () => {
    // the mass of plane 1 would go to 310°
    const { b } = worked({ forbidden: [{ fromDeg: 290, toDeg: 330 }] });
    const is = b.now();
    expect(is.next?.[0]?.masses.map((m) => m.angleDeg)).toEqual([290, 330]);
    expect(is.expected).toBeCloseTo(0, 9);
    b.correct();
    b.run();
    expect(b.now().stage).toBe('done');
  });
  it('says how deep a hole is in the end when it is drilled again', () => {
    const { of, b } = worked({ way: 'drill', drillMm: 16, mostDepthMm: 25, places: 12 });
    const first = b.now().next?.[0]?.masses[0];
    // only half of it is drilled
    const half = (first?.gMm ?? 0) / 2;
    b.entries.push(
      entry({ kind: 'correction', masses: [{ plane: 1, angleDeg: first?.angleDeg, massG: -half / 60, radiusMm: 60 }] }),
    );
    b.heavy.push({ gMm: -half, angleDeg: first?.angleDeg ?? 0, xMm: 80 });
    b.run();
    const again = balanceNow(of, b.entries).next?.[0]?.masses.find((m) => m.place === first?.place);
    expect(again?.gMm).toBeCloseTo(half, 6);
    expect(again?.depthMm).toBeCloseTo(first?.depthMm ?? 0, 6);
  });
  it('material that is used up is said', () => {
    const { b } = worked({ way: 'drill', drillMm: 5, mostDepthMm: 4, places: 6 });
    expect(
      b
        .now()
        .notes.map((n) => n.reason)
        .join(' '),
    ).toMatch(/Plane 1 gives no more where it is wanted/);
    expect(b.now().expected).toBeGreaterThan(1);
  });
  it('old masses out and fixed afresh leaves as little, with fewer masses', () => {
    const { of, b } = worked({ places: 12 }, { stockG: [1, 2, 3, 5, 8, 12, 20] });
    expect(b.now().merged).toBeUndefined();
    const old = [
      { plane: 1, angleDeg: 60, massG: 3, radiusMm: 60, place: 3 },
      { plane: 1, angleDeg: 240, massG: 5, radiusMm: 60, place: 9 },
    ];
    b.entries.push(entry({ kind: 'correction', masses: old }));
    for (const m of old) b.heavy.push({ gMm: m.massG * 60, angleDeg: m.angleDeg, xMm: 80 });
    b.run();
    const { merged } = b.now();
    expect(merged?.out.map((m) => m.massG)).toEqual([3, 5]);
    expect(merged?.expected).toBeLessThan(1);
    // as one entry: the old ones out, the new ones in
    const masses = [
      ...(merged?.out ?? []).map((m) => ({ ...m, massG: -m.massG })),
      ...(merged?.next ?? []).flatMap((n) =>
        n.masses.map((m) => ({ plane: n.plane, angleDeg: m.angleDeg, massG: m.massG, radiusMm: 60 })),
      ),
    ];
    b.entries.push(entry({ kind: 'correction', masses }));
    for (const m of masses) b.heavy.push({ gMm: m.massG * 60, angleDeg: m.angleDeg, xMm: m.plane === 1 ? 80 : 320 });
    b.run();
    expect(balanceNow(of, b.entries).stage).toBe('done');
    expect(balanceNow(of, b.entries).there[0]?.some((m) => m.massG < 0)).toBe(false);
  });
  it('an unbalance of many times the tolerance asks for its cause first', () => {
    // 20 kg, G 2.5, 3000 r/min: 159.155 g·mm in all (ISO 21940-11); ten times that in one plane
    const of = setUp({ readings: 'unbalance per plane' });
    const says = (size: number) =>
      balanceNow(of, [
        entry({
          kind: 'run',
          readings: [
            { size, angleDeg: 10 },
            { size: 1, angleDeg: 0 },
          ],
        }),
      ]).reason;
    expect(says(1591.5)).not.toMatch(/look for the cause first/);
    expect(says(1592)).toMatch(/Plane 1 is out by 10 times|look for the cause first/);
    expect(says(1592)).toMatch(/look for the cause first/);
  });
});

describe('a trim in the assembled motor', () => {
  it('is judged by what either bearing shows, in one plane too', () => {
    const of = setUp({ trimMmS: 1.2, planes: [{ xMm: 420, radiusMm: 90 }] });
    const run = (a: number, b: number) =>
      entry({
        kind: 'run',
        readings: [
          { size: a, angleDeg: 40 },
          { size: b, angleDeg: 60 },
        ],
      });
    const trial = entry({
      kind: 'trial',
      plane: 1,
      gMm: 500,
      angleDeg: 0,
      readings: [
        { size: 2.5, angleDeg: 80 },
        { size: 2.9, angleDeg: 95 },
      ],
    });
    const found = balanceNow(of, [run(2, 2.4), trial]);
    expect(found).toMatchObject({ stage: 'correct', verdict: 'fail' });
    expect(found.reason).toMatch(
      /^Bearing A 2 mm\/s of 1\.2 mm\/s rms, Bearing B 2\.4 mm\/s of 1\.2 mm\/s rms: above it/,
    );
    const fixed = entry({ kind: 'correction', masses: [{ plane: 1, angleDeg: 200, massG: 5, radiusMm: 90 }] });
    expect(balanceNow(of, [run(2, 2.4), trial, fixed, run(1.2, 1.1)])).toMatchObject({
      stage: 'done',
      verdict: 'pass',
    });
    expect(balanceNow(of, [run(2, 2.4), trial, fixed, run(1.2, 1.21)])).toMatchObject({ stage: 'correct' });
    expect(balanceNow(of, [run(2, 2.4), trial, fixed, run(1.2, 1.21)]).levels).toMatchObject([
      { verdict: 'pass' },
      { verdict: 'fail' },
    ]);
  });
});
