import { saySpans } from './say.ts';
import { NAMEPLATE_FIELDS, nameplateSchema, type Nameplate } from '../machine/nameplate.ts';
import { readForm, typedWithUnit, type ReadingDefaults, type Typed } from '../quantity/fields.ts';
import { formatNumber } from '../quantity/format.ts';
import { checkRecord } from './checks.ts';
import { readWindingRecord } from './readRecord.ts';
import type { WindingRecord } from './record.ts';
import { WINDING_FIELDS } from './recordFields.ts';

export interface ArchiveKey {
  record: WindingRecord;
  nameplate: Nameplate;
}

interface Measure {
  label: string;
  /** how much a difference counts: whole numbers that differ at all, or sizes by their ratio */
  weight: number;
  of: (x: ArchiveKey) => number | string | undefined;
  kind: 'same' | 'ratio';
  say?: (v: number) => string;
}
const mm = (v: number) => `${formatNumber(v * 1000, 4)} mm`;
const MEASURES: readonly Measure[] = [
  { label: 'slots', weight: 6, of: (x) => x.record.slots, kind: 'same' },
  { label: 'poles', weight: 6, of: (x) => x.record.poles, kind: 'same' },
  { label: 'bore', weight: 5, of: (x) => x.record.boreM, kind: 'ratio', say: mm },
  { label: 'core length', weight: 4, of: (x) => x.record.coreLengthM, kind: 'ratio', say: mm },
  {
    label: 'output',
    weight: 4,
    of: (x) => x.nameplate.outputW,
    kind: 'ratio',
    say: (v) => `${formatNumber(v / 1000, 4)} kW`,
  },
  {
    label: 'voltage',
    weight: 2,
    of: (x) => x.nameplate.voltagesV?.[0],
    kind: 'ratio',
    say: (v) => `${formatNumber(v, 4)} V`,
  },
  { label: 'frequency', weight: 2, of: (x) => x.nameplate.frequencyHz, kind: 'same', say: (v) => `${v} Hz` },
  {
    label: 'kind',
    weight: 3,
    of: (x) => (x.record.slots === undefined ? undefined : x.record.kind),
    kind: 'same',
  },
  { label: 'slot depth', weight: 1, of: (x) => x.record.slotDepthM, kind: 'ratio', say: mm },
  { label: 'connection', weight: 1, of: (x) => x.record.connection, kind: 'same' },
  { label: 'span', weight: 0.5, of: (x) => saySpans(x.record.spansSlots), kind: 'same' },
  { label: 'turns', weight: 0.5, of: (x) => x.record.turns?.join(', '), kind: 'same' },
  { label: 'circuits', weight: 0.5, of: (x) => x.record.circuits, kind: 'same' },
];

export interface Similarity {
  /** 1 = the same in all that both records know, 0 = nothing alike */
  score: number;
  /** in the words of the bench: "bore 150 mm against 148 mm" */
  differs: string[];
}

/**
 * How alike two windings are, by core and rating first. Only what both records know is compared; a record that says
 * little does not win by silence. Weights: common practice.
 */
export function similarityOf(a: ArchiveKey, b: ArchiveKey): Similarity {
  let got = 0;
  let known = 0;
  let all = 0;
  const differs: string[] = [];
  for (const m of MEASURES) {
    const [x, y] = [m.of(a), m.of(b)];
    if (x !== undefined) all += m.weight;
    if (x === undefined || y === undefined) continue;
    known += m.weight;
    const alike =
      m.kind === 'same' || typeof x === 'string' || typeof y === 'string'
        ? x === y
          ? 1
          : 0
        : Math.max(0, 1 - Math.abs(Math.log(x / y)) / Math.log(2));
    got += m.weight * alike;
    if (alike < 0.999) {
      const say = (v: number | string) => (typeof v === 'number' ? (m.say?.(v) ?? String(v)) : v);
      differs.push(`${m.label} ${say(y)} against ${say(x)}`);
    }
  }
  // half of what is unknown to the other record counts as unlike
  const silent = Math.max(0, all - known);
  return { score: known === 0 ? 0 : got / (known + 0.5 * silent), differs };
}

/** Fields an old-record file may have: those of the nameplate, those of the winding, and a title. */
const COLUMNS = [
  { name: 'title', label: 'Title' },
  // "Poles" is the winding's: those were counted
  ...WINDING_FIELDS.map((f) => ({ name: f.name, label: f.label })),
  ...NAMEPLATE_FIELDS.map((f) => ({ name: `plate.${f.name}`, label: f.label })),
];
const plain = (s: string) => s.toLowerCase().replaceAll(/[^a-z0-9]+/g, '');

/** The field a column heading means: its name or its label, whatever the case and spaces. */
export function columnOf(heading: string): string | undefined {
  const key = plain(heading);
  return COLUMNS.find((c) => plain(c.name) === key || plain(c.label) === key)?.name;
}

export interface ArchiveRow {
  /** line in the file, 1 = heading */
  line: number;
  title: string;
  plateTyped: Typed;
  typed: Typed;
  record: WindingRecord;
  nameplate: Nameplate;
  /** why this row cannot be right; empty when it can be taken */
  problems: string[];
  warnings: string[];
}

/**
 * Old records from a spreadsheet: headings as on the sheet, one motor a line. Every row that cannot be read or cannot be
 * right is marked with its reason; such rows are never taken.
 */
export function readArchiveTable(
  table: readonly (readonly string[])[],
  defaults: ReadingDefaults,
): { rows: ArchiveRow[]; unknown: string[]; problem?: string } {
  const headings = table[0] ?? [];
  const fields = headings.map(columnOf);
  const unknown = headings.filter((h, i) => h.trim() !== '' && fields[i] === undefined);
  if (!fields.includes('slots') || !fields.includes('poles'))
    return {
      rows: [],
      unknown,
      problem:
        'The first line must name the columns, with Slots and Poles among them; the others as on the data sheet.',
    };
  const twice = fields.find((f, i) => f !== undefined && fields.indexOf(f) !== i);
  if (twice)
    return {
      rows: [],
      unknown,
      problem: `The column ${COLUMNS.find((c) => c.name === twice)?.label ?? twice} stands twice.`,
    };
  const rows = table.slice(1).flatMap((cells, i): ArchiveRow[] => {
    if (cells.every((c) => c.trim() === '')) return [];
    const typed: Record<string, string> = {};
    const plateTyped: Record<string, string> = {};
    let title = '';
    const problems: string[] = [];
    if (cells.length > headings.length)
      problems.push(`${cells.length} cells in a table of ${headings.length} columns.`);
    fields.forEach((f, k) => {
      const value = (cells[k] ?? '').trim();
      if (!f || value === '') return;
      if (f === 'title') title = value;
      else if (f.startsWith('plate.')) plateTyped[f.slice(6)] = value;
      else typed[f] = choiceOf(f, value);
    });
    const plate = readForm(NAMEPLATE_FIELDS, plateTyped, defaults);
    const winding = readWindingRecord(typed, defaults);
    for (const p of [...plate.problems, ...winding.problems]) problems.push(`${p.label}: ${p.message}`);
    const parsed = nameplateSchema.safeParse(plate.values);
    const nameplate = parsed.success ? parsed.data : {};
    if (winding.record.slots === undefined || winding.record.poles === undefined)
      problems.push('Slots and poles are needed.');
    const findings = problems.length > 0 ? [] : checkRecord(winding.record, nameplate);
    for (const f of findings) if (f.severity === 'E') problems.push(f.message);
    return [
      {
        line: i + 2,
        title: title || `${winding.record.slots ?? '?'} slots, ${winding.record.poles ?? '?'} poles`,
        plateTyped,
        typed,
        record: winding.record,
        nameplate,
        problems,
        warnings: findings.filter((f) => f.severity === 'W').map((f) => f.message),
      },
    ];
  });
  return { rows, unknown };
}

/** A choice may be written as its value or as its words. */
function choiceOf(field: string, value: string): string {
  const read = WINDING_FIELDS.find((f) => f.name === field)?.read;
  if (read?.kind !== 'choice') return value;
  const key = plain(value);
  return (
    read.options.find((o) => plain(o.value) === key || plain(o.label) === key || plain(o.label).startsWith(key))
      ?.value ?? value
  );
}

/** What was typed in another shop's (or an older) units, as it would be typed here: bare numbers get the unit they had. */
export function carryOver(typed: Typed, readWith: ReadingDefaults, here: ReadingDefaults): Record<string, string> {
  const out: Record<string, string> = {};
  for (const [name, value] of Object.entries(typed)) {
    const field = WINDING_FIELDS.find((f) => f.name === name);
    if (!field) continue;
    if (field.read.kind === 'wires' && readWith.wireSystem !== here.wireSystem) {
      const strands = readForm([field], { [name]: value }, readWith).values[name];
      out[name] = Array.isArray(strands)
        ? (strands as { count: number; bareM: number }[])
            .map((s) => `${s.count}x${formatNumber(s.bareM * 1000, 5)} mm`)
            .join(' + ')
        : value;
    } else out[name] = typedWithUnit(field, value, readWith);
  }
  return out;
}
