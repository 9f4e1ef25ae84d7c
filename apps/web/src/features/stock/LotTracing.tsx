import type { StockLotView } from '@norther/contracts';
import { useState } from 'react';
import { Link } from 'react-router';
import { useLotTraceQuery } from '../../app/api/stock.ts';
import { useTime } from '../../app/shop.ts';
import { ProblemNote } from '../../ui/Problem.tsx';

/** A lot traced both ways, asked for when it is wanted. */
export function LotTracing({ lot }: { lot: StockLotView }) {
  const [open, setOpen] = useState(false);
  const { data, error } = useLotTraceQuery(lot.id, { skip: !open });
  const time = useTime();
  return (
    <details onToggle={(e) => setOpen(e.currentTarget.open)}>
      <summary className="cursor-pointer font-semibold py-1.5">Where it came from and where it went</summary>
      <ProblemNote error={error} />
      {data ? (
        <div className="text-small space-y-1">
          <p>
            In it:{' '}
            {data.within.length === 0
              ? 'itself alone'
              : data.within.map((l) => `${l.lot}${l.quarantined ? ' (quarantine)' : ''}`).join(', ')}
            .
          </p>
          <p>Went into: {data.after.length === 0 ? 'no other lot' : data.after.map((l) => l.lot).join(', ')}.</p>
          <p className="font-semibold">
            {data.motors.length === 0
              ? 'No motor has it yet.'
              : `${new Set(data.motors.map((m) => m.job)).size} motors have it:`}
          </p>
          <ul className="max-h-60 overflow-auto">
            {data.motors.map((m) => (
              <li key={m.job + m.lot + m.how}>
                <Link className="text-accent underline" to={`/jobs/${m.job}`}>
                  {m.job}
                </Link>{' '}
                {m.what}, {m.customer}: {m.how.toLowerCase()}
                {m.lot === lot.lot ? '' : `, as lot ${m.lot}`}, {time(m.at, 'day')}
              </li>
            ))}
          </ul>
        </div>
      ) : null}
    </details>
  );
}
