import { describe, expect, it } from 'vitest';
import { worked } from '../../../../scripts/testing/worked.ts';
import { runCalculation } from '../calculation.ts';
import { barWaveDrawing } from '../drawing/barWave.ts';
import { add, polar, sizeOf, subtract, type Complex } from './complex.ts';
import { waveBars, barWave, jumperOf, sayTour, waveOf, windingBarWave, type BarWave } from './barWave.ts';
import { checkRecord } from './checks.ts';
import { windingFigures } from './figures.ts';
import { windingRotorVoltage } from './parts.ts';
import { windingRecordSchema } from './record.ts';

const said = (wave: BarWave, at: number) => {
  const w = wave.phases[at];
  const jumper = w && jumperOf(w);
  return w && jumper
    ? `${w.first.map(sayTour).join(' | ')}; ${sayTour([jumper[0]])}–${sayTour([jumper[1]])}; ${w.second.map(sayTour).join(' | ')}`
    : '';
};
const sum = (wave: BarWave, at: number): Complex =>
  waveBars(wave.phases[at] as BarWave['phases'][number]).reduce<Complex>(
    (s, b, i) => (i % 2 === 0 ? add : subtract)(s, polar(1, ((b.slot - 1) * 180 * wave.poles) / wave.slots)),
    { re: 0, im: 0 },
  );

describe('bar wave of a slip-ring rotor (winding reference 4.11)', () => {
  it('check 111: 48/4, A from ring to star', () => {
    expect(said(barWave({ slots: 48, poles: 4 }), 0)).toBe(
      '4t 16b 28t 40b | 3t 15b 27t 39b | 2t 14b 26t 38b | 1t 13b 25t 37b; 37b–1b; 1b 37t 25b 13t | 2b 38t 26b 14t | 3b 39t 27b 15t | 4b 40t 28b 16t',
    );
  });
  it('B begins 12t with jumper 45b–9b and ends 24t, C 20t, 5b–17b, 32t', () => {
    const wave = barWave({ slots: 48, poles: 4 });
    expect(said(wave, 1)).toMatch(/^12t .*; 45b–9b; .* 24t$/);
    expect(said(wave, 2)).toMatch(/^20t .*; 5b–17b; .* 32t$/);
  });
  it('check 112: k_w 0.9577 at full pitch, 0.9495 with y₁ 11', () => {
    expect(barWave({ slots: 48, poles: 4 }).windingFactor).toBeCloseTo(0.9577, 4);
    expect(barWave({ slots: 48, poles: 4, farPitch: 11 }).windingFactor).toBeCloseTo(0.9495, 4);
  });
  it.each([
    [48, 4, 12],
    [48, 4, 11],
    [54, 6, 9],
    [54, 6, 8],
    [72, 8, 9],
    [36, 6, 6],
    [72, 4, 15],
    [60, 10, 6],
    [24, 2, 12],
  ])(
    '%i/%i, y₁ %i: every bar once, phases equal and 120° apart, pitches a pole pair together',
    (slots, poles, farPitch) => {
      const wave = barWave({ slots, poles, farPitch });
      const bars = wave.phases.flatMap((w) => waveBars(w).map((b) => `${b.slot}${b.layer}`));
      expect(new Set(bars).size).toBe(2 * slots);
      expect(bars).toHaveLength(2 * slots);
      expect(wave.farPitch + wave.ringPitch).toBe((2 * slots) / poles);
      expect(wave.turnsPerPhase).toBe(slots / 3);
      const [a, b, c] = [0, 1, 2].map((k) => sum(wave, k)) as [Complex, Complex, Complex];
      expect(sizeOf(b)).toBeCloseTo(sizeOf(a), 9);
      expect(sizeOf(add(add(a, b), c))).toBeLessThan(1e-9);
      // far-end joints are all alike
      for (const w of wave.phases)
        for (const half of [w.first.flat(), w.second.flat()])
          for (let i = 0; i + 1 < half.length; i += 2) {
            const [top, bottom] = half[i]?.layer === 'top' ? [half[i], half[i + 1]] : [half[i + 1], half[i]];
            expect(
              (((bottom?.slot ?? 0) - (top?.slot ?? 0)) % slots) +
                slots * Number((bottom?.slot ?? 0) < (top?.slot ?? 0)),
            ).toBe(farPitch);
          }
    },
  );
  it('after each tour the ring-end step is one slot short', () => {
    const wave = barWave({ slots: 48, poles: 4 });
    const [one, two] = wave.phases[0]?.first ?? [];
    expect(((two?.[0]?.slot ?? 0) - (one?.at(-1)?.slot ?? 0) + 48) % 48).toBe(wave.shortPitch);
    expect(wave.shortPitch).toBe(11);
    expect(wave.shortJoints).toBe(18);
  });
  it('entries a third apart: p mod 3 = 2 exchanges B and C, a multiple of three cannot be', () => {
    const two = barWave({ slots: 48, poles: 4, thirds: true });
    expect(two.phases.map((w) => w.first[0]?.[0]?.slot)).toEqual([4, 36, 20]);
    expect(sizeOf(add(add(sum(two, 0), sum(two, 1)), sum(two, 2)))).toBeLessThan(1e-9);
    const four = barWave({ slots: 72, poles: 8, thirds: true });
    expect(four.phases.map((w) => w.first[0]?.[0]?.slot)).toEqual([3, 27, 51]);
    expect(() => barWave({ slots: 54, poles: 6, thirds: true })).toThrow(/3 pole pairs/);
  });
  it.each([
    [{ slots: 50, poles: 4 }, /whole number of slots per pole and phase/],
    [{ slots: 48, poles: 4, farPitch: 13 }, /8 to 12 slots here, not 13/],
    [{ slots: 48, poles: 4, farPitch: 7 }, /8 to 12 slots here, not 7/],
  ])('%j is refused in words', (x, message) => expect(() => barWave(x)).toThrow(message));

  const rotor = windingRecordSchema.parse({
    kind: 'bar-rotor',
    slots: 48,
    poles: 4,
    barsPerSlot: 2,
    barWidthM: 0.003,
    barHeightM: 0.012,
    connection: 'wye',
    circuits: 1,
    coreLengthM: 0.2,
  });
  it('check 113: ring voltage 159.4 V with N₁k_w1 66.6 at 400 V delta', () => {
    const f = windingFigures.compute(windingFigures.input.parse({ record: rotor, nameplate: {} }));
    expect(f.seriesTurns).toBe(16);
    expect(f.windingFactor).toBeCloseTo(0.9577, 4);
    const volts = (Math.sqrt(3) * 400 * (f.seriesTurns ?? 0) * (f.windingFactor ?? 0)) / 66.6;
    expect(Math.abs(volts / 159.4 - 1)).toBeLessThan(1e-3);
    // the same by the calculation: a stator of 16 turns of the same layout has the ratio one
    const stator = {
      kind: 'three-phase',
      slots: 48,
      poles: 4,
      layers: 'double',
      form: 'lap',
      spansSlots: [12],
      turns: [1],
      circuits: 1,
      connection: 'delta',
    };
    const made = worked(windingRotorVoltage, { stator, rotor, nameplate: { voltagesV: [400] } });
    expect(made.openCircuitV).toBeCloseTo(400 * Math.sqrt(3), 6);
  });
  it('a pitch that cannot be stands in the checks of the record', () => {
    const of = (more: object) => checkRecord({ ...rotor, ...more }, {}).filter((c) => c.check === 'bar-wave');
    expect(of({})).toEqual([]);
    expect(of({ farPitchSlots: 20 })[0]).toMatchObject({ severity: 'E', fields: ['farPitchSlots', 'slots', 'poles'] });
    expect(of({ slots: 50 })[0]?.message).toMatch(/whole number of slots/);
  });
  it('is asked of a record; halves in parallel are two circuits', () => {
    expect(waveOf(rotor)?.parallel).toBe(false);
    expect(waveOf({ ...rotor, circuits: 2 })).toMatchObject({ parallel: true, turnsPerPhase: 8 });
    expect(waveOf(windingRecordSchema.parse({ slots: 48, poles: 4 }))).toBeUndefined();
    expect(waveOf(windingRecordSchema.parse({ ...rotor, barsPerSlot: 4 }))).toBeUndefined();
    expect(() => runCalculation(windingBarWave, { record: { ...rotor, barsPerSlot: 4 } })).toThrow(
      /two bars in a slot/,
    );
  });
  it('is drawn with every bar of the phase, the ring, the star and the jumper', () => {
    const wave = barWave({ slots: 48, poles: 4 });
    const drawing = barWaveDrawing(wave, wave.phases[0] as BarWave['phases'][number]);
    const bars = drawing.shapes.filter((s) => s.kind === 'line' && s.weight === 1.4);
    expect(bars).toHaveLength(32);
    const texts = drawing.shapes.flatMap((s) => (s.kind === 'text' ? [s.text] : []));
    expect(texts).toEqual(expect.arrayContaining(['ring K', 'star', 'jumper 37b–1b', '48']));
    const parallel = barWave({ slots: 48, poles: 4, parallel: true });
    const twice = barWaveDrawing(parallel, parallel.phases[0] as BarWave['phases'][number]).shapes.flatMap((s) =>
      s.kind === 'text' ? [s.text] : [],
    );
    expect(twice.filter((t) => t === 'star')).toHaveLength(2);
  });
});
