import { PART_TITLES, WINDING_PARTS, type WindingPart } from '@norther/core';
import { useSearchParams } from 'react-router';

/** The winding that an address names; the stator's when it names none. */
export const partOf = (text: string | null): WindingPart => WINDING_PARTS.find((p) => p === text) ?? 'stator';

/** Which of the motor's windings is looked at. */
export function PartSwitch({ parts, part }: { parts: readonly WindingPart[]; part: WindingPart }) {
  const [, setQuery] = useSearchParams();
  return (
    <div role="group" aria-label="Which winding" className="flex gap-1 mb-3">
      {parts.map((p) => (
        <button
          key={p}
          type="button"
          aria-pressed={p === part}
          onClick={() => setQuery(p === 'stator' ? {} : { part: p })}
          className={`min-h-9 px-3 rounded-sm border font-semibold ${p === part ? 'bg-accent text-on-accent border-accent' : 'border-edge bg-sheet'}`}
        >
          {PART_TITLES[p]}
        </button>
      ))}
    </div>
  );
}
