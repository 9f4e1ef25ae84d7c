import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { asTicked, connectionRing } from '../drawing/connectionRing.ts';
import { asLinkedToRun, connect } from '../winding/connection.ts';
import { leadMark } from '../winding/leadMarks.ts';
import { EXAMPLE_RECORD } from '../winding/exampleRecord.ts';
import { connectionOfRecord } from '../winding/connectionOfRecord.ts';
import { jointsOf } from './joints.ts';
import { networkOf, signatureOf } from './network.ts';
import { JOINT_KINDS, jointClassWarning, jointList, jointTable } from './jointList.ts';

const made = connectionOfRecord(EXAMPLE_RECORD);
if (!made.connection) throw new Error(made.why);
const { layout, connection } = made;

describe('the list of joints', () => {
  it('jumpers first or leads first; the same joints either way, each once', () => {
    const jumpers = jointList(connection, 'jumpers first');
    const leads = jointList(connection, 'leads first');
    expect(jumpers.map((j) => j.what).slice(0, 6)).toEqual(new Array(6).fill('jumper'));
    expect(leads.map((j) => j.what).slice(0, 3)).toEqual(['lead', 'lead', 'lead']);
    expect(new Set(leads.map((j) => j.key))).toEqual(new Set(jumpers.map((j) => j.key)));
    expect(new Set(jumpers.map((j) => j.key)).size).toBe(jumpers.length);
  });
  it('holds every end of every group once', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('wye' as const, 'delta' as const),
        fc.constantFrom(1, 2, 4),
        fc.constantFrom(3 as const, 6 as const),
        fc.constantFrom('adjacent-pole' as const, 'skip-pole' as const),
        (kind, circuits, leads, jumper) => {
          const c = connect(layout, { connection: kind, circuits, leads, jumper });
          const ends = jointList(c, 'jumpers first').flatMap((j) => j.ends.filter((e) => /^\d+[SF]$/.test(e)));
          const all = layout.groups.flatMap((g) => [`${g.number}S`, `${g.number}F`]);
          expect([...ends].sort()).toEqual([...all].sort());
        },
      ),
    );
  });
  it('goes out as a table in the marks of the reader’s school', () => {
    const table = jointTable(jointList(connection, 'leads first'), (n) => leadMark(n, 'U'));
    expect(table[0]).toEqual(['number', 'what', 'phase', 'ends', 'groups']);
    expect(table[1]?.[3]).toMatch(/^U1 - /);
    expect(table).toHaveLength(jointList(connection, 'leads first').length + 1);
    expect(table.slice(1).map((r) => r[0])).toEqual(table.slice(1).map((_, i) => i + 1));
  });
  it('warns of soft solder, harder where the class is hot, and of nothing else', () => {
    for (const kind of JOINT_KINDS)
      for (const letter of ['B', 'H', undefined])
        expect(jointClassWarning(kind, letter) !== undefined).toBe(kind === 'solder');
    expect(jointClassWarning('solder', 'H')).toMatch(/class H winding runs hot/);
    expect(jointClassWarning('solder', 'B')).toMatch(/melting point counts as a member/);
  });
});

describe('the drawing follows the ticks', () => {
  const ring = connectionRing(layout, connection, {});
  const weightsOf = (mark: string, marks: string[]) =>
    asTicked(ring, new Set(marks), { made: marks.length, all: 15 })
      .shapes.filter((s) => s.kind !== 'text' && s.kind !== 'circle' && s.of?.includes(mark))
      .map((s) => s.weight);
  it('made joints are heavy, others thin, in either order of their ends', () => {
    const jumper = connection.jumpers[0];
    if (!jumper) throw new Error('no jumper');
    const drawn = ring.shapes
      .flatMap((s) => s.of ?? [])
      .find((o) => o === `jumper:${jumper.from}-${jumper.to}` || o === `jumper:${jumper.to}-${jumper.from}`);
    if (!drawn) throw new Error('not drawn');
    for (const said of [`jumper:${jumper.from}-${jumper.to}`, `jumper:${jumper.to}-${jumper.from}`])
      expect(new Set(weightsOf(drawn, [said]))).toEqual(new Set([2]));
    expect(new Set(weightsOf(drawn, []))).toEqual(new Set([0.6]));
    expect(new Set(weightsOf('lead:T1', ['lead:T1']))).toEqual(new Set([2]));
    expect(new Set(weightsOf('lead:T2', ['lead:T1']))).toEqual(new Set([0.6]));
  });
  it('groups and words stay as they are; the title says how many', () => {
    const ticked = asTicked(ring, new Set(), { made: 0, all: 15 });
    expect(ticked.title).toMatch(/0 of 15 joints made/);
    expect(ticked.shapes.filter((s) => s.kind === 'text')).toEqual(ring.shapes.filter((s) => s.kind === 'text'));
    expect(ticked.shapes).toHaveLength(ring.shapes.length);
  });
});

describe('leads linked to run', () => {
  const of = (leads: 3 | 6 | 9 | 12, kind: 'wye' | 'delta', circuits: number) =>
    connect(layout, { connection: kind, circuits, leads, jumper: 'adjacent-pole' });
  const lineOhms = (c: typeof connection, links: string[]) =>
    signatureOf(networkOf(layout, [...jointsOf(c), ...links.map((l) => l.split('-'))]), ['T1', 'T2', 'T3']).resistance;
  it.each([
    ['six leads in delta', 6, 'delta', 2, ['T1-T6', 'T2-T4', 'T3-T5']],
    ['six leads in wye', 6, 'wye', 1, ['T4-T5-T6']],
    ['nine leads wye, low voltage', 9, 'wye', 1, ['T1-T7', 'T2-T8', 'T3-T9', 'T4-T5-T6']],
    ['twelve leads delta, low voltage', 12, 'delta', 1, ['T1-T6-T7-T12', 'T2-T4-T8-T10', 'T3-T5-T9-T11']],
  ] as const)('%s read as the three-lead winding they are linked to', (_, leads, kind, circuits, links) => {
    const drawn = of(leads, kind, circuits);
    const linked = asLinkedToRun(layout, drawn);
    if (!linked) throw new Error('not linked');
    expect(linked.leads).toBe(3);
    const own = lineOhms(drawn, [...links]);
    lineOhms(linked, []).forEach((r, i) => expect(r).toBeCloseTo(own[i] ?? NaN, 9));
  });
  it('a part-winding start has no one running connection; three leads are themselves', () => {
    const two = connect(layout, {
      connection: 'wye',
      circuits: 1,
      leads: 6,
      partWinding: true,
      jumper: 'adjacent-pole',
    });
    expect(asLinkedToRun(layout, two)).toBeUndefined();
    expect(asLinkedToRun(layout, connection)).toBe(connection);
  });
});
