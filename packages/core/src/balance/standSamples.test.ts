import { describe, expect, it } from 'vitest';
import { QUIET, setUp } from '../../../../scripts/testing/standBench.ts';
import { simulatedRotor, simulatedRun, seedOf, spinOrder, STAND_FAULTS } from './simulatedRotor.ts';
import { BALANCE_SET_UP_FIELDS, balanceFieldHasUse, balanceSetUpOf } from './setUpFields.ts';
import { sayUnbalance, UNBALANCE_UNITS, unbalanceFactor } from './setUp.ts';
import { STAND_CHANNELS, standCsv, standRunOf, type StandRun } from './standSamples.ts';
import { balanceEntrySchema } from './entries.ts';
import { balanceNow } from './session.ts';
import { atBearings, vectorOf } from './planes.ts';
import { polar } from '../winding/complex.ts';
import { seeded } from './stand.ts';

const CHANNELS: readonly { name: string; unit: string }[] = STAND_CHANNELS.map((name, i) => ({
  name,
  unit: i === 4 ? 'r/min' : i % 2 === 0 ? 'mm/s' : '°',
}));
const of = (rows: number[][], more: object = {}, unit = 'mm/s', channels = CHANNELS) =>
  standRunOf(
    channels,
    channels.map((_, c) => rows.map((r) => r[c] ?? NaN)),
    setUp(more),
    unit,
  );
const run = (x: ReturnType<typeof standRunOf>): StandRun => {
  if ('wrong' in x) throw new Error(x.wrong);
  return x;
};

describe('a run of a stand by its samples', () => {
  it('averages as vectors, and leaves out what runs up or down', () => {
    const r = run(
      of([
        [9, 100, 9, 100, 400],
        [2, 359, 1, 90, 900],
        [2, 1, 1, 90, 905],
        [2, 0, 1, 90, 895],
        [7, 77, 7, 77, 850],
      ]),
    );
    expect(r.samples).toBe(3);
    expect(r.readings[0]?.size).toBeCloseTo((2 + 4 * Math.cos(Math.PI / 180)) / 3, 9);
    expect(Math.min(r.readings[0]?.angleDeg ?? 9, 360 - (r.readings[0]?.angleDeg ?? 9))).toBeCloseTo(0, 6);
    expect(r.rpm).toBeCloseTo(900, 9);
    expect(r.strayPercent).toBeCloseTo(1.745, 2);
  });
  it.each([
    [918, 3],
    [882, 3],
  ])('%d r/min is at speed, met by equality', (rpm, samples) => {
    expect(run(of([1, 2, 3].map(() => [1, 0, 1, 0, rpm]))).samples).toBe(samples);
    const off = rpm > 900 ? rpm + 0.1 : rpm - 0.1;
    expect(of([1, 2, 3].map(() => [1, 0, 1, 0, off]))).toMatchObject({
      wrong: expect.stringContaining('900 r/min') as string,
    });
  });
  it('says what is missing or of another unit', () => {
    const rows = [1, 2, 3].map(() => [1, 0, 1, 0, 900]);
    expect(
      of(
        rows,
        {},
        'mm/s',
        CHANNELS.map((c) => (c.name === 'A' ? { ...c, name: 'Z' } : c)),
      ),
    ).toEqual({ wrong: 'The stand sent no channel A.' });
    expect(of(rows, {}, 'µm')).toEqual({ wrong: 'The stand sends mm/s; this balance reads in µm.' });
    expect(run(of(rows, {}, '')).readings).toHaveLength(2);
    expect(of(rows.slice(1))).toMatchObject({ wrong: expect.stringContaining('Fewer than 3') as string });
    // one plane of a separating stand needs no B
    const one = {
      readings: 'unbalance per plane',
      unbalanceUnit: 'oz·in',
      planes: [{ xMm: 80, radiusMm: 60 }],
      bodyMm: 40,
    };
    const channels = [
      { name: 'a', unit: 'oz·in' },
      { name: 'A PHASE', unit: '°' },
    ];
    const r = run(
      of(
        [
          [1, 5],
          [1, 5],
          [1, 5],
        ],
        one,
        '',
        channels,
      ),
    );
    expect(r).toMatchObject({ rpm: undefined, samples: 3 });
    expect(r.readings).toHaveLength(1);
  });
  it.each([
    ['A;A phase;B;B phase;speed\n1,5;10;2,5;20;900\n1,5;10;2,5;20;900\n1,5;10;2,5;20;900\n'],
    ['speed,B phase,B,A phase,A\r\n900,20,2.5,10,1.5\r\n900,20,2.5,10,1.5\r\n900,20,2.5,10,1.5'],
    [
      '"A (mm/s)"\t"A phase (°)"\tB\tB phase\tspeed (r/min)\n1.5\t10\t2.5\t20\t900\n1.5\t10\t2.5\t20\t900\n1.5\t10\t2.5\t20\t900\nx\t\t\t\t',
    ],
  ])('is read from a file: %j', (text) => {
    const r = run(standCsv(text, setUp(), 'mm/s'));
    expect(r.readings.map((v) => [v.size.toFixed(6), v.angleDeg.toFixed(4)])).toEqual([
      ['1.500000', '10.0000'],
      ['2.500000', '20.0000'],
    ]);
  });
  it('samples that are lost, or of another bearing alone, are left out', () => {
    const rows = [1, 2, 3].map(() => [1, 10, 2, 20, 900]);
    const lost = [0, 1, 2, 3, 4].map((k) => rows[0]?.map((v, c) => (c === k ? NaN : v)) ?? []);
    expect(run(of([...rows, ...lost])).samples).toBe(3);
    expect(run(of([...rows, ...lost])).readings[1]).toEqual({
      size: expect.closeTo(2, 9) as number,
      angleDeg: expect.closeTo(20, 9) as number,
    });
    // no channel of the speed: all of them count, and no speed is told
    const bare = CHANNELS.slice(0, 4);
    expect(run(of(rows, {}, 'mm/s', bare))).toMatchObject({ samples: 3, rpm: undefined });
    // named in another order and with blanks about
    const turned = [...CHANNELS].reverse().map((c) => ({ name: ` ${c.name.toUpperCase()} `, unit: ` ${c.unit} ` }));
    expect(
      run(
        of(
          rows.map((r) => [...r].reverse()),
          {},
          ' mm/s ',
          turned,
        ),
      ).readings[0]?.size,
    ).toBeCloseTo(1, 9);
    expect(
      of(
        rows,
        {},
        'mm/s',
        CHANNELS.map((c) => ({ ...c, name: c.name.replace(' phase', '') })),
      ),
    ).toEqual({
      wrong: 'The stand sent no channel A phase, B phase.',
    });
    expect(of([], {}, 'mm/s')).toMatchObject({ wrong: expect.stringContaining('Fewer') as string });
    // a rotor that reads nothing strays by nothing
    expect(run(of(rows.map((r) => [0, 0, 0, 0, r[4] ?? 0]))).strayPercent).toBe(0);
  });
  it('empty lines and cells of a file are none; a comma between cells is no decimal', () => {
    const text = '\n  A , A phase ,B,B phase,speed\n\n1,10,2,20,900\n1,10,2,20,900\n,10,2,20,900\n1,10,2,20,900\n';
    expect(run(standCsv(text, setUp(), 'mm/s'))).toMatchObject({ samples: 3, rpm: 900 });
  });
  it('a file that is none says so', () => {
    expect(standCsv('', setUp(), '')).toMatchObject({ wrong: expect.stringContaining('no channel A') as string });
    expect(standCsv('A;A phase;B;B phase;speed\n', setUp(), '')).toMatchObject({
      wrong: expect.stringContaining('Fewer') as string,
    });
  });
});

describe('the rotor of a simulated stand', () => {
  const order = (rotor: string, more: object = {}, masses: { xMm: number; gMm: number; angleDeg: number }[] = []) =>
    spinOrder(setUp(more), { job: 'any', rotor, masses });
  it('is the same for the same name, another for another', () => {
    expect(simulatedRotor(order('a'))).toEqual(simulatedRotor(order('a')));
    expect(simulatedRotor(order('a')).hidden).not.toEqual(simulatedRotor(order('b')).hidden);
    expect(seedOf('a')).not.toBe(seedOf('b'));
  });
  it.each(['vibration', 'unbalance per plane'])('can be balanced from its readings: %s', (readings) => {
    for (const name of ['p', 'q', 'r', 's']) {
      const is = setUp({ readings });
      const random = seeded(seedOf(name));
      const masses: { xMm: number; gMm: number; angleDeg: number }[] = [];
      const read = (extra: typeof masses = []) =>
        simulatedRun(order(name, { readings }, [...masses, ...extra]), undefined, random, QUIET).map(vectorOf);
      const entries = [balanceEntrySchema.parse({ kind: 'run', readings: read() })];
      if (readings === 'vibration')
        for (const plane of [1, 2]) {
          const t = { gMm: 900, angleDeg: 40 * plane, xMm: plane === 1 ? 80 : 320 };
          entries.push(
            balanceEntrySchema.parse({ kind: 'trial', plane, gMm: t.gMm, angleDeg: t.angleDeg, readings: read([t]) }),
          );
        }
      const step = balanceNow(is, entries);
      expect(step.stage).toBe('correct');
      const fixed = (step.next ?? []).flatMap((n) =>
        n.masses.map((m) => ({ plane: n.plane, angleDeg: m.angleDeg, massG: m.massG, radiusMm: 60 })),
      );
      masses.push(...fixed.map((m) => ({ xMm: m.plane === 1 ? 80 : 320, gMm: m.massG * 60, angleDeg: m.angleDeg })));
      entries.push(
        balanceEntrySchema.parse({ kind: 'correction', masses: fixed }),
        balanceEntrySchema.parse({ kind: 'run', readings: read() }),
      );
      expect(balanceNow(is, entries).stage).toBe('done');
    }
  });
  it('a separating stand shows what the planes hold, whatever sits elsewhere on the shaft', () => {
    const { hidden } = simulatedRotor(order('z', { readings: 'unbalance per plane' }));
    const read = (masses: { xMm: number; gMm: number; angleDeg: number }[]) =>
      simulatedRun(order('z', { readings: 'unbalance per plane' }, masses), undefined, () => 0.5, QUIET).map(vectorOf);
    const [one, two] = read([]);
    expect(one?.size).toBeCloseTo(hidden[0]?.gMm ?? 0, 6);
    expect(two?.size).toBeCloseTo(hidden[1]?.gMm ?? 0, 6);
    // a mass midway counts half in each plane
    const g = { bearingAMm: 0, bearingBMm: 400, centreMm: 200 };
    const felt = atBearings({ ...g, planesMm: [200] }, [polar(100, 0)]);
    const planes = atBearings({ ...g, planesMm: [80, 320] }, [polar(50, 0), polar(50, 0)]);
    expect(felt[0].re).toBeCloseTo(planes[0].re, 9);
    expect(felt[1].re).toBeCloseTo(planes[1].re, 9);
  });
  it('every fault alters what is read; sound again it reads as before', () => {
    const read = (fault?: (typeof STAND_FAULTS)[number]) =>
      simulatedRun(order('f'), fault, seeded(9), QUIET).map(vectorOf);
    const sound = read();
    expect(read('sound again')).toEqual(sound);
    for (const fault of STAND_FAULTS.slice(0, -1)) expect(read(fault), fault).not.toEqual(sound);
    // turned round: the phases are mirrored, the sizes the same
    expect(read('angle sense turns').map((v) => v.size.toFixed(9))).toEqual(sound.map((v) => v.size.toFixed(9)));
  });
});

describe('units of unbalance', () => {
  it('go there and back, each by its factor', () => {
    // balancing reference, section 1
    const factors = {
      'g·mm': 1,
      'g·in': 25.4,
      'oz·in': 720.0778,
      'g·cm': 10,
      'kg·mm': 1000,
      'kg·in': 25400,
      'lb·in': 11521.25,
    };
    for (const unit of UNBALANCE_UNITS) {
      expect(unbalanceFactor(unit)).toBeCloseTo(factors[unit], unit === 'lb·in' ? 1 : 3);
      const random = seeded(4);
      for (let i = 0; i < 1000 / UNBALANCE_UNITS.length; i++) {
        const x = 10 ** (6 * random() - 2);
        expect((x / unbalanceFactor(unit)) * unbalanceFactor(unit)).toBeCloseTo(x, 9 - Math.ceil(Math.log10(x)));
      }
    }
    expect(sayUnbalance(720.0778, 'oz·in')).toBe('1 oz·in');
  });
  it('a stand that reads in another unit gives the same balance', () => {
    const readings = (factor: number) => [
      { size: 300 / factor, angleDeg: 20 },
      { size: 180 / factor, angleDeg: 170 },
    ];
    const first = balanceNow(setUp({ readings: 'unbalance per plane' }), [
      balanceEntrySchema.parse({ kind: 'run', readings: readings(1) }),
    ]);
    for (const unbalanceUnit of UNBALANCE_UNITS) {
      const is = balanceNow(setUp({ readings: 'unbalance per plane', unbalanceUnit }), [
        balanceEntrySchema.parse({ kind: 'run', readings: readings(unbalanceFactor(unbalanceUnit)) }),
      ]);
      expect(is.bearings?.[0]?.gMm).toBeCloseTo(first.bearings?.[0]?.gMm ?? 0, 9);
      expect(is.reason).toContain(`${unbalanceUnit} of`);
    }
  });
});

describe('what is typed of places and trims', () => {
  const typed = (more: Record<string, unknown>) =>
    balanceSetUpOf({
      kind: 'cage rotor', mass: 20, grade: 2.5, service: 3000, balancing: 900, bearingA: 0, bearingB: 0.4, centre: 0.2, x1: 0.08, radius1: 0.06,
      x2: 0.32, radius2: 0.06, ...more,
    } as never); // prettier-ignore
  it.each([
    ['30-60', [{ fromDeg: 30, toDeg: 60 }]],
    [
      '30–60; 350 to 10°',
      [
        { fromDeg: 30, toDeg: 60 },
        { fromDeg: 350, toDeg: 10 },
      ],
    ],
    ['', []],
  ])('forbidden %j', (text, zones) => {
    const made = typed({ forbidden1: text });
    expect('setUp' in made && made.setUp.planes[0]?.forbidden).toEqual(zones);
  });
  it.each(['thirty', '30', '30-400', '40-40', '30-60-90'])('forbidden %j is said', (text) => {
    expect(typed({ forbidden2: text })).toMatchObject({ field: 'forbidden2' });
  });
  it('a trim reads vibration, in mm/s', () => {
    expect(typed({ trim: 1.2, unit: 'mm/s rms' })).toMatchObject({ setUp: { trimMmS: 1.2 } });
    expect(typed({ trim: 1.2, unit: 'µm' })).toMatchObject({ field: 'unit' });
    expect(typed({ trim: 1.2, readings: 'unbalance per plane' })).toMatchObject({ field: 'trim' });
  });
  it('fields that say nothing of a plane as it is corrected are not shown', () => {
    const shown = (typed: Record<string, string>) =>
      BALANCE_SET_UP_FIELDS.filter((f) => /1$/.test(f.name) && balanceFieldHasUse(f.name, typed)).map((f) => f.name);
    expect(shown({})).toEqual(['x1', 'radius1', 'way1', 'places1', 'forbidden1', 'most1']);
    expect(shown({ way1: 'drill', places1: '12' })).toEqual([
      'x1',
      'radius1',
      'way1',
      'places1',
      'called1',
      'first1',
      'taken1',
      'forbidden1',
      'depth1',
      'tool1',
      'length1',
      'thick1',
    ]);
    // what was typed stays in sight
    expect(shown({ depth1: '9' })).toContain('depth1');
    expect(balanceFieldHasUse('mass', {})).toBe(true);
  });
});
