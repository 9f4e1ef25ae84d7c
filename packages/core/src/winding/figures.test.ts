import { describe, expect, it } from 'vitest';
import { worked } from '../../../../scripts/testing/worked.ts';
import { awgDiameterM, swgDiameterM } from '../wire/gauge.ts';
import { insulatedDiameterM } from '../wire/insulatedDiameter.ts';
import { parseWires } from '../wire/parseWires.ts';
import { conductorAreaM2 } from '../wire/strands.ts';
import { checkRecord, RECORD_CHECKS, windingChecks } from './checks.ts';
import { concentricMeanTurnM, meanTurnFromMassM, temperatureFactor, windingMeanTurn } from './copper.ts';
import { windingFigures } from './figures.ts';
import type { Nameplate } from '../machine/nameplate.ts';
import { polesFrom } from '../machine/nameplate.ts';
import { type WindingRecord, type ThreePhaseRecord } from './record.ts';

/** Machine M1 (docs/derivations.md 7). */
const record: ThreePhaseRecord = {
  kind: 'three-phase',
  slots: 36,
  poles: 4,
  layers: 'double',
  form: 'lap',
  poleGroups: 'every-pole',
  coilCount: 36,
  groupCount: 12,
  grouping: Array(12).fill(3) as number[],
  spansSlots: [8],
  turns: [34],
  turnsSecondCount: [34],
  strands: [{ count: 2, bareM: 0.00085, label: '0.85 mm' }],
  wireGrade: '2',
  material: 'copper',
  circuits: 2,
  connection: 'delta',
  leads: '3',
  jumper: 'adjacent-pole',
  endsPerLead: 4,
  wireTipsPerLead: 8,
  starPoints: 0,
  boreM: 0.15,
  coreLengthM: 0.14,
  coreOuterM: 0.248,
  toothWidthM: 0.007,
  backIronM: 0.025,
  slotDepthM: 0.024,
  slotOpeningM: 0.003,
  slotAreaM2: 185e-6,
  slotNetAreaM2: 158e-6,
  linerM: 0.00035,
  leadExit: '3',
  connectionSide: 'opposite end',
  copperKg: 8.2,
  copperState: 'burned clean',
};
const nameplate: Nameplate = {
  outputW: 11000,
  voltagesV: [400],
  currentsA: [22],
  frequencyHz: 50,
  speedRpm: 1455,
  phases: '3',
};
const figures = (r: WindingRecord = record, n: Nameplate = nameplate) =>
  worked(windingFigures, { record: r, nameplate: n });

describe('figures of machine M1 (docs/derivations.md 7; checks 3, 59–65, 86–88, 103)', () => {
  const withoutMass: WindingRecord = { ...record };
  delete withoutMass.copperKg;
  const f = figures(withoutMass);
  it.each([
    ['flux, mWb', (f.fluxWb ?? 0) * 1000, 9.3382, 1e-3],
    ['air gap, T', f.airGapT, 0.8894, 1e-3],
    ['tooth, T', f.toothT, 1.7506, 1e-3],
    ['back iron, T', f.backIronT, 1.4042, 1e-3],
    ['volts per turn', f.voltsPerTurn, 1.9608, 1e-3],
    ['volts per coil', f.voltsPerCoil, 66.667, 1e-3],
    ['linear loading, kA/m', (f.linearLoadingAM ?? 0) / 1000, 32.99, 5e-3],
    ['current density', f.currentDensityAMm2, 5.6, 2e-3],
    ['mean turn, mm', (f.meanTurnM ?? 0) * 1000, 664.6, 3e-4],
    ['copper, kg', f.bareMassKg, 8.207, 2e-3],
    ['line to line, ohm', f.lineResistance20Ohm, 0.6866, 2e-3],
    ['copper loss at 115 °C, W', f.copperLossAt115W, 684, 2e-3],
    ['copper fill', f.copperFill, 0.417, 2e-3],
    ['insulated-square fill', f.insulatedSquareFill, 0.759, 3e-3],
    ['turns in series', f.seriesTurns, 204, 0],
  ])('%s', (_, got, wanted, tolerance) => {
    expect(Math.abs((got ?? Number.NaN) - wanted)).toBeLessThanOrEqual(tolerance * wanted + 1e-12);
  });
  it('weighed copper comes before geometry, and says so', () => {
    expect(figures().meanTurnFrom).toBe('weighed copper');
    expect(f.meanTurnFrom).toBe('geometry');
  });
  it('mean turn back from 5.00 kg of 2 × 0.80 mm, 25 turns, 36 coils: 621.6 mm (check 92)', () => {
    const area = conductorAreaM2([{ count: 2, bareM: 0.0008, label: '' }]);
    expect(meanTurnFromMassM(5, area, 25 * 36, 8890) * 1000).toBeCloseTo(621.6, 0);
  });
  it('concentric mean turn, L 100, x 10, chord 80: 491.3 mm (check 91)', () => {
    expect(concentricMeanTurnM(0.1, 0.01, 0.08) * 1000).toBeCloseTo(491.3, 1);
  });
  it('temperature factors (IEC 60034-1 and IEEE 112; checks 89, 90)', () => {
    expect(temperatureFactor(20, 75, 235)).toBeCloseTo(1.2157, 4);
    expect(temperatureFactor(25, 115, 234.5)).toBeCloseTo(1.3468, 4);
  });
  it('a sample coil stands between weighed copper and geometry', () => {
    const run = (x: object) => worked(windingMeanTurn, x);
    expect(run({ sampleCoilM: 0.7 }).from).toBe('sample coil');
    expect(run({}).from).toBe('nothing');
  });
});

describe('wire (ASTM B258; legacy table and IEC 60317-0-1 from memory; checks 93–102)', () => {
  it.each([
    [10, 2.5882],
    [14, 1.6277],
    [18, 1.0237],
    [24, 0.5106],
    [17.5, 1.0848],
    [-3, 11.684],
  ])('AWG %d', (n, mm) => {
    expect(awgDiameterM(n) * 1000).toBeCloseTo(mm, 3);
  });
  it('SWG 20', () => expect((swgDiameterM('20') ?? 0) * 1000).toBeCloseTo(0.9144, 4));
  it('R40 size 0.85 takes the build of 0.9: 0.909 / 0.939', () => {
    expect(insulatedDiameterM(0.00085, 1) * 1000).toBeCloseTo(0.909, 3);
    expect(insulatedDiameterM(0.00085, 2) * 1000).toBeCloseTo(0.939, 3);
  });
  it('2 × AWG 17 against AWG 14: −0.25 % of area', () => {
    const of = (text: string) => {
      const read = parseWires(text, 'awg');
      return read.ok ? conductorAreaM2(read.value) : 0;
    };
    expect(100 * (of('2x17') / of('14') - 1)).toBeCloseTo(-0.25, 2);
  });
  it.each([
    ['2x18+1x17', 'awg', 'AWG 18:2 AWG 17:1'],
    ['2x0,85', 'metric', '0.85 mm:2'],
    ['2 x 0.85', 'awg', '0.85 mm:2'],
    ['18', 'awg', 'AWG 18:1'],
    ['3x20 swg', 'metric', 'SWG 20:3'],
    ['17.5', 'awg', 'AWG 17.5:1'],
    ['AWG 18', 'metric', 'AWG 18:1'],
    ['2/0', 'awg', 'AWG 2/0:1'],
    ['1.06', 'metric', '1.06 mm:1'],
  ] as const)('reads %s in a %s shop', (text, system, said) => {
    const read = parseWires(text, system);
    expect(read.ok && read.value.map((s) => `${s.label}:${s.count}`).join(' ')).toBe(said);
  });
  it.each([
    ['18', 'metric'],
    ['2x', 'awg'],
    ['50x18', 'awg'],
    ['18.3', 'awg'],
    ['zz', 'metric'],
  ] as const)('refuses %s in a %s shop with a sentence', (text, system) => {
    const read = parseWires(text, system);
    expect(read.ok).toBe(false);
    expect(!read.ok && read.message.endsWith('.')).toBe(true);
  });
});

describe('poles from speed and frequency', () => {
  it.each([
    [1455, 50, 4],
    [2910, 50, 2],
    [1750, 60, 4],
    [1160, 60, 6],
    [720, 50, 8],
    [585, 50, 10],
    [3600, 60, 2],
  ])('%d r/min at %d Hz: %d', (n, f, poles) => {
    expect(polesFrom(n, f).poles).toBe(poles);
  });
});

describe('checks of a record', () => {
  it('there are at least twenty, each with a title', () => {
    expect(Object.keys(RECORD_CHECKS).length).toBeGreaterThanOrEqual(20);
  });
  it('stay silent on a sound record', () => {
    expect(checkRecord(record, nameplate)).toEqual([]);
  });
  it('call it verifiable only when complete', () => {
    expect(worked(windingChecks, { record, nameplate }).verifiable).toBe(true);
    const { missing, verifiable } = worked(windingChecks, { record: { slots: 36 }, nameplate });
    expect(verifiable).toBe(false);
    expect(missing).toContain('turns');
  });
  const slips: [string, Partial<ThreePhaseRecord>, string][] = [
    ['poles for pairs', { poles: 2 }, 'speed'],
    ['span off by one', { spansSlots: [10] }, 'span'],
    ['wires for ends', { endsPerLead: 8 }, 'wires-ends'],
    ['ends do not fit the connection', { endsPerLead: 3, wireTipsPerLead: 6 }, 'ends-connection'],
    ['one coil missed', { coilCount: 35 }, 'coils-slots'],
    ['half the groups', { groupCount: 6 }, 'groups-poles'],
    ['one group uneven', { grouping: [3, 3, 4, 3, 3, 3, 3, 3, 3, 3, 3, 3] }, 'group-sum'],
    ['uneven but same sum', { grouping: [3, 2, 4, 3, 3, 3, 3, 3, 3, 3, 3, 3] }, 'phase-sum'],
    ['circuits that cannot be', { circuits: 3 }, 'circuits'],
    ['a star in a delta', { starPoints: 1, endsPerStar: 6 }, 'star-points'],
    ['turns halved', { turns: [17], turnsSecondCount: [17] }, 'flux-density'],
    ['second count differs', { turnsSecondCount: [35] }, 'second-count'],
    ['inch for millimetre, tooth', { toothWidthM: 0.0254 * 7 }, 'unit-length'],
    ['inch for millimetre, bore and length', { boreM: 0.15 / 25.4, coreLengthM: 0.14 / 25.4 }, 'unit-length'],
    ['copper far off', { copperKg: 11 }, 'copper-mass'],
    ['too thick for the opening', { slotOpeningM: 0.0014 }, 'wire-opening'],
    ['gap measured across', { airGapM: 0.00125, rotorBars: 28 }, 'gap'],
    ['slot overfull', { slotNetAreaM2: 120e-6 }, 'slot-fill'],
    ['net above gross', { slotNetAreaM2: 190e-6 }, 'slot-areas'],
    ['core outside wrong', { coreOuterM: 0.4 }, 'core-diameter'],
    ['rotor bars counted wrong', { rotorBars: 36 }, 'slot-combination'],
    ['resistance a quarter', { resistanceOhm: 0.17, resistanceTemperatureC: 20 }, 'resistance'],
    ['one wire of two forgotten', { strands: [{ count: 1, bareM: 0.00085, label: '' }] }, 'density'],
  ];
  it.each(slips)('%s', (_, change, check) => {
    const found = checkRecord({ ...record, ...change }, nameplate);
    expect(found.map((f) => f.check)).toContain(check);
    for (const f of found) {
      expect(f.message).toMatch(/\.|\?$/);
      expect(f.message).not.toMatch(/NaN|undefined|Infinity/);
    }
  });
  it('copper weighed is compared with a sample coil where one was measured, else with the geometry', () => {
    const bare = (r: WindingRecord) => worked(windingFigures, { record: r, nameplate }).sampleBareMassKg as number;
    const sampled: ThreePhaseRecord = { ...record, sampleCoilM: 0.6 };
    const found = (share: number) =>
      checkRecord({ ...sampled, copperKg: bare(sampled) * share, copperState: 'burned clean' }, nameplate).find(
        (f) => f.check === 'copper-mass',
      );
    for (const [share, severity] of [
      [1.0499, undefined],
      [0.9501, undefined],
      [1.0501, 'I'],
      [1.0999, 'I'],
      [1.1001, 'W'],
      [1.1999, 'W'],
      [1.2001, 'E'],
      [0.7999, 'E'],
    ] as const)
      expect(found(share)?.severity, String(share)).toBe(severity);
    expect(found(1.3)?.message).toMatch(/the sample coil/);
    // without any size of the core, too
    const bareCore: WindingRecord = { ...sampled, boreM: undefined, coreLengthM: undefined, slotDepthM: undefined };
    expect(
      checkRecord({ ...bareCore, copperKg: bare(bareCore) * 1.3 }, nameplate).some((f) => f.check === 'copper-mass'),
    ).toBe(true);
  });
  it.each([
    [1.0499, {}, undefined],
    [0.9501, {}, undefined],
    [1.0501, {}, 'I'],
    [0.9499, {}, 'I'],
    [1.0999, {}, 'I'],
    [1.1001, {}, 'W'],
    [0.8999, {}, 'W'],
    [1.1001, { 'winding.resistanceWarnPercent': 12 }, 'I'],
    [1.0801, { 'winding.resistanceAskPercent': 9 }, undefined],
  ] as const)('resistance as found %f times the computed, shop limits %j: %s', (share, limits, severity) => {
    const ohm = worked(windingFigures, { record, nameplate }).lineResistance20Ohm as number;
    const found = checkRecord(
      { ...record, resistanceOhm: ohm * share, resistanceTemperatureC: 20 },
      nameplate,
      limits,
    ).find((f) => f.check === 'resistance');
    expect(found?.severity).toBe(severity);
  });
  it.each([
    [1.0499, {}, false],
    [0.9501, {}, false],
    [1.0501, {}, true],
    [0.9499, {}, true],
    [1.0501, { 'winding.coreSumPercent': 8 }, false],
  ] as const)('bore, slot and back iron %f of the core outside, shop limits %j: asked %s', (share, limits, asked) => {
    const { boreM = 0, slotDepthM = 0, coreOuterM = 0 } = record;
    const backIronM = (coreOuterM * share - boreM) / 2 - slotDepthM;
    const found = checkRecord({ ...record, backIronM }, nameplate, limits);
    expect(found.some((f) => f.check === 'core-sum')).toBe(asked);
  });
  it('dual voltage 1:2 wants nine or twelve leads', () => {
    expect(checkRecord(record, { ...nameplate, voltagesV: [230, 460] }).map((f) => f.check)).toContain('leads');
  });
  it('asks about the plate when output and current do not belong together', () => {
    expect(checkRecord(record, { ...nameplate, currentsA: [8] }).map((f) => f.check)).toContain('current');
  });
});
