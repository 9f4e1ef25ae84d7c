import { parseNumber } from '../quantity/parse.ts';
import { loadChannelsLack, loadFrames, type LoadFrame } from './loadFrames.ts';

export const MOST_LOAD_ROWS = 100_000;
const TIME = /^(t|time|zeit|seconds?|s)$/i;

/** A heading as its name and its unit. @example headOf('U12 [V]') // { name: 'U12', unit: 'V' } */
function headOf(cell: string): { name: string; unit: string } {
  const found = /^(.+?)\s*(?:[[(/,]\s*([^\])]*?)\s*[\])]?)?$/.exec(cell.trim());
  return { name: found?.[1]?.trim() ?? cell.trim(), unit: found?.[2]?.trim() ?? '' };
}

export interface LoadFile {
  frames: LoadFrame[];
  channels: { name: string; unit: string }[];
  /** as they stand in the file, one row a channel; null where a cell is empty */
  columns: (number | null)[][];
  problem?: string;
}

/**
 * A load run from a file: a heading with name and unit of each column, then one line a reading. The first column is the time in seconds
 * where it is called so; left out, lines are taken as `stepS` apart.
 */
export function readLoadCsv(csv: string, stepS = 1): LoadFile {
  const none = (problem: string): LoadFile => ({ frames: [], channels: [], columns: [], problem });
  const lines = csv
    .replace(/\r/g, '')
    .split('\n')
    .filter((l) => l.trim() !== '');
  const [head, ...rest] = lines;
  if (head === undefined) return none('The file is empty.');
  if (rest.length > MOST_LOAD_ROWS)
    return none(`At most ${MOST_LOAD_ROWS} lines are read; this file has ${rest.length}.`);
  const by = /[;\t]/.exec(head)?.[0] ?? ',';
  const heads = head.split(by).map(headOf);
  const timed = TIME.test(heads[0]?.name ?? '');
  if (timed && !['', 's', 'sec'].includes(heads[0]?.unit ?? ''))
    return none(`The time is in "${heads[0]?.unit}"; seconds are wanted.`);
  const channels = timed ? heads.slice(1) : heads;
  const lacks = loadChannelsLack(channels);
  if (lacks) return none(lacks);
  const x: number[] = [];
  const values: (number | null)[][] = channels.map(() => []);
  for (const [i, line] of rest.entries()) {
    const cells = line.split(by).map((c) => c.trim());
    const read = cells.map((c) => (c === '' ? null : parseNumber(by === ',' ? c : c.replace(',', '.'))));
    const wrong = read.findIndex((n) => n === undefined);
    if (wrong >= 0) return none(`Line ${i + 2}, column ${wrong + 1}: "${cells[wrong]?.slice(0, 20)}" is no number.`);
    const t = timed ? read[0] : i * stepS;
    if (t === null || t === undefined) return none(`Line ${i + 2} has no time.`);
    if (x.length > 0 && t <= (x.at(-1) ?? t))
      return none(`Line ${i + 2}: the time ${t} s does not come after ${x.at(-1)} s.`);
    x.push(t);
    channels.forEach((_, k) => values[k]?.push(read[timed ? k + 1 : k] ?? null));
  }
  return { frames: loadFrames(channels, x, values), channels, columns: values };
}
