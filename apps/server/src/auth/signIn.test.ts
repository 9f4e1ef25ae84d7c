import { describe, expect, it } from 'vitest';
import { demo } from '../testing/demoNumber.ts';
import { client, type Client } from '../testing/server.ts';
import { demoShop, newJob } from '../testing/shopPeople.ts';

const { server, winder, foreman, admin, take, viewer, tester } = demoShop('norther_signin');

describe('signing in', () => {
  it('refuses a wrong password with a sentence, and too many of them', async () => {
    const open = client(server().base);
    for (let i = 0; i < 8; i++)
      expect((await open('POST', 'session', { signIn: 'nobody', password: 'wrong-wrong' })).status).toBe(401);
    const throttled = await open('POST', 'session', { signIn: 'nobody', password: 'wrong-wrong' });
    expect(throttled.status).toBe(429);
    expect(throttled.body.detail).toMatch(/15 minutes/);
  });
  it('keeps the session in an httpOnly same-site cookie and ends it', async () => {
    const signed = await client(server().base)('POST', 'session', { signIn: 'tomas', password: 'harbour-2026' });
    const cookie = signed.headers.getSetCookie().find((c) => c.startsWith('norther_session')) ?? '';
    expect(cookie).toMatch(/HttpOnly/i);
    expect(cookie).toMatch(/SameSite=Strict/i);
    const own = client(server().base, cookie.split(';')[0]);
    expect((await own('GET', 'session')).body.person.signIn).toBe('tomas');
    await own('DELETE', 'session');
    expect((await own('GET', 'session')).status).toBe(401);
  });
  it('changes person by PIN only on a device where that person signed in fully', async () => {
    const open = client(server().base);
    const signed = await open('POST', 'session', { signIn: 'tomas', password: 'harbour-2026' });
    const cookies = signed.headers
      .getSetCookie()
      .map((c) => c.split(';')[0])
      .join('; ');
    const device = client(server().base, cookies);
    const id = signed.body.person.id as string;
    expect((await device('POST', 'session/pin', { personId: id, pin: '2222' })).body.person.name).toBe('Tomas Brekke');
    expect((await device('POST', 'session/pin', { personId: id, pin: '9999' })).status).toBe(401);
    expect((await open('POST', 'session/pin', { personId: id, pin: '2222' })).status).toBe(401);
    const other = ((await admin('GET', 'people')).body as { id: string; signIn: string }[]).find(
      (p) => p.signIn === 'odd',
    )?.id;
    expect((await device('POST', 'session/pin', { personId: other, pin: '4444' })).status).toBe(401);
  });
  it('answers nothing but set-up, health and sign-in without a session', async () => {
    const open = client(server().base);
    expect((await open('GET', 'health')).body).toEqual({ status: 'ok' });
    expect((await open('GET', 'setup')).status).toBe(200);
    for (const path of [
      'jobs',
      'people',
      'shop',
      'search?q=a',
      `jobs/${demo(1)}`,
      'calculations',
      'drafts/x',
      `jobs/${demo(1)}/card.pdf`,
      'live',
    ]) {
      expect((await open('GET', path)).status, path).toBe(401);
    }
  });
});

describe('who may do what', () => {
  const deny: [string, () => Client, string, string, unknown][] = [
    ['viewer takes in', () => viewer, 'POST', 'jobs', newJob()],
    ['viewer starts a step', () => viewer, 'POST', `jobs/${demo(10)}/steps/TAF/start`, {}],
    ['viewer saves a winding', () => viewer, 'PUT', `jobs/${demo(10)}/winding`, { revision: 0, typed: {} }],
    ['viewer records a balance', () => viewer, 'POST', `jobs/${demo(10)}/balances`, { typed: {} }],
    [
      'winder records a test',
      () => winder,
      'POST',
      `jobs/${demo(10)}/tests`,
      { stage: 'IN', kind: 'surge', typed: {} },
    ],
    [
      'winder signs a test',
      () => winder,
      'POST',
      `jobs/${demo(4)}/tests/00000000-0000-4000-8000-000000000000/sign`,
      { reason: 'because' },
    ],
    ['winder releases a plan', () => winder, 'POST', `jobs/${demo(7)}/winding/release`, { revision: 1 }],
    [
      'tester overrides a hold',
      () => tester,
      'POST',
      `jobs/${demo(3)}/steps/PRE/start`,
      { override: { reason: 'in a hurry' } },
    ],
    ['tester reopens', () => tester, 'POST', `jobs/${demo(3)}/steps/CON/reopen`, { reason: 'mend it' }],
    ['tester waives', () => tester, 'POST', `jobs/${demo(7)}/steps/SLP/waive`, { reason: 'not used' }],
    ['tester issues a report', () => tester, 'POST', `jobs/${demo(3)}/reports`, {}],
    ['foreman changes limits', () => foreman, 'PUT', 'shop', { version: 1, settings: {} }],
    [
      'foreman adds people',
      () => foreman,
      'POST',
      'people',
      { name: 'X', signIn: 'xx', role: 'admin', password: 'long-enough' },
    ],
    ['foreman imports', () => foreman, 'POST', 'import', {}],
  ];
  it.each(deny)('%s: refused', async (_, who, method, path, body) => {
    const answer = await who()(method, path, body);
    expect(answer.status).toBe(403);
    expect(answer.body.detail).toMatch(/\.$/);
    expect(answer.headers.get('content-type')).toMatch(/problem\+json/);
  });
});

describe('bad input', () => {
  it.each([
    ['no customer', 'jobs', newJob({ customerName: '' }), 'customerName'],
    ['a letter for a number', 'jobs', newJob({ nameplate: { outputW: 'abc' } }), 'nameplate.outputW'],
    ['a unit of another kind', 'jobs', newJob({ nameplate: { outputW: '5 kg' } }), 'nameplate.outputW'],
    ['an impossible date', 'jobs', newJob({ promised: '2026-13-45x' }), 'promised'],
    ['an unknown route', 'jobs', newJob({ route: 'magic' }), 'route'],
    ['a field that is none', 'jobs', newJob({ surprise: 1 }), ''],
  ])('%s names its field', async (_, path, body, field) => {
    const answer = await winder('POST', path, body);
    expect(answer.status).toBe(422);
    expect(answer.body.problems[0].field).toBe(field);
    expect(answer.body.detail).toMatch(/[.?]$/);
  });
  it('of any kind is answered below 500', async () => {
    for (const body of [null, [], 'x', 5, { typed: { a: 1 } }, { typed: null }]) {
      for (const path of [
        'jobs',
        `jobs/${demo(10)}/tests`,
        `jobs/${demo(10)}/cures`,
        `jobs/${demo(10)}/balances`,
        'calculations/winding.layout',
        'calculations/none',
      ]) {
        const answer = await foreman('POST', path, body);
        expect(answer.status, `${path} ${JSON.stringify(body)}`).toBeGreaterThanOrEqual(400);
        expect(answer.status).toBeLessThan(500);
      }
    }
    expect((await winder('GET', 'jobs/none')).status).toBe(404);
    expect((await winder('GET', 'attachments/none')).status).toBe(404);
    expect((await winder('GET', 'nothing-here')).status).toBe(404);
  });
  it('a null byte or a file that is not what it says is refused', async () => {
    expect((await winder('POST', 'jobs', newJob({ what: 'bad\u0000name' }))).status).toBeLessThan(500);
    const number = await take();
    const bad = await winder('POST', `jobs/${number}/attachments`, new TextEncoder().encode('<svg onload=alert(1)>'), {
      'Content-Type': 'image/png',
      'X-File-Name': 'x.png',
    });
    expect(bad.status).toBe(422);
  });
});
