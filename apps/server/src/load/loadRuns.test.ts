import type { CoolingView, LoadRunView } from '@norther/contracts';
import * as core from '@norther/core';
import { LOAD_CHANNELS, LoadStand, loadFrames, pointsOfRun, seeded } from '@norther/core';
import { beforeAll, describe, expect, it } from 'vitest';
import { serve } from '../testing/server.ts';
import { demoShop } from '../testing/shopPeople.ts';

type Program = (x: object) => Promise<void>;
let dynamometer: Program;
const { server, tester, admin, winder, take } = demoShop('norther_load');
beforeAll(async () => {
  const path = new URL('../../../../scripts/instruments/dynamometer.mjs', import.meta.url).href;
  ({ dynamometer } = (await import(/* @vite-ignore */ path)) as { dynamometer: Program });
});

const until = async (what: () => boolean | Promise<boolean>, ms = 15_000) => {
  const from = Date.now();
  while (!(await what())) {
    if (Date.now() - from > ms) throw new Error('it did not happen in time');
    await new Promise((r) => setTimeout(r, 25));
  }
  return Date.now() - from;
};
const PLATE = {
  outputW: '5.5 kW',
  voltagesV: '400',
  currentsA: '11.2',
  frequencyHz: '50',
  speedRpm: '1450',
  poles: '4',
  insulationClass: 'F',
};
let count = 0;
const motor = () => take({ nameplate: { ...PLATE, serial: `LOAD-${(count += 1)}` } });
const instrument = async (name: string): Promise<{ id: string; key: string }> =>
  (await admin('POST', 'instruments', { name, kind: 'dynamometer', mayWrite: ['load', 'cooling'] })).body;
const coolings = async (number: string): Promise<CoolingView[]> =>
  (await tester('GET', `jobs/${number}/load-runs/coolings`)).body;
const runs = async (number: string): Promise<LoadRunView[]> => (await tester('GET', `jobs/${number}/load-runs`)).body;
const first = async (number: string): Promise<LoadRunView> => {
  const [run] = await runs(number);
  if (!run) throw new Error('no load run');
  return run;
};
/** Sends two samples as a dynamometer would. */
async function send(
  to: { id: string; key: string },
  number: string,
  batch: number,
  amps: number,
  more: object = {},
): Promise<Response> {
  const full = (v: number) => [v, v];
  const body = {
    stream: `${number} by hand`,
    batch,
    what: 'load',
    job: number,
    channels: ['U12', 'I1', 'P', 'T', 'n'].map((name, i) => ({ name, unit: ['V', 'A', 'W', 'N·m', 'r/min'][i] })),
    start: new Date(Date.UTC(2026, 0, 5) + batch * 100).toISOString(),
    step: 0.05,
    values: [full(400), full(amps), full(6000), full(36), full(1450)],
    ...more,
  };
  return fetch(`${server().base}/instruments/${to.id}/samples`, {
    method: 'POST',
    headers: { Authorization: `Bearer ${to.key}`, 'Content-Type': 'application/json' },
    body: JSON.stringify(body),
  });
}

describe('a load run', () => {
  it('needs an instrument that may send it and a rated current; one on an instrument and of a motor at a time', async () => {
    const [a, b] = [await motor(), await motor()];
    const brake = await instrument('Brake A');
    const begin = (number: string, more: object = {}) =>
      tester('POST', `jobs/${number}/load-runs`, { instrument: brake.id, stage: 'FI', ...more });
    expect((await begin(a, { loadPercent: 161 })).body).toMatchObject({ status: 422, field: 'loadPercent' });
    const logger = (
      await admin('POST', 'instruments', { name: 'Not a brake', kind: 'oven logger', mayWrite: ['oven'] })
    ).body;
    expect((await begin(a, { instrument: logger.id })).body).toMatchObject({ status: 422, field: 'instrument' });
    const bare = await take({ nameplate: { ...PLATE, currentsA: undefined, serial: 'LOAD-BARE' } });
    expect((await begin(bare)).body).toMatchObject({
      status: 422,
      field: 'nameplate',
      detail: expect.stringMatching(/rated current guards/),
    });
    const both = await Promise.all([begin(a), begin(a), begin(b)]);
    expect(both.map((r) => r.status).sort()).toEqual([201, 409, 409]);
    expect((await winder('POST', `jobs/${a}/load-runs`, { instrument: brake.id, stage: 'FI' })).status).toBe(403);
    const under = both[2]?.status === 201 ? b : a;
    const run = await first(under);
    expect(run.settings).toMatchObject({ ratedA: 11.2, loadFactor: 1, windingC: 155, bearingC: 90 });
    expect((await tester('POST', `jobs/${under}/load-runs/${run.id}/end`, { why: 'x' })).status).toBe(422);
    expect((await tester('POST', `jobs/${under}/load-runs/${run.id}/end`, { why: 'coupling came loose' })).status).toBe(
      200,
    );
    expect(await first(under)).toMatchObject({ why: 'coupling came loose', trace: null });
    expect((await tester('POST', `jobs/${under}/load-runs/${run.id}/end`, { why: 'again' })).status).toBe(409);
  });

  it('is guarded as samples come: held above the rated current, unloaded at the second bad sample, until somebody lets it go on', async () => {
    const number = await motor();
    const brake = await instrument('Brake B');
    await tester('POST', `jobs/${number}/load-runs`, { instrument: brake.id, stage: 'FI' });
    const commands = async (): Promise<{ command: string; person: string }[]> =>
      (await tester('GET', 'instruments')).body.find((i: { id: string }) => i.id === brake.id).commands;
    // above the rated 11.2 A for over two seconds
    for (let batch = 0; batch < 22; batch++) expect((await send(brake, number, batch, 11.5)).status).toBe(202);
    expect((await first(number)).guard).toMatchObject({ says: 'hold' });
    expect((await commands()).filter((c) => c.command === 'hold')).toMatchObject([{ person: 'Current guard' }]);
    const { id } = await first(number);
    const more = await tester('POST', `jobs/${number}/load-runs/${id}/commands`, { command: 'set load', torqueNm: 37 });
    expect(more.body).toMatchObject({
      status: 409,
      detail: expect.stringMatching(/held back: the current is above 11.2 A/),
    });
    expect(
      (await tester('POST', `jobs/${number}/load-runs/${id}/commands`, { command: 'set load', torqueNm: 36 })).status,
    ).toBe(200);
    // a repeat is looked at once
    await send(brake, number, 21, 99);
    expect((await first(number)).guard.says).toBe('hold');
    // 1.2 times that: both samples of one batch
    await send(brake, number, 22, 13.5);
    const run = await first(number);
    expect(run.guard).toMatchObject({ says: 'unload', why: expect.stringMatching(/current 13.5 A, at most 13.4 A/) });
    expect((await commands()).filter((c) => c.command === 'unload')).toMatchObject([{ person: 'Current guard' }]);
    const tell = (body: object) => tester('POST', `jobs/${number}/load-runs/${run.id}/commands`, body);
    expect((await tell({ command: 'set load', torqueNm: 5 })).body).toMatchObject({
      status: 409,
      detail: expect.stringMatching(/taken off: current 13.5 A/),
    });
    // a repeat of one press is one command
    const once = { 'Idempotency-Key': 'load-stop-once' };
    for (let i = 0; i < 2; i++)
      expect(
        (await tester('POST', `jobs/${number}/load-runs/${run.id}/commands`, { command: 'stop' }, once)).status,
      ).toBe(200);
    expect((await commands()).filter((c) => c.command === 'stop')).toMatchObject([{ person: 'Runa Solvik' }]);
    expect((await tell({ command: 'set load' })).body).toMatchObject({ status: 422, field: 'torqueNm' });
    expect((await tell({ command: 'unload', torqueNm: 5 })).body).toMatchObject({ status: 422, field: 'torqueNm' });
    expect((await tell({ command: 'go on' })).status).toBe(200);
    expect((await first(number)).guard.says).toBe('ok');
    expect((await tell({ command: 'set load', torqueNm: 5 })).status).toBe(200);
    // the stream ends: the run with it, kept as it was
    await send(brake, number, 23, 6, { last: true });
    const ended = await first(number);
    expect(ended).toMatchObject({ why: 'the stream of Brake B ended', silentS: null });
    expect((await tell({ command: 'stop' })).status).toBe(409);
    await expect(server().pool.query(`update load_run set guard = '{}' where id = $1`, [run.id])).rejects.toThrow(
      /kept/,
    );
  });

  it('samples of another motor on the same instrument are none of it', async () => {
    const [number, other] = [await motor(), await motor()];
    const brake = await instrument('Brake C');
    await tester('POST', `jobs/${number}/load-runs`, { instrument: brake.id, stage: 'FI' });
    await send(brake, other, 0, 99);
    expect(await first(number)).toMatchObject({ trace: null, guard: { says: 'ok' } });
  });

  it('from a file: read, kept, its points found; what is wrong in it is named', async () => {
    const number = await motor();
    const stand = (nm: number, n: number, from: number) =>
      Array.from({ length: n }, (_, i) => `${from + i};400;${(5 + nm / 6).toFixed(2)};${150 * nm};${nm};${1495 - nm}`);
    const csv = [
      'time [s];U12 [V];I1 [A];P [W];T [N·m];n [r/min]',
      ...stand(36, 20, 0),
      ...stand(27, 20, 20),
      ...stand(18, 20, 40),
    ];
    const file = (text: string) =>
      tester('POST', `jobs/${number}/load-runs/file`, { stage: 'FI', fileName: 'brake.csv', csv: text });
    expect((await file(csv.slice(0, 5).join('\n'))).body).toMatchObject({ status: 422, field: 'csv' });
    expect((await file(csv.join('\n').replace('T [N·m]', 'T [kW]'))).body).toMatchObject({
      field: 'csv',
      detail: expect.stringMatching(/"T" is in "kW"/),
    });
    expect((await file(csv.join('\n'))).status).toBe(201);
    const run = await first(number);
    expect(run.points.map((p) => p.torqueNm)).toEqual([36, 27, 18]);
    expect(run).toMatchObject({ instrument: null, source: 'brake.csv', why: 'from a file' });
    expect(run.said.join(' ')).toMatch(/No frequency was read/);
  });
});

describe('a resistance that is sent while it cools', () => {
  const cooling = (number: string, more: object = {}) => ({
    stream: `${number} cools`,
    what: 'cooling',
    channels: [{ name: 'R', unit: 'mΩ' }],
    step: 10,
    values: [[1400, 1390, 1381]],
    ...more,
  });
  it('counts from when the lines of the run before had current last; its coolant is that of then', async () => {
    const number = await motor();
    const brake = await instrument('Brake D');
    await tester('POST', `jobs/${number}/load-runs`, { instrument: brake.id, stage: 'FI' });
    const start = new Date(Date.UTC(2026, 0, 5)).toISOString();
    const channels = ['U12', 'I1', 'P', 'T', 'n', 'coolant'].map((name, i) => ({
      name,
      unit: ['V', 'A', 'W', 'N·m', 'r/min', '°C'][i],
    }));
    const rows = [10, 10, 0.01].map((a) => [400, a, 6000, 36, 1450, 23.5]);
    const values = channels.map((_, c) => rows.map((r) => r[c]));
    const came = await send(brake, number, 0, 0, { start, step: 2, channels, values, last: true });
    expect(came.status).toBe(202);
    const at = new Date(Date.UTC(2026, 0, 5, 0, 0, 12)).toISOString();
    expect((await send(brake, number, 0, 0, cooling(number, { start: at }))).status).toBe(202);
    expect(await coolings(number)).toMatchObject([
      {
        offAt: new Date(Date.UTC(2026, 0, 5, 0, 0, 2)).toISOString(),
        ended: false,
        problem: null,
        typed: { seconds: '10; 20; 30', ohms: '1.4; 1.39; 1.381', coolantC: '23.5' },
      },
    ]);
  });
  it('without a run before it counts from its own start; another channel says what is wrong', async () => {
    const [number, other] = [await motor(), await motor()];
    const brake = await instrument('Brake E');
    expect(await coolings(number)).toEqual([]);
    await send(brake, number, 0, 0, cooling(number));
    expect(await coolings(number)).toMatchObject([{ offAt: null, typed: { seconds: '0; 10; 20' } }]);
    await send(brake, other, 0, 0, cooling(other, { channels: [{ name: 'U', unit: 'V' }] }));
    expect(await coolings(other)).toMatchObject([{ typed: {}, problem: 'No channel is a resistance (R): U.' }]);
    expect((await tester('GET', 'jobs/99-0001/load-runs/coolings')).status).toBe(404);
  });
});

describe('the simulated dynamometer', () => {
  it('runs the motor of its plate; raised by command, guarded in time, off by itself in silence; a test is made of its points', async () => {
    const number = await motor();
    const made = await instrument('Simulated brake');
    await server().pool.query('update instrument set simulated = true where id = $1', [made.id]);
    let end: (v?: unknown) => void = () => undefined;
    const running = dynamometer({
      ended: new Promise((r) => (end = r)),
      api: server().base,
      headers: { Authorization: `Bearer ${made.key}`, 'Content-Type': 'application/json' },
      me: { id: made.id, mayWrite: ['load', 'cooling'] },
      clock: 1,
      seed: 3,
      core,
      standsS: 1,
      coolsS: 20,
    });
    const hears = async () =>
      (await tester('GET', 'instruments')).body.find((i: { id: string }) => i.id === made.id).hears as boolean;
    await until(hears);
    expect((await tester('POST', `jobs/${number}/load-runs`, { instrument: made.id, stage: 'FI' })).status).toBe(201);
    await until(async () => (await first(number)).trace !== null);
    const run = await first(number);
    const tell = (body: object) => tester('POST', `jobs/${number}/load-runs/${run.id}/commands`, body);
    const latest = async () => {
      const { body } = await tester('GET', `traces/${run.trace}?points=4000`);
      const at = (name: string) =>
        body.values[body.channels.findIndex((c: { name: string }) => c.name === name)] as number[];
      return { t: body.x as number[], torque: at('T'), amps: at('I1') };
    };
    await tell({ command: 'set load', torqueNm: 36 });
    await until(async () => ((await latest()).torque.at(-1) ?? 0) > 35);
    await until(async () => (await first(number)).points.length > 0, 30_000);
    expect((await first(number)).points.at(-1)?.torqueNm).toBeCloseTo(36, 0);
    // the brake fails to its full load: unloaded by the guard, within half a second of the second bad sample
    await tester('POST', `instruments/${made.id}/commands`, { command: 'load runs away' });
    await until(async () => (await first(number)).guard.says === 'unload', 20_000);
    await until(async () => ((await latest()).torque.at(-1) ?? 99) < 1);
    const { t, torque, amps } = await latest();
    const most = 1.2 * 11.2;
    const second = t[amps.findIndex((a, i) => a > most && (amps[i - 1] ?? 0) > most)] ?? 0;
    const off = t[torque.findIndex((nm, i) => i > torque.indexOf(Math.max(...torque)) && nm < 1)] ?? Infinity;
    // one sample is seen late where another line is the larger one
    expect(off - second).toBeLessThan(0.65);
    await tester('POST', `instruments/${made.id}/commands`, { command: 'sound again' });
    await tell({ command: 'go on' });
    await tell({ command: 'set load', torqueNm: 18 });
    await until(async () => ((await latest()).torque.at(-1) ?? 0) > 17);
    await until(async () => (await first(number)).points.length > 1, 30_000);
    await tell({ command: 'stop' });
    await until(async () => (await first(number)).endedAt !== null);
    const ended = await first(number);
    // the points are those of the samples, whoever reckons them
    const { body: whole } = await tester('GET', `traces/${run.trace}?points=4000`);
    if (whole.exact)
      expect(pointsOfRun(loadFrames(whole.channels, whole.x, whole.values), ended.ratedNm ?? undefined)).toEqual(
        ended.points,
      );
    // it stands: its resistance is sent while it cools, counted from when its lines had current last
    await until(async () => (await coolings(number))[0]?.ended === true, 40_000);
    const [cooled] = await coolings(number);
    const seconds = (cooled?.typed['seconds'] ?? '').split('; ').map(Number);
    expect(cooled).toMatchObject({ simulated: true, taken: false, problem: null });
    expect(seconds).toHaveLength(12);
    expect(seconds[0]).toBeGreaterThan(0.9);
    expect(seconds.at(-1)).toBeLessThan(40);
    const rise = await tester('POST', `jobs/${number}/tests`, {
      stage: 'FI',
      kind: 'temperatureRise',
      typed: { ...cooled?.typed, coldOhm: '1.3', coldC: '20', thermalClass: 'F', instrument: 'Simulated brake' },
      traces: [cooled?.trace],
    });
    expect(rise.status).toBe(201);
    expect((await coolings(number))[0]?.taken).toBe(true);
    end();
    await running;
    const test = await tester('POST', `jobs/${number}/tests`, {
      stage: 'FI',
      kind: 'loadTest',
      typed: {
        ...core.loadReadings(ended.points),
        coldOhm: '1.3',
        coldC: '21',
        riseK: '60',
        coolantC: '24',
        noLoadVolts: '400; 360; 240; 200; 160',
        noLoadAmps: '4; 3.5; 2.3; 1.9; 1.6',
        noLoadWatts: '240; 210; 130; 110; 92',
        noLoadC: '40',
        instrument: 'Simulated brake',
      },
      traces: [ended.trace],
    });
    expect(test.status).toBe(201);
    expect((await first(number)).taken).toBe(true);
  }, 120_000);

  it('takes the load off by itself after two seconds of silence', async () => {
    const number = await motor();
    const made = await instrument('Silent brake');
    await server().pool.query('update instrument set simulated = true where id = $1', [made.id]);
    const other = await serve('norther_load');
    let end: (v?: unknown) => void = () => undefined;
    const stands: LoadStand[] = [];
    class Watched extends LoadStand {
      constructor(...of: ConstructorParameters<typeof LoadStand>) {
        super(...of);
        stands.push(this);
      }
    }
    const running = dynamometer({
      ended: new Promise((r) => (end = r)),
      api: other.base,
      headers: { Authorization: `Bearer ${made.key}`, 'Content-Type': 'application/json' },
      me: { id: made.id },
      clock: 1,
      seed: 3,
      core: { LoadStand: Watched, LOAD_CHANNELS, seeded },
    });
    await until(async () =>
      Boolean((await tester('GET', 'instruments')).body.find((i: { id: string }) => i.id === made.id).hears),
    );
    await tester('POST', `jobs/${number}/load-runs`, { instrument: made.id, stage: 'FI' });
    await until(async () => (await first(number)).trace !== null);
    const run = await first(number);
    await tester('POST', `jobs/${number}/load-runs/${run.id}/commands`, { command: 'set load', torqueNm: 20 });
    await until(() => (stands[0]?.torqueNm ?? 0) > 15);
    await other.stop();
    const took = await until(() => stands[0]?.torqueNm === 0, 6000);
    expect(took).toBeLessThan(3500);
    end();
    await running;
    // it broke off: what came stays, and it is told that nothing comes any more
    await until(async () => ((await first(number)).silentS ?? 0) > 2);
    expect((await tester('POST', `jobs/${number}/load-runs/${run.id}/end`, { why: 'the line was lost' })).status).toBe(
      200,
    );
    expect((await first(number)).trace).toBe(run.trace);
  }, 60_000);
});
