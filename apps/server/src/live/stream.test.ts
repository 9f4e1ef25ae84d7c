import { connect } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { nowMs } from '../clock/clock.ts';
import { client, serve, startServer, type Client, type TestServer } from '../testing/server.ts';

let server: TestServer;
let other: TestServer;
let admin: Client;
let winder: Client;
let logger: { id: string; key: string };
beforeAll(async () => {
  server = await startServer('norther_stream', 'demo');
  other = await serve('norther_stream', 'none');
  admin = await server.as('liv');
  winder = await server.as('ines');
  logger = (await admin('POST', 'instruments', { name: 'Oven 9', kind: 'oven logger', mayWrite: ['oven'] })).body;
}, 120_000);
afterAll(async () => {
  await other.stop();
  await server.stop();
});

interface Event {
  id: string;
  event: string;
  data: string;
}
/** A browser's line: every event as it comes. */
async function line(from: TestServer, query = '', lastId = '') {
  const signed = await client(from.base)('POST', 'session', { signIn: 'per', password: 'harbour-2026' });
  const cookie = signed.headers
    .getSetCookie()
    .map((c) => c.split(';')[0])
    .join('; ');
  const stop = new AbortController();
  const answer = await fetch(`${from.base}/live${query}`, {
    headers: { Cookie: cookie, ...(lastId ? { 'Last-Event-ID': lastId } : {}) },
    signal: stop.signal,
  });
  const events: Event[] = [];
  void (async () => {
    let text = '';
    const decoder = new TextDecoder();
    for await (const piece of answer.body ?? []) {
      text += decoder.decode(piece as Uint8Array, { stream: true });
      for (let end = text.indexOf('\n\n'); end >= 0; end = text.indexOf('\n\n')) {
        const field = (name: string) => new RegExp(`^${name}: (.*)$`, 'm').exec(text.slice(0, end))?.[1] ?? '';
        if (field('data')) events.push({ id: field('id'), event: field('event'), data: field('data') });
        text = text.slice(end + 2);
      }
    }
  })().catch(() => undefined);
  return {
    status: answer.status,
    events,
    close: () => stop.abort(),
    topics: () => events.filter((e) => !e.event).map((e) => e.data),
  };
}
const until = async (what: () => boolean, ms = 5000) => {
  const from = Date.now();
  while (!what()) {
    if (Date.now() - from > ms) throw new Error('it did not happen in time');
    await new Promise((r) => setTimeout(r, 20));
  }
};
const T0 = nowMs() - 600_000;
const send = (stream: string, n: number, at: TestServer = server) =>
  client(at.base)(
    'POST',
    `instruments/${logger.id}/samples`,
    {
      stream,
      batch: n,
      what: 'oven',
      channels: [{ name: 'air', unit: '°C' }],
      start: new Date(T0 + 5000 * n).toISOString(),
      step: 1,
      values: [[20 + n, 21 + n, null, 22 + n, 23 + n]],
    },
    { Authorization: `Bearer ${logger.key}` },
  );

describe('the line of a browser', () => {
  it('brings new samples of the traces it watches, across servers, each once and in its place', async () => {
    const id = (await send('load a', 0)).body.trace as string;
    const unwatched = (await send('load b', 0)).body.trace as string;
    const mine = await line(other, `?traces=${id}`);
    await until(() => mine.events.length > 0);
    const samples = () => mine.events.filter((e) => e.event === 'samples').map((e) => JSON.parse(e.data));
    const agains = () => mine.events.filter((e) => e.event === 'again').map((e) => e.data);
    await send('load a', 2);
    await until(() => samples().length === 1);
    // late: it lies among what the screen has, which asks for the trace anew
    await send('load a', 1);
    await until(() => agains().length === 1);
    for (const n of [3, 4]) await send('load a', n);
    await send('load b', 1);
    await until(() => samples().flatMap((s) => s.x).length >= 15);
    const got = samples();
    expect(agains()).toEqual([id]);
    expect(got.every((s) => s.id === id && s.id !== unwatched)).toBe(true);
    expect(got.flatMap((s) => s.x)).toEqual([...[10, 11, 12, 13, 14], ...Array.from({ length: 10 }, (_, i) => 15 + i)]);
    const at = new Map(got.flatMap((s) => s.x.map((x: number, i: number) => [x, s.values[0][i]])));
    expect([at.get(10), at.get(12), at.get(18)]).toEqual([22, null, 25]);
    mine.close();
  });
  it('ten times a second a trace at most, however often the instrument sends', async () => {
    const id = (await send('load fast', 0)).body.trace as string;
    const mine = await line(server, `?traces=${id}`);
    await until(() => mine.events.length > 0);
    const samples = () => mine.events.filter((e) => e.event === 'samples');
    // the first that comes while more are stored already is asked for, not sent
    await send('load fast', 1);
    await until(() => samples().length === 1);
    const from = Date.now();
    for (let n = 2; n <= 40; n++) await send('load fast', n);
    await until(() => samples().flatMap((e) => JSON.parse(e.data).x).length >= 200);
    expect(samples().length).toBeLessThanOrEqual(Math.ceil((Date.now() - from) / 100) + 1);
    mine.close();
  });
  it('goes on after the last event it had; from another process everything is asked again', async () => {
    const first = await line(server);
    await until(() => first.events.length > 0);
    const had = first.events.at(-1)?.id ?? '';
    expect(had).toMatch(/^[0-9a-f]+-\d+$/);
    first.close();
    const taken = await winder('POST', 'jobs', {
      customerName: 'Test Works',
      what: 'Missed motor',
      nameplate: {},
      intake: { came: 'whole motor' },
      route: 'ac_random_rewind',
      impregnation: 'dip',
      priority: 'ordinary',
    });
    const again = await line(server, '', had);
    await until(() => again.topics().includes(`job:${taken.body.number}`));
    expect(again.topics()).not.toContain('all');
    const elsewhere = await line(other, `?last=${had}`);
    await until(() => elsewhere.topics().includes('all'));
    const nonsense = await line(server, '', 'x-y-z');
    await until(() => nonsense.topics().includes('all'));
    for (const l of [again, elsewhere, nonsense]) l.close();
  });
  it.each([
    '?traces=x',
    `?traces=${Array.from({ length: 33 }, (_, i) => `00000000-0000-0000-0000-${String(i).padStart(12, '0')}`).join(',')}`,
  ])('what cannot be watched is refused in words (%#)', async (query) => {
    const viewer = await server.as('per');
    const answer = await viewer('GET', `live${query}`);
    expect([answer.status, answer.body.field]).toEqual([422, 'traces']);
  });

  it('a line that dropped while it was being opened is not kept', async () => {
    const signed = await client(server.base)('POST', 'session', { signIn: 'per', password: 'harbour-2026' });
    const cookie = signed.headers
      .getSetCookie()
      .map((c) => c.split(';')[0])
      .join('; ');
    const open = async () => {
      const text = await (await fetch(`${server.base}/metrics`, { headers: { Cookie: cookie } })).text();
      return Number(/^norther_streams(?:\{[^}]*\})? (\d+)$/m.exec(text)?.[1]);
    };
    const before = await open();
    const { hostname, port } = new URL(server.base);
    await Promise.all(
      Array.from(
        { length: 60 },
        (_, i) =>
          new Promise<void>((done) => {
            const socket = connect(Number(port), hostname, () => {
              socket.write(`GET /api/live HTTP/1.1\r\nHost: ${hostname}:${port}\r\nCookie: ${cookie}\r\n\r\n`);
              setTimeout(() => {
                socket.destroy();
                done();
              }, i % 12);
            });
            socket.on('error', () => done());
          }),
      ),
    );
    await new Promise((r) => setTimeout(r, 1000));
    expect(await open()).toBe(before);
  });
});
