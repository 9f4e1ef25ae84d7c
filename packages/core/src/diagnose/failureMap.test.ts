import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { burntDeveloped, burntRing } from '../drawing/burntWinding.ts';
import { developedFrame, developedPlace, developedWinding } from '../drawing/developed.ts';
import { drawingToSvg } from '../drawing/shapes.ts';
import { slotRing } from '../drawing/slotRing.ts';
import { connect } from '../winding/connection.ts';
import { layoutOf } from '../winding/layout.ts';
import { WORST_AT } from './burntPattern.ts';
import { coilsOfMap, placesOf, readMarks, readPins, sayMarks, sayPins, sayRuns, type CoilMark } from './failureMap.ts';

const layout = layoutOf({
  slots: 36,
  poles: 4,
  layers: 2,
  form: 'lap',
  poleGroups: 'every-pole',
  spanSlots: 7,
  turns: [1],
  kind: 'three-phase',
});
const wye = connect(layout, { connection: 'wye', circuits: 1, jumper: 'adjacent-pole', leads: 3 });
const delta = connect(layout, { connection: 'delta', circuits: 1, jumper: 'adjacent-pole', leads: 3 });

describe('marks of the old winding as text', () => {
  it('runs of coils, the worst first, with the place', () => {
    expect(sayRuns([7, 1, 3, 2, 2])).toBe('1-3, 7');
    expect(sayRuns([])).toBe('');
    expect(
      sayMarks([
        { coil: 5, damage: 2 },
        { coil: 6, damage: 2 },
        { coil: 4, damage: 3, worst: 'end turn' },
        { coil: 9, damage: 2, worst: 'slot middle' },
        { coil: 1, damage: 0 },
        { coil: 12, damage: 1 },
      ]),
    ).toBe('4 destroyed at end turn; 9 burnt at slot middle; 5-6 burnt; 12 discoloured');
  });
  it('is read as a person writes it: runs with any dash, capitals, blanks, trailing semicolon', () => {
    expect(readMarks(' 1 – 3,7 Burnt ;4 DESTROYED at End turn;')).toEqual({
      marks: [
        { coil: 1, damage: 2 },
        { coil: 2, damage: 2 },
        { coil: 3, damage: 2 },
        { coil: 4, damage: 3, worst: 'end turn' },
        { coil: 7, damage: 2 },
      ],
      problems: [],
    });
    expect(readMarks('')).toEqual({ marks: [], problems: [] });
  });
  it('what is said last of a coil counts, and "none" takes it back', () => {
    expect(readMarks('1-4 burnt; 2 discoloured; 3 none').marks).toEqual([
      { coil: 1, damage: 2 },
      { coil: 2, damage: 1 },
      { coil: 4, damage: 2 },
    ]);
  });
  it.each([
    ['4', /not understood.*4 destroyed at end turn/],
    ['4 charred', /"4 charred" is not understood/],
    ['4 burnt at the moon', /Where: slot middle, slot end, end turn, lead, phase boundary/],
    ['burnt', /not understood/],
    ['7-3 burnt', /"7-3" is no coil/],
    ['0 burnt', /"0" is no coil/],
    ['1, , 2 burnt', /"" is no coil/],
    ['1000 burnt', /no coil/],
  ])('%s is refused in words', (text, says) => {
    const { problems } = readMarks(text);
    expect(problems).toHaveLength(1);
    expect(problems[0]).toMatch(says);
  });
  it('reading gives back what was said, for any marks', () => {
    const mark = fc.record({
      coil: fc.integer({ min: 1, max: 999 }),
      damage: fc.integer({ min: 1, max: 3 }),
      worst: fc.option(fc.constantFrom(...WORST_AT), { nil: undefined }),
    });
    fc.assert(
      fc.property(fc.uniqueArray(mark, { selector: (m) => m.coil, maxLength: 60 }), (marks) => {
        const plain: CoilMark[] = marks.map(({ worst, ...m }) => (worst ? { ...m, worst } : m));
        expect(readMarks(sayMarks(plain))).toEqual({
          marks: plain.sort((a, b) => a.coil - b.coil),
          problems: [],
        });
      }),
    );
  });
});

describe('pins of photographs as text', () => {
  it('says and reads place, words and photograph; brackets and line breaks do not break it', () => {
    const pins = [
      { slot: 5, along: 0.4, says: 'bead between wires', photograph: 2 },
      { slot: 12, along: 1, says: 'liner short' },
    ];
    expect(sayPins(pins)).toBe('slot 5 at 40 %: bead between wires [photograph 2]\nslot 12 at 100 %: liner short');
    expect(readPins(sayPins(pins))).toEqual(pins);
    expect(readPins(sayPins([{ slot: 1, along: 0, says: 'a [b]\nc' }]))).toEqual([
      { slot: 1, along: 0, says: 'a  b  c' },
    ]);
  });
  it('a line that is no pin is passed over', () => {
    expect(readPins('slot 5 at 101 %: x\nslot 0 at 1 %: x\nhere\nslot 3 at 5 %:\n')).toEqual([
      { slot: 3, along: 0.05, says: '' },
    ]);
  });
});

describe('the map on the winding', () => {
  it('first coil at the line and last at the star point, along each circuit; in delta both ends are lines', () => {
    const places = placesOf(layout, wye);
    const ends = (which: string) => [...places].filter(([, p]) => p === which).map(([c]) => c);
    expect(ends('line end')).toHaveLength(3);
    expect(ends('neutral end')).toHaveLength(3);
    expect(places.size).toBe(36);
    for (const circuit of wye.circuits) {
      const [first] = circuit.steps;
      const group = layout.groups.find((g) => g.number === first?.group);
      const coil = first?.enter.endsWith('F') ? group?.coils.at(-1) : group?.coils[0];
      expect(places.get(coil ?? 0)).toBe('line end');
      const last = circuit.steps.at(-1);
      const other = layout.groups.find((g) => g.number === last?.group);
      const lastCoil = last?.enter.endsWith('F') ? other?.coils[0] : other?.coils.at(-1);
      expect(places.get(lastCoil ?? 0)).toBe('neutral end');
    }
    const inDelta = [...placesOf(layout, delta).values()];
    expect(inDelta.filter((p) => p === 'line end')).toHaveLength(6);
    expect(inDelta).not.toContain('neutral end');
    expect(placesOf(layout, undefined).size).toBe(0);
  });
  it('every coil with phase, group, place and damage; only the groups that were looked at', () => {
    const all = coilsOfMap(layout, wye, [{ coil: 2, damage: 3, worst: 'lead' }]);
    expect(all).toHaveLength(36);
    expect(all[1]).toMatchObject({ coil: 2, damage: 3, worst: 'lead', group: 1, phase: 'A' });
    expect(all[2]).toMatchObject({ coil: 3, damage: 0 });
    expect(all[2]).not.toHaveProperty('worst');
    expect(coilsOfMap(layout, wye, [], [])).toHaveLength(36);
    const some = coilsOfMap(layout, undefined, [], [2, 5]);
    expect([...new Set(some.map((c) => c.group))]).toEqual([2, 5]);
    expect(some[0]).not.toHaveProperty('place');
  });
});

describe('the map as drawings', () => {
  const marks: CoilMark[] = [
    { coil: 1, damage: 1 },
    { coil: 2, damage: 2 },
    { coil: 3, damage: 3 },
  ];
  const bad = (drawing: ReturnType<typeof burntRing>, coil: number) =>
    drawing.shapes.filter((s) => s.role === 'bad' && s.of?.includes(`coil:${coil}`));
  it('both sides of a damaged coil on the ring, thicker the worse, a number for the letter', () => {
    const ring = burntRing(layout, marks);
    expect([1, 2, 3].map((c) => bad(ring, c).length)).toEqual([2, 2, 2]);
    expect(bad(ring, 4)).toEqual([]);
    const [w1, w2, w3] = [1, 2, 3].map((c) => bad(ring, c)[0]?.weight ?? 0);
    expect([(w1 ?? 0) < (w2 ?? 0), (w2 ?? 0) < (w3 ?? 0)]).toEqual([true, true]);
    // discoloured keeps the phase's colour under its line
    expect(bad(ring, 1)[0]).not.toHaveProperty('fill');
    expect(bad(ring, 2)[0]).toHaveProperty('fill', 'tint');
    const letters = ring.shapes.filter(
      (s) => s.kind === 'text' && s.of?.includes('coil:3') && s.of[0]?.startsWith('slot'),
    );
    expect(letters.map((s) => (s.kind === 'text' ? s.text : ''))).toEqual(['3', '3']);
    expect(ring.title).toMatch(/3 damaged coils/);
    expect(burntRing(layout, []).shapes).toEqual(slotRing({ slots: 36, layout }).shapes);
  });
  it('unrolled: damaged coils over the others, pins numbered where they are', () => {
    const drawing = burntDeveloped(layout, marks, [{ slot: 5, along: 0.25, says: 'x' }], { width: 700 });
    const plain = developedWinding(layout, { width: 700 });
    expect(drawing.shapes.slice(0, plain.shapes.length)).toEqual(plain.shapes);
    const own = bad(drawing, 3).filter((s) => s.of?.find((o) => o.startsWith('coil:')) === 'coil:3');
    expect(own.map((s) => s.weight)).toEqual(own.map(() => 0.6 + 0.7 * 3));
    expect(own.length).toBeGreaterThan(0);
    const pin = drawing.shapes.find((s) => s.kind === 'circle');
    expect(pin).toMatchObject({ of: ['pin:1'] });
    if (pin?.kind !== 'circle') throw new Error('no pin');
    expect(developedPlace(layout, pin, 700)).toEqual({ slot: 5, along: expect.closeTo(0.25, 9) });
    expect(drawingToSvg(drawing)).not.toMatch(/NaN/);
  });
  it('a touched place is the slot under it, its ends clamped to the core', () => {
    const { left, pitch, top, bottom } = developedFrame(layout, 700);
    expect(developedPlace(layout, { x: left + 0.5 * pitch, y: bottom }, 700)).toEqual({ slot: 1, along: 0 });
    expect(developedPlace(layout, { x: left + 35.5 * pitch, y: top }, 700)).toEqual({ slot: 36, along: 1 });
    expect(developedPlace(layout, { x: -50, y: 1e4 }, 700)).toEqual({ slot: 1, along: 0 });
    expect(developedPlace(layout, { x: 1e4, y: -1 }, 700)).toEqual({ slot: 36, along: 1 });
  });
});
