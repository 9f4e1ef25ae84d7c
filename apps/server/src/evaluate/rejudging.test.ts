import { describe, expect, it } from 'vitest';
import { demoShop } from '../testing/shopPeople.ts';

const { tester, winder, admin } = demoShop('norther_rejudging');

describe('tests by the limits of today', () => {
  it('a changed limit judges nothing again; a list tells what would come out otherwise', async () => {
    const first = (await tester('GET', 'tests/otherwise')).body;
    expect(first.judged).toBeGreaterThan(50);
    expect(first.otherwise).toEqual([]);
    const { body: shop } = await admin('GET', 'shop');
    const changed = await admin('PUT', 'shop', {
      version: shop.version,
      settings: { ...shop.settings, limits: { ...shop.settings.limits, 'ir.attentionFactor': 100_000 } },
    });
    expect(changed.status).toBe(200);
    const { body: now } = await tester('GET', 'tests/otherwise');
    expect(now.judged).toBe(first.judged);
    expect(now.otherwise.length).toBeGreaterThan(0);
    const [one] = now.otherwise;
    expect(one).toMatchObject({ kind: 'insulationResistance', was: 'pass', now: 'attention' });
    const { body: job } = await tester('GET', `jobs/${one.number}`);
    expect(job.tests.find((t: { id: string }) => t.id === one.id).verdict).toBe('pass');
    expect((await winder('GET', 'tests/otherwise')).status).toBe(403);
  });
});
