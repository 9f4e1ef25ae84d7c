import type { TestKind } from '@norther/core';

/** Fields of a test that take a figure for each point. */
export const listsOf = (kind: Pick<TestKind, 'fields'>): string[] =>
  kind.fields.flatMap((f) => (f.read.kind === 'quantities' ? [f.name] : []));

/**
 * A table of points copied from a spreadsheet, a row for each: its columns go into the list it is pasted into and those after it.
 * A row that holds no figure (the heads) is left out.
 * @returns undefined where it is no table
 */
export function columnsPasted(
  text: string,
  into: string,
  lists: readonly string[],
): Readonly<Record<string, string>> | undefined {
  const at = lists.indexOf(into);
  const lines = text
    .replace(/\r/g, '')
    .split('\n')
    .filter((line) => line.trim() !== '');
  if (at < 0 || (lines.length < 2 && !text.includes('\t'))) return undefined;
  const rows = lines.map((line) => line.split('\t').map((cell) => cell.trim()));
  const points = rows.filter((cells) => cells.some((cell) => /^[-+]?[\d.,]*\d/.test(cell)));
  const wide = Math.max(0, ...points.map((cells) => cells.length));
  return Object.fromEntries(
    lists.slice(at, at + wide).map((name, k) => [
      name,
      points
        .map((cells) => cells[k] ?? '')
        .filter((cell) => cell !== '')
        .join('; '),
    ]),
  );
}
