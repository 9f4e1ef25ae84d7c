import { type Finding, sayPart, WINDING_FIELDS, type WindingPart } from '@norther/core';
import { type JobDetail, type WindingView, windingOfPart } from '@norther/contracts';
import { useDraftText } from '../../app/draft.ts';
import { useReleasePlanMutation } from '../../app/api/winding.ts';
import { useMay, useTime } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';

/** What stands between a record and its release: the fields still missing, else what cannot be right. */
function whyNot({ missing, findings }: { missing: readonly string[]; findings: readonly Finding[] }): string {
  const labels = missing.map((name) => WINDING_FIELDS.find((f) => f.name === name)?.label ?? name);
  return labels.length > 0
    ? `the record still needs: ${labels.join(', ')}`
    : (findings.find((f) => f.severity === 'E')?.message ?? 'the record is not complete yet');
}

/** What is released, by whom, why; the foreman's release of the winding as found. */
export function PlanState({
  job,
  part,
  plan,
  checks,
}: {
  job: JobDetail;
  part: WindingPart;
  plan: WindingView | null;
  checks: { verifiable: boolean; missing: readonly string[]; findings: readonly Finding[] };
}) {
  const mayRelease = useMay('foreman') && !job.closedAt;
  const [release, { isLoading, error }] = useReleasePlanMutation();
  const reason = useDraftText(`reason:release:${job.number}:${part}`, 'Rewind as found.');
  const time = useTime();
  const { found } = windingOfPart(job, part);
  // a changed rewind differs from the record by intent: it is outdated when the record it started from was corrected
  const newer =
    plan &&
    found &&
    (plan.redesign
      ? plan.redesign.fromRevision !== found.revision
      : JSON.stringify(plan.typed) !== JSON.stringify(found.typed));
  return (
    <div className="flex flex-wrap gap-3 items-center flex-1">
      <p>
        {sayPart(part) === '' ? '' : `${sayPart(part)}: `}
        {plan ? (
          <>
            <strong>Plan {plan.revision} released</strong> by {plan.released?.by} on {time(plan.at)}. {plan.reason}
          </>
        ) : (
          <strong>As found, not released for winding.</strong>
        )}
        {newer ? (
          <span className="text-attention font-semibold"> The record was corrected after the release.</span>
        ) : null}
      </p>
      {mayRelease && found && (!plan || newer) ? (
        <form
          className="flex gap-2 items-center"
          onSubmit={(e) => {
            e.preventDefault();
            void release({
              number: job.number,
              part,
              revision: found.revision,
              planRevision: plan?.revision ?? 0,
              reason: reason.text,
            }).then((r) => 'data' in r && reason.recorded());
          }}
        >
          <input
            aria-label="Reason of the release"
            value={reason.text}
            onChange={(e) => reason.set(e.target.value)}
            className="min-h-9 border border-edge rounded-sm px-2 bg-sheet w-56"
          />
          <Button
            type="submit"
            look="plain"
            disabled={isLoading || !checks.verifiable}
            title={checks.verifiable ? '' : 'The record is not complete or cannot be right; see Data as found.'}
          >
            Release as plan
          </Button>
          {checks.verifiable ? null : <span className="text-small text-soft">{whyNot(checks)}</span>}
        </form>
      ) : null}
      {plan?.redesign ? (
        <p className="w-full border-l-4 border-attention pl-2">
          <strong>▲ Changed, not as found.</strong>{' '}
          {plan.redesign.changes.map((c) => `${c.label} ${c.is} (was ${c.was})`).join('; ')}.
          {plan.redesign.warnings.length > 0 ? ` Mind: ${plan.redesign.warnings.join('; ')}.` : ''}
        </p>
      ) : null}
      <ProblemNote error={error} />
    </div>
  );
}
