import type { WindingType } from './layoutTypes.ts';
import type { Duty } from './twoSpeed.ts';

/** How leads are linked for one use. */
export interface LinkRow {
  use: string;
  lines: string[];
  links: string[];
}

const row = (use: string, lines: string, links = ''): LinkRow => ({
  use,
  lines: lines.split(' '),
  links: links === '' ? [] : links.split(' '),
});

/** How leads are linked for each use (NEMA MG 1, from memory); every row is checked as a graph in the tests. */
export const LINKS = {
  '6': [
    row('wye (start, or √3 times the voltage)', 'T1 T2 T3', 'T4-T5-T6'),
    row('delta (run, lower voltage)', 'T1-T6 T2-T4 T3-T5'),
  ],
  '9 wye': [
    row('high voltage (series)', 'T1 T2 T3', 'T4-T7 T5-T8 T6-T9'),
    row('low voltage (parallel)', 'T1-T7 T2-T8 T3-T9', 'T4-T5-T6'),
    row('part-winding start, low voltage only', 'T1 T2 T3', 'T4-T5-T6'),
    row('part-winding run: add to the same lines', 'T1-T7 T2-T8 T3-T9', 'T4-T5-T6'),
  ],
  '9 delta': [
    row('high voltage (series)', 'T1 T2 T3', 'T4-T7 T5-T8 T6-T9'),
    row('low voltage (parallel)', 'T1-T6-T7 T2-T4-T8 T3-T5-T9'),
  ],
  '12': [
    row('high voltage, delta run', 'T1-T12 T2-T10 T3-T11', 'T4-T7 T5-T8 T6-T9'),
    row('high voltage, wye start', 'T1 T2 T3', 'T4-T7 T5-T8 T6-T9 T10-T11-T12'),
    row('low voltage, delta run', 'T1-T6-T7-T12 T2-T4-T8-T10 T3-T5-T9-T11'),
    row('low voltage, wye start', 'T1-T7 T2-T8 T3-T9', 'T4-T5-T6-T10-T11-T12'),
  ],
  'part-winding': [row('start: half the winding', 'T1 T2 T3'), row('run: add to the same lines', 'T1-T7 T2-T8 T3-T9')],
} as const satisfies Record<string, readonly LinkRow[]>;

/** Two speeds 2:1 (link table from memory; the line order of the high speed is derived). */
export const TWO_SPEED_LINKS: Readonly<Record<Duty, readonly LinkRow[]>> = {
  'constant torque': [
    row('low speed: series delta', 'T1 T2 T3'),
    row('high speed: parallel wye', 'T6 T4 T5', 'T1-T2-T3'),
  ],
  'variable torque': [
    row('low speed: series wye', 'T1 T2 T3'),
    row('high speed: parallel wye', 'T6 T4 T5', 'T1-T2-T3'),
  ],
  'constant power': [
    row('low speed: parallel wye', 'T1 T2 T3', 'T4-T5-T6'),
    row('high speed: series delta', 'T6 T4 T5'),
  ],
};

/** NEMA number -> IEC letters (from memory of NEMA MG 1 and IEC 60034-8). */
const IEC_OF: Readonly<Record<string, string>> = {
  T1: 'U1',
  T2: 'V1',
  T3: 'W1',
  T4: 'U2',
  T5: 'V2',
  T6: 'W2',
  T7: 'U5',
  T8: 'V5',
  T9: 'W5',
  T10: 'U6',
  T11: 'V6',
  T12: 'W6',
};
/** Two speeds: the leading digit is the speed, low 1 and high 2, in the same line order. */
const IEC_TWO_SPEED: Readonly<Record<string, string>> = {
  T1: '1U',
  T2: '1V',
  T3: '1W',
  T6: '2U',
  T4: '2V',
  T5: '2W',
};

/** A lead mark in the reader's school; other text (Y for the star) stays. */
export function leadMark(name: string, school: 'T' | 'U', kind: WindingType = 'three-phase'): string {
  if (kind === 'single-phase') {
    if (school === 'U') return name;
    return ({ U1: 'T1', U2: 'T4', Z1: 'T5', Z2: 'T8' } as Record<string, string>)[name] ?? name;
  }
  if (school === 'T') return name;
  const table = kind === 'two-speed' ? IEC_TWO_SPEED : IEC_OF;
  return name.replaceAll(/\bT\d+/g, (t) => table[t] ?? t);
}

const IEC_PHASE: Readonly<Record<string, string>> = { A: 'U', B: 'V', C: 'W' };

/** A sentence that names leads and phases ("phase A") in the reader's marks and letters. */
export const phaseWords = (text: string, school: 'T' | 'U', kind: WindingType = 'three-phase'): string =>
  leadMark(
    school === 'T'
      ? text
      : text.replaceAll(/([Pp]hase )([ABC])\b/g, (_, word: string, p: string) => word + (IEC_PHASE[p] ?? p)),
    school,
    kind,
  );

/** Lead marks of the reader's school back to the names used inside, wherever they stand in a text. */
export function fromLeadMarks(text: string, school: 'T' | 'U', kind: WindingType = 'three-phase'): string {
  if (school === 'T' || kind === 'single-phase') return text;
  const table = kind === 'two-speed' ? IEC_TWO_SPEED : IEC_OF;
  const back = new Map(Object.entries(table).map(([t, mark]) => [mark, t]));
  return text.replaceAll(/\b(?:[12][UVW]|[UVW]\d)\b/gi, (mark) => back.get(mark.toUpperCase()) ?? mark);
}
