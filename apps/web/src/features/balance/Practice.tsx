import {
  balanceEntrySchema,
  balanceNow,
  guideOf,
  lesson,
  PRACTICE_FAULTS,
  PRACTICE_LEVELS,
  practiceRun,
  sayBalanceEntry,
  scoreOf,
  type BalanceEntry,
  type PracticeFault,
  type PracticeLevel,
  type Score,
} from '@norther/core';
import { useMemo, useState } from 'react';
import { Button } from '../../ui/Button.tsx';
import { PlainField, PlainSelect } from '../../ui/Field.tsx';
import { CorrectionForm } from './CorrectionForm.tsx';
import { Now, PlaneViews } from './Now.tsx';
import { RotorDrawing } from './RotorDrawing.tsx';

/** A rotor with a hidden unbalance on a simulated stand: to practise on, with a score. Nothing of it is recorded. */
export function Practice() {
  const [level, setLevel] = useState<PracticeLevel>('two planes');
  const [seed, setSeed] = useState(1);
  return (
    <div className="space-y-4">
      <div className="flex flex-wrap gap-3 items-end">
        <PlainSelect
          label="Lesson"
          value={level}
          onChange={(e) => setLevel(e.target.value as PracticeLevel)}
          options={PRACTICE_LEVELS.map((l) => ({ value: l, label: l }))}
        />
        <Button onClick={() => setSeed(seed + 1)}>Another rotor</Button>
        <p className="text-small text-soft pb-2">
          A simulated stand with the usual scatter; nothing of it is recorded.
        </p>
      </div>
      <Lesson key={`${level}${seed}`} level={level} seed={seed} />
    </div>
  );
}

function Lesson({ level, seed }: { level: PracticeLevel; seed: number }) {
  const of = useMemo(() => lesson(level, seed), [level, seed]);
  const [entries, setEntries] = useState<readonly BalanceEntry[]>([]);
  const [called, setCalled] = useState<PracticeFault>('nothing');
  const [score, setScore] = useState<Score>();
  const is = useMemo(() => balanceNow(of.setUp, entries), [of, entries]);
  const trial = is.stage === 'trial 1' ? 1 : is.stage === 'trial 2' ? 2 : undefined;
  const [typed, setTyped] = useState<{ mass: string; at: string }>();
  const guide = trial === undefined ? undefined : guideOf(of.setUp).trials[trial - 1];
  const mass = typed?.mass ?? (guide ? String(Number(guide.massG.toFixed(1))) : '');
  const at = typed?.at ?? '0';
  const put = (entry: object): void => {
    setEntries([...entries, balanceEntrySchema.parse(entry)]);
    setTyped(undefined);
    setScore(undefined);
  };
  const spin = (): void => {
    if (trial === undefined)
      return put({
        kind: 'run',
        readings: practiceRun(of, entries),
        repeat: is.stage === 'correct' || is.stage === 'done',
      });
    const with1 = {
      plane: trial,
      gMm: Number(mass) * (of.setUp.planes[trial - 1]?.radiusMm ?? 1),
      angleDeg: Number(at),
    };
    put({ kind: 'trial', ...with1, readings: practiceRun(of, entries, with1) });
  };
  const ready = trial === undefined || (Number(mass) > 0 && Number.isFinite(Number(at)));
  return (
    <div className="space-y-3">
      <Now is={is} setUp={of.setUp} />
      {is.stage === 'correct' ? (
        <CorrectionForm
          key={entries.length}
          setUp={of.setUp}
          next={is.next ?? []}
          there={is.there}
          merged={is.merged}
          busy={false}
          onSend={(e) => {
            put(e);
            return Promise.resolve(true);
          }}
        />
      ) : null}
      <div className="flex flex-wrap gap-3 items-end">
        {trial === undefined ? null : (
          <>
            <PlainField
              label="Trial mass, g"
              inputMode="decimal"
              value={mass}
              onChange={(e) => setTyped({ mass: e.target.value, at })}
            />
            <PlainField
              label="Trial mass at, °"
              inputMode="decimal"
              value={at}
              onChange={(e) => setTyped({ mass, at: e.target.value })}
            />
          </>
        )}
        <Button
          look={is.stage === 'correct' || is.stage === 'done' ? 'plain' : 'main'}
          bench
          disabled={!ready}
          onClick={spin}
        >
          {is.stage === 'correct' || is.stage === 'done' ? 'Spin the same once more' : 'Spin'}
        </Button>
        <PlainSelect
          label="Wrong with it"
          value={called}
          onChange={(e) => setCalled(e.target.value as PracticeFault)}
          options={PRACTICE_FAULTS.map((f) => ({ value: f, label: f }))}
        />
        <Button bench onClick={() => setScore(scoreOf(of, entries, called))}>
          How good was it
        </Button>
      </div>
      {score ? (
        <p role="status" className="text-bench font-semibold">
          {score.points} points. {score.says}
        </p>
      ) : null}
      <div className="grid grid-cols-1 md:grid-cols-3 gap-4">
        <PlaneViews is={is} setUp={of.setUp} />
        <RotorDrawing setUp={of.setUp} />
      </div>
      <ol aria-label="What was done">
        {entries.map((e, i) => (
          <li key={i} className="border-b border-line py-1">
            {i + 1}. {sayBalanceEntry(e, 'mm/s')}
          </li>
        ))}
      </ol>
    </div>
  );
}
