import { DEMO_JOBS } from './demo/demoJobs.ts';
import type { Server } from 'node:http';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { client, signedIn, type Client } from './testing/client.ts';
import { demo } from './testing/demoNumber.ts';
import { answering, plainProxy, runBuilt, type Running } from './testing/processes.ts';
import { addressOf, makeDatabase } from './testing/server.ts';
import { startKit } from './testing/startKit.ts';

const NAME = 'norther_many';
const env = () => ({
  DATABASE_URL: addressOf(NAME, 'runner'),
  DATABASE_OWNER_URL: addressOf(NAME, 'owner'),
  NORTHER_DEMO: 'yes',
});
let ports: number[];
let servers: Running[];
let workers: Running[];
let proxy: { base: string; server: Server };
let owner: pg.Client;
let api: string;

/** Two servers and two workers begin at once on an empty database, behind one address. */
beforeAll(async () => {
  await makeDatabase(NAME);
  const { freePort } = startKit('norther-many-');
  ports = [await freePort(), await freePort()];
  servers = ports.map((port) => runBuilt('main.js', { ...env(), PORT: String(port) }));
  workers = [runBuilt('worker.js', env()), runBuilt('worker.js', env())];
  proxy = await plainProxy(ports);
  await Promise.all(ports.map((port) => answering(`http://127.0.0.1:${port}`)));
  owner = new pg.Client({ connectionString: addressOf(NAME, 'owner') });
  owner.on('error', () => undefined);
  await owner.connect();
  api = `${proxy.base}/api`;
}, 180_000);
afterAll(async () => {
  proxy?.server.closeAllConnections();
  proxy?.server.close();
  await owner?.end();
  await Promise.all([...servers, ...workers].map((p) => p.kill()));
});
const at = (n: number) => `http://127.0.0.1:${ports[n]}/api`;

async function until<T>(ask: () => Promise<T>, good: (value: T) => boolean, ms = 40_000): Promise<T> {
  const late = Date.now() + ms;
  for (;;) {
    const value = await ask();
    if (good(value) || Date.now() > late) return value;
    await new Promise((r) => setTimeout(r, 100));
  }
}

describe('two servers and two workers on one database', () => {
  it('load the demo once', async () => {
    const { rows } = await owner.query(`select count(*)::int as jobs, count(distinct number)::int as numbers,
      (select count(*)::int from person) as people from job`);
    expect(rows[0]).toEqual({ jobs: DEMO_JOBS.length, numbers: DEMO_JOBS.length, people: 6 });
  });
  it('who signs in at one is known at the other, through the proxy too', async () => {
    const odd = await signedIn(api, 'odd');
    for (let i = 0; i < 4; i++) expect((await odd('GET', 'session')).body.person.name).toBe('Odd Marstein');
  });
  it('a change at one is heard at the other', async () => {
    const signed = await fetch(`${at(0)}/session`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: '{"signIn":"per","password":"harbour-2026"}',
    });
    const cookie = signed.headers
      .getSetCookie()
      .map((c) => c.split(';')[0])
      .join('; ');
    const ended = new AbortController();
    const stream = await fetch(`${at(0)}/live`, { headers: { cookie }, signal: ended.signal });
    const reader = stream.body?.pipeThrough(new TextDecoderStream()).getReader();
    let heard = '';
    const listening = (async () => {
      while (!heard.includes(`job:${demo(2)}`)) {
        const { value, done } = (await reader?.read()) ?? { done: true };
        if (done) break;
        heard += value;
      }
    })();
    const odd = await signedIn(at(1), 'odd');
    await odd('POST', `jobs/${demo(2)}/reports`, { reason: 'once more' });
    await Promise.race([listening, new Promise((r) => setTimeout(r, 10_000))]);
    ended.abort();
    expect(heard).toContain(`job:${demo(2)}`);
  });
  it('a repeated request is one, whichever server it comes to', async () => {
    const odd = [await signedIn(at(0), 'odd'), await signedIn(at(1), 'odd')] as const;
    const send = (who: Client) => who('POST', `jobs/${demo(3)}/reports`, undefined, { 'Idempotency-Key': 'once' });
    const answers = await Promise.all([send(odd[0]), send(odd[1]), send(odd[0]), send(odd[1])]);
    expect(new Set(answers.map((a) => a.body.id)).size).toBe(1);
    const { rows } = await owner.query(
      'select count(*)::int as n from report r join job j on j.id = r.job_id where j.number = $1',
      [demo(3)],
    );
    expect(rows[0]).toEqual({ n: 1 });
  });
  it('a worker killed in the middle: another takes its work up, with the effect of once', async () => {
    const odd = await signedIn(at(0), 'odd');
    const asked = await Promise.all(
      Array.from({ length: 24 }, (_, i) =>
        odd('POST', `jobs/${demo(1 + (i % 19))}/reports`, { reason: 'as it stands now' }),
      ),
    );
    const ids = asked.filter((a) => a.status === 201).map((a) => a.body.id);
    expect(ids.length).toBeGreaterThan(20);
    await until(
      () => owner.query(`select count(*)::int as n from work where state = 'running'`),
      (r) => r.rows[0].n > 0,
    );
    await workers[0]?.kill();
    const open = `select count(*)::int as n from work where state in ('waiting', 'running')`;
    const left = await until(
      () => owner.query(open),
      (r) => r.rows[0].n === 0,
    );
    expect(left.rows[0].n).toBe(0);
    const { rows } = await owner.query(
      `select r.id, count(w.id)::int as works, bool_and(w.state = 'done') as done, r.content is not null as paper, max(w.attempt) as attempts
        from report r join work w on w.data->>'reportId' = r.id::text where r.id = any($1) group by 1, r.content order by 1`,
      [ids],
    );
    expect(rows.map((r) => [r.works, r.done, r.paper])).toEqual(ids.map(() => [1, true, true]));
  }, 90_000);
  it('a server killed in the middle of 200 writes: nothing that was acknowledged is lost, the other goes on', async () => {
    const winder = await signedIn(api, 'ines');
    const acknowledged: string[] = [];
    let sent = 0;
    const writing = Array.from({ length: 8 }, async () => {
      while (sent < 200) {
        const n = sent++;
        if (n === 80) void servers[0]?.kill();
        try {
          const { status } = await winder('PUT', `drafts/many-${n}`, { typed: { n: String(n) } });
          if (status < 300) acknowledged.push(`many-${n}`);
        } catch {
          // the line dropped: not acknowledged
        }
      }
    });
    await Promise.all(writing);
    expect(acknowledged.length).toBeGreaterThan(80);
    const { rows } = await owner.query<{ key: string }>(`select key from draft where key like 'many-%'`);
    const kept = new Set(rows.map((r) => r.key));
    expect(acknowledged.filter((k) => !kept.has(k))).toEqual([]);
    expect((await client(at(1))('GET', 'health')).status).toBe(200);
  }, 60_000);
});
