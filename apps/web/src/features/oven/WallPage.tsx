import { formatNumber } from '@norther/core';
import type { WallLoad } from '@norther/contracts';
import { useParams } from 'react-router';
import { useWallQuery } from '../../app/api/oven.ts';
import { sayMinutes } from './sayMinutes.ts';

const LOOK_MS = 5000;

/** The ovens as they hang on a wall: figures a twelfth of the screen high, nothing to press. */
export function WallPage() {
  const { secret = '' } = useParams();
  const { data, error } = useWallQuery(secret, { pollingInterval: LOOK_MS });
  if (error && 'status' in error && error.status === 404)
    return <p className="p-8 text-title">This address shows nothing (any more).</p>;
  const shown = (data ?? []).filter((c) => c.state !== 'empty');
  const empty = (data ?? []).filter((c) => c.state === 'empty');
  return (
    <main className="min-h-screen bg-page text-ink p-[2vh] flex flex-col gap-[2vh]">
      {error ? (
        <p role="alert" className="text-[3.5vh] font-semibold text-fail">
          No line to the server: these figures are old.
        </p>
      ) : null}
      {shown.map((c) => (
        <Chamber key={c.chamber} of={c} />
      ))}
      {empty.length > 0 ? (
        <p className="text-[3.5vh] text-soft mt-auto">Empty: {empty.map((c) => c.chamber).join(', ')}</p>
      ) : null}
    </main>
  );
}

function Chamber({ of }: { of: WallLoad }) {
  return (
    <section aria-label={of.chamber} className="border-t-4 border-edge">
      <h2 className="text-[3.5vh] font-semibold text-soft">
        {of.chamber}
        {of.state === 'loading' ? ': being loaded' : ''}
      </h2>
      {of.alarms.map((a) => (
        <p key={a} role="alert" className="text-[3.5vh] leading-tight font-semibold text-fail">
          {a}
        </p>
      ))}
      {of.parts.map((p) => (
        <p key={p.job} className="grid grid-cols-[minmax(0,1fr)_auto_auto] gap-x-[3vw] items-baseline">
          <span className="text-[4vh] truncate">
            <span className="font-semibold">{p.job}</span> {p.what}
            {p.hot ? <span className="text-attention font-semibold"> hot</span> : ''}
          </span>
          <span className="text-[8.5vh] leading-none tabular-nums font-semibold">
            {p.degree === null ? '' : `${Math.floor(100 * Math.min(1, p.degree))} %`}
          </span>
          <span className="text-[8.5vh] leading-none tabular-nums font-semibold text-right min-w-[38vw]">
            {p.degree !== null && p.degree >= 1
              ? p.leftMin !== null
                ? `${p.says} ${sayMinutes(p.leftMin)}`
                : p.says || 'done'
              : p.leftMin === null
                ? p.c === null
                  ? ''
                  : `${formatNumber(p.c, 3)} °C`
                : sayMinutes(p.leftMin)}
          </span>
        </p>
      ))}
    </section>
  );
}
