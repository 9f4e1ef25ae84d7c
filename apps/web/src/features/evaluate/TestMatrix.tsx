import {
  TEST_KINDS,
  testsFor,
  TEST_STAGE_TITLES,
  TEST_STAGES,
  testStagesOf,
  wantedAt,
  FIRST_PART,
  testedOf,
  formatNumber,
  type JudgingContext,
  type TestKind,
  type Tested,
  type TestStage,
  type WhatCame,
} from '@norther/core';
import { type JobDetail, type TestView, windingOfPart } from '@norther/contracts';
import { useMemo } from 'react';
import { useSettings } from '../../app/shop.ts';
import { contextOf } from './benchContext.ts';
import { VerdictMark } from '../../ui/Verdict.tsx';

/** The stages that this job's route holds. */
export const stagesOf = (job: JobDetail): TestStage[] =>
  job.came === 'rotor only' ? [] : testStagesOf(Object.fromEntries(job.detailSteps.map((s) => [s.code, s.after])));

/** What is tested of a job: decides which tests there are. */
export function testedOfJob(job: JobDetail): Tested {
  const { found, plan } = windingOfPart(job, FIRST_PART);
  return testedOf(job.nameplate, found, plan);
}

/** The figure of a test that is worth a glance: the first that its calculation derived. */
function mainFigure(kind: TestKind, run: TestView): string {
  const values = (run.result as { values?: Record<string, unknown> } | null)?.values ?? {};
  const of = kind.derived?.find((d) => typeof values[d.name] === 'number');
  return of ? `${formatNumber(values[of.name] as number, 3)}${of.unit ? ` ${of.unit}` : ''}` : '';
}

/** Test by stage: the standing verdict of each, what is still wanted, and a dot where it does not belong. */
export function TestMatrix({
  job,
  chosen,
  onChoose,
}: {
  job: JobDetail;
  chosen?: { stage: string; kind: string };
  onChoose?: (stage: TestStage, kind: string) => void;
}) {
  const stages = stagesOf(job);
  const standing = job.tests.filter((t) => t.supersededBy === null);
  const tested = testedOfJob(job);
  // what was read before the machine was known stays to be seen
  const kinds = [
    ...testsFor(tested),
    ...TEST_KINDS.filter((k) => !(k.for?.(tested) ?? true) && standing.some((t) => t.kind === k.id)),
  ];
  const limits = useSettings()?.limits;
  const contexts = useMemo(
    () => new Map(stages.map((s) => [s, contextOf(job, s, FIRST_PART, limits ?? {})])),
    // the stages follow from the job
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [job, limits],
  );
  if (stages.length === 0)
    return <p className="text-soft">A rotor alone has no winding tests; its balance is judged on Balance.</p>;
  return (
    <div className="overflow-x-auto" role="group" aria-label="Tests by stage" tabIndex={0}>
      <table className="w-full border-collapse text-small">
        <thead>
          <tr>
            <th className="text-left font-semibold py-1 pr-2">Test</th>
            {TEST_STAGES.filter((s) => stages.includes(s)).map((s) => (
              <th key={s} className="text-left font-semibold py-1 px-1 whitespace-nowrap">
                {TEST_STAGE_TITLES[s]}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {kinds.map((kind) => (
            <tr key={kind.id} className="border-t border-line">
              <th scope="row" className="text-left font-normal py-1 pr-2">
                {kind.title}
              </th>
              {TEST_STAGES.filter((s) => stages.includes(s)).map((stage) => {
                const last = standing.filter((t) => t.stage === stage && t.kind === kind.id).at(-1);
                const wants = wantedAt(kind, stage, job.came as WhatCame, tested);
                const due = !last && wants ? kind.due?.(contexts.get(stage) as JudgingContext).short : undefined;
                const read = last ? mainFigure(kind, last) : '';
                const mark = last ? (
                  <span className="inline-flex items-center gap-1">
                    <VerdictMark verdict={last.verdict} />
                    {read}
                  </span>
                ) : wants === 'required' ? (
                  <span className="text-soft">wanted{due ? `, ${due}` : ''}</span>
                ) : wants === 'optional' ? (
                  <span className="text-soft">may be</span>
                ) : (
                  <span className="text-soft">·</span>
                );
                const isChosen = chosen?.stage === stage && chosen.kind === kind.id;
                return (
                  <td key={stage} className="px-0.5 py-0.5">
                    {onChoose && (wants || last) ? (
                      <button
                        type="button"
                        aria-label={`${kind.title}, ${TEST_STAGE_TITLES[stage]}`}
                        aria-pressed={isChosen}
                        onClick={() => onChoose(stage, kind.id)}
                        className={`min-h-9 px-1 w-full text-left rounded-sm border ${isChosen ? 'border-accent border-2' : 'border-transparent hover:border-edge'}`}
                      >
                        {mark}
                        {last?.signed ? <span className="text-soft"> signed</span> : null}
                      </button>
                    ) : (
                      <span className="px-1">
                        {mark}
                        {last?.signed ? <span className="text-soft"> signed</span> : null}
                      </span>
                    )}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
