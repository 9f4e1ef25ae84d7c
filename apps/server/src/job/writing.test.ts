import { partOf } from '../testing/partOf.ts';
import { dayInZone } from '@norther/contracts';
import { checkRecord, windingRecordSchema } from '@norther/core';
import { describe, expect, it } from 'vitest';
import { now } from '../clock/clock.ts';
import { demo } from '../testing/demoNumber.ts';
import { demoShop, newJob } from '../testing/shopPeople.ts';

const { server, winder, tester, viewer, take } = demoShop('norther_writing');

describe('the demo shop', () => {
  it('has at least ten motors from 0.55 to 355 kW, 2 to 10 poles, one late, failed, blocked, finished, stator alone', async () => {
    const open = (await viewer('GET', 'jobs')).body as {
      outputW: number;
      poles: number;
      late: boolean;
      came: string;
      steps: { status: string }[];
    }[];
    const closed = (await viewer('GET', 'jobs?closed=yes')).body as unknown[];
    expect(open.length + closed.length).toBeGreaterThanOrEqual(10);
    expect(Math.min(...open.map((j) => j.outputW))).toBe(550);
    expect(Math.max(...open.map((j) => j.outputW))).toBe(355_000);
    expect([Math.min(...open.map((j) => j.poles)), Math.max(...open.map((j) => j.poles))]).toEqual([2, 10]);
    expect(closed).toHaveLength(4);
    expect(open.some((j) => j.late)).toBe(true);
    expect(open.some((j) => j.came === 'stator only')).toBe(true);
    expect(open.some((j) => j.steps.some((s) => s.status === 'failed'))).toBe(true);
    expect(open.some((j) => j.steps.some((s) => s.status === 'attention'))).toBe(true);
  });
  it('has winding records whose figures belong together: no check is against them', async () => {
    for (let i = 1; i <= 12; i++) {
      const { status, body: job } = await viewer('GET', `jobs/${demo(i)}`);
      expect(status).toBe(200);
      if (!partOf(job)?.found) continue;
      const found = checkRecord(windingRecordSchema.parse(partOf(job).found.record), job.nameplate).filter(
        (f) => f.severity !== 'I',
      );
      expect(found, `${job.number} ${job.what}`).toEqual([]);
    }
  });
});

describe('writing', () => {
  it('is late from the midnight of the shop on', async () => {
    const admin = await server().as('liv');
    const shop = (await admin('GET', 'shop')).body;
    const number = await take({ promised: dayInZone(now(), 'Etc/GMT+12') });
    const late = async () => (await viewer('GET', `jobs/${number}`)).body.late;
    // half a world of zones lies between: promised for the day of the last zone, which the first has behind it
    const zones = ['Etc/GMT+12', 'Etc/GMT-14'];
    const said: boolean[] = [];
    let { version, settings } = shop;
    for (const timeZone of [...zones, shop.settings.timeZone]) {
      const changed = await admin('PUT', 'shop', { version, settings: { ...settings, timeZone } });
      expect(changed.status).toBe(200);
      ({ version, settings } = changed.body);
      said.push(await late());
    }
    expect(said.slice(0, 2)).toEqual([false, true]);
  });
  it('works out the poles and finds earlier visits of the same serial number', async () => {
    const first = await take({ nameplate: { serial: 'SER-1', speedRpm: '965', frequencyHz: '50' } });
    await take({ nameplate: { serial: 'ser-1', speedRpm: '965', frequencyHz: '50' } });
    expect((await winder('GET', `jobs/${first}`)).body.poles).toBe(6);
    expect((await winder('GET', 'visits?serial=SER-1')).body).toHaveLength(2);
  });
  it('stores a repeated request once and refuses the key for another', async () => {
    const key = { 'Idempotency-Key': 'same-key' };
    const a = await winder('POST', 'jobs', newJob({ what: 'Once' }), key);
    const b = await winder('POST', 'jobs', newJob({ what: 'Once' }), key);
    expect(b.body).toEqual(a.body);
    const both = await Promise.all(
      [1, 2, 3].map(() => winder('POST', 'jobs', newJob({ what: 'Together' }), { 'Idempotency-Key': 'together' })),
    );
    expect(new Set(both.map((x) => x.body.number)).size).toBe(1);
    expect((await winder('POST', 'jobs', newJob({ what: 'Other' }), key)).status).toBe(422);
  });
  it('answers a stale edit with both sides', async () => {
    const number = await take();
    expect((await winder('PUT', `jobs/${number}/winding`, { revision: 0, typed: { slots: '36' } })).status).toBe(200);
    const stale = await tester('PUT', `jobs/${number}/winding`, { revision: 0, typed: { slots: '48' } });
    expect(stale.status).toBe(409);
    expect(stale.body.current.typed).toEqual({ slots: '36' });
    expect(stale.body.sent.typed).toEqual({ slots: '48' });
    const { body: job } = await winder('GET', `jobs/${number}`);
    const body = { ...newJob(), version: job.version };
    expect((await winder('PUT', `jobs/${number}`, body)).status).toBe(200);
    expect((await winder('PUT', `jobs/${number}`, body)).status).toBe(409);
  });
  it('keeps an audit event of every change, which nothing can alter', async () => {
    const number = await take();
    const { body: history } = await viewer('GET', `jobs/${number}/history`);
    expect(history[0]).toMatchObject({ action: 'job.take', person: 'Ines Halvard' });
    for (const sql of [
      'update audit_event set summary = $$x$$',
      'delete from audit_event',
      'truncate audit_event',
      'delete from test_run',
      'update test_run set verdict = $$pass$$',
      'update cure_run set verdict = $$pass$$',
      'update report set sha256 = $$x$$',
    ]) {
      await expect(server().pool.query(sql), sql).rejects.toThrow(/kept as written/);
    }
  });
  it('keeps drafts by person', async () => {
    await winder('PUT', 'drafts/winding:x', { typed: { slots: '36' } });
    expect((await winder('GET', 'drafts/winding:x')).body.body.typed.slots).toBe('36');
    expect((await tester('GET', 'drafts/winding:x')).body).toEqual({});
  });
  it('keeps photographs and gives them back unchanged', async () => {
    const number = await take();
    const png = Buffer.from(
      'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
      'base64',
    );
    const { body } = await winder('POST', `jobs/${number}/attachments`, new Uint8Array(png), {
      'Content-Type': 'image/png',
      'X-File-Name': encodeURIComponent('leads å.png'),
    });
    const got = await fetch(`${server().base}/attachments/${body.id}`, { headers: { Cookie: '' } });
    expect(got.status).toBe(401);
    expect((await winder('GET', `jobs/${number}`)).body.attachments[0].name).toBe('leads å.png');
  });
  it('the page of a motor carries no working; the working of each verdict is asked for', async () => {
    const { body: job } = await viewer('GET', `jobs/${demo(4)}`);
    const judged = [...job.tests, ...job.cures, ...job.balances].filter((r) => r.result);
    expect(judged.length).toBeGreaterThan(3);
    for (const { id, result } of judged) {
      expect([result.working, result.workingSteps > 0]).toEqual([[], true]);
      const { body: steps } = await viewer('GET', `jobs/${job.number}/workings/${id}`);
      expect(steps).toHaveLength(result.workingSteps);
      expect(steps[0]).toMatchObject({ name: expect.any(String), source: expect.any(String) });
    }
    expect((await viewer('GET', `jobs/${demo(5)}/workings/${judged[0].id}`)).status).toBe(404);
    expect((await viewer('GET', `jobs/${job.number}/workings/none`)).status).toBe(404);
  });
});
