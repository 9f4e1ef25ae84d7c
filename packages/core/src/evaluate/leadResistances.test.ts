import { describe, expect, it } from 'vitest';
import { worked } from '../../../../scripts/testing/worked.ts';
import { EXAMPLE_RECORD } from '../winding/exampleRecord.ts';
import type { WindingRecord } from '../winding/record.ts';
import { oddFigures } from './oddFigures.ts';
import { leadResistances, leadResistancesTest, pairsOfLeads, readPairs } from './leadResistances.ts';
import type { JudgingContext } from './testKind.ts';
import { testsFor } from './tests.ts';

const plain: WindingRecord = { ...EXAMPLE_RECORD, spansSlots: [7], circuits: 1, connection: 'wye' };
const record = (more: object): WindingRecord => ({ ...plain, ...more }) as WindingRecord;
const shares = (r: WindingRecord): Record<string, number> =>
  Object.fromEntries(pairsOfLeads(r).map((p) => [`${p.a}-${p.b}`, Number((p.ofPhase ?? NaN).toFixed(9))]));

describe('what each pair of leads should read, links off, as shares of the running phase', () => {
  // h is half a phase; the phase as it runs at the low voltage is h/2
  it('nine leads wye: three halves alone, and a wye of the other three', () => {
    expect(shares(record({ leads: '9' }))).toEqual({
      'T1-T4': 2,
      'T2-T5': 2,
      'T3-T6': 2,
      'T7-T8': 4,
      'T7-T9': 4,
      'T8-T9': 4,
    });
  });
  it('nine leads delta: two halves at each corner', () => {
    expect(shares(record({ leads: '9', connection: 'delta' }))).toEqual({
      'T1-T4': 2,
      'T1-T9': 2,
      'T4-T9': 4,
      'T2-T5': 2,
      'T2-T7': 2,
      'T5-T7': 4,
      'T3-T6': 2,
      'T3-T8': 2,
      'T6-T8': 4,
    });
  });
  it('twelve leads: six halves alone', () => {
    expect(shares(record({ leads: '12' }))).toEqual({
      'T1-T4': 2,
      'T2-T5': 2,
      'T3-T6': 2,
      'T7-T10': 2,
      'T8-T11': 2,
      'T9-T12': 2,
    });
  });
  it('part winding: two wyes of halves', () => {
    expect(shares(record({ leads: '6 part-winding' }))).toEqual({
      'T1-T2': 4,
      'T1-T3': 4,
      'T2-T3': 4,
      'T7-T8': 4,
      'T7-T9': 4,
      'T8-T9': 4,
    });
  });
  it('two speeds, series delta: corners and middles alike; series wye: 4 h and 2 h of a phase of 2 h', () => {
    const two = (duty: string) =>
      shares(
        record({
          kind: 'two-speed',
          duty,
          slots: 36,
          poles: 8,
          spansSlots: [5],
          connection: undefined,
          leads: undefined,
        }),
      );
    const ring = two('constant torque');
    expect(Object.keys(ring)).toEqual(['T1-T2', 'T1-T3', 'T2-T3', 'T4-T5', 'T4-T6', 'T5-T6']);
    for (const v of Object.values(ring)) expect(v).toBeCloseTo(2 / 3, 8);
    const star = two('variable torque');
    expect([star['T1-T2'], star['T4-T5']]).toEqual([2, 1]);
    // halves in parallel at the low speed: the phase is h/2
    for (const v of Object.values(two('constant power'))) expect(v).toBeCloseTo(8 / 3, 8);
  });
  it('nothing where it is not known far enough, or of a single-phase winding', () => {
    expect(pairsOfLeads(record({ circuits: undefined }))).toEqual([]);
    expect(pairsOfLeads({ kind: 'three-phase' })).toEqual([]);
    expect(pairsOfLeads(record({ kind: 'single-phase' }))).toEqual([]);
  });
});

describe('pairs as they are typed', () => {
  it('either school, any dash, units, open; a line without a reading is passed over', () => {
    expect(readPairs('U1-U2 0.512\nv1 – V2: 515 mΩ; W1 W2 = open\nT7-T10 \nU5-U6 >200')).toEqual({
      pairs: [
        { a: 'T1', b: 'T4', ohm: 0.512 },
        { a: 'T2', b: 'T5', ohm: expect.closeTo(0.515, 12) },
        { a: 'T3', b: 'T6' },
        { a: 'T7', b: 'T10' },
      ],
      problems: [],
    });
    expect(readPairs('1U-1V 1.2').pairs).toEqual([{ a: 'T1', b: 'T2', ohm: 1.2 }]);
    expect(readPairs('2U-2V 1.2').pairs).toEqual([{ a: 'T6', b: 'T4', ohm: 1.2 }]);
  });
  it.each([
    ['', /No pair has a reading yet/],
    ['T1-T4', /No pair has a reading yet/],
    ['T1 0.5', /names no two leads/],
    ['T1-T1 0.5', /names no two leads/],
    ['X1-X2 0.5', /names no two leads/],
    ['T1-T4 half', /T1-T4 half: /],
    ['T1-T4 0', /more than zero/],
    ['T1-T4 5 V', /T1-T4 5 V: /],
  ])('%s is refused in words', (text, says) => {
    expect(readPairs(text).problems[0]).toMatch(says);
  });
  it('at most 66 pairs', () => {
    const of = (n: number) => readPairs(Array.from({ length: n }, () => 'T1-T4 1').join('\n')).problems;
    expect(of(66)).toEqual([]);
    expect(of(67)[0]).toMatch(/At most 66/);
  });
});

const three = (ohms: readonly (number | undefined)[], more: object = {}) =>
  worked(leadResistances, {
    pairs: ohms.map((ohm, i) => ({ a: `T${i + 1}`, b: `T${i + 4}`, ...(ohm === undefined ? {} : { ohm }) })),
    expected: [1, 2, 3].map((i) => ({ a: `T${i}`, b: `T${i + 3}`, ohm20: 1 })),
    windingC: 20,
    ...more,
  });
/** Three readings whose worst lies p per cent off their mean of 1. */
const off = (p: number) => [1 + p / 100, 1 - p / 200, 1 - p / 200];

describe('pairs of leads judged by their siblings', () => {
  it.each([
    ['random-wound', 2, 5],
    ['form-wound', 1, 2],
  ])('%s: %d %% passes, %d %% still needs a look', (windingKind, pass, most) => {
    expect(three(off(pass), { windingKind }).verdict).toBe('pass');
    expect(three(off(pass + 0.001), { windingKind }).verdict).toBe('attention');
    expect(three(off(most), { windingKind }).verdict).toBe('attention');
    expect(three(off(most + 0.001), { windingKind }).verdict).toBe('fail');
  });
  it('says which, how much, the mean at 20 °C and the limit', () => {
    const { reason, largestUnbalancePercent, correctedMeanOhm, pairs } = three(off(3));
    expect(reason).toMatch(
      /T1–T4, T2–T5, T3–T6: 3 % off their mean of 1 Ω at 20 °C, T1–T4 most; 2 % \(common practice\)/,
    );
    expect(largestUnbalancePercent).toBeCloseTo(3, 9);
    expect(correctedMeanOhm).toBeCloseTo(1, 9);
    expect(pairs[0]).toEqual({
      a: 'T1',
      b: 'T4',
      correctedOhm: expect.closeTo(1.03),
      expectedOhm: 1,
      offPercent: expect.closeTo(3),
    });
    expect(three([1, 1.02, 1], { limits: { 'resistance.randomPassPercent': 1 } }).verdict).toBe('attention');
  });
  it('is corrected with the constant of the metal', () => {
    expect(three([1, 1, 1], { windingC: 45 }).correctedMeanOhm).toBeCloseTo(255 / 280, 12);
    expect(three([1, 1, 1], { windingC: 45, material: 'aluminium' }).correctedMeanOhm).toBeCloseTo(245 / 270, 12);
  });
  it('open where it should read through, through where it should be open', () => {
    const open = three([1, undefined, 1]);
    expect([open.verdict, open.reason]).toEqual(['fail', expect.stringMatching(/^Open: T2–T5\. Find the open joint/)]);
    const joined = worked(leadResistances, {
      pairs: [{ a: 'T2', b: 'T1', ohm: 1 }],
      expected: [{ a: 'T1', b: 'T2' }],
      windingC: 20,
    });
    expect([joined.verdict, joined.reason]).toEqual([
      'fail',
      expect.stringMatching(/T2–T1 should be open but read through/),
    ]);
    const bothOpen = worked(leadResistances, {
      pairs: [{ a: 'T1', b: 'T2' }],
      expected: [{ a: 'T1', b: 'T2' }],
      windingC: 20,
    });
    expect([bothOpen.verdict, bothOpen.correctedMeanOhm]).toEqual(['cannot judge', undefined]);
  });
  it('only those that should read alike are set against each other; one alone is kept for the trend', () => {
    const x = {
      pairs: [
        { a: 'T1', b: 'T4', ohm: 1 },
        { a: 'T2', b: 'T5', ohm: 1.01 },
        { a: 'T7', b: 'T8', ohm: 2.5 },
      ],
      expected: [
        { a: 'T4', b: 'T1', ohm20: 1 },
        { a: 'T2', b: 'T5', ohm20: 1.0005 },
        { a: 'T7', b: 'T8', ohm20: 2 },
      ],
      windingC: 20,
    };
    const { verdict, reason, pairs } = worked(leadResistances, x, 1);
    expect(verdict).toBe('pass');
    expect(reason).toMatch(/Kept for the trend, without a limit of its own: T7–T8\./);
    expect(pairs[2]?.offPercent).toBeCloseTo(25, 9);
    const none = worked(leadResistances, { ...x, expected: [] });
    expect([none.verdict, none.reason]).toEqual([
      'cannot judge',
      'No two pairs that should read alike were read. Kept for the trend, without a limit of its own: T1–T4, T2–T5, T7–T8.',
    ]);
    // beyond a thousandth they are no siblings
    const apart = { ...x, expected: [...x.expected.slice(0, 1), { a: 'T2', b: 'T5', ohm20: 1.002 }] };
    expect(worked(leadResistances, apart).verdict).toBe('cannot judge');
  });
  it('a pair read twice is asked about; where only shares are known no expected size is told', () => {
    const twice = worked(leadResistances, {
      pairs: [
        { a: 'T1', b: 'T4', ohm: 1 },
        { a: 'T4', b: 'T1', ohm: 2 },
      ],
      windingC: 20,
    });
    expect([twice.verdict, twice.reason]).toEqual(['cannot judge', expect.stringMatching(/T4–T1 was read twice/)]);
    expect(three([1, 1, 1], { expectedIsShare: true }).pairs[0]).toEqual({ a: 'T1', b: 'T4', correctedOhm: 1 });
  });
  it('an instrument out of calibration waits for a person', () => {
    expect(three([1, 1, 1], { calibrationExpired: true })).toMatchObject({
      verdict: 'attention',
      reason: expect.stringMatching(/out of calibration/),
    });
  });
});

describe('the test in the matrix', () => {
  const kinds = (r: WindingRecord | undefined, machine = 'three-phase') =>
    testsFor({ machine: machine as never, record: r }).map((k) => k.id);
  it('for nine and twelve leads, part winding and two speeds; not for three or six', () => {
    for (const leads of ['9', '12', '6 part-winding']) expect(kinds(record({ leads }))).toContain('leadResistances');
    expect(kinds(record({ kind: 'two-speed', duty: 'constant torque' }))).toContain('leadResistances');
    for (const leads of ['3', '6', undefined]) expect(kinds(record({ leads }))).not.toContain('leadResistances');
    expect(kinds(undefined)).not.toContain('leadResistances');
    expect(kinds(record({ leads: '9' }), 'single-phase')).not.toContain('leadResistances');
  });
  it('the pairs stand ready; what they should read is said; nothing typed is refused', () => {
    const r = record({ leads: '12' });
    expect(leadResistancesTest.usual?.({ machine: 'three-phase', record: r })['pairs']).toBe(
      'T1-T4 \nT2-T5 \nT3-T6 \nT7-T10 \nT8-T11 \nT9-T12 ',
    );
    expect(leadResistancesTest.usual?.({ machine: 'three-phase', record: undefined })).toEqual({});
    const context = { record: r, figures: { phaseResistance20Ohm: 0.25 }, limits: {} } as unknown as JudgingContext;
    expect(leadResistancesTest.due?.(context).says[0]).toMatch(/T1–T4 0\.5, .*T9–T12 0\.5 Ω; every other pair open/);
    expect(leadResistancesTest.due?.({ ...context, figures: undefined }).says[0]).toMatch(/T1–T4 \?/);
    expect(leadResistancesTest.due?.({ ...context, record: undefined }).says[0]).toMatch(/not recorded far enough/);
    expect(leadResistancesTest.lacks?.({ pairs: 'T1-T4' })?.field).toBe('pairs');
    expect(leadResistancesTest.lacks?.({ pairs: 'T1-T4 1' })).toBeUndefined();
  });
  it('judges what was typed by the recorded winding: links left on are found', () => {
    const r = record({ leads: '12' });
    const context = { record: r, figures: { phaseResistance20Ohm: 0.25 }, limits: {} } as unknown as JudgingContext;
    const judged = (pairs: string) =>
      worked(leadResistances, leadResistancesTest.input?.({ pairs, windingC: 20 }, context));
    const sound = 'T1-T4 0.5\nT2-T5 0.5\nT3-T6 0.505\nT7-T10 0.5\nT8-T11 0.5\nT9-T12 0.5';
    expect(judged(sound)).toMatchObject({ verdict: 'pass', correctedMeanOhm: expect.closeTo(0.5008, 3) });
    expect(judged(`${sound}\nT1-T2 open`).verdict).toBe('pass');
    expect(judged(`${sound}\nT4-T7 1.0`)).toMatchObject({
      verdict: 'fail',
      reason: expect.stringMatching(/T4–T7 should be open/),
    });
    const unsized = { ...context, figures: undefined };
    expect(worked(leadResistances, leadResistancesTest.input?.({ pairs: sound, windingC: 20 }, unsized))).toMatchObject(
      {
        verdict: 'pass',
        pairs: expect.arrayContaining([{ a: 'T1', b: 'T4', correctedOhm: expect.closeTo(0.5) }]),
      },
    );
  });
  it('the record of the examples has no such leads', () => {
    expect(kinds(EXAMPLE_RECORD as unknown as WindingRecord)).not.toContain('leadResistances');
  });
});

describe('figures that joints could explain, carried from the tests of a stage', () => {
  const test = (kind: string, more: object) => ({
    id: kind,
    kind,
    stage: 'AC',
    part: 'stator',
    verdict: 'fail',
    supersedes: null,
    ...more,
  });
  const resistance = test('windingResistance', { values: { ab: 1.25, bc: 1, ca: 1.25 } });
  it('resistance by pair, current by lead, ring frequency by wave', () => {
    expect(
      oddFigures(
        [
          resistance,
          test('noLoadRun', { values: { i1: 3.1, i2: 3.2, i3: 3 } }),
          test('surge', {
            result: {
              values: {
                waves: [
                  { name: 'WU', frequencyHz: 3 },
                  { name: 'UV', frequencyHz: 4321.6789 },
                  { name: 'VW', frequencyHz: 2 },
                ],
              },
            },
          }),
        ],
        'AC',
        'stator',
      ),
    ).toEqual({ resistance: ['1.25', '1', '1.25'], current: ['3.1', '3.2', '3'], frequency: ['4321.68', '2', '3'] });
  });
  it('an open pair is open; phases read alone, other stages and parts, replaced and missing figures are left out', () => {
    expect(
      oddFigures(
        [test('windingResistance', { values: { ab: 200, abOverRange: true, bc: 1, ca: 200, caOverRange: true } })],
        'AC',
        'stator',
      ),
    ).toEqual({ resistance: ['open', '1', 'open'] });
    const phases = test('windingResistance', { values: { ab: 1, bc: 1, ca: 1, reading: 'phase by phase' } });
    expect(oddFigures([phases], 'AC', 'stator')).toEqual({});
    expect(oddFigures([resistance], 'VC', 'stator')).toEqual({});
    expect(oddFigures([resistance], 'AC', 'second')).toEqual({});
    expect(oddFigures([{ ...resistance, part: null }], 'AC', 'second')).not.toEqual({});
    expect(oddFigures([resistance, { ...phases, id: 'new', supersedes: 'windingResistance' }], 'AC', 'stator')).toEqual(
      {},
    );
    expect(oddFigures([test('windingResistance', { values: { ab: 1, bc: 1 } })], 'AC', 'stator')).toEqual({});
    expect(oddFigures([test('surge', { result: null })], 'AC', 'stator')).toEqual({});
    expect(
      oddFigures([test('surge', { result: { values: { waves: [{ name: 'UV', frequencyHz: 4 }] } } })], 'AC', 'stator'),
    ).toEqual({});
  });
});
