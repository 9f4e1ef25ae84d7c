import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { CalculationInputError } from '../calculation.ts';
import { runCalculation, type Calculation } from '../calculation.ts';
import { draws } from '../../../../scripts/testing/draws.ts';
import { worked } from '../../../../scripts/testing/worked.ts';
import { processBondedWire } from './bondedWire.ts';
import { cupAtReference, pickUpOf, processDip, thinnerKg } from './dip.ts';
import { processResinToHold } from './resinToHold.ts';
import { judgeSensor, platinumC, platinumOhm, processSensors, sensorOf, sensorsAt, sensorSchema } from './sensors.ts';
import { processShelfTrend } from './shelfTrend.ts';
import { processTrickle } from './trickle.ts';

const refusedAt = (calculation: Calculation, input: unknown): string => {
  try {
    runCalculation(calculation, input);
    return 'taken';
  } catch (error) {
    return (error as CalculationInputError).field;
  }
};

describe('dip: check values C50 to C52', () => {
  it('C50: 38 s at 18 °C are 29.74 s at 25 °C', () => expect(cupAtReference(38, 18, 25, 0.035)).toBeCloseTo(29.74, 2));
  it('C51: 40 kg from 50 to 45 % solids want 4.444 kg of thinner', () =>
    expect(thinnerKg(40, 0.5, 0.45)).toBeCloseTo(4.444, 3));
  it('C52: 118.4, 120.9, 119.5 kg: 2.5 kg wet, 1.1 kg cured, 0.44 stayed', () => {
    const left = pickUpOf(118.4, 120.9, 119.5);
    expect(left.wetKg).toBeCloseTo(2.5, 9);
    expect(left.curedKg).toBeCloseTo(1.1, 9);
    expect(left.curedPercent).toBeCloseTo(0.929, 3);
    expect(left.retention).toBeCloseTo(0.44, 9);
    expect(pickUpOf(118.4, 120.9)).toEqual({ wetKg: expect.closeTo(2.5, 9) as number });
    expect(pickUpOf(118.4, 118.4, 118.4).retention).toBeUndefined();
  });
  it.each([
    [29.99, /thinner than 30 s: top up/],
    [30, /inside 30 to 40 s/],
    [40, /inside 30 to 40 s/],
    [40.01, /thicker than 40 s: thin it/],
  ])('a cup of %d s at the reference temperature in a band of 30 to 40', (cupS, says) => {
    const dip = worked(processDip, { cupS, resinC: 25, cupFromS: 30, cupToS: 40 }, 1);
    expect(dip.says[0]).toMatch(says);
    expect(dip.inBand).toBe(cupS >= 30 && cupS <= 40);
  });
  it.each([
    [119.65, /as its solids/],
    [119.41, /as its solids/],
    [119.39, /ran out before it gelled/],
    [119.89, /as its solids/],
    [119.91, /weigh again/],
  ])('of 2.5 kg wet at 50 %% solids, %d kg after the cure', (curedKg, says) =>
    expect(worked(processDip, { solids: 0.5, beforeKg: 118.4, drainedKg: 120.9, curedKg }).says[0]).toMatch(says),
  );
  it('says how much thinner, and to read again', () =>
    expect(worked(processDip, { bathKg: 40, solids: 0.5, solidsWanted: 0.45 })).toMatchObject({
      says: ['Add 4.444 kg of thinner, stir, and read the cup again.'],
    }));
  it.each([
    ['a cup without a temperature', { cupS: 30 }, 'resinC'],
    ['a band that ends below its beginning', { cupS: 30, resinC: 20, cupFromS: 40, cupToS: 30 }, 'cupToS'],
    ['more solids by thinner', { bathKg: 4, solids: 0.4, solidsWanted: 0.5 }, 'solidsWanted'],
    ['lighter after the dip', { beforeKg: 10, drainedKg: 9 }, 'drainedKg'],
    ['heavier after the cure', { beforeKg: 10, drainedKg: 11, curedKg: 12 }, 'curedKg'],
  ])('%s is refused', (_, input, field) => expect(refusedAt(processDip, input)).toBe(field));
});

describe('trickle: check value C57', () => {
  const C57 = {
    slots: 24,
    coreM: 0.09,
    slotAreaM2: 92e-6,
    wires: 46,
    overallM: 0.96e-3,
    linerWidthM: 0.04,
    linerM: 0.25e-3,
    otherM2: 9e-6,
    endSectionM2: 420e-6,
    endDiameterM: 0.105,
    endWireShare: 0.6,
  };
  it('39.70 mm² of void in a slot, 179.21 g', () => {
    const resin = worked(processTrickle, C57, 1);
    expect(resin.slotVoidM2 * 1e6).toBeCloseTo(39.7, 1);
    expect(resin.kg * 1000).toBeCloseTo(179.21, 1);
    expect(resin.slotsKg + resin.endsKg).toBeCloseTo(resin.kg, 12);
  });
  it('a slot with more in it than it holds is refused', () =>
    expect(refusedAt(processTrickle, { ...C57, wires: 110 })).toBe('slotAreaM2'));
});

describe('bonding by current: check values C58 to C60', () => {
  const C58 = { coldOhm: 0.5, coldC: 22, nowOhm: 0.79 };
  it('C58: 0.500 Ω at 22 °C, 0.790 Ω now: 170.77 °C; 176.97 °C with 0.02 Ω of leads', () => {
    expect(worked(processBondedWire, C58, 2).nowC).toBeCloseTo(170.77, 1);
    expect(worked(processBondedWire, { ...C58, leadOhm: 0.02 }, 2).nowC).toBeCloseTo(176.97, 1);
  });
  it('C59: 190 °C reads 0.8275 Ω of copper, 0.8401 Ω of aluminium', () => {
    const at190 = { coldOhm: 0.5, coldC: 22, fromC: 180, toC: 200 };
    expect(worked(processBondedWire, at190).targetOhm).toBeCloseTo(0.8275, 4);
    expect(worked(processBondedWire, { ...at190, material: 'aluminium' }).targetOhm).toBeCloseTo(0.8401, 4);
  });
  it('C60: 0.8 kg from 22 to 190 °C: 22.11 s at 60 A, 26.50 s at 36 V', () => {
    const pulse = worked(processBondedWire, { coldOhm: 0.5, coldC: 22, wireKg: 0.8, amps: 60, volts: 36 });
    expect(pulse.byCurrentS).toBeCloseTo(22.11, 1);
    expect(pulse.byVoltageS).toBeCloseTo(26.5, 1);
  });
  it.each([
    [179.9, 'fail'],
    [180.001, 'pass'],
    [199.999, 'pass'],
    [200.1, 'attention'],
  ])('%d °C against a window of 180 to 200', (c, verdict) =>
    expect(worked(processBondedWire, { coldOhm: 0.5, coldC: 22, nowOhm: (0.5 * (234.5 + c)) / 256.5 }).verdict).toBe(
      verdict,
    ),
  );
  it('without a reading at the end: cannot judge, but the resistance to stop at is known', () =>
    expect(worked(processBondedWire, { coldOhm: 0.5, coldC: 22 })).toMatchObject({ verdict: 'cannot judge' }));
  it.each([
    ['leads of all the resistance', { coldOhm: 0.5, coldC: 22, leadOhm: 0.5 }, 'leadOhm'],
    ['a window of nothing', { coldOhm: 0.5, coldC: 22, fromC: 190, toC: 190 }, 'toC'],
  ])('%s is refused', (_, input, field) => expect(refusedAt(processBondedWire, input)).toBe(field));
});

describe('resin in its tank: check values C54, C55', () => {
  it('C54: Ø1200, stand 80, part 900, cover 100, 1450 kg steel, 260 kg copper: 1002.7 l at 1080 mm', () => {
    const resin = worked(
      processResinToHold,
      {
        tankM: 1.2,
        standM: 0.08,
        partM: 0.9,
        coverM: 0.1,
        solids: [
          { of: 'steel', kg: 1450 },
          { of: 'copper', kg: 260 },
        ],
      },
      1,
    );
    expect(resin.litre).toBeCloseTo(1002.7, 1);
    expect(resin.levelM).toBeCloseTo(1.08, 9);
  });
  it.each([
    [200, 9, 'more are needed'],
    [209.08, 0, 'Enough is stored'],
    [300, 0, 'Enough is stored'],
  ])('%d l stored for 209.06 l', (storedL, missing, says) => {
    const held = worked(processResinToHold, { tankM: 0.55, partM: 0.78, coverM: 0.1, storedL });
    expect(held.litre).toBeCloseTo(209.07, 1);
    expect(Math.floor(held.missingL ?? -1)).toBe(missing);
    expect(held.says).toContain(says);
  });
  it.each([
    ['more iron than tank', { tankM: 0.3, partM: 0.3, solids: [{ of: 'steel', kg: 900 }] }, 'solids'],
    ['more stored than the tank holds', { tankM: 1, partM: 1, storedL: 900, storageL: 800 }, 'storedL'],
  ])('%s is refused', (_, input, field) => expect(refusedAt(processResinToHold, input)).toBe(field));
  it('C55: 620, 668, 719, 776 mPa·s on days 0, 30, 60, 90 reach 1000 on day 192.1', () => {
    const trend = worked(processShelfTrend, {
      readings: [620, 668, 719, 776].map((viscosity, i) => ({ day: 30 * i, viscosity })),
      limit: 1000,
    });
    expect(trend.limitDay).toBeCloseTo(192.1, 0);
    expect(trend.says).toMatch(/day 192\.$/);
  });
  it('a resin that does not thicken has no day; readings of one day are refused', () => {
    const flat = (viscosities: number[]) => ({
      readings: viscosities.map((viscosity, day) => ({ day, viscosity })),
      limit: 1000,
    });
    expect(worked(processShelfTrend, flat([600, 600])).limitDay).toBeUndefined();
    expect(worked(processShelfTrend, flat([600, 590]))).toMatchObject({ says: 'It does not thicken.' });
    expect(
      refusedAt(processShelfTrend, {
        readings: [
          { day: 3, viscosity: 5 },
          { day: 3, viscosity: 6 },
        ],
        limit: 9,
      }),
    ).toBe('readings');
  });
});

describe('sensors and heaters: check value C72', () => {
  it('107.79 Ω at 20 °C, 138.51 Ω at 100 °C, 110.9 Ω = 28.01 °C', () => {
    expect(platinumOhm(20)).toBeCloseTo(107.79, 2);
    expect(platinumOhm(100)).toBeCloseTo(138.51, 2);
    expect(platinumC(110.9)).toBeCloseTo(28.01, 2);
  });
  it('resistance and temperature are each other’s inverse', () =>
    fc.assert(
      fc.property(fc.double({ min: 0, max: 250, noNaN: true }), (c) => {
        expect(platinumC(platinumOhm(c))).toBeCloseTo(c, 6);
      }),
      { numRuns: draws(50) },
    ));
  const sensor = (of: object) => judgeSensor(sensorSchema.parse({ insulationOhm: 1e8, partC: 20, ...of })).verdict;
  it.each([
    ['Pt100 2.99 K off', { kind: 'Pt100', ohm: platinumOhm(22.99) }, 'pass'],
    ['Pt100 3.01 K off', { kind: 'Pt100', ohm: platinumOhm(23.01) }, 'fail'],
    ['Pt100 3.01 K below', { kind: 'Pt100', ohm: platinumOhm(16.99) }, 'fail'],
    ['Pt100 of a part of unknown temperature', { kind: 'Pt100', ohm: 108, partC: undefined }, 'cannot judge'],
    ['PTC at its bound', { kind: 'PTC', ohm: 250 }, 'pass'],
    ['PTC above', { kind: 'PTC', ohm: 250.1 }, 'fail'],
    ['switch at its bound', { kind: 'switch', ohm: 1 }, 'pass'],
    ['switch above', { kind: 'switch', ohm: 1.01 }, 'fail'],
    ['heater right', { kind: 'heater', ohm: 529, ratedV: 230, ratedW: 100 }, 'pass'],
    ['heater a tenth high', { kind: 'heater', ohm: 581.9, ratedV: 230, ratedW: 100 }, 'pass'],
    ['heater more', { kind: 'heater', ohm: 582.5, ratedV: 230, ratedW: 100 }, 'fail'],
    ['heater less', { kind: 'heater', ohm: 475, ratedV: 230, ratedW: 100 }, 'fail'],
    ['heater without a rating', { kind: 'heater', ohm: 529 }, 'cannot judge'],
    ['thermocouple', { kind: 'thermocouple', ohm: 8 }, 'pass'],
    ['thermocouple of no resistance', { kind: 'thermocouple', ohm: 0 }, 'fail'],
    ['not measured', { kind: 'PTC' }, 'fail'],
    ['insulation at its bound', { kind: 'PTC', ohm: 90, insulationOhm: 10e6 }, 'pass'],
    ['insulation below', { kind: 'PTC', ohm: 90, insulationOhm: 9.9e6 }, 'fail'],
    ['insulation not measured', { kind: 'PTC', ohm: 90, insulationOhm: undefined }, 'fail'],
    ['no circuit', { kind: 'PTC', ohm: 2000, open: true }, 'fail'],
    ['insulation over the range', { kind: 'PTC', ohm: 90, insulationOhm: 2e9, insulationAbove: true }, 'pass'],
    [
      'over a range that ends too low',
      { kind: 'PTC', ohm: 90, insulationOhm: 5e6, insulationAbove: true },
      'cannot judge',
    ],
    ['insulation below the range', { kind: 'PTC', ohm: 90, insulationOhm: 1e5, insulationBelow: true }, 'fail'],
    [
      'below a range that begins at the limit',
      { kind: 'PTC', ohm: 90, insulationOhm: 10e6, insulationBelow: true },
      'fail',
    ],
    [
      'below a range that begins too high',
      { kind: 'PTC', ohm: 90, insulationOhm: 20e6, insulationBelow: true },
      'cannot judge',
    ],
  ])('%s', (_, of, verdict) => expect(sensor(of)).toBe(verdict));
  it.each([
    [{ kind: 'Pt100', ohm: platinumOhm(26) }, 'sensor.platinumK', 6],
    [{ kind: 'PTC', ohm: 300 }, 'sensor.ptcOhm', 300],
    [{ kind: 'switch', ohm: 2 }, 'sensor.switchOhm', 2],
    [{ kind: 'heater', ohm: 629, ratedV: 230, ratedW: 100 }, 'sensor.heaterPercent', 20],
    [{ kind: 'PTC', ohm: 90, insulationOhm: 2e6 }, 'sensor.insulationMOhm', 2],
  ] as const)('%o is judged by the limit of the shop', (of, id, own) => {
    const at = (limits: object) =>
      judgeSensor(sensorSchema.parse({ insulationOhm: 1e8, partC: 20, ...of }), limits as never).verdict;
    expect([at({}), at({ [id]: own })]).toEqual(['fail', 'pass']);
  });
  it('a sensor as typed, with a reading as typed', () => {
    const what = { kind: 'heater', mark: 'H1', place: 'non-drive end', ratedV: 230, ratedW: 100 };
    expect(sensorOf(what, { ohm: 529, part: 21, insulation: 2000, insulationOverRange: true })).toEqual({
      ...what,
      ohm: 529,
      partC: 21,
      insulationOhm: 2e9,
      open: false,
      insulationAbove: true,
      insulationBelow: false,
    });
    expect(
      sensorOf({ kind: 'PTC' }, { ohm: 2000, ohmOverRange: true, insulation: 0.1, insulationUnderRange: true }),
    ).toMatchObject({ mark: '', open: true, insulationBelow: true });
  });
  it('each must be measured and whole at the stage', () => {
    const fine = { stage: 'AC', verdict: 'pass', reason: '' } as const;
    const bad = { stage: 'AC', verdict: 'fail', reason: 'PT1: open.' } as const;
    const at = (stage: string, ...readings: (typeof fine | typeof bad)[][]) =>
      sensorsAt(
        stage,
        readings.map((r, i) => ({ mark: `PT${i + 1}`, readings: r })),
      );
    expect(at('AC')).toBeUndefined();
    expect(at('IN', [fine])).toBeUndefined();
    expect(at('fitted', [bad])).toBeUndefined();
    expect(at('AC', [fine], [fine])).toEqual({ verdict: 'pass', reason: '' });
    expect(at('AC', [fine], [])).toEqual({ verdict: 'cannot judge', reason: 'PT2 was not measured before resin.' });
    expect(at('VC', [fine])?.reason).toBe('PT1 was not measured after the cure.');
    expect(at('AC', [bad], [fine])).toEqual({ verdict: 'fail', reason: 'PT1: open.' });
    // the last reading counts
    expect(at('AC', [bad, fine])?.verdict).toBe('pass');
    expect(at('AC', [fine, bad])?.verdict).toBe('fail');
  });
  it('the worst of them counts, and each is said', () => {
    const all = worked(processSensors, {
      items: [
        { kind: 'PTC', mark: '1TP', ohm: 90, insulationOhm: 1e8 },
        { kind: 'switch', mark: '2TB', ohm: 40, insulationOhm: 1e8 },
      ],
    });
    expect(all).toMatchObject({ verdict: 'fail', items: [{ verdict: 'pass' }, { verdict: 'fail' }] });
    expect(all.reason).toMatch(/^2TB: 40/);
    expect(worked(processSensors, { items: [{ kind: 'PTC', ohm: 90, insulationOhm: 1e8 }] }).reason).toBe(
      'All 1 whole.',
    );
  });
});
