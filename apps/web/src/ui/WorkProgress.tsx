import type { WorkView } from '@norther/contracts';
import { ProblemNote, Quiet } from './Problem.tsx';

/** How work in the background stands that somebody waits for. */
export function WorkProgress({ what, work }: { what: string; work: WorkView | undefined }) {
  if (work?.state === 'failed')
    return <ProblemNote>{work.problem ?? 'It broke; see the log of the worker.'}</ProblemNote>;
  if (work?.state === 'cancelled') return <Quiet>{what}: cancelled.</Quiet>;
  if (work?.state === 'done') return null;
  if (work?.state === 'running')
    return (
      <p role="status" className="text-soft">
        {what} {work.progress === null ? '…' : `${Math.round(100 * work.progress)} %`}
      </p>
    );
  return (
    <p role="status" className="text-soft">
      {what} waits for a worker (npm start starts one) …
    </p>
  );
}
