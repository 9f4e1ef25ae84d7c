import { demo } from '../testing/demoNumber.ts';
import { randomUUID } from 'node:crypto';
import { Linter } from 'eslint';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { asAdmin, startServer, type Client, type TestServer } from '../testing/server.ts';
import { afterTransaction, Database, MOST_WAITING } from './database.ts';
import { withoutValues } from '../problem/problemFilter.ts';

let server: TestServer;
let winder: Client;
beforeAll(async () => {
  server = await startServer('norther_connections', 'demo');
  winder = await server.as('ines');
}, 120_000);
afterAll(() => server.stop());

const terminate = (): Promise<unknown> =>
  asAdmin(server.name, (client) =>
    client.query(
      `select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and usename = 'norther_app'`,
    ),
  );

describe('connections', () => {
  /* eslint-disable no-restricted-syntax -- what lint forbids is tried here */
  it('a second one inside a transaction is refused at once, and the transaction undone', async () => {
    const database = server.app.get(Database);
    await expect(
      database.transaction(async (tx) => {
        await tx.execute('select 1');
        await database.pool.query('select 1');
      }),
    ).rejects.toThrow(/inside a transaction/);
    await expect(database.reading(() => database.pool.query('select 1'))).rejects.toThrow(/inside a transaction/);
    await database.transaction(async () => {
      await afterTransaction(() => database.pool.query('select 1'));
    });
    // both gave their connection back
    for (let i = 0; i < 40; i++) await database.pool.query('select 1');
  });
  /* eslint-enable no-restricted-syntax */
  it('lint finds one before it runs', async () => {
    const path = new URL('../../../../eslint.config.js', import.meta.url).href;
    const { default: config } = (await import(/* @vite-ignore */ path)) as {
      default: { rules?: Record<string, unknown> }[];
    };
    const rules = config.find((c) => JSON.stringify(c.rules ?? {}).includes('only its own connection'))?.rules ?? {};
    const verify = (code: string): number =>
      new Linter().verify(code, { rules: { 'no-restricted-syntax': rules['no-restricted-syntax'] } } as never).length;
    expect(
      verify('writes.run(act, async ({ tx }) => { await tx.select(); await this.database.tables.select(); })'),
    ).toBeGreaterThan(0);
    expect(verify('writes.run(act, async () => this.read.detail(n))')).toBe(1);
    expect(
      verify('writes.run(act, async ({ tx }) => this.read.detailWith(tx, n)); this.database.tables.select()'),
    ).toBe(0);
  });
  it(`more than ${MOST_WAITING} waiting are turned away with 503 and a sentence, the others served`, async () => {
    const database = server.app.get(Database);
    // every connection is held until the first one is turned away, however long the requests take to come in
    const gate = await server.pool.connect();
    await gate.query('select pg_advisory_lock(471147)');
    const held = Array.from({ length: 20 }, () => database.pool.query('select pg_advisory_xact_lock(471147)'));
    await new Promise((r) => setTimeout(r, 300));
    let open: () => void = () => undefined;
    const opened = new Promise<void>((r) => (open = r));
    const asked = Array.from({ length: 260 }, () =>
      winder('GET', 'shop').then((answer) => {
        if (answer.status === 503) open();
        return answer;
      }),
    );
    await Promise.race([opened, Promise.all(asked)]);
    await gate.query('select pg_advisory_unlock(471147)');
    gate.release();
    const answers = await Promise.all(asked);
    await Promise.all(held);
    const turned = answers.filter((a) => a.status === 503);
    expect(turned.length).toBeGreaterThan(0);
    expect(turned[0]?.body.detail).toMatch(/too busy/);
    expect(turned[0]?.headers.get('retry-after')).toBe('2');
    expect(answers.filter((a) => a.status === 200).length).toBeGreaterThanOrEqual(MOST_WAITING - 20);
    expect((await winder('GET', 'shop')).status).toBe(200);
  }, 60_000);
  it('lost under three writing clients: the process goes on, what was acknowledged stands, a repeat stores once', async () => {
    const number = demo(13);
    let stop = false;
    const kept: string[] = [];
    const statuses = new Set<number>();
    const writers = [0, 1, 2].map(async (w) => {
      for (let i = 0; !stop; i++) {
        const what = `${w}-${i}`;
        const key = { 'Idempotency-Key': randomUUID() };
        const send = () => winder('PUT', `drafts/lost-${what}`, { what }, key);
        let answer = await send();
        for (let tries = 0; answer.status === 503 && tries < 20; tries++) {
          statuses.add(503);
          await new Promise((r) => setTimeout(r, 50));
          answer = await send();
        }
        statuses.add(answer.status);
        if (answer.status === 204) kept.push(what);
      }
    });
    for (let i = 0; i < 6; i++) {
      await new Promise((r) => setTimeout(r, 150));
      await terminate();
    }
    stop = true;
    await Promise.all(writers);
    expect(kept.length).toBeGreaterThan(10);
    for (const what of kept) expect((await winder('GET', `drafts/lost-${what}`)).body.body).toEqual({ what });
    expect([...statuses].every((s) => s === 204 || s === 503)).toBe(true);
    expect((await winder('GET', `jobs/${number}`)).status).toBe(200);
  }, 60_000);
  it('open screens hear again after the line to the database was lost', async () => {
    await terminate();
    await new Promise((r) => setTimeout(r, 2500));
    let opened: () => void = () => undefined;
    const isOpen = new Promise<void>((resolve) => (opened = resolve));
    const heard = new Promise<string>((resolve) => {
      const stop = new AbortController();
      void server.as('per').then(async () => {
        const signed = await fetch(`${server.base}/session`, {
          method: 'POST',
          headers: { 'Content-Type': 'application/json' },
          body: JSON.stringify({ signIn: 'per', password: 'harbour-2026' }),
        });
        const cookie = signed.headers
          .getSetCookie()
          .map((c) => c.split(';')[0])
          .join('; ');
        const stream = await fetch(`${server.base}/live`, { headers: { Cookie: cookie }, signal: stop.signal });
        const reader = stream.body?.pipeThrough(new TextDecoderStream()).getReader();
        for (let text = ''; reader;) {
          const { value, done } = await reader.read();
          text += value ?? '';
          if (text.includes('data: hello')) opened();
          if (done || text.includes('data: stock')) {
            stop.abort();
            return resolve(text);
          }
        }
      });
    });
    await isOpen;
    await winder('POST', 'stock', {
      lot: 'L-1',
      what: { kind: 'wire', bareM: 0.001, label: '1.0', grade: '2', material: 'copper' },
      unit: 'kg',
      quantity: 3,
    });
    expect(await heard).toContain('data: stock');
  }, 30_000);
  it('a failed statement is logged without its values', () => {
    const failed = Object.assign(new Error('Failed query: insert into person values ($1)\nparams: hunter2'), {
      query: 'insert into person values ($1)',
      params: ['hunter2'],
      cause: Object.assign(new Error('duplicate key: (hunter2)'), {
        code: '23505',
        constraint: 'person_sign_in_unique',
      }),
    });
    const said = withoutValues(failed);
    expect(said).toContain('23505');
    expect(said).toContain('insert into person');
    expect(said).not.toContain('hunter2');
  });
});
