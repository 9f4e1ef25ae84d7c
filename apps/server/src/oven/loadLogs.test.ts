import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Act } from '../database/writes.ts';
import { nowMs } from '../clock/clock.ts';
import { demo } from '../testing/demoNumber.ts';
import { client, startServer, type Client, type TestServer } from '../testing/server.ts';
import { Loads } from './loads.ts';

const MIN = 60_000;
let server: TestServer;
let [winder, foreman, admin, viewer]: Client[] = [];
const as = (c: Client | undefined): Client => c as Client;
let actor: Act['actor'];
beforeAll(async () => {
  server = await startServer('norther_load_logs', 'demo');
  [winder, foreman, admin, viewer] = await Promise.all(['ines', 'odd', 'liv', 'per'].map((p) => server.as(p)));
  const { rows } = await server.pool.query("select id, name, role from person where sign_in = 'ines'");
  actor = rows[0];
}, 180_000);
afterAll(() => server.stop());

/** The part follows the air, so many minutes apart, from a minute on. */
const part = (t: number) => (t < 60 ? 22 + (128 * t) / 60 : 150);
const csv = (from: number, to: number, every: number, more: { unit?: '°F'; head?: string } = {}) =>
  [
    more.head ?? `min,air ${more.unit ?? '°C'},T4 ${more.unit ?? '°C'}`,
    ...Array.from({ length: Math.floor((to - from) / every) + 1 }, (_, i) => {
      const t = from + i * every;
      const say = (c: number) => (more.unit ? 1.8 * c + 32 : c).toFixed(2);
      return `${t - from},${say(155)},${say(part(t))}`;
    }),
  ].join('\n');

let made = 0;
/** A load of one motor that was started so many minutes ago; with a logger that sends nothing by itself, or without. */
async function load(startedMin: number, withLogger: boolean) {
  made += 1;
  const job = demo(26);
  const logger: { id: string; key: string } | undefined = withLogger
    ? (await as(admin)('POST', 'instruments', { name: `Yard logger ${made}`, kind: 'oven logger', mayWrite: ['oven'] }))
        .body
    : undefined;
  const chamber = await as(foreman)('POST', 'ovens/chambers', {
    typed: { name: `Yard oven ${made}`, doorWidth: '900', doorHeight: '900', mostMass: '400', highest: '200' },
    uses: ['bake'],
    instrumentId: logger?.id ?? null,
  });
  const { body: begun } = await as(winder)('POST', 'ovens/loads', {
    chamberId: chamber.body.id,
    use: 'bake',
    resin: 'Polyester dip resin',
    typed: { setPoint: '155' },
  });
  const { body: current } = await as(viewer)('GET', `jobs/${job}`);
  const cur = current.steps.find((s: { code: string }) => s.code === 'CUR');
  if (!['open', 'running'].includes(cur.state))
    await as(foreman)('POST', `jobs/${job}/steps/CUR/reopen`, { reason: 'Another load.' });
  const into = await as(winder)('POST', `ovens/loads/${begun.id}/parts`, {
    job,
    typed: { mass: '47', width: '300', height: '300' },
    channels: [],
  });
  expect(into.status).toBe(201);
  const startedAt = nowMs() - startedMin * MIN;
  await server.app.get(Loads).start({ actor, at: new Date(startedAt) }, begun.id);
  return { id: begun.id as string, part: into.body.part as string, startedAt, logger };
}
const add = (id: string, body: object) =>
  as(winder)('POST', `ovens/loads/${id}/logs`, { fileName: 'yard.csv', ...body });
const look = async (id: string) => (await as(viewer)('GET', `ovens/loads/${id}`)).body;
const sits = (id: string, partId: string, channel = 'T4') =>
  as(winder)('PUT', `ovens/loads/${id}/probes`, {
    probes: [{ channel, role: 'part', part: partId }],
    reason: 'The sensor of the yard.',
  });
const takeOut = (id: string, partId: string, reason = '') =>
  as(winder)('POST', `ovens/loads/${id}/parts/${partId}/out`, { reason });

describe('the log of a load as a file', () => {
  it('counts like a logger’s, once its sensors are assigned; one that nobody assigned is named', async () => {
    const { id, part: on } = await load(420, false);
    expect((await as(viewer)('POST', `ovens/loads/${id}/logs`, { fileName: 'x', csv: 'x' })).status).toBe(403);
    const answer = await add(id, { csv: csv(0, 420, 2) });
    expect([answer.status, answer.body]).toEqual([201, { rows: 211, channels: ['air °C', 'T4 °C'], badRows: [] }]);
    const before = await look(id);
    expect(before.leftOver).toEqual(['T4 °C']);
    expect(before.channels).toEqual(['air °C', 'T4 °C']);
    expect(before.parts[0].now.degree).toBe(0);
    expect((await sits(id, on, 'T4 °C')).status).toBe(200);
    const after = await look(id);
    expect(after.leftOver).toEqual([]);
    // 6 h at 150 °C of a resin of 5 h at 145 °C: 2^0.5 times an hour each
    expect(after.parts[0].now.degree).toBeGreaterThan((6 / 5) * Math.SQRT2);
    const gone = await takeOut(id, on);
    expect([gone.status, gone.body.verdict]).toEqual([200, 'pass']);
    expect((await add(id, { csv: csv(0, 420, 2) })).status).toBe(409);
  });
  it('in °F by its header is read as such', async () => {
    const { id, part: on } = await load(420, false);
    await add(id, { csv: csv(0, 420, 2, { unit: '°F' }) });
    await sits(id, on, 'T4 °F');
    expect((await look(id)).parts[0].now.hottestC).toBeCloseTo(150, 1);
    expect((await takeOut(id, on)).body.verdict).toBe('pass');
  });
  it('a hole in it earns nothing, and what was before the load neither', async () => {
    const { id, part: on } = await load(240, false);
    // it began two hours before the load: those rows are of another
    const whole = csv(60, 420, 2).split('\n');
    const holed = whole.filter((_, i) => i < 70 || i > 150).join('\n');
    await add(id, { csv: holed, firstAt: new Date(nowMs() - 360 * MIN).toISOString() });
    await sits(id, on, 'T4 °C');
    const { now } = (await look(id)).parts[0];
    // rows from 360 min ago, every 2 min; the load runs for 240 min, a hole from 222 to 60 min ago
    expect(now.totalMin).toBeGreaterThan(60);
    expect(now.totalMin).toBeLessThan(90);
    expect((await takeOut(id, on, 'Needed on the quay.')).body.verdict).not.toBe('pass');
  });
  it('a slower file fills the hole of a logger, at its own pace', async () => {
    const { id, part: on, logger, startedAt } = await load(420, true);
    const sendFrom = (stream: string, from: number, to: number) => {
      const t = Array.from({ length: to - from }, (_, i) => from + i);
      return client(server.base)(
        'POST',
        `instruments/${logger?.id}/samples`,
        {
          stream,
          batch: 1,
          what: 'oven',
          channels: [{ name: 'T4', unit: '°C', role: 'part' }],
          start: new Date(startedAt + from * MIN).toISOString(),
          step: 60,
          values: [t.map(part)],
        },
        { Authorization: `Bearer ${logger?.key}` },
      );
    };
    const sent = await sendFrom('a', 0, 120);
    expect([sent.status, sent.body]).toEqual([202, expect.anything()]);
    expect((await sendFrom('b', 400, 420)).status).toBe(202);
    await sits(id, on);
    const holed = (await look(id)).parts[0].now.degree;
    expect(holed).toBeLessThan(0.5);
    const head = 'min,T4';
    const lines = csv(118, 402, 10, { head })
      .split('\n')
      .map((l, i) => (i === 0 ? l : l.replace(/,155\.00/, '')));
    const fill = await add(id, { csv: lines.join('\n'), firstAt: new Date(startedAt + 118 * MIN).toISOString() });
    expect(fill.status).toBe(201);
    const full = (await look(id)).parts[0].now.degree;
    expect(full).toBeGreaterThan((6 / 5) * Math.SQRT2 * 0.99);
    // what comes after it from the logger still counts
    expect((await sendFrom('c', 420, 421)).status).toBe(202);
    expect((await look(id)).parts[0].now.degree).toBeGreaterThanOrEqual(full);
    expect((await takeOut(id, on)).body.verdict).toBe('pass');
  });
  it.each<[string, (startedAt: number) => object, string, RegExp]>([
    ['nothing that can be read', () => ({ csv: 'min,T4\nsoon,hot' }), 'csv', /Fewer than two rows.*Line 2/],
    ['an empty file', () => ({ csv: '' }), 'csv', /empty/],
    ['a file that ends ahead', () => ({ csv: csv(0, 420, 2) }), 'firstAt', /min from now: it holds 420 min/],
    [
      'a file of before the load',
      (s) => ({ csv: csv(0, 30, 2), firstAt: new Date(s - 90 * MIN).toISOString() }),
      'firstAt',
      /ends before load/,
    ],
    ['a time that is none', () => ({ csv: csv(0, 30, 2), firstAt: 'noon' }), 'firstAt', /./],
  ])('refuses %s', async (_, body, field, says) => {
    const { id, part: on, startedAt } = await load(60, false);
    const answer = await add(id, body(startedAt));
    expect([answer.status, answer.body.field]).toEqual([422, field]);
    expect(answer.body.detail).toMatch(says);
    await takeOut(id, on, 'It was a trial.');
  });
});
