import { describe, expect, it } from 'vitest';
import { checkAlone } from '../../../../scripts/testing/recordChecks.ts';
import { chordM, LEAST_STRAIGHT_M, measuredLapEnd, measuredRoundEnd } from './endTurn.ts';
import { END_TURN_CHECKS } from './endTurnChecks.ts';
import { toothCoilOf, meanTurnInputSchema } from './copper.ts';
import { meanTurnInputOf } from './meanTurnOf.ts';
import { windingRecordSchema } from './record.ts';

const { said } = checkAlone(END_TURN_CHECKS);
const CORE = { boreM: 0.15, slotDepthM: 0.02, slots: 36 };
const layout = (form: string, spans: number[]) => ({ form, coils: spans.map((spanSlots) => ({ spanSlots })) });
/** Projection of the connection end, mm; a lap of span 8 unless said otherwise. */
const of = (mm: number | undefined, o: { form?: string; spans?: number[]; record?: object } = {}) =>
  said('end-turn', {
    record: { ...CORE, ...(mm === undefined ? {} : { extensionConnectionEndM: mm / 1000 }), ...o.record },
    layout: layout(o.form ?? 'lap', o.spans ?? [8]),
  });
const TAU = 1000 * chordM(0.15, 0.02, 8, 36);

describe('projection of the end turns', () => {
  it('the arc of eight slots of 36 on the middle of the slots is 118.7 mm', () =>
    expect(TAU).toBeCloseTo((Math.PI * 170 * 8) / 36, 1));
  it('one that fits is not remarked on', () => expect(of(TAU * 0.4)).toEqual([]));
  it.each([
    ['at a quarter of the arc', 0.25, 0],
    ['just below a quarter', 0.2499, 1],
    ['just above the whole arc', 1.001, 1],
  ])('lap, %s', (_, share, n) => {
    const lines = of(TAU * share).filter((l) => /mm is usual\. Is it of this end/.test(l));
    expect(lines).toHaveLength(n);
    for (const l of lines)
      expect(l).toMatch(
        /^W extensionConnectionEndM: A projection of [\d.]+ mm for an arc of 119 mm; 29\.7 to 119 mm is usual/,
      );
  });
  it('the whole arc itself is usual by that measure', () =>
    expect(of(TAU).some((l) => /is usual\. Is it of this end/.test(l))).toBe(false));
  it('one too short for straight and nose cannot be', () => {
    const least = 1000 * LEAST_STRAIGHT_M;
    const [line] = of(least);
    expect(line).toMatch(
      new RegExp(
        `^E extensionConnectionEndM: A projection of ${least} mm cannot be: a coil needs ${least} mm straight and 10 mm for its nose\\. Measure`,
      ),
    );
  });
  it('concentric: the innermost coil would stand inside the core', () => {
    const spans = [10, 8, 6];
    const [most, least] = [10, 6].map((s) => chordM(0.15, 0.02, s, 36)) as [number, number];
    const needed = (most - least) / 2;
    const x = needed + LEAST_STRAIGHT_M / 2;
    expect(measuredRoundEnd(x, least, most)).toBeUndefined();
    const [line] = of(1000 * x, { form: 'concentric', spans });
    expect(line).toMatch(/^E extensionConnectionEndM: .* the innermost coil of the group would stand ([\d.]+) mm out/);
    expect(Number(/stand ([\d.]+) mm out/.exec(line ?? '')?.[1])).toBeCloseTo(1000 * (x - needed), 1);
    expect(of(1000 * (needed + LEAST_STRAIGHT_M * 3), { form: 'concentric', spans })).toEqual([]);
  });
  it('concentric ends have no slant and no straight to remark on', () => {
    for (const share of [0.3, 0.6, 0.95]) expect(of(TAU * share, { form: 'concentric' })).toEqual([]);
  });
  it('lap: straight of more than half the arc, and slants outside 15 to 55°, exactly where the measured end has them', () => {
    const seen = { straight: 0, slant: 0, none: 0 };
    for (let share = 0.26; share < 0.999; share += 0.002) {
      const made = measuredLapEnd((TAU / 1000) * share, TAU / 1000);
      const [line = ''] = of(TAU * share);
      if (!made) continue;
      if (made.straightM > (0.5 * TAU) / 1000) {
        seen.straight += 1;
        expect(line).toMatch(
          /^W extensionConnectionEndM: .* of straight coil; more than half the arc \(119 mm\) is unusual\.$/,
        );
      } else if (made.slantDeg < 15 || made.slantDeg > 55) {
        seen.slant += 1;
        expect(line).toMatch(/^W extensionConnectionEndM: .* slant [\d.]+°; 15 to 55° is usual\.$/);
      } else {
        seen.none += 1;
        expect(line).toBe('');
      }
    }
    expect(seen.none).toBeGreaterThan(10);
    expect(seen.straight + seen.slant).toBeGreaterThan(10);
  });
  it('each end is measured for itself', () =>
    expect(
      of(TAU * 0.2, { record: { extensionOppositeEndM: (TAU * 0.21) / 1000 } }).map((l) => l.split(':')[0]),
    ).toEqual(['W extensionConnectionEndM', 'W extensionOppositeEndM']));
  it.each([
    ['tooth coils', { kind: 'tooth-coil' }],
    ['bars', { kind: 'bar-rotor' }],
    ['strip coils', { kind: 'form-wound' }],
    ['no bore', { boreM: undefined }],
    ['no slot depth', { slotDepthM: undefined }],
    ['no slots', { slots: undefined }],
  ])('is not asked with %s', (_, record) => expect(of(5, { record })).toEqual([]));
  it('is not asked without a layout, without coils, or without a projection', () => {
    expect(said('end-turn', { record: { ...CORE, extensionConnectionEndM: 0.005 } })).toEqual([]);
    expect(of(5, { spans: [] })).toEqual([]);
    expect(of(undefined)).toEqual([]);
  });
});

describe('coil round a tooth', () => {
  const TOOTH = {
    kind: 'tooth-coil',
    slots: 12,
    poles: 10,
    layers: 'double',
    turns: [40],
    strands: [{ count: 1, bareM: 0.8e-3, label: '' }],
    boreM: 0.06,
    coreLengthM: 0.05,
    slotDepthM: 0.02,
    toothWidthM: 0.009,
  };
  const room = (more: object = {}) => said('tooth-room', { record: { ...TOOTH, ...more } });
  const made = (turns: number) =>
    toothCoilOf(meanTurnInputSchema.parse(meanTurnInputOf(windingRecordSchema.parse({ ...TOOTH, turns: [turns] }))));
  it('says nothing while it fits, warns at the narrow end, refuses beyond the mean width', () => {
    const seen = new Set<string>();
    for (let turns = 5; turns < 260; turns += 5) {
      const coil = made(turns);
      if (!coil) continue;
      const [line = ''] = room({ turns: [turns] });
      if (coil.buildM > coil.roomM) {
        seen.add('E');
        expect(line).toMatch(
          new RegExp(
            `^E turns,strands,toothWidthM,slotDepthM: The coil builds [\\d.]+ mm \\(${coil.layers} layers of ${coil.wiresPerLayer} wires\\); [\\d.]+ mm fit the mean width of the slot`,
          ),
        );
      } else if (coil.buildM > coil.narrowRoomM) {
        seen.add('W');
        expect(line).toMatch(/^W turns,strands: .*at the narrow end of the slot [\d.]+ mm fit: step the layers\.$/);
      } else {
        seen.add('');
        expect(line).toBe('');
      }
    }
    expect(seen).toEqual(new Set(['', 'W', 'E']));
  });
  it('a projection shorter than the layers need is told, and which ends', () =>
    expect(room({ extensionConnectionEndM: 0.001, extensionOppositeEndM: 0.001 }).at(-1)).toMatch(
      /^W extensionConnectionEndM,extensionOppositeEndM: The measured projection is shorter than \d+ layers/,
    ));
  it('is asked of tooth coils that are measured', () => {
    expect(said('tooth-room', { record: { ...TOOTH, kind: 'three-phase', turns: [250] } })).toEqual([]);
    expect(room({ toothWidthM: undefined, turns: [250] })).toEqual([]);
  });
});
