import { demo } from '../demo.ts';
import { expect, test } from '../norther.ts';
import { choose, fill, person, url } from '../person.ts';

test('a new winder has a card for a motor of their own within five minutes', async ({ browser }) => {
  const from = Date.now();
  const page = await person(browser, 'tomas');
  await page.keyboard.press('g');
  await page.keyboard.press('t');
  await fill(page, 'Customer', 'Own Customer');
  await fill(page, 'What it is', 'My own motor');
  await fill(page, 'Output', '5.5');
  await fill(page, 'Voltage', '400');
  await fill(page, 'Current', '11');
  await fill(page, 'Frequency', '50');
  await fill(page, 'Speed', '960');
  await page.getByRole('button', { name: 'Take in' }).click();
  await page.getByRole('link', { name: 'Data as found' }).click();
  await fill(page, 'Slots', '36');
  await fill(page, 'Poles', '6');
  await choose(page, 'Layers', 'double');
  await choose(page, 'Coils', 'lap');
  await fill(page, 'Span', '1-6');
  await fill(page, 'Turns per coil', '24');
  await fill(page, 'Wires in hand', '2x0.9');
  await choose(page, 'Connection', 'wye');
  await fill(page, 'Circuits', '2');
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(page.getByText(/revision 1, Tomas Brekke/)).toBeVisible();
  await page.getByRole('link', { name: 'Plan and card' }).click();
  await expect(page.getByRole('img', { name: /Connection, 2-circuit wye/ })).toBeVisible();
  const href = await page.getByRole('link', { name: 'Winding card (PDF)' }).getAttribute('href');
  const card = await page.request.get(url(href ?? ''));
  expect(card.headers()['content-type']).toBe('application/pdf');
  expect(Date.now() - from).toBeLessThan(300_000);
  await page.context().close();
});

test('data are entered without the mouse: Enter goes on, a column pastes into turns', async ({ browser }) => {
  const page = await person(browser, 'ines', `/jobs/${demo(9)}/data`);
  await page.getByLabel('Slots', { exact: true }).focus();
  await page.keyboard.type('24');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Poles', { exact: true })).toBeFocused();
  await page.keyboard.type('4');
  await page.keyboard.press('Enter');
  await page.keyboard.type('one');
  await expect(page.getByLabel('Layers', { exact: true })).toHaveValue('single');
  await page.getByLabel('Turns per coil', { exact: true }).focus();
  await page.evaluate(() => {
    const data = new DataTransfer();
    data.setData('text', '52\n48\n44\n');
    document.activeElement?.dispatchEvent(
      new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }),
    );
  });
  await expect(page.getByLabel('Turns per coil', { exact: true })).toHaveValue('52, 48, 44');
  await page.getByRole('button', { name: 'Undo to recorded' }).click();
  await expect(page.getByLabel('Slots', { exact: true })).toHaveValue('');
  await page.context().close();
});

test('a foreman overrides a hold, reopens what mends a failure; the tester signs what needs a name', async ({
  browser,
}) => {
  const foreman = await person(browser, 'odd', `/jobs/${demo(3)}/route?stage=Resin`);
  await foreman.getByRole('button', { name: 'Start over the hold' }).first().click();
  await expect(foreman.locator('form').getByRole('button', { name: 'Start over the hold' })).toBeDisabled();
  await foreman.getByLabel('Reason', { exact: true }).fill('Customer takes the risk in writing.');
  await foreman.keyboard.press('Enter');
  await expect(
    foreman.getByText(/started over a hold by Odd Marstein: Customer takes the risk in writing/),
  ).toBeVisible();
  await expect(foreman.getByRole('button', { name: /Resin, stator: .*hold passed under override/ })).toBeVisible();
  await foreman.goto(url(`/jobs/${demo(3)}/route?stage=Connect`));
  await foreman.getByRole('button', { name: 'Reopen' }).first().click();
  await foreman.getByLabel('Reason', { exact: true }).fill('Joint of the fourth group open.');
  await foreman.keyboard.press('Enter');
  await expect(foreman.getByText(/reopened by Odd Marstein \(foreman\)/)).toBeVisible();
  await expect(foreman.getByText('look again').first()).toBeVisible();
  await foreman.context().close();

  const tester = await person(browser, 'runa', `/jobs/${demo(4)}/route?stage=Test`);
  await tester.getByRole('button', { name: 'Sign off' }).click();
  await tester.getByLabel('Reason', { exact: true }).fill('Dried for a night, rising.');
  await tester.keyboard.press('Enter');
  await expect(tester.getByText(/accepted with attention by Runa Solvik \(tester\)/)).toBeVisible();
  await tester.context().close();
});

test('the shop chooses units: a bare 18 is a gauge number, leads are T1 T2 T3', async ({ browser }) => {
  const admin = await person(browser, 'liv', '/shop');
  await choose(admin, 'A bare wire size is', 'awg');
  await choose(admin, 'Leads are called', 'T');
  await admin.getByLabel('Slot fill (insulated squares / net), warn above, this shop').fill('0.7');
  await admin.getByRole('button', { name: /Record the shop/ }).click();
  await expect(admin.getByLabel('A bare wire size is')).toHaveValue('awg');
  await admin.goto(url(`/jobs/${demo(6)}/plan`));
  await expect(admin.getByText('T1 – 1S 1F – 4F 4S – Y')).toBeVisible();
  await admin.goto(url(`/jobs/${demo(10)}/data`));
  await fill(admin, 'Wires in hand', '2x18+1x17');
  await expect(admin.getByText('2 × AWG 18 + 1 × AWG 17')).toBeVisible();
  await admin.getByRole('button', { name: 'Undo to recorded' }).click();
  await admin.goto(url('/shop'));
  await choose(admin, 'A bare wire size is', 'metric');
  await choose(admin, 'Leads are called', 'U');
  await admin.getByLabel('Slot fill (insulated squares / net), warn above, this shop').fill('');
  await admin.getByRole('button', { name: /Record the shop/ }).click();
  await expect(admin.getByLabel('A bare wire size is')).toHaveValue('metric');
  await admin.context().close();
});

test('keyboard: the list of keys, light and dark, search that answers plainly', async ({ browser }) => {
  const page = await person(browser, 'per');
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keyboard' })).toBeVisible();
  await page.keyboard.press('Escape');
  const before = await page.evaluate(() => document.documentElement.dataset['theme']);
  await page.keyboard.press('d');
  await expect.poll(() => page.evaluate(() => document.documentElement.dataset['theme'])).not.toBe(before);
  await page.keyboard.press('/');
  await page.keyboard.type('no such motor');
  await expect(
    page.getByText('Nothing found for "no such motor". Try the job number, the customer or the serial number.'),
  ).toBeVisible();
  await page.getByRole('combobox').first().fill('Dairy');
  await expect(page.getByRole('option').first()).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByText(/Tindvik Dairy/).first()).toBeVisible();
  await page.context().close();
});

test('photographs are scaled down, kept, and shown with the motor', async ({ browser }) => {
  const page = await person(browser, 'ines', `/jobs/${demo(10)}/papers`);
  const png = await page.evaluate(async () => {
    const canvas = document.createElement('canvas');
    canvas.width = 3000;
    canvas.height = 1500;
    const pen = canvas.getContext('2d');
    if (pen) pen.fillRect(100, 100, 500, 500);
    const blob = await new Promise<Blob | null>((r) => canvas.toBlob(r, 'image/png'));
    return [...new Uint8Array((await blob?.arrayBuffer()) ?? new ArrayBuffer(0))];
  });
  await page
    .getByLabel('Add photographs')
    .setInputFiles({ name: 'lead box.png', mimeType: 'image/png', buffer: Buffer.from(png) });
  // along the visit, and with the files of the motor
  const along = page.getByRole('list', { name: 'Photographs along the visit' });
  await expect(along.getByRole('img', { name: 'lead box.png' })).toBeVisible();
  const picture = page.getByRole('link', { name: 'lead box.png', exact: true }).getByRole('img');
  await expect(picture).toBeVisible();
  await expect.poll(() => picture.evaluate((i: HTMLImageElement) => i.naturalWidth)).toBe(2000);
  await page
    .getByLabel('Add photographs')
    .setInputFiles({ name: 'not a picture.png', mimeType: 'image/png', buffer: Buffer.from('hello') });
  await expect(page.getByText(/This is not a JPEG, PNG or WebP photograph, nor a PDF/)).toBeVisible();
  await page.context().close();
});

test('a first visit is light on the wire: scripts under 250 kB, all of it with fonts and data under 300 kB', async ({
  browser,
}) => {
  const page = await person(browser, 'ines');
  const wire = await page.context().newCDPSession(page);
  await wire.send('Network.enable');
  await wire.send('Network.clearBrowserCache');
  const typeOf = new Map<string, string>();
  const bytes = { scripts: 0, all: 0 };
  wire.on('Network.responseReceived', (e) => typeOf.set(e.requestId, e.type));
  wire.on('Network.loadingFinished', (e) => {
    bytes.all += e.encodedDataLength;
    if (typeOf.get(e.requestId) === 'Script') bytes.scripts += e.encodedDataLength;
  });
  await page.goto(url('/'));
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  await expect(page.getByText(demo(4)).first()).toBeVisible();
  await page.waitForTimeout(2000);
  if (process.env['NORTHER_TELL'])
    process.stderr.write(`first visit: scripts ${bytes.scripts}, all ${bytes.all} bytes\n`);
  // nothing out of the cache: the script came over the wire
  expect(bytes.scripts).toBeGreaterThan(50_000);
  expect(bytes.scripts).toBeLessThan(250_000);
  expect(bytes.all).toBeLessThan(300_000);
  // what is served was built for use, whoever built it
  const program = await page.locator('script[type="module"][src]').first().getAttribute('src');
  expect(await (await page.request.get(url(program ?? ''))).text()).not.toContain('jsxDEV');
  await page.context().close();
});
