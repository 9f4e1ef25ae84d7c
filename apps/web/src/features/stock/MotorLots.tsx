import { useMotorLotsQuery } from '../../app/api/stock.ts';

/** The lots in a motor, with all that is in them. */
export function MotorLots({ number }: { number: string }) {
  const { data } = useMotorLotsQuery(number);
  if (!data || data.length === 0) return null;
  return (
    <section aria-label="Lots in this motor">
      <h2 className="font-semibold border-b border-line">Lots in this motor</h2>
      <ul>
        {data.map((l) => (
          <li key={l.lot + l.how} className="py-1 border-b border-line">
            <span className="font-semibold">{l.lot}</span> {l.what}, {l.how.toLowerCase()}
            {l.within.length > 0 ? <span className="text-soft"> · in it {l.within.join(', ')}</span> : null}
            {l.quarantined ? <span className="text-fail font-semibold"> · in quarantine</span> : null}
          </li>
        ))}
      </ul>
    </section>
  );
}
