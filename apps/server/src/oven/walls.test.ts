import type { OvensView } from '@norther/contracts';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { demo } from '../testing/demoNumber.ts';
import { client, startServer, type Client, type TestServer } from '../testing/server.ts';

let server: TestServer;
let [admin, foreman, winder, viewer]: Client[] = [];
const as = (c: Client | undefined): Client => c as Client;
beforeAll(async () => {
  server = await startServer('norther_walls', 'demo');
  [admin, foreman, winder, viewer] = await Promise.all(['liv', 'odd', 'ines', 'per'].map((p) => server.as(p)));
}, 180_000);
afterAll(() => server.stop());

const look = async (): Promise<OvensView> => (await as(viewer)('GET', 'ovens')).body;

describe('the demo', () => {
  it('holds a load that left too early, found out by readings typed by hand', async () => {
    const { loads } = await look();
    const load = loads.find((l) => l.state === 'done' && l.parts.some((p) => p.job === demo(25)));
    expect(load?.parts[0]?.out).toMatchObject({ verdict: 'fail', reason: 'Needed on the quay in the morning.' });
    const { body } = await as(viewer)('GET', `jobs/${demo(25)}`);
    expect(body.steps.find((s: { code: string }) => s.code === 'CUR').state).toBe('failed');
    expect(body.cures[0]).toMatchObject({ verdict: 'fail' });
  });
});

describe('the wall', () => {
  it('shows numbers and titles under an address that an admin makes and revokes, to nobody else', async () => {
    expect((await as(foreman)('POST', 'walls', { name: 'Hall' })).status).toBe(403);
    const { body: wall } = await as(admin)('POST', 'walls', { name: 'Hall' });
    const open = client(server.base);
    const shown = await open('GET', `wall/${wall.secret}`);
    expect(shown.status).toBe(200);
    expect(shown.body.map((c: { chamber: string }) => c.chamber)).toContain('Bake oven 1');
    const said = JSON.stringify([shown.body, (await as(viewer)('GET', 'walls')).body]);
    expect(said).not.toContain(wall.secret);
    for (const secret of ['x', 'x'.repeat(32), `${wall.secret}x`])
      expect((await open('GET', `wall/${secret}`)).status).toBe(404);
    const c = (await look()).chambers.find((x) => x.name === 'Bake oven 2');
    const { body: load } = await as(winder)('POST', 'ovens/loads', {
      chamberId: c?.id,
      use: 'bake',
      resin: 'Polyester dip resin',
      typed: { setPoint: '152' },
    });
    await as(winder)('POST', `ovens/loads/${load.id}/parts`, {
      job: demo(26),
      typed: { mass: '40', width: '300', height: '300' },
    });
    const own = (await open('GET', `wall/${wall.secret}`)).body.find((x: { chamber: string }) => x.chamber === c?.name);
    expect(own).toMatchObject({ state: 'loading', parts: [{ job: demo(26) }] });
    const { body: job } = await as(viewer)('GET', `jobs/${demo(26)}`);
    expect(JSON.stringify(own)).not.toContain(job.customerName ?? job.customer);
    expect(JSON.stringify(own)).not.toMatch(/Ines|Odd|Liv/);
    expect((await as(admin)('DELETE', `walls/${wall.id}`)).status).toBe(200);
    expect((await as(admin)('DELETE', `walls/${wall.id}`)).status).toBe(404);
    expect((await open('GET', `wall/${wall.secret}`)).status).toBe(404);
  });
});
