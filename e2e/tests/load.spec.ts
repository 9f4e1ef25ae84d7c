import { demo } from '../demo.ts';
import { expect, test } from '../norther.ts';
import { fits, person, url } from '../person.ts';

const FIELDS: readonly (readonly [string, string])[] = [
  ['Voltage', '400'],
  ['Cold resistance lead to lead', '0.92'],
  ['Winding then', '25'],
  ['Rise of the rated run, K', '53'],
  ['Coolant at its end', '26.5'],
  ['No-load voltages', '440, 400, 380, 360, 240, 200, 160, 120'],
  ['No-load currents', '8.853, 7.231, 6.56, 5.961, 3.321, 2.667, 2.081, 1.557'],
  ['No-load powers', '385.3, 312.8, 283.2, 256.8, 145.3, 120.9, 101.5, 86.7'],
  ['Winding at no load', '45'],
  ['Coupled, dynamometer at its minimum: power', '410.2'],
  ['Coupled: current', '7.237'],
  ['Coupled: speed', '1499.3'],
  ['Coupled: torque indicated', '0.47'],
  ['Motor free: power', '312.8'],
];

/** Torque, current, power, speed, winding temperature, as a spreadsheet copies them. */
const POINTS = [
  ['Torque', 'A', 'W', 'r/min', '°C'],
  [61.7, 17.927, 10684.6, 1446.2, 82],
  [56.77, 16.651, 9800.2, 1451.2, 81],
  [49.31, 14.821, 8494.6, 1458.5, 79.5],
  [36.92, 12.026, 6368.7, 1470, 76],
  [24.58, 9.652, 4301.4, 1480.5, 73],
  [12.2, 7.934, 2286.6, 1490.4, 71],
]
  .map((row) => row.join('\t'))
  .join('\n');

test('a load test point by point: what is missing is named, a bad torque is left out and shown, both methods drawn', async ({
  browser,
}) => {
  const page = await person(browser, 'runa', `/jobs/${demo(32)}/tests?stage=FI&test=loadTest`);
  await expect(page.getByRole('list', { name: 'Before the test' })).toContainText('until the winding rises');
  for (const [label, text] of FIELDS)
    await page
      .getByLabel(label, { exact: label === 'Voltage' })
      .first()
      .fill(text);
  await page.getByLabel(/^Instrument/).fill('dynamometer 1');
  await page.getByLabel('Torque, indicated').focus();
  await page.evaluate((text) => {
    const data = new DataTransfer();
    data.setData('text', text);
    document.activeElement?.dispatchEvent(
      new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }),
    );
  }, POINTS);
  await expect(page.getByLabel('Winding temperature at each')).toHaveValue('82; 81; 79.5; 76; 73; 71');
  // one torque too few, then one that is off
  await page.getByLabel('Torque, indicated').fill('61.7, 56.77, 49.31, 36.92, 24.58');
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(page.getByText(/Each torque has its figures: there are 5 and 6/).first()).toBeVisible();
  await page.getByLabel('Torque, indicated').fill('61.7, 56.77, 49.31, 38.42, 24.58, 12.2');
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(page.getByText(/the coupled and the free run whole/).first()).toBeVisible();
  await page.getByLabel('Motor free: current').fill('7.231');
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(page.getByText(/Point 4 \(38\.6 N m\) is left out of the line/).first()).toBeVisible();
  await expect(page.getByRole('img', { name: /Efficiency over the output/ })).toBeVisible();
  await page.getByText('Every point by method B').click();
  const table = page.getByRole('table', { name: 'Points by method B' });
  await expect(table).toContainText('left out');
  await expect(table.getByRole('row')).toHaveCount(7);
  await fits(page);

  await page.goto(url(`/jobs/${demo(32)}/tests?stage=FI&test=temperatureRise`));
  for (const [label, text] of [
    ['Cold resistance lead to lead', '0.452'],
    ['Winding then', '22'],
    ['Coolant at the end of the run', '24.5'],
    ['Seconds since the switch', '30, 60, 90, 120, 150, 180'],
    ['Resistance at each', '0.5789, 0.5746, 0.5705, 0.5666, 0.5628, 0.5591'],
    ['Instrument', 'four-wire bridge 2'],
  ] as const)
    await page.getByLabel(label).first().fill(text);
  await page.getByLabel('Class of the weakest part').selectOption('F');
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(page.getByText(/72\.1 K \(drawn back to the switch, time constant 14\.2 min\)/).first()).toBeVisible();
  await expect(page.getByRole('img', { name: /Rise of the winding after the switch/ })).toBeVisible();
  await page.context().close();
});
