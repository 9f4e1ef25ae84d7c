import { parsePieces } from '@norther/core';
import type { JobDetail, StepViewRow } from '@norther/contracts';
import { useMarkPiecesMutation } from '../../app/api/process.ts';
import { useUnitsQuery } from '../../app/api/unit.ts';
import { useDraftText } from '../../app/draft.ts';
import { Button } from '../../ui/Button.tsx';
import { PlainField } from '../../ui/Field.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';

/** In a job of many alike an operation is walked piece by piece, or finished for all at once. */
export function PiecesDone({ job, step }: { job: JobDetail; step: StepViewRow }) {
  const { data } = useUnitsQuery({ number: job.number, after: 0, q: '' });
  const pieces = useDraftText(`pieces:${job.number}:${step.code}`);
  const [mark, { error, isLoading }] = useMarkPiecesMutation();
  if (!data || data.total === 0) return null;
  const read = pieces.text.trim() === '' ? undefined : parsePieces(pieces.text, data.total);
  const wrong = read && 'problem' in read ? read.problem : undefined;
  const send = (done: boolean) =>
    void mark({ number: job.number, code: step.code, pieces: pieces.text, done }).then(
      (r) => 'data' in r && pieces.recorded(),
    );
  return (
    <section aria-label="Piece by piece" className="my-2 border-l-4 border-line pl-3">
      <p className="text-small">
        {step.pieces
          ? `Done for ${step.pieces.done} of ${step.pieces.of} pieces.`
          : `${data.total} pieces: mark those that are done, or finish it for all at once.`}
      </p>
      <div className="flex flex-wrap gap-2 items-start">
        <PlainField
          label="Pieces"
          placeholder="1-4, 7 or all"
          value={pieces.text}
          error={wrong}
          onChange={(e) => pieces.set(e.target.value)}
        />
        <Button
          className="mt-5"
          bench
          disabled={isLoading || read === undefined || wrong !== undefined}
          onClick={() => send(true)}
        >
          Done
        </Button>
        <Button
          className="mt-5"
          bench
          look="quiet"
          disabled={isLoading || read === undefined || wrong !== undefined || !step.pieces}
          onClick={() => send(false)}
        >
          Not done after all
        </Button>
      </div>
      <ProblemNote error={error} />
    </section>
  );
}
