import { demo } from '../demo.ts';
import { expect, test } from '../norther.ts';
import { freePort } from '../freePort.ts';
import { choose, fill, person, url } from '../person.ts';
import { copyOfDemo, serveNorther } from '../server.ts';

test('wrong input is named beside its field and nothing is lost', async ({ browser }) => {
  const page = await person(browser, 'ines', '/take-in');
  await fill(page, 'Output', '5 kg');
  await expect(page.getByText(/"kg" is not a unit for this\. Use W, kW, hp, PS/)).toBeVisible();
  await fill(page, 'Speed', 'fast');
  await page.getByRole('button', { name: 'Take in' }).click();
  await expect(page.getByText(/Still needed: Customer, What it is/)).toBeVisible();
  await expect(page.getByText(/Cannot be read yet: Output, Speed/)).toBeVisible();
  await expect(page.getByLabel('Output', { exact: true })).toHaveValue('5 kg');
  await page.context().close();
});

test('a stale edit shows both sides and lets the person choose', async ({ browser }) => {
  const one = await person(browser, 'ines');
  const two = await person(browser, 'tomas');
  await one.goto(url(`/jobs/${demo(10)}/data`));
  await fill(one, 'Slots', '60');
  await two.context().addInitScript(() => delete (window as { SharedWorker?: unknown }).SharedWorker);
  await two.route('**/api/live*', (r) => r.abort());
  await two.goto(url(`/jobs/${demo(10)}/data`));
  await fill(two, 'Slots', '54');
  await one.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(one.getByText(/revision 1, Ines Halvard/)).toBeVisible();
  await two.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(two.getByText(/saved by Ines Halvard meanwhile/)).toBeVisible();
  await expect(two.getByRole('cell', { name: '60' })).toBeVisible();
  await expect(two.getByRole('cell', { name: '54' })).toBeVisible();
  await one.context().close();
  await two.context().close();
});

test('what a role may not do is not offered, and refused when asked for', async ({ browser }) => {
  const viewer = await person(browser, 'per');
  await expect(viewer.getByRole('link', { name: 'Take in' })).toHaveCount(0);
  await viewer.goto(url(`/jobs/${demo(7)}/route`));
  await expect(viewer.getByRole('heading', { name: 'Milk pump' })).toBeVisible();
  await expect(viewer.getByRole('button', { name: 'Start', exact: true })).toHaveCount(0);
  const refused = await viewer.request.post(url(`/api/jobs/${demo(7)}/steps/DA2/start`), { data: {} });
  expect(refused.status()).toBe(403);
  expect(((await refused.json()) as { detail: string }).detail).toMatch(/needs the role winder/);
  await viewer.context().close();
});

test('a shared tablet changes person in two touches', async ({ browser }) => {
  const page = await person(browser, 'ines');
  await page.request.post(url('/api/session'), { data: { signIn: 'tomas', password: 'harbour-2026' } });
  await page.reload();
  await expect(page.getByRole('heading', { name: 'Floor' })).toBeVisible();
  await page.keyboard.press('p');
  await page
    .getByRole('button', { name: /Ines Halvard/ })
    .last()
    .click();
  await page.getByLabel('PIN', { exact: true }).fill('1111');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Ines Halvard winder' })).toBeVisible();
  await page.context().close();
});

test('the server is killed and started again in the middle: typing goes on and is stored once', async ({ browser }) => {
  test.setTimeout(180_000);
  const norther = await serveNorther(await copyOfDemo('killed'), await freePort());
  const before = process.env['NORTHER_URL'];
  process.env['NORTHER_URL'] = norther.base;
  try {
    const page = await person(browser, 'ines', `/jobs/${demo(10)}/data`);
    await fill(page, 'Slots', '60');
    await norther.kill();
    await fill(page, 'Poles', '10');
    await choose(page, 'Layers', 'double');
    await expect(page.getByText('no line')).toBeVisible();
    await expect(page.getByText('kept on this device')).toBeVisible();
    await norther.start();
    await expect(page.getByText('live', { exact: true })).toBeVisible({ timeout: 20_000 });
    await page.reload();
    await expect(page.getByLabel('Poles', { exact: true })).toHaveValue('10');
    await page.getByRole('button', { name: 'Record', exact: true }).click();
    await expect(page.getByText(/revision 1, Ines Halvard/)).toBeVisible();
    await page.context().close();
  } finally {
    process.env['NORTHER_URL'] = before;
    await norther.end();
  }
});
