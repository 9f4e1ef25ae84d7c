import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { demo } from '../testing/demoNumber.ts';
import { startServer, type Client, type TestServer } from '../testing/server.ts';

let server: TestServer;
let tester: Client;
let admin: Client;
beforeAll(async () => {
  server = await startServer('norther_trends', 'demo');
  [tester, admin] = await Promise.all([server.as('runa'), server.as('liv')]);
}, 120_000);
afterAll(() => server.stop());

const readings = (ab: string) => ({ ab, bc: '2.02', ca: '2.03', windingC: '20', ambientC: '20', instrument: 'bridge' });
const record = (number: string, ab: string, more: object = {}) =>
  tester('POST', `jobs/${number}/tests`, { stage: 'BS', kind: 'windingResistance', typed: readings(ab), ...more });
const trend = async (number: string, what: string) => (await tester('GET', `jobs/${number}/trend?what=${what}`)).body;
const own = async (number: string, what = 'windingResistance.ab', stage = 'BS') =>
  (await trend(number, what)).own.filter((p: { stage: string }) => p.stage === stage);

describe('measured quantities', () => {
  it('a reading leaves a row for each quantity, as typed and in its base unit, and for what was worked out', async () => {
    const number = demo(7);
    const { status, body } = await record(number, '2010 mΩ');
    expect(status).toBe(201);
    const { rows } = await server.pool.query(
      'select what, value, unit, bound, typed, stage, person_name, verdict, source from measurement where source_id = $1 order by what',
      [body.id],
    );
    expect(rows.map((r) => r.what)).toEqual([
      'windingResistance.ab',
      'windingResistance.againstPlanPercent',
      'windingResistance.ambientC',
      'windingResistance.bc',
      'windingResistance.ca',
      'windingResistance.correctedMeanOhm',
      'windingResistance.unbalancePercent',
      'windingResistance.windingC',
    ]);
    expect(rows[0]).toEqual({
      what: 'windingResistance.ab',
      value: expect.closeTo(2.01, 12),
      unit: 'Ω',
      bound: null,
      typed: '2010 mΩ',
      stage: 'BS',
      person_name: 'Runa Solvik',
      verdict: body.verdict,
      source: 'test',
    });
    expect(rows[3]).toMatchObject({ typed: '2.02 Ω', value: 2.02 });
    expect(rows[5].value).toBeCloseTo((2.01 + 2.02 + 2.03) / 3, 9);
  });
  it('a reading over the range of the instrument is a bound', async () => {
    await tester('POST', `jobs/${demo(7)}/tests`, {
      stage: 'BS',
      kind: 'insulationResistance',
      typed: {
        testV: '500',
        r1min: '>2000',
        windingC: '20',
        measured: 'whole winding',
        kind: 'random-wound',
        system: 'thermosetting',
        instrument: 'insulation tester',
      },
    });
    const points = await own(demo(7), 'insulationResistance.r1min');
    expect(points).toHaveLength(1);
    expect(points[0]).toMatchObject({ value: 2000, bound: 'above' });
  });
  it('a correction takes the place of what it corrects in the trend; both stay in the records', async () => {
    const number = demo(2);
    const first = await record(number, '9.99');
    await record(number, '2.01', { supersedes: first.body.id, reason: 'misread' });
    expect((await own(number)).map((p: { value: number }) => p.value)).toEqual([2.01]);
    const { rows } = await server.pool.query(
      `select count(*)::int as n from measurement m join job j on j.id = m.job_id where j.number = $1 and m.stage = 'BS' and m.what = 'windingResistance.ab'`,
      [number],
    );
    expect(rows[0].n).toBe(2);
  });
  it('a refused reading leaves none', async () => {
    const before = await server.pool.query('select count(*)::int as n from measurement');
    expect((await record(demo(7), 'abc')).status).toBe(422);
    expect((await server.pool.query('select count(*)::int as n from measurement')).rows).toEqual(before.rows);
  });
  it('a job brought in measures the same as where it came from, on the motor it belongs to', async () => {
    const number = demo(7);
    const { body: file } = await admin('GET', `jobs/${number}/export.json`);
    const made = await admin('POST', 'import', { ...file, job: { ...file.job, number: 'T-1' } });
    expect(made.status).toBe(201);
    const of = (n: string) =>
      server.pool.query(
        `select m.source, m.what, m.value, m.unit, m.bound, m.typed, m.stage, m.part, m.person_name, m.verdict, m.at
          from measurement m join job j on j.id = m.job_id where j.number = $1 order by m.at, m.what`,
        [n],
      );
    const [was, is] = [await of(number), await of('T-1')];
    expect(is.rows.length).toBeGreaterThan(20);
    expect(is.rows).toEqual(was.rows);
    // same customer and serial: one motor, two visits
    expect(new Set((await own(number)).map((p: { number: string }) => p.number))).toEqual(new Set([number, 'T-1']));
  });
  it('motors of the same kind stand beside it, others do not', async () => {
    const { body: file } = await admin('GET', `jobs/${demo(7)}/export.json`);
    const bring = (n: string, nameplate: object) =>
      admin('POST', 'import', {
        ...file,
        job: { ...file.job, number: n, nameplate: { ...file.job.nameplate, serial: `X-${n}`, ...nameplate } },
      });
    await bring('T-2', { manufacturer: 'another' });
    await bring('T-3', { outputW: 2 * file.job.nameplate.outputW });
    const found = await trend(demo(7), 'windingResistance.ab');
    expect(found.family).toMatch(/5\.5 kW, 2 poles/);
    expect(found.title).toBe('T1–T2');
    expect(new Set(found.others.numbers)).toEqual(new Set(['T-2']));
  });
  it.each([
    ['', 'Say which quantity'],
    ['?what=nothing.here', 'Nothing is measured under'],
    ['?what=windingResistance', 'Nothing is measured under'],
  ])('asked for "%s": %s', async (query, sentence) => {
    const { status, body } = await tester('GET', `jobs/${demo(7)}/trend${query}`);
    expect([status, body.detail]).toEqual([422, expect.stringContaining(sentence)]);
  });
  it('rows are only ever added', async () => {
    await expect(server.pool.query('update measurement set value = 1')).rejects.toThrow(/kept as written/);
    await expect(server.pool.query('delete from measurement')).rejects.toThrow(/kept as written/);
  });
});
