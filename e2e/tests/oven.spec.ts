import { demo } from '../demo.ts';
import { expect, test } from '../norther.ts';
import { choose, fits, person, url } from '../person.ts';

test('a load followed while it bakes: cure by the part, what is left, an alarm when a part is too hot', async ({
  browser,
}) => {
  const page = await person(browser, 'liv');
  const made = (await (
    await page.request.post(url('/api/instruments'), {
      data: { name: 'Bake oven 5', kind: 'oven logger', mayWrite: ['oven'] },
    })
  ).json()) as { id: string; key: string };
  const bake: { air: number; parts: [number, number] }[] = [];
  let parts: [number, number] = [24, 24];
  for (let t = 0; t < 400; t++) {
    const air = Math.min(150, 24 + 3 * t);
    bake.push({ air, parts });
    parts = [parts[0] + (air - parts[0]) / 25, parts[1] + (air - parts[1]) / 60];
  }
  const send = (batch: number, from: number, to: number, more = 0) =>
    page.request.post(url(`/api/instruments/${made.id}/samples`), {
      headers: { Authorization: `Bearer ${made.key}` },
      data: {
        stream: 'load 1',
        batch,
        what: 'oven',
        channels: [
          { name: 'air', unit: '°C', role: 'oven air' },
          { name: 'head', unit: '°C', role: 'part' },
          { name: 'core', unit: '°C', role: 'part' },
        ],
        start: new Date(Date.now() - 260 * 60_000 + from * 60_000).toISOString(),
        step: 60,
        values: [0, 1, 2].map((c) =>
          bake.slice(from, to).map((r) => (c === 0 ? r.air : (r.parts[c - 1] ?? 0) + (c === 1 ? more : 0))),
        ),
      },
    });
  // what came last is an hour old
  expect((await send(0, 0, 200)).status()).toBe(202);

  await page.goto(url(`/jobs/${demo(5)}/oven`));
  const load = page.getByLabel('Oven load');
  const option = await load.locator('option', { hasText: 'Bake oven 5' }).getAttribute('value');
  await choose(page, 'Oven load', option ?? '');
  const cure = page.getByRole('region', { name: 'Cure so far' });
  await expect(cure.getByRole('listitem').filter({ hasText: 'core' })).toContainText('slowest');
  await expect(cure.getByRole('alert')).toContainText(/Nothing has come for (59|60|61) min/);
  await expect(cure).toContainText('Nothing comes: the figure stands still.');
  await expect(cure).toContainText(/Too hot to touch/);
  await fits(page);
  const percent = async () =>
    Number(/(\d+) %/.exec((await cure.getByRole('listitem').filter({ hasText: 'core' }).textContent()) ?? '')?.[1]);
  const before = await percent();

  // more comes by itself; cure never falls
  await send(1, 200, 260);
  await expect.poll(percent).toBeGreaterThan(before);
  await expect(cure).toContainText(/about (\d+ h )?\d+ min left/);
  await expect(cure.getByRole('alert')).toHaveCount(0);
  // a part above what its resin bears
  await send(2, 260, 262, 40);
  await expect(cure.getByRole('alert').filter({ hasText: /head reached/ })).toBeVisible();
  await page.context().close();
});
