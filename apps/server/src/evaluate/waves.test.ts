import { surgeWave, withShort, type SurgeCircuit } from '@norther/core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { startServer, type Client, type TestServer } from '../testing/server.ts';

let server: TestServer;
let tester: Client;
let foreman: Client;
let winder: Client;
beforeAll(async () => {
  server = await startServer('norther_waves', 'demo');
  tester = await server.as('runa');
  foreman = await server.as('odd');
  winder = await server.as('ines');
}, 120_000);
afterAll(() => server.stop());

const SOUND: SurgeCircuit = { ohm: 180, henry: 12e-3, farad: 0.1e-6 };
const SHORTED = withShort(SOUND, { turnsShare: 0.05, couplingSquared: 0.36, loopOhm: 0.4 });

/** Three waves at two voltages; `bad` are the circuits at the higher one. */
function csv(bad: readonly [SurgeCircuit, SurgeCircuit, SurgeCircuit]): string {
  const names = ['UV', 'VW', 'WU'];
  const columns = names.flatMap((name, i) => [
    { head: `${name} 900 V`, v: surgeWave(SOUND, 900, 10e-6, 60).v },
    { head: `${name} 1900 V`, v: surgeWave(bad[i] as SurgeCircuit, 1900, 10e-6, 60).v },
  ]);
  const rows = Array.from({ length: 60 }, (_, k) => [k * 10, ...columns.map((c) => c.v[k])].join(';'));
  return [`t (µs);${columns.map((c) => c.head).join(';')}`, ...rows].join('\n');
}
const nameplate = { voltagesV: '400', outputW: '5.5 kW', frequencyHz: '50', poles: '4' };
async function motor(): Promise<string> {
  const { body } = await winder('POST', 'jobs', {
    customerName: 'Quay Mill',
    what: 'Test bench motor',
    nameplate,
    intake: { came: 'whole motor' },
    route: 'ac_random_rewind',
    impregnation: 'dip',
    priority: 'ordinary',
  });
  return body.number;
}
const surge = (waves: object | undefined, more: object = {}) => ({
  stage: 'IN',
  kind: 'surge',
  typed: { instrument: 'surge tester', ...(waves ? {} : { testV: '1800', outcome: 'pass' }) },
  ...(waves ? { waves } : {}),
  ...more,
});
const insulation = (megohm: string) => ({
  stage: 'IN',
  kind: 'insulationResistance',
  typed: {
    testV: '500',
    r1min: megohm,
    windingC: '20',
    measured: 'whole winding',
    kind: 'random-wound',
    system: 'thermosetting',
    instrument: 'tester',
  },
});

describe('waves of a surge comparison from a file', () => {
  it('are judged, kept with their samples, and drawn from there', async () => {
    const number = await motor();
    const sound = await tester(
      'POST',
      `jobs/${number}/tests`,
      surge({ fileName: 'a.csv', csv: csv([SOUND, SOUND, SOUND]) }),
    );
    expect(sound.body).toMatchObject({ verdict: 'pass' });
    const bad = await tester(
      'POST',
      `jobs/${number}/tests`,
      surge({ fileName: 'b.csv', csv: csv([SHORTED, SOUND, SHORTED]) }),
    );
    expect(bad.body.verdict).toBe('fail');
    expect(bad.body.reason).toMatch(/changes between 900 and 1900 V/);
    const { body: job } = await tester('GET', `jobs/${number}`);
    const test = job.tests.at(-1);
    expect(test.result.values.diagnosis[0].id).toBe('turn insulation');
    expect(
      test.traces.map((t: { channels: { name: string; role: string }[] }) => t.channels.map((c) => c.role)),
    ).toEqual([
      ['900 V', '1900 V'],
      ['900 V', '1900 V'],
      ['900 V', '1900 V'],
    ]);
    const { body: trace } = await tester('GET', `traces/${test.traces[1].id}?points=400`);
    expect(trace).toMatchObject({ what: 'surge', xUnit: 's', exact: true });
    expect(trace.values[0][0]).toBe(900);
    expect(trace.x).toHaveLength(60);
  });

  it('go with the job to another Norther and come back the same', async () => {
    const number = await motor();
    await tester('POST', `jobs/${number}/tests`, surge({ csv: csv([SHORTED, SOUND, SHORTED]) }));
    const { body: file } = await tester('GET', `jobs/${number}/export.json`);
    expect(file.tests[0].traces).toHaveLength(3);
    const admin = await server.as('liv');
    const elsewhere = { ...file, job: { ...file.job, number: `${number}-b` } };
    expect((await admin('POST', 'import', elsewhere)).status).toBe(201);
    const { body: again } = await admin('GET', `jobs/${number}-b/export.json`);
    expect(again.tests[0].traces).toEqual(file.tests[0].traces);
    expect(again.tests[0].result).toEqual(file.tests[0].result);
  });

  it.each<[string, object, string, RegExp]>([
    ['kilovolts for volts', { csv: 't,UV\n0,1.5\n1e-5,0.9\n2e-5,-0.3\n3e-5,-0.7\n4e-5,0.2' }, 'file', /are these kV/],
    ['no numbers', { csv: 't,UV\na,b\nc,d\ne,f\ng,h\ni,j' }, 'file', /not a number/],
    ['nothing', { csv: '' }, 'waves.csv', /./],
  ])('%s: refused in words, nothing is stored', async (_, waves, field, says) => {
    const number = await motor();
    const answer = await tester('POST', `jobs/${number}/tests`, surge(waves));
    expect([answer.status, answer.body.field]).toEqual([422, field]);
    expect(answer.body.detail).toMatch(says);
    expect((await tester('GET', `jobs/${number}`)).body.tests).toHaveLength(0);
  });

  it('a clipped wave is refused when it is judged, in words, and leaves nothing', async () => {
    const number = await motor();
    const flat = Array.from({ length: 60 }, (_, k) => `${k},${k < 8 ? 1500 : 1500 * Math.cos(k / 4) * 0.9 ** k}`);
    const answer = await tester(
      'POST',
      `jobs/${number}/tests`,
      surge({ csv: ['t (µs),UV 1500 V', ...flat].join('\n') }),
    );
    expect(answer.status).toBe(422);
    expect(answer.body.detail).toMatch(/clipped/);
    expect((await tester('GET', `jobs/${number}`)).body.tests).toHaveLength(0);
  });

  it('belong to a surge comparison; without them an outcome is wanted', async () => {
    const number = await motor();
    const answer = await tester('POST', `jobs/${number}/tests`, {
      ...insulation('800'),
      waves: { csv: csv([SOUND, SOUND, SOUND]) },
    });
    expect([answer.status, answer.body.field]).toEqual([422, 'waves']);
    const bare = await tester('POST', `jobs/${number}/tests`, {
      stage: 'IN',
      kind: 'surge',
      typed: { instrument: 'x', testV: '1800' },
    });
    expect([bare.status, bare.body.field]).toEqual([422, 'outcome']);
  });
});

describe('what an analyser sent', () => {
  it('is taken once, as what it is; one out of calibration passes nothing by itself', async () => {
    const admin = await server.as('liv');
    const { body: analyser } = await admin('POST', 'instruments', {
      name: 'Old analyser',
      kind: 'winding analyser',
      mayWrite: ['surge', 'resistance'],
      calibratedUntil: '2020-01-31',
    });
    const number = await motor();
    const send = async (what: string, unit: string) => {
      const { v } = surgeWave(SOUND, 1800, 10e-6, 60);
      const answer = await fetch(`${server.base}/instruments/${analyser.id}/samples`, {
        method: 'POST',
        headers: { Authorization: `Bearer ${analyser.key}`, 'Content-Type': 'application/json' },
        body: JSON.stringify({
          stream: `${number} ${what}`,
          batch: 0,
          what,
          job: number,
          channels: ['UV', 'VW', 'WU'].map((name) => ({ name, unit, role: '1800 V' })),
          start: new Date().toISOString(),
          step: 10e-6,
          values: [0, 1, 2].map(() => Array.from(v)),
          last: true,
        }),
      });
      return ((await answer.json()) as { trace: string }).trace;
    };
    const [waves, other] = [await send('surge', 'V'), await send('resistance', 'Ω')];
    const test = (trace: string) => ({
      stage: 'IN',
      kind: 'surge',
      typed: { instrument: 'Old analyser' },
      traces: [trace],
    });
    const wrong = await tester('POST', `jobs/${number}/tests`, test(other));
    expect([wrong.status, wrong.body.field]).toEqual([422, 'traces']);
    const taken = await tester('POST', `jobs/${number}/tests`, test(waves));
    expect(taken.body).toMatchObject({ verdict: 'attention', reason: expect.stringMatching(/out of calibration/) });
    expect((await tester('POST', `jobs/${number}/tests`, test(waves))).status).toBe(409);
    expect((await tester('GET', `jobs/${number}`)).body.tests).toHaveLength(1);
  });
});

describe('order of stress', () => {
  it('a failed lower test bars the higher; a foreman lets it go on with name and reason', async () => {
    const number = await motor();
    await tester('POST', `jobs/${number}/tests`, insulation('0.5'));
    const barred = await tester('POST', `jobs/${number}/tests`, surge(undefined));
    expect(barred.status).toBe(409);
    expect(barred.body.detail).toMatch(/Insulation resistance .* failed.*foreman/);
    const asked = await tester('POST', `jobs/${number}/tests`, surge(undefined, { override: 'burnt anyway' }));
    expect(asked.status).toBe(403);
    const done = await foreman(
      'POST',
      `jobs/${number}/tests`,
      surge(undefined, { override: 'scrap winding, to find the place' }),
    );
    expect(done.status).toBe(201);
    const { body: job } = await tester('GET', `jobs/${number}`);
    expect(job.tests.at(-1).override).toMatchObject({ by: 'Odd Marstein', meaning: 'order of stress overridden' });
    expect(job.tests.at(-1).override.reason).toMatch(/^scrap winding.*failed/);
    // dried and measured again: nothing bars it
    await tester('POST', `jobs/${number}/tests`, insulation('800'));
    const dry = await tester('POST', `jobs/${number}/tests`, surge(undefined));
    expect([dry.status, dry.body.detail]).toEqual([201, undefined]);
  });
});

describe('a lesser test', () => {
  it('waits for the name of a foreman', async () => {
    const number = await motor();
    const { body: run } = await tester(
      'POST',
      `jobs/${number}/tests`,
      surge(undefined, { lesser: 'resistance bridge only' }),
    );
    expect(run).toMatchObject({
      verdict: 'attention',
      reason: expect.stringMatching(/^Lesser test, resistance bridge only/),
    });
    const early = await tester('POST', `jobs/${number}/tests/${run.id}/sign`, { reason: 'analyser is away' });
    expect(early.status).toBe(403);
    const signed = await foreman('POST', `jobs/${number}/tests/${run.id}/sign`, { reason: 'analyser is away' });
    expect(signed.status).toBe(200);
    const { body: job } = await tester('GET', `jobs/${number}`);
    expect(job.tests[0]).toMatchObject({ lesser: 'resistance bridge only', signed: { by: 'Odd Marstein' } });
  });
});
