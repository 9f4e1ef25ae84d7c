import { describe, expect, it } from 'vitest';
import { PASSING } from '../demo/passingRecords.ts';
import { demoShop, intake } from '../testing/shopPeople.ts';

const { server, winder, tester, viewer, foreman, admin, take } = demoShop('norther_units');
const many = (quantity: number) => take({ intake: { ...intake, quantity } });
const reading = (unit: number | undefined, r1min: string) => ({
  stage: 'AC',
  kind: 'insulationResistance',
  ...(unit === undefined ? {} : { unit }),
  typed: {
    testV: '500',
    r1min,
    windingC: '22',
    measured: 'whole winding',
    kind: 'random-wound',
    system: 'thermosetting',
    instrument: 'tester 1',
  },
});

describe('pieces of a job of many', () => {
  it('are numbered on, with serial numbers or without, and no more than the job is of', async () => {
    const number = await many(40);
    expect((await winder('POST', `jobs/${number}/units`, { count: 41 })).body).toMatchObject({ field: 'count' });
    expect((await winder('POST', `jobs/${number}/units`, { count: 38 })).body).toMatchObject({
      total: 38,
      quantity: 40,
    });
    const twice = await winder('POST', `jobs/${number}/units`, { serials: ['HM-1', 'hm-1'] });
    expect([twice.status, twice.body.detail]).toEqual([422, expect.stringMatching(/hm-1 stands twice/)]);
    expect((await winder('POST', `jobs/${number}/units`, { serials: ['HM-39', 'HM-40'] })).body.total).toBe(40);
    const found = await viewer('GET', `jobs/${number}/units?q=hm-4`);
    expect(found.body.units).toEqual([{ ordinal: 40, serial: 'HM-40', readings: 0, verdict: null }]);
    expect(
      (await viewer('GET', `jobs/${number}/units?after=37`)).body.units.map((u: { ordinal: number }) => u.ordinal),
    ).toEqual([38, 39, 40]);
    expect((await viewer('POST', `jobs/${number}/units`, { count: 1 })).status).toBe(403);
    expect((await viewer('GET', `jobs/${number}/units?after=soon`)).status).toBe(422);
  });
  it('get their serial number once', async () => {
    const number = await many(3);
    await winder('POST', `jobs/${number}/units`, { count: 3 });
    expect((await winder('PUT', `jobs/${number}/units/2`, { serial: 'A-2' })).status).toBe(200);
    expect((await winder('PUT', `jobs/${number}/units/2`, { serial: 'A-3' })).status).toBe(409);
    expect((await winder('PUT', `jobs/${number}/units/3`, { serial: 'a-2' })).body).toMatchObject({ field: 'serial' });
    expect((await winder('PUT', `jobs/${number}/units/9`, { serial: 'A-9' })).body.detail).toMatch(
      /no piece 9; 3 pieces/,
    );
    await expect(server().pool.query(`update unit set serial = 'other' where serial = 'A-2'`)).rejects.toThrow(
      /kept as written/,
    );
    await expect(server().pool.query('delete from unit')).rejects.toThrow(/kept as written/);
  });
  it('readings hang on them: they stand with their piece, the job keeps its own', async () => {
    const number = await many(2);
    await winder('POST', `jobs/${number}/units`, { count: 2 });
    expect((await tester('POST', `jobs/${number}/tests`, reading(1, '900'))).body.verdict).toBe('pass');
    expect((await tester('POST', `jobs/${number}/tests`, reading(2, '0.5'))).body.verdict).toBe('fail');
    expect((await tester('POST', `jobs/${number}/tests`, reading(undefined, '800'))).status).toBe(201);
    expect((await tester('POST', `jobs/${number}/tests`, reading(3, '900'))).body).toMatchObject({ field: 'unit' });
    const { body: job } = await viewer('GET', `jobs/${number}`);
    expect(job.tests).toHaveLength(1);
    const { body: list } = await viewer('GET', `jobs/${number}/units`);
    expect(list.units.map((u: { readings: number; verdict: string }) => [u.readings, u.verdict])).toEqual([
      [1, 'pass'],
      [1, 'fail'],
    ]);
    const { body: second } = await viewer('GET', `jobs/${number}/units/2`);
    expect(second.tests[0]).toMatchObject({ kind: 'insulationResistance', verdict: 'fail', part: 'stator' });
    const { rows } = await server().pool.query(
      `select u.ordinal from measurement m join unit u on u.id = m.unit_id join job j on j.id = m.job_id where m.what = 'insulationResistance.r1min' and j.number = '${number}' order by 1`,
    );
    expect(rows).toEqual([{ ordinal: 1 }, { ordinal: 2 }]);
    // a correction stays with its piece, also where it names none; the job cannot be of fewer pieces than are numbered
    const old = second.tests[0];
    await tester('POST', `jobs/${number}/tests`, {
      ...reading(undefined, '0.7'),
      supersedes: old.id,
      reason: 'misread',
    });
    expect((await viewer('GET', `jobs/${number}/units/2`)).body.tests).toHaveLength(2);
    expect((await viewer('GET', `jobs/${number}`)).body.tests).toHaveLength(1);
    const fewer = await foreman('PUT', `jobs/${number}`, {
      version: job.version,
      customerName: job.customer,
      what: job.what,
      nameplate: job.nameplateTyped,
      intake: { ...job.intake, quantity: 1 },
      route: job.route,
      impregnation: job.impregnation,
      priority: job.priority,
    });
    expect([fewer.status, fewer.body.field]).toEqual([422, 'intake.quantity']);
    // out and in again, on another number
    const { body: file } = await viewer('GET', `jobs/${number}/export.json`);
    expect(file.units).toEqual([
      { ordinal: 1, serial: null, steps: [] },
      { ordinal: 2, serial: null, steps: [] },
    ]);
    const brought = await admin('POST', 'import', { ...file, job: { ...file.job, number: 'U-2' } });
    expect(brought.body.detail ?? '').toBe('');
    const { body: again } = await viewer('GET', 'jobs/U-2/units');
    expect(again.units).toEqual((await viewer('GET', `jobs/${number}/units`)).body.units);
    const lost = await admin('POST', 'import', { ...file, units: [], job: { ...file.job, number: 'U-3' } });
    expect([lost.status, lost.body.field]).toEqual([422, 'units']);
  });
  it('an operation is walked piece by piece, or finished for all at once', async () => {
    const number = await many(12);
    const at = (what: string, code = 'INT') => `jobs/${number}/steps/${code}/${what}`;
    const mark = (pieces: string, done = true, who = winder) => who('POST', at('pieces'), { pieces, done });
    const view = async () =>
      (await viewer('GET', `jobs/${number}`)).body.detailSteps.find((s: { code: string }) => s.code === 'INT');
    expect((await mark('1')).status).toBe(409);
    await winder('POST', at('start'), {});
    expect((await mark('all')).body.detail).toMatch(/none is numbered yet/);
    await winder('POST', `jobs/${number}/units`, { count: 12 });
    expect((await view()).pieces).toBeNull();
    expect((await mark('1-4, 7')).body).toEqual({ done: 5, of: 12 });
    expect((await mark('4-5')).body).toEqual({ done: 6, of: 12 });
    expect((await mark('5', false)).body).toEqual({ done: 5, of: 12 });
    for (const [pieces, why] of [
      ['13', /no piece 13; they are numbered 1 to 12/],
      ['x', /"x" is no piece/],
      [' ', /must not be empty/],
    ] as const) {
      const refused = await mark(pieces);
      expect([refused.status, refused.body.field]).toEqual([422, 'pieces']);
      expect(refused.body.detail).toMatch(why);
    }
    expect((await mark('1', true, viewer)).status).toBe(403);
    expect((await view()).pieces).toEqual({ done: 5, of: 12 });
    const typed = PASSING['INT'] ?? {};
    const early = await winder('POST', at('finish'), { typed });
    expect([early.status, early.body.field]).toEqual([422, 'pieces']);
    expect(early.body.detail).toMatch(/not done yet for pieces 5-6, 8-12\./);
    // it goes with the job to another Norther
    const { body: file } = await viewer('GET', `jobs/${number}/export.json`);
    const brought = await admin('POST', 'import', { ...file, job: { ...file.job, number: 'U-9' } });
    expect(brought.body.detail ?? '').toBe('');
    const piece = async (of: string, n: number) =>
      (await viewer('GET', `jobs/${of}/units/${n}`)).body.steps.map((s: { code: string }) => s.code);
    expect([await piece('U-9', 7), await piece('U-9', 8)]).toEqual([['INT'], []]);
    await mark('all');
    expect(await piece(number, 8)).toEqual(['INT']);
    const done = await winder('POST', at('finish'), { typed });
    expect(done.body.detail ?? '').toBe('');
    // walked anew after it was reopened
    await foreman('POST', at('reopen'), { reason: 'tags fell off' });
    expect((await view()).pieces).toBeNull();
    const history = (await viewer('GET', `jobs/${number}/history`)).body as { summary: string }[];
    expect(history.some((e) => e.summary.includes('done for pieces 1-4, 7'))).toBe(true);
  });
  it('a hundred thousand of them are numbered and paged at once', async () => {
    const number = await many(100_000);
    expect((await foreman('POST', `jobs/${number}/units`, { count: 100_000 })).body.total).toBe(100_000);
    const { body } = await viewer('GET', `jobs/${number}/units?after=99990`);
    expect(body.units).toHaveLength(10);
    expect((await viewer('GET', `jobs/${number}/units?q=77777`)).body.units).toHaveLength(1);
  });
  it.each([0, 100_001, 1.5])('a job of %s pieces is refused', async (quantity) => {
    const answer = await winder('POST', 'jobs', {
      customerName: 'Test Works',
      what: 'Test motor',
      nameplate: {},
      intake: { ...intake, quantity },
      route: 'ac_random_rewind',
      impregnation: 'dip',
      priority: 'ordinary',
    });
    expect(answer.status).toBe(422);
  });
});
