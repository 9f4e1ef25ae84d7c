import { operation } from '@norther/core';
import type { JobDetail, StepViewRow } from '@norther/contracts';
import { useDraftText } from '../../app/draft.ts';
import { useMendStepMutation } from '../../app/api/process.ts';
import { useMay } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';

/** A named person passes an attention or clears what is to be looked at again, with a reason. */
export function SignOff({ job, step }: { job: JobDetail; step: StepViewRow }) {
  const [mend, { isLoading, error }] = useMendStepMutation();
  const reason = useDraftText(`reason:step:${job.number}:${step.code}`);
  const byTester = operation(step.code).decidedBy?.kind === 'tests';
  const signer = useMay(byTester ? 'tester' : 'foreman');
  const maySign = signer && !job.closedAt;
  if (step.state !== 'attention' && step.state !== 'recheck') return null;
  if (!maySign)
    return <p className="mt-2 text-soft">{byTester ? 'A tester' : 'A foreman'} signs this off, with a reason.</p>;
  return (
    <form
      aria-label="Sign-off"
      className="mt-3 flex flex-wrap gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        void mend({ number: job.number, code: step.code, what: 'sign', reason: reason.text }).then((r) =>
          'data' in r ? reason.recorded() : undefined,
        );
      }}
    >
      <input
        aria-label="Reason"
        value={reason.text}
        onChange={(e) => reason.set(e.target.value)}
        placeholder="Reason, kept on record with your name"
        className="flex-1 min-w-60 min-h-11 border border-edge rounded-sm px-2 bg-sheet"
      />
      <Button bench look="main" type="submit" disabled={reason.text.trim().length < 3 || isLoading}>
        {step.state === 'attention' ? 'Sign off' : 'Still holds'}
      </Button>
      <ProblemNote error={error} />
    </form>
  );
}
