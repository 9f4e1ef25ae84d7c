import type { LoadView, OvensView } from '@norther/contracts';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { nowMs } from '../clock/clock.ts';
import { demo } from '../testing/demoNumber.ts';
import { client, startServer, type Client, type TestServer } from '../testing/server.ts';

let server: TestServer;
let [admin, foreman, winder, viewer]: Client[] = [];
const as = (c: Client | undefined): Client => c as Client;
beforeAll(async () => {
  server = await startServer('norther_ovens', 'demo');
  [admin, foreman, winder, viewer] = await Promise.all(['liv', 'odd', 'ines', 'per'].map((p) => server.as(p)));
}, 180_000);
afterAll(() => server.stop());

const MIN = 60_000;
const look = async (): Promise<OvensView> => (await as(viewer)('GET', 'ovens')).body;
const loadOf = async (id: string): Promise<LoadView> => (await as(viewer)('GET', `ovens/loads/${id}`)).body;
const chamberOf = async (name: string) => (await look()).chambers.find((c) => c.name === name);
let made = 0;
/** A chamber of its own, with a logger. */
async function chamber(more: { mostMass?: string; uses?: string[] } = {}) {
  made += 1;
  const logger = (
    await as(admin)('POST', 'instruments', { name: `Logger ${made}`, kind: 'oven logger', mayWrite: ['oven'] })
  ).body as { id: string; key: string };
  const { body } = await as(foreman)('POST', 'ovens/chambers', {
    typed: {
      name: `Oven ${made}`,
      doorWidth: '800',
      doorHeight: '700',
      mostMass: more.mostMass ?? '400',
      highest: '200',
    },
    uses: more.uses ?? ['bake', 'dry'],
    instrumentId: logger.id,
  });
  return { id: body.id as string, name: `Oven ${made}`, logger };
}
const begin = (chamberId: string, more: object = {}) =>
  as(winder)('POST', 'ovens/loads', {
    chamberId,
    use: 'bake',
    resin: 'Polyester dip resin',
    typed: { setPoint: '152' },
    ...more,
  });
const put = (load: string, job: string, more: object = {}, who = winder) =>
  as(who)('POST', `ovens/loads/${load}/parts`, {
    job,
    typed: { mass: '40', width: '300', height: '300', ...(more as { typed?: object }).typed },
    channels: (more as { channels?: string[] }).channels ?? [],
  });
const out = (load: string, part: string, reason = '') =>
  as(winder)('POST', `ovens/loads/${load}/parts/${part}/out`, { reason });
/** Air at 152 °C, two parts that follow it: minute by minute from a minute on. */
const course = (from: number, to: number, more: (t: number) => number = () => 0) => {
  const at = (t: number, lag: number) => 152 - 130 * Math.exp(-t / lag) + more(t);
  const t = Array.from({ length: to - from }, (_, i) => from + i);
  return [t.map(() => 152), t.map((m) => at(m, 20)), t.map((m) => at(m, 45))];
};
const CHANNELS = [
  { name: 'air', unit: '°C', role: 'oven air' },
  { name: 'probe 1', unit: '°C', role: 'part' },
  { name: 'probe 2', unit: '°C', role: 'part' },
];
const send = (
  logger: { id: string; key: string },
  of: { stream?: string; batch: number; from: number; values: (number | null)[][]; zero: number; channels?: object[] },
) =>
  client(server.base)(
    'POST',
    `instruments/${logger.id}/samples`,
    {
      stream: of.stream ?? 'load 1',
      batch: of.batch,
      what: 'oven',
      channels: of.channels ?? CHANNELS,
      start: new Date(of.zero + of.from * MIN).toISOString(),
      step: 60,
      values: of.values,
    },
    { Authorization: `Bearer ${logger.key}` },
  );
/** A job whose cure has been taken back to open, so that it may go in again. */
async function again(job: string): Promise<void> {
  const { body } = await as(viewer)('GET', `jobs/${job}`);
  const cur = body.steps.find((s: { code: string }) => s.code === 'CUR');
  if (!['open', 'running'].includes(cur.state))
    await as(foreman)('POST', `jobs/${job}/steps/CUR/reopen`, { reason: 'Another load.' });
}

describe('chambers', () => {
  it('are kept by a foreman; sizes that are none are refused with the field', async () => {
    const body = {
      typed: { name: 'Small one', doorWidth: '40 cm', doorHeight: '400', mostMass: '60', highest: '180' },
      uses: ['bake'],
    };
    expect((await as(winder)('POST', 'ovens/chambers', body)).status).toBe(403);
    expect((await as(foreman)('POST', 'ovens/chambers', body)).status).toBe(201);
    expect((await as(foreman)('POST', 'ovens/chambers', body)).body.field).toBe('name');
    const bad = await as(foreman)('POST', 'ovens/chambers', {
      ...body,
      typed: { ...body.typed, name: 'B', doorWidth: '0' },
    });
    expect([bad.status, bad.body.field]).toEqual([422, 'doorWidth']);
    expect((await as(foreman)('POST', 'ovens/chambers', { ...body, uses: [] })).status).toBe(422);
    const c = await chamberOf('Small one');
    expect(c).toMatchObject({ doorWidthMm: 400, mostKg: 60, version: 1 });
    const change = { ...body, version: 1, active: false, typed: { ...body.typed, mostMass: '70' } };
    expect((await as(foreman)('PUT', `ovens/chambers/${c?.id}`, change)).status).toBe(200);
    expect((await as(foreman)('PUT', `ovens/chambers/${c?.id}`, change)).status).toBe(409);
    expect(await chamberOf('Small one')).toMatchObject({ mostKg: 70, active: false });
  });
  it('an unknown one, or a number that is none, is a sentence', async () => {
    for (const path of ['ovens/loads/x', 'ovens/loads/00000000-0000-4000-8000-000000000000'])
      expect((await as(viewer)('GET', path)).status).toBe(404);
  });
});

describe('what goes in', () => {
  it('a load is begun once in a chamber, with what it may hold and reach', async () => {
    const c = await chamber();
    expect((await begin(c.id, { use: 'burn-off', resin: undefined })).body.field).toBe('use');
    expect((await begin(c.id, { resin: undefined })).body.field).toBe('resin');
    expect((await begin(c.id, { resin: 'Tar' })).body.field).toBe('resin');
    expect((await begin(c.id, { typed: { setPoint: '305' } })).body.detail).toMatch(/°F.*152/);
    expect((await begin(c.id, { typed: { setPoint: '140' } })).body.detail).toMatch(/145/);
    const begun = await Promise.all([begin(c.id), begin(c.id), begin(c.id)]);
    expect(begun.map((b) => b.status).sort()).toEqual([201, 409, 409]);
  });
  it('a part is checked for door, mass, resin and use; its operation begins with it; a held one is refused', async () => {
    const c = await chamber({ mostMass: '60' });
    const { id } = (await begin(c.id)).body;
    expect((await put(id, demo(26), { typed: { width: '801' } })).body.field).toBe('width');
    expect((await put(id, demo(26), { typed: { mass: '61' } })).body.field).toBe('mass');
    expect((await put(id, 'no-such')).status).toBe(404);
    // its winding is not tested before varnish
    const held = await put(id, demo(4));
    expect(held.status).toBe(409);
    expect(held.body.detail).toMatch(/held/);
    // nothing of it is to be baked
    expect((await put(id, demo(8))).body.detail).toMatch(/nothing open to bake/);
    expect((await put(id, demo(26))).status).toBe(201);
    const { body } = await as(viewer)('GET', `jobs/${demo(26)}`);
    expect(body.steps.find((s: { code: string }) => s.code === 'CUR').state).toBe('running');
    expect((await put(id, demo(26))).body.field).toBe('job');
    expect((await put(id, demo(23), { typed: { mass: '21' } })).body.detail).toMatch(/61 kg/);
    const offered = (await as(viewer)('GET', `ovens/loads/${id}/candidates`)).body as {
      job: string;
      faults: object[];
    }[];
    expect(offered.map((o) => o.job)).toContain(demo(23));
    expect(offered.map((o) => o.job)).not.toContain(demo(26));
    expect(offered.find((o) => o.job === demo(23))?.faults).toHaveLength(1);
    expect(offered.map((o) => o.job)).not.toContain(demo(4));
    // taken back before the start: nothing is judged, the chamber is free again
    const part = (await loadOf(id)).parts[0]?.id ?? '';
    expect((await out(id, part)).status).toBe(200);
    expect((await loadOf(id)).state).toBe('done');
    expect((await as(viewer)('GET', `jobs/${demo(26)}/ovens`)).body).toEqual([]);
  });
  it('of many who put one motor in at once, one does', async () => {
    const [a, b] = [await chamber(), await chamber()];
    const ids = [(await begin(a.id)).body.id, (await begin(b.id)).body.id];
    const answers = await Promise.all(Array.from({ length: 6 }, (_, i) => put(ids[i % 2], demo(26))));
    expect(answers.map((x) => x.status).sort()).toEqual([201, 422, 422, 422, 422, 422]);
    for (const id of ids) {
      const part = (await loadOf(id)).parts.find((p) => p.out === null);
      if (part) await out(id, part.id);
    }
  });
});

describe('a load that bakes', () => {
  it('is followed by the part’s own temperature, in a server that remembers and in one that does not, and judged the same when it leaves', async () => {
    const c = await chamber();
    const { id } = (await begin(c.id)).body;
    await put(id, demo(23), { channels: ['probe 1'] });
    await put(id, demo(26), { channels: ['probe 2'] });
    expect((await put(id, demo(5), { channels: ['probe 1'] })).body.field).toBe('channels');
    expect((await as(winder)('POST', `ovens/loads/${id}/start`)).status).toBe(200);
    expect((await put(id, demo(5))).body.title).toBe('Running');
    const zero = nowMs() - 500 * MIN;
    let batch = 0;
    let before = [0, 0];
    for (let from = 0; from < 300; from += 60) {
      expect((await send(c.logger, { batch: batch++, from, values: course(from, from + 60), zero })).status).toBe(202);
      const degrees = (await loadOf(id)).parts.map((p) => p.now?.degree ?? -1);
      degrees.forEach((d, i) => expect(d).toBeGreaterThanOrEqual(before[i] ?? 0));
      before = degrees;
    }
    expect(before[0]).toBeGreaterThan(before[1] ?? 0);
    const half = await loadOf(id);
    const sheet = await as(viewer)('GET', `ovens/loads/${id}/sheet.pdf`);
    expect([sheet.status, sheet.headers.get('content-type')]).toEqual([200, 'application/pdf']);
    expect(half.parts[1]?.now).toMatchObject({ slowest: null, verdict: 'under_cured' });
    expect(half.parts[1]?.now?.forecastMin).toBeGreaterThan(0);
    expect(half.alarms).toEqual([]);
    // a batch that was late on its way: the load is read anew and says what it would have said
    await send(c.logger, { batch: 6, from: 360, values: course(360, 420), zero });
    await send(c.logger, { batch: 5, from: 300, values: course(300, 360), zero });
    // many who look at once take what came once
    const [live] = (await Promise.all(Array.from({ length: 12 }, () => loadOf(id)))) as [LoadView];
    expect((await loadOf(id)).late).toBe(0);
    const { LoadFollowing } = await import('./loadFollowing.ts');
    (server.app.get(LoadFollowing) as unknown as { kept: Map<string, unknown> }).kept.clear();
    const anew = await loadOf(id);
    live.parts.forEach((p, i) => expect(anew.parts[i]?.now?.degree).toBeCloseTo(p.now?.degree ?? -1, 9));
    // out: the quick one is cured, the slow one is not, and says so
    const [quick, slow] = live.parts;
    expect(quick?.now?.verdict).toBe('cured');
    const left = await out(id, quick?.id ?? '');
    expect(left.body).toMatchObject({ verdict: 'pass' });
    expect((await loadOf(id)).state).toBe('running');
    const early = await out(id, slow?.id ?? '');
    expect([early.status, early.body.field]).toEqual(
      slow?.now?.verdict === 'cured' ? [200, undefined] : [422, 'reason'],
    );
    const { body } = await as(viewer)('GET', `jobs/${demo(23)}`);
    expect(body.cures[0].result.values.degree).toBeCloseTo(quick?.now?.degree ?? 0, 9);
    expect(body.cures[0].fileName).toContain(c.name);
    await out(id, slow?.id ?? '', 'The end of the shift.');
    const ended = await loadOf(id);
    expect(ended.state).toBe('done');
    expect((await as(winder)('POST', `ovens/loads/${id}/start`)).status).toBe(409);
    // what the logger sends afterwards is of no load
    await send(c.logger, { batch: 7, from: 420, values: course(420, 430, () => 500), zero });
    expect((await loadOf(id)).parts[0]?.out).toEqual(ended.parts[0]?.out);
  });
  it('sensors on the wrong parts are put right, with a reason, for the whole load', async () => {
    const c = await chamber();
    const { id } = (await begin(c.id)).body;
    await again(demo(23));
    await again(demo(26));
    const a = (await put(id, demo(23), { channels: ['probe 1'] })).body.part;
    const b = (await put(id, demo(26), { channels: ['probe 2'] })).body.part;
    await as(winder)('POST', `ovens/loads/${id}/start`);
    await send(c.logger, { batch: 0, from: 0, values: course(0, 240), zero: nowMs() - 240 * MIN });
    const before = (await loadOf(id)).parts.map((p) => p.now?.degree);
    const turned = [
      { channel: 'probe 1', role: 'part', part: b },
      { channel: 'probe 2', role: 'part', part: a },
    ];
    const unsaid = await as(winder)('PUT', `ovens/loads/${id}/probes`, { probes: turned });
    expect([unsaid.status, unsaid.body.field]).toEqual([422, 'reason']);
    expect(
      (await as(winder)('PUT', `ovens/loads/${id}/probes`, { probes: turned, reason: 'Plugs exchanged.' })).status,
    ).toBe(200);
    const after = await loadOf(id);
    expect(after.parts.map((p) => p.now?.degree)).toEqual([...before].reverse());
    expect(after.events.some((e) => e.kind === 'probes' && e.note.includes('Plugs exchanged.'))).toBe(true);
    // a sensor on nothing: the part is judged by nothing, and the alarm says so
    await as(winder)('PUT', `ovens/loads/${id}/probes`, {
      probes: [{ channel: 'probe 2', role: 'not used', part: null }],
      reason: 'It hangs in the air.',
    });
    const bare = await loadOf(id);
    expect(bare.parts[0]?.now?.verdict).toBe('undetermined');
    expect(bare.alarms.map((x) => x.code)).toContain('air_only');
    for (const p of [a, b]) await out(id, p, 'End of the test.');
    expect((await loadOf(id)).parts.map((p) => p.out?.verdict)).toEqual(['cannot judge', 'fail']);
  });
  it('a gap earns nothing until readings are typed; a logger that began anew goes on; a clock that goes back is left out', async () => {
    const c = await chamber();
    const { id } = (await begin(c.id)).body;
    await again(demo(26));
    const part = (await put(id, demo(26), { channels: ['probe 1'] })).body.part;
    await as(winder)('POST', `ovens/loads/${id}/start`);
    const zero = nowMs() - 2 * MIN;
    const degree = async () => (await loadOf(id)).parts[0]?.now?.degree ?? -1;
    await send(c.logger, { batch: 0, from: 0, values: course(0, 100), zero });
    const first = await degree();
    await send(c.logger, { stream: 'load 2', batch: 0, from: 180, values: course(180, 200), zero });
    const second = await degree();
    await send(c.logger, { stream: 'load 3', batch: 0, from: 190, values: course(190, 200), zero });
    const third = await loadOf(id);
    expect(third.late).toBe(10);
    expect(third.parts[0]?.now?.degree).toBeCloseTo(second, 9);
    const perMin = (second - first) / 19;
    expect(perMin * 300).toBeGreaterThan(1);
    // the gap from minute 99 to 180 has earned nothing
    expect(second).toBeLessThan(first + 21 * perMin);
    expect((await loadOf(id)).traces).toHaveLength(3);
    await out(id, part, 'End of the test.');
  });
  it('reads °F as °F', async () => {
    const c = await chamber();
    const { id } = (await begin(c.id)).body;
    await again(demo(26));
    const part = (await put(id, demo(26), { channels: ['probe 1'] })).body.part;
    await as(winder)('POST', `ovens/loads/${id}/start`);
    await send(c.logger, {
      batch: 0,
      from: 0,
      zero: nowMs() - 100 * MIN,
      channels: CHANNELS.map((x) => ({ ...x, unit: '°F' })),
      values: course(0, 100).map((v) => v.map((x) => 1.8 * x + 32)),
    });
    expect((await loadOf(id)).parts[0]?.now?.c).toBeCloseTo(152 - 130 * Math.exp(-99 / 20), 6);
    await out(id, part, 'End of the test.');
  });
});

describe('a load without a logger', () => {
  it('is judged by typed readings, that must be of its time', async () => {
    const { body: made } = await as(foreman)('POST', 'ovens/chambers', {
      typed: { name: 'By hand', doorWidth: '800', doorHeight: '700', mostMass: '100', highest: '200' },
      uses: ['bake'],
    });
    const { id } = (await begin(made.id)).body;
    await again(demo(26));
    const part = (await put(id, demo(26))).body.part;
    const read = (c: string, at?: number) =>
      as(winder)('POST', `ovens/loads/${id}/readings`, {
        part,
        typed: { c },
        ...(at === undefined ? {} : { at: new Date(at).toISOString() }),
      });
    expect((await read('100')).status).toBe(409);
    await as(winder)('POST', `ovens/loads/${id}/start`);
    expect((await read('900')).body.field).toBe('c');
    expect((await read('warm')).body.field).toBe('c');
    expect((await read('100', nowMs() + 10 * MIN)).body.field).toBe('at');
    expect((await read('100', nowMs() - 10 * MIN)).body.field).toBe('at');
    expect((await read('284 °F')).status).toBe(201);
    expect((await read('141')).status).toBe(201);
    const now = (await loadOf(id)).parts[0]?.now;
    expect(now?.c).toBe(141);
    expect(now?.verdict).toBe('under_cured');
    expect((await out(id, part)).body.field).toBe('reason');
    expect((await out(id, part, 'Only tried.')).body.verdict).toBe('fail');
  });
});

describe('a burn-off', () => {
  it('is judged by the core plate and the door, and answers the records of its operations', async () => {
    const c = await chamber({ uses: ['burn-off'], mostMass: '900' });
    const { body: oven } = await as(foreman)('PUT', `ovens/chambers/${c.id}`, {
      typed: { name: c.name, doorWidth: '800', doorHeight: '700', mostMass: '900', highest: '420' },
      uses: ['burn-off'],
      instrumentId: c.logger.id,
      version: 1,
      active: true,
    });
    expect(oven.id).toBe(c.id);
    const { id } = (await begin(c.id, { use: 'burn-off', resin: undefined, typed: { setPoint: '355' } })).body;
    expect((await put(id, demo(24))).body.field).toBe('corePlate');
    expect((await put(id, demo(26), { typed: { corePlate: 'organic' } })).body.detail).toMatch(/nothing open|burn off/);
    const part = (await put(id, demo(24), { typed: { corePlate: 'organic' }, channels: ['probe 1'] })).body.part;
    await as(winder)('POST', `ovens/loads/${id}/start`);
    // two hours up, four hours at 350 °C, then 40 K/h down
    const heat = (t: number) => Math.min(350, 22 + 2.8 * t);
    const at = (t: number) => (t < 360 ? heat(t) : Math.max(60, 350 - (40 * (t - 360)) / 60));
    const t = Array.from({ length: 75 }, (_, i) => i * 10);
    const answer = await client(server.base)(
      'POST',
      `instruments/${c.logger.id}/samples`,
      {
        stream: 'burn 1',
        batch: 0,
        what: 'oven',
        channels: CHANNELS,
        start: new Date(nowMs() - 740 * MIN).toISOString(),
        step: 600,
        values: [t.map(at), t.map((m) => at(m) + 0.01 * (m % 30)), t.map(() => null)],
      },
      { Authorization: `Bearer ${c.logger.key}` },
    );
    expect(answer.status).toBe(202);
    const running = await loadOf(id);
    expect(running.parts[0]?.now?.degree).toBeGreaterThan(1);
    expect(running.parts[0]?.figures['BRN']).toMatchObject({ corePlate: 'organic' });
    expect(running.alarms).toEqual([]);
    const left = await out(id, part);
    expect(left.body).toMatchObject({ verdict: 'pass' });
    const [of] = (await as(viewer)('GET', `jobs/${demo(24)}/ovens`)).body;
    expect(of.figures).toMatchObject({
      BRN: { partMax: expect.stringMatching(/^350/), hoursAbove: expect.stringMatching(/h$/) },
      COL: { rate: expect.stringMatching(/K$/), atOpening: expect.stringMatching(/°C$/) },
    });
    // the log decides with the record
    const finished = await as(winder)('POST', `jobs/${demo(24)}/steps/BRN/finish`, { typed: of.figures.BRN });
    expect(finished.body).toMatchObject({ verdict: 'pass' });
    expect(finished.body.reason).toMatch(/Burned for/);
  });
});
