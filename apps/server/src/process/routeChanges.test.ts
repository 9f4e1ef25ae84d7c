import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { demo } from '../testing/demoNumber.ts';
import { startServer, type Client, type TestServer } from '../testing/server.ts';

let server: TestServer;
let [foreman, winder, tester, viewer]: Client[] = [];
const as = (c: Client | undefined): Client => c as Client;
beforeAll(async () => {
  server = await startServer('norther_routes', 'demo');
  [foreman, winder, tester, viewer] = await Promise.all(['odd', 'ines', 'runa', 'per'].map((p) => server.as(p)));
}, 180_000);
afterAll(() => server.stop());

const edit = (job: string, of: object, reason = 'Agreed with the customer.', who = foreman) =>
  as(who)('POST', `jobs/${job}/route/edits`, { edit: of, reason });
const stepsOf = async (job: string): Promise<Map<string, { state: string; after: string[]; status: string }>> => {
  const { body } = await as(viewer)('GET', `jobs/${job}`);
  return new Map(body.detailSteps.map((s: { code: string }) => [s.code, s]));
};

describe('the route of one job', () => {
  // the whey separator drive: its data are released, the core is done
  const job = demo(21);
  it('is edited by a foreman with a reason; a hold stays, what was done stays before', async () => {
    const add = { do: 'add', code: 'OWS', after: ['INS'], before: ['PHI'] };
    expect((await edit(job, add, 'Agreed.', winder)).status).toBe(403);
    expect((await edit(job, add, '')).status).toBe(422);
    expect((await edit(job, { do: 'add', code: 'OWS', after: ['TT1'], before: ['STR'] })).body.detail).toMatch(
      /circle/,
    );
    expect((await edit(job, { do: 'wait', code: 'PVT', after: ['INS'] })).body.detail).toMatch(/that hold stays/);
    expect((await edit(job, { do: 'take out', code: 'CT2' })).body.detail).toMatch(/was begun/);
    expect((await edit(job, { do: 'add', code: 'OWS', after: ['QTE'], before: ['TT1'] })).body.detail).toMatch(
      /begun already/,
    );
    expect((await edit(job, add)).status).toBe(200);
    const steps = await stepsOf(job);
    expect(steps.get('OWS')).toMatchObject({ state: 'open', after: ['INS'] });
    expect(steps.get('PHI')?.after).toContain('OWS');
    // it holds like any other
    expect((await as(winder)('POST', `jobs/${job}/steps/OWS/start`, {})).status).toBe(409);
    const floor = (await as(viewer)('GET', 'jobs')).body;
    const own = floor.find((j: { number: string }) => j.number === job);
    expect(own.steps.map((s: { code: string }) => s.code)).toContain('OWS');
    expect((await edit(job, { do: 'take out', code: 'OWS' })).status).toBe(200);
    expect((await stepsOf(job)).has('OWS')).toBe(false);
    // and back again: its place of before is free
    expect((await edit(job, add)).status).toBe(200);
  });
  it('goes with the job’s file, and of two edits at once both count or one is refused', async () => {
    const answers = await Promise.all([
      edit(job, { do: 'add', code: 'FT1', after: ['WDG'], before: ['CON'] }),
      edit(job, { do: 'take out', code: 'SLP' }),
    ]);
    expect(answers.map((a) => a.status)).toEqual([200, 200]);
    const steps = await stepsOf(job);
    expect([steps.has('FT1'), steps.has('SLP')]).toEqual([true, false]);
    const { body: file } = await as(viewer)('GET', `jobs/${job}/export.json`);
    expect(file.job.ownRoute.CON).toContain('FT1');
  });
});

describe('an overhaul', () => {
  const job = demo(8);
  it('becomes a rewind when its tests after drying failed, and keeps what passed', async () => {
    expect((await as(foreman)('POST', `jobs/${job}/route/rewind`, { reason: 'Earth fault.' })).status).toBe(409);
    await as(tester)('POST', `jobs/${job}/steps/OTT/start`, {});
    await as(tester)('POST', `jobs/${job}/tests`, {
      stage: 'VC',
      kind: 'insulationResistance',
      typed: {
        testV: '500',
        r1min: '0.2',
        windingC: '20',
        measured: 'whole winding',
        kind: 'random-wound',
        system: 'thermosetting',
        instrument: 'insulation tester 1',
      },
    });
    expect((await as(tester)('POST', `jobs/${job}/steps/OTT/finish`, { typed: {} })).body.verdict).toBe('fail');
    expect((await as(winder)('POST', `jobs/${job}/route/rewind`, { reason: 'Earth fault.' })).status).toBe(403);
    const before = await stepsOf(job);
    expect((await as(foreman)('POST', `jobs/${job}/route/rewind`, { reason: 'Earth fault.' })).status).toBe(200);
    const after = await stepsOf(job);
    expect(after.has('OTT')).toBe(false);
    for (const [code, step] of after)
      if (before.has(code) && code !== 'QTE') expect([code, step.state]).toEqual([code, before.get(code)?.state]);
    expect(after.get('QTE')).toMatchObject({ state: 'open' });
    expect(after.get('DAT')?.state).toBe('open');
    const { body } = await as(viewer)('GET', `jobs/${job}`);
    expect(body.route).toBe('ac_random_rewind');
    expect((await as(foreman)('POST', `jobs/${job}/route/rewind`, { reason: 'Again.' })).body.title).toBe(
      'No overhaul',
    );
  });
});

describe('a route that the shop keeps', () => {
  const list = async () => (await as(viewer)('GET', 'route-templates')).body as { id: string; name: string }[];
  const keep = (job: string, name: string, who = foreman) => as(who)('POST', `jobs/${job}/route/template`, { name });
  const newJob = async (more: object = {}): Promise<string> =>
    (
      await as(winder)('POST', 'jobs', {
        customerName: 'Test Works',
        what: 'Test motor',
        nameplate: { speedRpm: '1455', frequencyHz: '50', outputW: '4 kW', voltagesV: '400' },
        intake: { came: 'whole motor', complaint: 'hums' },
        route: 'ac_random_rewind',
        impregnation: 'dip',
        priority: 'ordinary',
        ...more,
      })
    ).body.number;
  it('is made of a job, taken by another of its kind, and retired with a reason', async () => {
    const [one, two] = [await newJob(), await newJob()];
    await edit(one, { do: 'coats', coats: 2 });
    await edit(one, { do: 'removal', way: 'cold pull' });
    expect((await keep(one, 'Cold pull, two coats', winder)).status).toBe(403);
    const kept = await keep(one, 'Cold pull, two coats');
    expect(kept.status).toBe(201);
    const again = await keep(two, ' cold pull, TWO coats');
    expect([again.status, again.body.field]).toEqual([422, 'name']);
    expect(await list()).toMatchObject([{ name: 'Cold pull, two coats', fromJob: one, impregnation: 'dip' }]);
    const take = { do: 'take', template: kept.body.id };
    expect((await edit(two, take, 'As always.', winder)).status).toBe(403);
    expect((await edit(two, take, 'As always.')).status).toBe(200);
    const [a, b] = [await stepsOf(one), await stepsOf(two)];
    expect([...b.keys()].sort()).toEqual([...a.keys()].sort());
    for (const [code, step] of b) expect([code, step.after]).toEqual([code, a.get(code)?.after]);
    // another kind of motor does not take it
    const vessel = await newJob({ impregnation: 'vacuum-pressure' });
    const other = await edit(vessel, take, 'As always.');
    expect([other.status, other.body.field]).toEqual([422, 'edit.template']);
    // one that has begun what the kept route does without keeps its own
    const begun = await newJob();
    await as(foreman)('POST', `jobs/${begun}/steps/BRN/start`, { override: { reason: 'It stands in the oven.' } });
    expect((await edit(begun, take, 'As always.')).body.detail).toMatch(/Burn off was begun/);
    expect((await as(foreman)('POST', `route-templates/${kept.body.id}/retirement`, { reason: '' })).status).toBe(422);
    const gone = await as(foreman)('POST', `route-templates/${kept.body.id}/retirement`, { reason: 'We burn again.' });
    expect(gone.status).toBe(200);
    expect(await list()).toEqual([]);
    expect((await edit(await newJob(), take, 'As always.')).body.detail).toMatch(/not kept any more/);
    expect((await stepsOf(two)).has('CUR.2')).toBe(true);
    // its name is free again
    expect((await keep(one, 'Cold pull, two coats')).status).toBe(201);
  });
});
