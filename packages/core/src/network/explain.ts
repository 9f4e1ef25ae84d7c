import type { Connection } from '../winding/connection.ts';
import type { Layout } from '../winding/layoutTypes.ts';
import { looksOf, type Look } from './dictionary.ts';
import { jointsOf } from './joints.ts';
import { bypassed, exchanged, openedCircuit, phaseReversed, reversed, type Mistake } from './mistakes.ts';

/** Every single mistake of a connection (its joints are made when they are asked for) with three line leads: what hands get wrong. */
export function singleMistakes(layout: Layout, connection: Connection): Mistake[] {
  const joints = jointsOf(connection);
  const out: Mistake[] = [];
  for (const g of layout.groups) {
    out.push({
      kind: 'reversed group',
      groups: [g.number],
      say: `group ${g.number} reversed`,
      get joints() {
        return reversed(joints, g.number);
      },
    });
    out.push({
      kind: 'bypassed group',
      groups: [g.number],
      say: `group ${g.number} left out`,
      get joints() {
        return bypassed(joints, g.number);
      },
    });
  }
  // groups that lie side by side, or one on, are taken for each other
  const list = layout.groups;
  list.forEach((a, i) => {
    for (const step of [1, 2]) {
      const b = list[(i + step) % list.length];
      if (b && b.phase !== a.phase)
        out.push({
          kind: 'exchanged groups',
          groups: [a.number, b.number],
          say: `groups ${a.number} and ${b.number} exchanged`,
          get joints() {
            return exchanged(joints, a.number, b.number);
          },
        });
    }
  });
  for (const phase of layout.phases) {
    out.push({
      kind: 'phase reversed',
      groups: list.filter((g) => g.phase === phase).map((g) => g.number),
      say: `phase ${phase} reversed`,
      get joints() {
        return phaseReversed(joints, connection, phase);
      },
    });
    connection.circuits
      .filter((c) => c.phase === phase)
      .forEach((c, i) =>
        out.push({
          kind: 'open circuit',
          groups: c.steps.map((s) => s.group),
          say: `circuit ${c.steps.map((s) => s.group).join('-')} of phase ${phase} open`,
          get joints() {
            return openedCircuit(joints, connection, phase, i + 1);
          },
        }),
      );
  }
  return out;
}

const withCoilTurns = (layout: Layout, coil: number, factor: number): Layout => ({
  ...layout,
  coils: layout.coils.map((c) => (c.number === coil ? { ...c, turns: c.turns * factor } : c)),
});

/**
 * Every coil of a group of several turned, or left out: the joints outside are as drawn. Turned, the group loses twice the
 * coil's phasor and keeps its resistance; left out, once, with the coil's share of resistance (docs/derivations.md 8).
 */
export function coilMistakes(layout: Layout, connection: Connection): Mistake[] {
  const joints = jointsOf(connection);
  return layout.groups.flatMap((g) =>
    (g.coils.length < 2 ? [] : g.coils).flatMap((n): Mistake[] => {
      const coil = layout.coils[n - 1];
      if (!coil || coil.turns === 0) return [];
      const say = `coil ${coil.goSlot}-${coil.returnSlot} of group ${g.number}`;
      return [
        {
          kind: 'coil turned',
          groups: [g.number],
          coil: n,
          say: `${say} turned`,
          joints,
          get layout() {
            return withCoilTurns(layout, n, -1);
          },
        },
        {
          kind: 'coil left out',
          groups: [g.number],
          coil: n,
          say: `${say} left out`,
          joints,
          get layout() {
            return withCoilTurns(layout, n, 0);
          },
        },
      ];
    }),
  );
}

/**
 * What was measured at T1-T2, T2-T3, T3-T1 (resistance, frequency) and at T1, T2, T3 (current), any unit. An open pair reads
 * Infinity in resistance and 0 (no wave) in frequency; an open lead 0 in current.
 */
export interface OddReadings {
  resistance?: readonly number[] | undefined;
  current?: readonly number[] | undefined;
  /** shorter surge period = higher number: frequency by pair */
  frequency?: readonly number[] | undefined;
}
export interface Explanation {
  /** mistakes that look alike from outside, one line each */
  says: string[];
  kind: Mistake['kind'] | 'poor joint';
  groups: number[];
  /** root mean square of the relative differences of pattern, per cent; small = fits */
  misfitPercent: number;
  look: string;
}

const LOOK: Readonly<Record<Mistake['kind'], string>> = {
  'reversed group':
    'Resistance stays right. Feed a little DC into the phase and follow the polarity round the bore with a compass: two neighbours of one phase will show the same pole.',
  'bypassed group':
    'Count groups from lead to star or lead; look for a jumper that passes a group and two ends left over.',
  'exchanged groups': 'Follow each circuit by its group numbers: one number will belong to another phase.',
  'open circuit': 'Measure each circuit at its joint; look for an end that came out of its lead or star.',
  'phase reversed':
    'One phase’s start and finish are exchanged: look at what lies in the star, or the order of one pair of delta corners.',
  'coil turned':
    'Resistance stays right and no joint shows it. Feed a little DC into the phase and pass a compass over the coils of the group: one points against its neighbours. Before anything is cut, read once more.',
  'coil left out':
    'Count the knuckles and follow the loops between the coils of the group: one coil is passed by, its two ends lie in the head. Before anything is cut, read once more.',
  none: 'Nothing is against the connection; look for shorted turns, the meter and the contacts.',
};

/** Three readings as differences from the mean of those that are not open; an open resistance stays Infinity. */
const pattern = (list: readonly number[]): number[] => {
  const closed = list.filter((x) => Number.isFinite(x));
  const mean = closed.reduce((a, b) => a + b, 0) / Math.max(1, closed.length);
  return list.map((x) => (Number.isFinite(x) ? (mean > 0 ? x / mean - 1 : 0) : Infinity));
};
const isReading = (kind: keyof OddReadings, x: number): boolean =>
  kind === 'resistance' ? x > 0 : x >= 0 && x < Infinity;

const dictionaries = new WeakMap<Connection, { mistake: Mistake; look: Look }[]>();

/** What every single mistake of a connection shows; made once for a connection. */
export function mistakeDictionary(layout: Layout, connection: Connection): { mistake: Mistake; look: Look }[] {
  const known = dictionaries.get(connection);
  if (known) return known;
  const none: Mistake = { kind: 'none', groups: [], say: 'the connection as drawn', joints: jointsOf(connection) };
  const mistakes = [none, ...singleMistakes(layout, connection), ...coilMistakes(layout, connection)];
  const looks = looksOf(layout, connection, mistakes);
  const made = mistakes.map((mistake, i) => ({ mistake, look: looks[i] as Look }));
  dictionaries.set(connection, made);
  return made;
}

/** Patterns closer than this are one to any meter. */
const LOOKS_ALIKE = 0.0005;

/**
 * Single mistakes that would explain odd readings, best first. Only the pattern over the three pairs or leads is compared,
 * so readings need no absolute expectation. Mistakes that look the same from outside stand together.
 */
export function explainReadings(layout: Layout, connection: Connection, readings: OddReadings): Explanation[] {
  const wanted: [keyof OddReadings, number[]][] = (['resistance', 'current', 'frequency'] as const).flatMap((k) => {
    const list = readings[k];
    return list?.length === 3 && list.every((x) => isReading(k, x))
      ? [[k, pattern(list)] as [keyof OddReadings, number[]]]
      : [];
  });
  const shown = (s: Look): Record<keyof OddReadings, number[]> => ({
    resistance: pattern(s.resistance),
    current: pattern(s.current),
    frequency: pattern(s.inductance.map((l) => 1 / Math.sqrt(l))),
  });
  const isOpen = (x: number | undefined) => x === Infinity;
  const all = mistakeDictionary(layout, connection).flatMap(({ mistake, look }) => {
    const own = shown(look);
    // an open pair is a look, not a figure: it must be open in the mistake too, and nowhere else
    if (wanted.some(([k, list]) => list.some((x, i) => isOpen(x) !== isOpen(own[k][i])))) return [];
    const off = wanted.flatMap(([k, list]) => list.map((x, i) => (isOpen(x) ? 0 : x - (own[k][i] ?? 0))));
    const misfit = 100 * Math.sqrt(off.reduce((s, x) => s + x * x, 0) / Math.max(1, off.length));
    return [{ mistake, misfit, own: wanted.flatMap(([k]) => own[k]) }];
  });
  const grouped: { own: number[]; told: Explanation }[] = [];
  for (const { mistake, misfit, own } of all) {
    const known = grouped.find(
      (g) =>
        g.told.kind === mistake.kind &&
        g.own.every((x, i) => x === own[i] || Math.abs(x - (own[i] ?? NaN)) < LOOKS_ALIKE),
    );
    if (known) {
      known.told.says.push(mistake.say);
      known.told.groups.push(...mistake.groups);
    } else
      grouped.push({
        own,
        told: {
          says: [mistake.say],
          kind: mistake.kind,
          groups: [...mistake.groups],
          misfitPercent: misfit,
          look: LOOK[mistake.kind],
        },
      });
  }
  return grouped.map((g) => g.told).sort((a, b) => a.misfitPercent - b.misfitPercent || a.says.length - b.says.length);
}
