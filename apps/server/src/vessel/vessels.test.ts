import { PLANT_CHANNELS, PLANT_TIMES, vesselPlant } from '@norther/core';
import type { CycleView, VesselView } from '@norther/contracts';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { nowMs } from '../clock/clock.ts';
import { demo } from '../testing/demoNumber.ts';
import { client, startServer, type Client, type TestServer } from '../testing/server.ts';

let server: TestServer;
let [admin, foreman, winder, viewer]: Client[] = [];
const as = (c: Client | undefined): Client => c as Client;
beforeAll(async () => {
  server = await startServer('norther_vessels', 'demo');
  [admin, foreman, winder, viewer] = await Promise.all(['liv', 'odd', 'ines', 'per'].map((p) => server.as(p)));
}, 180_000);
afterAll(() => server.stop());

const MIN = 60_000;
const T = PLANT_TIMES;
const vesselOf = async (): Promise<VesselView> =>
  (await as(viewer)('GET', 'vessels')).body.find((v: VesselView) => v.name === 'Vessel 1');
const cycle = async (): Promise<CycleView> => (await vesselOf()).cycle as CycleView;
const next = (id: string, reason = '', who = winder) => as(who)('POST', `vessels/cycles/${id}/next`, { reason });
const out = (c: CycleView) => c.lamps.filter((l) => !l.holds).map((l) => l.code);

describe('a vessel', () => {
  it('is kept by a foreman; set points that contradict each other are refused with their field', async () => {
    const v = await vesselOf();
    const body = { typed: { ...v.typed, name: 'Vessel 2' }, tankId: v.tank?.id };
    expect((await as(winder)('POST', 'vessels', body)).status).toBe(403);
    for (const [typed, field] of [
      [{ partWarm: '40' }, 'partWarm'],
      [{ holdMost: '60 min' }, 'holdMost'],
      [{ vacuum: '2 mbar' }, 'vacuum'],
      [{ depth: '140' }, 'depth'],
      [{ reliefDue: 'soon' }, 'reliefDue'],
    ] as const)
      expect((await as(foreman)('POST', 'vessels', { ...body, typed: { ...body.typed, ...typed } })).body.field).toBe(
        field,
      );
    expect((await as(foreman)('POST', 'vessels', body)).status).toBe(201);
    expect((await as(foreman)('POST', 'vessels', body)).body.field).toBe('name');
  });
});

describe('a cycle', () => {
  let logger: { id: string; key: string };
  const zero = nowMs() - 200 * MIN;
  let sent = -1;
  let batch = 0;
  const plant = vesselPlant({ seed: 3, partTopMm: 640, coverMm: 60 }, 30);
  /** Sends what the plant reads up to a minute. */
  const sendTo = async (min: number) => {
    const rows: { s: number; values: number[] }[] = [];
    for (;;) {
      const row = plant.next().value;
      rows.push(row);
      if (row.s / 60 >= min) break;
    }
    sent = rows.at(-1)?.s ?? sent;
    const first = rows[0]?.s ?? 0;
    const answer = await client(server.base)(
      'POST',
      `instruments/${logger.id}/samples`,
      {
        stream: 'c1',
        batch: batch++,
        what: 'resin tank',
        channels: PLANT_CHANNELS.map((c) => ({ name: c.name, unit: c.unit || '0/1' })),
        start: new Date(zero + first * 1000).toISOString(),
        times: rows.map((r) => r.s - first),
        values: PLANT_CHANNELS.map((_, c) => rows.map((r) => r.values[c] ?? null)),
      },
      { Authorization: `Bearer ${logger.key}` },
    );
    expect(answer.status).toBe(202);
  };

  it('takes motors whose turn it is, of a height that it covers', async () => {
    logger = (await as(admin)('POST', 'instruments', { name: 'Plant', kind: 'resin tank', mayWrite: ['resin tank'] }))
      .body;
    const v = await vesselOf();
    await as(foreman)('PUT', `vessels/${v.id}`, {
      typed: v.typed,
      tankId: v.tank?.id,
      instrumentId: logger.id,
      version: v.version,
      active: true,
    });
    const begin = (jobs: string[], partHeight = '560') =>
      as(winder)('POST', `vessels/${v.id}/cycles`, { jobs, typed: { partHeight } });
    expect((await begin([demo(27)], '1400')).body.field).toBe('partHeight');
    expect((await begin([demo(26)])).body.detail).toMatch(/not impregnated by vacuum/);
    expect((await begin([demo(2)])).body.detail).toMatch(/held/);
    expect((await begin([])).status).toBe(422);
    const answers = await Promise.all([begin([demo(27)]), begin([demo(27)])]);
    expect(answers.map((a) => a.status).sort()).toEqual([201, 409]);
    expect((await cycle()).stage).toBe('load');
    expect((await cycle()).lot).toBe('Epoxy-store/1');
  });

  it('goes from stage to stage by its lamps; over one that is out only a foreman goes, with a reason', async () => {
    const { id } = await cycle();
    await next(id);
    // nothing is read yet: no lamp holds
    expect(out(await cycle())).toHaveLength(5);
    const refused = await next(id);
    expect([refused.status, refused.body.title]).toEqual([409, 'Interlock']);
    await sendTo(T.vacuum - 1);
    expect(out(await cycle())).toEqual([]);
    expect((await next(id)).body.stage).toBe('vacuum');
    await sendTo(T.leak);
    expect(out(await cycle())).toContain('LEAK_OK');
    expect((await as(winder)('POST', `vessels/cycles/${id}/notes`, { kind: 'leak test' })).status).toBe(201);
    await sendTo(T.leak + 8);
    expect((await cycle()).leak).toMatchObject({ passed: true });
    await sendTo(T.admit - 1);
    const c = await cycle();
    // the leak test interrupted the vacuum's hold a little; the rest holds
    expect(out(c).filter((x) => x !== 'VAC_HELD')).toEqual([]);
    const over = await next(id, 'Held before the leak test.');
    expect(over.status).toBe(out(c).length > 0 ? 403 : 200);
    if (over.status === 403) expect((await next(id, 'Held before the leak test.', foreman)).status).toBe(200);
    expect((await cycle()).stage).toBe('admit');
    expect((await as(winder)('POST', `vessels/cycles/${id}/notes`, { kind: 'leak test' })).status).toBe(409);
  });

  it('a signal that the plant does not send is read by a person', async () => {
    const { id } = await cycle();
    await sendTo(T.soak);
    await next(id);
    await sendTo(T.pressurise - 0.5);
    expect(out(await cycle())).toEqual([]);
    const said = (values: object) => as(winder)('POST', `vessels/cycles/${id}/signals`, { values });
    expect((await said({})).body.field).toBe('values');
    expect((await said({ tyre: 3 })).status).toBe(422);
    expect((await said({ lid_locked: 0 })).status).toBe(201);
    expect(out(await cycle())).toEqual(['LID_LOCKED']);
    expect((await said({ lid_locked: 1 })).status).toBe(201);
    expect(out(await cycle())).toEqual([]);
    await next(id);
  });

  it('holds until the winding is full, and its figures go into the record', async () => {
    const { id } = await cycle();
    await sendTo(T.hold);
    await next(id);
    await sendTo(T.hold + 40);
    expect((await cycle()).plateau).toMatchObject({ state: 'not_yet' });
    expect(out(await cycle())).toContain('PLATEAU_OR_MAX');
    await sendTo(T.release - 1);
    const full = await cycle();
    expect(full.plateau).toMatchObject({ state: 'plateau' });
    expect(full.alarms).toEqual([]);
    for (const min of [T.return - 1, T.drip + 2, T.end - 3]) {
      await next(id);
      await sendTo(min);
    }
    // resin back, dripping
    while ((await vesselOf()).cycle !== null) {
      const answer = await next(id);
      expect(answer.status).toBe(200);
    }
    const [of] = (await as(viewer)('GET', `jobs/${demo(27)}/cycles`)).body;
    expect(of).toMatchObject({ ended: true, figures: { end: 'capacitance plateau', lot: 'Epoxy-store/1' } });
    expect((await next(id)).status).toBe(409);
    const finished = await as(winder)('POST', `jobs/${demo(27)}/steps/IMPV/finish`, { typed: of.figures });
    expect(finished.body).toMatchObject({ verdict: 'pass' });
  });
});
