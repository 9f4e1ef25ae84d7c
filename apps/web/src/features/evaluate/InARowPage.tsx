import {
  phaseWords,
  readForm,
  TEST_KINDS,
  TEST_STAGES,
  TEST_STAGE_TITLES,
  testKind,
  type Verdict,
} from '@norther/core';
import { type ClipboardEvent, type KeyboardEvent, useRef, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { problemOf } from '../../app/api/base.ts';
import { useRecordTestMutation } from '../../app/api/evaluate.ts';
import { useDraft } from '../../app/draft.ts';
import { useMarks, useMay, useReadingDefaults } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { choicesOf, PlainSelect } from '../../ui/Field.tsx';
import { Quiet } from '../../ui/Problem.tsx';
import { VerdictMark } from '../../ui/Verdict.tsx';
import { cellName, columnsOf, FROM_ABOVE, MOTOR, pasted, rowOf, ROWS } from './inARow.ts';

const KINDS = TEST_KINDS.filter((k) => columnsOf(k).length > 0);
type Outcome = { motor: string; verdict: Verdict; reason: string };

/** One test of many motors in a row: a table that Enter goes down and a spreadsheet is pasted into; what is refused stays. */
export function InARowPage() {
  const [query, setQuery] = useSearchParams();
  const kind = testKind(query.get('test') ?? '') ?? testKind('insulationResistance') ?? KINDS[0];
  const stage = TEST_STAGES.find((s) => s === query.get('stage')) ?? 'IN';
  const may = useMay('tester');
  if (!may) return <Quiet>Test readings are entered by a tester or foreman.</Quiet>;
  return (
    <article className="space-y-3">
      <h1 className="text-title font-bold">Motors in a row</h1>
      <div className="flex flex-wrap gap-3 items-end">
        <PlainSelect
          label="Test"
          value={kind?.id ?? ''}
          onChange={(e) => setQuery({ test: e.target.value, stage })}
          options={KINDS.map((k) => ({ value: k.id, label: k.title }))}
        />
        <PlainSelect
          label="Stage"
          value={stage}
          onChange={(e) => setQuery({ test: kind?.id ?? '', stage: e.target.value })}
          options={TEST_STAGES.map((s) => ({ value: s, label: TEST_STAGE_TITLES[s] }))}
        />
      </div>
      {kind ? (
        <>
          <p className="text-small font-semibold">Caution: {kind.caution}</p>
          <Rows key={`${kind.id}${stage}`} kindId={kind.id} stage={stage} />
        </>
      ) : null}
    </article>
  );
}

function Rows({ kindId, stage }: { kindId: string; stage: (typeof TEST_STAGES)[number] }) {
  const kind = testKind(kindId);
  const { school } = useMarks();
  const defaults = useReadingDefaults();
  const draft = useDraft(`row:${kindId}:${stage}`);
  const [record] = useRecordTestMutation();
  const [busy, setBusy] = useState(false);
  const [done, setDone] = useState<Outcome[]>([]);
  const [refused, setRefused] = useState<Record<number, string>>({});
  const table = useRef<HTMLTableElement>(null);
  if (!kind) return null;
  const fields = columnsOf(kind);
  const columns = [MOTOR, ...fields.map((f) => f.name)];
  const label = (name: string): string => {
    const spec = fields.find((f) => f.name === name);
    return spec ? phaseWords(spec.label, school) : 'Motor';
  };
  const go = (row: number, column: number): void =>
    table.current?.querySelector<HTMLElement>(`[data-cell="${row}.${column}"]`)?.focus();
  const onKey = (row: number, column: number) => (event: KeyboardEvent) => {
    if (event.key !== 'Enter') return;
    event.preventDefault();
    if (event.ctrlKey || event.metaKey) void recordAll();
    // down the column, then to the top of the next
    else if (row + 1 < ROWS) go(row + 1, column);
    else go(0, column + 1);
  };
  const onPaste = (row: number, column: number) => (event: ClipboardEvent) => {
    const text = event.clipboardData.getData('text');
    if (!/[\t\n]/.test(text.trim())) return;
    event.preventDefault();
    draft.take({ ...draft.typed, ...pasted(text, { row, column }, columns) });
  };
  const recordAll = async (): Promise<void> => {
    setBusy(true);
    const left: Record<string, string> = { ...draft.typed };
    const wrong: Record<number, string> = {};
    const passed: Outcome[] = [];
    for (let row = 0; row < ROWS; row++) {
      const said = rowOf(draft.typed, row, columns.slice(1), FROM_ABOVE);
      if (!said) continue;
      const reading = readForm(kind.fields, said.typed, defaults, 'complete');
      const lacks = reading.problems[0] ? undefined : kind.lacks?.(reading.values, { waves: false });
      const problem = reading.problems[0]?.message ?? lacks?.message;
      if (problem !== undefined) {
        wrong[row] = problem;
        continue;
      }
      const answer = await record({
        number: said.motor.number,
        ...(said.motor.unit === undefined ? {} : { unit: said.motor.unit }),
        stage,
        kind: kind.id,
        typed: said.typed,
        ...(kind.part ? { part: kind.part } : {}),
      });
      if (answer.error) {
        wrong[row] = problemOf(answer.error).detail;
        continue;
      }
      passed.push({
        motor: `${said.motor.number}${said.motor.unit === undefined ? '' : `/${said.motor.unit}`}`,
        verdict: answer.data.verdict,
        reason: answer.data.reason,
      });
      for (const c of columns) if (c === MOTOR || !FROM_ABOVE.has(c)) left[cellName(row, c)] = '';
    }
    // with nothing left to record, what is the same for all goes too
    draft.take(
      Object.keys(wrong).length === 0 && columns.every((c) => FROM_ABOVE.has(c) || noneOf(left, c)) ? {} : left,
    );
    setRefused(wrong);
    setDone((before) => [...passed, ...before]);
    setBusy(false);
  };
  return (
    <>
      <p className="text-small text-soft">
        Motor: its number, of a piece 26-0031/4. Enter goes down, Tab to the right, Ctrl with Enter records. A table
        from a spreadsheet is pasted into its first cell. Instrument, voltages, temperatures and choices left blank are
        as in the row above.
      </p>
      <div className="overflow-x-auto" role="group" aria-label="Readings in a row" tabIndex={0}>
        <table ref={table} className="border-collapse text-small">
          <thead>
            <tr>
              {columns.map((c) => (
                <th key={c} className="text-left font-semibold px-1 align-bottom">
                  {label(c)}
                </th>
              ))}
              <th className="text-left font-semibold px-1 align-bottom">Refused</th>
            </tr>
          </thead>
          <tbody>
            {Array.from({ length: ROWS }, (_, row) => (
              <tr key={row}>
                {columns.map((c, column) => {
                  const read = fields.find((f) => f.name === c)?.read;
                  const choices = read && choicesOf(read);
                  const common = {
                    'data-cell': `${row}.${column}`,
                    'aria-label': `${label(c)}, row ${row + 1}`,
                    value: draft.typed[cellName(row, c)] ?? '',
                    onKeyDown: onKey(row, column),
                    onPaste: onPaste(row, column),
                    className: `min-h-9 w-full border border-edge bg-sheet px-1 ${c === MOTOR ? 'min-w-28' : 'min-w-20'}`,
                  };
                  return (
                    <td key={c} className="p-0.5">
                      {choices ? (
                        <select {...common} onChange={(e) => draft.set(cellName(row, c), e.target.value)}>
                          <option value="" />
                          {choices.map((o) => (
                            <option key={o.value} value={o.value}>
                              {o.label}
                            </option>
                          ))}
                        </select>
                      ) : (
                        <input
                          {...common}
                          autoComplete="off"
                          spellCheck={false}
                          onChange={(e) => draft.set(cellName(row, c), e.target.value)}
                        />
                      )}
                    </td>
                  );
                })}
                <td className="px-1 text-fail font-semibold min-w-40">{refused[row] ?? ''}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <Button look="main" bench disabled={busy} onClick={() => void recordAll()}>
        {busy ? 'Recording …' : 'Record them all'}
      </Button>
      {done.length > 0 ? (
        <ol aria-label="Recorded" className="space-y-1">
          {done.map((d, i) => (
            <li key={`${d.motor} ${done.length - i}`} className="text-small">
              <Link
                className="text-accent underline"
                to={`/jobs/${d.motor.split('/')[0] ?? ''}/tests?stage=${stage}&test=${kind.id}`}
              >
                {d.motor}
              </Link>{' '}
              <VerdictMark verdict={d.verdict} /> {phaseWords(d.reason, school)}
            </li>
          ))}
        </ol>
      ) : null}
    </>
  );
}

const noneOf = (typed: Readonly<Record<string, string>>, column: string): boolean =>
  Array.from({ length: ROWS }, (_, r) => typed[cellName(r, column)] ?? '').every((t) => t === '');
