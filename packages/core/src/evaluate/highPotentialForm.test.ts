import { describe, expect, it } from 'vitest';
import { due, input, lacks, ran } from '../../../../scripts/testing/onBench.ts';

describe('high potential, on the bench', () => {
  const standing = (fullValue: boolean) => ({
    tests: [
      {
        id: 'a',
        kind: 'highPotential',
        stage: 'VC',
        verdict: 'pass',
        supersedes: null,
        result: { values: { fullValue } },
      },
    ],
  });
  it('says voltage, time, ramp and order before it is done', () => {
    expect(due('highPotential')).toEqual({
      says: [
        '1800 V AC rms (or 3060 V DC) for 60 s: new, 2 · 400 V + 1000 V (IEC 60034-1 (from memory)).',
        'Begin at no more than 900 V, from there to full in at least 10 s; back to half, off, earth.',
        'Of a series: 1 s at 2160 V may stand for the minute.',
        'Only after resistance, insulation resistance and surge have passed. Everything not under test joined and earthed.',
      ],
      short: '1800 V',
      typed: { testV: '1800', seconds: '60', state: 'new' },
    });
    const again = due('highPotential', {
      nameplate: { voltagesV: [400, 690], outputW: 250e3 },
      ...standing(true),
    });
    expect(again?.says.slice(0, 2)).toEqual([
      '1904 V AC rms (or 3237 V DC) for 60 s: repeat, 80 % of (2 · 690 V + 1000 V) (IEC 60034-1 (from memory)).',
      'This winding was tested at its full value already: not a second time, 80 % instead.',
    ]);
    expect(again?.says).toHaveLength(4);
    // of a winding that is kept the full value of another day bars nothing
    const kept = due('highPotential', { route: 'overhaul', ...standing(true) });
    expect(kept?.says.join(' ')).not.toMatch(/already/);
    expect(kept?.typed).toEqual({ testV: '1000', seconds: '60', state: 'overhauled' });
    expect(due('highPotential', { nameplate: {} })?.says).toEqual([
      'The nameplate names no voltage: the test voltage cannot be worked out.',
    ]);
    const others = [4, 5, 6, 7, 8].map((figure) => ({ figure, values: { testV: 1800 } }));
    expect(due('highPotential', { ofItsKind: others })?.says.at(-2)).toBe(
      'Usual of its kind: 6 mA (median of the other motors, brought to this voltage).',
    );
  });
  it('brings what was read into the units of the calculation', () => {
    expect(
      input('highPotential', {
        testV: 1800,
        seconds: 1,
        outcome: 'trip',
        voltage: 'DC',
        ramp: 0.25,
        current: 0.0042,
        trip: 0.01,
        capacitance: 12e-9,
        standard: 'NEMA MG 1',
      }),
    ).toEqual({
      winding: 'armature or stator',
      state: 'new',
      standard: 'NEMA MG 1',
      ratedV: 400,
      outputKW: 11,
      kind: 'DC',
      seen: false,
      ended: 'trip',
      reachedV: 1800,
      heldS: 60,
      rampS: 15,
      currentMA: 4.2,
      tripMA: 10,
      capacitanceNF: 12,
      frequencyHz: 50,
    });
    expect(
      input(
        'highPotential',
        { testV: 1800, seconds: 1, outcome: 'attention' },
        { nameplate: { voltagesV: [400, 690] } },
      ),
    ).toEqual({
      winding: 'armature or stator',
      state: 'new',
      standard: 'IEC 60034-1',
      ratedV: 690,
      seen: true,
      ended: 'held',
      reachedV: 1800,
      heldS: 60,
    });
    expect(input('highPotential', { testV: 1800 }, { nameplate: {} })).toBeUndefined();
    expect(input('highPotential', {}, { found: null, nameplate: { voltagesV: [] } })).toBeUndefined();
    expect(
      input(
        'highPotential',
        { testV: 1 },
        { part: 'wound-rotor', nameplate: { voltagesV: [400], rotorVoltageV: 180 } },
      ),
    ).toMatchObject({ winding: 'wound rotor', ratedV: 180 });
    const others = [4, 5, 6, 7, 8].map((figure) => ({ figure, values: { testV: 1800 } }));
    expect(input('highPotential', { testV: 900 }, { ofItsKind: others })?.['usualMA']).toBe(3);
    expect(input('highPotential', { testV: 900 }, { ofItsKind: others, again: { usualMA: 7 } })?.['usualMA']).toBe(7);
    expect(lacks('highPotential', { voltage: 'DC' })).toBe('discharged');
    expect(lacks('highPotential', { voltage: 'DC', discharged: true })).toBeUndefined();
    expect(lacks('highPotential', { voltage: 'AC' })).toBeUndefined();
  });
  it('the working of the voltage, and of the charging current where the capacitance is known', () => {
    const plain = ran('evaluate.withstandVoltage', { ratedV: 400, outputKW: 5.5 });
    expect(plain.working.map((w) => [w.symbol, w.value])).toEqual([
      ['U_t', 1800],
      ['U_dc', 3060],
    ]);
    expect(plain.values).toEqual({
      fullV: 1800,
      testV: 1800,
      dcV: 3060,
      formula: '2 · 400 V + 1000 V',
      source: 'IEC 60034-1 (from memory)',
      startV: 900,
      rampS: 10,
      holdS: 60,
      productionV: 2160,
    });
    expect(ran('evaluate.withstandVoltage', { ratedV: 1001, outputKW: 5.5 }).values).not.toHaveProperty('productionV');
    const charged = ran('evaluate.withstandVoltage', {
      ratedV: 400,
      outputKW: 5.5,
      capacitanceNF: 12,
      frequencyHz: 60,
    });
    expect(charged.working[2]).toMatchObject({
      numbers: '2π · 60 Hz · 12 nF · 1800 V',
      value: expect.closeTo(8.143008, 5),
    });
    expect(() => ran('evaluate.withstandVoltage', { ratedV: 400, outputKW: 5.5, fullTests: 1 })).toThrow(
      /had 1 test at full value/,
    );
    expect(() => ran('evaluate.withstandVoltage', { ratedV: 400, outputKW: 5.5, fullTests: 2 })).toThrow(
      /had 2 tests at full value/,
    );
  });
  it('judged: what was wanted by which rule, alternating and direct; the charging current only where it charges', () => {
    const judged = (x: object) => ran('evaluate.highPotential', { ratedV: 400, outputKW: 5.5, ...x });
    const ac = judged({ reachedV: 1800, heldS: 60, capacitanceNF: 12 });
    expect(ac.values).toEqual({
      verdict: 'pass',
      reason: '1800 V AC for 60 s; wanted 1800 V for 60 s (new: 2 · 400 V + 1000 V (IEC 60034-1 (from memory))). Held.',
      requiredV: 1800,
      fullV: 1800,
      state: 'new',
      fullValue: true,
      chargingMA: expect.closeTo(6.78584, 4),
    });
    expect(ac.working.map((w) => [w.symbol, w.formula, w.value])).toEqual([
      ['U_t', '2 · 400 V + 1000 V', 1800],
      ['I_c', '2π f C U', expect.closeTo(6.78584, 4)],
    ]);
    const dc = judged({ reachedV: 3060, heldS: 60, kind: 'DC', capacitanceNF: 12, currentMA: 0.01, usualMA: 0.02 });
    expect(dc.values).toEqual({
      verdict: 'pass',
      reason:
        '3060 V DC for 60 s, at most 0.01 mA; wanted 3060 V for 60 s (new: 2 · 400 V + 1000 V, 1.7 times as direct voltage (IEC 60034-1 (from memory))). Held.',
      requiredV: 3060,
      fullV: 1800,
      state: 'new',
      fullValue: true,
      currentMA: 0.01,
      usualMA: 0.02,
    });
    expect(dc.working.map((w) => [w.symbol, w.formula])).toEqual([['U_dc', '1.7 · (2 · 400 V + 1000 V)']]);
    const attention = judged({ reachedV: 1800, heldS: 60, seen: true }).values;
    expect(attention).toMatchObject({ verdict: 'attention', fullValue: true });
    expect(judged({ reachedV: 1800, heldS: 50 }).values).toMatchObject({ verdict: 'cannot judge', fullValue: false });
    expect(judged({ reachedV: 1440, heldS: 60, state: 'repeat' }).values).toMatchObject({
      verdict: 'pass',
      fullValue: false,
    });
    const late = judged({ reachedV: 1800, heldS: 60, calibrationExpired: true }).values;
    expect(late['reason']).toMatch(/Held\. .*out of calibration/);
  });
  it('a trip: the set was too low for the charging current, or too much leaks', () => {
    const tripped = (x: object) =>
      ran('evaluate.highPotential', { ratedV: 400, outputKW: 5.5, ended: 'trip', ...x }).values;
    expect(tripped({ tripMA: 5, capacitanceNF: 12 })).toMatchObject({
      verdict: 'cannot judge',
      reason: expect.stringMatching(
        /^No voltage; .* The set trips at 5 mA, but charging alone takes 6\.79 mA: set it to 10\.2 mA at least and repeat\.$/,
      ),
    });
    // at half the voltage it charges with half the current
    expect(tripped({ tripMA: 5, capacitanceNF: 12, reachedV: 900 })['verdict']).toBe('fail');
    for (const x of [{ capacitanceNF: 12 }, { tripMA: 5 }, { tripMA: 5, capacitanceNF: 12, kind: 'DC' }])
      expect(tripped(x)).toMatchObject({
        verdict: 'fail',
        reason: expect.stringMatching(/The current tripped the set without collapse/),
      });
  });
  it('a second at 120 % may stand for the minute: alternating and direct, just reached and just not', () => {
    const second = (x: object) => ran('evaluate.highPotential', { ratedV: 400, outputKW: 5.5, heldS: 1, ...x }).values;
    expect(second({ reachedV: 0.97 * 2160 })).toMatchObject({ verdict: 'pass', requiredV: 2160 });
    expect(second({ reachedV: 0.97 * 2160 - 0.5 })).toMatchObject({ verdict: 'cannot judge', requiredV: 1800 });
    expect(second({ reachedV: 1.7 * 2160, kind: 'DC' })).toMatchObject({ verdict: 'pass', requiredV: 3672 });
    expect(second({ reachedV: 2160, kind: 'DC' })).toMatchObject({ verdict: 'cannot judge', requiredV: 3060 });
    expect(second({ reachedV: 2160, heldS: 59.9 })).toMatchObject({ verdict: 'pass', requiredV: 2160 });
    // a minute was held: it is the minute that counts, and 2160 V is too much for it
    expect(second({ reachedV: 2160, heldS: 60 })).toMatchObject({ verdict: 'attention', requiredV: 1800 });
    // raised fast, as a series is
    expect(second({ reachedV: 2160, rampS: 1 })['verdict']).toBe('pass');
  });
});
