import * as core from '@norther/core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { demoShop } from '../testing/shopPeople.ts';
import { client } from '../testing/server.ts';

const shop = demoShop('norther_stand_runs');
const { winder, foreman, admin, viewer, take } = shop;

const SET_UP = {
  kind: 'cage rotor', mass: '20', service: '3000', balancing: '900', grade: '6.3',
  bearingA: '0', bearingB: '400', centre: '200', x1: '80', radius1: '60', x2: '320', radius2: '60',
  places1: '12', places2: '12', stock: '1 g, 2 g, 3 g, 5 g, 8 g, 12 g, 20 g, 30 g', stand: 'Stand 1', unit: 'mm/s',
}; // prettier-ignore
const at = (job: string, path = '') => `jobs/${job}/balance-sessions${path}`;
const CHANNELS = core.STAND_CHANNELS.map((name, i) => ({ name, unit: i === 4 ? 'r/min' : i % 2 === 0 ? 'mm/s' : '°' }));

let real: { id: string; key: string };
let simulated: { id: string; key: string };
beforeAll(async () => {
  const make = async (name: string) =>
    (await admin('POST', 'instruments', { name, kind: 'balancing stand', mayWrite: ['balance'] })).body as typeof real;
  [real, simulated] = [await make('Stand 1'), await make('Stand 2')];
  await shop.server().pool.query('update instrument set simulated = true where id = $1', [simulated.id]);
}, 120_000);

const begin = async (more: object = {}, body: object = {}): Promise<{ job: string; id: string }> => {
  const job = await take();
  const begun = await winder('POST', at(job), { typed: { ...SET_UP, ...more }, ...body });
  return { job, id: begun.body.id as string };
};
/** What a real stand sends of one run. */
const send = async (
  stream: string,
  rows: (number | null)[][],
  more: { job?: string; last?: boolean; channels?: object[]; key?: string } = {},
) => {
  const { key = real.key, ...rest } = more;
  const post = client(shop.server().base);
  return post(
    'POST',
    `instruments/${key === real.key ? real.id : simulated.id}/samples`,
    {
      stream,
      batch: 0,
      what: 'balance',
      channels: CHANNELS,
      start: new Date().toISOString(),
      step: 0.5,
      values: CHANNELS.map((_, c) => rows.map((r) => r[c] ?? null)),
      last: true,
      ...rest,
    },
    { Authorization: `Bearer ${key}` },
  );
};
const steady = (a: number, pa: number, b: number, pb: number, rpm = 900) => [1, 2, 3, 4].map(() => [a, pa, b, pb, rpm]);
const runs = async (job: string, id: string) => (await viewer('GET', at(job, `/${id}/stand-runs`))).body;

describe('runs that a stand sends', () => {
  it('are read as their samples tell them and taken once, by whoever stands there', async () => {
    const { job, id } = await begin();
    expect((await send(`${job} 1`, steady(4.2, 359, 3.1, 200, 901), { job })).status).toBe(202);
    const [run] = await runs(job, id);
    expect(run).toMatchObject({ instrument: 'Stand 1', simulated: false, ended: true, taken: false });
    expect(run.run.readings[0]).toMatchObject({
      size: expect.closeTo(4.2, 9) as number,
      angleDeg: expect.closeTo(359, 6) as number,
    });
    expect(run.run.rpm).toBeCloseTo(901, 6);
    // what is typed beside it does not count
    const entry = {
      kind: 'run',
      readings: [
        { size: 1, angleDeg: 1 },
        { size: 1, angleDeg: 1 },
      ],
    };
    const body = { entry, trace: run.trace };
    expect((await viewer('POST', at(job, `/${id}/entries`), body)).status).toBe(403);
    const both = await Promise.all([
      winder('POST', at(job, `/${id}/entries`), body),
      foreman('POST', at(job, `/${id}/entries`), body),
    ]);
    expect(both.map((b) => b.status).sort()).toEqual([201, 422]);
    const { body: list } = await viewer('GET', at(job));
    expect(list[0].entries[0].entry).toMatchObject({
      rpm: expect.closeTo(901, 6) as number,
      sent: { instrument: 'Stand 1', simulated: false, outOfDate: false, trace: run.trace },
    });
    expect(list[0].entries[0].entry.readings[1].size).toBeCloseTo(3.1, 9);
    expect((await runs(job, id))[0].taken).toBe(true);
    // taken back, it may be taken again
    await winder('POST', at(job, `/${id}/entries`), {
      entry,
      supersedes: 1,
      withdrawn: true,
      reason: 'Guard was open.',
    });
    expect((await runs(job, id))[0].taken).toBe(false);
    expect((await winder('POST', at(job, `/${id}/entries`), body)).status).toBe(201);
  });
  it('who sent a reading is never taken from what is typed', async () => {
    const { job, id } = await begin();
    const sent = {
      trace: '00000000-0000-4000-8000-000000000000',
      instrument: 'Stand 1',
      simulated: false,
      outOfDate: false,
    };
    const readings = [
      { size: 1, angleDeg: 1 },
      { size: 1, angleDeg: 1 },
    ];
    await winder('POST', at(job, `/${id}/entries`), { entry: { kind: 'run', readings, sent } });
    expect((await viewer('GET', at(job))).body[0].entries[0].entry.sent).toBeUndefined();
  });
  it.each([
    ['an unknown run', {}, steady(1, 1, 1, 1), /No stand has sent this run/, 'other'],
    ['one that still turns', { last: false }, steady(1, 1, 1, 1), /has not ended yet/, 'own'],
    ['another speed', {}, steady(1, 1, 1, 1, 950), /at 900 r\/min/, 'own'],
    [
      'lost values',
      {},
      [
        [1, 1, 1, 1, 900],
        [1, null, 1, 1, 900],
        [1, 1, null, 1, 900],
      ],
      /Fewer than 3 samples/,
      'own',
    ],
    [
      'another unit',
      { channels: CHANNELS.map((c) => ({ ...c, unit: c.unit === 'mm/s' ? 'in/s' : c.unit })) },
      steady(1, 1, 1, 1),
      /sends in\/s; this balance reads in mm\/s/,
      'own',
    ],
    [
      'a channel that is missing',
      { channels: CHANNELS.map((c) => ({ ...c, name: c.name === 'B phase' ? 'C' : c.name })) },
      steady(1, 1, 1, 1),
      /no channel B phase/,
      'own',
    ],
  ] as const)('%s is refused in a sentence, nothing is lost', async (_, more, rows, says, whose) => {
    const { job, id } = await begin();
    const came = await send(`${job} x`, rows as unknown as number[][], { job, ...more } as never);
    const trace = whose === 'own' ? came.body.trace : id;
    const readings = [
      { size: 1, angleDeg: 1 },
      { size: 1, angleDeg: 1 },
    ];
    const bad = await winder('POST', at(job, `/${id}/entries`), { entry: { kind: 'run', readings }, trace });
    expect([bad.status, bad.body.field]).toEqual([422, 'trace']);
    expect(bad.body.detail).toMatch(says);
    expect((await viewer('GET', at(job))).body[0].entries).toEqual([]);
  });
  it('of another job are not offered, and a correction is not sent by a stand', async () => {
    const { job, id } = await begin();
    const other = await take();
    await send(`${other} 1`, steady(1, 1, 1, 1), { job: other });
    expect(await runs(job, id)).toEqual([]);
    const came = await send(`${job} 1`, steady(1, 1, 1, 1), { job });
    const entry = { kind: 'correction', masses: [{ plane: 1, angleDeg: 0, massG: 1, radiusMm: 60 }] };
    expect((await winder('POST', at(job, `/${id}/entries`), { entry, trace: came.body.trace })).body.field).toBe(
      'trace',
    );
  });
  it('of a stand out of calibration wait for a person', async () => {
    await shop.server().pool.query(`update instrument set calibrated_until = '2020-01-01' where id = $1`, [real.id]);
    const { job, id } = await begin({ readings: 'unbalance per plane', unit: '' });
    const channels = CHANNELS.map((c) => ({ ...c, unit: c.unit === 'mm/s' ? 'g·mm' : c.unit }));
    const came = await send(`${job} 1`, steady(10, 5, 12, 7), { job, channels });
    const entered = await winder('POST', at(job, `/${id}/entries`), {
      entry: {
        kind: 'run',
        readings: [
          { size: 0, angleDeg: 0 },
          { size: 0, angleDeg: 0 },
        ],
      },
      trace: came.body.trace,
    });
    expect(entered.body).toMatchObject({
      stage: 'done',
      verdict: 'attention',
      reason: expect.stringContaining('out of calibration') as string,
    });
    await shop.server().pool.query('update instrument set calibrated_until = null where id = $1', [real.id]);
  });
});

describe('the simulated stand', () => {
  let end: () => void = () => undefined;
  afterAll(() => end());
  it('turns the rotor with what is in it, from empty session to pass; a real one is not spun from afar', async () => {
    const path = new URL('../../../../scripts/instruments/stand.mjs', import.meta.url).href;
    const { stand } = (await import(/* @vite-ignore */ path)) as { stand: (x: object) => Promise<void> };
    const ended = new Promise<void>((resolve) => (end = resolve));
    void stand({
      ended,
      api: shop.server().base,
      headers: { Authorization: `Bearer ${simulated.key}`, 'Content-Type': 'application/json' },
      me: { id: simulated.id },
      clock: 60,
      seed: 3,
      core,
    });
    const { job, id } = await begin();
    const spin = async (trial?: object) => {
      const seen = new Set(((await runs(job, id)) as { trace: string }[]).map((r) => r.trace));
      const told = await winder('POST', at(job, `/${id}/spin`), {
        instrument: simulated.id,
        ...(trial ? { trial } : {}),
      });
      expect([told.status, told.body]).toEqual([200, { stand: 'Stand 2' }]);
      for (let i = 0; i < 400; i++) {
        const done = ((await runs(job, id)) as { trace: string; ended: boolean }[]).find(
          (r) => r.ended && !seen.has(r.trace),
        );
        if (done) return done.trace;
        await new Promise((r) => setTimeout(r, 25));
      }
      throw new Error('no run came');
    };
    const zero = [
      { size: 0, angleDeg: 0 },
      { size: 0, angleDeg: 0 },
    ];
    const enter = async (entry: object, trace?: string) =>
      (await winder('POST', at(job, `/${id}/entries`), { entry, ...(trace ? { trace } : {}) })).body as {
        stage: string;
        verdict: string;
      };
    const refused = await winder('POST', at(job, `/${id}/spin`), { instrument: real.id });
    expect([refused.status, refused.body.detail]).toEqual([422, expect.stringMatching(/started where it stands/)]);
    expect(
      (
        await winder('POST', at(job, `/${id}/spin`), {
          instrument: simulated.id,
          trial: { plane: 3, gMm: 1, angleDeg: 0 },
        })
      ).status,
    ).toBe(422);
    await new Promise((r) => setTimeout(r, 300));
    let is = await enter({ kind: 'run', readings: zero }, await spin());
    for (const plane of [1, 2]) {
      const trial = { plane, gMm: 1500, angleDeg: 90 * (plane - 1) };
      is = await enter({ kind: 'trial', ...trial, readings: zero }, await spin(trial));
    }
    for (let i = 0; i < 3 && is.stage === 'correct'; i++) {
      const now = (await viewer('GET', at(job, `/${id}/record.json`))).body.now as core.BalanceNow;
      const masses = (now.next ?? []).flatMap((n) =>
        n.masses.map((m) => ({
          plane: n.plane,
          angleDeg: m.angleDeg,
          massG: m.massG,
          radiusMm: 60,
          ...(m.place === undefined ? {} : { place: m.place }),
        })),
      );
      await enter({ kind: 'correction', masses });
      is = await enter({ kind: 'run', readings: zero }, await spin());
    }
    expect([is.stage, is.verdict]).toEqual(['done', 'pass']);
    const { body: list } = await viewer('GET', at(job));
    expect(
      list[0].entries.filter((e: { entry: { sent?: { simulated: boolean } } }) => e.entry.sent?.simulated),
    ).not.toHaveLength(0);
    const paper = await viewer('GET', at(job, `/${id}/sheet.pdf`));
    expect([paper.status, paper.headers.get('content-type')]).toEqual([200, 'application/pdf']);
    expect(String(paper.body).slice(0, 5)).toBe('%PDF-');
    // kept as a family with its influence set, it needs one trial the next time
    expect((await winder('POST', 'rotor-families', { name: 'Pump rotor, 20 kg', job, session: id })).status).toBe(201);
    expect((await winder('POST', 'rotor-families', { name: 'pump rotor, 20 KG', job, session: id })).status).toBe(409);
    const { body: families } = await viewer('GET', 'rotor-families');
    const family = families.find((f: { name: string }) => f.name === 'Pump rotor, 20 kg');
    expect(family).toMatchObject({ influence: true, fromJob: job });
    const next = await begin({}, { family: family.id });
    const { body: nextList } = await viewer('GET', at(next.job));
    expect(nextList[0].setUp.stored.from).toBe(`Pump rotor, 20 kg, ${job}`);
    const elsewhere = await begin({ stand: 'Another stand' }, { family: family.id });
    expect((await viewer('GET', at(elsewhere.job))).body[0].setUp.stored).toBeUndefined();
    expect((await winder('POST', `rotor-families/${family.id}/retirement`, { reason: 'No longer made.' })).status).toBe(
      403,
    );
    expect(
      (await foreman('POST', `rotor-families/${family.id}/retirement`, { reason: 'No longer made.' })).status,
    ).toBe(200);
    expect((await winder('POST', at(await take()), { typed: SET_UP, family: family.id })).body.field).toBe('family');
    // a job's file carries where each reading came from
    const { body: file } = await viewer('GET', `jobs/${job}/export.json`);
    const brought = await admin('POST', 'import', { ...file, job: { ...file.job, number: '25-9131' } });
    expect(brought.status).toBe(201);
    const bare = ({ id: _, ...s }: { id: string }) => s;
    expect((await viewer('GET', at('25-9131'))).body.map(bare)).toEqual((await viewer('GET', at(job))).body.map(bare));
  }, 60_000);
});

describe('a residual check and pieces of a job of many', () => {
  it('a moved mass wants a plane that is there and positions that differ', async () => {
    const { job, id } = await begin();
    const positions = [0, 60, 120, 180, 240, 300].map((angleDeg) => ({ angleDeg, amplitude: 1 }));
    const enter = (more: object) =>
      winder('POST', at(job, `/${id}/entries`), {
        entry: { kind: 'moved', plane: 1, testGMm: 300, positions, ...more },
      });
    expect((await enter({ positions: positions.slice(1) })).status).toBe(422);
    expect((await enter({ positions: [...positions, { angleDeg: 360, amplitude: 1 }] })).body.field).toBe(
      'entry.positions',
    );
    expect((await enter({})).status).toBe(201);
    const one = await begin({ x2: '', radius2: '', places2: '', body: '40' });
    expect(
      (
        await winder('POST', at(one.job, `/${one.id}/entries`), {
          entry: { kind: 'moved', plane: 2, testGMm: 300, positions },
        })
      ).body.field,
    ).toBe('entry.plane');
  });
  it('each piece stands on a stand of its own; one piece on one', async () => {
    const job = await take({ intake: { came: 'whole motor', complaint: 'hums', quantity: 3 } });
    const body = (unit?: number) => ({ typed: SET_UP, ...(unit === undefined ? {} : { unit }) });
    const units = await winder('POST', `jobs/${job}/units`, { serials: ['a', 'b', 'c'] });
    expect(units.status).toBeLessThan(300);
    expect((await winder('POST', at(job), body(1))).status).toBe(201);
    expect((await winder('POST', at(job), body(1))).status).toBe(409);
    expect((await winder('POST', at(job), body(2))).status).toBe(201);
    expect((await winder('POST', at(job), body())).status).toBe(201);
    expect((await winder('POST', at(job), body())).status).toBe(409);
    expect((await winder('POST', at(job), body(9))).status).toBeGreaterThanOrEqual(400);
    const { body: list } = await viewer('GET', at(job));
    expect(list.map((s: { unit: number | null }) => s.unit).sort()).toEqual([1, 2, null]);
  });
});
