import { INSTRUMENT_KINDS, INSTRUMENT_SENDS, type InstrumentKind, type InstrumentView } from '@norther/contracts';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import {
  useAddInstrumentMutation,
  useChangeInstrumentMutation,
  useInstrumentsQuery,
  useRenewKeyMutation,
} from '../../app/api/instrument.ts';
import { useMay, useTime } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { DateField } from '../../ui/DateField.tsx';
import { PlainField, PlainSelect } from '../../ui/Field.tsx';
import { ProblemNote, Quiet } from '../../ui/Problem.tsx';
import { Commands } from './Commands.tsx';
import { LiveTrace } from './LiveTrace.tsx';

/** What measures and sends by itself: how each stands, and what it sends now. */
export function InstrumentsPage() {
  const { data, error } = useInstrumentsQuery(undefined, { pollingInterval: 5000 });
  const mayChange = useMay('admin');
  const [params, setParams] = useSearchParams();
  const [key, setKey] = useState<{ id: string; key: string }>();
  const chosen = data?.find((i) => i.id === params.get('of')) ?? data?.find((i) => i.trace) ?? data?.[0];
  // who adds an instrument looks at it next, whatever else is sending
  const made = (of: { id: string; key: string }) => {
    setKey(of);
    setParams({ of: of.id }, { replace: true });
  };
  return (
    <div className="space-y-4">
      <h1 className="text-title font-semibold">Instruments</h1>
      <ProblemNote error={error} />
      {key ? <NewKey made={key} onDone={() => setKey(undefined)} /> : null}
      <div className="grid grid-cols-1 lg:grid-cols-[minmax(300px,1fr)_minmax(0,2.4fr)] gap-8">
        <div>
          {data?.length === 0 ? <Quiet>None yet. An admin adds one and gives its key to the instrument.</Quiet> : null}
          <ul>
            {(data ?? []).map((i) => (
              <li key={i.id} className="border-b border-line">
                <button
                  type="button"
                  aria-pressed={i.id === chosen?.id}
                  onClick={() => setParams({ of: i.id }, { replace: true })}
                  className={`w-full text-left py-2 px-2 min-h-11 ${i.id === chosen?.id ? 'bg-accent-tint' : ''}`}
                >
                  <span className="font-semibold">{i.name}</span> <span className="text-soft">{i.kind}</span>
                  <Standing instrument={i} />
                </button>
              </li>
            ))}
          </ul>
          {mayChange ? <Add onMade={made} /> : null}
        </div>
        {chosen ? <One key={chosen.id} instrument={chosen} mayChange={mayChange} onKey={setKey} /> : null}
      </div>
    </div>
  );
}

function Standing({ instrument: i }: { instrument: InstrumentView }) {
  const time = useTime();
  const say = !i.active
    ? 'put away'
    : i.silent
      ? 'silent: it was sending and is not heard of'
      : i.trace && !i.trace.ended
        ? 'sending'
        : i.lastSeenAt
          ? `last heard ${time(i.lastSeenAt)}`
          : 'not heard of yet';
  return (
    <span className={`block text-small ${i.silent ? 'text-fail font-semibold' : 'text-soft'}`}>
      {say}
      {i.simulated ? ' · simulated' : ''}
      {i.outOfDate ? <span className="text-attention font-semibold"> · calibration ran out</span> : ''}
    </span>
  );
}

function One({
  instrument: i,
  mayChange,
  onKey,
}: {
  instrument: InstrumentView;
  mayChange: boolean;
  onKey: (made: { id: string; key: string }) => void;
}) {
  const [change, changed] = useChangeInstrumentMutation();
  const [renew, renewed] = useRenewKeyMutation();
  const [until, setUntil] = useState(i.calibratedUntil ?? '');
  return (
    <section aria-label={i.name} className="space-y-3">
      <h2 className="font-semibold border-b border-line">
        {i.name}
        {i.simulated ? <span className="font-normal"> (simulated)</span> : null}
        {i.trace ? <span className="font-normal text-soft"> · {i.trace.stream}</span> : null}
      </h2>
      {i.clockOffS !== null ? (
        <p className="text-attention font-semibold">
          Its clock is {Math.round(Math.abs(i.clockOffS) / 60)} min {i.clockOffS > 0 ? 'behind' : 'ahead of'} the
          server’s.
        </p>
      ) : null}
      {i.trace && i.trace.missing > 0 ? (
        <p className="text-attention">{i.trace.missing} batches have not come yet.</p>
      ) : null}
      {i.trace ? <LiveTrace id={i.trace.id} /> : <Quiet>It has sent nothing yet.</Quiet>}
      <Commands instrument={i} />
      {mayChange ? (
        <div className="flex gap-3 items-end">
          <DateField label="Calibrated until" value={until} onChange={setUntil} />
          <Button
            disabled={until === (i.calibratedUntil ?? '') || changed.isLoading}
            onClick={() => void change({ id: i.id, version: i.version, calibratedUntil: until || null })}
          >
            Keep
          </Button>
          <Button
            onClick={() => void renew(i.id).then((r) => ('data' in r && r.data ? onKey(r.data) : undefined))}
            disabled={renewed.isLoading}
          >
            New key
          </Button>
          <Button look="quiet" onClick={() => void change({ id: i.id, version: i.version, active: !i.active })}>
            {i.active ? 'Put away' : 'Take into use'}
          </Button>
        </div>
      ) : null}
      <ProblemNote error={changed.error ?? renewed.error} />
    </section>
  );
}

function Add({ onMade }: { onMade: (made: { id: string; key: string }) => void }) {
  const [add, { error, isLoading }] = useAddInstrumentMutation();
  const [name, setName] = useState('');
  const [kind, setKind] = useState<InstrumentKind>('oven logger');
  return (
    <form
      className="space-y-2 mt-4"
      onSubmit={(e) => {
        e.preventDefault();
        void add({ name, kind, mayWrite: [INSTRUMENT_SENDS[kind]] }).then((r) => {
          if (!('data' in r) || !r.data) return;
          setName('');
          onMade(r.data);
        });
      }}
    >
      <PlainField label="New instrument" value={name} onChange={(e) => setName(e.target.value)} />
      <PlainSelect
        label="Kind"
        value={kind}
        onChange={(e) => setKind(e.target.value as InstrumentKind)}
        options={INSTRUMENT_KINDS.map((k) => ({ value: k, label: k }))}
      />
      <Button type="submit" disabled={isLoading || name.trim() === ''}>
        Add
      </Button>
      <ProblemNote error={error} />
    </form>
  );
}

/** The key, shown once, with the line that tries it. */
function NewKey({ made, onDone }: { made: { id: string; key: string }; onDone: () => void }) {
  const line = `curl -H "Authorization: Bearer ${made.key}" ${location.origin}/api/instruments/me`;
  return (
    <section aria-label="The new key" className="border-l-4 border-accent bg-accent-tint px-3 py-2 space-y-1">
      <p className="font-semibold">The key is shown only now. Give it to the instrument, then close this.</p>
      <p className="font-mono break-all select-all">{made.key}</p>
      <p className="text-small">
        It posts batches to <code className="break-all">/api/instruments/{made.id}/samples</code> (see{' '}
        <a className="text-accent underline" href="/api/docs">
          the description
        </a>
        ). To try the key: <code className="break-all select-all">{line}</code>
      </p>
      <Button onClick={onDone}>Close</Button>
    </section>
  );
}
