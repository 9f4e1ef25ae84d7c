import { demo } from '../demo.ts';
import { expect, test } from '../norther.ts';
import { fits, park, person, url } from '../person.ts';

test('the vessel refuses what is held and goes on over a dark lamp only with a foreman’s reason', async ({
  browser,
}) => {
  const page = await person(browser, 'ines', '/ovens?look=vessels');
  const begin = page.getByRole('form', { name: 'Begin a cycle' });
  const cards = begin.getByLabel(/^Scan the cards/);
  await begin.getByLabel(/^The highest part stands/).fill('520');
  // dipped, not impregnated in a vessel
  await cards.fill(demo(26));
  await begin.getByRole('button', { name: /begin the cycle/ }).click();
  await expect(begin.getByText(/is not impregnated by vacuum and pressure/)).toBeVisible();
  // the form-wound stator stands at its first tests
  await cards.fill(demo(22));
  await begin.getByRole('button', { name: /begin the cycle/ }).click();
  await expect(begin.getByText(`${demo(22)} is held:`)).toBeVisible();
  await cards.fill(demo(27));
  await begin.getByRole('button', { name: /begin the cycle/ }).click();
  await expect(page.getByText('Next: Part in its temperature')).toBeVisible();
  await page.getByRole('button', { name: 'Begin: part in its temperature' }).click();
  await expect(page.getByText('Next: Vacuum')).toBeVisible();
  // nobody has read anything: every lamp is out, and a winder does not go on over them
  const lamps = page.getByRole('list', { name: 'Interlocks' });
  await expect(lamps.getByText('not yet').first()).toBeVisible();
  await expect(lamps.getByText('holds')).toHaveCount(0);
  await page.getByRole('button', { name: 'Begin: vacuum' }).click();
  await expect(page.getByText(/a foreman/i).first()).toBeVisible();
  await expect(page.getByLabel('Go on all the same, because')).toHaveCount(0);
  await expect(page.getByText('Next: Vacuum')).toBeVisible();
  // what was read by hand lights its lamps
  await page.getByText('Signals of the plant').click();
  await page.getByLabel('Part, °C, read by hand').fill('50');
  await page.getByLabel('Lid locked, read by hand').selectOption('1');
  await page.getByRole('button', { name: 'Record what was read' }).click();
  await expect(lamps.getByText('holds', { exact: true })).toHaveCount(2);
  await fits(page);
  const odd = await person(browser, 'odd', '/ovens?look=vessels');
  await odd.getByRole('button', { name: 'Begin: vacuum' }).click();
  await odd.getByLabel('Go on all the same, because').fill('Valves seen shut by two of us');
  await odd.getByRole('button', { name: 'Begin: vacuum' }).click();
  await expect(odd.getByText('Next: Admit resin under vacuum')).toBeVisible();
  await expect(odd.getByText(/Valves seen shut by two of us/)).toBeVisible();
  await park(page, odd);
});

test('two coats: the second is dipped when the first is cured, sensors are fitted and keep the tests back', async ({
  browser,
}) => {
  const odd = await person(browser, 'odd', `/jobs/${demo(26)}/route?stage=Resin`);
  await odd.getByText('Change the route of this job').click();
  await odd.getByRole('button', { name: 'Coats of resin' }).click();
  await odd.getByLabel('Coats, each dipped, drained and baked').selectOption('2');
  await odd.getByLabel('Why the route changes').fill('Dust and damp: two coats');
  await odd.getByRole('button', { name: 'Change the route', exact: true }).click();
  await expect(odd.getByRole('link', { name: 'Dip, coat 2' })).toBeVisible();
  await odd.getByLabel("Keep this job's route as").fill('Two coats for the dust hall');
  await odd.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(odd.getByText('Two coats for the dust hall')).toBeVisible();
  await fits(odd);

  const page = await person(browser, 'ines', `/jobs/${demo(26)}/step/IMPD.2`);
  await expect(page.getByText('after Cure')).toBeVisible();
  // the log of the first coat
  await page.goto(url(`/jobs/${demo(26)}/oven`));
  const rows = Array.from({ length: 17 }, (_, i) => `${30 * i},150,${i < 2 ? 25 + 60 * i : i > 15 ? 60 : 150}`);
  const log = ['min,air,part', ...rows].join('\n');
  await page
    .getByLabel('File', { exact: true })
    .setInputFiles({ name: 'coat1.csv', mimeType: 'text/csv', buffer: Buffer.from(log) });
  await page.getByRole('button', { name: 'Record with this verdict' }).click();
  await expect(page.getByRole('heading', { name: /coat1\.csv/ })).toBeVisible();
  const coats = page.getByRole('region', { name: 'Coats of resin' });
  await expect(coats.getByRole('row', { name: /^2 not baked yet/ })).toBeVisible();
  await page.goto(url(`/jobs/${demo(26)}/step/CUR`));
  await page.getByRole('button', { name: 'Start cure' }).click();
  await page.getByRole('button', { name: 'Finish cure' }).click();
  await page.getByRole('link', { name: 'Next: Dip, coat 2' }).click();
  await page.getByRole('button', { name: 'Start dip, coat 2' }).click();
  await page.getByLabel(/^Resin lot/).fill('R-2026-12');
  await page.getByLabel(/^Part temperature/).fill('52');
  await page.getByLabel(/^In the bath/).fill('20');
  await page.getByLabel(/^Bubbling stopped/).selectOption('yes');
  await page.getByLabel(/^Part end for end/).selectOption('no');
  await expect(page.getByText(/Runs down the same way twice/)).toBeVisible();
  await page.getByLabel(/^Part end for end/).selectOption('yes');
  // a pyrometer that ran out of calibration last week
  await page.getByLabel('Measured with').fill('pyrometer 3');
  await expect(page.getByText(/Pyrometer 3 has been out of calibration since/)).toBeVisible();
  await page.getByLabel('Measured with').fill('Insulation tester 1');
  await page.getByRole('button', { name: 'Finish dip, coat 2' }).click();
  await expect(page.getByRole('link', { name: /^Next: Drain, coat 2/ })).toBeVisible();

  await page.goto(url(`/jobs/${demo(26)}/step/PCT`));
  await page.getByText('Sensors and heaters').click();
  const fit = page.getByRole('form', { name: 'Fit a sensor or heater' });
  await fit.getByLabel(/^What it is/).selectOption('PTC');
  await fit.getByLabel(/^Marked/).fill('1TP1');
  await fit.getByRole('button', { name: 'Fit it' }).click();
  await expect(page.getByText('1 fitted, 1 not measured after the cure')).toBeVisible();
  await page.getByRole('button', { name: 'Measure', exact: true }).click();
  const reading = page.getByRole('form', { name: 'Reading of 1TP1' });
  await reading.getByLabel(/^Resistance/).fill('>2000');
  await reading.getByLabel(/^Insulation at 500 V/).fill('>500');
  await expect(reading.getByText(/no circuit/)).toBeVisible();
  await reading.getByLabel(/^Resistance/).fill('88');
  await reading.getByRole('button', { name: 'Record after the cure' }).click();
  await expect(page.getByText('88 Ω, insulation >500 MΩ')).toBeVisible();
  await fits(page);
  await park(page, odd);
});
