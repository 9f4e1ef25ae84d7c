import { operation, PARTS, testKind, stageTitle, type RouteId, type TestStage, type Verdict } from '@norther/core';
import type { JobDetail, UnitView } from '@norther/contracts';
import { useState } from 'react';
import { useAddUnitsMutation, useNameUnitMutation, useUnitQuery, useUnitsQuery } from '../../app/api/unit.ts';
import { useMay, useTime } from '../../app/shop.ts';
import { useDraftText } from '../../app/draft.ts';
import { Button } from '../../ui/Button.tsx';
import { Table } from '../../ui/Table.tsx';
import { ProblemNote, Quiet } from '../../ui/Problem.tsx';
import { VerdictMark } from '../../ui/Verdict.tsx';

const PAGE = 200;
const INPUT = 'w-44 min-h-9 border border-edge rounded-sm px-2 bg-sheet';

/** The pieces of a job of many: numbered, found, named; what was measured of each. */
export function Pieces({ job }: { job: JobDetail }) {
  const [after, setAfter] = useState(0);
  const [word, setWord] = useState('');
  const [open, setOpen] = useState<number>();
  const { data, error } = useUnitsQuery({ number: job.number, after, q: word });
  const may = useMay('winder') && !job.closedAt;
  if (error) return <ProblemNote error={error} />;
  if (!data) return <Quiet>Asking for the pieces …</Quiet>;
  const last = data.units.at(-1)?.ordinal ?? after;
  return (
    <section aria-label="Pieces" className="space-y-2">
      <div className="flex flex-wrap items-end gap-3">
        <h2 className="font-semibold text-heading">
          Pieces: {data.total} of {data.quantity} numbered
        </h2>
        {data.total > 0 ? (
          <label className="flex items-center gap-2">
            <span className="text-soft">Find</span>
            <input
              className={INPUT}
              value={word}
              placeholder="number or serial"
              onChange={(e) => {
                setWord(e.target.value);
                setAfter(0);
              }}
            />
          </label>
        ) : null}
        {may && data.total < data.quantity ? <Numbering job={job} left={data.quantity - data.total} /> : null}
      </div>
      {data.units.length > 0 ? (
        <Table
          label="Pieces"
          height="max-h-72 border border-line"
          rows={data.units}
          keyOf={(u) => String(u.ordinal)}
          columns={[
            { id: 'piece', head: 'Piece', names: true, className: 'figures py-1', cell: (u) => u.ordinal },
            { id: 'serial', head: 'Serial number', cell: (u) => <Serial job={job} unit={u} may={may} /> },
            {
              id: 'readings',
              head: 'Readings',
              cell: (u) =>
                u.readings === 0 ? (
                  '–'
                ) : (
                  <button type="button" className="text-accent underline min-h-6" onClick={() => setOpen(u.ordinal)}>
                    {u.readings}
                  </button>
                ),
            },
            {
              id: 'worst',
              head: 'Worst of them',
              cell: (u) => (u.verdict ? <VerdictMark verdict={u.verdict as Verdict} /> : '–'),
            },
          ]}
        />
      ) : data.total > 0 ? (
        <Quiet>No piece of that number or serial number.</Quiet>
      ) : null}
      {data.total > PAGE && word === '' ? (
        <div className="flex gap-2">
          <Button look="plain" disabled={after === 0} onClick={() => setAfter(Math.max(0, after - PAGE))}>
            Earlier
          </Button>
          <Button look="plain" disabled={last >= data.total} onClick={() => setAfter(last)}>
            Later
          </Button>
        </div>
      ) : null}
      {open === undefined ? null : <Readings job={job} ordinal={open} />}
    </section>
  );
}

function Serial({ job, unit, may }: { job: JobDetail; unit: UnitView; may: boolean }) {
  const [name, { error, isLoading }] = useNameUnitMutation();
  const serial = useDraftText(`serial:${job.number}:${unit.ordinal}`);
  const text = serial.text.trim();
  if (unit.serial !== null || !may) return <span className="break-all">{unit.serial ?? '–'}</span>;
  return (
    <form
      className="flex gap-2 items-center"
      onSubmit={(e) => {
        e.preventDefault();
        if (text === '') return;
        void name({ number: job.number, ordinal: unit.ordinal, serial: text }).then(
          (r) => 'data' in r && serial.recorded(),
        );
      }}
    >
      <input
        aria-label={`Serial number of piece ${unit.ordinal}`}
        className={INPUT}
        value={serial.text}
        onChange={(e) => serial.set(e.target.value)}
      />
      {text === '' ? null : (
        <Button type="submit" disabled={isLoading}>
          Keep
        </Button>
      )}
      {error ? <ProblemNote error={error} /> : null}
    </form>
  );
}

function Numbering({ job, left }: { job: JobDetail; left: number }) {
  const [add, { error, isLoading }] = useAddUnitsMutation();
  const [serials, setSerials] = useState<string>();
  const list = (serials ?? '').split(/[\n,;]+/).flatMap((s) => s.trim() || []);
  return (
    <div className="flex flex-wrap items-end gap-2">
      <Button disabled={isLoading} onClick={() => void add({ number: job.number, count: left })}>
        Number {left} more
      </Button>
      {serials === undefined ? (
        <Button look="plain" onClick={() => setSerials('')}>
          by serial numbers
        </Button>
      ) : (
        <>
          <label className="grid">
            <span className="text-small text-soft">Serial numbers, one a line</span>
            <textarea className={`${INPUT} h-16`} value={serials} onChange={(e) => setSerials(e.target.value)} />
          </label>
          <Button
            disabled={isLoading || list.length === 0}
            onClick={() => {
              void add({ number: job.number, serials: list }).then((answer) => {
                if ('data' in answer) setSerials(undefined);
              });
            }}
          >
            Number {list.length}
          </Button>
        </>
      )}
      {error ? <ProblemNote error={error} /> : null}
    </div>
  );
}

function Readings({ job, ordinal }: { job: JobDetail; ordinal: number }) {
  const time = useTime();
  const { data, error } = useUnitQuery({ number: job.number, ordinal });
  if (error) return <ProblemNote error={error} />;
  if (!data) return null;
  return (
    <div>
      <h3 className="font-semibold">
        Piece {ordinal}
        {data.serial ? `, ${data.serial}` : ''}
      </h3>
      {data.steps.length > 0 ? (
        <p className="text-small">
          Done for it: {data.steps.map((s) => `${operation(s.code).title}${s.at ? ` (${time(s.at)})` : ''}`).join(', ')}
          .
        </p>
      ) : null}
      <ul className="space-y-1">
        {data.tests.map((t) => (
          <li key={t.id} className="flex flex-wrap gap-2 items-baseline">
            <VerdictMark verdict={t.verdict} />
            <span>
              {testKind(t.kind)?.title ?? t.kind}, {PARTS[t.part].title},{' '}
              {stageTitle(t.stage as TestStage, job.route as RouteId)}
              {t.supersededBy ? ' (corrected)' : ''}: {t.reason}
            </span>
            <span className="text-small text-soft">
              {t.person}, {time(t.takenAt)}
            </span>
          </li>
        ))}
        {data.balances.map((b) => (
          <li key={b.id} className="flex flex-wrap gap-2 items-baseline">
            <VerdictMark verdict={b.verdict} />
            <span>
              Balance, {PARTS[b.part].title}: {b.reason}
            </span>
            <span className="text-small text-soft">
              {b.person}, {time(b.at)}
            </span>
          </li>
        ))}
      </ul>
    </div>
  );
}
