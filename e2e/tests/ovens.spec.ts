import { spawn, type ChildProcess } from 'node:child_process';
import { demo } from '../demo.ts';
import { expect, test } from '../norther.ts';
import { fits, person, url } from '../person.ts';

/** So fast that a bake of a day is over in twenty seconds. */
const CLOCK = '1500';

test('a load from loading to verdict at a high clock: held part refused, wrong sensor put right, line cut, wall', async ({
  browser,
}) => {
  const page = await person(browser, 'liv');
  const made = (await (
    await page.request.post(url('/api/instruments'), {
      data: { name: 'Logger of the test oven', kind: 'oven logger', mayWrite: ['oven'] },
    })
  ).json()) as { id: string; key: string };
  // what it sent of an earlier load: its sensors are known by it
  await page.request.post(url(`/api/instruments/${made.id}/samples`), {
    headers: { Authorization: `Bearer ${made.key}` },
    data: {
      stream: 'before',
      batch: 0,
      what: 'oven',
      channels: ['air', 'probe 1', 'probe 2'].map((name) => ({ name, unit: '°C' })),
      start: new Date(Date.now() - 60_000).toISOString(),
      step: 5,
      values: [[21], [21], [21]],
      last: true,
    },
  });
  let program: ChildProcess | undefined;
  try {
    await page.goto(url('/ovens'));
    await page.getByRole('button', { name: 'Add a chamber' }).click();
    const form = page.getByRole('dialog');
    await form.getByLabel(/^Name/).fill('Test oven');
    await form.getByLabel(/^Door, wide/).fill('600');
    await form.getByLabel(/^Door, high/).fill('50 cm');
    await form.getByLabel(/^Takes up to/).fill('120');
    await form.getByLabel(/^Goes up to/).fill('200');
    const logger = form.getByLabel('Logger that reads it');
    const option = await logger.locator('option', { hasText: 'Logger of the test oven' }).getAttribute('value');
    await logger.selectOption(option ?? '');
    await form.getByRole('button', { name: 'Keep' }).click();
    await expect(form).toBeHidden();
    await page.getByRole('button', { name: /^Test oven: empty/ }).click();
    await page.getByLabel(/^Air set to/).fill('306');
    await page.getByRole('button', { name: 'Begin the load' }).click();
    await expect(page.getByText(/if it was meant in °F, it is 152/)).toBeVisible();
    await page.getByLabel(/^Air set to/).fill('152');
    await page.getByRole('button', { name: 'Begin the load' }).click();

    const put = page.getByRole('form', { name: 'Put a part in' });
    const scan = async (job: string, mass: string, probe?: string) => {
      await put.getByLabel(/Scan its card/).fill(job);
      await put.getByLabel(/^Mass/).fill(mass);
      await put.getByLabel(/^Stands, wide/).fill('260');
      await put.getByLabel(/^Stands, high/).fill('240');
      if (probe) await put.getByLabel(probe).check();
      await put.getByRole('button', { name: 'Put it in' }).click();
    };
    await scan(demo(4), '30');
    await expect(put.getByText(/held/)).toBeVisible();
    await scan(demo(26), '130', 'probe 1');
    await expect(put.getByText(/Test oven takes 120 kg/)).toBeVisible();
    await put.getByLabel(/^Mass/).fill('47');
    await put.getByRole('button', { name: 'Put it in' }).click();
    const part = page.getByRole('listitem').filter({ has: page.getByRole('link', { name: demo(26), exact: true }) });
    await expect(part.getByText('probe 1')).toBeVisible();
    await fits(page);
    await page.getByRole('button', { name: 'Door shut: start the load' }).click();
    await expect(part.getByRole('button', { name: 'Type a reading' })).toBeVisible();
    program = spawn(
      process.execPath,
      ['scripts/instruments.mjs', 'oven', '--key', made.key, '--server', url('/'), '--clock', CLOCK],
      { stdio: 'ignore' },
    );

    // the plug was the other one
    await page.getByText('Sensors: which sits where').click();
    await page.getByLabel('probe 2').selectOption({ label: `on ${demo(26)}, Ventilator of the dust hall` });
    await page.getByLabel('probe 1').selectOption('not used');
    await page.getByRole('button', { name: 'Assign' }).click();
    await expect(page.getByText(/say why the sensors are assigned otherwise/)).toBeVisible();
    await page.getByLabel('Why they are assigned otherwise').fill('The plugs were exchanged.');
    await page.getByRole('button', { name: 'Assign' }).click();
    await expect(part.getByText('probe 2')).toBeVisible();
    await expect(page.getByText(/The plugs were exchanged/)).toBeVisible();

    // out too early: a reason is asked for; it stays
    await part.getByRole('button', { name: 'Take it out' }).click();
    await expect(part.getByText(/Say why .* leaves now/)).toBeVisible();

    // a screen on the wall, without signing in
    await page.getByText('A screen on the wall').click();
    await page.getByLabel('Where it hangs').fill('Winding hall');
    await page.getByRole('button', { name: 'Make an address' }).click();
    const address = (await page.getByText(/\/wall\//).textContent()) ?? '';
    const hall = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
    await hall.goto(url(new URL(address.trim()).pathname));
    await expect(hall.getByRole('region', { name: 'Test oven' })).toContainText(demo(26));
    const figure = await hall
      .getByText(/^\d+ %$/)
      .first()
      .evaluate((e) => parseFloat(getComputedStyle(e).fontSize));
    expect(figure).toBeGreaterThanOrEqual(800 / 12);
    await hall.context().close();

    // the line drops and comes back: the load went on
    await page.context().setOffline(true);
    await page.waitForTimeout(3000);
    await page.context().setOffline(false);
    await expect(part.getByText('cured', { exact: true })).toBeVisible({ timeout: 120_000 });
    await part.getByRole('button', { name: /Take it out/ }).click();
    const gone = page.getByRole('region', { name: 'Loads that ended' });
    await expect(
      gone
        .getByRole('listitem')
        .filter({ hasText: demo(26) })
        .first(),
    ).toContainText('pass');
    // the step: what the log said stands there, and finishes it
    await page.goto(url(`/jobs/${demo(26)}/step/CUR`));
    await page.getByRole('button', { name: /Take its figures/ }).click();
    await page.getByRole('button', { name: 'Finish cure' }).click();
    await expect(page.getByText(/times its rated cure/).first()).toBeVisible();
  } finally {
    program?.kill('SIGTERM');
  }
  await page.context().close();
});
