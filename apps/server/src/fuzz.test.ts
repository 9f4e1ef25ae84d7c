import { demo } from './testing/demoNumber.ts';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { CATALOGUE } from '@norther/core';
import { bend, makeRequests, seeded, type FuzzRequest, type OpenApi } from './testing/fuzz.ts';
import { startServer, type TestServer } from './testing/server.ts';

const LONG = process.env['NORTHER_LONG'] === 'yes';
const MANY = LONG ? 5000 : 400;
const SEED = Number(process.env['NORTHER_SEED'] === 'random' ? Date.now() : (process.env['NORTHER_SEED'] ?? 8));
const PEOPLE = ['', 'per', 'ines', 'runa', 'odd', 'liv'];

let server: TestServer;
beforeAll(async () => {
  server = await startServer('norther_fuzz', 'demo');
}, 120_000);
afterAll(() => server.stop());

async function cookieOf(signIn: string): Promise<string> {
  if (signIn === '') return '';
  const r = await fetch(`${server.base}/session`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ signIn, password: 'harbour-2026' }),
  });
  return r.headers
    .getSetCookie()
    .map((c) => c.split(';')[0])
    .join('; ');
}

async function send(request: FuzzRequest, cookie: string): Promise<{ status: number; type: string; text: string }> {
  const stop = AbortSignal.timeout(30_000);
  const r = await fetch(`${server.base.replace(/\/api$/, '')}${request.path}`, {
    method: request.method,
    headers: { ...request.headers, ...(cookie ? { Cookie: cookie } : {}) },
    ...(request.body === undefined ? {} : { body: request.body }),
    signal: stop,
  });
  // a stream of events goes on for good: its head is enough
  const type = r.headers.get('content-type') ?? '';
  if (type.startsWith('text/event-stream')) {
    await r.body?.cancel();
    return { status: r.status, type, text: '' };
  }
  return { status: r.status, type, text: await r.text() };
}

describe('whatever is sent', () => {
  it(
    `${MANY} requests from the API's description, unsigned and as each role, are answered in words and below 500`,
    async () => {
      const cookies = new Map<string, string>();
      for (const who of PEOPLE) cookies.set(who, await cookieOf(who));
      const api = (await (
        await fetch(`${server.base}/openapi.json`, { headers: { Cookie: cookies.get('per') ?? '' } })
      ).json()) as OpenApi;
      const { rows: ids } = await server.pool.query<{ id: string }>(
        `select id from person union all select id from stock_lot union all select id from report union all select id from test_run limit 40`,
      );
      const known = {
        number: [demo(1), demo(4), demo(7), demo(13), demo(14), '99-9999'],
        id: [...ids.map((r) => r.id), ...CATALOGUE.map((c) => c.id)],
        code: ['PVT', 'WND', 'DAT', 'CUR', 'INT'],
        part: ['stator', 'rotor', 'second', 'wheel'],
        key: ['a-draft', 'winding'],
        name: ['slot-ring', 'schematic', 'none'],
      };
      const wrong: string[] = [];
      let answered = 0;
      for (const [i, request] of makeRequests(api, MANY, SEED, known).entries()) {
        // setting up and signing out would end the run for those who follow
        if (/\/api\/(setup|session)/.test(request.path) && request.method !== 'GET') continue;
        const who = PEOPLE[i % PEOPLE.length] ?? '';
        const { status, type, text } = await send(request, cookies.get(who) ?? '');
        answered += 1;
        const said = `${who || 'unsigned'} ${request.method} ${request.path} ${request.body?.slice(0, 300) ?? ''} -> ${status} ${type} ${text.slice(0, 200)}`;
        if (status >= 500) wrong.push(said);
        else if (status >= 400) {
          const sentence = type.startsWith('application/problem+json')
            ? (JSON.parse(text) as { detail?: string }).detail
            : undefined;
          if (!sentence || sentence.length < 8) wrong.push(said);
        }
      }
      expect(wrong).toEqual([]);
      expect(answered).toBeGreaterThan(MANY * 0.8);
    },
    LONG ? 900_000 : 120_000,
  );

  it(
    `job files, calculations and forms that are right but for a place or two are refused in words or taken`,
    async () => {
      const random = seeded(SEED + 1);
      const admin = await server.as('liv');
      const winder = await server.as('ines');
      const files = [];
      for (const n of [1, 3, 14]) files.push((await admin('GET', `jobs/${demo(n)}/export.json`)).body);
      const small = files.map((f) => ({
        ...f,
        attachments: [],
        reports: f.reports.slice(0, 1),
        history: f.history.slice(0, 5),
        tests: f.tests.slice(0, 5),
      }));
      const wrong: string[] = [];
      const statuses = new Map<number, number>();
      const judge = (
        what: string,
        body: unknown,
        { status, body: said }: { status: number; body: { detail?: string } },
      ): void => {
        statuses.set(status, (statuses.get(status) ?? 0) + 1);
        if (status >= 500 || (status >= 400 && !((said.detail?.length ?? 0) > 8)))
          wrong.push(
            `${what} ${JSON.stringify(body).slice(0, 200)} -> ${status} ${JSON.stringify(said).slice(0, 300)}`,
          );
      };
      for (let i = 0; i < (LONG ? 1500 : 50); i++) {
        const file = small[i % small.length] as { job: object };
        const body = bend({ ...file, job: { ...file.job, number: `F-${i}` } }, random) as { job?: { number?: string } };
        const answer = await admin('POST', 'import', body);
        judge('import', body, answer);
        // what was taken must open, print and go out again
        if (answer.status === 201) {
          const number = encodeURIComponent((answer.body as { number: string }).number);
          for (const path of [
            '',
            '/export.json',
            '/export.csv',
            '/card.pdf',
            '/history',
            '/material/stator',
            '/label.pdf',
          ]) {
            const read = await admin('GET', `jobs/${number}${path}`);
            if (read.status >= 500)
              wrong.push(
                `${path} of ${JSON.stringify(body).slice(0, 300)} -> ${JSON.stringify(read.body).slice(0, 300)}`,
              );
          }
        }
      }
      for (let i = 0; i < (LONG ? 2000 : 120); i++) {
        const calculation = CATALOGUE[i % CATALOGUE.length] as (typeof CATALOGUE)[number];
        const body = bend(calculation.example, random);
        judge(calculation.id, body, await winder('POST', `calculations/${calculation.id}`, body));
      }
      expect(wrong).toEqual([]);
      expect(statuses.get(422) ?? 0).toBeGreaterThan(50);
      expect(statuses.get(201) ?? 0).toBeGreaterThan(5);
    },
    LONG ? 900_000 : 120_000,
  );
});
