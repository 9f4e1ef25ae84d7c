import { describe, expect, it } from 'vitest';
import { worked } from '../../../../scripts/testing/worked.ts';
import { seeded } from '../balance/stand.ts';
import { surge } from '../evaluate/surge.ts';
import { wyePhases } from '../evaluate/windingResistance.ts';
import { jointsOf } from '../network/joints.ts';
import { connect } from '../winding/connection.ts';
import { layoutOf } from '../winding/layout.ts';
import { judgeWavePuzzle, plantWaveFault, WAVE_FAULTS, type WavePuzzle } from './wavePractice.ts';

const layout = layoutOf({
  slots: 36,
  poles: 4,
  layers: 2,
  form: 'lap',
  poleGroups: 'every-pole',
  spanSlots: 8,
  turns: [12],
  kind: 'three-phase',
});
const joints = jointsOf(connect(layout, { connection: 'wye', circuits: 1, jumper: 'adjacent-pole', leads: 3 }));
const puzzles = (() => {
  const random = seeded(77);
  return Array.from({ length: 60 }, () => plantWaveFault({ layout, joints, volts: 1800, lineOhm: 1.2 }, random));
})();
const of = (fault: WavePuzzle['fault']) => puzzles.filter((p) => p.fault === fault);
const judged = (p: WavePuzzle) =>
  worked(surge, {
    waves: p.waves,
    connection: 'wye',
    mode: 'lead to lead',
    requiredV: 1800,
    phasesOhm: p.ohm.every((r) => !r.startsWith('>'))
      ? wyePhases(...(p.ohm.map(Number) as [number, number, number]))
      : undefined,
  });

describe('a fault to be found from its waves', () => {
  it('every fault and every phase come up; the same draws give the same puzzle', () => {
    for (const fault of WAVE_FAULTS) expect(of(fault).length, fault).toBeGreaterThan(2);
    for (const phase of ['U', 'V', 'W', undefined])
      expect(
        puzzles.some((p) => p.phase === phase),
        String(phase),
      ).toBe(true);
    expect(plantWaveFault({ layout, joints, volts: 1800, lineOhm: 1.2 }, seeded(5))).toEqual(
      plantWaveFault({ layout, joints, volts: 1800, lineOhm: 1.2 }, seeded(5)),
    );
  });
  it('waves are named in order and hold the steps up to the voltage that is wanted', () => {
    for (const p of puzzles) {
      expect(p.waves.map((w) => w.name)).toEqual(['UV', 'VW', 'WU']);
      expect(p.waves[0]?.pulses.at(-1)?.appliedV).toBe(1800);
      expect(p.waves[0]?.pulses[0]?.dtUs).toBeGreaterThan(0);
      expect(p.ohm.every((r) => r !== '')).toBe(true);
      expect(p.megohm).not.toBe('');
      expect(p.phase === undefined).toBe(p.fault === 'nothing wrong');
    }
  });
  it('can be found: sound windings pass, faults do not, and a phase that the rules name is the planted one', () => {
    for (const p of puzzles) {
      const { verdict, suspectPhase } = judged(p);
      expect(verdict === 'pass', p.fault).toBe(p.fault === 'nothing wrong');
      if (suspectPhase !== undefined && p.fault !== 'ground fault' && p.fault !== 'lead open')
        expect(suspectPhase, p.fault).toBe(p.phase);
    }
  });
  it('shows what belongs to it: an open lead in two pairs, a low insulation at a ground fault, a group less resistance', () => {
    for (const p of of('lead open')) {
      expect(p.ohm.filter((r) => r.startsWith('>'))).toHaveLength(2);
      const whole = p.ohm.findIndex((r) => !r.startsWith('>'));
      // the pair that still reads does not touch the open lead
      expect(['UV', 'VW', 'WU'][whole]).not.toContain(p.phase);
    }
    for (const p of of('ground fault')) expect(Number(p.megohm)).toBeLessThan(1);
    for (const p of of('nothing wrong')) expect(Number(p.megohm)).toBeGreaterThan(100);
    for (const p of of('group bypassed')) {
      const phases = wyePhases(...(p.ohm.map(Number) as [number, number, number]));
      expect(['U', 'V', 'W'][phases.indexOf(Math.min(...phases))]).toBe(p.phase);
    }
  });
});

describe('the answer', () => {
  const puzzle = { fault: 'turn short', phase: 'V' } as const;
  it.each([
    [puzzle, { fault: 'turn short', phase: 'V' }, 'right'],
    [puzzle, { fault: 'turn short', phase: 'U' }, 'near'],
    [puzzle, { fault: 'turn short', phase: undefined }, 'near'],
    [puzzle, { fault: 'group reversed', phase: 'V' }, 'near'],
    [puzzle, { fault: 'group reversed', phase: 'U' }, 'wrong'],
    [puzzle, { fault: 'nothing wrong', phase: 'V' }, 'wrong'],
    [{ fault: 'nothing wrong', phase: undefined }, { fault: 'nothing wrong', phase: 'U' }, 'right'],
    [{ fault: 'nothing wrong', phase: undefined }, { fault: 'lead open', phase: undefined }, 'wrong'],
  ] as const)('%j, said %j: %s', (is, said, how) => {
    expect(judgeWavePuzzle(is, said)).toBe(how);
  });
});
