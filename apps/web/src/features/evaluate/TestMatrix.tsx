import {
  ROUTES,
  TEST_KINDS,
  testsFor,
  stageTitle,
  TEST_STAGES,
  testStagesOf,
  wantedAt,
  FIRST_PART,
  testedOf,
  type JudgingContext,
  type RouteId,
  type Tested,
  type TestKind,
  type TestStage,
  type WhatCame,
} from '@norther/core';
import { type JobDetail, windingOfPart } from '@norther/contracts';
import { useMemo, useState } from 'react';
import { useSettings } from '../../app/shop.ts';
import { useEarlierTestsQuery } from '../../app/api/evaluate.ts';
import { contextOf } from './benchContext.ts';
import { cellTrend, mainFigure, sayFigure } from './cellTrend.ts';
import { VerdictMark } from '../../ui/Verdict.tsx';

/** The stages that this job's route holds. */
export const stagesOf = (job: JobDetail): TestStage[] =>
  job.came === 'rotor only' ? [] : testStagesOf(Object.fromEntries(job.detailSteps.map((s) => [s.code, s.after])));

/** What is tested of a job: decides which tests there are. */
export function testedOfJob(job: JobDetail): Tested {
  const { found, plan } = windingOfPart(job, FIRST_PART);
  return testedOf(job.nameplate, found, plan, job.route as RouteId);
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
  const all = [
    ...testsFor(tested),
    ...TEST_KINDS.filter((k) => !(k.for?.(tested) ?? true) && standing.some((t) => t.kind === k.id)),
  ];
  const [opened, setOpened] = useState(false);
  const isNear = (kind: TestKind): boolean =>
    chosen?.kind === kind.id ||
    standing.some((t) => t.kind === kind.id) ||
    stages.some((s) => wantedAt(kind, s, job.came as WhatCame, tested) === 'required');
  const kinds = opened ? all : all.filter(isNear);
  const further = all.filter((k) => !isNear(k)).length;
  const { data: earlier = [] } = useEarlierTestsQuery(job.number);
  const limits = useSettings()?.limits;
  const rewound = ROUTES[job.route as RouteId].rewinds.length > 0;
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
                {stageTitle(s, job.route as RouteId)}
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
                const figure = last && mainFigure(kind, last);
                const read = figure === undefined ? '' : sayFigure(kind, figure);
                const trend =
                  last &&
                  cellTrend(kind, last, standing, earlier, {
                    rewound,
                    route: job.route as RouteId,
                    limits: limits ?? {},
                  });
                const mark = last ? (
                  <span className="inline-flex items-center gap-1">
                    <VerdictMark verdict={last.verdict} />
                    {read}
                    {trend && trend.short !== '' ? (
                      <span
                        className={`whitespace-nowrap ${trend.flagged ? 'text-attention font-semibold' : 'text-soft'}`}
                        title={trend.says}
                      >
                        {trend.flagged ? '! ' : ''}
                        {trend.short}
                      </span>
                    ) : null}
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
                        aria-label={`${kind.title}, ${stageTitle(stage, job.route as RouteId)}`}
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
      {further > 0 ? (
        <button
          type="button"
          aria-expanded={opened}
          className="min-h-9 text-accent underline"
          onClick={() => setOpened(!opened)}
        >
          {opened ? 'Only tests that are wanted or done' : `${further} more that may be done`}
        </button>
      ) : null}
    </div>
  );
}
