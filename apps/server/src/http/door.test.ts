import { demo } from '../testing/demoNumber.ts';
import { request } from 'node:http';
import { connect } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { client, startServer, type Client, type TestServer } from '../testing/server.ts';
import { MOST_DEPTH, readJson, refuseTangled } from './jsonBody.ts';
import { ORDINARY_BYTES } from './routeFacts.ts';
import { trustedProxies } from './trustedProxies.ts';

let server: TestServer;
let winder: Client;
let foreman: Client;
beforeAll(async () => {
  server = await startServer('norther_door', 'demo');
  winder = await server.as('ines');
  foreman = await server.as('odd');
}, 120_000);
afterAll(() => server.stop());

const nested = (depth: number): string => '['.repeat(depth) + ']'.repeat(depth);
const open = (path: string, init: RequestInit = {}): Promise<Response> => fetch(`${server.base}/${path}`, init);
const isProblem = (r: Response): void => expect(r.headers.get('content-type')).toMatch(/^application\/problem\+json/);

/** Sends a head and then bytes until the server answers; gives the status and how much of the body it read. */
function pour(path: string, headers: Record<string, string>, bytes: number): Promise<{ status: number; sent: number }> {
  return new Promise((resolve, reject) => {
    const url = new URL(`${server.base}/${path}`);
    let sent = 0;
    const req = request(url, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', 'Content-Length': String(bytes), ...headers },
    });
    const chunk = Buffer.from('[[],'.repeat(16_384));
    req.on('response', (res) => {
      res.resume();
      resolve({ status: res.statusCode ?? 0, sent });
      req.destroy();
    });
    req.on('error', (e: NodeJS.ErrnoException) =>
      e.code === 'ECONNRESET' || e.code === 'EPIPE' ? undefined : reject(e),
    );
    const write = (): void => {
      if (req.destroyed || sent >= bytes) return;
      sent += chunk.length;
      if (req.write(chunk)) setImmediate(write);
      else req.once('drain', write);
    };
    write();
  });
}

describe('size and depth of what is sent', () => {
  it('who is not signed in is refused before a body is read', async () => {
    const { status, sent } = await pour('import', {}, 180 * 1024 * 1024);
    expect(status).toBe(401);
    expect(sent).toBeLessThan(40 * 1024 * 1024);
  });
  it('an open route takes an ordinary body at most', async () => {
    expect((await pour('session', {}, ORDINARY_BYTES + 1)).status).toBe(413);
  });
  it.each([
    ['at the limit', ORDINARY_BYTES, 422],
    ['above it', ORDINARY_BYTES + 1, 413],
  ])('a form %s', async (_, bytes, status) => {
    const text = `{"x":"${'a'.repeat(bytes - 8)}"}`;
    expect(Buffer.byteLength(text)).toBe(bytes);
    const { status: got, body } = await foreman('POST', `jobs/${demo(1)}/winding/release`, undefined, {}).then(() =>
      raw(text, `jobs/${demo(1)}/winding/release`),
    );
    expect(got).toBe(status);
    if (status === 413) expect(body.detail).toMatch(/at most 1 MB/);
  });
  it('nesting: 64 deep is read, 65 is refused in words', async () => {
    expect(() => refuseTangled(Buffer.from(nested(MOST_DEPTH)))).not.toThrow();
    expect(() => refuseTangled(Buffer.from(nested(MOST_DEPTH + 1)))).toThrow(/more than 64/);
    expect(() => refuseTangled(Buffer.from(`"${nested(200)}\\"${nested(200)}"`))).not.toThrow();
    const { status, body } = await raw(`{"body":${nested(70)}}`, 'drafts/deep', 'PUT');
    expect([status, body.detail]).toEqual([422, expect.stringMatching(/64/)]);
  });
  it('keys that would reach into objects, and what is no JSON, are refused', () => {
    expect(() => readJson(Buffer.from('{"__proto__":{"a":1}}'))).toThrow(/not JSON/);
    expect(() => readJson(Buffer.from('{"a":'))).toThrow(/not JSON/);
    expect(readJson(Buffer.from(''))).toBeUndefined();
    expect(readJson(Buffer.from('{"a":[1]}'))).toEqual({ a: [1] });
  });
});

const raw = async (text: string, path: string, method = 'POST', headers: Record<string, string> = {}) => {
  const cookie = await cookieOf('odd');
  const r = await open(path, {
    method,
    body: text,
    headers: { 'Content-Type': 'application/json', Cookie: cookie, ...headers },
  });
  return { status: r.status, body: JSON.parse((await r.text()) || '{}') as { detail: string } };
};
let kept: string | undefined;
async function cookieOf(signIn: string): Promise<string> {
  if (kept !== undefined) return kept;
  const cookie = await open('session', {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ signIn, password: 'harbour-2026' }),
  }).then((r) =>
    r.headers
      .getSetCookie()
      .map((c) => c.split(';')[0])
      .join('; '),
  );
  kept = cookie;
  return cookie;
}

describe('where a change comes from', () => {
  const host = () => new URL(server.base).host;
  it.each([
    ['this Norther', () => ({ Origin: `http://${host()}` }), 204],
    ['this Norther behind a secure proxy', () => ({ Origin: `https://${host()}` }), 204],
    ['another page', () => ({ Origin: 'http://elsewhere.example' }), 403],
    ['another port', () => ({ Origin: 'http://127.0.0.1:1' }), 403],
    ['a page without an origin', () => ({ Origin: 'null' }), 403],
    ['a page that names no origin but another site', () => ({ 'Sec-Fetch-Site': 'cross-site' }), 403],
    ['no browser at all', () => ({}), 204],
  ])('%s', async (_, headers, status) => {
    expect((await raw('{"a":1}', 'drafts/origin', 'PUT', headers())).status).toBe(status);
  });
  it('sign-in is checked like any change', async () => {
    const r = await open('session', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', Origin: 'http://elsewhere.example' },
      body: '{"signIn":"odd","password":"harbour-2026"}',
    });
    expect(r.status).toBe(403);
  });
  it.each(['text/plain', 'application/x-www-form-urlencoded', 'multipart/form-data; boundary=x', 'application/pdf'])(
    'only JSON is taken, not %s',
    async (type) => {
      const { status, body } = await raw('{"a":1}', 'drafts/type', 'PUT', { 'Content-Type': type });
      expect([status, body.detail]).toEqual([415, expect.stringMatching(/Only JSON/)]);
    },
  );
});

describe('odd addresses', () => {
  it('a key said twice is named', async () => {
    for (const path of ['search?q=a&q=b', 'jobs?closed=yes&closed=no', 'archive?q=a&q=b']) {
      const { status, body } = await winder('GET', path);
      expect([status, body.field], path).toEqual([400, path.includes('closed') ? 'closed' : 'q']);
    }
  });
  it('a step called __proto__ is none', async () => {
    for (const code of ['__proto__', 'constructor', 'toString'])
      expect((await winder('POST', `jobs/${demo(13)}/steps/${code}/start`, {})).status, code).toBe(404);
  });
  it.each([
    ['that cannot be read', 'jobs/%E0%A4%A', 400],
    ['that is too long', `jobs/${'9'.repeat(400)}`, 404],
    ['with a line break', 'jobs/26%0D%0A1', 400],
    ['of nothing', 'nothing', 404],
  ])('an address %s is answered in words', async (_, path, status) => {
    const r = await open(path, { headers: { Cookie: await cookieOf('odd') } });
    expect(r.status).toBe(status);
    isProblem(r);
    expect(((await r.json()) as { detail: string }).detail.length).toBeGreaterThan(5);
  });
  it('so is a missing file, a missing page of the API by another method, and a line that is no request', async () => {
    const base = server.base.replace('/api', '');
    for (const [path, method] of [
      ['/assets/none.js', 'GET'],
      ['/none.png', 'GET'],
      ['/api/none', 'POST'],
      ['/api/health', 'PUT'],
    ]) {
      const r = await fetch(base + String(path), {
        method: String(method),
        headers: { Cookie: await cookieOf('odd') },
      });
      expect(r.status, path).toBe(404);
      isProblem(r);
    }
    const line = await new Promise<string>((resolve) => {
      const socket = connect(Number(new URL(base).port), '127.0.0.1', () => socket.write('NONSENSE\r\n\r\n'));
      let text = '';
      socket.on('data', (d) => (text += String(d)));
      socket.on('close', () => resolve(text));
    });
    expect(line).toMatch(/^HTTP\/1\.1 400/);
    expect(line).toMatch(/problem\+json/);
    const long = await fetch(`${base}/api/health`, { headers: { 'X-Long': 'a'.repeat(20_000) } });
    expect(long.status).toBe(431);
    isProblem(long);
  });
});

describe('TRUST_PROXY', () => {
  it('names addresses and networks; nothing named, nobody is believed', () => {
    expect(trustedProxies(undefined)).toBe(false);
    expect(trustedProxies(' ')).toBe(false);
    expect(trustedProxies('127.0.0.1, 10.1.0.0/16,::1')).toEqual(['127.0.0.1', '10.1.0.0/16', '::1']);
    for (const bad of ['yes', 'true', '10.1.0.0/33', 'proxy.example', '10.1'])
      expect(() => trustedProxies(bad), bad).toThrow(/TRUST_PROXY/);
  });
});

describe('names before sign-in', () => {
  it('the demo people are told while the shop is as it was loaded, and no more once somebody was changed', async () => {
    const stranger = client(server.base);
    expect((await stranger('GET', 'setup')).body.demo).toHaveLength(6);
    expect((await stranger('GET', 'session/known')).body).toEqual([]);
    expect((await stranger('GET', 'people')).status).toBe(401);
    await winder('PUT', 'session/pin', { pin: '4711' });
    expect((await stranger('GET', 'setup')).body.demo).toEqual([]);
  });
});
