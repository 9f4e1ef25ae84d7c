import { standReadings, vectorOf, type Heavy } from '@norther/core';
import { standingEntries } from '@norther/contracts';
import { describe, expect, it } from 'vitest';
import { demoShop } from '../testing/shopPeople.ts';

const { winder, foreman, admin, viewer, take } = demoShop('norther_balances');

const SET_UP = {
  kind: 'cage rotor',
  mass: '20',
  service: '3000',
  balancing: '900',
  grade: '6.3',
  bearingA: '0',
  bearingB: '400',
  centre: '200',
  x1: '80',
  radius1: '60',
  x2: '320',
  radius2: '60',
  places1: '12',
  taken1: '4',
};
const rotor = {
  massKg: 20,
  inertiaKgM2: 0.3,
  bearingAMm: 0,
  bearingBMm: 400,
  centreMm: 200,
  stiffness: [200000, 180000] as const,
  damping: [60, 60] as const,
};
const at = (job: string, path = '') => `jobs/${job}/balance-sessions${path}`;
/** A rotor that answers as the stand does, with what is hidden in it. */
function stand(job: string, id: string) {
  const heavy: Heavy[] = [
    { gMm: 2400, angleDeg: 130, xMm: 80 },
    { gMm: 1500, angleDeg: 300, xMm: 320 },
  ];
  const read = (extra: Heavy[] = []) => standReadings(rotor, 900, [...heavy, ...extra]).map(vectorOf);
  const enter = (entry: object, more: object = {}, who = winder) =>
    who('POST', at(job, `/${id}/entries`), { entry, ...more });
  return {
    heavy,
    enter,
    run: () => enter({ kind: 'run', readings: read() }),
    trial: (plane: number, angleDeg: number) =>
      enter({
        kind: 'trial',
        plane,
        gMm: 1500,
        angleDeg,
        readings: read([{ gMm: 1500, angleDeg, xMm: plane === 1 ? 80 : 320 }]),
      }),
    fix: (masses: { plane: number; angleDeg: number; massG: number }[]) => {
      for (const m of masses) heavy.push({ gMm: m.massG * 60, angleDeg: m.angleDeg, xMm: m.plane === 1 ? 80 : 320 });
      return enter({ kind: 'correction', masses: masses.map((m) => ({ ...m, radiusMm: 60 })) });
    },
  };
}
const begin = (job: string, more: object = {}, who = winder) => who('POST', at(job), { typed: { ...SET_UP, ...more } });

describe('a balance on the stand', () => {
  it('is begun with a set-up that can be reckoned with, once at a time', async () => {
    const job = await take();
    expect((await begin(job, {}, viewer)).status).toBe(403);
    for (const [more, field] of [
      [{ bearingB: '0' }, 'bearingB'],
      [{ x2: '80' }, 'x2'],
      // planes exchanged
      [{ x1: '320', x2: '80' }, 'x2'],
      [{ radius2: '' }, 'radius2'],
      [{ taken1: '13' }, 'taken1'],
      [{ taken1: 'three' }, 'taken1'],
      [{ mass: '0' }, 'mass'],
      [{ mass: '' }, 'mass'],
      [{ grade: 'G2' }, 'grade'],
    ] as const) {
      const bad = await begin(job, more);
      expect([bad.status, bad.body.field], JSON.stringify(more)).toEqual([422, field]);
    }
    const both = await Promise.all([begin(job), begin(job)]);
    expect(both.map((b) => b.status).sort()).toEqual([201, 409]);
    const { body: list } = await viewer('GET', at(job));
    expect(list).toMatchObject([{ part: 'cage-rotor', ended: null, entries: [] }]);
    expect(list[0].setUp.planes[0]).toMatchObject({ xMm: 80, radiusMm: 60, places: 12, taken: [4] });
  });
  it('goes from the first run to inside; what is wrong is taken back with a reason; it joins the rail', async () => {
    const job = await take();
    const id = (await begin(job)).body.id as string;
    const s = stand(job, id);
    expect((await s.run()).body).toMatchObject({ ordinal: 1, stage: 'trial 1', verdict: 'cannot judge' });
    await s.trial(1, 0);
    // typed at the wrong angle, and put right
    const wrong = await s.trial(2, 45);
    expect(wrong.body.stage).toBe('correct');
    const { body: before } = await viewer('GET', at(job));
    const entry = before[0].entries[2].entry;
    const put = { entry: { ...entry, angleDeg: 90 }, supersedes: 3 };
    expect((await winder('POST', at(job, `/${id}/entries`), put)).body.field).toBe('reason');
    expect((await winder('POST', at(job, `/${id}/entries`), { ...put, supersedes: 9 })).body.field).toBe('supersedes');
    const other = { entry: { kind: 'run', readings: entry.readings }, supersedes: 3, reason: 'Typed wrong.' };
    expect((await winder('POST', at(job, `/${id}/entries`), other)).body.field).toBe('entry.kind');
    const back = await s.enter(entry, { supersedes: 3, withdrawn: true, reason: 'It was at 90°.' });
    expect(back.body.stage).toBe('trial 2');
    await s.trial(2, 90);
    const strange = await s.fix([{ plane: 3, angleDeg: 0, massG: 1 }]);
    expect(strange.status).toBe(422);
    s.heavy.pop();
    const taken = await s.enter({
      kind: 'correction',
      masses: [{ plane: 1, angleDeg: 90, massG: 3, radiusMm: 60, place: 4 }],
    });
    expect([taken.status, taken.body.detail]).toEqual([422, expect.stringMatching(/Place 4 of plane 1 is taken/)]);
    expect((await winder('POST', at(job, `/${id}/end`), {})).body.field).toBe('reason');
    await s.fix([
      { plane: 1, angleDeg: 310, massG: 40 },
      { plane: 2, angleDeg: 120, massG: 25 },
    ]);
    expect((await s.run()).body).toMatchObject({ stage: 'done', verdict: 'pass' });
    const start = await foreman('POST', `jobs/${job}/steps/RBL/start`, { override: { reason: 'Rotor came alone.' } });
    expect(start.status).toBe(200);
    const undone = await winder('POST', `jobs/${job}/steps/RBL/finish`, { typed: { key: 'H (half)' } });
    expect(undone.body.verdict).toBe('cannot judge');
    expect((await winder('POST', at(job, `/${id}/end`), {})).body.verdict).toBe('pass');
    expect((await s.run()).status).toBe(409);
    await foreman('POST', `jobs/${job}/steps/RBL/reopen`, { reason: 'Balanced now.' });
    await foreman('POST', `jobs/${job}/steps/RBL/start`, { override: { reason: 'Rotor came alone.' } });
    const done = await winder('POST', `jobs/${job}/steps/RBL/finish`, { typed: { key: 'H (half)' } });
    expect(done.body.verdict).toBe('pass');
    const { body: detail } = await viewer('GET', `jobs/${job}`);
    expect(detail.balances[0]).toMatchObject({ verdict: 'pass', reason: expect.stringMatching(/^Bearing A/) });
    const { body: after } = await viewer('GET', at(job));
    expect(after[0].ended).toMatchObject({ by: 'Ines Halvard', meaning: 'pass' });
    expect(standingEntries(after[0].entries).map((e) => e.kind)).toEqual([
      'run',
      'trial',
      'trial',
      'correction',
      'run',
    ]);
    // out and in again with every row, and the verdict that it ended in
    const { body: file } = await viewer('GET', `jobs/${job}/export.json`);
    expect(file.balanceSessions).toMatchObject([{ balance: 0 }]);
    const brought = await admin('POST', 'import', { ...file, job: { ...file.job, number: '25-9121' } });
    expect(brought.status).toBe(201);
    const { body: again } = await viewer('GET', at('25-9121'));
    const bare = ({ id: _, ...session }: { id: string }) => session;
    expect(again.map(bare)).toEqual(after.map(bare));
    const { body: file2 } = await viewer('GET', 'jobs/25-9121/export.json');
    expect(file2.balanceSessions).toEqual(file.balanceSessions);
  });
  it('a bent shaft is refused before it is spun, and ends as failed', async () => {
    const job = await take();
    const id = (await begin(job, { seatTir: '0.03' })).body.id as string;
    expect((await winder('POST', at(job, `/${id}/end`), {})).body.detail).toMatch(/repair the shaft first/);
    const ended = await winder('POST', at(job, `/${id}/end`), { reason: 'To the lathe.' });
    expect(ended.body.verdict).toBe('fail');
    // and it may come onto the stand again
    expect((await begin(job)).status).toBe(201);
  });
  it('a stand that separates the planes needs no trial; both its planes are read', async () => {
    const job = await take();
    const id = (await begin(job, { readings: 'unbalance per plane' })).body.id as string;
    const { enter } = stand(job, id);
    const one = [{ size: 100, angleDeg: 30 }];
    expect((await enter({ kind: 'run', readings: one })).body.field).toBe('entry.readings');
    const trial = { kind: 'trial', plane: 1, gMm: 300, angleDeg: 0, readings: [...one, ...one] };
    expect((await enter({ ...trial, staysIn: true })).body.field).toBe('entry.staysIn');
    expect((await enter({ kind: 'run', readings: [...one, ...one] })).body).toMatchObject({
      stage: 'done',
      verdict: 'pass',
    });
  });
});
