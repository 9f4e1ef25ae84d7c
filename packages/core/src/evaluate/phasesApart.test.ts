import { describe, expect, it } from 'vitest';
import { worked } from '../../../../scripts/testing/worked.ts';
import { insulationResistance, insulationResistanceTest } from './insulationResistance.ts';
import { phasesApart } from './phasesApart.ts';
import type { JudgingContext } from './testKind.ts';

const M = (megohm: number, more: object = {}) => ({ megohm, overRange: false, underRange: false, ...more });
const of = (phases: readonly (ReturnType<typeof M> | undefined)[], limits = {}) =>
  phasesApart({ phases, factor: 0.5, minimumMegohm: 5, limits });

describe('insulation of each phase alone', () => {
  it('is halved before it is set against the minimum of the whole winding, which is met by equality', () => {
    expect(of([M(20), M(20), M(20)])).toEqual({ verdict: 'pass', reason: '', wholeMegohm: [5, 5, 5] });
    const low = of([M(20), M(19.99), M(30)]);
    expect(low.verdict).toBe('fail');
    expect(low.reason).toMatch(
      /^phase B alone 19\.99 MΩ, 4\.99.* MΩ of a whole winding at 40 °C: below 5 MΩ, look there\.$/,
    );
  });
  it('half of the best phase is let be, less is looked at; the shop may say otherwise', () => {
    expect(of([M(400), M(200), M(400)]).verdict).toBe('pass');
    const uneven = of([M(400), M(199.9), M(400)]);
    expect(uneven.verdict).toBe('attention');
    expect(uneven.reason).toMatch(
      /^phase B more than 50 % \(common practice\) below the best phase \(A 100, B 49\.9.*, C 100 MΩ\)/,
    );
    expect(of([M(400), M(300), M(400)], { 'ir.phasesApartPercent': 20 }).verdict).toBe('attention');
  });
  it('bounds: below the range fails, above it passes where the bound reaches, else the range is too short', () => {
    expect(of([M(0.1, { underRange: true }), M(400), M(400)])).toMatchObject({
      verdict: 'fail',
      reason: expect.stringMatching(/phase A alone below 0\.1 MΩ/),
      wholeMegohm: [null, 100, 100],
    });
    expect(of([M(2000, { overRange: true }), M(2000, { overRange: true }), M(400)])).toMatchObject({
      verdict: 'pass',
      wholeMegohm: [null, null, 100],
    });
    expect(of([M(10, { overRange: true }), M(400), M(400)])).toMatchObject({
      verdict: 'cannot judge',
      reason: expect.stringMatching(/phase A alone above 10 MΩ.*range of the instrument ends below/),
    });
    // a fault outweighs a range that is too short
    expect(of([M(10, { overRange: true }), M(1), M(400)]).verdict).toBe('fail');
  });
  it('phases that were not read are left out', () => {
    expect(of([undefined, undefined, M(400)])).toEqual({ verdict: 'pass', reason: '', wholeMegohm: [null, null, 100] });
    expect(of([undefined, undefined, undefined])).toEqual({
      verdict: 'pass',
      reason: '',
      wholeMegohm: [null, null, null],
    });
  });
  const input = { kind: 'random-wound', ratedV: 400, testV: 500, windingC: 40, r1min: { megohm: 400 } };
  it('joins the verdict of the whole winding, and bars high voltage where it fails', () => {
    const sound = worked(insulationResistance, { ...input, phases: [M(800), M(800), null] });
    expect(sound).toMatchObject({ verdict: 'pass', phases40Megohm: [400, 400, null], mayTestHighVoltage: true });
    const bad = worked(insulationResistance, { ...input, phases: [M(800), M(3), M(800)] });
    expect(bad).toMatchObject({
      verdict: 'fail',
      mayTestHighVoltage: false,
      reason: expect.stringMatching(/phase B alone 3 MΩ/),
    });
    expect(worked(insulationResistance, { ...input, phases: [null, null, null] })).not.toHaveProperty('phases40Megohm');
  });
  it('is asked where both ends of each phase come out, and handed over as read', () => {
    const hides = (leads: string | undefined, machine = 'three-phase') =>
      insulationResistanceTest.hides?.({ machine: machine as never, record: { kind: 'three-phase', leads } as never });
    for (const leads of ['6', '12']) expect(hides(leads)).toEqual([]);
    for (const leads of ['3', '9', undefined]) expect(hides(leads)).toEqual(['phaseA', 'phaseB', 'phaseC']);
    expect(hides('6', 'single-phase')).toHaveLength(3);
    const asked = (v: object) =>
      insulationResistanceTest.input?.(
        v as never,
        { nameplate: {}, stage: 'IN', rewound: false } as unknown as JudgingContext,
      )?.['phases'];
    expect(asked({ r1min: 5 })).toBeUndefined();
    expect(asked({ phaseB: 7, phaseBOverRange: true })).toEqual([null, M(7, { overRange: true }), null]);
  });
});
