/** Pieces from one to another, both counted. */
export type PieceRange = readonly [from: number, to: number];

/** Ranges one line may name. */
const MOST_RANGES = 200;

/**
 * Pieces as one writes them down: "1-4, 7", "all".
 * @param most pieces that are numbered, 1…most
 * @returns ranges in rising order that do not touch, or a sentence saying what is wrong
 */
export function parsePieces(text: string, most: number): { ranges: PieceRange[] } | { problem: string } {
  const words = text
    .trim()
    .toLowerCase()
    .replaceAll(/\s*[-–]\s*/g, '-');
  if (most < 1) return { problem: 'Pieces: none is numbered yet; number them first.' };
  if (words === 'all') return { ranges: [[1, most]] };
  const found: [number, number][] = [];
  for (const word of words.split(/[\s,;]+/).filter(Boolean)) {
    const range = /^(\d{1,9})(?:-(\d{1,9}))?$/.exec(word);
    if (!range) return { problem: `Pieces: "${word}" is no piece; type for example 1-4, 7, or all.` };
    const from = Number(range[1]);
    const to = Number(range[2] ?? range[1]);
    if (from > to) return { problem: `Pieces: ${from}-${to} runs backwards; type ${to}-${from}.` };
    if (from < 1 || to > most)
      return { problem: `Pieces: there is no piece ${from < 1 ? from : to}; they are numbered 1 to ${most}.` };
    found.push([from, to]);
  }
  if (found.length === 0) return { problem: 'Pieces: type which, for example 1-4, 7, or all.' };
  if (found.length > MOST_RANGES) return { problem: `Pieces: at most ${MOST_RANGES} ranges are taken at once.` };
  const ranges: [number, number][] = [];
  for (const [from, to] of found.sort((a, b) => a[0] - b[0])) {
    const last = ranges.at(-1);
    if (last && from <= last[1] + 1) last[1] = Math.max(last[1], to);
    else ranges.push([from, to]);
  }
  return { ranges };
}

/** Ranges in words. @example sayPieces([[1, 4], [7, 7]]) // '1-4, 7' */
export const sayPieces = (ranges: readonly PieceRange[]): string =>
  ranges.map(([from, to]) => (from === to ? `${from}` : `${from}-${to}`)).join(', ');
