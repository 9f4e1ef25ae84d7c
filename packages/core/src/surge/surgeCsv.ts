import { CalculationInputError } from '../calculation.ts';
import { formatNumber } from '../quantity/format.ts';
import type { SurgeWaves } from '../evaluate/testKind.ts';

/** Rows of a file of waves at most. */
export const MOST_WAVE_ROWS = 20_000;
const MOST_COLUMNS = 80;
const FEWEST = 5;
/** A sample may lie so many steps off its place: times are printed with few figures. */
const EVEN = 1;
/** Below this a peak is not volts of a surge tester. */
const SMALLEST_PEAK_V = 20;

const TIME_UNITS: Readonly<Record<string, number>> = { s: 1e6, ms: 1e3, µs: 1, μs: 1, us: 1, ns: 1e-3 };

/** What the person says of a file beside what stands in it. */
export interface SurgeFileSaid {
  /** unit of the voltages, where the heading says none */
  unit?: 'V' | 'kV' | undefined;
  /** unit of the times, where the heading says none; seconds where nobody says */
  time?: 's' | 'ms' | 'µs' | undefined;
  /** voltage applied, where the heading says none, V; else the largest value of each wave */
  appliedV?: number | undefined;
  /** names of the waves in order, where the heading says none */
  names?: readonly string[] | undefined;
}

interface Column {
  name: string;
  appliedV: number | undefined;
  volts: number;
  /** µs of one unit of its time */
  timeUs: number;
  /** numbers of its two columns */
  time: number;
  value: number;
}

/** A number as instruments write it: decimal point or comma, with or without an exponent. */
function numberOf(cell: string): number | undefined {
  return /^[+-]?(\d+([.,]\d*)?|[.,]\d+)(e[+-]?\d{1,3})?$/i.test(cell) ? Number(cell.replace(',', '.')) : undefined;
}

const refuse = (message: string): never => {
  throw new CalculationInputError([{ field: 'file', message }]);
};

/** `UV 1500 V (kV)`: name, voltage applied, unit of the column. */
function heading(text: string): { name: string; appliedV: number | undefined; unit: string | undefined } {
  const unit = /[([]\s*([^)\]]*?)\s*[)\]]\s*$/.exec(text)?.[1];
  const rest = text.replace(/[([][^)\]]*[)\]]\s*$/, '').trim();
  const applied = /(?:^|[\s,@])(\d+(?:[.,]\d+)?)\s*(k?V)\b/i.exec(rest);
  return {
    name: (applied ? rest.replace(applied[0], ' ') : rest).replaceAll(/[@,\s]+/g, ' ').trim(),
    appliedV: applied
      ? Number((applied[1] ?? '').replace(',', '.')) * ((applied[2] ?? '').toLowerCase() === 'kv' ? 1000 : 1)
      : undefined,
    unit,
  };
}
const isTime = (name: string): boolean => /^(t|time|zeit|temps|tid|tempo)\b/i.test(name) || name === 't';

/**
 * Reads waves from a file: one column of time and one of voltage for each wave, or two columns a wave. The heading names each wave, with
 * the voltage that was applied (`UV 1500 V`) and its unit (`(kV)`). What lies before the closing of the switch (negative times) is left
 * out. Comma, semicolon or tab; decimal point or comma.
 * @throws CalculationInputError naming the line or column at fault
 */
export function readSurgeCsv(csv: string, said: SurgeFileSaid = {}): SurgeWaves[] {
  const lines = csv
    .replace(/^\uFEFF/, '')
    .split(/\r\n|\n|\r/)
    .map((text, i) => ({ text, line: i + 1 }))
    .filter((l) => l.text.trim() !== '');
  const first = lines[0]?.text ?? '';
  const between = first.includes(';') ? ';' : first.includes('\t') ? '\t' : ',';
  const cellsOf = (text: string) => text.split(between).map((c) => c.trim().replace(/^"|"$/g, ''));
  const head = cellsOf(first);
  const named = head.some((c) => c !== '' && numberOf(c) === undefined);
  const body = named ? lines.slice(1) : lines;
  const width = head.length;
  if (width < 2) refuse('The file needs a column of time and one of voltage for each wave.');
  if (width > MOST_COLUMNS) refuse(`The file has ${width} columns; at most ${MOST_COLUMNS} are taken.`);
  if (body.length < FEWEST) refuse(`The file holds fewer than ${FEWEST} samples.`);
  if (body.length > MOST_WAVE_ROWS)
    refuse(
      `The file holds ${body.length} rows; at most ${MOST_WAVE_ROWS} are taken. Keep the first three to five cycles.`,
    );
  const rows = body.map(({ text, line }) => ({ line, cells: cellsOf(text) }));
  const numbers = rows.map(({ cells, line }) =>
    head.map((_, c) => {
      const cell = cells[c] ?? '';
      if (cell === '') return NaN;
      const value = numberOf(cell);
      return value ?? refuse(`Line ${line}: "${cell.slice(0, 40)}" is not a number.`);
    }),
  );
  const heads = head.map((h) => (named ? heading(h) : { name: '', appliedV: undefined, unit: undefined }));
  return gathered(columnsOf(heads, named, said), numbers, said);
}

/** Which column is the time of which wave. */
function columnsOf(heads: readonly ReturnType<typeof heading>[], named: boolean, said: SurgeFileSaid): Column[] {
  const paired = named
    ? heads.length % 2 === 0 && heads.length > 2 && heads.every((h, i) => i % 2 === 1 || isTime(h.name))
    : heads.length % 2 === 0 && heads.length > 2;
  const out: Column[] = [];
  const times = (h: ReturnType<typeof heading> | undefined): number => {
    const unit = h?.unit ?? said.time ?? 's';
    return TIME_UNITS[unit] ?? refuse(`"${unit}" is no unit of time: s, ms, µs or ns.`);
  };
  for (let c = 1; c < heads.length; c += paired ? 2 : 1) {
    const h = heads[c];
    const at = paired ? c - 1 : 0;
    const unit = h?.unit ?? said.unit ?? 'V';
    if (!/^k?v$/i.test(unit)) refuse(`"${unit}" is no unit of the waves: V or kV.`);
    const number = out.length;
    out.push({
      name: h?.name || (said.names?.[number] ?? ''),
      appliedV: h?.appliedV ?? said.appliedV,
      volts: unit.toLowerCase() === 'kv' ? 1000 : 1,
      timeUs: times(heads[at]),
      time: at,
      value: c,
    });
  }
  return out;
}

/** Columns of one name are pulses of one wave; columns without a name are waves of their own. */
function gathered(
  columns: readonly Column[],
  numbers: readonly (readonly number[])[],
  said: SurgeFileSaid,
): SurgeWaves[] {
  const out: SurgeWaves[] = [];
  columns.forEach((column, k) => {
    const label = column.name === '' ? `wave ${k + 1}` : column.name;
    const samples = numbers
      .map((row) => ({
        t: (row[column.time] as number) * column.timeUs,
        v: (row[column.value] as number) * column.volts,
      }))
      .filter((s) => Number.isFinite(s.t) && Number.isFinite(s.v) && s.t >= -1e-9);
    if (samples.length < FEWEST) refuse(`${label}: fewer than ${FEWEST} samples from the closing of the switch on.`);
    const span = (samples.at(-1)?.t ?? 0) - (samples[0]?.t ?? 0);
    const dtUs = span / (samples.length - 1);
    if (!(dtUs > 0)) refuse(`${label}: the times do not rise.`);
    const from = samples[0]?.t ?? 0;
    const uneven = samples.findIndex(
      (x, i) => Math.abs(x.t - from - i * dtUs) > EVEN * dtUs || (i > 0 && x.t < (samples[i - 1]?.t ?? 0)),
    );
    if (uneven > 0)
      refuse(`${label}: the steps of time are not equal (sample ${uneven + 1}); export at one sampling rate.`);
    const v = samples.map((s) => s.v);
    const peak = v.reduce((m, x) => Math.max(m, Math.abs(x)), 0);
    if (peak > 0 && peak < SMALLEST_PEAK_V && column.volts === 1 && said.unit === undefined)
      refuse(
        `${label} reaches only ${formatNumber(peak)} V: are these kV? Say (kV) in the heading, or choose the unit.`,
      );
    const pulse = { appliedV: column.appliedV ?? peak, dtUs, v };
    if (!(pulse.appliedV >= 1)) refuse(`${label} holds nothing but zeros.`);
    const known = column.name === '' ? undefined : out.find((w) => w.name === column.name);
    if (known) known.pulses.push(pulse);
    else out.push({ ...(column.name === '' ? {} : { name: column.name }), pulses: [pulse] });
  });
  if (out.length > 3)
    refuse(
      `The file holds ${out.length} waves (${out.map((w) => w.name ?? '?').join(', ')}); a test has at most three.`,
    );
  return wavesInOrder(out);
}

const ORDERS = [
  ['UV', 'VW', 'WU'],
  ['U', 'V', 'W'],
] as const;
/** Other ways to write the same leads. */
const plainName = (name: string | undefined): string =>
  (name ?? '')
    .toUpperCase()
    .replaceAll(/T?1\s*[-–/]\s*T?2|U1\s*[-–/]\s*V1|U\s*[-–/]\s*V/g, 'UV')
    .replaceAll(/T?2\s*[-–/]\s*T?3|V1\s*[-–/]\s*W1|V\s*[-–/]\s*W/g, 'VW')
    .replaceAll(/T?3\s*[-–/]\s*T?1|W1\s*[-–/]\s*U1|W\s*[-–/]\s*U/g, 'WU')
    .replace(/^(T1|U1|L1)$/, 'U')
    .replace(/^(T2|V1|L2)$/, 'V')
    .replace(/^(T3|W1|L3)$/, 'W');

/** Three waves that are named stand in the order of their names, whatever order the file had. */
export function wavesInOrder(waves: SurgeWaves[]): SurgeWaves[] {
  const names = waves.map((w) => plainName(w.name));
  for (const order of ORDERS) {
    if (waves.length !== 3 || !order.every((n) => names.includes(n))) continue;
    return order.map((n) => ({ ...(waves[names.indexOf(n)] as SurgeWaves), name: n }));
  }
  return waves;
}

/** Which way three waves were taken, where their names say it. */
export function modeOfWaves(waves: readonly SurgeWaves[]): 'lead to lead' | 'one against two' | undefined {
  const names = waves.map((w) => plainName(w.name));
  if (waves.length !== 3) return undefined;
  return ORDERS[0].every((n) => names.includes(n))
    ? 'lead to lead'
    : ORDERS[1].every((n) => names.includes(n))
      ? 'one against two'
      : undefined;
}
