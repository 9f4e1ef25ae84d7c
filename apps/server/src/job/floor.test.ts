import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { DEMO_JOBS } from '../demo/demoJobs.ts';
import { demo } from '../testing/demoNumber.ts';
import { startServer, type Client, type TestServer } from '../testing/server.ts';

let server: TestServer;
let viewer: Client;
beforeAll(async () => {
  server = await startServer('norther_floor', 'demo');
  viewer = await server.as('per');
}, 120_000);
afterAll(() => server.stop());

describe('one motor as the floor shows it', () => {
  it('is what the list says of it, in the house and after', async () => {
    const { body: open } = await viewer('GET', 'jobs');
    const { body: closed } = await viewer('GET', 'jobs?closed=yes');
    expect(open.length + closed.length).toBe(DEMO_JOBS.length);
    for (const j of [...open, ...closed]) expect((await viewer('GET', `jobs/${j.number}/summary`)).body).toEqual(j);
  });
  it('follows a change', async () => {
    const foreman = await server.as('odd');
    const number = demo(17);
    const before = (await viewer('GET', `jobs/${number}/summary`)).body;
    const ready = before.steps.find((s: { status: string }) => s.status === 'ready').code;
    await foreman('POST', `jobs/${number}/steps/${ready}/start`, {});
    const after = (await viewer('GET', `jobs/${number}/summary`)).body;
    expect(after.steps.find((s: { code: string }) => s.code === ready).status).toBe('running');
    expect({ ...after, steps: [] }).toEqual({ ...before, steps: [] });
  });
  it('what is no job is not found', async () => {
    expect((await viewer('GET', 'jobs/none/summary')).status).toBe(404);
  });
});
