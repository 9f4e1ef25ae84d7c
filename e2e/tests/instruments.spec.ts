import { expect, test } from '../norther.ts';
import { person, url } from '../person.ts';

test('an admin adds an instrument, gives its key away once, and sees at once what it sends; a backup is made', async ({
  browser,
}) => {
  const page = await person(browser, 'liv', '/instruments');
  // another one sends already; the one that is added is shown all the same
  const another = (await (
    await page.request.post(url('/api/instruments'), {
      data: { name: 'Bake oven 1', kind: 'oven logger', mayWrite: ['oven'] },
    })
  ).json()) as { id: string; key: string };
  const sent = await page.request.post(url(`/api/instruments/${another.id}/samples`), {
    headers: { Authorization: `Bearer ${another.key}` },
    data: {
      stream: 'load 0',
      batch: 0,
      what: 'oven',
      channels: [{ name: 'air', unit: '°C', role: 'oven air' }],
      start: new Date(Date.now() - 20_000).toISOString(),
      step: 5,
      values: [[88, 89]],
    },
  });
  expect(sent.status()).toBe(202);
  await page.getByRole('button', { name: /^Bake oven 1 oven logger/ }).click();
  await expect(page.getByRole('definition').filter({ hasText: '89 °C' })).toBeVisible();
  await page.getByLabel('New instrument').fill('Bake oven 2');
  await page.getByRole('button', { name: 'Add' }).click();
  const shown = page.getByRole('region', { name: 'The new key' });
  const key = (await shown.getByText(/^ni_/).textContent()) ?? '';
  await shown.getByRole('button', { name: 'Close' }).click();
  await expect(shown).toBeHidden();
  const auth = { Authorization: `Bearer ${key}` };
  const me = await (await page.request.get(url('/api/instruments/me'), { headers: auth })).json();
  const send = async (batch: number, part: number) => {
    const answer = await page.request.post(url(`/api/instruments/${me.id}/samples`), {
      headers: auth,
      data: {
        stream: 'load 1',
        batch,
        what: 'oven',
        channels: [
          { name: 'air', unit: '°C', role: 'oven air' },
          { name: 'stator', unit: '°C', role: 'part' },
        ],
        start: new Date(Date.now() - 20_000 + batch * 10_000).toISOString(),
        step: 5,
        values: [
          [150, 150],
          [part - 1, part],
        ],
      },
    });
    expect(answer.status()).toBe(202);
  };
  await send(0, 101);
  await expect(page.getByRole('definition').filter({ hasText: '101 °C' })).toBeVisible();
  // the next batch comes by itself, over the live line
  await send(1, 117);
  await expect(page.getByRole('definition').filter({ hasText: '117 °C' })).toBeVisible();
  const chart = page.getByRole('group', { name: /^What Bake oven 2 sends/ });
  await chart.focus();
  await page.keyboard.press('ArrowRight');
  await expect(page.getByText(/stator, °C: 100 °C/)).toBeVisible();

  await page.goto(url('/shop'));
  await expect(page.getByRole('region', { name: 'Background work' })).toContainText(/keeps no backups|Last backup/);
  await page.context().close();
});

test('eight tabs of one browser share one line, and each gets what it looks at', async ({ browser }) => {
  const page = await person(browser, 'liv');
  const made = (await (
    await page.request.post(url('/api/instruments'), {
      data: { name: 'Bake oven 8', kind: 'oven logger', mayWrite: ['oven'] },
    })
  ).json()) as { id: string; key: string };
  const send = (batch: number, degrees: number) =>
    page.request.post(url(`/api/instruments/${made.id}/samples`), {
      headers: { Authorization: `Bearer ${made.key}` },
      data: {
        stream: 'eight tabs',
        batch,
        what: 'oven',
        channels: [{ name: 'air', unit: '°C', role: 'oven air' }],
        start: new Date(Date.now() - 60_000 + batch * 10_000).toISOString(),
        step: 5,
        values: [[degrees - 1, degrees]],
      },
    });
  await send(0, 91);
  const tabs = [page, ...(await Promise.all(Array.from({ length: 7 }, () => page.context().newPage())))];
  for (const tab of tabs) {
    await tab.goto(url(`/instruments?of=${made.id}`));
    await expect(tab.getByRole('definition').filter({ hasText: '91 °C' })).toBeVisible();
  }
  await send(1, 93);
  for (const tab of tabs) await expect(tab.getByRole('definition').filter({ hasText: '93 °C' })).toBeVisible();
  await expect
    .poll(async () => (await page.request.get(url('/api/metrics'))).text())
    .toMatch(/^norther_streams(?:\{[^}]*\})? 1$/m);
  // told to begin another load; the simulated logger is not there, so nobody has heard it yet
  await page.getByRole('button', { name: 'next load' }).click();
  await expect(page.getByText(/next load.*waiting|next load.*expired/)).toBeVisible();
  await page.context().close();
});
