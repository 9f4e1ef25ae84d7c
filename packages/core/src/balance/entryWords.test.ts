import { describe, expect, it } from 'vitest';
import { setUp } from '../../../../scripts/testing/standBench.ts';
import { balanceEntrySchema } from './entries.ts';
import { sayBalanceEntry } from './entryWords.ts';

const say = (entry: object, unit = 'mm/s', of?: ReturnType<typeof setUp>) =>
  sayBalanceEntry(balanceEntrySchema.parse(entry), unit, of);
const readings = [
  { size: 2.5, angleDeg: 40 },
  { size: 1.25, angleDeg: 300 },
];
const sent = { trace: '00000000-0000-4000-8000-000000000000', instrument: 'Belt stand', outOfDate: false };

describe('rows of a balance in words', () => {
  it('runs, with unit, sender and whether it was the same once more', () => {
    expect(say({ kind: 'run', readings })).toBe('Run: 2.5 mm/s at 40° and 1.25 mm/s at 300°');
    expect(say({ kind: 'run', readings, repeat: true }, '')).toBe('The same once more: 2.5 at 40° and 1.25 at 300°');
    expect(say({ kind: 'run', readings: readings.slice(1), sent: { ...sent, simulated: true } })).toBe(
      'Run: 1.25 mm/s at 300° (Belt stand, simulated)',
    );
    expect(say({ kind: 'run', readings: readings.slice(1), sent: { ...sent, simulated: false } })).toBe(
      'Run: 1.25 mm/s at 300° (Belt stand)',
    );
    const separates = setUp({ readings: 'unbalance per plane' });
    expect(say({ kind: 'run', readings: readings.slice(1) }, 'mm/s', separates)).toBe(
      `Run: 1.25 ${separates.unbalanceUnit} at 300°`,
    );
    expect(say({ kind: 'run', readings: readings.slice(1) }, 'mm/s', setUp())).toBe('Run: 1.25 mm/s at 300°');
  });
  it('trials and moved masses', () => {
    const trial = { kind: 'trial', plane: 2, gMm: 900, angleDeg: 45, readings: readings.slice(0, 1) };
    expect(say(trial)).toBe('Trial in plane 2, 900 g·mm at 45°: 2.5 mm/s at 40°');
    expect(say({ ...trial, staysIn: true })).toBe('Trial in plane 2, 900 g·mm at 45°, stays in: 2.5 mm/s at 40°');
    const positions = [0, 60, 120, 180, 240, 300].map((angleDeg) => ({ angleDeg, amplitude: 1 + angleDeg / 60 }));
    expect(say({ kind: 'moved', plane: 1, testGMm: 500, positions })).toBe(
      'Test mass of 500 g·mm moved round plane 1: 1 at 0°, 2 at 60°, 3 at 120°, 4 at 180°, 5 at 240°, 6 at 300°',
    );
  });
  it('corrections: sign, place by what the shop calls it, depth', () => {
    const mass = { plane: 1, angleDeg: 90, massG: 3.5, radiusMm: 60 };
    expect(say({ kind: 'correction', masses: [mass] })).toBe('Correction: plane 1 +3.5 g at 90°');
    expect(
      say({
        kind: 'correction',
        masses: [
          { ...mass, massG: -2, how: '4 mm deep' },
          { ...mass, place: 3, how: 'welded' },
        ],
      }),
    ).toBe('Correction: plane 1 −2 g at 90°, 4 mm deep; plane 1 +3.5 g at 90° (place 3)');
    expect(say({ kind: 'correction', masses: [{ ...mass, place: 3, how: 'old one out' }] })).toMatch(
      /\(place 3\), old one out$/,
    );
    const base = setUp();
    const blades = { ...base, planes: base.planes.map((p) => ({ ...p, called: 'blade' as const })) };
    expect(say({ kind: 'correction', masses: [{ ...mass, place: 3 }] }, 'mm/s', blades)).toBe(
      'Correction: plane 1 +3.5 g at 90° (blade 3)',
    );
    expect(say({ kind: 'correction', masses: [{ ...mass, place: 3 }] }, 'mm/s', base)).toMatch(/\(\w+ 3\)$/);
  });
});
