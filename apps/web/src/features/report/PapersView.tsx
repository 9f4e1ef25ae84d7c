import type { JobDetail } from '@norther/contracts';
import { howItLeaves, testKind } from '@norther/core';
import { useState } from 'react';
import { useAddFileMutation, useHistoryQuery, useIssueReportMutation } from '../../app/api/job.ts';
import { useMay, useTime } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { PlainField } from '../../ui/Field.tsx';
import { ProblemNote, Quiet } from '../../ui/Problem.tsx';
import { VerdictMark } from '../../ui/Verdict.tsx';
import { shrunk } from '../intake/shrink.ts';
import { VisitTimeline } from './VisitTimeline.tsx';

const link = 'inline-flex items-center min-h-9 px-3 border border-edge rounded-sm bg-sheet font-semibold hover:bg-sunk';

export function PapersView({ job }: { job: JobDetail }) {
  const time = useTime();
  const mayIssue = useMay('foreman');
  const mayAdd = useMay('winder') && !job.closedAt;
  const [issue, issuing] = useIssueReportMutation();
  const [addFile, adding] = useAddFileMutation();
  const { data: history } = useHistoryQuery(job.number);
  const [more, setMore] = useState(false);
  const [reason, setReason] = useState('');
  const [witness, setWitness] = useState('');
  const shown = more ? (history ?? []) : (history ?? []).slice(0, 25);
  return (
    <div className="grid grid-cols-1 lg:grid-cols-[1fr_1.3fr] gap-8">
      <section className="lg:col-span-2 min-w-0">
        <h2 className="font-semibold border-b border-line mb-2">The visit, day by day</h2>
        <VisitTimeline job={job} />
      </section>
      <div className="space-y-5">
        <section>
          <h2 className="font-semibold border-b border-line mb-2">To print</h2>
          <div className="flex flex-wrap gap-2">
            {job.came !== 'rotor only' ? (
              <a className={link} href={`/api/jobs/${job.number}/card.pdf`} target="_blank" rel="noreferrer">
                Winding card
              </a>
            ) : null}
            <a className={link} href={`/api/jobs/${job.number}/label.pdf`} target="_blank" rel="noreferrer">
              Label
            </a>
            <a className={link} href={`/api/jobs/${job.number}/nameplate.pdf`} target="_blank" rel="noreferrer">
              Nameplate
            </a>
            <a className={link} href="/api/papers/data-sheet.pdf" target="_blank" rel="noreferrer">
              Blank data sheet
            </a>
          </div>
        </section>
        <section>
          <h2 className="font-semibold border-b border-line mb-2">Report to the customer</h2>
          {job.reports.length === 0 ? <Quiet>None issued yet.</Quiet> : null}
          <ul className="space-y-1 mb-2">
            {job.reports.map((r) => (
              <li key={r.id}>
                <a
                  className="text-accent underline font-semibold"
                  href={`/api/reports/${r.id}`}
                  target="_blank"
                  rel="noreferrer"
                >
                  Revision {r.revision}
                </a>{' '}
                <a
                  className="text-accent underline"
                  href={`/api/reports/${r.id}/data.json`}
                  target="_blank"
                  rel="noreferrer"
                >
                  as data
                </a>{' '}
                <span className="text-small text-soft">
                  issued by {r.person}, {time(r.at)}, kept as issued (
                  {r.sha256 === null ? 'being laid out' : `${r.sha256.slice(0, 12)}…`})
                </span>
              </li>
            ))}
          </ul>
          <WouldSay job={job} />
          {mayIssue ? (
            <form
              className="flex flex-wrap gap-3 items-end"
              onSubmit={(e) => {
                e.preventDefault();
                void issue({ number: job.number, reason: reason.trim(), witness: witness.trim() }).then((r) => {
                  if (r.data) setReason('');
                });
              }}
            >
              <PlainField
                label="Witness of the tests"
                hint="left blank where nobody stood by"
                value={witness}
                onChange={(e) => setWitness(e.target.value)}
              />
              {job.reports.length > 0 ? (
                <PlainField
                  label="Why it takes the place of the one before"
                  value={reason}
                  onChange={(e) => setReason(e.target.value)}
                />
              ) : null}
              <Button
                look="main"
                type="submit"
                disabled={issuing.isLoading || (job.reports.length > 0 && reason.trim().length < 3)}
              >
                Issue {job.reports.length === 0 ? 'the report' : `revision ${(job.reports[0]?.revision ?? 0) + 1}`}
              </Button>
            </form>
          ) : null}
          <ProblemNote error={issuing.error} />
        </section>
        <section>
          <h2 className="font-semibold border-b border-line mb-2">Photographs and files</h2>
          <ul className="flex flex-wrap gap-2 mb-2">
            {job.attachments.map((a) => (
              <li key={a.id} className="text-small max-w-32">
                <a href={`/api/attachments/${a.id}`} target="_blank" rel="noreferrer" className="underline break-words">
                  {a.mediaType.startsWith('image/') ? (
                    <img
                      src={`/api/attachments/${a.id}`}
                      alt={a.name}
                      className="h-20 w-32 object-cover border border-edge"
                    />
                  ) : (
                    a.name
                  )}
                </a>
                {a.person}
              </li>
            ))}
          </ul>
          {mayAdd ? (
            <input
              type="file"
              aria-label="Add photographs"
              multiple
              accept="image/jpeg,image/png,image/webp,application/pdf"
              onChange={(e) => {
                for (const f of e.target.files ?? [])
                  void shrunk(f).then((content) => addFile({ number: job.number, name: f.name, content }));
              }}
            />
          ) : null}
          <ProblemNote error={adding.error} />
        </section>
        <section>
          <h2 className="font-semibold border-b border-line mb-2">Take away as data</h2>
          <div className="flex gap-2">
            <a className={link} href={`/api/jobs/${job.number}/export.json`}>
              JSON (all, with photographs)
            </a>
            <a className={link} href={`/api/jobs/${job.number}/export.csv`}>
              CSV
            </a>
          </div>
        </section>
      </div>
      <section>
        <h2 className="font-semibold border-b border-line mb-2">History</h2>
        <ol className="space-y-1">
          {shown.map((e) => (
            <li key={e.id} className="text-small grid grid-cols-[8.5rem_8rem_1fr] gap-2 border-b border-line pb-1">
              <span className="text-soft">{time(e.at)}</span>
              <span className="truncate">{e.person}</span>
              <span className="min-w-0 break-words">{e.summary}</span>
            </li>
          ))}
        </ol>
        {!more && (history?.length ?? 0) > 25 ? (
          <Button look="quiet" onClick={() => setMore(true)}>
            All {history?.length}
          </Button>
        ) : null}
      </section>
    </div>
  );
}

/** What the first page of a report would say now. */
function WouldSay({ job }: { job: JobDetail }) {
  const { verdict, because } = howItLeaves(
    job.tests.filter((t) => t.supersededBy === null),
    job.came,
  );
  if (verdict === 'none') return <Quiet>No final test yet: a report would say so.</Quiet>;
  return (
    <p className="mb-2">
      <VerdictMark verdict={verdict} /> is what its first page says now
      {because.length > 0 ? `, for ${because.map((t) => testKind(t.kind)?.title ?? t.kind).join(', ')}` : ''}.
    </p>
  );
}
