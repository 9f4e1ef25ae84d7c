import type { Page } from '@playwright/test';
import { demo } from '../demo.ts';
import { expect, test } from '../norther.ts';
import { fill, person, url } from '../person.ts';

const DATA = `/jobs/${demo(9)}/data`;
const box = (page: Page, label: string) => page.getByLabel(label, { exact: true }).first();

test('two tabs of one person type into one sheet: nothing of either is lost, also after a reload', async ({
  browser,
}) => {
  const one = await person(browser, 'ines', DATA);
  const two = await one.context().newPage();
  await two.goto(url(DATA));
  await expect(box(two, 'Slots')).toBeVisible();
  await fill(one, 'Bore', '151');
  await fill(two, 'Core length', '131');
  await fill(one, 'Back iron', '25');
  // each shows what the other typed
  await expect(box(one, 'Core length')).toHaveValue('131');
  await expect(box(two, 'Back iron')).toHaveValue('25');
  await one.reload();
  await expect(box(one, 'Bore')).toHaveValue('151');
  await expect(box(one, 'Core length')).toHaveValue('131');
  await two.reload();
  await expect(box(two, 'Back iron')).toHaveValue('25');
  await one.context().close();
});

test('a device without room keeps nothing, says so, and the server has what is typed', async ({ browser }) => {
  const page = await person(browser, 'ines', `/jobs/${demo(8)}/data`);
  await expect(box(page, 'Slots')).toBeVisible();
  await page.evaluate(() => {
    for (let size = 1_000_000; size > 0; size = Math.floor(size / 2))
      try {
        for (let i = 0; ; i++) localStorage.setItem(`full ${size} ${i}`, 'x'.repeat(size));
      } catch {
        // full to this grain
      }
  });
  // the line is down as well
  await page.context().setOffline(true);
  await fill(page, 'Slot opening', '2.5');
  await expect(page.getByText(/not kept yet: this device has no room left/)).toBeVisible();
  await page.context().setOffline(false);
  await expect(page.getByText('saved as your draft')).toBeVisible();
  await page.evaluate(() => localStorage.clear());
  await page.reload();
  await expect(box(page, 'Slot opening')).toHaveValue('2.5');
  await page.context().close();
});
