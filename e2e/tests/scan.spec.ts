import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { Page } from '@playwright/test';
import { prepareZXingModule, writeBarcode } from 'zxing-wasm/writer';
import { demo } from '../demo.ts';
import { expect, test } from '../norther.ts';
import { person } from '../person.ts';

prepareZXingModule({
  overrides: {
    wasmBinary: new Uint8Array(
      readFileSync(createRequire(import.meta.url).resolve('zxing-wasm/writer/zxing_writer.wasm')),
    ).buffer,
  },
});

/** A photograph of what is printed: a card on a bench, a little askew, in poor light. */
async function photographOf(page: Page, text: string | undefined): Promise<Buffer> {
  const { svg } = await writeBarcode(text ?? 'x', { format: 'QRCode', scale: 4 });
  const camera = await page.context().newPage();
  await camera.setViewportSize({ width: 1200, height: 900 });
  await camera.setContent(
    `<body style="margin:0;background:#6b6458"><div style="position:absolute;left:330px;top:180px;padding:60px;background:#d9d4c6;transform:rotate(14deg) skewX(4deg);filter:contrast(.7) blur(.8px)">${text ? svg.replace('<svg', '<svg width="330" height="330"') : 'no code'}</div></body>`,
  );
  const shot = await camera.screenshot();
  await camera.close();
  return shot;
}

test('a phone photographs the code of a card and is at the motor; what cannot be read is said', async ({ browser }) => {
  const phone = await person(browser, 'ines');
  await phone.setViewportSize({ width: 390, height: 844 });
  const take = async (text: string | undefined) =>
    phone.getByLabel('Photograph of a code').setInputFiles({
      name: 'code.png',
      mimeType: 'image/png',
      buffer: await photographOf(phone, text),
    });
  await expect(phone.getByRole('button', { name: 'Scan a code by photograph' })).toBeVisible();
  await take(undefined);
  await expect(phone.getByRole('alert')).toContainText('No code was found in this photograph');
  await phone.getByRole('alert').getByRole('button', { name: 'Close' }).click();
  await expect(phone.getByRole('alert')).toHaveCount(0);
  await take('norther:job:99-9999');
  await expect(phone.getByRole('alert')).toContainText('no motor of this shop has it');
  // the motor's page is slow to come: what is photographed meanwhile is not lost when it does
  await phone.route(/\/assets\/MotorPage/, async (route) => {
    await new Promise((resolve) => setTimeout(resolve, 2500));
    await route.continue();
  });
  await take(`norther:job:${demo(6)}`);
  await phone.getByLabel('Photograph of a code').setInputFiles({
    name: 'torn.jpg',
    mimeType: 'image/jpeg',
    buffer: Buffer.from('not a picture'),
  });
  await expect(phone).toHaveURL(new RegExp(`/jobs/${demo(6)}`));
  await expect(phone.getByRole('heading', { level: 1 })).toBeVisible();
  await expect(phone.getByRole('alert')).toContainText(/No code was found|could not be read/);
});
