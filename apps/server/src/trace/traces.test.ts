import { chunksOf } from '@norther/core';
import { drizzle } from 'drizzle-orm/node-postgres';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import * as schema from '../database/schema.ts';
import { startServer, type Client, type TestServer } from '../testing/server.ts';
import { addTrace } from './traceStatements.ts';

let server: TestServer;
let viewer: Client;
let id: string;
const N = 100_000;
beforeAll(async () => {
  server = await startServer('norther_traces', 'demo');
  viewer = await server.as('per');
  // one sample each 0.1 min; a single peak, a single dip, a stretch that was lost
  const x = Float64Array.from({ length: N }, (_, i) => i / 10);
  const part = Float64Array.from(x, (_, i) => (i === 54_321 ? 400 : i > 70_000 && i < 71_000 ? NaN : 100));
  const air = Float64Array.from(x, (_, i) => (i === 12_345 ? -40 : 120));
  id = await addTrace(
    drizzle(server.pool, { schema }),
    {
      what: 'oven',
      channels: [
        { name: 'part', unit: '°C', role: 'part' },
        { name: 'air', unit: '°C', role: 'oven air' },
      ],
      xUnit: 'min',
      source: 'file',
      sourceName: 'long.csv',
    },
    chunksOf({ x, values: [part, air] }),
  );
}, 120_000);
afterAll(() => server.stop());
const get = (query: string, trace = id) => viewer('GET', `traces/${trace}${query}`);

describe('a trace is asked for by window and resolution', () => {
  it('from afar: few points, every peak and dip', async () => {
    const { status, body } = await get('?points=300');
    expect(status).toBe(200);
    expect(body).toMatchObject({ samples: N, from: 0, to: (N - 1) / 10, exact: false, job: null, what: 'oven' });
    expect(body.x.length).toBeLessThanOrEqual(600);
    expect(body.x.length).toBeGreaterThan(200);
    expect(Math.max(...body.values[0].filter((v: number | null) => v !== null))).toBe(400);
    expect(Math.min(...body.values[1])).toBe(-40);
    expect(body.values[0]).toContain(null);
  });
  it('near: every sample, and one on each side', async () => {
    const { body } = await get('?from=5432&to=5432.3&points=100');
    expect(body.exact).toBe(true);
    expect(body.x).toEqual([5431.9, 5432, 5432.1, 5432.2, 5432.3, 5432.4]);
    expect(body.values[0]).toEqual([100, 100, 400, 100, 100, 100]);
  });
  it('what was lost is null, at every resolution', async () => {
    const near = await get('?from=7050&to=7060&points=1000');
    expect(new Set(near.body.values[0])).toEqual(new Set([null]));
    expect(new Set(near.body.values[1])).toEqual(new Set([120]));
  });
  it('a window beyond its ends is empty, not refused', async () => {
    const { status, body } = await get('?from=20000&to=30000');
    expect([status, body.x, body.values]).toEqual([200, [], [[], []]]);
  });
  it.each([
    ['?points=1', 422, /2 to 4000 points/],
    ['?points=2', 200, undefined],
    ['?points=4000', 200, undefined],
    ['?points=4001', 422, /2 to 4000 points/],
    ['?points=2.5', 422, /2 to 4000 points/],
    ['?from=abc', 422, /is no number/],
    ['?from=5&to=5', 422, /begin before it ends/],
    ['?from=NaN', 422, /is no number/],
  ])('asked for "%s": %i', async (query, status, sentence) => {
    const answer = await get(query);
    expect(answer.status).toBe(status);
    if (sentence) expect(answer.body.detail).toMatch(sentence);
  });
  it('what is no trace is not found', async () => {
    for (const no of ['x', '00000000-0000-4000-8000-000000000000', "' or 1=1"])
      expect((await get('', encodeURIComponent(no))).status).toBe(404);
  });
  it('the page of a motor names its logs and carries no sample', async () => {
    const { body: closed } = await viewer('GET', 'jobs?closed=yes');
    const details = await Promise.all(
      closed.map(async (j: { number: string }) => (await viewer('GET', `jobs/${j.number}`)).body),
    );
    const cures = details.flatMap((d) => d.cures);
    expect(cures.length).toBeGreaterThan(0);
    for (const c of cures) {
      expect(Object.keys(c.trace).sort()).toEqual(['channels', 'id', 'samples', 'what', 'xUnit']);
      const { body } = await get('', c.trace.id);
      expect(body.x.length).toBe(c.trace.samples);
    }
  });
});
