import { phaseWords, type Cause } from '@norther/core';
import { useMarks } from '../../app/shop.ts';

const likely = (confidence: number): string =>
  confidence >= 0.75 ? 'likely' : confidence >= 0.55 ? 'possible' : 'less likely';

/** Explanations, the most likely first: what speaks for each, what against, what to do next. */
export function Diagnosis({ causes }: { causes: readonly Cause[] }) {
  const { school } = useMarks();
  if (causes.length === 0) return null;
  const say = (parts: readonly string[]) => phaseWords(parts.join('; '), school);
  return (
    <ol aria-label="Diagnosis" className="my-2 space-y-2">
      {causes.map((c, i) => (
        <li key={c.id} className={i === 0 ? '' : 'text-small'}>
          <p className="font-semibold">
            {c.title} <span className="font-normal text-soft">({likely(c.confidence)})</span>
          </p>
          <p>
            {c.speaksFor.length > 0 ? `For: ${say(c.speaksFor)}.` : ''}
            {c.speaksAgainst.length > 0 ? ` Against: ${say(c.speaksAgainst)}.` : ''}
          </p>
          <p className="text-soft">Next: {c.next}</p>
        </li>
      ))}
    </ol>
  );
}
