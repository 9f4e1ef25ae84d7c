import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { fingerprintOf } from '../database/writes.ts';
import { client, startServer, type Client, type TestServer } from '../testing/server.ts';
import { MOST_TRIES, MOST_TRIES_WIDE, placeOf } from './attempts.ts';

let server: TestServer;
let admin: Client;
beforeAll(async () => {
  server = await startServer('norther_access', 'demo');
  admin = await server.as('liv');
}, 120_000);
afterAll(() => server.stop());

const PASSWORD = 'harbour-2026';
interface Device {
  cookies: Map<string, string>;
  send: (
    method: string,
    path: string,
    body?: unknown,
    headers?: Record<string, string>,
  ) => Promise<{ status: number; text: string }>;
  signIn: (name: string, password?: string) => Promise<number>;
}
/** A browser: it keeps the cookies it is given. */
function device(cookies = new Map<string, string>()): Device {
  const send: Device['send'] = async (method, path, body, headers = {}) => {
    const r = await fetch(`${server.base}/${path}`, {
      method,
      headers: {
        Cookie: [...cookies].map(([k, v]) => `${k}=${v}`).join('; '),
        ...(body === undefined ? {} : { 'Content-Type': 'application/json' }),
        ...headers,
      },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    });
    for (const line of r.headers.getSetCookie()) {
      const [pair = ''] = line.split(';');
      const [name = '', value = ''] = pair.split('=');
      if (/max-age=0/i.test(line)) cookies.delete(name);
      else cookies.set(name, value);
    }
    return { status: r.status, text: await r.text() };
  };
  return {
    cookies,
    send,
    signIn: async (signIn, password = PASSWORD) => (await send('POST', 'session', { signIn, password })).status,
  };
}
const idOf = async (signIn: string): Promise<string> =>
  ((await admin('GET', 'people')).body as { id: string; signIn: string }[]).find((p) => p.signIn === signIn)?.id ?? '';
const forget = (): Promise<unknown> => server.pool.query('delete from sign_in_failure');

/** A stream of live events: resolves when the server ends it. */
async function stream(d: Device): Promise<{ ended: Promise<void>; isOpen: () => boolean }> {
  const r = await fetch(`${server.base}/live`, {
    headers: { Cookie: [...d.cookies].map(([k, v]) => `${k}=${v}`).join('; ') },
  });
  expect(r.status).toBe(200);
  let open = true;
  const reader = r.body?.getReader();
  const ended = (async () => {
    for (;;) {
      const { done } = (await reader?.read()) ?? { done: true };
      if (done) break;
    }
    open = false;
  })();
  return { ended, isOpen: () => open };
}
const within = async (ms: number, work: Promise<unknown>): Promise<boolean> =>
  Promise.race([work.then(() => true), new Promise<boolean>((r) => setTimeout(() => r(false), ms))]);

describe('tries are counted before they are tried', () => {
  it('a hundred wrong passwords at once: no more than the limit are checked', async () => {
    await forget();
    const answers = await Promise.all(Array.from({ length: 100 }, (_, i) => device().signIn('tomas', `wrong-${i}`)));
    expect(answers.filter((s) => s === 401).length).toBe(MOST_TRIES);
    expect(answers.filter((s) => s === 429).length).toBe(100 - MOST_TRIES);
    expect(await device().signIn('tomas')).toBe(429);
  });
  it('others from the same address still sign in, until the address itself is over its wider limit', async () => {
    expect(await device().signIn('runa')).toBe(200);
    for (let i = 0; i < MOST_TRIES_WIDE; i++) await device().signIn(`nobody-${i}`, 'wrong');
    expect(await device().signIn('runa')).toBe(429);
    await forget();
  });
  it('the right person on a known device is not locked out by others', async () => {
    const mine = device();
    expect(await mine.signIn('tomas')).toBe(200);
    for (let i = 0; i < MOST_TRIES + 2; i++) await device().signIn('tomas', 'wrong');
    expect(await device().signIn('tomas')).toBe(429);
    expect(await mine.signIn('tomas')).toBe(200);
    await forget();
  });
  it.each([
    ['just inside', MOST_TRIES - 1, 200],
    ['at the limit', MOST_TRIES, 429],
  ])('%s: after %i wrong ones the right one is answered %i', async (_, wrong, status) => {
    await forget();
    for (let i = 0; i < wrong; i++) expect(await device().signIn('odd', 'wrong')).toBe(401);
    expect(await device().signIn('odd')).toBe(status);
    await forget();
  });
  it('PINs alike', async () => {
    const tablet = device();
    await tablet.signIn('ines');
    await tablet.send('PUT', 'session/pin', { pin: '2468' });
    const personId = await idOf('ines');
    const answers = await Promise.all(
      Array.from({ length: 60 }, (_, i) => tablet.send('POST', 'session/pin', { personId, pin: String(1000 + i) })),
    );
    expect(answers.filter((a) => a.status === 401).length).toBe(MOST_TRIES);
    expect(answers.filter((a) => a.status === 429).length).toBe(60 - MOST_TRIES);
    await forget();
    expect((await tablet.send('POST', 'session/pin', { personId, pin: '2468' })).status).toBe(200);
  });
  it('an address is a place: an IPv6 network counts as one', () => {
    expect(placeOf('10.0.0.7')).toBe('10.0.0.7');
    expect(placeOf('::ffff:10.0.0.7')).toBe('::ffff:10.0.0.7');
    expect(placeOf('2001:db8:1:2:aaaa::1')).toBe('2001:db8:1:2::/64');
    expect(placeOf('2001:db8:1:2:3:4:5:6')).toBe(placeOf('2001:db8:1:2:ffff::9'));
    expect(placeOf('::1')).toBe('0:0:0:0::/64');
  });
});

describe('what ends with a password, a sign-out', () => {
  it('sign-out ends its stream and no other', async () => {
    const [one, two] = [device(), device()];
    await one.signIn('per');
    await two.signIn('per');
    const [a, b] = [await stream(one), await stream(two)];
    await one.send('DELETE', 'session');
    expect(await within(3000, a.ended)).toBe(true);
    expect(b.isOpen()).toBe(true);
    await two.send('DELETE', 'session');
    await within(3000, b.ended);
  });
  it('one’s own new password ends other sessions, their streams and PIN entry on other devices, and keeps this one', async () => {
    await forget();
    const [here, there] = [device(), device()];
    await here.signIn('ines');
    await there.signIn('ines');
    await there.send('PUT', 'session/pin', { pin: '1357' });
    const personId = await idOf('ines');
    const other = await stream(there);
    const mine = await stream(here);
    expect((await here.send('PUT', 'session/password', { current: 'wrong', password: 'another-word-1' })).status).toBe(
      422,
    );
    expect((await here.send('PUT', 'session/password', { current: PASSWORD, password: 'short' })).status).toBe(422);
    expect((await here.send('PUT', 'session/password', { current: PASSWORD, password: 'another-word-1' })).status).toBe(
      204,
    );
    expect(await within(3000, other.ended)).toBe(true);
    expect((await there.send('GET', 'session')).status).toBe(401);
    expect((await there.send('POST', 'session/pin', { personId, pin: '1357' })).status).toBe(401);
    expect((await here.send('GET', 'session')).status).toBe(200);
    expect(mine.isOpen()).toBe(true);
    expect((await here.send('POST', 'session/pin', { personId, pin: '1357' })).status).toBe(200);
    expect(await device().signIn('ines', PASSWORD)).toBe(401);
    expect(await device().signIn('ines', 'another-word-1')).toBe(200);
    await here.send('DELETE', 'session/everywhere');
    await forget();
  });
  it('an admin’s new password for someone, and "sign out everywhere", end all of it', async () => {
    const [tablet, office] = [device(), device()];
    await tablet.signIn('tomas');
    await tablet.send('PUT', 'session/pin', { pin: '8642' });
    const id = await idOf('tomas');
    const open = await stream(tablet);
    const person = ((await admin('GET', 'people')).body as { id: string }[]).find((p) => p.id === id) as object;
    const { version, name, role, active } = person as { version: number; name: string; role: string; active: boolean };
    expect(
      (await admin('PUT', `people/${id}`, { version, name, role, active, password: 'from-the-admin-9' })).status,
    ).toBe(200);
    expect(await within(3000, open.ended)).toBe(true);
    expect((await tablet.send('POST', 'session/pin', { personId: id, pin: '8642' })).status).toBe(401);
    await office.signIn('tomas', 'from-the-admin-9');
    const again = await stream(office);
    expect((await admin('DELETE', `people/${id}/sessions`)).status).toBe(204);
    expect(await within(3000, again.ended)).toBe(true);
    expect((await office.send('GET', 'session')).status).toBe(401);
    expect((await admin('DELETE', 'people/none/sessions')).status).toBe(400);
  });
  it('a device cookie planted before sign-in is worth nothing after it', async () => {
    await forget();
    const thief = device();
    await thief.signIn('per');
    const planted = thief.cookies.get('norther_device') ?? '';
    const victim = device(new Map([['norther_device', planted]]));
    await victim.signIn('runa');
    expect(victim.cookies.get('norther_device')).not.toBe(planted);
    await victim.send('PUT', 'session/pin', { pin: '9753' });
    const personId = await idOf('runa');
    expect((await thief.send('POST', 'session/pin', { personId, pin: '9753' })).status).toBe(401);
    expect((await device(new Map([['norther_device', 'made-up']])).send('GET', 'session/known')).text).toBe('[]');
  });
});

describe('what is kept of it', () => {
  it('sign-ins, failed ones too, leave audit events', async () => {
    await forget();
    const count = async (action: string) =>
      Number((await server.pool.query('select count(*) from audit_event where action = $1', [action])).rows[0].count);
    const before = [await count('session.open'), await count('session.refused'), await count('session.close')];
    const d = device();
    await d.signIn('odd', 'wrong');
    await d.signIn('nobody-of-that-name', 'a secret typed here');
    await d.signIn('odd');
    await d.send('DELETE', 'session');
    expect([await count('session.open'), await count('session.refused'), await count('session.close')]).toEqual([
      (before[0] ?? 0) + 1,
      (before[1] ?? 0) + 2,
      (before[2] ?? 0) + 1,
    ]);
    const { rows } = await server.pool.query(
      `select to_jsonb(a)::text as row from audit_event a where action like 'session%'`,
    );
    expect(rows.map((r) => r.row).join()).not.toMatch(/secret typed|nobody-of-that-name/);
  });
  it('a draft’s first save, take-over and discard leave audit events', async () => {
    const winder = await server.as('odd');
    const said = async () =>
      (await server.pool.query(`select action from audit_event where action like 'draft%' order by id`)).rows.map(
        (r) => r.action,
      );
    await winder('PUT', 'drafts/winding-x', { a: 1 });
    await winder('PUT', 'drafts/winding-x', { a: 2 });
    expect(await said()).toEqual(['draft.begin']);
    await winder('POST', 'drafts/winding-x/taken');
    expect((await winder('GET', 'drafts')).body).toContain('winding-x');
    expect((await (await server.as('runa'))('GET', 'drafts')).body).not.toContain('winding-x');
    expect(await said()).toEqual(['draft.begin', 'draft.take']);
    await winder('DELETE', 'drafts/winding-x');
    await winder('DELETE', 'drafts/winding-x');
    await winder('PUT', 'drafts/winding-x', { a: 3 });
    await winder('DELETE', 'drafts/winding-x?recorded=yes');
    expect(await said()).toEqual(['draft.begin', 'draft.take', 'draft.discard', 'draft.begin', 'draft.recorded']);
  });
  it('secrets enter no fingerprint', () => {
    const of = (body: unknown) => fingerprintOf('PUT', '/api/x', body);
    expect(of({ pin: '1234' })).toBe(of({ pin: '9999' }));
    expect(of({ name: 'A', password: 'x' })).toBe(of({ name: 'A', password: 'y' }));
    expect(of({ current: 'a', password: 'x' })).toBe(of({ current: 'b', password: 'y' }));
    expect(of({ name: 'A' })).not.toBe(of({ name: 'B' }));
  });
  it('nobody learns names before sign-in once the demo was touched, but on a device where people are known', async () => {
    const stranger = client(server.base);
    expect((await stranger('GET', 'setup')).body.demo).toEqual([]);
    expect((await stranger('GET', 'session/known')).body).toEqual([]);
  });
});
