import type { JobDetail, TraceView } from '@norther/contracts';
import { FIRST_PART, formatNumber, operation, stageTitle, testKind, type RouteId, type TestStage } from '@norther/core';
import Papa from 'papaparse';

/** One row a fact: what, where it belongs, value, verdict, who, when. For a spreadsheet; a long oven log as drawn. */
export function jobTable(detail: JobDetail, logs: ReadonlyMap<string, TraceView>): string {
  const { number } = detail;
  const rows: Record<string, string>[] = [];
  const push = (section: string, item: string, field: string, value: string, verdict = '', person = '', at = '') =>
    rows.push({ section, item, field, value, verdict, person, at });
  push('job', number, 'what', detail.what);
  push('job', number, 'customer', detail.customer);
  for (const [f, v] of Object.entries(detail.nameplateTyped)) push('nameplate', number, f, v);
  for (const w of [...detail.windingRevisions].reverse())
    for (const [f, v] of Object.entries(w.typed))
      push(
        `winding ${w.part === FIRST_PART ? '' : `${w.part} `}${w.role} ${w.revision}`,
        number,
        f,
        v,
        '',
        w.person,
        w.at,
      );
  for (const s of detail.detailSteps) {
    push('step', operation(s.code).title, 'state', s.state, '', '', s.changedAt ?? '');
    for (const a of s.attempts) {
      for (const [f, v] of Object.entries(a.typed))
        push(
          `step attempt ${a.number}`,
          operation(s.code).title,
          f,
          v,
          a.verdict ?? '',
          a.finishedBy ?? a.startedBy,
          a.finishedAt ?? '',
        );
      push(
        `step attempt ${a.number}`,
        operation(s.code).title,
        'reason',
        a.reason,
        a.verdict ?? '',
        a.finishedBy ?? a.startedBy,
        a.finishedAt ?? '',
      );
    }
  }
  for (const t of detail.tests) {
    const name = `${testKind(t.kind)?.title ?? t.kind}, ${stageTitle(t.stage as TestStage, detail.route as RouteId)}`;
    for (const [f, v] of Object.entries(t.typed))
      push(t.supersededBy ? 'test (corrected)' : 'test', name, f, v, t.verdict, t.person, t.takenAt);
    push('test', name, 'reason', t.reason, t.verdict, t.person, t.takenAt);
  }
  for (const c of detail.cures) {
    const log = logs.get(c.trace.id);
    log?.x.forEach((x, i) =>
      log.channels.forEach((channel, k) => {
        const value = log.values[k]?.[i] ?? null;
        push(
          'cure',
          `${c.fileName} ${channel.name} (${channel.role})`,
          `${formatNumber(x, 6)} ${log.xUnit}`,
          value === null ? '' : `${formatNumber(value, 6)} ${channel.unit}`,
          c.verdict,
          c.person,
          c.at,
        );
      }),
    );
    push('cure', c.fileName, 'reason', c.reason, c.verdict, c.person, c.at);
  }
  for (const b of detail.balances) {
    for (const [f, v] of Object.entries(b.typed)) push('balance', number, f, v, b.verdict, b.person, b.at);
    push('balance', number, 'reason', b.reason, b.verdict, b.person, b.at);
  }
  for (const f of detail.attachments) push('file', f.name, f.mediaType, `${f.bytes} bytes`, '', f.person, f.at);
  return Papa.unparse(rows, { escapeFormulae: true });
}
