import { FIRST_PART, PARTS, windingPartSchema, type WindingPart } from '@norther/core';
import { useSearchParams } from 'react-router';

/** The winding that an address names; the stator's when it names none. */
export const partOf = (text: string | null): WindingPart => windingPartSchema.safeParse(text).data ?? FIRST_PART;
/** What an address says of it: nothing for the first. */
export const partQuery = (part: WindingPart): { part?: WindingPart } => (part === FIRST_PART ? {} : { part });

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
          onClick={() => setQuery(partQuery(p))}
          className={`min-h-9 px-3 rounded-sm border font-semibold ${p === part ? 'bg-accent text-on-accent border-accent' : 'border-edge bg-sheet'}`}
        >
          {PARTS[p].title}
        </button>
      ))}
    </div>
  );
}
