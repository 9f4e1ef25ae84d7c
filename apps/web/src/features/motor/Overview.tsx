import { NAMEPLATE_FIELDS, typedWithUnit, type Nameplate } from '@norther/core';
import type { JobDetail } from '@norther/contracts';
import { Link } from 'react-router';
import { useReadingDefaults, useTime } from '../../app/shop.ts';
import { VerdictMark } from '../../ui/Verdict.tsx';
import { Rails, RailsLegend } from '../process/Rails.tsx';
import { nextWork, stationsOf } from '../process/stations.ts';
import { Pieces } from './Pieces.tsx';
import { TestMatrix } from '../evaluate/TestMatrix.tsx';

export function Overview({ job }: { job: JobDetail }) {
  const time = useTime();
  const defaults = useReadingDefaults();
  const next = nextWork(job.steps);
  const cure = job.cures[0];
  const balance = job.balances[0];
  return (
    <div className="space-y-4">
      <section aria-label="Where it stands">
        <Rails stations={stationsOf(job.steps)} titles />
        <div className="flex flex-wrap gap-x-6 items-center justify-between">
          <p>
            <span className="text-soft">Next: </span>
            <Link to={`/jobs/${job.number}/route`} className="font-semibold text-accent underline">
              {next.text}
            </Link>
          </p>
          <RailsLegend />
        </div>
      </section>
      {job.quantity > 1 ? <Pieces job={job} /> : null}
      <div className="grid grid-cols-1 lg:grid-cols-[0.8fr_0.85fr_1.45fr] gap-6">
        <section>
          <h2 className="font-semibold border-b border-line mb-1">Nameplate</h2>
          <dl className="grid grid-cols-[auto_1fr] gap-x-3">
            {NAMEPLATE_FIELDS.filter((f) => job.nameplateTyped[f.name]).map((f) => (
              <div key={f.name} className="contents">
                <dt className="text-soft">{f.label}</dt>
                <dd className="break-words min-w-0">
                  {typedWithUnit(
                    f,
                    job.nameplateTyped[f.name] ?? '',
                    defaults,
                    job.nameplate[f.name as keyof Nameplate],
                  )}
                </dd>
              </div>
            ))}
            {!job.nameplateTyped['poles'] && job.poles ? (
              <div className="contents">
                <dt className="text-soft">Poles</dt>
                <dd>{job.poles}, from speed and frequency</dd>
              </div>
            ) : null}
          </dl>
        </section>
        <section>
          <h2 className="font-semibold border-b border-line mb-1">Visit</h2>
          <dl className="grid grid-cols-[auto_1fr] gap-x-3">
            {(
              [
                [
                  'Came',
                  `${job.came}${job.quantity > 1 ? `, ${job.quantity} alike` : ''}, ${time(job.takenInAt, 'day')}`,
                ],
                ['Complaint', job.intake.complaint],
                ['Condition', job.intake.condition],
                ['Fitted', job.intake.fitted.join(', ')],
                ['Leads', job.intake.leadPosition],
                ['Lead box', job.intake.boxPosition],
                ['Loose parts', job.intake.looseParts],
                ['Missing', job.intake.missing],
                ['Resin by', job.impregnation],
                ['From', job.importedFrom ?? ''],
              ] as const
            )
              .filter(([, v]) => v !== '')
              .map(([k, v]) => (
                <div key={k} className="contents">
                  <dt className="text-soft">{k}</dt>
                  <dd className="break-words min-w-0">{v}</dd>
                </div>
              ))}
          </dl>
          {job.attachments.length > 0 ? (
            <ul className="flex flex-wrap gap-2 mt-2">
              {job.attachments.map((a) => (
                <li key={a.id}>
                  <a
                    href={`/api/attachments/${a.id}`}
                    target="_blank"
                    rel="noreferrer"
                    className="block text-small underline"
                  >
                    {a.mediaType.startsWith('image/') ? (
                      <img
                        src={`/api/attachments/${a.id}`}
                        alt={a.name}
                        className="h-20 w-28 object-cover border border-edge"
                      />
                    ) : (
                      a.name
                    )}
                  </a>
                </li>
              ))}
            </ul>
          ) : null}
        </section>
        <section className="space-y-3 min-w-0">
          <div>
            <h2 className="font-semibold border-b border-line mb-1">Tests</h2>
            <TestMatrix job={job} />
          </div>
          {cure ? (
            <div>
              <h2 className="font-semibold border-b border-line mb-1">
                Cure <VerdictMark verdict={cure.verdict} />
              </h2>
              <p className="text-small">{cure.reason}</p>
            </div>
          ) : null}
          {balance ? (
            <div>
              <h2 className="font-semibold border-b border-line mb-1">
                Balance <VerdictMark verdict={balance.verdict} />
              </h2>
              <p className="text-small">{balance.reason}</p>
            </div>
          ) : null}
        </section>
      </div>
    </div>
  );
}
