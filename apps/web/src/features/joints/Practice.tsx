import {
  asLinkedToRun,
  checkConnection,
  circuitsAsMade,
  connectionRing,
  drawnAsMade,
  networkOf,
  sayPath,
  singleMistakes,
  type Connection,
  type Layout,
  type Mistake,
  phaseWords,
} from '@norther/core';
import { useMemo, useState } from 'react';
import { useDraft } from '../../app/draft.ts';
import { useMarks } from '../../app/shop.ts';
import { DrawingView } from '../../drawing/DrawingView.tsx';
import { Button } from '../../ui/Button.tsx';
import { Quiet } from '../../ui/Problem.tsx';
import { Signatures } from './Findings.tsx';

const KINDS = ['reversed group', 'bypassed group', 'exchanged groups', 'open circuit', 'phase reversed'] as const;

/** A connection with one planted mistake and its test figures; the person finds it, the score is kept. */
export function Practice({ layout, connection }: { layout: Layout; connection: Connection }) {
  const { school } = useMarks();
  const linked = useMemo(() => asLinkedToRun(layout, connection), [layout, connection]);
  const mistakes = useMemo(() => (linked ? singleMistakes(layout, linked) : []), [layout, linked]);
  const [planted, setPlanted] = useState<Mistake>();
  const [kind, setKind] = useState<string>('reversed group');
  const [group, setGroup] = useState('');
  const [answer, setAnswer] = useState<'right' | 'near' | 'wrong'>();
  const draft = useDraft('practice');
  const score = { right: Number(draft.typed['right'] ?? 0), tried: Number(draft.typed['tried'] ?? 0) };
  const plant = (): void => {
    setAnswer(undefined);
    setGroup('');
    setPlanted(mistakes[Math.floor(Math.random() * mistakes.length)]);
  };
  const check = useMemo(
    () => (planted && linked ? checkConnection(layout, linked, planted.joints) : undefined),
    [planted, layout, linked],
  );
  const paths = useMemo(
    () => (planted ? circuitsAsMade(networkOf(layout, planted.joints)).paths : []),
    [planted, layout],
  );
  const drawing = useMemo(
    () =>
      planted && linked
        ? connectionRing(layout, drawnAsMade(layout, linked, planted.joints), { marks: school, size: 460 })
        : undefined,
    [planted, layout, linked, school],
  );
  if (mistakes.length === 0)
    return <Quiet>Practice is for three-phase windings of one speed that run on three lines.</Quiet>;
  const judge = (): void => {
    if (!planted) return;
    const hit = planted.groups.includes(Number(group));
    const right = hit && planted.kind === kind;
    setAnswer(right ? 'right' : hit || planted.kind === kind ? 'near' : 'wrong');
    draft.take({ right: String(score.right + (right ? 1 : 0)), tried: String(score.tried + 1) });
  };
  return (
    <section aria-label="Practice" className="max-w-3xl space-y-3">
      <p>
        A connection with one mistake in it. Read its test figures and its circuits, and say what is wrong.{' '}
        <strong>
          {score.right} of {score.tried} found.
        </strong>
      </p>
      <Button look={planted && !answer ? 'plain' : 'main'} onClick={plant}>
        {planted ? 'Another one' : 'Plant a mistake'}
      </Button>
      {planted && check ? (
        <>
          <Signatures check={check} />
          {drawing ? <DrawingView drawing={drawing} className="max-w-[460px]" /> : null}
          <details>
            <summary className="cursor-pointer min-h-8">The circuits as they lie</summary>
            <ul className="text-small">
              {paths.map((p, i) => (
                <li key={i}>{sayPath(p, school)}</li>
              ))}
            </ul>
          </details>
          <div className="flex flex-wrap gap-3 items-end">
            <label>
              It is{' '}
              <select
                value={kind}
                onChange={(e) => setKind(e.target.value)}
                className="min-h-11 border border-edge bg-sheet px-1"
              >
                {KINDS.map((k) => (
                  <option key={k}>{k}</option>
                ))}
              </select>
            </label>
            <label>
              at group{' '}
              <input
                value={group}
                inputMode="numeric"
                onChange={(e) => setGroup(e.target.value)}
                className="w-20 min-h-11 border border-edge rounded-sm px-2 bg-sheet"
              />
            </label>
            <Button look="main" disabled={!/^\d+$/.test(group) || answer !== undefined} onClick={judge}>
              That is it
            </Button>
          </div>
          {answer ? (
            <p role="status" className="font-semibold">
              {answer === 'right' ? 'Right: ' : answer === 'near' ? 'Nearly: ' : 'No: '}
              {phaseWords(planted.say, school)}.{' '}
              <span className="font-normal">{phaseWords(check.findings[0]?.message ?? '', school)}</span>
            </p>
          ) : null}
        </>
      ) : null}
    </section>
  );
}
