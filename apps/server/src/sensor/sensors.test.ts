import { describe, expect, it } from 'vitest';
import { demo } from '../testing/demoNumber.ts';
import { demoShop } from '../testing/shopPeople.ts';

const { server, winder, tester, foreman, admin, viewer, take } = demoShop('norther_sensors');

const PT = { kind: 'Pt100', mark: '1TP1', place: 'slot 4, phase U' };
// 100 (1 + 3.9083e-3 t - 5.775e-7 t²) at 21 °C: 108.18 Ω
const WHOLE = { ohm: '108.18', part: '21', insulation: '400' };
const at = (job: string, path = '') => `jobs/${job}/sensors${path}`;
const fit = async (job: string, typed: object): Promise<string> => {
  const made = await winder('POST', at(job), { typed });
  expect(made.status).toBe(201);
  return made.body.id as string;
};
const measure = (job: string, id: string, stage: string, typed: object) =>
  winder('POST', at(job, `/${id}/readings`), { stage, typed });

describe('sensors and heaters', () => {
  it('are fitted, measured and judged; what cannot be read is said with its field', async () => {
    const job = await take();
    const id = await fit(job, PT);
    expect((await viewer('POST', at(job), { typed: PT })).status).toBe(403);
    const twice = await winder('POST', at(job), { typed: { ...PT, mark: ' 1tp1' } });
    expect([twice.status, twice.body.field]).toEqual([422, 'mark']);
    const unmarked = await winder('POST', at(job), { typed: { kind: 'PTC' } });
    expect([unmarked.status, unmarked.body.field]).toEqual([422, 'mark']);
    expect((await measure(job, id, 'fitted', WHOLE)).body).toEqual({ verdict: 'pass', reason: '' });
    const off = await measure(job, id, 'fitted', { ...WHOLE, part: '30' });
    expect([off.body.verdict, off.body.reason]).toEqual([
      'fail',
      expect.stringMatching(/^1TP1: 108\.18 Ω are 20\.99 °C; the part is at 30 °C/),
    ]);
    const open = await measure(job, id, 'fitted', { ...WHOLE, ohm: '>20000' });
    expect(open.body.reason).toMatch(/no circuit/);
    expect((await measure(job, id, 'BS', WHOLE)).status).toBe(422);
    expect((await measure(job, id, 'fitted', { ...WHOLE, insulation: '' })).body.field).toBe('insulation');
    expect((await measure(job, crypto.randomUUID(), 'fitted', WHOLE)).status).toBe(404);
    const { body: list } = await viewer('GET', at(job));
    expect(list).toMatchObject([{ typed: PT, part: 'stator', removed: null }]);
    expect(list[0].readings.map((r: { verdict: string }) => r.verdict)).toEqual(['pass', 'fail', 'fail']);
  });
  it('one that is missing or broken keeps the tests before varnish from passing, until it is taken out', async () => {
    // the bench grinder: everything but its test before varnish is there
    const job = await take();
    const id = await fit(job, PT);
    const start = await foreman('POST', `jobs/${job}/steps/PVT/start`, { override: { reason: 'Only the sensors.' } });
    expect(start.status).toBe(200);
    const finish = async () => {
      const { body } = await foreman('POST', `jobs/${job}/steps/PVT/finish`, { typed: {} });
      await foreman('POST', `jobs/${job}/steps/PVT/reopen`, { reason: 'Once more.' });
      await foreman('POST', `jobs/${job}/steps/PVT/start`, { override: { reason: 'Only the sensors.' } });
      return body as { verdict: string; reason: string };
    };
    expect((await finish()).reason).toMatch(/1TP1 was not measured before resin\./);
    await measure(job, id, 'AC', { ...WHOLE, ohm: '>20000' });
    const broken = await finish();
    expect([broken.verdict, broken.reason]).toEqual(['fail', expect.stringMatching(/no circuit/)]);
    await measure(job, id, 'AC', WHOLE);
    expect((await finish()).reason).not.toMatch(/1TP1/);
    expect((await winder('POST', at(job, `/${id}/removal`), { reason: 'Lead torn off.' })).status).toBe(403);
    expect((await foreman('POST', at(job, `/${id}/removal`), { reason: 'Lead torn off.' })).status).toBe(200);
    expect((await measure(job, id, 'AC', WHOLE)).status).toBe(409);
    // its mark is free again
    await fit(job, PT);
  });
  it('go with the job’s file and come in again', async () => {
    const { body: file } = await viewer('GET', `jobs/${demo(23)}/export.json`);
    expect(file.sensors.length).toBeGreaterThan(2);
    const brought = await admin('POST', 'import', { ...file, job: { ...file.job, number: '25-9023' } });
    expect([brought.status, brought.body]).toEqual([201, { number: '25-9023' }]);
    const [was, is] = await Promise.all([demo(23), '25-9023'].map(async (n) => (await viewer('GET', at(n))).body));
    const bare = (all: { id: string; readings: { id: string }[] }[]) =>
      all.map(({ id: _, readings, ...s }) => ({ ...s, readings: readings.map(({ id: __, ...r }) => r) }));
    expect(bare(is)).toEqual(bare(was));
  });
});

describe('what was measured with', () => {
  it('out of calibration: a passing step and a passing test are looked at by a person', async () => {
    const { body: shop } = await viewer('GET', 'shop');
    const gauges = [
      { name: 'Scale 1', calibratedUntil: '2020-01-31' },
      { name: 'Insulation tester 9', calibratedUntil: '2020-01-31' },
    ];
    const store = (more: object) =>
      admin('PUT', 'shop', { version: shop.version, settings: { ...shop.settings, ...more } });
    const same = await store({ gauges: [gauges[0], { ...gauges[0], name: 'scale 1' }] });
    expect(same.status).toBe(422);
    expect((await store({ gauges, supplyTapsV: [120, 230] })).status).toBe(200);
    const job = await take();
    await foreman('POST', `jobs/${job}/steps/CUT/start`, { override: { reason: 'Only the scale.' } });
    const cut = { end: 'opposite end', noTooth: 'yes', copper: '1.2', instrument: 'scale 1' };
    const done = await winder('POST', `jobs/${job}/steps/CUT/finish`, { typed: cut });
    expect([done.body.verdict, done.body.reason]).toEqual([
      'attention',
      expect.stringMatching(/^Scale 1 has been out of calibration since 2020-01-31/),
    ]);
    const megohm = (instrument: string) =>
      tester('POST', `jobs/${job}/tests`, {
        stage: 'IN',
        kind: 'insulationResistance',
        typed: {
          testV: '500',
          r1min: '900',
          windingC: '20',
          measured: 'whole winding',
          kind: 'random-wound',
          system: 'thermosetting',
          instrument,
        },
      });
    expect((await megohm('tester of the yard')).body.verdict).toBe('pass');
    const late = await megohm('insulation tester 9');
    expect([late.body.verdict, late.body.reason]).toEqual(['attention', expect.stringMatching(/out of calibration/)]);
    expect(server().app).toBeDefined();
  });
});
