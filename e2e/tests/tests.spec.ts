import { surgeWave, withShort } from '@norther/core';
import { demo } from '../demo.ts';
import { expect, test } from '../norther.ts';
import { fits, person, url } from '../person.ts';

const SOUND = { ohm: 180, henry: 12e-3, farad: 0.1e-6 };
const SHORT = withShort(SOUND, { turnsShare: 1 / 60, couplingSquared: 0.3, loopOhm: 0.001 });

/** Three waves at three voltages; those that hold phase U break down at the last. */
function waves(breaks: boolean): Buffer {
  const columns = ['UV', 'VW', 'WU'].flatMap((name) =>
    [800, 1400, 1900].map((volts) => ({
      head: `${name} ${volts} V`,
      v: surgeWave(breaks && name !== 'VW' && volts === 1900 ? SHORT : SOUND, volts, 2e-6, 400).v,
    })),
  );
  const rows = Array.from({ length: 400 }, (_, k) => [k * 2, ...columns.map((c) => c.v[k])].join(';'));
  return Buffer.from([`t (µs);${columns.map((c) => c.head).join(';')}`, ...rows].join('\n'));
}
const file = (name: string, buffer: Buffer) => ({ name, mimeType: 'text/csv', buffer });

test('a surge comparison from its waves: what is due, the curve, verdict and diagnosis; order of stress', async ({
  browser,
}) => {
  const page = await person(browser, 'runa', `/jobs/${demo(9)}/tests?stage=IN&test=surge`);
  await page.getByRole('button', { name: 'Measure again' }).click();
  await expect(page.getByRole('list', { name: 'Before the test' })).toContainText('Crest');
  const csv = page.getByLabel(/^Waves from a file/);
  // kilovolts that nobody named are asked about, nothing is lost
  await page.getByLabel(/^Instrument/).fill('surge tester 2');
  await csv.setInputFiles(
    file('kv.csv', Buffer.from(`t,UV\n${[1.5, 0.9, -0.3, -0.7, 0.2].map((v, i) => `${i}e-5,${v}`).join('\n')}`)),
  );
  await expect(page.getByText(/are these kV/)).toBeVisible();
  await expect(page.getByLabel(/^Instrument/)).toHaveValue('surge tester 2');
  await csv.setInputFiles(file('sound.csv', waves(false)));
  await expect(page.getByText(/largest area 0 %/)).toBeVisible();
  await csv.setInputFiles(file('bad.csv', waves(true)));
  await expect(page.getByText(/UV changes between 1400 and 1900 V/)).toBeVisible();
  await expect(page.getByRole('list', { name: 'Diagnosis' })).toContainText('Turn insulation breaks down');
  await expect(page.getByRole('img', { name: /Waves at 1900 V/ }).first()).toBeVisible();
  await page.getByLabel('Shown').first().selectOption('UV less VW');
  await fits(page);
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(page.getByText(/UV changes between 1400 and 1900 V/).first()).toBeVisible();
  await expect(page.getByRole('button', { name: 'Measure again' })).toBeVisible();
  await page.reload();
  await expect(page.getByRole('list', { name: 'Diagnosis' }).first()).toContainText('Turn insulation');
  await page.context().close();
});

test('the bench of a motor that is due: what each test is to be done with stands before it; a barred one waits for the foreman', async ({
  browser,
}) => {
  const number = demo(8);
  const page = await person(browser, 'runa', `/jobs/${number}/tests?stage=VC&test=highPotential`);
  await expect(page.getByRole('list', { name: 'Before the test' })).toContainText('V AC rms');
  await expect(page.getByRole('note', { name: 'Order of stress' })).toContainText('is not done');
  await expect(page.getByRole('button', { name: 'Record', exact: true })).toBeDisabled();
  await page.context().close();
  const foreman = await person(browser, 'odd', `/jobs/${number}/tests?stage=VC&test=highPotential`);
  await expect(foreman.getByLabel(/^Why it is done all the same/)).toBeVisible();
  await foreman.goto(url(`/jobs/${number}/tests?stage=VC&test=surge`));
  await fits(foreman);
  await foreman.context().close();
});
