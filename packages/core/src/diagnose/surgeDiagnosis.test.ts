import { describe, expect, it } from 'vitest';
import { cause, ranked } from './ranked.ts';
import { surgeDiagnosis, type SurgeFacts } from './surgeDiagnosis.ts';

const BASE: SurgeFacts = {
  out: 0,
  of: 3,
  outAtLowest: false,
  outFromV: undefined,
  shiftPercent: 0.4,
  shiftLimit: 3,
  jumps: [],
  soundWaveSteady: undefined,
  unsteady: [],
  dead: [],
  silent: [],
  weak: [],
  rotor: 'out',
  windings: 'alike',
  resistance: { kind: 'equal' },
  insulation: 'sound',
  phase: undefined,
  lower: false,
};
const told = (more: Partial<SurgeFacts>) => surgeDiagnosis({ ...BASE, ...more });
const ids = (more: Partial<SurgeFacts>) => told(more).map((c) => c.id);
const STEADY: Partial<SurgeFacts> = { out: 2, outAtLowest: true, outFromV: 600, shiftPercent: 12 };
const JUMP: Partial<SurgeFacts> & Pick<SurgeFacts, 'jumps'> = {
  out: 2,
  outFromV: 1400,
  jumps: [{ wave: 'UV', fromV: 1000, toV: 1400 }],
  shiftPercent: 6,
};
const LOW: Partial<SurgeFacts> = { resistance: { kind: 'low', phase: 'V', percent: -12 } };
const HIGH: Partial<SurgeFacts> = { resistance: { kind: 'high', phase: 'W', percent: 33 } };

describe('what the waves say, the most likely first', () => {
  it.each<[string, Partial<SurgeFacts>, string]>([
    ['all within limits', {}, 'healthy'],
    ['no comparison, steps in order', { of: 0 }, 'healthy'],
    ['jumps while the voltage rises', JUMP, 'turn insulation'],
    ['within limits below, out above', { out: 2, outFromV: 1400, shiftPercent: 6 }, 'turn insulation'],
    ['out at all voltages, resistances equal', STEADY, 'reversed or exchanged groups, hard turn short'],
    [
      'out at the one voltage taken',
      { ...STEADY, outAtLowest: undefined },
      'reversed or exchanged groups, hard turn short',
    ],
    ['out at all, one resistance low', { ...STEADY, ...LOW }, 'turns missing'],
    [
      'out at all, one resistance high, inductance gained',
      { ...STEADY, ...HIGH, lower: true },
      'more turns or open circuit',
    ],
    ['all three out, rotor in', { ...STEADY, out: 3, rotor: 'in' }, 'rotor position'],
    ['all three out, rotor out', { ...STEADY, out: 3, shiftPercent: 2 }, 'unlike windings'],
    [
      'small and unsteady, insulation low',
      {
        ...JUMP,
        weak: ['UV', 'WU'],
        insulation: 'low',
        phase: undefined,
        jumps: [],
        unsteady: ['UV'],
        outAtLowest: true,
      },
      'ground fault',
    ],
    ['a dead wave', { ...STEADY, shiftPercent: undefined, dead: ['UV'] }, 'open circuit'],
    ['a wave that falls without ringing', { ...STEADY, shiftPercent: undefined, silent: ['UV'] }, 'open circuit'],
    ['changes at one voltage', { unsteady: ['VW'] }, 'partial discharge or unsteady joint'],
  ])('%s', (_, facts, id) => expect(ids(facts)[0]).toBe(id));

  it.each<[string, Partial<SurgeFacts>, string]>([
    ['healthy, where anything is out', STEADY, 'healthy'],
    ['healthy, where something jumps', { jumps: JUMP.jumps }, 'healthy'],
    ['healthy, where a wave is a line', { dead: ['UV'] }, 'healthy'],
    ['healthy, where a wave does not ring', { silent: ['UV'] }, 'healthy'],
    ['healthy, where one changes at one voltage', { unsteady: ['UV'] }, 'healthy'],
    ['turn insulation, where it is out at all voltages', STEADY, 'turn insulation'],
    ['groups, where it comes with the voltage', JUMP, 'reversed or exchanged groups, hard turn short'],
    [
      'groups, where the lowest voltage is within',
      { ...STEADY, outAtLowest: false },
      'reversed or exchanged groups, hard turn short',
    ],
    ['groups, where a resistance is off', { ...STEADY, ...LOW }, 'reversed or exchanged groups, hard turn short'],
    [
      'groups, where the shift is within its limit',
      { ...STEADY, shiftPercent: 3 },
      'reversed or exchanged groups, hard turn short',
    ],
    ['groups, where one wave is a line', { ...STEADY, dead: ['UV'] }, 'reversed or exchanged groups, hard turn short'],
    ['turns missing, where resistances are equal', STEADY, 'turns missing'],
    ['turns missing, where one is high', { ...STEADY, ...HIGH }, 'turns missing'],
    ['more turns, where one is low', { ...STEADY, ...LOW, lower: true }, 'more turns or open circuit'],
    ['more turns, where resistances are equal', { ...STEADY, lower: true }, 'more turns or open circuit'],
    ['rotor position, rotor out', { ...STEADY, out: 3 }, 'rotor position'],
    ['rotor position, with a jump', { ...JUMP, rotor: 'in' }, 'rotor position'],
    ['rotor position, nothing out', { rotor: 'in' }, 'rotor position'],
    ['unlike windings, two out', STEADY, 'unlike windings'],
    ['unlike windings, rotor in', { ...STEADY, out: 3, rotor: 'in' }, 'unlike windings'],
    ['unlike windings, one wave a line', { ...STEADY, out: 3, dead: ['UV'], silent: ['VW'] }, 'unlike windings'],
    ['ground fault, insulation sound and waves strong', STEADY, 'ground fault'],
    [
      'ground fault, sound insulation and nothing unsteady',
      { ...STEADY, weak: ['UV'], shiftPercent: 1, insulation: 'sound', unsteady: [] },
      'x',
    ],
    ['open circuit, all ring', { ...STEADY, ...HIGH }, 'x'],
    ['discharge, every pulse alike', STEADY, 'partial discharge or unsteady joint'],
  ])('not %s', (_, facts, id) => expect(ids(facts)).not.toContain(id));

  it('3 % is the border of the shift', () => {
    expect(ids({ ...STEADY, shiftPercent: 3.01 })).toContain('reversed or exchanged groups, hard turn short');
    expect(ids({ ...STEADY, shiftPercent: -3.01 })).toContain('reversed or exchanged groups, hard turn short');
  });

  it('says what speaks for it and what against', () => {
    const [first] = told({ ...JUMP, phase: 'U', soundWaveSteady: true });
    expect(first).toMatchObject({
      title: 'Turn insulation breaks down in phase U',
      speaksFor: [
        'UV jumps between 1000 and 1400 V',
        'within limits below, out from 1400 V up',
        'the wave without that phase stays',
        'insulation resistance is sound',
      ],
      speaksAgainst: [],
    });
    const against = told({ ...JUMP, soundWaveSteady: false })[0];
    expect(against?.speaksAgainst).toEqual(['the wave without that phase jumps as well']);
    expect((against?.confidence ?? 1) < (first?.confidence ?? 0)).toBe(true);
    const groups = told({ ...STEADY, phase: 'V' })[0];
    expect(groups?.title).toBe('Group of V reversed or a hard turn short in V, or groups of U and W exchanged');
    expect(groups?.speaksFor).toEqual([
      'ring frequencies 12 % apart, out at the lowest voltage too',
      'phase resistances are equal',
    ]);
    expect(told({ ...STEADY, rotor: 'in' }).find((c) => c.id.startsWith('reversed'))?.speaksAgainst).toEqual([
      'the rotor is in',
    ]);
    expect(told({ ...STEADY, windings: 'concentric' }).find((c) => c.id.startsWith('reversed'))?.speaksAgainst).toEqual(
      ['the phases are unlike by design'],
    );
    expect(told({ ...STEADY, outAtLowest: undefined })[0]?.speaksFor[0]).toMatch(/the one voltage that was taken/);
    expect(told({ ...STEADY, ...LOW })[0]).toMatchObject({
      title: 'Turns missing or a group bypassed in phase V',
      speaksFor: ['ring frequencies 12 % apart', 'resistance of phase V 12 % low'],
    });
    expect(told({ ...STEADY, ...HIGH, lower: true })[0]).toMatchObject({
      title: 'More turns, or a parallel circuit open, in phase W',
      speaksFor: ['ring frequencies 12 % apart', 'resistance of phase W 33 % high'],
    });
    expect(told({ ...STEADY, ...HIGH, dead: ['UV'], silent: ['WU'] })[0]?.speaksFor).toEqual([
      'UV stays a line',
      'WU falls without ringing',
      'resistance of phase W 33 % high',
    ]);
    const weak = told({ ...STEADY, weak: ['UV', 'WU'], insulation: 'low', unsteady: ['UV'] }).find(
      (c) => c.id === 'ground fault',
    );
    expect(weak?.speaksFor).toEqual([
      'UV, WU smaller or much more damped than the others',
      'insulation resistance is low',
      'unsteady',
    ]);
    expect(
      told({ ...STEADY, weak: ['UV'], unsteady: ['UV'] }).find((c) => c.id === 'ground fault')?.speaksAgainst,
    ).toEqual(['insulation resistance is sound']);
    expect(told({ insulation: 'low' })[0]?.speaksAgainst).toEqual(['insulation resistance is low']);
    expect(told(LOW).find((c) => c.id === 'healthy')?.speaksAgainst).toEqual(['resistance of phase V 12 % low']);
    expect(told({})[0]?.speaksFor).toEqual(['every comparison is within its limit', 'phase resistances are equal']);
    expect(told({ of: 0, resistance: undefined })[0]?.speaksFor).toEqual(['no step from pulse to pulse is out']);
    const rotor = told({ ...STEADY, out: 3, rotor: 'in' })[0];
    expect(rotor?.speaksFor).toEqual(['all comparisons out with the rotor in', 'phase resistances are equal']);
    expect(told({ ...STEADY, rotor: 'in' }).find((c) => c.id === 'rotor position')?.speaksFor[0]).toBe(
      'the rotor is in',
    );
    expect(
      told({ ...STEADY, ...LOW, out: 3, rotor: 'in' }).find((c) => c.id === 'rotor position')?.speaksAgainst,
    ).toEqual(['resistance of phase V 12 % low']);
    const unlike = told({ ...STEADY, out: 3, shiftPercent: 2, windings: 'concentric' })[0];
    expect(unlike).toMatchObject({
      title: 'Phases unlike by design (concentric)',
      next: 'Compare with a master wave of this winding.',
    });
    expect(unlike?.speaksFor).toEqual([
      'all three comparisons out with the rotor out',
      'the windings are recorded as concentric',
    ]);
    const shaky = told({ unsteady: ['VW'], out: 1, shiftPercent: 1 })[0];
    expect(shaky?.speaksFor).toEqual(['VW changes between pulses of one voltage', 'comparisons are out']);
  });
});

describe('weighing', () => {
  it('keeps what more speaks for than against, the surest first; what nobody knows keeps it below one', () => {
    const of = (...weights: number[]) =>
      cause(
        'a',
        'A',
        'next',
        weights.map((weight) => ({ weight, say: `w${weight}` })),
      );
    expect(of(3, -1)).toEqual({
      id: 'a',
      title: 'A',
      next: 'next',
      confidence: 3 / 5,
      speaksFor: ['w3'],
      speaksAgainst: ['w-1'],
    });
    expect(of(1, -1)).toBeUndefined();
    expect(of()).toBeUndefined();
    expect(of(1, -1.5)).toBeUndefined();
    expect(cause('a', 'A', 'next', [undefined, false, { weight: 1, say: 'x' }])?.confidence).toBe(0.5);
    const [low, high] = [of(1), of(4)];
    expect(ranked([low, undefined, high]).map((c) => c.confidence)).toEqual([0.8, 0.5]);
  });
});
