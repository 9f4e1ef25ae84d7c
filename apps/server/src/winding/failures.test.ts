import { customerReport } from '../report/papers.ts';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { demo } from '../testing/demoNumber.ts';
import { startServer, type Client, type TestServer } from '../testing/server.ts';

let server: TestServer;
let winder: Client;
let foreman: Client;
beforeAll(async () => {
  server = await startServer('norther_failures', 'demo');
  [winder, foreman] = await Promise.all([server.as('ines'), server.as('odd')]);
}, 120_000);
afterAll(() => server.stop());

const number = demo(5);
const save = (typed: Record<string, string>, revision: number, more: object = {}, who = winder) =>
  who('PUT', `jobs/${number}/failure`, { revision, typed, ...more });
const failures = async () => (await winder('GET', `jobs/${number}`)).body.failures;

describe('a failure analysis', () => {
  it('is worked out from map, tests and complaint, kept, and stands with the motor', async () => {
    expect(await failures()).toEqual([]);
    const { status, body } = await save({ marks: '4 destroyed at end turn', terminals: 'sound' }, 0);
    expect(status, JSON.stringify(body)).toBe(200);
    expect(body).toMatchObject({
      part: 'stator',
      revision: 1,
      person: expect.stringMatching(/^Ines /),
      verdict: 'pass',
    });
    // the owner told of water, the insulation was low as found
    expect(body.found.causes.map((c: { id: string }) => c.id)).toEqual(
      expect.arrayContaining(['turn_short', 'contamination']),
    );
    expect((await failures())[0]).toEqual(body);
  });
  it('a second revision takes the place of the first; what was saved meanwhile is shown, not overwritten', async () => {
    const again = await save({ marks: '5 burnt' }, 1);
    expect(again.body.revision).toBe(2);
    expect(await failures()).toHaveLength(1);
    const late = await save({ marks: '6 burnt' }, 1);
    expect([late.status, late.body.detail]).toEqual([409, expect.stringMatching(/saved by Ines .* meanwhile/)]);
    expect(late.body.current.typed).toEqual({ marks: '5 burnt' });
    expect(late.body.sent.typed).toEqual({ marks: '6 burnt' });
  });
  it('two people at once: one is kept, the other is told', async () => {
    const both = await Promise.all([save({ marks: '7 burnt' }, 2), save({ marks: '8 burnt' }, 2, {}, foreman)]);
    expect(both.map((r) => r.status).sort()).toEqual([200, 409]);
    expect((await failures())[0].revision).toBe(3);
  });
  it.each([
    [{ marks: '4 charred' }, 'marks', /not understood/],
    [{ marks: '400 burnt' }, 'marks', /There is no coil 400/],
    [{ looked: '1, 99' }, 'looked', /no group 99/],
    [{ pins: 'slot 1 at 5 %: bead [photograph 3]' }, 'pins', /There is no photograph 3: 0 are kept/],
    [{ cause: 'unknown' }, 'missing', /what is missing/],
    [{ bearings: 'fine' }, 'bearings', /Choose one of/],
  ])('%j is refused at its field', async (typed, field, says) => {
    const { status, body } = await save(typed as Record<string, string>, 3);
    expect(status).toBe(422);
    expect(body.field ?? body.problems[0].field).toBe(field);
    expect(JSON.stringify(body)).toMatch(says);
    expect((await failures())[0].revision).toBe(3);
  });
  it('of a part that did not come, by a viewer, or of a motor that left, it is refused', async () => {
    expect((await save({}, 0, { part: 'wound-rotor' })).body).toMatchObject({ field: 'part' });
    expect((await save({ marks: '1 burnt' }, 3, {}, await server.as('per'))).status).toBe(403);
    const closed = (await winder('GET', 'jobs?closed=yes')).body[0].number;
    const gone = await winder('PUT', `jobs/${closed}/failure`, { revision: 0, typed: {} });
    expect([gone.status, gone.body.title]).toEqual([409, 'Closed']);
  });
  it('stands in the report: cause, what speaks for it, advice, the map', async () => {
    const { body: job } = await winder('GET', `jobs/${demo(3)}`);
    const { body: shop } = await winder('GET', 'shop');
    const paper = (of: object) =>
      JSON.stringify(
        customerReport({ ...job, ...of }, shop.settings, 1, { name: 'O', role: 'foreman', at: job.takenInAt }).content,
      );
    const said = paper({});
    expect(said).toMatch(/Why it failed/);
    expect(said).toMatch(/Single-phasing, one line open/);
    expect(said).toMatch(/phase U 100 % burnt/);
    expect(said).toMatch(/Renew the contactor/);
    expect(said).toMatch(/damaged coils<\/title>/);
    for (const failures of [undefined, []]) expect(paper({ failures })).not.toMatch(/Why it failed/);
    const [own] = job.failures;
    const unknown = {
      ...own,
      typed: { cause: 'unknown', missing: 'the map', pins: 'slot 3 at 5 %: bead [photograph 1]' },
    };
    expect(paper({ failures: [unknown] })).toMatch(/Unknown.*the map.*slot 3: bead \(photograph 1\)/);
    expect(paper({ failures: [{ ...own, typed: {} }] })).not.toMatch(/Why it failed/);
    expect(paper({ failures: [{ ...own, typed: { marks: '1 burnt' } }] })).toMatch(/not concluded yet/);
  });
});
