import { readArchiveTable, type ArchiveRow, FIRST_PART } from '@norther/core';
import type { ArchiveEntry } from '@norther/contracts';
import Papa from 'papaparse';
import { useDeferredValue, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { useArchiveQuery, useBringArchiveMutation } from '../../app/api/archive.ts';
import { useMay, useReadingDefaults } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { ProblemNote, Quiet } from '../../ui/Problem.tsx';
import { useFollowedWork } from '../../app/followedWork.ts';
import { WorkProgress } from '../../ui/WorkProgress.tsx';
import { useSimilar } from './useSimilar.ts';
import { SimilarList } from './SimilarList.tsx';

/** Every winding recorded or brought in: searched by anything, compared with one another. */
export function ArchivePage() {
  const [query, setQuery] = useSearchParams();
  const like = query.get('like');
  const text = query.get('q') ?? '';
  const mayBring = useMay('admin');
  return (
    <div className="space-y-4">
      <div className="flex flex-wrap gap-4 items-end">
        <h1 className="text-title font-semibold">Archive of windings</h1>
        <label className="flex-1 max-w-xl">
          <span className="sr-only">Search the archive</span>
          <input
            value={text}
            onChange={(e) => setQuery(e.target.value ? { q: e.target.value } : {}, { replace: true })}
            placeholder="customer, job, 36 slots, maker, 2x0.85 …"
            className="w-full min-h-9 border border-edge rounded-sm px-2 bg-sheet"
          />
        </label>
        <p className="text-small">
          <Link className="text-accent underline" to="/archive">
            all
          </Link>
        </p>
      </div>
      <div className={mayBring ? 'grid grid-cols-1 lg:grid-cols-[1.3fr_1fr] gap-8' : ''}>
        {like ? <Like like={like} /> : <Found text={text} />}
        {mayBring ? <BringOld /> : null}
      </div>
    </div>
  );
}

const open = (e: ArchiveEntry) => (
  <span className="flex gap-3 text-small">
    {e.key.startsWith('job/') ? (
      <Link
        className="text-accent underline"
        to={`/jobs/${e.key.split('/')[1]}/plan${e.part === FIRST_PART ? '' : `?part=${e.part}`}`}
      >
        open
      </Link>
    ) : null}
    <Link className="text-accent underline" to={`/archive?like=${e.key}`}>
      similar
    </Link>
  </span>
);

function Found({ text }: { text: string }) {
  const asked = useDeferredValue(text);
  const { data, error } = useArchiveQuery(asked);
  if (error) return <ProblemNote error={error} />;
  if (!data) return <Quiet>Looking …</Quiet>;
  if (data.length === 0)
    return <Quiet>{asked ? `Nothing in the archive has "${asked}".` : 'No winding has been recorded yet.'}</Quiet>;
  return (
    <section aria-label="Found">
      <SimilarList entries={data} action={open} />
      {data.length >= 60 ? <Quiet>The newest 60 are shown; type more words to find others.</Quiet> : null}
    </section>
  );
}

function Like({ like }: { like: string }) {
  const { entries, work, error } = useSimilar({ key: like });
  if (error) return <ProblemNote error={error} />;
  if (!entries) return work ? <WorkProgress what="Comparing" work={work} /> : <Quiet>Comparing …</Quiet>;
  return (
    <section aria-label="Similar">
      <h2 className="font-semibold">Most like {like.startsWith('job/') ? like.split('/')[1] : 'that record'}</h2>
      <SimilarList entries={entries} action={open} />
    </section>
  );
}

/** Old records from a spreadsheet: every row that cannot be right is marked and left out. */
function BringOld() {
  const defaults = useReadingDefaults();
  const [bring, { error, isLoading, data }] = useBringArchiveMutation();
  const [file, setFile] = useState<{ name: string; rows: ArchiveRow[]; unknown: string[]; problem?: string }>();
  const waits = data && 'work' in data ? data.work : undefined;
  const followed = useFollowedWork(waits);
  const kept = data && 'kept' in data ? data.kept : followed.work?.result?.['kept'];
  const good = file?.rows.filter((r) => r.problems.length === 0) ?? [];
  return (
    <section>
      <h2 className="font-semibold border-b border-line mb-2">Bring in old records</h2>
      <p className="text-small text-soft mb-2">
        A CSV table, one winding a line; headings as on the data sheet (Slots, Poles, Span, Turns per coil, Wires in
        hand …), Title and nameplate fields as they are called at intake.
      </p>
      <input
        type="file"
        aria-label="Table of old records"
        accept=".csv,text/csv,text/plain"
        onChange={(e) => {
          const chosen = e.target.files?.[0];
          if (!chosen) return;
          void chosen.text().then((text) => {
            const table = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { skipEmptyLines: 'greedy' }).data;
            setFile({ name: chosen.name, ...readArchiveTable(table, defaults) });
          });
        }}
      />
      {file?.problem ? <ProblemNote>{file.problem}</ProblemNote> : null}
      {file && file.unknown.length > 0 ? (
        <p className="text-small mt-1">Columns not known and left out: {file.unknown.join(', ')}.</p>
      ) : null}
      {file && file.rows.length > 0 ? (
        <>
          <p className="my-2">
            {good.length} of {file.rows.length} rows can be taken.
          </p>
          <div className="max-h-72 overflow-auto border border-line" tabIndex={0} role="group" aria-label="Rows">
            <table className="w-full text-small">
              <tbody>
                {file.rows.map((r) => (
                  <tr key={r.line} className="border-b border-line align-top">
                    <th scope="row" className="text-left w-12 p-1">
                      {r.line}
                    </th>
                    <td className="p-1">
                      {r.title}
                      {r.problems.map((p) => (
                        <p key={p} className="text-fail">
                          {p}
                        </p>
                      ))}
                      {r.warnings.map((w) => (
                        <p key={w} className="text-attention">
                          look again: {w}
                        </p>
                      ))}
                    </td>
                    <td className="p-1 font-semibold whitespace-nowrap">
                      {r.problems.length === 0 ? 'taken' : 'left out'}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
          <Button
            look="main"
            className="mt-2"
            disabled={good.length === 0 || isLoading}
            onClick={() =>
              void bring({
                fileName: file.name,
                rows: good.map(({ line, title, plateTyped, typed }) => ({ line, title, plateTyped, typed })),
              }).then((r) => ('data' in r ? setFile(undefined) : undefined))
            }
          >
            Keep {good.length} records
          </Button>
        </>
      ) : null}
      {waits ? <WorkProgress what="Reading the table" work={followed.work} /> : null}
      {typeof kept === 'number' ? <p className="mt-2 font-semibold">{kept} records kept.</p> : null}
      <ProblemNote error={error ?? followed.error} />
    </section>
  );
}
