import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { demo } from '../testing/demoNumber.ts';
import { newJob } from '../testing/shopPeople.ts';
import { startServer, type Client, type TestServer } from '../testing/server.ts';

let server: TestServer;
let tester: Client;
beforeAll(async () => {
  server = await startServer('norther_earlier', 'demo');
  tester = await server.as('runa');
}, 120_000);
afterAll(() => server.stop());

const earlier = async (nth: number) => (await tester('GET', `jobs/${demo(nth)}/tests/earlier-visits`)).body;

describe('tests of the earlier visits of a motor', () => {
  it('are those of the same motor that came before, each with its figure; a later visit is none', async () => {
    const rows = await earlier(32);
    expect(rows.length).toBeGreaterThan(3);
    expect(new Set(rows.map((r: { number: string }) => r.number))).toEqual(new Set([demo(31)]));
    const found = rows.find(
      (r: { kind: string; stage: string }) => r.kind === 'insulationResistance' && r.stage === 'IN',
    );
    expect(found).toMatchObject({ part: 'stator', verdict: 'pass', figure: expect.any(Number), traces: [] });
    expect(found.figure).toBeGreaterThan(300);
    // the newest first
    const times = rows.map((r: { takenAt: string }) => r.takenAt);
    expect(times).toEqual([...times].sort().reverse());
    expect(await earlier(31)).toEqual([]);
    expect(await earlier(1)).toEqual([]);
  });
  it('what a correction replaced is left out', async () => {
    const { body: job } = await tester('GET', `jobs/${demo(31)}`);
    const old = job.tests.find(
      (t: { kind: string; stage: string }) => t.kind === 'insulationResistance' && t.stage === 'IN',
    );
    const corrected = await tester('POST', `jobs/${demo(31)}/tests`, {
      stage: 'IN',
      kind: 'insulationResistance',
      typed: { ...old.typed, r1min: '500' },
      supersedes: old.id,
      reason: 'A digit was misread.',
    });
    expect(corrected.status, JSON.stringify(corrected.body)).toBe(201);
    const rows = (await earlier(32)).filter(
      (r: { kind: string; stage: string }) => r.kind === 'insulationResistance' && r.stage === 'IN',
    );
    expect(rows).toHaveLength(1);
    expect(rows[0].figure).toBeGreaterThan(370);
  });
  it('a reading is set against the one before: a fall of more than half is looked at, and stays so when limits change', async () => {
    const { body: job } = await tester('GET', `jobs/${demo(32)}`);
    const old = job.tests.findLast((t: { kind: string }) => t.kind === 'insulationResistance');
    const read = async (r1min: string) => {
      const { body } = await tester('POST', `jobs/${demo(32)}/tests`, {
        stage: 'FI',
        kind: 'insulationResistance',
        typed: { ...old.typed, r1min, r10min: '', windingC: '40', airC: '', humidity: '' },
      });
      const now = (await tester('GET', `jobs/${demo(32)}`)).body.tests.find((t: { id: string }) => t.id === body.id);
      return { ...body, values: now.result.values };
    };
    const first = await read('4000');
    expect(first.verdict, first.reason).toBe('pass');
    const second = await read('1999');
    expect(second).toMatchObject({
      verdict: 'attention',
      reason: expect.stringMatching(/50 % less than final \(4000 MΩ at 40 °C\), more than 50 % \(common practice\)/),
      values: { earlier: { r40Megohm: 4000, said: 'final' } },
    });
    expect((await read('1500')).verdict).toBe('pass');
    const { body: otherwise } = await tester('GET', 'tests/otherwise');
    expect(otherwise.otherwise.filter((o: { number: string }) => o.number === demo(32))).toEqual([]);
  });
  it('leakage is set against that of five other motors of its kind, once there are five', async () => {
    const winder = await server.as('ines');
    const foreman = await server.as('odd');
    const motor = async (outputW = '7.5 kW') => {
      const { body } = await winder(
        'POST',
        'jobs',
        newJob({
          what: 'Pump of a row',
          nameplate: { voltagesV: '415', outputW, frequencyHz: '50', poles: '6' },
          route: 'overhaul',
        }),
      );
      expect(body.number, JSON.stringify(body)).toBeDefined();
      return body.number as string;
    };
    const test = async (number: string, current: string) => {
      const answer = await foreman('POST', `jobs/${number}/tests`, {
        stage: 'FI',
        kind: 'highPotential',
        typed: { testV: '1500', seconds: '60', outcome: 'pass', state: 'overhauled', current, instrument: 'tester 2' },
        override: 'Lower tests stand on the paper of the ship.',
      });
      expect(answer.status, JSON.stringify(answer.body)).toBe(201);
      return answer.body;
    };
    const kindOf = async (number: string) =>
      (await tester('GET', `jobs/${number}/tests/of-its-kind?kind=highPotential`)).body;
    // another output is another kind
    await test(await motor('11 kW'), '90 mA');
    for (const current of ['4 mA', '5 mA', '3 mA', '6 mA']) await test(await motor(), current);
    expect((await test(await motor(), '20 mA')).reason).not.toMatch(/usual for its kind/);
    const last = await motor();
    expect(await kindOf(last)).toHaveLength(5);
    const high = await test(last, '7.6 mA');
    expect(high.reason).toMatch(/7\.6 mA is more than 1\.5 times the 5 mA usual for its kind/);
    // its own reading is none of the others
    expect(await kindOf(last)).toHaveLength(5);
    expect((await tester('GET', `jobs/${last}/tests/of-its-kind?kind=none`)).status).toBe(422);
    const { body: again } = await tester('GET', 'tests/otherwise');
    expect(again.otherwise.filter((o: { number: string }) => o.number === last)).toEqual([]);
  });
  it('of a motor that is not known it is refused', async () => {
    expect((await tester('GET', 'jobs/99-9999/tests/earlier-visits')).status).toBe(404);
  });
});
