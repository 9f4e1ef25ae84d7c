import fc from 'fast-check';
import { draws } from '../../../../scripts/testing/draws.ts';
import { describe, expect, it } from 'vitest';
import { worked } from '../../../../scripts/testing/worked.ts';
import { findUnit, toBase } from '../quantity/units.ts';
import { afterFinish, afterReopen, viewRoute, type StepState } from './engine.ts';
import { cureRate, processCure } from './cure.ts';
import { judgeRecord } from './judgeRecord.ts';
import { operation } from './operations.ts';
import {
  ancestorsOf,
  descendantsOf,
  inOrder,
  operationHours,
  routeFor,
  routeHours,
  ROUTES,
  shaftHeightMm,
  withoutOperations,
} from './routes.ts';
import { defaultMaxGapMin, rampRates, readTraceCsv, timeAbove } from './trace.ts';

/** Process reference, section 4.5: public traces. */
const A = '0,24 30,78 60,106 90,121 120,129 150,133 180,135 240,136 300,137 360,137 420,136 480,136 510,112 540,88';
const B = '0,24 60,108 120,131 180,136 240, 300, 360,137 420,137 480,136 540,136 600,90';
const points = (text: string) =>
  text
    .split(' ')
    .map((p) => p.split(','))
    .filter((p) => p[1] !== '')
    .map(([t, c]) => ({ t: Number(t), c: Number(c) }));
const cure = (text: string, more: object = {}, resin: object = {}) => {
  const rows = text.split(' ').map((p) => p.split(','));
  return worked(processCure, {
    timesMin: rows.map((r) => Number(r[0])),
    channels: [{ name: 'part', role: 'part', valuesC: rows.map((r) => (r[1] === '' ? null : Number(r[1]))) }],
    resin: { name: 'polyester', ratedC: 135, ratedH: 6, maxC: 155, floorC: null, ...resin },
    maxGapMin: 90,
    ...more,
  });
};

describe('cure (docs/sources.md)', () => {
  it('trace A: 1.1895 by doubling, 1.1836 by Arrhenius 95, cured', () => {
    expect(cure(A).degree).toBeCloseTo(1.1895, 3);
    expect(cure(A).processVerdict).toBe('cured');
    expect(cure(A, {}, { rate: { law: 'arrhenius', activationKJMol: 95 } }).degree).toBeCloseTo(1.1836, 3);
  });
  it('a floor left out is 15 K under the rated temperature, as when it is said', () => {
    expect(cure(A, {}, { floorC: undefined }).degree).toBe(cure(A, {}, { floorC: 120 }).degree);
    expect(cure(A, {}, { floorC: undefined }).degree).toBeLessThan(cure(A).degree ?? 0);
  });
  it('the gap is three times the true median step', () => {
    expect(defaultMaxGapMin([0, 1, 3, 6, 10])).toBe(7.5);
    expect(defaultMaxGapMin([0, 10, 20, 40])).toBe(30);
    expect(defaultMaxGapMin([5])).toBe(0);
  });
  it('trace A with no credit below 135 °C: 0.9991, under-cured', () => {
    const x = cure(A, {}, { floorC: 135 });
    expect(x.degree).toBeCloseTo(0.9991, 3);
    expect(x.verdict).toBe('fail');
  });
  it('trace A: 301.25 min at 135 °C, heating 1.367, cooling 0.800 K/min', () => {
    expect(timeAbove(points(A), 135, 90)).toEqual({
      totalMin: expect.closeTo(301.25, 3),
      longestMin: expect.closeTo(301.25, 3),
    });
    const ramp = rampRates(points(A), 60, 90);
    expect(ramp.heatingKMin).toBeCloseTo(1.367, 3);
    expect(ramp.coolingKMin).toBeCloseTo(0.8, 3);
    expect(cure(A).schools).toEqual({ equivalentTime: true, holdOnly: false });
  });
  it('trace B with a gap: D 0.8857, with the gap 1.4408, undetermined', () => {
    const x = cure(B, {}, { floorC: 95 });
    expect(x.degree).toBeCloseTo(0.8857, 3);
    expect(x.degreeWithGaps).toBeCloseTo(1.4408, 3);
    expect(x.processVerdict).toBe('undetermined');
    expect(x.verdict).toBe('cannot judge');
  });
  it('equal holds and rates (C41, C43)', () => {
    const doubling = { law: 'doubling', doublingK: 10 } as const;
    expect(6 / cureRate(150, 135, doubling, null, 200)).toBeCloseTo(2.121, 3);
    expect(6 / cureRate(125, 135, doubling, null, 200)).toBeCloseTo(12, 3);
    expect(cureRate(145, 135, { law: 'arrhenius', activationKJMol: 95 }, null, 200)).toBeCloseTo(1.9532, 4);
  });
  it('over-temperature is told from the hottest, cure from the coldest part, air is never believed', () => {
    const t = [0, 60, 120, 480, 540];
    const run = (channels: object[]) =>
      worked(processCure, {
        timesMin: t,
        channels,
        resin: { name: 'x', ratedC: 135, ratedH: 4 },
        maxGapMin: 400,
      });
    const warm = { name: 'warm', role: 'part', valuesC: [20, 136, 140, 140, 90] };
    const cold = { name: 'cold', role: 'part', valuesC: [20, 90, 110, 112, 80] };
    expect(run([warm, cold]).processVerdict).toBe('under_cured');
    expect(run([{ ...warm, valuesC: [20, 136, 160, 140, 90] }, cold]).processVerdict).toBe('over_temperature');
    expect(run([{ ...warm, role: 'oven air' }]).processVerdict).toBe('undetermined');
  });
  it('a frozen sensor beside a moving one is not believed', () => {
    const t = Array.from({ length: 20 }, (_, i) => i * 30);
    const x = worked(processCure, {
      timesMin: t,
      resin: { name: 'x', ratedC: 135, ratedH: 4 },
      channels: [
        { name: 'stuck', role: 'part', valuesC: t.map(() => 136) },
        { name: 'air', role: 'oven air', valuesC: t.map((m) => 20 + m / 4) },
      ],
    });
    expect(x.processVerdict).toBe('undetermined');
  });
  it('never falls when the part is hotter, and doubles with twice the time', () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: 90, max: 150, noNaN: true }), { minLength: 3, maxLength: 30 }), (temps) => {
        const run = (list: number[], step: number) =>
          worked(processCure, {
            timesMin: list.map((_, i) => i * step),
            channels: [{ name: 'p', role: 'part', valuesC: list }],
            resin: { name: 'x', ratedC: 135, ratedH: 6 },
            maxGapMin: 1000,
          }).degree ?? 0;
        const d = run(temps, 10);
        expect(
          run(
            temps.map((c) => c + 1),
            10,
          ),
        ).toBeGreaterThanOrEqual(d);
        expect(run(temps, 20)).toBeCloseTo(2 * d, 9);
      }),
    );
  });
});

describe('oven logs as files', () => {
  it('semicolons, decimal comma, clock past midnight, several channels', () => {
    const x = readTraceCsv('Zeit;Teil;Luft\n23:30;24,5;80\n00:00;60,1;140,5\n00:30;;141\n');
    expect(x.trace.timesMin).toEqual([0, 30, 60]);
    expect(x.trace.channels.map((c) => c.valuesC)).toEqual([
      [24.5, 60.1, null],
      [80, 140.5, 141],
    ]);
    expect(x.badRows).toEqual([]);
    expect(x.timeKind).toBe('clock');
  });
  it('°F by header; bad rows named with their line', () => {
    const x = readTraceCsv('min,part °F\n0,77\n10,abc\nx,80\n20,275\n30,9999\n');
    expect(x.unit).toBe('°F');
    expect(x.trace.channels[0]?.valuesC[0]).toBeCloseTo(25, 9);
    expect(x.badRows.map((r) => r.line)).toEqual([3, 4, 6]);
    expect(x.badRows.every((r) => r.reason.endsWith('.'))).toBe(true);
  });
  it('sorts, and of equal times the last received wins', () => {
    const x = readTraceCsv('10,50\n0,20\n10,55\n');
    expect(x.trace.timesMin).toEqual([0, 10]);
    expect(x.trace.channels[0]?.valuesC).toEqual([20, 55]);
  });
  it('takes any text without throwing', () => {
    fc.assert(
      fc.property(fc.string(), (text) => {
        readTraceCsv(text);
      }),
    );
  });
});

describe('routes (common practice)', () => {
  it('rewind: 50 operations, 66 edges', () => {
    const graph = ROUTES.ac_random_rewind.graph;
    expect(Object.keys(graph)).toHaveLength(50);
    expect(Object.values(graph).flat()).toHaveLength(66);
  });
  it('hours at shaft height 132', () => {
    const rewind = routeHours(ROUTES.ac_random_rewind.graph, 132);
    expect(rewind.labourH).toBeCloseTo(19.89, 1);
    expect(rewind.shortestElapsedH).toBeCloseTo(57.09, 1);
    // process.md C06, shaft height 400
    const form = routeHours(ROUTES.ac_form_rewind.graph, 400);
    expect(form.labourH).toBeCloseTo(207.85, 1);
    expect(form.shortestElapsedH).toBeCloseTo(257.14, 1);
    const overhaul = routeHours(ROUTES.overhaul.graph, 132);
    expect(overhaul.labourH).toBeCloseTo(7.08, 1);
    expect(overhaul.shortestElapsedH).toBeCloseTo(22.5, 1);
    expect(operationHours(operation('WND'), 160).labourH).toBeCloseTo(1.582, 3);
  });
  it('shaft height of NEMA frames', () => {
    expect(shaftHeightMm('254T', 'NEMA')).toBeCloseTo(158.75, 2);
    expect(shaftHeightMm('56', 'NEMA')).toBeCloseTo(88.9, 2);
    expect(shaftHeightMm('132M', 'IEC')).toBe(132);
  });
  it('a failed CT2 sends DSG, SLP and WND to recheck and leaves RBL ready', () => {
    const graph = ROUTES.ac_random_rewind.graph;
    const states: Record<string, StepState> = {};
    for (const code of [...ancestorsOf(graph, 'CT2'), 'CT2', 'DSG', 'SLP', 'WND', 'MRP', 'DA2', 'DAT'])
      states[code] = 'passed';
    const after = afterFinish(graph, states, 'CT2', 'fail');
    expect(
      Object.entries(after)
        .filter(([, s]) => s === 'recheck')
        .map(([c]) => c)
        .sort(),
    ).toEqual(['DSG', 'SLP', 'WND']);
    expect(
      viewRoute(graph, after)
        .filter((v) => v.status === 'ready')
        .map((v) => v.code),
    ).toEqual(['RBL']);
  });
  it('reopening the step that mends: what followed goes to recheck, the failed test is to be done again', () => {
    const graph = ROUTES.ac_random_rewind.graph;
    const states: Record<string, StepState> = Object.fromEntries(
      [...ancestorsOf(graph, 'PVT')].map((c) => [c, 'passed']),
    );
    const failed = afterFinish(graph, states, 'PVT', 'fail');
    expect(viewRoute(graph, failed).find((v) => v.code === 'PRE')?.status).toBe('blocked');
    const reopened = afterReopen(graph, failed, 'CON');
    expect(reopened['PVT']).toBe('open');
    expect(reopened['LAC']).toBe('recheck');
    expect(viewRoute(graph, reopened).find((v) => v.code === 'CON')?.status).toBe('ready');
  });
  it('done but not passed never opens a hold: no impregnation before passed pre-varnish tests', () => {
    const graph = ROUTES.ac_random_rewind.graph;
    for (const state of ['attention', 'undecided', 'failed', 'running', 'open', 'recheck'] as StepState[]) {
      const states = Object.fromEntries([...ancestorsOf(graph, 'PVT')].map((c) => [c, 'passed' as StepState]));
      const view = viewRoute(graph, { ...states, PVT: state }).find((v) => v.code === 'PRE');
      expect(view?.status).not.toBe('ready');
    }
  });
  it('hold points are ancestors in every variant, and every variant is acyclic', () => {
    for (const came of ['whole motor', 'stator only', 'rotor only'] as const) {
      for (const imp of ['dip', 'vacuum-pressure', 'trickle', 'bonded wire'] as const) {
        const graph = routeFor('ac_random_rewind', came, imp);
        expect(inOrder(graph)).toHaveLength(Object.keys(graph).length);
        for (const code of ['IMPD', 'IMPV', 'IMPT', 'IMPB'])
          if (code in graph) expect(ancestorsOf(graph, code)).toContain('PVT');
        if (came === 'stator only') expect(Object.keys(graph).some((c) => operation(c).rail === 'rotor')).toBe(false);
        if (came === 'rotor only') expect(Object.keys(graph).some((c) => operation(c).rail === 'stator')).toBe(false);
        expect(ancestorsOf(graph, 'DSP').size).toBe(Object.keys(graph).length - 1);
      }
    }
  });
  it('taking operations out keeps the order of the rest', () => {
    fc.assert(
      fc.property(fc.subarray(Object.keys(ROUTES.ac_random_rewind.graph)), (remove) => {
        const before = ROUTES.ac_random_rewind.graph;
        const after = withoutOperations(before, new Set(remove));
        for (const code of Object.keys(after)) {
          const kept = [...ancestorsOf(before, code)].filter((c) => !remove.includes(c)).sort();
          expect([...ancestorsOf(after, code)].sort()).toEqual(kept);
        }
        expect(descendantsOf(after, 'INT').size).toBeLessThanOrEqual(50);
      }),
      { numRuns: draws(60) },
    );
  });
});

/** Values in the unit their rule speaks, as the base units they are recorded in. */
function based(code: string, values: object): Record<string, never> {
  const unit = (name: string) =>
    operation(code).accept.flatMap((r) => ('unit' in r && r.field === name ? [r.unit] : []))[0];
  return Object.fromEntries(
    Object.entries(values).map(([name, v]) => {
      const read = operation(code).fields.find((f) => f.name === name)?.read;
      const u = unit(name);
      return [
        name,
        typeof v === 'number' && read?.kind === 'quantity' && u && findUnit(read.dimension, u)
          ? toBase(v, read.dimension, u)
          : v,
      ];
    }),
  ) as Record<string, never>;
}

describe('what was recorded is judged', () => {
  const context = { limits: {}, earlier: { CT1: { loss: 3 } }, person: { name: 'Ada' } };
  /** docs/derivations.md 15 and docs/derivations.md 15 (common practice): at, just above, absent. */
  const core = (code: 'CT1' | 'CT2', more: object, before: object = { loss: 3, flux: 1.32 }, limits = {}) =>
    judgeRecord(
      operation(code),
      { loopTurns: 10, flux: 1.32, hotSpot: 4, loss: 3, ...more },
      {
        ...context,
        limits,
        earlier: { CT1: before as never },
      },
    );
  it.each([
    [{ loss: 8.8 }, 'pass'],
    [{ loss: 8.81 }, 'attention'],
    [{ loss: 13.2 }, 'attention'],
    [{ loss: 13.21 }, 'fail'],
    [{ hotSpot: 10 }, 'pass'],
    [{ hotSpot: 10.1 }, 'attention'],
    [{ hotSpot: 15 }, 'attention'],
    [{ hotSpot: 15.1 }, 'fail'],
  ])('core test before heat, %j: %s', (more, verdict) => expect(core('CT1', more).verdict).toBe(verdict));
  it.each([
    [{ loss: 3.3 }, 'pass'],
    [{ loss: 3.301 }, 'attention'],
    [{ loss: 3.6 }, 'attention'],
    [{ loss: 3.601 }, 'fail'],
    [{ hotSpot: 15.1 }, 'fail'],
    // 5 % more flux: losses go with its square, 3.3075 is no rise at all
    [{ flux: 1.386, loss: 3.3075 }, 'pass'],
    [{ flux: 1.386, loss: 3.64 }, 'attention'],
    [{ flux: 1.387, loss: 3 }, 'cannot judge'],
    [{ flux: 1.253, loss: 3 }, 'cannot judge'],
  ])('core test again, %j: %s', (more, verdict) => expect(core('CT2', more).verdict).toBe(verdict));
  it('without a figure before, loss and hot spot judge alone and the verdict says so; without a flux density nothing is compared', () => {
    expect(core('CT2', {}, {})).toMatchObject({
      verdict: 'pass',
      reason: expect.stringMatching(/no figure to compare/),
    });
    expect(core('CT2', { loss: 13.3 }, {}).verdict).toBe('fail');
    expect(core('CT2', {}, { loss: 3 }).verdict).toBe('cannot judge');
    expect(core('CT2', { loss: 3.5 }, undefined, { 'core.risePass': 20 }).verdict).toBe('pass');
  });
  it.each([
    [{ shaftEnd: 0.05 }, 'pass'],
    [{ shaftEnd: 0.0501, shaftDiameter: 41 }, 'fail'],
    [{ shaftEnd: 0.075, shaftDiameter: 41.1 }, 'pass'],
    [{ shaftEnd: 0.0751, shaftDiameter: 41.1 }, 'fail'],
    [{ shaftEnd: 0.06 }, 'cannot judge'],
    [{ shaftEnd: 0.08 }, 'fail'],
    [{ core: 0.05, airGap: 0.5 }, 'pass'],
    [{ core: 0.051, airGap: 0.5 }, 'fail'],
    [{ core: 0.02 }, 'cannot judge'],
    [{ seats: 0.0101 }, 'fail'],
  ])('run-out %j: %s', (mm, verdict) => {
    const values = Object.fromEntries(
      Object.entries({ seats: 0.01, shaftEnd: 0.03, ...mm }).map(([k, v]) => [k, v / 1000]),
    );
    expect(judgeRecord(operation('RJR'), values, context).verdict).toBe(verdict);
  });
  it.each([
    ['RBT', { open: 0, swing: 3 }, 'pass'],
    ['RBT', { open: 0, swing: 3.01 }, 'attention'],
    ['RBT', { open: 0, swing: 5 }, 'attention'],
    ['RBT', { open: 0, swing: 5.01 }, 'fail'],
    ['RBT', { open: 1, swing: 1 }, 'fail'],
    ['BRN', { partMax: 350, hoursAbove: 180, corePlate: 'organic' }, 'pass'],
    ['BRN', { partMax: 350, hoursAbove: 179, corePlate: 'organic' }, 'attention'],
    ['COL', { atOpening: 120, rate: 60 }, 'pass'],
    ['COL', { atOpening: 120.1, rate: 60 }, 'attention'],
    ['COL', { atOpening: 120, rate: 60.1 }, 'attention'],
    ['PRE', { masked: true, part: 100, hours: 120, steady: true }, 'pass'],
    ['PRE', { masked: true, part: 100, hours: 119, steady: true }, 'attention'],
    ['IMPV', { hold: 60 }, 'pass'],
    ['IMPV', { hold: 59 }, 'attention'],
    ['BRG', { seated: true, heated: 110 }, 'pass'],
    ['BRG', { seated: true, heated: 110.1 }, 'attention'],
  ])('%s %j: %s', (code, values, verdict) => {
    // times and temperatures in the base units of their fields
    expect(judgeRecord(operation(code), based(code, values), context).verdict).toBe(verdict);
  });
  it('burn-off limit follows the core plate', () => {
    const values = { partMax: 380, hoursAbove: 300 };
    expect(judgeRecord(operation('BRN'), { ...values, corePlate: 'unknown' }, context).verdict).toBe('fail');
    expect(judgeRecord(operation('BRN'), { ...values, corePlate: 'inorganic' }, context).verdict).toBe('pass');
    expect(
      judgeRecord(
        operation('BRN'),
        { ...values, corePlate: 'unknown' },
        { ...context, limits: { 'route.burnOffOrganicC': 385 } },
      ).verdict,
    ).toBe('pass');
  });
  it('a second person must be another one', () => {
    expect(judgeRecord(operation('DSG'), { secondName: 'ada ' }, context).verdict).toBe('fail');
    expect(judgeRecord(operation('DSG'), { secondName: 'Bo' }, context).verdict).toBe('pass');
  });
  it('air gap: each within 10 % of the mean', () => {
    expect(judgeRecord(operation('RGP'), { smallest: 0.00045, largest: 0.00055, mean: 0.0005 }, context).verdict).toBe(
      'pass',
    );
    expect(judgeRecord(operation('RGP'), { smallest: 0.0004, largest: 0.0006, mean: 0.0005 }, context).verdict).toBe(
      'fail',
    );
  });
});
