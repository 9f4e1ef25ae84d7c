import { fieldsFor, PLAIN, type FieldSpec, type TestKind } from '@norther/core';

/** Motors that are entered in one go. */
export const ROWS = 10;
/** The first column: a job's number, and after a stroke the piece of a job of many. */
export const MOTOR = 'motor';

/** Columns of a table for a test: what fits on a line and every machine has. */
export const columnsOf = (kind: TestKind): FieldSpec[] =>
  fieldsFor(kind, PLAIN).filter((f) => !(f.read.kind === 'text' && f.read.long));

export const cellName = (row: number, column: string): string => `${row}.${column}`;

/** Which motor a row is of. @example motorOf('26-0031/4') // { number: '26-0031', unit: 4 } */
export function motorOf(text: string): { number: string; unit?: number } | undefined {
  const is = /^\s*([^/\s]+)\s*(?:\/\s*(\d{1,6}))?\s*$/.exec(text);
  if (!is?.[1]) return undefined;
  return is[2] === undefined ? { number: is[1] } : { number: is[1], unit: Number(is[2]) };
}

/** Cells of a table copied from a spreadsheet, laid into the rows and columns from one place on; what lies outside is left out. */
export function pasted(
  text: string,
  at: { row: number; column: number },
  columns: readonly string[],
): Record<string, string> {
  const lines = text.replace(/\r/g, '').replace(/\n+$/, '').split('\n');
  return Object.fromEntries(
    lines.flatMap((line, i) =>
      line.split('\t').flatMap((cell, k) => {
        const column = columns[at.column + k];
        const row = at.row + i;
        return column === undefined || row >= ROWS ? [] : [[cellName(row, column), cell.trim()] as const];
      }),
    ),
  );
}

/** What a row says, blanks filled in from the row above that is the nearest to say it; undefined where no motor is named. */
export function rowOf(
  typed: Readonly<Record<string, string>>,
  row: number,
  columns: readonly string[],
  fromAbove: ReadonlySet<string>,
): { motor: { number: string; unit?: number }; typed: Record<string, string> } | undefined {
  const motor = motorOf(typed[cellName(row, MOTOR)] ?? '');
  if (!motor) return undefined;
  const said = (column: string): string => {
    for (let r = row; r >= (fromAbove.has(column) ? 0 : row); r--) {
      const text = typed[cellName(r, column)] ?? '';
      if (text !== '') return text;
    }
    return '';
  };
  return { motor, typed: Object.fromEntries(columns.flatMap((c) => (said(c) === '' ? [] : [[c, said(c)] as const]))) };
}

/** What is the same for motor after motor: choices, voltages and the instrument; readings are each motor's own. */
export const FROM_ABOVE: ReadonlySet<string> = new Set([
  'instrument',
  'testV',
  'windingC',
  'airC',
  'ambientC',
  'humidity',
  'measured',
  'kind',
  'system',
  'mode',
  'rotor',
  'windings',
  'reading',
  'othersOpen',
]);
