import type { ChannelRole, JobDetail } from '@norther/contracts';
import { useState } from 'react';
import { useDraftText } from '../../app/draft.ts';
import { useRecordTraceCureMutation } from '../../app/api/evaluate.ts';
import { useSentTracesQuery } from '../../app/api/instrument.ts';
import { useSettings, useTime } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { PlainField, PlainSelect } from '../../ui/Field.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';
import { LiveTrace } from '../instrument/LiveTrace.tsx';
import { LiveCure } from './LiveCure.tsx';

const ROLES: readonly ChannelRole[] = ['part', 'oven air', 'not used'];

/** What a logger has sent by itself, taken as the cure of this motor: one load of the oven may count for several. */
export function FromLogger({ job, onDone }: { job: JobDetail; onDone: () => void }) {
  const { data } = useSentTracesQuery({ what: 'oven' });
  const settings = useSettings();
  const time = useTime();
  const [id, setId] = useState('');
  const [said, setSaid] = useState<Record<number, ChannelRole>>({});
  const [resin, setResin] = useState('');
  const reason = useDraftText(`reason:cure:${job.number}`);
  const [record, { isLoading, error }] = useRecordTraceCureMutation();
  if (!data || data.length === 0) return null;
  const chosen = data.find((t) => t.id === id);
  const roles = (chosen?.channels ?? []).map(
    (c, i): ChannelRole => said[i] ?? ROLES.find((r) => r === c.role) ?? 'part',
  );
  const resinName = resin || (settings?.resins[0]?.name ?? '');
  const resinOf = settings?.resins.find((r) => r.name === resinName);
  return (
    <section aria-label="Take what a logger has sent" className="space-y-2">
      <h2 className="font-semibold">Or take what a logger has sent</h2>
      <div className="flex flex-wrap gap-3 items-end">
        <PlainSelect
          label="Oven load"
          value={id}
          onChange={(e) => {
            setId(e.target.value);
            setSaid({});
          }}
          options={[
            { value: '', label: 'choose …' },
            ...data.map((t) => ({
              value: t.id,
              label: `${t.sourceName}, ${time(t.at)}${t.ended ? '' : ', still running'}${t.simulated ? ' (simulated)' : ''}`,
            })),
          ]}
        />
        {chosen ? (
          <PlainSelect
            label="Resin"
            value={resinName}
            onChange={(e) => setResin(e.target.value)}
            options={(settings?.resins ?? []).map((r) => ({
              value: r.name,
              label: `${r.name}: ${r.ratedH} h at ${r.ratedC} °C`,
            }))}
          />
        ) : null}
        {(chosen?.channels ?? []).map((c, i) => (
          <PlainSelect
            key={c.name}
            label={`${c.name} is`}
            value={roles[i] ?? 'part'}
            onChange={(e) => setSaid({ ...said, [i]: e.target.value as ChannelRole })}
            options={ROLES.map((r) => ({ value: r, label: r === 'part' ? 'on a part' : r }))}
          />
        ))}
      </div>
      {chosen ? (
        <>
          {resinOf ? <LiveCure id={chosen.id} roles={roles} resin={resinOf} /> : null}
          <LiveTrace id={chosen.id} />
          <div className="flex flex-wrap gap-3 items-end">
            {job.cures.length > 0 ? (
              <PlainField
                label="Why another log counts"
                value={reason.text}
                onChange={(e) => reason.set(e.target.value)}
              />
            ) : null}
            <Button
              look="main"
              bench
              disabled={isLoading}
              onClick={() =>
                void record({
                  number: job.number,
                  traceId: chosen.id,
                  roles,
                  resin: resinName,
                  ...(reason.text ? { reason: reason.text } : {}),
                }).then((r) => {
                  if (!('data' in r)) return;
                  reason.recorded();
                  onDone();
                })
              }
            >
              Judge and record
            </Button>
            {chosen.ended ? null : (
              <p className="text-small text-soft">The load still runs: the verdict is of what has come so far.</p>
            )}
          </div>
        </>
      ) : null}
      <ProblemNote error={error} />
    </section>
  );
}
