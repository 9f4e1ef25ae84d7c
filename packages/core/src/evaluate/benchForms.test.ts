import { describe, expect, it } from 'vitest';
import { due, input, kindOf, lacks, ran } from '../../../../scripts/testing/onBench.ts';
import { EXAMPLE_RECORD } from '../winding/exampleRecord.ts';
import { groupsOfPhases } from './boreCheck.ts';

describe('compass round the bore, on the bench', () => {
  it('says what the compass counts: as many poles as the winding, else as the plate, else as the machine', () => {
    const first = 'Direct current of a few per cent into each phase alone; the compass round the bore counts';
    expect(due('polarity')?.says).toEqual([`${first} 4 poles.`, 'Neighbouring group centres of a phase alternate.']);
    expect(due('polarity', { found: null, nameplate: { poles: 6 } })?.says[0]).toBe(`${first} 6 poles.`);
    expect(due('polarity', { found: null, nameplate: {} })?.says[0]).toBe(`${first} as many poles as the machine has.`);
    const consequent = { record: { ...EXAMPLE_RECORD, poleGroups: 'consequent' } };
    expect(due('polarity', { found: consequent })?.says[1]).toBe(
      'Consequent poles: the group centres of a phase are all alike.',
    );
  });
  it('gives poles and the numbers of the groups, each phase its own', () => {
    const read = input('polarity', {
      centresU: ['N', 'S', 'N', 'S'],
      centresW: ['S', 'N', 'S', 'N'],
      rotationSeen: 'clockwise',
      rotationWanted: 'counter-clockwise',
    });
    expect(read).toEqual({
      poles: 4,
      consequent: false,
      phases: [
        { name: 'U', centres: ['N', 'S', 'N', 'S'] },
        { name: 'W', centres: ['S', 'N', 'S', 'N'] },
      ],
      groups: [
        [1, 4, 7, 10],
        [2, 5, 8, 11],
      ],
      rotationSeen: 'clockwise',
      rotationWanted: 'counter-clockwise',
    });
    const consequent = { record: { ...EXAMPLE_RECORD, poleGroups: 'consequent' } };
    expect(input('polarity', { centresU: ['N', 'N'] }, { found: consequent })).toMatchObject({
      consequent: true,
      groups: [expect.any(Array)],
    });
    expect(input('polarity', { centresU: ['N', 'S'] }, { found: null, nameplate: { poles: 2 } })).toMatchObject({
      poles: 2,
      groups: undefined,
    });
    expect(groupsOfPhases(undefined)).toEqual([[], [], []]);
  });
  it('without poles, or with nothing read, it is stated by a person', () => {
    expect(input('polarity', { centresU: ['N', 'S'] }, { found: null, nameplate: {} })).toBeUndefined();
    expect(input('polarity', { outcome: 'pass' })).toBeUndefined();
    expect(input('polarity', { rotationSeen: 'clockwise' })).toMatchObject({ phases: [], rotationSeen: 'clockwise' });
    expect(lacks('polarity', {})).toBe('outcome');
    expect(lacks('polarity', { outcome: 'pass' })).toBeUndefined();
    expect(lacks('polarity', { rotationSeen: 'clockwise' })).toBeUndefined();
    expect(lacks('polarity', { centresV: ['N'] })).toBeUndefined();
  });
  it('one group and several, half a phase, in the words of a sentence', () => {
    const says = (centres: string[], groups?: number[][]) =>
      ran('evaluate.boreCheck', { poles: centres.length, phases: [{ name: 'V', centres }], groups }).values['reason'];
    expect(says(['N', 'S', 'N', 'N'], [[2, 5, 8, 11]])).toBe('Phase V: group 11 stands against the others: reversed.');
    expect(says(['N', 'S', 'N', 'N'])).toBe('Phase V: in its own order group 4 stands against the others: reversed.');
    expect(says(['N', 'S', 'N', 'N', 'S', 'S', 'N', 'S'], [[1, 2, 3, 4, 5, 6, 7, 8]])).toBe(
      'Phase V: groups 4, 5 stand against the others: reversed.',
    );
    expect(says(['N', 'S', 'S', 'N'], [[1, 4, 7, 10]])).toBe(
      'Phase V: groups 7, 10 stand against the others (half of the phase: it may be the other half): reversed.',
    );
  });
});

describe('phase balance at reduced voltage, on the bench', () => {
  it('says the voltage, takes every phase, is for three phases', () => {
    expect(due('phaseBalance', { nameplate: { voltagesV: [230, 400] } })?.says).toEqual([
      '40 to 100 V (10 to 25 % of 400 V; common practice).',
      'An empty bore draws much: seconds only.',
    ]);
    expect(due('phaseBalance', { nameplate: {} })?.says[0]).toBe('10 to 25 % of the rated voltage (common practice).');
    expect(input('phaseBalance', { voltsU: 60, voltsV: 61, voltsW: 62, ampsU: 10, ampsV: 8, ampsW: 9 })).toEqual({
      volts: [60, 61, 62],
      amps: [10, 8, 9],
    });
    const of = (machine: string) => kindOf('phaseBalance').for?.({ machine, record: undefined } as never);
    expect([of('three-phase'), of('single-phase')]).toEqual([true, false]);
  });
  it.each([
    [[10, 8, 9], 'fail', 'Impedances 6, 7.5, 6.667 Ω: V is 11.6 % off the mean, above 10 % (common practice).'],
    [[10, 10, 9.2], 'attention', 'Impedances 6, 6, 6.522 Ω: W is 5.63 % off the mean, above 5 % (common practice).'],
    [[9.3, 10, 10], 'pass', 'Impedances 6.452, 6, 6 Ω: U is 4.9 % off the mean, within 5 % (common practice).'],
  ])('amperes %o at 60 V: %s', (amps, verdict, says) => {
    const { values, working } = ran('evaluate.phaseBalance', { volts: [60, 60, 60], amps });
    expect(values).toMatchObject({
      verdict,
      reason: `${says}${verdict === 'pass' ? '' : ' Check the connection as made, then polarity and turns of that phase.'}`,
    });
    expect(working.map((w) => [w.name, w.numbers, w.value])).toEqual(
      ['U', 'V', 'W'].map((n, i) => [`Impedance of ${n}`, `60 / ${amps[i]}`, 60 / (amps[i] ?? 1)]),
    );
  });
});

describe('stepped direct voltage, on the bench', () => {
  const steps = (...amps: number[]) => ({ steps: amps.map((a, i) => ({ volts: 1000 * (i + 1), amps: a * 1e-6 })) });
  it('says how far, and types it in for a winding in service', () => {
    const { says, typed } = due('steppedVoltage', { nameplate: { voltagesV: [230, 400] } }) ?? { says: [] };
    expect(says).toEqual([
      '10 equal steps of a minute, up to 850 to 1020 V DC in service (125 to 150 % of 400 V, times 1.7; IEEE 95, from memory).',
      'Stop where the current bends or rises by itself. Lower slowly, discharge through a resistor, then earth for at least 4 times the charging time.',
    ]);
    expect(typed).toEqual({});
    expect(due('steppedVoltage', { stage: 'IN' })?.typed).toEqual({ wanted: '850' });
    expect(due('steppedVoltage', { nameplate: {} })).toEqual({ says: ['The nameplate names no voltage.'] });
    expect(
      input('steppedVoltage', { volts: [1000, 2000], amps: [1e-6, 2e-6], ended: 'collapse', wanted: 850 }),
    ).toEqual({
      steps: [
        { volts: 1000, amps: 1e-6 },
        { volts: 2000, amps: 2e-6 },
      ],
      ended: 'collapse',
      requiredV: 850,
    });
    expect(lacks('steppedVoltage', { volts: [1], discharged: true })).toBeUndefined();
    expect(lacks('steppedVoltage', { volts: [1], amps: 2 })).toBe('discharged');
  });
  it('tells the knee with its voltage and steepness; where nothing leaked before it has none', () => {
    const bent = ran('evaluate.steppedVoltage', steps(1, 2, 4.5));
    expect(bent.values).toEqual({
      verdict: 'attention',
      reason:
        'From 3000 V the current rises 2.5 times as steeply as in the step before, more than 2 times (common practice): stop there, discharge, dry and clean before going on. Earth for at least 12 min.',
      slopes: [expect.closeTo(1e-9, 15), expect.closeTo(1e-9, 15), expect.closeTo(2.5e-9, 15)],
      knee: { step: 3, volts: 3000, factor: expect.closeTo(2.5, 9) },
      dischargeMin: 12,
    });
    expect(bent.working.map((w) => [w.name, w.numbers, w.value])).toEqual([
      ['Rise of current per volt, step 1', 'to 1000 V', expect.closeTo(0.001, 12)],
      ['Rise of current per volt, step 2', 'to 2000 V', expect.closeTo(0.001, 12)],
      ['Rise of current per volt, step 3', 'to 3000 V', expect.closeTo(0.0025, 12)],
    ]);
    const began = ran('evaluate.steppedVoltage', steps(0, 1)).values;
    expect(began['knee']).toEqual({ step: 2, volts: 2000 });
    expect(began['reason']).toMatch(/^From 2000 V the current rises where it did not before, more than 2 times/);
  });
  it('straight, short of what was wanted, collapsed, rising by itself', () => {
    const says = (x: object) => ran('evaluate.steppedVoltage', { ...steps(1, 2), ...x }).values['reason'];
    expect(says({})).toBe('2 steps to 2000 V, 2 µA: the curve stays straight. Earth for at least 8 min.');
    expect(says({ requiredV: 2500 })).toBe(
      '2 steps to 2000 V, 2 µA: the curve stays straight. Only 2000 V of 2500 V: not proved. Earth for at least 8 min.',
    );
    expect(says({ ended: 'collapse', requiredV: 2500 })).toBe(
      'The voltage collapsed after 2000 V: breakdown. Earth for at least 8 min.',
    );
    expect(says({ ended: 'current rose while the voltage was held', requiredV: 2500 })).toBe(
      'The current rose while 2000 V was held: stop there, discharge, dry and clean before going on. Earth for at least 8 min.',
    );
    expect(says({ limits: { 'hipot.kneeFactor': 0.9 } })).toMatch(/^From 2000 V the current rises 1 times/);
  });
  it('where the current fell, what leaked per volt until then is compared with', () => {
    const knee = (...amps: number[]) => ran('evaluate.steppedVoltage', steps(...amps)).values['knee'];
    // until 2000 V it leaked 0.95 µA per 1000 V: 1.9 µA more is twice that
    expect(knee(2, 1.9, 3.8)).toBeUndefined();
    expect(knee(2, 1.9, 3.85)).toMatchObject({ step: 3, factor: expect.closeTo(1.95 / 0.95, 9) });
    // level: what leaked until then counts too
    expect(knee(2, 2, 4)).toBeUndefined();
    expect(knee(2, 2, 4.1)).toMatchObject({ step: 3 });
  });
});

describe('water test, on the bench', () => {
  it('says what is wanted, brings what was read into the units of the calculation', () => {
    expect(due('waterTest', { nameplate: { voltagesV: [230, 460] } })).toEqual({
      says: [
        '30 min in water of at most 31 dyn/cm; 500 V DC for 10 min, at least 7.3 MΩ; then 529 V AC for 60 s while immersed (NEMA MG 1 20.18 (from memory)).',
      ],
      typed: { testV: '529', seconds: '60' },
    });
    expect(due('waterTest', { nameplate: {} })).toEqual({ says: ['The nameplate names no voltage.'] });
    const read = { sealed: true, way: 'immersed', immersed: 30, tension: 30, megohm: 62, testV: 530, ended: 'held' };
    const wanted = {
      lineV: 400,
      sealed: true,
      way: 'immersed',
      immersedMin: 30,
      tension: 30,
      megohm: 62,
      overRange: false,
      underRange: false,
      testV: 530,
      heldS: undefined,
      brokeDown: false,
    };
    expect(input('waterTest', read)).toEqual(wanted);
    expect(
      input('waterTest', { ...read, seconds: 1, megohmOverRange: true, megohmUnderRange: true, ended: 'breakdown' }),
    ).toEqual({ ...wanted, heldS: 60, overRange: true, underRange: true, brokeDown: true });
    expect(input('waterTest', read, { nameplate: {} })).toBeUndefined();
    expect(input('waterTest', read, { nameplate: { voltagesV: [690, 400] } })).toMatchObject({ lineV: 690 });
    expect(kindOf('waterTest').for?.({ record: { kind: 'form-wound' } } as never)).toBe(true);
    expect(kindOf('waterTest').for?.({ record: { kind: 'three-phase' } } as never)).toBe(false);
  });
  it('says what is missing, short, or not proved', () => {
    const says = (x: object) =>
      ran('evaluate.waterTest', { lineV: 460, immersedMin: 30, megohm: 62, testV: 529, heldS: 60, ...x }).values[
        'reason'
      ];
    const end = 'Rinse, dry, measure insulation resistance again.';
    expect(says({})).toBe(
      `62 MΩ immersed, minimum 7.3 MΩ (5 · kV + 5, NEMA MG 1 20.18 (from memory)). 529 V AC for 60 s; 529 V for 60 s wanted (1.15 · U, NEMA MG 1 20.18 (from memory)). ${end}`,
    );
    expect(says({ testV: undefined })).toMatch(/Voltage and time under water is missing\./);
    expect(says({ heldS: undefined })).toMatch(/Voltage and time under water is missing\./);
    expect(says({ immersedMin: undefined })).toMatch(/The time under water is missing\./);
    expect(says({ megohm: 5, overRange: true })).toMatch(
      /^Above 5 MΩ: the instrument's range ends below the minimum of 7\.3 MΩ\./,
    );
    expect(says({ sealed: false })).toBe('Only a winding sold as a sealed system is put under water.');
    expect(says({ way: 'sprayed' })).toMatch(/Sprayed, not immersed/);
    expect(says({ way: 'sprayed', tension: 60 })).not.toMatch(/tension/i);
  });
});

describe('growler, on the bench', () => {
  it('wants how many slots there are; equalisers as they were said, poles of the winding or the plate', () => {
    expect(lacks('growler', {})).toBe('slots');
    expect(lacks('growler', { slots: 1 })).toBe('slots');
    expect(lacks('growler', { slots: 2 })).toBeUndefined();
    expect(input('growler', { what: 'cage', slots: 28, found: [3] })).toEqual({
      what: 'cage',
      slots: 28,
      found: [3],
      equalised: undefined,
      poles: 4,
    });
    expect(input('growler', { equalised: 'yes' })?.['equalised']).toBe(true);
    expect(input('growler', { equalised: 'no' })?.['equalised']).toBe(false);
    expect(input('growler', {}, { found: null, nameplate: { poles: 6 } })?.['poles']).toBe(6);
  });
});
