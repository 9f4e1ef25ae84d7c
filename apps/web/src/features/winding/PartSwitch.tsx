import { FIRST_PART, PARTS, windingPartSchema, type WindingPart } from '@norther/core';
import { useSearchParams } from 'react-router';
import { Segmented } from '../../ui/Segmented.tsx';

/** The winding that an address names; the stator's when it names none. */
export const partOf = (text: string | null): WindingPart => windingPartSchema.safeParse(text).data ?? FIRST_PART;
/** What an address says of it: nothing for the first. */
export const partQuery = (part: WindingPart): { part?: WindingPart } => (part === FIRST_PART ? {} : { part });

/** Which of the motor's windings is looked at. */
export function PartSwitch({ parts, part }: { parts: readonly WindingPart[]; part: WindingPart }) {
  const [, setQuery] = useSearchParams();
  return (
    <div className="mb-3">
      <Segmented
        label="Which winding"
        options={parts.map((p) => [p, PARTS[p].title] as const)}
        value={part}
        onChange={(p) => setQuery(partQuery(p))}
      />
    </div>
  );
}
