import { demo } from '../testing/demoNumber.ts';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { nowMs } from '../clock/clock.ts';
import { client, startServer, type Client, type TestServer } from '../testing/server.ts';

let server: TestServer;
let admin: Client;
let viewer: Client;
let logger: { id: string; key: string };
beforeAll(async () => {
  server = await startServer('norther_instruments', 'demo');
  [admin, viewer] = await Promise.all([server.as('liv'), server.as('per')]);
  logger = (await admin('POST', 'instruments', { name: 'Bake oven 1', kind: 'oven logger', mayWrite: ['oven'] })).body;
}, 120_000);
afterAll(() => server.stop());

const T0 = nowMs() - 3_600_000;
const iso = (s: number) => new Date(T0 + s * 1000).toISOString();
const channels = [
  { name: 'air', unit: '°C' },
  { name: 'part', unit: '°C' },
];
/** Ten samples a second apart; batch n begins at second 10 n, its values are its seconds. */
const batch = (stream: string, n: number, more: object = {}) => ({
  stream,
  batch: n,
  what: 'oven',
  channels,
  start: iso(10 * n),
  step: 1,
  values: [0, 1].map((c) => Array.from({ length: 10 }, (_, i) => 1000 * c + 10 * n + i)),
  ...more,
});
const send = (body: unknown, { id, key } = logger, headers = {}) =>
  client(server.base)('POST', `instruments/${id}/samples`, body, { Authorization: `Bearer ${key}`, ...headers });
const traceOf = async (id: string, query = '?points=4000') => (await viewer('GET', `traces/${id}${query}`)).body;
const listed = async (name = 'Bake oven 1') =>
  (await viewer('GET', 'instruments')).body.find((i: { name: string }) => i.name === name);

describe('an instrument', () => {
  it('is made by an admin; its key is shown once and kept as a hash', async () => {
    expect(logger.key).toMatch(/^ni_[\w-]{20,}$/);
    expect(JSON.stringify((await viewer('GET', 'instruments')).body)).not.toContain(logger.key);
    const { rows } = await server.pool.query('select * from instrument');
    expect(JSON.stringify(rows)).not.toContain(logger.key);
    expect((await server.as('odd')) && (await (await server.as('odd'))('POST', 'instruments', {})).status).toBe(403);
    expect((await admin('POST', 'instruments', { name: 'BAKE oven 1', kind: 'other', mayWrite: ['x'] })).status).toBe(
      409,
    );
  });
  it('is known by its key alone, without origin or cookie; people are not', async () => {
    const me = (key?: string) =>
      client(server.base)('GET', 'instruments/me', undefined, key ? { Authorization: `Bearer ${key}` } : {});
    expect((await me(logger.key)).body).toMatchObject({ id: logger.id, name: 'Bake oven 1' });
    for (const key of [undefined, 'ni_' + 'x'.repeat(32), 'x']) expect((await me(key)).status).toBe(401);
    expect((await admin('GET', 'instruments/me')).status).toBe(401);
    expect((await send(batch('none', 0), { ...logger, key: 'ni_' + 'y'.repeat(32) })).status).toBe(401);
    const other = (await admin('POST', 'instruments', { name: 'Another', kind: 'other', mayWrite: ['oven'] })).body;
    expect((await send(batch('none', 0), { id: logger.id, key: other.key })).status).toBe(403);
    // its key opens nothing else
    expect(
      (await client(server.base)('GET', 'jobs', undefined, { Authorization: `Bearer ${logger.key}` })).status,
    ).toBe(401);
  });
  it('loses its old key with a new one, and everything when it is put away', async () => {
    const made = (await admin('POST', 'instruments', { name: 'Old one', kind: 'other', mayWrite: ['oven'] })).body;
    const { body: renewed } = await admin('POST', `instruments/${made.id}/key`);
    expect((await send(batch('a', 0), made)).status).toBe(401);
    expect((await send(batch('a', 0), renewed)).status).toBe(202);
    const { version } = await listed('Old one');
    expect((await admin('PUT', `instruments/${made.id}`, { version: version - 1, active: false })).status).toBe(409);
    expect((await admin('PUT', `instruments/${made.id}`, { version, active: false })).body).toMatchObject({
      active: false,
    });
    expect((await send(batch('a', 1), renewed)).status).toBe(401);
  });
});

describe('batches of samples', () => {
  it('make one trace, stored once, in order whatever order they come in', async () => {
    const first = await send(batch('run', 1));
    expect([first.status, first.body]).toEqual([
      202,
      { trace: expect.any(String), batch: 1, stored: true, missing: 1 },
    ]);
    expect((await send(batch('run', 3))).body.missing).toBe(2);
    expect((await send(batch('run', 0))).body.missing).toBe(1);
    expect((await send(batch('run', 3))).body).toMatchObject({ stored: false, missing: 1 });
    expect((await send(batch('run', 2))).body).toMatchObject({ stored: true, missing: 0 });
    const trace = await traceOf(first.body.trace);
    expect(trace).toMatchObject({
      samples: 40,
      xUnit: 's',
      source: 'instrument',
      sourceName: 'Bake oven 1',
      ended: false,
    });
    expect(trace.values[0]).toEqual(Array.from({ length: 40 }, (_, i) => i));
    expect(trace.x.map((x: number) => Math.round(x - trace.x[0]))).toEqual(Array.from({ length: 40 }, (_, i) => i));
  });
  it('twenty at once and each twice: each is there once', async () => {
    const all = Array.from({ length: 20 }, (_, n) => n).flatMap((n) => [n, n]);
    const answers = await Promise.all(all.map((n) => send(batch('storm', n))));
    expect(answers.filter((a) => a.body.stored)).toHaveLength(20);
    const trace = await traceOf(answers[0]?.body.trace);
    expect(trace.samples).toBe(200);
    expect(trace.values[1]).toEqual(Array.from({ length: 200 }, (_, i) => 1000 + i));
  });
  it('with the last one the run has ended: a late one still comes in, a new one does not, a repeat is a repeat', async () => {
    const { body } = await send(batch('ends', 0));
    expect((await send(batch('ends', 2, { last: true }))).status).toBe(202);
    expect((await send(batch('ends', 2, { last: true }))).body).toMatchObject({ stored: false });
    expect((await send(batch('ends', 1))).body).toMatchObject({ stored: true, missing: 0 });
    expect((await send(batch('ends', 3))).status).toBe(409);
    expect(await traceOf(body.trace)).toMatchObject({ samples: 30, ended: true });
  });
  it('lost values are null, times may be given one by one', async () => {
    const { body } = await send({
      ...batch('times', 0),
      step: undefined,
      times: [0, 0.5, 7],
      values: [
        [1, null, 3],
        [4, 5, 6],
      ],
    });
    const trace = await traceOf(body.trace);
    expect(trace.x).toEqual([0, 0.5, 7]);
    expect(trace.values).toEqual([
      [1, null, 3],
      [4, 5, 6],
    ]);
  });
  it.each([
    ['a row of values missing', { values: [[1]] }, 422, 'values'],
    ['rows of unlike length', { values: [[1, 2], [1]] }, 422, 'values'],
    ['nothing in it', { values: [[], []] }, 422, 'values'],
    ['neither step nor times', { step: undefined }, 422, 'step'],
    ['both step and times', { times: [0, 1] }, 422, 'step'],
    [
      'times that do not rise',
      {
        step: undefined,
        times: [0, 1, 1],
        values: [
          [1, 2, 3],
          [1, 2, 3],
        ],
      },
      422,
      'times',
    ],
    ['fewer times than samples', { step: undefined, times: [0, 1] }, 422, 'times'],
    ['text for a number', { values: [['hot'], [1]] }, 422, undefined],
    ['what it may not write', { what: 'load' }, 422, 'what'],
    ['no such job', { job: '99-9999' }, 404, undefined],
    ['a clock a day ahead', { start: new Date(nowMs() + 25 * 3_600_000).toISOString() }, 422, 'start'],
    ['no time', { start: 'yesterday' }, 422, undefined],
    ['an unknown field', { volts: 3 }, 422, undefined],
    ['a number below zero', { batch: -1 }, 422, undefined],
  ])('%s: refused, nothing is stored', async (_, more, status, field) => {
    const before = await server.pool.query('select count(*)::int as n from trace_chunk');
    const answer = await send(batch('bad', 0, more));
    expect(answer.status).toBe(status);
    if (field) expect(answer.body.field).toBe(field);
    expect(answer.body.detail).toMatch(/\w+ .*\.$|…$/);
    expect((await server.pool.query('select count(*)::int as n from trace_chunk')).rows).toEqual(before.rows);
  });
  it.each([
    [4096, 202],
    [4097, 413],
  ])('%i samples in one batch: %i', async (n, status) => {
    const values = [Array.from({ length: n }, () => 1), Array.from({ length: n }, () => 2)];
    expect((await send(batch(`size ${n}`, 0, { step: 0.001, values }))).status).toBe(status);
  });
  it('other channels than the stream began with are refused by name', async () => {
    await send(batch('named', 0));
    const { status, body } = await send(batch('named', 1, { channels: [channels[0], { name: 'part', unit: '°F' }] }));
    expect([status, body.field]).toEqual([422, 'channels']);
    expect(body.detail).toContain('part (°C)');
  });
});

describe('how it stands', () => {
  it('a clock more than two minutes off is shown, a good one is not', async () => {
    await send(batch('clock', 0, { start: new Date(nowMs() - 10_000).toISOString() }));
    expect((await listed()).clockOffS).toBeNull();
    await send(batch('clock', 1, { start: new Date(nowMs() - 10_000 + 200_000).toISOString() }));
    expect(Math.abs((await listed()).clockOffS + 200)).toBeLessThan(20);
  });
  it('silent for three of its intervals is an alarm, an ended run is none', async () => {
    await send(batch('quiet', 0));
    expect((await listed()).silent).toBe(false);
    // its batches span nine seconds
    const heard = (s: number) =>
      server.pool.query(
        'update instrument set last_seen_at = $3::timestamptz - make_interval(secs => $2) where id = $1',
        [logger.id, s, new Date(nowMs())],
      );
    await heard(25);
    expect((await listed()).silent).toBe(false);
    await heard(29);
    expect((await listed()).silent).toBe(true);
    await send(batch('quiet', 1, { last: true }));
    await heard(3600);
    expect((await listed()).silent).toBe(false);
  });
  it('a calibration that has run out is said', async () => {
    const { version } = await listed();
    const { body } = await admin('PUT', `instruments/${logger.id}`, { version, calibratedUntil: '2020-01-31' });
    expect(body).toMatchObject({ outOfDate: true, calibratedUntil: '2020-01-31' });
  });
});

describe('an oven load that was sent', () => {
  /** Air to 150 °C in an hour, held for eight; a part twenty minutes behind. A sample a minute. */
  const load = (stream: string, n: number, last: boolean, more: object = {}) => {
    const minutes = Array.from({ length: n }, (_, i) => i);
    const air = (min: number) => Math.min(150, 24 + Math.max(0, min) * 2.1);
    return batch(stream, 0, {
      channels: [
        { name: 'air', unit: '°C', role: 'oven air' },
        { name: 'stator', unit: '°C', role: 'part' },
      ],
      start: iso(-40_000),
      step: 60,
      values: [minutes.map(air), minutes.map((m) => air(m - 20))],
      last,
      ...more,
    });
  };
  const judge = async (number: string, traceId: string, more: object = {}) =>
    (await server.as('ines'))('POST', `jobs/${number}/cures/from-trace`, {
      traceId,
      roles: ['oven air', 'part'],
      resin: 'Polyester dip resin',
      ...more,
    });
  // motors of the demo that are baked, whatever else stands in the house
  const [one, other, third] = [demo(6), demo(7), demo(24)];

  it('is judged as the same log in a file is, for several motors, by the roles each gives', async () => {
    const { body: sent } = await send(load('cure', 540, true));
    const judged = await judge(one, sent.trace);
    expect([judged.status, judged.body.verdict]).toEqual([201, 'pass']);
    const csv = `min;air;stator\n${load('x', 540, true)
      .values[0]?.map((a, i) => `${i};${a};${load('x', 540, true).values[1]?.[i]}`)
      .join('\n')}\n`;
    const filed = await (
      await server.as('ines')
    )('POST', `jobs/${other}/cures`, {
      csv,
      fileName: 'same.csv',
      roles: ['oven air', 'part'],
      resin: 'Polyester dip resin',
    });
    expect(filed.body).toMatchObject({ verdict: judged.body.verdict, reason: judged.body.reason });
    // the other motor of the same load sat at what was called air
    const again = await judge(other, sent.trace, { roles: ['part', 'not used'], reason: 'sat at the other probe' });
    expect(again.status).toBe(201);
    const cures = (await viewer('GET', `jobs/${other}`)).body.cures;
    expect(cures[0].trace.channels.map((c: { role: string }) => c.role)).toEqual(['part', 'not used']);
    expect(cures[0].trace.id).toBe(sent.trace);
    const first = (await viewer('GET', `jobs/${one}`)).body.cures[0];
    expect(first.trace.channels.map((c: { role: string }) => c.role)).toEqual(['oven air', 'part']);
    // out and in again: the samples are in minutes in the file
    const { body: file } = await admin('GET', `jobs/${one}/export.json`);
    expect(file.cures[0].timesMin.slice(0, 3)).toEqual([0, 1, 2]);
    expect(file.cures[0].channels[1]).toMatchObject({ name: 'stator', role: 'part' });
  });
  it('is offered to choose from, newest first', async () => {
    const { body } = await viewer('GET', 'traces?what=oven');
    expect(body.length).toBeGreaterThan(2);
    expect(body.map((t: { at: string }) => t.at)).toEqual([...body.map((t: { at: string }) => t.at)].sort().reverse());
    expect((await viewer('GET', 'traces')).status).toBe(422);
  });
  it('what cannot be judged is refused with its field, and nothing is recorded', async () => {
    const number = third;
    const short = (await send(load('short', 1, false))).body.trace;
    const fahrenheit = (
      await send(load('imperial', 10, true, { channels: ['air', 'stator'].map((name) => ({ name, unit: '°F' })) }))
    ).body.trace;
    const good = (await send(load('good', 10, true))).body.trace;
    for (const [trace, more, status, field] of [
      [short, {}, 422, 'traceId'],
      [fahrenheit, {}, 422, 'traceId'],
      [good, { roles: ['part'] }, 422, 'roles'],
      [good, { resin: 'glue' }, 422, 'resin'],
      [crypto.randomUUID(), {}, 404, undefined],
    ] as const) {
      const answer = await judge(number, trace, more);
      expect([answer.status, answer.body.field], JSON.stringify(more)).toEqual([status, field]);
    }
    expect((await viewer('GET', `jobs/${number}`)).body.cures).toEqual([]);
    // under-cured is a verdict, not a refusal
    expect((await judge(number, good)).body.verdict).toBe('fail');
  });
});
