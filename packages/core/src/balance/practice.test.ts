import { describe, expect, it } from 'vitest';
import { balanceEntrySchema, type BalanceEntry } from './entries.ts';
import { lesson, PRACTICE_FAULTS, PRACTICE_LEVELS, practiceRun, scoreOf, type Lesson } from './practice.ts';
import { balanceNow } from './session.ts';
import { guideOf } from './setUp.ts';

/** A lesson worked as a person would. */
function worked(of: Lesson, most = 4): BalanceEntry[] {
  const entries: BalanceEntry[] = [];
  const put = (e: object): void => void entries.push(balanceEntrySchema.parse(e));
  put({ kind: 'run', readings: practiceRun(of, entries) });
  of.setUp.planes.forEach((_, i) => {
    const trial = { plane: i + 1, gMm: 4 * (guideOf(of.setUp).trials[i]?.gMm ?? 1), angleDeg: 0 };
    put({ kind: 'trial', ...trial, readings: practiceRun(of, entries, trial) });
  });
  for (let n = 0; n < most && balanceNow(of.setUp, entries).stage === 'correct'; n++) {
    const masses = (balanceNow(of.setUp, entries).next ?? []).flatMap((s) =>
      s.masses.map((m) => ({
        plane: s.plane,
        angleDeg: m.angleDeg,
        massG: (of.setUp.planes[s.plane - 1]?.way === 'add' ? 1 : -1) * m.massG,
        radiusMm: of.setUp.planes[s.plane - 1]?.radiusMm ?? 1,
      })),
    );
    if (masses.length === 0) break;
    put({ kind: 'correction', masses });
    put({ kind: 'run', readings: practiceRun(of, entries) });
  }
  return entries;
}

describe('practice on the simulated stand', () => {
  it('the same seed is the same lesson, another is another', () => {
    for (const level of PRACTICE_LEVELS) {
      expect(lesson(level, 4)).toEqual(lesson(level, 4));
      expect(lesson(level, 4).hidden).not.toEqual(lesson(level, 5).hidden);
    }
    const of = lesson('two planes', 4);
    expect(practiceRun(of, [])).toEqual(practiceRun(of, []));
  });
  it.each(PRACTICE_LEVELS.slice(0, 4))('%s: can be brought inside, and is scored', (level) => {
    let inside = 0;
    for (let seed = 1; seed <= 20; seed++) {
      const of = lesson(level, seed);
      expect(of.fault).toBe('nothing');
      const entries = worked(of);
      const score = scoreOf(of, entries, 'nothing');
      if (balanceNow(of.setUp, entries).stage === 'done') {
        inside += 1;
        expect(score.points).toBeGreaterThanOrEqual(20);
        expect(score.points).toBeLessThanOrEqual(100);
        expect(score.runs + score.corrections).toBe(entries.length);
        expect(score.says).toMatch(/^Inside with/);
      } else expect(score.points).toBe(0);
    }
    expect(inside).toBeGreaterThanOrEqual(16);
  });
  it('a rotor with something wrong is not brought inside by the same means, and is to be called by its fault', () => {
    const seen = new Set<string>();
    for (let seed = 1; seed <= 30; seed++) {
      const of = lesson('something is wrong', seed);
      seen.add(of.fault);
      const entries = worked(of, 2);
      expect(scoreOf(of, entries, of.fault)).toMatchObject({
        points: expect.any(Number) as number,
        says: expect.stringMatching(/^Right/) as string,
      });
      expect(scoreOf(of, entries, of.fault).points).toBeGreaterThanOrEqual(40);
      for (const other of PRACTICE_FAULTS.filter((f) => f !== of.fault))
        expect(scoreOf(of, entries, other).points).toBe(0);
    }
    expect([...seen].sort()).toEqual([...PRACTICE_FAULTS.slice(1)].sort());
    const sound = lesson('two planes', 3);
    expect(scoreOf(sound, worked(sound), 'bent shaft')).toMatchObject({ points: 0, says: 'It was a sound rotor.' });
    expect(scoreOf(sound, [], 'nothing').says).toMatch(/Not inside yet/);
  });
  it('fewer runs are worth more', () => {
    const of = lesson('two planes', 2);
    const entries = worked(of);
    const more = [...entries, entries.at(-1) as BalanceEntry, entries.at(-1) as BalanceEntry];
    expect(scoreOf(of, more, 'nothing').points).toBeLessThan(scoreOf(of, entries, 'nothing').points);
  });
});
