import { describe, expect, it } from 'vitest';
import { worked } from '../../../../scripts/testing/worked.ts';
import { connect, type Connection, type ConnectionChoice } from '../winding/connection.ts';
import { layoutOf } from '../winding/layout.ts';
import type { Layout, LayoutInput } from '../winding/layoutTypes.ts';
import { checkConnection, usesOf, windingNetworkCheck, type NetworkVerdict } from './check.ts';
import { jointsOf, type Joint } from './joints.ts';
import { bypassed, exchanged, openedCircuit, phaseReversed, reversed } from './mistakes.ts';
import { networkOf, signatureOf } from './network.ts';

const made = (input: Partial<LayoutInput>, choice: Partial<ConnectionChoice>) => {
  const layout = layoutOf({
    layers: 2,
    form: 'lap',
    poleGroups: 'every-pole',
    turns: [10],
    slots: 12,
    poles: 2,
    spanSlots: 5,
    ...input,
  } as LayoutInput);
  const connection = connect(layout, {
    connection: 'wye',
    circuits: 1,
    jumper: 'adjacent-pole',
    leads: 3,
    ...choice,
  } as ConnectionChoice);
  return { layout, connection };
};
/**
 * star: 1F-4F, 3F-6F, 5F-2F, T1-1S, T2-3S, T3-5S, Y-4S-6S-2S
 * delta: two circuits a side, T1-1S-7S-8S-2S, T2-3S-9S-4S-10S, T3-5S-11S-6S-12S
 * nine: nine leads, T1-1S, T4-4S, T7-7S, … , Y-10S-12S-2S
 */
const WINDINGS = {
  star: made({}, {}),
  delta: made({ slots: 24, poles: 4 }, { connection: 'delta', circuits: 2 }),
  nine: made({ slots: 24, poles: 4 }, { leads: 9 }),
};
type Name = keyof typeof WINDINGS;
type Slip = (joints: Joint[], connection: Connection) => Joint[];

const renamed = (joints: readonly Joint[], names: Record<string, string>): Joint[] =>
  joints.map((j) => j.map((e) => names[e] ?? e));
const swap =
  (a: string, b: string): Slip =>
  (j) =>
    renamed(j, { [a]: b, [b]: a });
const drop =
  (...ends: string[]): Slip =>
  (j) =>
    j.map((x) => x.filter((e) => !ends.includes(e)));
const move =
  (end: string, to: string): Slip =>
  (j) =>
    drop(end)(j, WINDINGS.star.connection).map((x) => (x.includes(to) ? [...x, end] : x));
const join =
  (a: string, b: string): Slip =>
  (j) => {
    const both = j.filter((x) => x.includes(a) || x.includes(b));
    return [...j.filter((x) => !both.includes(x)), both.flat()];
  };
const turn =
  (...groups: number[]): Slip =>
  (j) =>
    groups.reduce<Joint[]>((made, g) => reversed(made, g), j);
const without =
  (end: string): Slip =>
  (j) =>
    j.filter((x) => !x.includes(end));

interface Told {
  kind: string;
  groups: number[];
  ends: string[];
  message: string;
}
const told = (kind: string, groups: number[], ends: string[], message: string): Told => ({
  kind,
  groups,
  ends,
  message,
});
const grouped = (g: number): Told =>
  told('reversed group', [g], [`${g}S`, `${g}F`], `Group ${g} is reversed in its circuit: exchange ${g}S and ${g}F.`);
const nowhere = (g: number): Told =>
  told('bypassed group', [g], [`${g}S`, `${g}F`], `Group ${g} is joined nowhere: both its ends are free.`);
const open = (end: string, phase: string): Told =>
  told(
    'open',
    [Number.parseInt(end, 10)],
    [end],
    `Open: ${end} is joined to nothing; phase ${phase} is interrupted there.`,
  );
const bare = (lead: string): Told => told('open', [], [lead], `Open: lead ${lead} is joined to no group.`);
const BACKWARDS =
  'The phases follow each other the wrong way round: the motor would turn backwards. Exchange any two leads.';

const SLIPS: [Name, string, Slip, NetworkVerdict, Told[]][] = [
  ['star', 'group 1 turned', turn(1), 'wrong', [grouped(1)]],
  ['star', 'group 4 turned', turn(4), 'wrong', [grouped(4)]],
  ['star', 'groups 1 and 2 turned', turn(1, 2), 'wrong', [grouped(1), grouped(2)]],
  ['star', 'group 2 passed by', (j) => bypassed(j, 2), 'wrong', [nowhere(2)]],
  ['star', 'group 2 not joined', drop('2S', '2F'), 'not finished', [nowhere(2), open('5F', 'C')]],
  [
    'star',
    'groups 1 and 2 exchanged',
    (j) => exchanged(j, 1, 2),
    'wrong',
    [told('swapped phase', [1, 2], [], "Groups 1 and 2 lie in each other's place.")],
  ],
  [
    'star',
    'phase A turned',
    (j, c) => phaseReversed(j, c, 'A'),
    'wrong',
    [
      told(
        'phase reversed',
        [1, 4],
        ['1S', '4S'],
        'The circuit of groups 1, 4 is turned as a whole: exchange its outer ends 1S and 4S. Phase A is reversed as a whole.',
      ),
    ],
  ],
  [
    'star',
    'phase B not at its lead',
    (j, c) => openedCircuit(j, c, 'B', 1),
    'wrong',
    [told('open', [3], ['3S', 'T2'], 'Open: 3S is joined to nothing; it belongs to T2.')],
  ],
  [
    'star',
    'T1 and T2 exchanged',
    swap('T1', 'T2'),
    'wrong',
    [told('wrong rotation', [], ['T1', 'T2', 'T3'], BACKWARDS)],
  ],
  [
    'star',
    '1S and 2S exchanged',
    swap('1S', '2S'),
    'wrong',
    [told('ends exchanged', [1, 2], ['1S', '2S'], 'The ends 1S and 2S are exchanged.')],
  ],
  [
    'star',
    '1F and 3S exchanged',
    swap('1F', '3S'),
    'wrong',
    [told('ends exchanged', [1, 3], ['1F', '3S'], 'The ends 1F and 3S are exchanged.')],
  ],
  [
    'star',
    '1F free',
    drop('1F'),
    'not finished',
    [told('open', [1, 4], ['1F', '4F'], 'Open: 1F is joined to nothing; it belongs to 4F.')],
  ],
  [
    'star',
    'T1 not joined',
    without('T1'),
    'not finished',
    [told('open', [1], ['1S', 'T1'], 'Open: 1S is joined to nothing; it belongs to T1.')],
  ],
  [
    'star',
    'T1 on the star',
    join('T1', 'Y'),
    'wrong',
    [told('wrong star or delta', [], ['T1', 'Y'], 'Lead T1 is joined to the star.')],
  ],
  [
    'star',
    'two jumpers on each other',
    join('1F', '2F'),
    'wrong',
    [
      told(
        'phase joined to phase',
        [1, 4, 2, 5],
        ['1F', '4F', '2F', '5F'],
        '1F-4F and 2F-5F are joined together where no joint belongs.',
      ),
    ],
  ],
  [
    'star',
    '1F on another joint',
    move('1F', '2F'),
    'wrong',
    [told('end elsewhere', [1], ['1F'], '1F is joined to 2F-5F; it belongs to 4F.')],
  ],
  [
    'star',
    'T1 on a jumper',
    move('T1', '1F'),
    'wrong',
    [told('end elsewhere', [], ['T1'], 'T1 is joined to 1F-4F; it belongs to 1S.')],
  ],
  [
    'star',
    'group 1 shorted',
    join('1S', '1F'),
    'wrong',
    [
      told(
        'phase joined to phase',
        [1, 4],
        ['1S', 'T1', '1F', '4F'],
        '1S-T1 and 1F-4F are joined together where no joint belongs.',
      ),
    ],
  ],
  [
    'star',
    'three groups turned',
    turn(1, 2, 3),
    'wrong',
    [
      told(
        'differs',
        [],
        [],
        'More than two things differ from the drawing, 3 circuits of it are not there. As made: T1 – 1− 4− – Y; T2 – 3− 6− – Y; T3 – 5+ 2+ – Y.',
      ),
    ],
  ],
  [
    'star',
    'nothing joined',
    () => [],
    'not finished',
    [...[1, 2, 3, 4, 5, 6].map(nowhere), ...['T1', 'T2', 'T3'].map(bare)],
  ],
  [
    'star',
    'jumpers only',
    (j) => j.slice(0, 3),
    'not finished',
    [
      ...(['1A', '2C', '3B', '4A', '5C', '6B'] as const).map((e) => open(`${e[0]}S`, e[1] ?? '')),
      ...['T1', 'T2', 'T3'].map(bare),
    ],
  ],
  [
    'star',
    'T1 not joined, group 2 turned',
    (j, c) => turn(2)(without('T1')(j, c), c),
    'wrong',
    [grouped(2), told('open', [1], ['1S', 'T1'], 'Open: 1S is joined to nothing; it belongs to T1.')],
  ],
  ['delta', 'group 1 turned', turn(1), 'wrong', [grouped(1)]],
  [
    'delta',
    'a circuit turned',
    (j) => exchanged(j, 1, 4),
    'wrong',
    [
      told(
        'circuit turned',
        [1, 4],
        ['1S', '4S'],
        'The circuit of groups 1, 4 is turned as a whole: exchange its outer ends 1S and 4S.',
      ),
    ],
  ],
  [
    'delta',
    'phase A turned',
    (j, c) => phaseReversed(j, c, 'A'),
    'wrong',
    [
      told(
        'phase reversed',
        [1, 4, 7, 10],
        ['1S', '4S', '7S', '10S'],
        'Phase A is reversed as a whole: its start and finish are exchanged.',
      ),
    ],
  ],
  ['delta', 'starts of one corner exchanged', swap('1S', '2S'), 'as drawn', []],
  [
    'delta',
    'T1 and T2 exchanged',
    swap('T1', 'T2'),
    'wrong',
    [told('wrong rotation', [], ['T1', 'T2', 'T3'], BACKWARDS)],
  ],
  [
    'delta',
    'a circuit off its corner',
    (j, c) => openedCircuit(j, c, 'B', 1),
    'wrong',
    [told('open', [3], ['3S'], 'Open: 3S is joined to nothing; it belongs to 4S-9S-10S-T2.')],
  ],
  [
    'delta',
    'T1 taken off',
    drop('T1'),
    'not finished',
    [told('open', [], ['T1'], 'Open: T1 is joined to nothing; it belongs to 1S-2S-7S-8S.')],
  ],
  [
    'delta',
    'a corner not made',
    without('T1'),
    'not finished',
    [open('1S', 'A'), open('2S', 'C'), open('7S', 'A'), open('8S', 'C'), bare('T1')],
  ],
  [
    'delta',
    'T1 on T2',
    join('T1', 'T2'),
    'wrong',
    [told('wrong star or delta', [], ['T1', 'T2'], 'Leads T1 and T2 are joined together.')],
  ],
  ['delta', 'group 2 passed by', (j) => bypassed(j, 2), 'wrong', [nowhere(2)]],
  [
    'nine',
    'T1 and T2 exchanged',
    swap('T1', 'T2'),
    'wrong',
    [told('leads exchanged', [], ['T1', 'T2'], 'Leads T1 and T2 are exchanged.')],
  ],
  [
    'nine',
    'a half between its two leads turned',
    (j) => exchanged(j, 1, 4),
    'wrong',
    [told('leads exchanged', [1, 4], ['T1', 'T4'], 'Leads T1 and T4 are exchanged.')],
  ],
  [
    'nine',
    'both halves of a phase turned',
    (j, c) => phaseReversed(j, c, 'A'),
    'wrong',
    [
      told('leads exchanged', [1, 4], ['T1', 'T4'], 'Leads T1 and T4 are exchanged.'),
      told(
        'phase reversed',
        [7, 10],
        ['7S', '10S'],
        'The circuit of groups 7, 10 is turned as a whole: exchange its outer ends 7S and 10S. Phase A is reversed as a whole.',
      ),
    ],
  ],
  [
    'nine',
    'all marks of one phase on another',
    (j) => renamed(j, { T1: 'T2', T2: 'T1', T4: 'T5', T5: 'T4', T7: 'T8', T8: 'T7' }),
    'wrong',
    [
      told(
        'wrong rotation',
        [],
        ['T1', 'T4', 'T7', 'T2', 'T5', 'T8', 'T3', 'T6', 'T9'],
        'The phases follow each other the wrong way round: the motor would turn backwards. Exchange any two line leads, or the marks of any two phases: T1 T4 T7 and T2 T5 T8 for one.',
      ),
    ],
  ],
];

const checked = (name: Name, slip: Slip) => {
  const { layout, connection } = WINDINGS[name];
  return checkConnection(layout, connection, slip(jointsOf(connection), connection));
};
describe('a slip is named as it was made', () => {
  it.each(SLIPS)('%s, %s', (name, _, slip, verdict, findings) => {
    const found = checked(name, slip);
    expect(found.verdict).toBe(verdict);
    expect(found.findings.map(({ oneOf: _one, ...f }) => f)).toEqual(findings);
  });
  it('two that the joints cannot tell apart are both told', () => {
    const { findings } = checked('delta', (j) => exchanged(j, 1, 2));
    expect(findings).toEqual([
      {
        kind: 'ends exchanged',
        groups: [1, 2],
        ends: ['1F', '2F'],
        message:
          'One of these: the ends 1F and 2F are exchanged; or the ends 4F and 11F are exchanged. The joints alone do not tell which: look at them, or take the readings.',
        oneOf: [
          { groups: [1, 2], ends: ['1F', '2F'] },
          { groups: [4, 11], ends: ['4F', '11F'] },
        ],
      },
    ]);
  });
  it.each(['star', 'delta', 'nine'] as const)(
    '%s: joints in any order, ends in any order, split as hands do it',
    (name) => {
      const split: Slip = (j) =>
        [...j].reverse().flatMap((x) => (x.length > 3 ? [x.slice(0, 2), x.slice(1)] : [[...x].reverse()]));
      expect(checked(name, split)).toMatchObject({ verdict: 'as drawn', findings: [] });
    },
  );
});

describe('finished or not', () => {
  // twelve groups: up to three ends may hang loose before it counts as work under way
  it.each([
    ['one jumper open: two ends', without('1F'), 'wrong'],
    [
      'a jumper and an end of the star: three ends',
      (j: Joint[], c: Connection) => drop('2S')(without('1F')(j, c), c),
      'wrong',
    ],
    ['two jumpers: four ends', (j: Joint[], c: Connection) => without('3F')(without('1F')(j, c), c), 'not finished'],
    ['a lead not yet there', without('T9'), 'not finished'],
  ] as [string, Slip, NetworkVerdict][])('%s', (_, slip, verdict) =>
    expect(checked('nine', slip).verdict).toBe(verdict),
  );
});

describe('what it would show', () => {
  it('as drawn every ratio is one; with a group turned voltage falls and resistance stays', () => {
    const right = checked('star', (j) => j).signatures;
    expect(right).toHaveLength(1);
    expect(right[0]?.use).toBe('as connected');
    expect(right[0]?.pairs).toEqual([
      ['T1', 'T2'],
      ['T2', 'T3'],
      ['T3', 'T1'],
    ]);
    for (const kind of ['resistance', 'voltage', 'frequency', 'current'] as const)
      for (const x of right[0]?.[kind] ?? []) expect(x).toBeCloseTo(1, 9);
    const turned = checked('star', turn(1)).signatures[0];
    for (const x of turned?.resistance ?? []) expect(x).toBeCloseTo(1, 9);
    const { layout, connection } = WINDINGS.star;
    const [good, bad] = [jointsOf(connection), reversed(jointsOf(connection), 1)].map((j) =>
      signatureOf(networkOf(layout, j)),
    );
    turned?.voltage.forEach((x, i) => expect(x).toBeCloseTo((bad?.voltage[i] ?? 0) / (good?.voltage[i] ?? 1), 9));
    // a wave is the faster, the smaller the inductance
    turned?.frequency.forEach((x, i) =>
      expect(x).toBeCloseTo(Math.sqrt((good?.inductance[i] ?? 0) / (bad?.inductance[i] ?? 1)), 9),
    );
    turned?.current.forEach((x, i) => expect(x).toBeCloseTo((bad?.current[i] ?? 0) / (good?.current[i] ?? 1), 9));
  });
  it('nine leads come in four ways of linking, each with its own figures', () => {
    const uses = checked('nine', turn(1)).signatures.map((s) => s.use);
    expect(uses).toEqual(WINDINGS.nine.connection.links.map((l) => l.use));
    expect(uses).toContain('high voltage (series)');
    expect(new Set(uses).size).toBe(4);
  });
  it('an open phase reads −1 where nothing can be read', () => {
    const { example } = windingNetworkCheck;
    const opened = worked(windingNetworkCheck, { ...example, joints: String(example.joints).replace('T1-1S, ', '') });
    const [s] = opened.signatures;
    expect(s?.resistance.map((x) => Math.round(x * 1e9) / 1e9)).toEqual([-1, 1, -1]);
    expect(s?.current[0]).toBe(0);
    expect(s?.frequency.map((x) => Math.sign(x))).toEqual([-1, 1, -1]);
    expect(worked(windingNetworkCheck, { ...example, joints: '1F-4Q' }).problems).toHaveLength(1);
  });
});

describe('ways the leads are linked', () => {
  it('three leads: the line itself', () =>
    expect(usesOf(WINDINGS.star.layout, WINDINGS.star.connection)).toEqual([
      { row: undefined, lines: ['T1', 'T2', 'T3'], joints: [], poles: 2 },
    ]));
  it('nine leads: lines and links of each row of the table', () => {
    const { layout, connection } = WINDINGS.nine;
    usesOf(layout, connection).forEach((use, i) => {
      const row = connection.links[i];
      expect(use.row).toBe(row);
      expect(use.lines).toEqual(row?.lines.map((l) => l.split('-')[0]));
      const many = (row?.lines ?? []).filter((l) => l.includes('-')).map((l) => l.split('-'));
      expect(use.joints).toEqual([...many, ...(row?.links ?? []).map((l) => l.split('-'))]);
      expect(use.poles).toBe(4);
    });
    expect(connection.links.some((r) => r.lines.some((l) => l.includes('-')))).toBe(true);
  });
  it('two speeds: the second row has half the poles', () => {
    const two: Layout = { ...WINDINGS.nine.layout, kind: 'two-speed', poles: 8 };
    expect(usesOf(two, WINDINGS.nine.connection).map((u) => u.poles)).toEqual([8, 4, 8, 8]);
  });
  it('single-phase: main and auxiliary', () => {
    const single: Layout = { ...WINDINGS.star.layout, kind: 'single-phase' };
    expect(usesOf(single, WINDINGS.star.connection)).toEqual([
      { row: undefined, lines: ['U1', 'U2', 'Z1', 'Z2'], joints: [], poles: 2 },
    ]);
  });
});
