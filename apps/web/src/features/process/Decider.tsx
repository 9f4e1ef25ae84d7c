import { PROCESS_VERDICTS, type Operation } from '@norther/core';
import type { JobDetail } from '@norther/contracts';
import { Link } from 'react-router';

const WHERE = {
  tests: ['tests', 'Tests'],
  cure: ['oven', 'Oven'],
  'burn-off': ['ovens', 'Ovens'],
  balance: ['balance', 'Balance'],
  'winding record': ['data', 'Data as found'],
} as const;

/** Where that is recorded which decides a step beside its own record. */
export function Decider({ job, op }: { job: JobDetail; op: Operation }) {
  const decider = op.decidedBy;
  return decider ? (
    <p className="text-small mb-1">
      What decides here is recorded on{' '}
      <Link
        className="text-accent underline font-semibold"
        to={
          decider.kind === 'burn-off'
            ? '/ovens'
            : `/jobs/${job.number}/${decider.kind === 'winding record' && decider.role === 'released' ? 'plan' : WHERE[decider.kind][0]}`
        }
      >
        {decider.kind === 'winding record' && decider.role === 'released' ? 'Plan and card' : WHERE[decider.kind][1]}
      </Link>
      {decider.kind === 'cure'
        ? ` (cured = ${PROCESS_VERDICTS.cured}, under-cured = ${PROCESS_VERDICTS.under_cured}, over-temperature = ${PROCESS_VERDICTS.over_temperature})`
        : ''}
      .
    </p>
  ) : null;
}
