import { describe, expect, it } from 'vitest';
import { judgeRecord } from './judgeRecord.ts';
import { processStrippedCopper } from './strippedCopper.ts';
import type { AcceptRule } from './operation.ts';
import { operation, OPERATIONS } from './operations.ts';

/** An operation of nothing but these rules, its fields in their own units. */
const op = (accept: readonly AcceptRule[]) =>
  ({
    code: 'XXX',
    title: 'X',
    accept,
    fields: [
      ['gap', 'Gap', 'length', 'mm'],
      ['size', 'Size', 'length', 'mm'],
      ['warm', 'Warmth', 'temperature', '°C'],
      ['time', 'Time', 'time', 'min'],
      ['share', 'Share', 'percent', '%'],
      ['mean', 'Mean', 'length', 'mm'],
      ['loss', 'Loss', 'number', ''],
      ['flux', 'Flux density', 'number', ''],
    ].map(([name, label, dimension, unit]) => ({ name, label, read: { kind: 'quantity', dimension, unit } })),
  }) as never;
const context = (more: object = {}) => ({ limits: {}, earlier: {}, person: { name: 'Ada' }, ...more });
const judge = (rule: AcceptRule, values: object, more: object = {}) =>
  judgeRecord(op([rule]), values as never, context(more));
const COPPER = [
  { name: 'copper', label: 'Copper', read: { kind: 'quantity', dimension: 'mass', unit: 'kg' } },
] as const;
const DONE = 'Recorded and complete.';

describe('each accept rule: just inside, at, just outside, absent', () => {
  it('nothing to judge is recorded and complete', () => {
    expect(judgeRecord(op([]), {}, context())).toEqual({ verdict: 'pass', reason: DONE });
  });
  it.each([
    [true, undefined, 'pass', DONE],
    [false, undefined, 'fail', 'Not seated.'],
    [false, 'attention', 'attention', 'Not seated.'],
    [undefined, undefined, 'pass', DONE],
  ] as const)('yes: %s (%s)', (value, verdict, wanted, reason) => {
    const rule = { rule: 'yes', field: 'seated', otherwise: 'Not seated.', ...(verdict ? { verdict } : {}) } as const;
    expect(judge(rule, { seated: value })).toEqual({ verdict: wanted, reason });
  });
  // airGapPercent 10, journalTirMm 0.01, preheatMin 120, coolingKH 60: published limits of the shop
  const most = { rule: 'at most', field: 'gap', limit: 'route.journalTirMm', unit: 'mm' } as const;
  it.each([
    [0.0000099, 'pass', DONE],
    [0.00001, 'pass', DONE],
    [0.0000101, 'fail', /^Gap 0\.0101 mm; at most .*0\.01/],
    [undefined, 'pass', DONE],
  ] as const)('at most, %s m: %s', (gap, verdict, reason) => {
    expect(judge(most, { gap })).toEqual({
      verdict,
      reason: typeof reason === 'string' ? reason : expect.stringMatching(reason),
    });
  });
  it('at most: softer, by the shop’s limit, per hour, and only when it applies', () => {
    expect(judge({ ...most, verdict: 'attention' }, { gap: 0.00002 }).verdict).toBe('attention');
    expect(judge(most, { gap: 0.00002 }, { limits: { 'route.journalTirMm': 0.02 } }).verdict).toBe('pass');
    const rate = { rule: 'at most', field: 'loss', limit: 'route.coolingKH', unit: 'K', per: 'h' } as const;
    expect(judge(rate, { loss: 61 }).reason).toMatch(/^Loss 61 K\/h; at most /);
    const when = { ...most, when: { field: 'kind', is: ['ball', 'roller'] } } as const;
    expect(judge(when, { gap: 1, kind: 'roller' }).verdict).toBe('fail');
    expect(judge(when, { gap: 1, kind: 'sleeve' }).verdict).toBe('pass');
    expect(judge(when, { gap: 1 }).verdict).toBe('pass');
  });
  const least = { rule: 'at least', field: 'time', limit: 'route.preheatMin', unit: 'min' } as const;
  it.each([
    [119.9, 'fail', /^Time 119\.9 min; at least .*120/],
    [120, 'pass', DONE],
    [120.1, 'pass', DONE],
    [undefined, 'pass', DONE],
  ] as const)('at least, %s min: %s', (time, verdict, reason) => {
    expect(judge(least, { time })).toEqual({
      verdict,
      reason: typeof reason === 'string' ? reason : expect.stringMatching(reason),
    });
  });
  it('at least, softer', () =>
    expect(judge({ ...least, verdict: 'attention' }, { time: 10 }).verdict).toBe('attention'));
  const within = {
    rule: 'within percent',
    fields: ['gap', 'size'],
    of: 'mean',
    percent: 'route.airGapPercent',
  } as const;
  it.each([
    [{ gap: 0.00045, size: 0.00055, mean: 0.0005 }, 'pass', DONE],
    [{ gap: 0.000449, size: 0.00055, mean: 0.0005 }, 'fail', /^Gap is 10\.2 % from the mean; at most /],
    [{ gap: 0.00045, size: 0.000552, mean: 0.0005 }, 'fail', /^Size is 10\.4 % from the mean/],
    [{ gap: 0.0004, size: 0.00057, mean: 0.0005 }, 'fail', /^Gap is 20 %/],
    [{ gap: 0.0004, mean: 0.0005 }, 'fail', /^Gap is 20 %/],
    [{ mean: 0.0005 }, 'pass', DONE],
    [{ gap: 0.0004, size: 0.0006, mean: 0 }, 'pass', DONE],
    [{ gap: 0.0004, size: 0.0006 }, 'pass', DONE],
  ] as const)('within percent, %j: %s', (values, verdict, reason) => {
    expect(judge(within, values)).toEqual({
      verdict,
      reason: typeof reason === 'string' ? reason : expect.stringMatching(reason),
    });
  });
  const none = { rule: 'equals', field: 'loss', value: 0, unit: 'open bars' } as const;
  it.each([
    [0, 'pass', DONE],
    [1, 'fail', '1 open bars; it must be 0.'],
    [undefined, 'pass', DONE],
  ] as const)('equals, %s: %s', (loss, verdict, reason) => expect(judge(none, { loss })).toEqual({ verdict, reason }));
  const band = {
    rule: 'band',
    field: 'share',
    unit: '%',
    pass: 'rotor.swingPass',
    attention: 'rotor.swingAttention',
  } as const;
  it.each([
    [3, 'pass', DONE],
    [3.01, 'attention', /^Share 3\.01 %; at most .*3/],
    [5, 'attention', /^Share 5 %; at most/],
    [5.01, 'fail', /^Share 5\.01 %; at most .*5/],
    [undefined, 'pass', DONE],
  ] as const)('band, %s %%: %s', (share, verdict, reason) => {
    expect(judge(band, { share })).toEqual({
      verdict,
      reason: typeof reason === 'string' ? reason : expect.stringMatching(reason),
    });
  });
  it('a band by the shop’s limits', () => {
    expect(judge(band, { share: 4 }, { limits: { 'rotor.swingPass': 4 } }).verdict).toBe('pass');
    expect(judge(band, { share: 6 }, { limits: { 'rotor.swingAttention': 6 } }).verdict).toBe('attention');
  });
  const rjr = operation('RJR').accept.find((r) => r.rule === 'at most by size') as AcceptRule;
  const share = operation('RJR').accept.find((r) => r.rule === 'at most share') as AcceptRule;
  it('by size: the larger limit only above the border, and no verdict between them while the size is missing', () => {
    const of = (shaftEnd: number, shaftDiameter?: number, limits = {}) =>
      judgeRecord(
        { ...operation('RJR'), accept: [rjr] },
        { shaftEnd: shaftEnd / 1000, ...(shaftDiameter === undefined ? {} : { shaftDiameter: shaftDiameter / 1000 }) },
        context({ limits }),
      );
    expect([of(0.05), of(0.0501), of(0.075), of(0.0751)].map((j) => j.verdict)).toEqual([
      'pass',
      'cannot judge',
      'cannot judge',
      'fail',
    ]);
    expect(of(0.06).reason).toMatch(/0\.06 mm: the limit depends on .*, which is missing\.$/);
    expect([of(0.05, 41), of(0.0501, 41), of(0.075, 41.1), of(0.0751, 41.1)].map((j) => j.verdict)).toEqual([
      'pass',
      'fail',
      'pass',
      'fail',
    ]);
    expect(of(0.0501, 41).reason).toMatch(/0\.0501 mm; at most .*0\.05/);
    expect(of(0.0751, 50).reason).toMatch(/0\.0751 mm; at most .*0\.075/);
    expect(judgeRecord({ ...operation('RJR'), accept: [rjr] }, {}, context())).toEqual({
      verdict: 'pass',
      reason: DONE,
    });
  });
  it.each([
    [{ core: 0.05, airGap: 0.5 }, 'pass', DONE],
    [{ core: 0.0501, airGap: 0.5 }, 'fail', /is 10\.\d+ % of .*; at most /],
    [{ core: 0.01 }, 'cannot judge', /is judged against .*, which is missing\.$/],
    [{ core: 0.01, airGap: 0 }, 'cannot judge', /which is missing/],
    [{ airGap: 0.5 }, 'pass', DONE],
  ] as const)('a share, %j: %s', (values, verdict, reason) => {
    const judged = judgeRecord({ ...operation('RJR'), accept: [share] }, values, context());
    expect(judged).toEqual({ verdict, reason: typeof reason === 'string' ? reason : expect.stringMatching(reason) });
  });
  const real = operation('CT2').accept.find((r) => r.rule === 'rise') as AcceptRule;
  it.each([
    [{ loss: 3.3, flux: 1.3 }, { loss: 3, flux: 1.3 }, 'pass', DONE],
    [{ loss: 3.31, flux: 1.3 }, { loss: 3, flux: 1.3 }, 'attention', /rose by 10\.3 % on CT1; at most/],
    [{ loss: 3.6, flux: 1.3 }, { loss: 3, flux: 1.3 }, 'attention', /rose by 20 % on CT1/],
    [{ loss: 3.61, flux: 1.3 }, { loss: 3, flux: 1.3 }, 'fail', /rose by 20\.3 % on CT1/],
    [
      { loss: 3.61, flux: 1.31 },
      { loss: 3, flux: 1.3 },
      'attention',
      /rose by 18\.5 % on CT1, at the same flux density/,
    ],
    [{ loss: 3, flux: 1.365 }, { loss: 3, flux: 1.3 }, 'pass', DONE],
    [
      { loss: 3, flux: 1.366 },
      { loss: 3, flux: 1.3 },
      'cannot judge',
      /^Flux densities 1\.3 and 1\.37 T are more than .* apart/,
    ],
    [{ loss: 3, flux: 1.234 }, { loss: 3, flux: 1.3 }, 'cannot judge', /^Flux densities/],
    [
      { loss: 3 },
      { loss: 3, flux: 1.3 },
      'cannot judge',
      /is missing at this test: losses compare only at the same flux density/,
    ],
    [{ loss: 3, flux: 0 }, { loss: 3, flux: 1.3 }, 'cannot judge', /is missing at this test/],
    [{ loss: 3, flux: 1.3 }, { loss: 3 }, 'cannot judge', /is missing at CT1/],
    [{ loss: 3, flux: 1.3 }, { loss: 3, flux: 0 }, 'cannot judge', /is missing at CT1/],
    [{ loss: 3, flux: 1.3 }, {}, 'pass', /^CT1 has no figure to compare with/],
    [{ loss: 3, flux: 1.3 }, { loss: 0, flux: 1.3 }, 'pass', /^CT1 has no figure/],
    [{ flux: 1.3 }, { loss: 3, flux: 1.3 }, 'pass', DONE],
  ] as const)('a rise, %j after %j: %s', (values, before, verdict, reason) => {
    const judged = judgeRecord({ ...operation('CT2'), accept: [real] }, values, context({ earlier: { CT1: before } }));
    expect(judged).toEqual({ verdict, reason: typeof reason === 'string' ? reason : expect.stringMatching(reason) });
    if (Object.keys(before).length === 0)
      expect(judgeRecord({ ...operation('CT2'), accept: [real] }, values, context()).reason).toMatch(
        /^CT1 has no figure/,
      );
  });
  it.each([
    ['pass', 'pass', 'Stated by Ada.'],
    ['attention', 'attention', 'Stated by Ada.'],
    ['fail', 'fail', 'Stated by Ada.'],
    ['perhaps', 'cannot judge', 'No outcome was stated.'],
    [undefined, 'cannot judge', 'No outcome was stated.'],
  ] as const)('stated %s: %s', (outcome, verdict, reason) =>
    expect(judge({ rule: 'stated', field: 'outcome' }, { outcome })).toEqual({ verdict, reason }),
  );
  it.each([
    ['Bo', 'pass', DONE],
    [' ADA ', 'fail', 'Second: a second person is needed, not Ada again.'],
    [undefined, 'pass', DONE],
    [7, 'pass', DONE],
  ] as const)('a second person %s: %s', (second, verdict, reason) => {
    const own = {
      ...(op([]) as object),
      fields: [{ name: 'second', label: 'Second', read: { kind: 'text' } }],
      accept: [{ rule: 'second person', field: 'second' }],
    };
    expect(judgeRecord(own as never, { second } as never, context())).toEqual({ verdict, reason });
  });
  it('of several rules the worst decides, and only those that decide speak', () => {
    const judged = judgeRecord(op([most, band, none]), { gap: 0.00002, share: 4, loss: 0 }, context());
    expect(judged.verdict).toBe('fail');
    expect(judged.reason).toMatch(/^Gap [^S]*$/);
    const two = judgeRecord(op([most, none]), { gap: 0.00002, loss: 2 }, context());
    expect(two.reason).toMatch(/^Gap .*\. 2 open bars; it must be 0\.$/);
  });
});

/**
 * What every operation asks of its record, spelt out: operation, field, bound in the unit of the rule, direction, verdict beyond
 * it. From docs/derivations.md 15 (common practice); a limit exchanged for another shows here.
 */
describe('the limits of the operations', () => {
  const table: [string, string, string, string][] = [];
  for (const o of OPERATIONS.values())
    for (const rule of o.accept) {
      if (rule.rule === 'at most' || rule.rule === 'at least')
        table.push([
          o.code,
          rule.field,
          `${rule.rule} ${rule.limit} ${rule.unit}${rule.rule === 'at most' && rule.per ? `/${rule.per}` : ''}`,
          rule.verdict ?? 'fail',
        ]);
      if (rule.rule === 'band')
        table.push([o.code, rule.field, `band ${rule.pass} ${rule.attention} ${rule.unit}`, 'fail']);
    }
  it('are these and no others', () => {
    expect(table.map((row) => row.join(' | ')).sort()).toEqual(
      [
        'BRG | heated | at most route.bearingHeatC °C | attention',
        'BRN | hoursAbove | at least route.burnOffMin min | attention',
        'BRN | partMax | at most route.burnOffInorganicC °C | fail',
        'BRN | partMax | at most route.burnOffOrganicC °C | fail',
        'COL | atOpening | at most route.openingC °C | attention',
        'COL | rate | at most route.coolingKH K/h | attention',
        'CT1 | hotSpot | band core.hotSpotPass core.hotSpotAttention K | fail',
        'CT1 | loss | band core.lossPass core.lossAttention W/kg | fail',
        'CT2 | hotSpot | band core.hotSpotPass core.hotSpotAttention K | fail',
        'CT2 | loss | band core.lossPass core.lossAttention W/kg | fail',
        'IMPD | part | at least route.dipFromC °C | attention',
        'IMPD | part | at most route.dipToC °C | attention',
        'IMPT | part | at least route.trickleFromC °C | attention',
        'IMPT | part | at most route.trickleToC °C | attention',
        'IMPV | hold | at least route.pressureHoldMin min | attention',
        'ODR | hours | at least route.preheatMin min | attention',
        'PRE | hours | at least route.preheatMin min | attention',
        'RBT | swing | band rotor.swingPass rotor.swingAttention % | fail',
        'RJR | seats | at most route.journalTirMm mm | fail',
        'SOK | bath | at most route.soakC °C | attention',
        'WPL | slots | at most route.pullC °C | attention',
        'WND | groupMass | at most route.groupMassPercent % | attention',
      ].sort(),
    );
  });
  it.each([
    ['ball', 'pass', DONE],
    ['roller', 'pass', DONE],
    ['sleeve', 'attention', 'Look at it.'],
    [undefined, 'pass', DONE],
  ])('one of: %s', (kind, verdict, reason) =>
    expect(
      judge({ rule: 'one of', field: 'kind', good: ['ball', 'roller'], otherwise: 'Look at it.' }, { kind }),
    ).toEqual({ verdict, reason }),
  );
  it.each([
    ['crushed shell', 'pass'],
    ['cob', 'pass'],
    ['plastic', 'pass'],
    ['glass bead', 'attention'],
    ['sand', 'attention'],
  ])('slots blasted with %s', (media, verdict) => {
    const judged = judgeRecord(operation('BLS'), { media, clean: true }, context());
    expect(judged.verdict).toBe(verdict);
    if (verdict !== 'pass') expect(judged.reason).toMatch(/test the core before anything else/);
  });
  const copper = { rule: 'copper', field: 'copper' } as const;
  const winding = { record: processStrippedCopper.input.parse(processStrippedCopper.example).record, nameplate: {} };
  const kg = processStrippedCopper.compute(
    processStrippedCopper.input.parse({ ...processStrippedCopper.example, strippedKg: 1 }),
  ).computedKg as number;
  it.each([
    [1, 'pass', DONE],
    [1.05, 'pass', DONE],
    [1.09, 'pass', DONE],
    [1.11, 'attention', /more\. Most likely|more\. No single/],
    [0.79, 'fail', /less/],
  ] as const)('copper at %d times what the record comes to', (times, verdict, reason) => {
    const judged = judgeRecord(
      { ...(op([copper]) as object), fields: COPPER } as never,
      { copper: kg * times },
      context({ winding }),
    );
    expect(judged.verdict).toBe(verdict);
    if (verdict !== 'pass') expect(judged.reason).toMatch(reason);
  });
  it('copper: nothing to hold it against, or nothing weighed, is not judged; the shop’s limits count', () => {
    const of = (value: number | undefined, more: object = {}) =>
      judgeRecord({ ...(op([copper]) as object), fields: COPPER } as never, { copper: value } as never, context(more))
        .verdict;
    expect(of(kg * 3)).toBe('pass');
    expect(of(undefined, { winding })).toBe('pass');
    expect(of(0, { winding })).toBe('pass');
    expect(of(kg * 3, { winding: { ...winding, record: { kind: 'three-phase' } } })).toBe('pass');
    expect(of(kg * 1.3, { winding })).toBe('fail');
    expect(of(kg * 1.3, { winding, limits: { 'winding.copperErrorPercent': 40 } })).toBe('attention');
  });
});
