import type { YieldGroup } from '@norther/contracts';
import { describe, expect, it } from 'vitest';
import { demoShop } from '../testing/shopPeople.ts';

const { server, viewer, tester, take } = demoShop('norther_yield');
const ask = async (query: string): Promise<YieldGroup[]> => (await viewer('GET', `tests/yield?${query}`)).body;
const read = (number: string, ab: string, more: object = {}) =>
  tester('POST', `jobs/${number}/tests`, {
    stage: 'IN',
    kind: 'windingResistance',
    typed: { ab, bc: '1.000', ca: '1.000', windingC: '20', instrument: 'bridge' },
    ...more,
  });

describe('first-pass yield', () => {
  it('counts the first reading of each test and stage of a visit; one that was corrected as it was corrected', async () => {
    const name = 'windingResistance IN';
    const of = async () => (await ask('by=test')).find((g) => g.name === name) as YieldGroup;
    const before = await of();
    const [a, b, c] = [await take(), await take(), await take()];
    await read(a, '1.000');
    // it fails, and passes when it is measured again: not at the first
    await read(b, '1.300');
    await read(b, '1.000');
    // a slip of the pen, corrected
    const wrong = (await read(c, '1.300')).body.id as string;
    expect((await read(c, '1.000', { supersedes: wrong, reason: 'misread' })).status).toBe(201);
    const after = await of();
    expect([after.tested - before.tested, after.passed - before.passed]).toEqual([3, 2]);
    expect(after.others).toContain(b);
    expect(after.others).not.toContain(a);
    expect(after.others).not.toContain(c);
    expect(after).toMatchObject({ kind: 'windingResistance', stage: 'IN' });
  });
  it('by month, customer, poles and lot; within its days only', async () => {
    const { rows } = await server().pool.query<{ n: number }>(
      `select count(*)::int as n from (select distinct job_id, part, unit_id, kind, stage from test_run) t`,
    );
    for (const by of ['test', 'month', 'customer', 'poles']) {
      const groups = await ask(`by=${by}`);
      expect(
        groups.reduce((n, g) => n + g.tested, 0),
        by,
      ).toBe(rows[0]?.n);
      for (const g of groups) {
        expect(g.passed).toBeLessThanOrEqual(g.tested);
        if (g.passed < g.tested) expect(g.others.length, `${by} ${g.name}`).toBeGreaterThan(0);
      }
    }
    const lots = await ask('by=lot');
    expect(lots.length).toBeGreaterThan(2);
    const months = await ask('by=month');
    expect(months.map((m) => m.name)).toEqual([...months.map((m) => m.name)].sort());
    expect(await ask('from=1999-01-01&to=1999-12-31')).toEqual([]);
  });
  it.each([
    ['by=shoe', 'by'],
    ['from=2026-02-01&to=2026-01-01', 'to'],
    ['from=yesterday', 'from'],
  ])('%s is refused in words', async (query, field) => {
    const answer = await viewer('GET', `tests/yield?${query}`);
    expect(answer.status).toBe(422);
    expect(JSON.stringify(answer.body)).toContain(`"${field}"`);
  });
});
