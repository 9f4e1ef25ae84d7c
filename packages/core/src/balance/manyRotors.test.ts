import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { draws } from '../../../../scripts/testing/draws.ts';
import { entry, QUIET, setUp } from '../../../../scripts/testing/standBench.ts';
import { polar, sizeOf, subtract } from '../winding/complex.ts';
import { conditionOf, influenceOf } from './influence.ts';
import { vectorOf } from './planes.ts';
import { balanceNow } from './session.ts';
import { seeded, standReadings, standRun, type Heavy, type StandRotor } from './stand.ts';

const share = (low: number, high: number) => fc.double({ min: low, max: high, noNaN: true });
/** Rotors of every kind: between their bearings and overhung, planes far apart and close, stands stiff and soft. */
const anyRotor = fc.record({
  massKg: share(0.5, 400),
  spanMm: share(80, 900),
  centre: share(-0.3, 1.3),
  x1: share(-0.4, 1),
  apart: share(0.06, 1.4),
  gyration: share(0.1, 0.5),
  tuning: fc.tuple(share(1.3, 3), share(1.3, 3)),
  damping: share(0.01, 0.2),
  rpm: share(300, 3000),
  u: fc.tuple(share(1, 40), share(1, 40)),
  at: fc.tuple(share(0, 359.9), share(0, 359.9)),
  trialAt: fc.tuple(share(0, 359.9), share(0, 359.9)),
});

describe('ten thousand rotors on the simulated stand', () => {
  it('without noise the hidden unbalance is found to 1e-9 of its size up to condition 30; above it is refused', () => {
    let [solved, refused] = [0, 0];
    fc.assert(
      fc.property(anyRotor, (r) => {
        const planesMm = [r.x1 * r.spanMm, (r.x1 + r.apart) * r.spanMm] as const;
        const w = (2 * Math.PI * r.rpm) / 60;
        const stiffness = r.tuning.map((t) => (r.massKg / 2) * (t * w) ** 2) as [number, number];
        const on: StandRotor = {
          massKg: r.massKg,
          inertiaKgM2: r.massKg * ((r.gyration * r.spanMm) / 1000) ** 2,
          bearingAMm: 0,
          bearingBMm: r.spanMm,
          centreMm: r.centre * r.spanMm,
          stiffness,
          damping: stiffness.map((k) => r.damping * Math.sqrt((k * r.massKg) / 2)) as [number, number],
        };
        const of = setUp({
          massKg: r.massKg,
          balancingRpm: r.rpm,
          bearingBMm: r.spanMm,
          centreMm: r.centre * r.spanMm,
          planes: planesMm.map((xMm) => ({ xMm, radiusMm: 60 })),
        });
        const hidden: Heavy[] = planesMm.map((xMm, i) => ({ xMm, gMm: 10 * (r.u[i] ?? 1), angleDeg: r.at[i] ?? 0 }));
        const read = (extra: Heavy[] = []) =>
          standRun(on, r.rpm, [...hidden, ...extra], seeded(1), QUIET).map(vectorOf);
        const trialGMm = 10 * Math.max(...r.u);
        const entries = [
          entry({ kind: 'run', readings: read() }),
          ...[0, 1].map((k) =>
            entry({
              kind: 'trial',
              plane: k + 1,
              gMm: trialGMm,
              angleDeg: r.trialAt[k],
              readings: read([{ xMm: planesMm[k] ?? 0, gMm: trialGMm, angleDeg: r.trialAt[k] ?? 0 }]),
            }),
          ),
        ];
        // the condition by the stand itself, without any trial
        const none = [
          { re: 0, im: 0 },
          { re: 0, im: 0 },
        ];
        const exact = influenceOf(
          none,
          planesMm.map((xMm) => ({
            readings: standReadings(on, r.rpm, [{ xMm, gMm: 100, angleDeg: 0 }]),
            trial: polar(100, 0),
          })),
        );
        const condition = conditionOf(exact);
        fc.pre(Math.abs(condition - 30) > 1e-3);
        const is = balanceNow(of, entries);
        if (condition > 30) {
          refused += 1;
          expect(is.unbalance).toBeUndefined();
          expect(is.reason).toMatch(/cannot be told apart/);
          return;
        }
        solved += 1;
        const size = Math.max(...hidden.map((h) => h.gMm));
        hidden.forEach((h, i) => {
          const found = is.unbalance?.[i];
          const off = sizeOf(subtract(polar(found?.size ?? 0, found?.angleDeg ?? 0), polar(h.gMm, h.angleDeg)));
          expect(off).toBeLessThanOrEqual(1e-9 * size);
        });
      }),
      { numRuns: draws(1500) },
    );
    // both were met
    expect(solved).toBeGreaterThan(0.6 * (solved + refused));
    expect(refused).toBeGreaterThan(0);
  });

  it('taking away leaves what adding leaves; the other end and the other angle sense give the same, mirrored', () => {
    const vector = fc.record({ size: share(20, 900), angleDeg: share(0, 359.9) });
    fc.assert(
      fc.property(vector, vector, fc.integer({ min: 3, max: 24 }), (a, b, places) => {
        const of = (more: object, readings: object[], centreMm = 190) =>
          balanceNow(
            setUp({
              readings: 'unbalance per plane',
              centreMm,
              planes: [90, 320].map((xMm) => ({ xMm, radiusMm: 60, places, ...more })),
            }),
            [entry({ kind: 'run', readings })],
          );
        const add = of({ mostG: 6 }, [a, b]);
        fc.pre(add.stage === 'correct');
        // places half a turn on, so that those opposite are there
        const remove = of({ way: 'drill', drillMm: 14, firstDeg: 180 }, [a, b]);
        const free = of({}, [a, b]);
        expect(remove.expected).toBeCloseTo(free.expected ?? NaN, 9);
        remove.next?.forEach((n, i) => {
          n.masses.forEach((m, k) => {
            const opposite = free.next?.[i]?.masses.map((x) => ((x.angleDeg + 180) % 360).toFixed(6)) ?? [];
            expect(opposite, `${k}`).toContain((m.angleDeg % 360).toFixed(6));
          });
        });
        const mirror = (v: { size: number; angleDeg: number }) => ({
          size: v.size,
          angleDeg: (360 - v.angleDeg) % 360,
        });
        const mirrored = of({ mostG: 6 }, [mirror(a), mirror(b)]);
        expect(mirrored.expected).toBeCloseTo(add.expected ?? NaN, 9);
        expect(mirrored.bearings?.map((x) => x.gMm)).toEqual(
          add.bearings?.map((x) => expect.closeTo(x.gMm, 6) as number),
        );
        // seen from the other end: bearings and planes change places
        const turned = balanceNow(
          setUp({
            readings: 'unbalance per plane',
            centreMm: 210,
            planes: [80, 310].map((xMm) => ({ xMm, radiusMm: 60, places, mostG: 6 })),
          }),
          [entry({ kind: 'run', readings: [b, a] })],
        );
        expect(turned.bearings?.map((x) => x.gMm).reverse()).toEqual(
          add.bearings?.map((x) => expect.closeTo(x.gMm, 6) as number),
        );
        expect(turned.expected).toBeCloseTo(add.expected ?? NaN, 6);
      }),
      { numRuns: draws(200) },
    );
  });
});
