import { demo } from '../demo.ts';
import { expect, test } from '../norther.ts';
import { person, url } from '../person.ts';

test('a changed rewind is searched, compared, released with a reason, and stands on plan and card', async ({
  browser,
}) => {
  const foreman = await person(browser, 'odd');
  const number = demo(13);
  await foreman.goto(url(`/jobs/${number}/plan?do=change`));
  await expect(foreman.getByText(/keep all limits, the best/)).toBeVisible();
  await foreman.getByLabel('Circuits as it runs', { exact: true }).fill('7');
  await expect(foreman.getByText(/7 circuits would not be equal with 10 poles/)).toBeVisible();
  await foreman.getByLabel('Circuits as it runs', { exact: true }).fill('');
  await foreman.getByLabel('Line voltage', { exact: true }).fill('3300');
  await expect(foreman.getByText(/up to 1000 V/)).toBeVisible();
  await foreman.getByLabel('Line voltage', { exact: true }).fill('440');
  await foreman.getByLabel('Frequency', { exact: true }).fill('60');
  const compare = foreman.getByRole('checkbox', { name: /^Compare/ });
  await expect(foreman.getByText(/keep all limits, the best/)).toBeVisible();
  for (const i of [0, 1, 2, 4, 6]) await compare.nth(i).check();
  // four at the most stand beside as found
  await expect(foreman.getByRole('columnheader', { name: /^Candidate/ })).toHaveCount(4);
  await foreman.getByLabel('fill at most').fill('0.1');
  await expect(foreman.getByText('No candidate passes the filters.')).toBeVisible();
  await foreman.getByLabel('fill at most').fill('');
  await foreman.getByRole('button', { name: 'Release the changed rewind' }).click();
  await expect(foreman.getByText(/needs its written reason/)).toBeVisible();
  await foreman.getByLabel('Reason, and who agreed').fill('The ferry moved to a 60 Hz quay; agreed with the owner.');
  await foreman.getByRole('button', { name: 'Release the changed rewind' }).click();
  await expect(foreman.getByText('Plan 1 is released; card and material follow it.')).toBeVisible();
  await foreman.getByRole('button', { name: 'Plan and card', exact: true }).click();
  await expect(foreman.getByText('▲ Changed, not as found.')).toBeVisible();
  await expect(foreman.getByText(/Frequency 60 Hz \(was 50 Hz\)/)).toBeVisible();
  await foreman.getByText('Schematic, circuit by circuit').click();
  await expect(foreman.getByRole('img', { name: /Connection, circuit by circuit/ })).toBeVisible();
  await expect(foreman.getByRole('img', { name: /^Coil 1: 1-\d/ })).toBeVisible();
  const winder = await person(browser, 'ines', `/jobs/${number}/plan?do=change`);
  await expect(winder.getByRole('button', { name: 'Release the changed rewind' })).toHaveCount(0);
  await foreman.context().close();
  await winder.context().close();
});

test('a lot comes in, is searched for, counted; a wire finds what may stand in for it', async ({ browser }) => {
  const page = await person(browser, 'ines', '/stock');
  await page.getByRole('button', { name: 'A lot came in' }).click();
  await page.getByLabel('Lot number').fill('E-900');
  await page.getByLabel('Size', { exact: true }).fill('wide');
  await page.getByLabel('Amount, kg net').fill('12.5');
  await page.getByRole('button', { name: 'Record the lot' }).click();
  await expect(page.getByLabel('Size', { exact: true })).toHaveAttribute('aria-invalid', 'true');
  await page.getByLabel('Size', { exact: true }).fill('AWG 15');
  await page.getByRole('button', { name: 'Record the lot' }).click();
  await expect(page.getByRole('heading', { name: /Lot E-900, AWG 15 grade 2 copper/ })).toBeVisible();
  await page.getByLabel('Amount, kg').fill('11.9');
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(page.getByText(/needs its reason/)).toBeVisible();
  await page.getByLabel('Why').fill('weighed with the spool');
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(page.getByText('count put right by −0.6 kg')).toBeVisible();
  await page.getByLabel('Search the stock').fill('E-900');
  await expect(page.getByRole('row', { name: /E-900/ })).toHaveCount(1);
  await expect(page.getByRole('cell', { name: '11.9 kg', exact: true })).toBeVisible();

  await page.getByRole('button', { name: 'Substitute wire' }).click();
  await page.getByLabel('Wires to be replaced').fill('1xAWG 14');
  await page.getByLabel('From').selectOption('all');
  await expect(page.getByRole('row').nth(1)).toContainText('mm²');
  await page.getByLabel('Most wires in hand').fill('none');
  await expect(page.getByText(/type a whole number from 1 to 10/)).toBeVisible();
  await page.getByRole('button', { name: 'Sizes and spools' }).click();
  await page.getByLabel('Nearest to').fill('AWG 18');
  await expect(page.getByText(/^1\.00, area −4\.6 %/)).toBeVisible();
  await page.context().close();
});

test('the bill follows what is altered, and material is used by a step', async ({ browser }) => {
  const page = await person(browser, 'ines', `/jobs/${demo(6)}/material`);
  await expect(page.getByText('Lists made')).toBeVisible();
  await expect(page.getByRole('rowheader', { name: 'phase paper' })).toBeVisible();
  await page.getByLabel('Used of lot').selectOption({ label: 'C-12, Polyester lacing cord' });
  await page.getByLabel('Amount, m', { exact: true }).fill('900');
  await page.getByRole('button', { name: 'Record use' }).click();
  await expect(page.getByText(/more than 10 % above|are left/)).toBeVisible();
  await page.getByLabel('Amount, m', { exact: true }).fill('3');
  await page.getByRole('button', { name: 'Record use' }).click();
  await expect(page.getByRole('row', { name: /C-12 Polyester lacing cord .* 3 m/ })).toBeVisible();
  // a poor enamel is warned of at once; a wider cuff makes a longer liner
  await page.getByLabel('Enamel class, °C').fill('130');
  await expect(page.getByText(/class 130 \(B\) by its weakest member/)).toBeVisible();
  await page.getByLabel('Cuff folded').fill('wide');
  await expect(page.getByLabel('Cuff folded')).toHaveAttribute('aria-invalid', 'true');
  await page.getByLabel('Cuff folded').fill('12');
  await expect(page.getByRole('row', { name: /slot liner/ })).toContainText('269 mm');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText(/class 130/)).toHaveCount(0);
  await page.context().close();
});
