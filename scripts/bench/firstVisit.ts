import { chromium } from '@playwright/test';
import { inDemoShop } from './shop.ts';
import type { Figure } from './figure.ts';

/** What a first visit of the floor takes on the wire, in a browser with an empty cache. */
export const benchFirstVisit = (): Promise<Figure[]> =>
  inDemoShop(async ({ origin }) => {
    const browser = await chromium.launch({
      executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium',
      args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-dev-shm-usage'],
    });
    try {
      const page = await browser.newPage();
      await page.request.post(`${origin}/api/session`, { data: { signIn: 'ines', password: 'harbour-2026' } });
      const wire = await page.context().newCDPSession(page);
      await wire.send('Network.enable');
      const typeOf = new Map<string, string>();
      const bytes = { scripts: 0, all: 0, plain: 0 };
      wire.on('Network.responseReceived', (e) => typeOf.set(e.requestId, e.type));
      wire.on('Network.dataReceived', (e) => (bytes.plain += e.dataLength));
      wire.on('Network.loadingFinished', (e) => {
        bytes.all += e.encodedDataLength;
        if (typeOf.get(e.requestId) === 'Script') bytes.scripts += e.encodedDataLength;
      });
      await page.goto(`${origin}/`);
      await page
        .getByRole('main')
        .getByText(/\d\d-\d{4}/)
        .first()
        .waitFor();
      await page.waitForTimeout(2000);
      return [
        {
          name: 'first visit of the floor on the wire',
          value: `scripts ${bytes.scripts} bytes, all with fonts and data ${bytes.all} bytes; unpacked ${bytes.plain}`,
          ratio: bytes.all / bytes.plain,
          must: 'scripts under 250 kB, all under 300 kB',
          holds: bytes.scripts > 0 && bytes.scripts < 250_000 && bytes.all < 300_000,
        },
      ];
    } finally {
      await browser.close();
    }
  });
