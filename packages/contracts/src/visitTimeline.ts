import { operationIf, testKind, timeline, type Drawing, type TimelineMark } from '@norther/core';
import type { JobDetail } from './job.ts';

/** The visit of a motor as one drawing: operations with their verdicts, tests, photographs, papers. @param now for what is not ended yet */
export function visitDrawing(job: JobDetail, now: number, day: (ms: number) => string): Drawing {
  const ms = (iso: string) => Date.parse(iso);
  const end = job.closedAt ? ms(job.closedAt) : now;
  const bars = job.detailSteps.flatMap((s) => {
    const op = operationIf(s.code);
    return s.attempts.map((a) => ({
      title: op?.title ?? s.code,
      rail: op?.rail ?? ('trunk' as const),
      from: ms(a.startedAt),
      to: a.finishedAt ? ms(a.finishedAt) : end,
      verdict: a.verdict,
      override: a.override !== null,
    }));
  });
  const holds = job.detailSteps.flatMap((s) =>
    s.attempts
      .filter((a) => a.verdict === 'fail' || a.override !== null)
      .map((a): TimelineMark => ({
        at: a.finishedAt ? ms(a.finishedAt) : ms(a.startedAt),
        what: 'hold',
        says: `${operationIf(s.code)?.title ?? s.code}${a.override === null ? '' : `, passed by ${a.startedBy}: ${a.override}`}`,
        verdict: a.override === null ? 'fail' : 'attention',
      })),
  );
  const marks: TimelineMark[] = [
    ...holds,
    ...job.tests.map((t): TimelineMark => ({
      at: ms(t.takenAt),
      what: 'test',
      says: testKind(t.kind)?.title ?? t.kind,
      verdict: t.verdict,
    })),
    ...job.attachments.map((a): TimelineMark => ({ at: ms(a.at), what: 'photograph', says: a.name })),
    ...job.reports.map((r): TimelineMark => ({ at: ms(r.at), what: 'paper', says: `Report ${r.revision}` })),
  ];
  return timeline({ from: ms(job.takenInAt), to: end, bars, marks }, day);
}
