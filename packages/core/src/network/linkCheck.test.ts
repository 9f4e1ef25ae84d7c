import { describe, expect, it } from 'vitest';
import { runCalculation } from '../calculation.ts';
import { connect, type ConnectionChoice } from '../winding/connection.ts';
import { layoutOf } from '../winding/layout.ts';
import { checkLink, readLink, windingLinkCheck } from './linkCheck.ts';

const layout = layoutOf({
  slots: 24,
  poles: 4,
  layers: 2,
  form: 'lap',
  poleGroups: 'every-pole',
  spanSlots: 5,
  turns: [10],
});
const drawn = (choice: Partial<ConnectionChoice>) =>
  connect(layout, { connection: 'wye', circuits: 1, jumper: 'adjacent-pole', leads: 9, ...choice });
const LEADS = Array.from({ length: 12 }, (_, i) => `T${i + 1}`);
const sets = (text: string) => text.split(' ').map((joint) => joint.split('-'));
const boxes = (lines: string[], joined = '') => readLink(lines, joined, LEADS);

describe('a link of the leads as made', () => {
  it.each([
    [6, 'wye'],
    [6, 'delta'],
    [9, 'wye'],
    [9, 'delta'],
    [12, 'delta'],
  ] as const)(
    'every use of the table fits itself with %i leads, %s, and turns backwards with two lines exchanged',
    (leads, connection) => {
      const made = drawn({ leads, connection });
      expect(made.links.length).toBeGreaterThan(0);
      for (const row of made.links) {
        const lines = row.lines.map((l) => l.split('-'));
        const links = row.links.map((l) => l.split('-'));
        expect(checkLink(layout, made, lines, links).verdict, row.use).toBe('fits');
        const [a, b, c] = lines as [string[], string[], string[]];
        expect(checkLink(layout, made, [b, a, c], links).verdict, row.use).toBe('backwards');
        // the lines one on turn the same way
        expect(checkLink(layout, made, [b, c, a], links).verdict, row.use).toBe('fits');
      }
    },
  );
  it.each([
    ['T1 T2 T3', 'T4-T7 T5-T8', /open/i],
    ['T1 T2 T3', 'T1-T2', /short/i],
    ['T1-T8 T2-T7 T3-T9', 'T4-T5-T6', /loop|not see the same/],
    ['T1 T2 T3', 'T4-T8 T5-T7 T6-T9', /not see the same/],
  ])('%s with %s is wrong', (lines, links, why) => {
    const found = checkLink(layout, drawn({}), sets(lines), sets(links));
    expect(found.verdict).toBe('wrong');
    expect(found.messages.join(' ')).toMatch(why);
  });
  it('an equal winding that is no use of the table is said to be none', () => {
    // the outer halves hang open: what is left is the half with the inner star
    const half = checkLink(layout, drawn({}), sets('T1-T7 T2-T8 T3-T9'), []);
    expect(half).toMatchObject({ verdict: 'no listed use' });
    expect(half.messages[0]).toMatch(/part-winding start/);
    expect(half.messages[1]).toMatch(/T4, T5, T6; no use of the table leaves these so/);
    const six = checkLink(layout, drawn({ leads: 12 }), sets('T1 T2 T3'), sets('T4-T5-T6'));
    expect(six.verdict).toBe('no listed use');
    expect(six.messages[1]).toMatch(/Left open: T7, T8, T9, T10, T11, T12/);
  });
  it('both speeds of a pole-changing winding are known', () => {
    const two = layoutOf({
      slots: 36,
      poles: 8,
      layers: 2,
      form: 'lap',
      kind: 'two-speed',
      poleGroups: 'consequent',
      spanSlots: 5,
      turns: [10],
    });
    const made = connect(two, {
      connection: 'delta',
      circuits: 1,
      jumper: 'adjacent-pole',
      leads: 6,
      duty: 'constant torque',
    });
    for (const row of made.links) {
      const found = checkLink(
        two,
        made,
        row.lines.map((l) => l.split('-')),
        row.links.map((l) => l.split('-')),
      );
      expect(found).toMatchObject({ verdict: 'fits', use: row.use });
    }
    expect(checkLink(two, made, sets('T4 T5 T6'), sets('T1-T2-T3')).verdict).toBe('fits');
    expect(checkLink(two, made, sets('T5 T4 T6'), sets('T1-T2-T3')).verdict).toBe('backwards');
  });
  it('what stands in one box lies on one line, with dashes or without', () => {
    const plain = {
      lines: [
        ['T1', 'T7'],
        ['T2', 'T8'],
        ['T3', 'T9'],
      ],
      links: [['T4', 'T5', 'T6']],
    };
    expect(boxes(['T1-T7', 'T2-T8', 'T3-T9'], 'T4-T5-T6')).toEqual(plain);
    expect(boxes(['t1 t7', 'T2, T8', ' T3 – T9 '], 'T4 - T5 - T6')).toEqual(plain);
    expect(boxes(['T1', 'T2', 'T3'], 'T4-T7 T5-T8, T6-T9').links).toEqual([
      ['T4', 'T7'],
      ['T5', 'T8'],
      ['T6', 'T9'],
    ]);
  });
  it.each([
    [['T1', '', 'T3'], '', 'lines', /three lines/],
    [['T1', 'T13', 'T3'], '', 'lines', /T13 is no lead here/],
    [['T1', 'T2', 'T3'], 'T4-X', 'joined', /X is no lead here/],
    [['T1', 'T2', 'T2'], '', 'lines', /T2 stands twice/],
    [['T1', 'T2', 'T3'], 'T4-T4', 'joined', /T4 stands twice/],
    [['T1', 'T2', 'T3'], 'T3-T4', 'joined', /T3 stands twice/],
  ] as const)('on the lines %j, joined "%s": the fault is at %s', (lines, joined, field, sentence) => {
    const { problem } = boxes([...lines], joined);
    expect(problem?.field).toBe(field);
    expect(problem?.sentence).toMatch(sentence);
  });
  it('bad leads are named', () => {
    const run = (more: object) => runCalculation(windingLinkCheck, { ...windingLinkCheck.example, ...more } as never);
    expect(() => run({ lines: 'T1 T2' })).toThrow(/three lines/);
    expect(() => run({ lines: 'T1 T2 T13' })).toThrow(/T13 is no lead here/);
    expect(() => run({ joined: 'T1-T4' })).toThrow(/T1 stands twice/);
    expect(() => run({ leads: 3, lines: 'T1 T2 T3', joined: '' })).toThrow(/nothing to link/);
  });
});
