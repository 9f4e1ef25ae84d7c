import { describe, expect, it } from 'vitest';
import { demo } from '../testing/demoNumber.ts';
import { client } from '../testing/server.ts';
import { demoShop } from '../testing/shopPeople.ts';

const { server, winder, tester, foreman, admin, viewer, take } = demoShop('norther_settings');

describe('settings, calculations and live changes', () => {
  it('a shop limit changes the next verdict, not an old one', async () => {
    const { body: shop } = await admin('GET', 'shop');
    const changed = await admin('PUT', 'shop', {
      version: shop.version,
      settings: { ...shop.settings, limits: { 'ir.attentionFactor': 1 } },
    });
    expect(changed.status).toBe(200);
    expect((await admin('PUT', 'shop', { version: shop.version, settings: shop.settings })).status).toBe(409);
    const number = await take();
    const typed = {
      testV: '500',
      r1min: '8.5',
      windingC: '22',
      measured: 'whole winding',
      kind: 'random-wound',
      system: 'thermosetting',
      instrument: 'tester',
    };
    expect(
      (await tester('POST', `jobs/${number}/tests`, { stage: 'IN', kind: 'insulationResistance', typed })).body.verdict,
    ).toBe('pass');
    expect(
      (await viewer('GET', `jobs/${demo(4)}`)).body.tests.find(
        (t: { stage: string; kind: string }) => t.stage === 'AC' && t.kind === 'insulationResistance',
      ).verdict,
    ).toBe('attention');
    const { body: unknown } = await admin('PUT', 'shop', {
      version: changed.body.version,
      settings: { ...shop.settings, limits: { 'no.such': 1 } },
    });
    expect(unknown.detail).toMatch(/no limit named/);
    await admin('PUT', 'shop', { version: changed.body.version, settings: { ...shop.settings, limits: {} } });
  });
  it('a limit that an older Norther kept stands in nobody’s way', async () => {
    await server().pool.query(
      `update shop set settings = jsonb_set(settings, '{limits}', '{"ir.attentionFactor": 3, "of.before": 7}')`,
    );
    const { body: shop } = await admin('GET', 'shop');
    expect(shop.settings.limits).toEqual({ 'ir.attentionFactor': 3 });
    const settings = { ...shop.settings, limits: {} };
    expect((await admin('PUT', 'shop', { version: shop.version, settings })).status).toBe(200);
  });
  it('a shop leaves operations out of its route; motors in the house keep theirs, guards cannot go', async () => {
    const before = await take();
    const { body: shop } = await admin('GET', 'shop');
    const settings = { ...shop.settings, leaveOut: { ac_random_rewind: ['BLS', 'BRN', 'COL'] } };
    expect((await foreman('PUT', 'shop', { version: shop.version, settings })).status).toBe(403);
    const changed = await admin('PUT', 'shop', { version: shop.version, settings });
    expect(changed.status).toBe(200);
    const after = await take();
    const codes = async (number: string) =>
      ((await viewer('GET', `jobs/${number}`)).body.detailSteps as { code: string; after: string[] }[]) ?? [];
    expect((await codes(before)).map((s) => s.code)).toEqual(expect.arrayContaining(['BLS', 'BRN', 'COL']));
    const now = await codes(after);
    expect(now.some((s) => ['BLS', 'BRN', 'COL'].includes(s.code))).toBe(false);
    expect(now.find((s) => s.code === 'STR')?.after).toEqual(['CUT']);
    expect(now.find((s) => s.code === 'WSH')?.after).toEqual(['TT1']);
    expect((await winder('POST', `jobs/${after}/steps/BRN/start`, {})).status).toBe(404);
    const refused = await admin('PUT', 'shop', {
      version: changed.body.version,
      settings: { ...settings, leaveOut: { ac_random_rewind: ['PVT'] } },
    });
    expect(refused.status).toBe(422);
    expect(JSON.stringify(refused.body)).toMatch(/stays in every route/);
    await admin('PUT', 'shop', { version: changed.body.version, settings: shop.settings });
  });
  it('at least one admin stays', async () => {
    const me = (
      (await admin('GET', 'people')).body as { id: string; signIn: string; version: number; name: string }[]
    ).find((p) => p.signIn === 'liv');
    const answer = await admin('PUT', `people/${me?.id}`, {
      version: me?.version,
      name: me?.name,
      role: 'viewer',
      active: true,
    });
    expect(answer.body.detail).toMatch(/At least one active admin/);
  });
  it('the catalogue answers over HTTP and is in the OpenAPI document', async () => {
    const { body: list } = await viewer('GET', 'calculations');
    for (const c of list as { id: string; example: unknown }[]) {
      const answer = await viewer('POST', `calculations/${c.id}`, c.example);
      expect(answer.status, c.id).toBe(200);
      expect(answer.body.id).toBe(c.id);
    }
    const { body: openapi } = await viewer('GET', 'openapi.json');
    expect(Object.keys(openapi.paths)).toContain('/api/jobs/{number}/steps/{code}/start');
  });
  it('another screen hears of a change', async () => {
    const cookies = (
      await client(server().base)('POST', 'session', { signIn: 'per', password: 'harbour-2026' })
    ).headers
      .getSetCookie()
      .map((c) => c.split(';')[0])
      .join('; ');
    const stop = new AbortController();
    const stream = await fetch(`${server().base}/live`, { headers: { Cookie: cookies }, signal: stop.signal });
    const reader = stream.body?.getReader();
    const number = await take();
    let heard = '';
    while (!heard.includes(`job:${number}`)) {
      const { value, done } = (await reader?.read()) ?? { value: undefined, done: true };
      if (done) break;
      heard += new TextDecoder().decode(value);
    }
    stop.abort();
    expect(heard).toContain(`data: job:${number}`);
  });
  it('sends security headers', async () => {
    const { headers } = await viewer('GET', 'health');
    expect(headers.get('content-security-policy')).toMatch(/frame-ancestors 'none'/);
    expect(headers.get('x-content-type-options')).toBe('nosniff');
  });
});
