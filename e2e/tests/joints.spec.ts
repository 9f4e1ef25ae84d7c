import { demo } from '../demo.ts';
import { expect, test } from '../norther.ts';
import { person } from '../person.ts';

test('the drawing follows the ticks, sleeves and cables stand beside them, what is entered as made survives a reload', async ({
  browser,
}) => {
  const page = await person(browser, 'ines', `/jobs/${demo(4)}/joints`);
  const ring = page.getByRole('img', { name: /joints made, drawn heavy/ });
  const all = Number(/0 of (\d+) joints made/.exec((await ring.getAttribute('aria-label')) ?? '')?.[1]);
  expect(all).toBeGreaterThan(5);
  await expect(page.getByText(/sleeve [\d.]+ mm bore, 60 mm, threaded first/).first()).toBeVisible();
  await expect(page.getByText(/lead; sleeve .*; cable [\d.]+ mm²/).first()).toBeVisible();
  await page
    .getByRole('button', { name: /not made$/ })
    .first()
    .click();
  await expect(page.getByRole('img', { name: new RegExp(`1 of ${all} joints made`) })).toBeVisible();
  // who made it is not asked to look at it
  await expect(page.getByRole('button', { name: 'looked at' })).toHaveCount(0);
  const other = await person(browser, 'tomas', `/jobs/${demo(4)}/joints`);
  await other.getByRole('button', { name: 'looked at' }).click();
  await expect(other.getByText(/1 of \d+ made, 1 looked at/)).toBeVisible();

  await page.getByRole('button', { name: 'As made', exact: true }).click();
  await page.getByRole('button', { name: '1S', exact: true }).click();
  await page.getByRole('button', { name: '4F', exact: true }).click();
  await expect(page.getByLabel('Joints, one a line')).toHaveValue('1S-4F');
  // what somebody else ticks meanwhile takes nothing away
  await page.getByRole('button', { name: '4S', exact: true }).click();
  await other
    .getByRole('button', { name: /not made$/ })
    .first()
    .click();
  await expect(other.getByText(/2 of \d+ made/)).toBeVisible();
  await page.waitForTimeout(1000);
  await page.getByRole('button', { name: '7S', exact: true }).click();
  await expect(page.getByLabel('Joints, one a line')).toHaveValue('1S-4F\n4S-7S');
  await page.getByLabel('Joints, one a line').fill('1S-4F');
  await page.reload();
  await expect(page.getByLabel('Joints, one a line')).toHaveValue('1S-4F');
  // other joints kept meanwhile are shown, and chosen
  await other.getByRole('button', { name: 'As made', exact: true }).click();
  await other.getByLabel('Joints, one a line').fill('2S-5F');
  await other.getByRole('button', { name: 'Keep as made' }).click();
  await expect(page.getByText('Other joints were kept meanwhile')).toBeVisible();
  await expect(page.getByLabel('Joints, one a line')).toHaveValue('1S-4F');
  await page.getByRole('button', { name: 'Go on with mine' }).click();
  await page.getByLabel('Joints, one a line').fill('1S-99X');
  await expect(page.getByRole('alert')).toContainText('99X');
  await page.context().close();
  await other.context().close();
});

test('odd figures of a six-lead motor are read as it is linked; practice keeps its score', async ({ browser }) => {
  const page = await person(browser, 'runa', `/jobs/${demo(7)}/joints?do=odd`);
  await expect(page.getByText(/with the 6 leads linked to run in delta/)).toBeVisible();
  // one-circuit delta with phase A twice its resistance short of a group: the pattern of a group left out
  for (const [name, value] of [
    ['Resistance U1–V1', '0.667'],
    ['Resistance V1–W1', '0.917'],
    ['Resistance W1–U1', '0.917'],
  ] as const)
    await page.getByLabel(name, { exact: true }).fill(value);
  await expect(page.getByRole('region', { name: 'What would explain it' }).getByRole('listitem').first()).toBeVisible();
  await page.getByRole('button', { name: 'Practice', exact: true }).click();
  await expect(page.getByText('0 of 0 found.')).toBeVisible();
  await page.getByRole('button', { name: 'Plant a mistake' }).click();
  await page.getByLabel('at group').fill('99');
  await page.getByRole('button', { name: 'That is it' }).click();
  await expect(page.getByText(/^(No|Nearly): /)).toBeVisible();
  await page.reload();
  await expect(page.getByText('0 of 1 found.')).toBeVisible();
  await page.context().close();
});
