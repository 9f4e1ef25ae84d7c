import { demo } from '../demo.ts';
import { expect, test } from '../norther.ts';
import { fits, person } from '../person.ts';

const PIXEL = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
  'base64',
);

test('the old winding marked by touch, causes ranked while it is marked, a photograph pinned, the conclusion kept', async ({
  browser,
}) => {
  const page = await person(browser, 'ines', `/jobs/${demo(2)}/failure`);
  const marks = page.getByRole('textbox', { name: 'Damaged coils' });
  await expect(page.getByText(/Would tell more: the map/)).toBeVisible();
  // a coil side by touch, its mark as text; once more takes it back
  const side = (coil: number) => page.locator(`text[data-of~="coil:${coil}"][data-of^="slot:"]`).first();
  await page.getByRole('button', { name: '3 destroyed' }).click();
  await page.getByLabel('Worst where').selectOption('end turn');
  await side(7).click();
  await expect(marks).toHaveValue('7 destroyed at end turn');
  await side(7).click();
  await expect(marks).toHaveValue('');
  await side(7).click();
  await expect(page.getByRole('list', { name: 'Diagnosis' })).toContainText('Turn insulation');
  // a whole group by its arc
  await page.getByLabel('Worst where').selectOption('');
  await page.getByRole('button', { name: '1 discoloured' }).click();
  await page.locator('text[data-of^="group:1 "]').click();
  await expect(marks).toHaveValue(/destroyed at end turn; 1-\d+ discoloured/);
  await page.getByLabel('Air path').selectOption('blocked');
  await expect(page.getByText(/Helped along by: air path blocked/)).toBeVisible();
  // the place of a photograph on the unrolled winding
  await page
    .getByLabel('Photograph', { exact: true })
    .setInputFiles({ name: 'bead.png', mimeType: 'image/png', buffer: PIXEL });
  await page.getByRole('button', { name: 'Pin a place' }).click();
  await page.getByLabel('What is seen there').fill('bead of copper between two wires');
  await page.getByRole('combobox', { name: 'Photograph' }).selectOption({ index: 1 });
  const unrolled = page.getByRole('img', { name: /Developed winding/ });
  await unrolled.click({ position: { x: 120, y: 110 } });
  await expect(page.getByText(/bead of copper between two wires/)).toBeVisible();
  await fits(page);
  // what nobody can be sure of is refused in words, nothing lost
  await page.getByLabel('Cause', { exact: true }).selectOption('unknown');
  await page.getByRole('button', { name: 'Record the analysis' }).click();
  await expect(page.getByText(/say what is missing/)).toBeVisible();
  await page.getByRole('button', { name: /^Take “/ }).click();
  await expect(page.getByLabel('Advice to the owner')).toHaveValue(/Clean fan, ducts/);
  await page.getByRole('button', { name: 'Record the analysis' }).click();
  await expect(page.getByText(/revision 1:/)).toBeVisible();
  await page.reload();
  await expect(marks).toHaveValue(/7 destroyed at end turn/);
  await expect(page.getByText(/bead of copper/)).toBeVisible();
  await page.context().close();
});
