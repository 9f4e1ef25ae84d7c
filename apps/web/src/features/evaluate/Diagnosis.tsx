import type { Cause } from '@norther/core';

const likely = (confidence: number): string =>
  confidence >= 0.75 ? 'likely' : confidence >= 0.55 ? 'possible' : 'less likely';

/** Explanations, the most likely first: what speaks for each, what against, what to do next. */
export function Diagnosis({ causes }: { causes: readonly Cause[] }) {
  if (causes.length === 0) return null;
  return (
    <ol aria-label="Diagnosis" className="my-2 space-y-2">
      {causes.map((c, i) => (
        <li key={c.id} className={i === 0 ? '' : 'text-small'}>
          <p className="font-semibold">
            {c.title} <span className="font-normal text-soft">({likely(c.confidence)})</span>
          </p>
          <p>
            {c.speaksFor.length > 0 ? `For: ${c.speaksFor.join('; ')}.` : ''}
            {c.speaksAgainst.length > 0 ? ` Against: ${c.speaksAgainst.join('; ')}.` : ''}
          </p>
          <p className="text-soft">Next: {c.next}</p>
        </li>
      ))}
    </ol>
  );
}
