import type { Readings } from '../evaluate/testKind.ts';
import type { FieldSpec } from '../quantity/fields.ts';
import type { Dimension } from '../quantity/units.ts';

/** A field that takes several figures of one kind, one for each point. */
export const listOf = (
  name: string,
  label: string,
  dimension: Dimension,
  unit: string,
  hint: string,
  required = true,
): FieldSpec => ({
  name,
  label,
  read: { kind: 'quantities', dimension, unit },
  hint,
  ...(required ? { required: true as const } : {}),
});

/** The figures of such a field; none where it was left out. */
export function numbers(v: Readings, name: string): number[] {
  const read = v[name];
  return Array.isArray(read) && read.every((n) => typeof n === 'number') ? read : [];
}

/** Lists that belong together have one length, as far as they are filled in. */
export function sameLengths(
  v: Readings,
  names: readonly string[],
  says: string,
): { field: string; message: string } | undefined {
  const [first, ...more] = names.filter((n) => v[n] !== undefined);
  const odd = more.find((n) => first !== undefined && numbers(v, n).length !== numbers(v, first).length);
  return first === undefined || odd === undefined
    ? undefined
    : {
        field: odd,
        message: `${says}: there are ${numbers(v, first).length} and ${numbers(v, odd).length}.`,
      };
}
