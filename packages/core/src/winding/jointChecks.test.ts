import { describe, expect, it } from 'vitest';
import { checkAlone } from '../../../../scripts/testing/recordChecks.ts';
import { JOINT_CHECKS, copperTogether, usualProduct } from './jointChecks.ts';

const { said, severities } = checkAlone(JOINT_CHECKS);

describe('what is known together', () => {
  it('mass and resistance give conductor and length', () => {
    // 2 mm², 300 m in three phases of one circuit each
    const [rho, density] = [1 / 58e6, 8890];
    const x = copperTogether({
      massKg: density * 2e-6 * 300,
      phaseOhm20: (rho * 100) / 2e-6,
      circuits: 1,
      phases: 3,
      densityKgM3: density,
      resistivityOhmM: rho,
    });
    expect([x.areaM2 * 1e6, x.lengthM]).toEqual([expect.closeTo(2, 9), expect.closeTo(300, 6)]);
    // two circuits: half the turns of each phase beside each other
    const two = copperTogether({
      massKg: density * 2e-6 * 300,
      phaseOhm20: (rho * 50) / 2e-6 / 2,
      circuits: 2,
      phases: 3,
      densityKgM3: density,
      resistivityOhmM: rho,
    });
    expect([two.areaM2 * 1e6, two.lengthM]).toEqual([expect.closeTo(2, 9), expect.closeTo(300, 6)]);
  });
  /** a winding of 1 mm wire and 300 m, weighed and measured with these shares of its true mass and resistance */
  const copper = (mass: number, ohm: number, more: object = {}) => {
    const area = (Math.PI / 4) * 1e-6;
    return {
      record: {
        strands: [{ count: 1, bareM: 0.001, label: '' }],
        turns: [100],
        connection: 'wye',
        circuits: 1,
        leads: '3',
        sampleCoilM: 0.3,
        copperKg: 8890 * area * 300 * mass,
        resistanceOhm: (((2 / 58e6) * 100) / area) * ohm,
        resistanceTemperatureC: 20,
        ...more,
      },
      figures: { totalTurns: 1000 },
    };
  };
  it.each([
    // area √(m/R), length √(m R)
    [1, 1, ''],
    [1.03, 1.03, ''],
    [1.031, 1.031, 'I'],
    [1.061, 1.061, 'W'],
    [1.03, 1 / 1.03, ''],
    [1.031, 1 / 1.031, 'I'],
    [1.061, 1 / 1.061, 'W'],
    [0.969, 1 / 0.969, 'I'],
    [0.939, 0.939, 'W'],
  ])('mass %d and resistance %d of the true ones: %s', (mass, ohm, wanted) =>
    expect(severities('copper-together', copper(mass, ohm))).toBe(wanted),
  );
  it('says which of the two is off, and what would agree', () => {
    expect(said('copper-together', copper(1.1, 1.1))).toEqual([
      'W turns,spansSlots,copperKg,resistanceOhm: Mass and resistance together say 330 m of conductor, turns and span 300 m (10 %): count the turns and the span again; 110 turns would agree.',
    ]);
    expect(said('copper-together', copper(1.1, 1 / 1.1))[0]).toMatch(
      /^W strands,copperKg,resistanceOhm: .* say 0\.864 mm² of conductor, the wires typed are 0\.785 mm² \(10 %\)/,
    );
    expect(said('copper-together', copper(1.1, 1.1, { turns: undefined }))[0]).toMatch(
      /count the turns and the span again\.$/,
    );
    for (const missing of ['copperKg', 'resistanceOhm', 'resistanceTemperatureC', 'strands', 'circuits'])
      expect(said('copper-together', copper(1.1, 1.1, { [missing]: undefined }))).toEqual([]);
    expect(said('copper-together', copper(1.1, 1.1, { kind: 'single-phase' }))).toEqual([]);
    expect(said('copper-together', { ...copper(1.1, 1.1), figures: {} })).toEqual([]);
    expect(severities('copper-together', { ...copper(1.05, 1.05), limits: { 'winding.togetherAskPercent': 6 } })).toBe(
      '',
    );
    expect(severities('copper-together', { ...copper(1.08, 1.08), limits: { 'winding.togetherWarnPercent': 9 } })).toBe(
      'I',
    );
  });
  it.each([
    [0.1, 4, 0.4],
    [0.18, 4, 0.4],
    [0.75, 4, 0.57],
    [7.5, 4, 0.75],
    [200, 4, 0.85],
    [500, 4, 0.85],
    [7.5, 2, 0.78],
    [7.5, 6, 0.7],
    [7.5, 8, 0.66],
    [7.5, 12, 0.62],
    // half way on the logarithm between 3 and 7.5 kW
    [Math.sqrt(3 * 7.5), 4, 0.725],
  ])('usual efficiency × power factor of %d kW, %i poles: %d', (kW, poles, product) =>
    expect(usualProduct(kW, poles)).toBeCloseTo(product, 9),
  );
  it('output against volts and amperes: by the plate within 12 %, by size within 22 %', () => {
    const of = (ratio: number, more: object = {}, record: object = {}) =>
      said('output-together', {
        record: { connection: 'wye', poles: 4, ...record },
        nameplate: {
          voltagesV: [400],
          currentsA: [(7500 * 1) / (Math.sqrt(3) * 400 * 0.75 * ratio)],
          outputW: 7500,
          ...more,
        },
      });
    const plate = { efficiencyPercent: 100, powerFactor: 0.75 };
    expect([of(1.12, plate), of(1 / 1.12, plate), of(1.22), of(1 / 1.22)]).toEqual([[], [], [], []]);
    expect(of(1.121, plate)[0]).toMatch(
      /^W connection: .*the plate says 0\.75\. Was 7\.5 hp meant\? That is 5\.59 kW\.$/,
    );
    expect(of(1 / 1.121, plate)[0]).toMatch(/Was 10\.1 kW meant, not hp\?$/);
    expect(of(1.221)[0]).toMatch(/motors of this size have about 0\.75/);
    expect(of(1 / 1.221)).toHaveLength(1);
    expect(of(2, { machine: 'permanent magnet' })).toEqual([]);
    expect(of(2, {}, { kind: 'single-phase' })).toEqual([]);
    expect(of(2, {}, { kind: 'two-speed' })).toEqual([]);
    for (const missing of ['voltagesV', 'currentsA', 'outputW']) expect(of(2, { [missing]: undefined })).toEqual([]);
    expect(of(2, {}, { poles: undefined })).toEqual([]);
    expect(of(2, { poles: 4 }, { poles: undefined })).toHaveLength(1);
    expect(of(2, { ...plate, poles: undefined }, { poles: undefined })).toHaveLength(1);
  });
  it('full pitch in two layers of an ordinary lap is asked about', () => {
    const of = (more: object = {}) =>
      said('full-pitch', { record: { layers: 'double', slots: 36, poles: 4, spansSlots: [9], ...more } });
    expect(of()[0]).toMatch(/^I spansSlots: 1-10 is full pitch/);
    for (const other of [
      { spansSlots: [8] },
      { layers: 'single' },
      { form: 'concentric' },
      { spansSlots: [9, 7] },
      { kind: 'two-speed' },
      { slots: undefined },
      { poles: undefined },
      { spansSlots: undefined },
      { slots: 8, spansSlots: [2] },
    ])
      expect(of(other)).toEqual([]);
    expect(of({ form: 'lap', slots: 12, spansSlots: [3] })).toHaveLength(1);
  });
});
