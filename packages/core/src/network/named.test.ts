import { describe, expect, it } from 'vitest';
import {
  checked,
  drop,
  join,
  move,
  renamed,
  swap,
  turn,
  without,
  type Name,
  type Slip,
} from '../../../../scripts/testing/slips.ts';
import type { Connection } from '../winding/connection.ts';
import type { NetworkVerdict } from './check.ts';
import type { Joint } from './joints.ts';
import { bypassed, exchanged, openedCircuit, phaseReversed } from './mistakes.ts';

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
