import { describe, expect, it } from 'vitest';
import { checkAlone, type Parts } from '../../../../scripts/testing/recordChecks.ts';
import { MAGNITUDE_CHECKS, usualAirGapM } from './magnitudeChecks.ts';

const { said, severities } = checkAlone(MAGNITUDE_CHECKS);

describe('sizes: at each bound and just beyond it', () => {
  it.each([
    ['boreM', 0.025, 1.5, 'Bore'],
    ['coreLengthM', 0.015, 1.5, 'Core length'],
    ['toothWidthM', 0.0015, 0.025, 'Tooth'],
    ['slotDepthM', 0.008, 0.1, 'Slot depth'],
    ['slotOpeningM', 0.0015, 0.008, 'Slot opening'],
    ['airGapM', 0.0002, 0.003, 'Air gap'],
    ['ductWidthM', 0.006, 0.012, 'Duct width'],
    ['linerM', 0.00015, 0.0005, 'Slot liner'],
    ['extensionConnectionEndM', 0.015, 0.3, 'End turns, lead end'],
    ['extensionOppositeEndM', 0.015, 0.3, 'End turns, other end'],
    ['slotAreaM2', 20e-6, 2500e-6, 'Slot area'],
    ['rotorBars', 10, 150, 'Rotor bars'],
  ] as const)('%s from %d to %d', (field, low, high, label) => {
    const of = (value: number, more: object = {}) => said('range', { record: { [field]: value, ...more } });
    expect([of(low), of(high)]).toEqual([[], []]);
    for (const value of [low * 0.999, high * 1.001]) {
      expect(of(value)).toHaveLength(1);
      expect(of(value)[0]).toMatch(
        new RegExp(`^W ${field}: ${label} .* is outside the usual .*, and in this unit\\?$`),
      );
    }
  });
  it.each([
    ['outputW', 20, 1e6, 'Output'],
    ['frequencyHz', 16, 400, 'Frequency'],
    ['speedRpm', 100, 24000, 'Speed'],
  ] as const)('plate: %s from %d to %d', (field, low, high, label) => {
    const of = (value: number) => said('range', { nameplate: { [field]: value } });
    expect([of(low), of(high)]).toEqual([[], []]);
    for (const value of [low * 0.999, high * 1.001]) expect(of(value)[0]).toMatch(new RegExp(`: ${label} `));
  });
  it('turns of every coil, wires in hand, and what a kind has no such size of', () => {
    const record = (more: object) => said('range', { record: more });
    expect(record({ turns: [1, 1000] })).toEqual([]);
    expect(record({ turns: [0.5, 1001] })).toHaveLength(2);
    expect(record({ strands: [{ count: 30, bareM: 0.001 }] })).toEqual([]);
    expect(
      record({
        strands: [
          { count: 20, bareM: 0.001 },
          { count: 11, bareM: 0.002 },
        ],
      })[0],
    ).toMatch(/Wires in hand 31/);
    expect(record({ strands: [] })).toEqual([]);
    expect(record({ kind: 'form-wound', slotOpeningM: 0.02 })).toEqual([]);
    expect(record({ slotOpeningM: 0.02 })).toHaveLength(1);
    expect(record({ kind: 'tooth-coil', extensionConnectionEndM: 0.005, extensionOppositeEndM: 0.005 })).toEqual([]);
    expect(said('range', { record: { boreM: 0.02 }, limits: { 'range.bore.low': 20 } })).toEqual([]);
    expect(said('range', { record: { boreM: 1.6 }, limits: { 'range.bore.high': 1600 } })).toEqual([]);
  });
});

describe('figures of a record: at each bound and just beyond it', () => {
  it.each([
    // current density: 3 to 7, open machines to 9
    ['density', { figures: { currentDensityAMm2: 3 } }, ''],
    ['density', { figures: { currentDensityAMm2: 2.99 } }, 'W'],
    ['density', { figures: { currentDensityAMm2: 7 } }, ''],
    ['density', { figures: { currentDensityAMm2: 7.01 } }, 'W'],
    ['density', { figures: { currentDensityAMm2: 9 }, nameplate: { outputW: 999 } }, ''],
    ['density', { figures: { currentDensityAMm2: 9 }, nameplate: { outputW: 1000 } }, 'W'],
    ['density', { figures: { currentDensityAMm2: 9.01 }, nameplate: { outputW: 999 } }, 'W'],
    ['density', { figures: { currentDensityAMm2: 8 }, nameplate: { enclosure: 'Open drip-proof' } }, ''],
    ['density', { figures: { currentDensityAMm2: 8 }, nameplate: { enclosure: 'IP 23' } }, ''],
    ['density', { figures: { currentDensityAMm2: 8 }, nameplate: { enclosure: 'IP23' } }, ''],
    ['density', { figures: { currentDensityAMm2: 8 }, nameplate: { enclosure: 'IP 55' } }, 'W'],
    ['density', { figures: { currentDensityAMm2: 8 }, limits: { 'winding.densityHigh': 8 } }, ''],
    ['density', { figures: { currentDensityAMm2: 2 }, limits: { 'winding.densityLow': 2 } }, ''],
    ['density', {}, ''],
    ['linear-loading', { figures: { linearLoadingAM: 8000 } }, ''],
    ['linear-loading', { figures: { linearLoadingAM: 7999 } }, 'W'],
    ['linear-loading', { figures: { linearLoadingAM: 50000 } }, ''],
    ['linear-loading', { figures: { linearLoadingAM: 50001 } }, 'W'],
    ['linear-loading', { figures: { linearLoadingAM: 60000 }, limits: { 'winding.linearHigh': 60 } }, ''],
    ['linear-loading', { figures: { linearLoadingAM: 5000 }, limits: { 'winding.linearLow': 5 } }, ''],
    ['linear-loading', {}, ''],
    ['slot-fill', { figures: { insulatedSquareFill: 0.8 } }, ''],
    ['slot-fill', { figures: { insulatedSquareFill: 0.801 } }, 'W'],
    ['slot-fill', { figures: { insulatedSquareFill: 0.88 } }, 'W'],
    ['slot-fill', { figures: { insulatedSquareFill: 0.881 } }, 'E'],
    ['slot-fill', { figures: { insulatedSquareFill: 0.85 }, limits: { 'winding.fillWarn': 0.86 } }, ''],
    ['slot-fill', { figures: { insulatedSquareFill: 0.9 }, limits: { 'winding.fillError': 0.9 } }, 'W'],
    ['slot-fill', {}, ''],
    ['flux-density', { figures: { airGapT: 1.05 } }, ''],
    ['flux-density', { figures: { airGapT: 1.051 } }, 'W'],
    ['flux-density', { figures: { airGapT: 1.3 } }, 'W'],
    ['flux-density', { figures: { airGapT: 1.301 } }, 'E'],
    ['flux-density', { figures: { airGapT: 0.4 } }, ''],
    ['flux-density', { figures: { airGapT: 0.399 } }, 'W'],
    ['flux-density', { figures: { toothT: 1.9 } }, ''],
    ['flux-density', { figures: { toothT: 1.901 } }, 'W'],
    ['flux-density', { figures: { toothT: 2.2 } }, 'W'],
    ['flux-density', { figures: { toothT: 2.201 } }, 'E'],
    ['flux-density', { figures: { backIronT: 1.75 } }, ''],
    ['flux-density', { figures: { backIronT: 1.751 } }, 'W'],
    ['flux-density', { figures: { backIronT: 2.1 } }, 'W'],
    ['flux-density', { figures: { backIronT: 2.101 } }, 'E'],
    ['flux-density', { figures: { airGapT: 1.4, toothT: 2, backIronT: 2.2 } }, 'EWE'],
    ['flux-density', { figures: { airGapT: 1.2 }, limits: { 'winding.airGapWarnT': 1.2 } }, ''],
    ['flux-density', { figures: { toothT: 2.3 }, limits: { 'winding.toothErrorT': 2.4 } }, 'W'],
    ['flux-density', { figures: { seriesTurns: 80 }, nameplate: { machine: 'permanent magnet' } }, 'I'],
    ['flux-density', { figures: {}, nameplate: { machine: 'permanent magnet' } }, ''],
    ['flux-density', { figures: { airGapT: 2 }, nameplate: { machine: 'permanent magnet', emfConstantVs: 1 } }, 'E'],
    ['flux-density', {}, ''],
    // a wire of 1 mm is 1.094 over enamel of grade 2 and needs 0.3 mm play
    ['wire-opening', { record: { strands: [{ count: 1, bareM: 0.001 }], slotOpeningM: 0.0014 } }, ''],
    ['wire-opening', { record: { strands: [{ count: 1, bareM: 0.001 }], slotOpeningM: 0.00139 } }, 'W'],
    ['wire-opening', { record: { strands: [{ count: 1, bareM: 0.001 }], slotOpeningM: 0.0014, linerM: 0.0001 } }, 'W'],
    ['wire-opening', { record: { strands: [{ count: 1, bareM: 0.001 }], slotOpeningM: 0.00139, wireGrade: '1' } }, ''],
    [
      'wire-opening',
      {
        record: {
          strands: [
            { count: 1, bareM: 0.0005 },
            { count: 1, bareM: 0.001 },
          ],
          slotOpeningM: 0.00139,
        },
      },
      'W',
    ],
    ['wire-opening', { record: { slotOpeningM: 0.001 } }, ''],
    ['wire-opening', { record: { strands: [{ count: 1, bareM: 0.001 }] } }, ''],
    ['core-diameter', { record: { coreOuterM: 0.13, boreM: 0.1 } }, ''],
    ['core-diameter', { record: { coreOuterM: 0.1299, boreM: 0.1 } }, 'W'],
    ['core-diameter', { record: { coreOuterM: 0.22, boreM: 0.1 } }, ''],
    ['core-diameter', { record: { coreOuterM: 0.2201, boreM: 0.1 } }, 'W'],
    ['core-diameter', { record: { coreOuterM: 0.3 } }, ''],
    ['core-diameter', { record: { boreM: 0.3 } }, ''],
    ['core-sum', { record: { coreOuterM: 0.2, boreM: 0.1, slotDepthM: 0.025, backIronM: 0.02 } }, ''],
    ['core-sum', { record: { coreOuterM: 0.2, boreM: 0.1, slotDepthM: 0.025, backIronM: 0.0199 } }, 'W'],
    ['core-sum', { record: { coreOuterM: 0.2, boreM: 0.1, slotDepthM: 0.025, backIronM: 0.03 } }, ''],
    ['core-sum', { record: { coreOuterM: 0.2, boreM: 0.1, slotDepthM: 0.025, backIronM: 0.0301 } }, 'W'],
    ['core-sum', { record: { coreOuterM: 0.2, boreM: 0.1, slotDepthM: 0.025 } }, ''],
    ['slot-areas', { record: { slotAreaM2: 1e-4, slotNetAreaM2: 0.99e-4 } }, ''],
    ['slot-areas', { record: { slotAreaM2: 1e-4, slotNetAreaM2: 1e-4 } }, 'E'],
    ['slot-areas', { record: { slotNetAreaM2: 1e-4 } }, ''],
    ['slot-areas', { record: { slotAreaM2: 1e-4 } }, ''],
  ] as const)('%s, %j: %s', (name, x, wanted) => expect(severities(name, x as Parts)).toBe(wanted));

  it('output over volts and amperes between 0.35 and 0.95; single-phase without √3; magnets not', () => {
    const plate = (outputW: number, more: object = {}) => ({
      nameplate: { voltagesV: [400], currentsA: [10], outputW, ...more },
      record: { connection: 'wye' },
    });
    const volts = Math.sqrt(3) * 4000;
    expect([0.35, 0.349, 0.95, 0.951].map((p) => severities('current', plate(p * volts)))).toEqual(['', 'W', '', 'W']);
    expect(said('current', plate(1.2 * volts))[0]).toMatch(
      /= 1\.2; 0\.35 to 0\.95 is possible\. The current or voltage is too low, or the output too high \(hp for kW\?\)\.$/,
    );
    expect(said('current', plate(0.2 * volts))[0]).toMatch(
      /The current or voltage is too high, or the output too low\.$/,
    );
    expect(severities('current', plate(2 * volts, { machine: 'permanent magnet' }))).toBe('');
    for (const missing of ['voltagesV', 'currentsA', 'outputW'])
      expect(severities('current', plate(2 * volts, { [missing]: undefined }))).toBe('');
    const single = {
      record: { kind: 'single-phase' },
      nameplate: { voltagesV: [230], currentsA: [10], outputW: 0.95 * 2300 },
    };
    expect(severities('current', single)).toBe('');
    expect(severities('current', { ...single, nameplate: { ...single.nameplate, outputW: 0.96 * 2300 } })).toBe('W');
    // two speeds: the output goes with the larger current
    const two = {
      record: { kind: 'two-speed' },
      nameplate: { voltagesV: [400], currentsA: [5, 10], outputW: 0.9 * volts },
    };
    expect(severities('current', two)).toBe('');
    expect(severities('current', { ...plate(volts), limits: { 'range.product.high': 1.1 } })).toBe('');
  });

  it('tooth and slot pitch, output of bore and length: inches for millimetres', () => {
    const tooth = (share: number) =>
      severities('unit-length', { record: { boreM: 0.1, slots: 10, toothWidthM: share * Math.PI * 0.01 } });
    expect([0.25, 0.2499, 0.75, 0.7501].map((s) => tooth(s * (s === 0.25 || s === 0.2499 ? 1 : 1)))).toEqual([
      '',
      'E',
      '',
      'E',
    ]);
    const size = (coefficient: number) =>
      said('unit-length', {
        record: { boreM: 0.1, coreLengthM: 0.1 },
        nameplate: { speedRpm: 1000, outputW: coefficient * 1000 * 0.001 * 1000 },
      });
    expect([48, 0.125].map((c) => size(c))).toEqual([[], []]);
    expect(size(48.1)[0]).toMatch(
      /^E boreM,coreLengthM: .*would be 48\.1 kW·min\/m³; 1 to 6 is usual\. Were inches typed as mm\?$/,
    );
    expect(size(0.1249)[0]).toMatch(/Were mm typed as inches\?$/);
    for (const missing of ['boreM', 'coreLengthM'])
      expect(
        said('unit-length', {
          record: { boreM: 0.1, coreLengthM: 0.1, [missing]: undefined },
          nameplate: { speedRpm: 1000, outputW: 1e6 },
        }),
      ).toEqual([]);
    for (const missing of ['speedRpm', 'outputW'])
      expect(
        said('unit-length', {
          record: { boreM: 0.1, coreLengthM: 0.1 },
          nameplate: { speedRpm: 1000, outputW: 1e6, [missing]: undefined },
        }),
      ).toEqual([]);
    for (const missing of ['boreM', 'slots', 'toothWidthM'])
      expect(
        said('unit-length', { record: { boreM: 0.1, slots: 10, toothWidthM: 0.03, [missing]: undefined } }),
      ).toEqual([]);
  });

  const strands = [{ count: 2, bareM: 0.001 }];
  it.each([
    [1.05, ''],
    [1.051, 'I'],
    [1.1, 'I'],
    [1.101, 'W'],
    [1.2, 'W'],
    [1.201, 'E'],
    [0.95, ''],
    [0.949, 'I'],
    [0.899, 'W'],
    [0.799, 'E'],
  ])('copper weighed at %d of computed: %s', (share, wanted) => {
    const x = { record: { copperKg: 10 * share, strands, turns: [20] }, figures: { geometryBareMassKg: 10 } };
    expect(severities('copper-mass', x)).toBe(wanted);
    // a sample coil comes before the core's sizes
    expect(severities('copper-mass', { ...x, figures: { geometryBareMassKg: 20, sampleBareMassKg: 10 } })).toBe(wanted);
  });
  it('copper: what would agree, from what it was reckoned, with enamel on it', () => {
    const record = { copperKg: 13, strands, turns: [20] };
    const [line] = said('copper-mass', { record, figures: { geometryBareMassKg: 10 } });
    expect(line).toBe(
      'E copperKg,turns,strands: Weighed 13 kg bare, computed from coil geometry 10 kg (30 %). 26 turns of this wire, or 2.6 wires in hand, would agree.',
    );
    expect(said('copper-mass', { record, figures: { sampleBareMassKg: 10 } })[0]).toMatch(/from the sample coil/);
    expect(
      said('copper-mass', { record: { ...record, turns: undefined }, figures: { geometryBareMassKg: 10 } })[0],
    ).toMatch(/\(30 %\)\.$/);
    const enamelled = said('copper-mass', {
      record: { ...record, copperState: 'with enamel' },
      figures: { geometryBareMassKg: 10 },
    })[0];
    const bare = Number(/Weighed ([\d.]+)/.exec(enamelled ?? '')?.[1]);
    expect(bare).toBeLessThan(12.9);
    expect(bare).toBeGreaterThan(12.4);
    for (const missing of ['copperKg', 'strands'])
      expect(
        said('copper-mass', { record: { ...record, [missing]: undefined }, figures: { geometryBareMassKg: 10 } }),
      ).toEqual([]);
    expect(said('copper-mass', { record })).toEqual([]);
    expect(
      severities('copper-mass', {
        record: { ...record, copperKg: 10.8 },
        figures: { geometryBareMassKg: 10 },
        limits: { 'winding.copperAskPercent': 9 },
      }),
    ).toBe('');
    expect(
      severities('copper-mass', {
        record: { ...record, copperKg: 11.5 },
        figures: { geometryBareMassKg: 10 },
        limits: { 'winding.copperWarnPercent': 16 },
      }),
    ).toBe('I');
    expect(
      severities('copper-mass', {
        record,
        figures: { geometryBareMassKg: 10 },
        limits: { 'winding.copperErrorPercent': 31 },
      }),
    ).toBe('W');
  });
  it.each([
    [1.05, ''],
    [1.051, 'I'],
    [1.1, 'I'],
    [1.101, 'W'],
    [0.949, 'I'],
    [0.899, 'W'],
  ])('resistance at %d of computed: %s', (share, wanted) =>
    expect(
      severities('resistance', {
        record: { resistanceOhm: share, resistanceTemperatureC: 20 },
        figures: { lineResistance20Ohm: 1 },
      }),
    ).toBe(wanted),
  );
  it('resistance: at 20 °C, what a factor means, what is missing', () => {
    const of = (resistanceOhm: number, resistanceTemperatureC: number | undefined, more: object = {}) =>
      said('resistance', {
        record: { resistanceOhm, resistanceTemperatureC, ...more },
        figures: { lineResistance20Ohm: 1 },
      });
    // 265/255 at 30 °C is the same copper, 255/245 the same aluminium
    expect(of(265 / 255, 30)).toEqual([]);
    expect(of((255 / 245) * 1.04, 30, { material: 'aluminium' })).toEqual([]);
    expect(of(1, undefined)[0]).toMatch(/^I resistanceTemperatureC: Add the winding temperature/);
    for (const ratio of [4, 0.25, 4 * 1.059, 0.25 * 0.941]) expect(of(ratio, 20)[0]).toMatch(/A factor of four means/);
    for (const ratio of [3, 1 / 3, 3 * 1.059, 0.941 / 3]) expect(of(ratio, 20)[0]).toMatch(/A factor of three means/);
    for (const ratio of [2, 4 * 1.061, 3 * 0.939, 1.5]) expect(of(ratio, 20)[0]).not.toMatch(/A factor of/);
    expect(said('resistance', { record: { resistanceOhm: 2, resistanceTemperatureC: 20 } })).toEqual([]);
    expect(said('resistance', { record: { resistanceTemperatureC: 20 }, figures: { lineResistance20Ohm: 1 } })).toEqual(
      [],
    );
  });
  it('air gap of a cage machine: 2.5 times either way', () => {
    expect(usualAirGapM(0.16, 0.09)).toBeCloseTo(0.00044, 9);
    const gap = (airGapM: number, more: object = {}) =>
      said('gap', { record: { boreM: 0.16, coreLengthM: 0.09, rotorBars: 28, airGapM, ...more } });
    expect([gap(0.0011), gap(0.000176)]).toEqual([[], []]);
    expect(gap(0.00111)[0]).toMatch(
      /^I airGapM,boreM,coreLengthM: Air gap 1\.11 mm where 0\.44 mm is usual.*measured across, on both sides together\?$/,
    );
    expect(gap(0.000175)[0]).toMatch(/one side is meant; was a feeler left out\?$/);
    for (const missing of ['boreM', 'coreLengthM', 'rotorBars', 'airGapM'])
      expect(gap(0.01, { [missing]: undefined })).toEqual([]);
  });
  it('sentences carry both numbers', () => {
    expect(said('density', { figures: { currentDensityAMm2: 8 } })[0]).toMatch(
      /8 A\/mm² \(247 cmil\/A\) is above 7 A\/mm²/,
    );
    expect(said('density', { figures: { currentDensityAMm2: 2 } })[0]).toMatch(/is below 3 A\/mm²/);
    expect(said('linear-loading', { figures: { linearLoadingAM: 60000 } })[0]).toMatch(/60 kA\/m; 8 to 50 is usual/);
    expect(said('slot-fill', { figures: { insulatedSquareFill: 0.9, wiresPerSlot: 80 } })[0]).toMatch(
      /Slot fill 0\.9 .*80 wires in a slot\) is above 0\.88: it cannot/,
    );
    expect(said('flux-density', { figures: { toothT: 2 } })[0]).toMatch(
      /^W turns,circuits,connection,coreLengthM,boreM,toothWidthM: Tooth flux density 2 T \(129 kl\/in²\) is above 1\.9 T/,
    );
    expect(said('flux-density', { figures: { backIronT: 2 } })[0]).toMatch(/boreM,backIronM: Back-iron/);
    expect(
      said('wire-opening', { record: { strands: [{ count: 1, bareM: 0.001 }], slotOpeningM: 0.0012 } })[0],
    ).toMatch(/1\.09 mm over enamel; with 0\.3 mm play only 0\.9 mm/);
    expect(said('core-sum', { record: { coreOuterM: 0.3, boreM: 0.1, slotDepthM: 0.02, backIronM: 0.03 } })[0]).toMatch(
      /= 200 mm, but the core outside is 300 mm/,
    );
  });
});
