import type { Connection } from '../winding/connection.ts';
import type { Layout } from '../winding/layoutTypes.ts';
import { DAMAGES, WORST_AT, type GROUP_PLACES } from './burntPattern.ts';

/** One damaged coil of the old winding: how badly (1 discoloured, 2 burnt, 3 destroyed), and where it is worst. */
export interface CoilMark {
  coil: number;
  damage: number;
  worst?: (typeof WORST_AT)[number] | undefined;
}

/** What a photograph shows, pinned to a place of the unrolled winding (along 0 at the connection end, 1 at the other). */
export interface PhotographPin {
  slot: number;
  along: number;
  says: string;
  /** which of the job's photographs, counted from the first that was taken; none where only the place is noted */
  photograph?: number | undefined;
}

/** Pins that one record may hold. */
export const MOST_PINS = 40;

const sameMark = (a: CoilMark, b: CoilMark): boolean => a.damage === b.damage && a.worst === b.worst;

/** Coil numbers as runs. @example sayRuns([1, 2, 3, 7]) // '1-3, 7' */
export function sayRuns(numbers: readonly number[]): string {
  const sorted = [...new Set(numbers)].sort((a, b) => a - b);
  const runs: [number, number][] = [];
  for (const n of sorted) {
    const last = runs.at(-1);
    if (last && n === last[1] + 1) last[1] = n;
    else runs.push([n, n]);
  }
  return runs.map(([a, b]) => (a === b ? String(a) : `${a}-${b}`)).join(', ');
}

/** Marks as they stand in the record, the worst first. @example '4 destroyed at end turn; 5-8 burnt' */
export function sayMarks(marks: readonly CoilMark[]): string {
  const kinds: CoilMark[] = [];
  for (const m of marks) if (m.damage > 0 && !kinds.some((k) => sameMark(k, m))) kinds.push(m);
  const place = (worst: CoilMark['worst']) => (worst === undefined ? WORST_AT.length : WORST_AT.indexOf(worst));
  return kinds
    .sort((a, b) => b.damage - a.damage || place(a.worst) - place(b.worst))
    .map(
      (k) =>
        `${sayRuns(marks.filter((m) => sameMark(m, k)).map((m) => m.coil))} ${DAMAGES[k.damage] ?? ''}${k.worst ? ` at ${k.worst}` : ''}`,
    )
    .join('; ');
}

/** The marks that a record's text names, and what of it is not understood. A coil named twice keeps what was said last. */
export function readMarks(text: string): { marks: CoilMark[]; problems: string[] } {
  const marks = new Map<number, CoilMark>();
  const problems: string[] = [];
  for (const part of text
    .split(';')
    .map((p) => p.trim())
    .filter((p) => p !== '')) {
    const is = /^([\d\s,–-]+?)\s+(none|discoloured|burnt|destroyed)(?:\s+at\s+(.+))?$/i.exec(part);
    const worst = WORST_AT.find((w) => w === is?.[3]?.trim().toLowerCase());
    if (!is || (is[3] !== undefined && worst === undefined)) {
      problems.push(
        `"${part}" is not understood. Write coils, how badly, and where: 4 destroyed at end turn; 5-8 burnt. Where: ${WORST_AT.join(', ')}.`,
      );
      continue;
    }
    const damage = DAMAGES.findIndex((d) => d === is[2]?.toLowerCase());
    for (const run of (is[1] ?? '').split(',').map((r) => r.trim())) {
      const ends = /^(\d{1,3})(?:\s*[–-]\s*(\d{1,3}))?$/.exec(run);
      const from = Number(ends?.[1]);
      const to = Number(ends?.[2] ?? ends?.[1]);
      if (!ends || from < 1 || to < from) {
        problems.push(`"${run}" is no coil. Write numbers and runs: 1-3, 7.`);
        continue;
      }
      for (let coil = from; coil <= to; coil++) {
        if (damage === 0) marks.delete(coil);
        else marks.set(coil, { coil, damage, ...(worst ? { worst } : {}) });
      }
    }
  }
  return { marks: [...marks.values()].sort((a, b) => a.coil - b.coil), problems };
}

/** Pins as they stand in the record, one a line. */
export const sayPins = (pins: readonly PhotographPin[]): string =>
  pins
    .map(
      (p) =>
        `slot ${p.slot} at ${Math.round(100 * p.along)} %: ${p.says.replaceAll(/[\n[\]]/g, ' ').trim()}${p.photograph ? ` [photograph ${p.photograph}]` : ''}`,
    )
    .join('\n');

/** The pins that a record names; a line that is none is passed over. */
export function readPins(text: string): PhotographPin[] {
  return text.split('\n').flatMap((line): PhotographPin[] => {
    const is = /^slot (\d{1,3}) at (\d{1,3}) ?%:([^[]*)(?:\[photograph (\d{1,4})\])?\s*$/i.exec(line.trim());
    if (!is || Number(is[2]) > 100 || Number(is[1]) < 1) return [];
    return [
      {
        slot: Number(is[1]),
        along: Number(is[2]) / 100,
        says: (is[3] ?? '').trim(),
        ...(is[4] ? { photograph: Number(is[4]) } : {}),
      },
    ];
  });
}

/** Coils in the order in which the current passes a group that it enters at one of its ends. */
const alongOf = (layout: Layout, group: number, enter: string): number[] => {
  const coils = [...(layout.groups.find((g) => g.number === group)?.coils ?? [])];
  return enter.endsWith('F') ? coils.reverse() : coils;
};

/** Which coils are the first at a line lead and the last at the star point, along the circuits of a connection. */
export function placesOf(
  layout: Layout,
  connection: Connection | undefined,
): ReadonlyMap<number, (typeof GROUP_PLACES)[number]> {
  const places = new Map<number, (typeof GROUP_PLACES)[number]>();
  for (const circuit of connection?.circuits ?? []) {
    const coils = circuit.steps.flatMap((s) => alongOf(layout, s.group, s.enter));
    for (const c of coils) places.set(c, 'middle');
    const last = coils.at(-1);
    if (last !== undefined) places.set(last, connection?.connection === 'delta' ? 'line end' : 'neutral end');
    if (coils[0] !== undefined) places.set(coils[0], 'line end');
  }
  return places;
}

/** Every coil that was looked at, with its phase, group, place and damage: what the patterns are read from. */
export function coilsOfMap(
  layout: Layout,
  connection: Connection | undefined,
  marks: readonly CoilMark[],
  groups?: readonly number[],
) {
  const places = placesOf(layout, connection);
  const of = new Map(marks.map((m) => [m.coil, m]));
  return layout.coils
    .filter((c) => !groups || groups.length === 0 || groups.includes(c.group))
    .map((c) => {
      const mark = of.get(c.number);
      const place = places.get(c.number);
      return {
        coil: c.number,
        phase: c.phase,
        group: c.group,
        ...(place ? { place } : {}),
        damage: mark?.damage ?? 0,
        ...(mark?.worst ? { worst: mark.worst } : {}),
      };
    });
}
