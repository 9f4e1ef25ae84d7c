import { type Browser, expect, type Page } from '@playwright/test';

export const url = (path: string): string => `${process.env['NORTHER_URL'] ?? ''}${path}`;

const states = new Map<string, { name: string; value: string }[]>();

/** Cookies of a person, signed in once for a worker. */
async function cookiesOf(name: string): Promise<{ name: string; value: string }[]> {
  const known = states.get(`${url('')}${name}`);
  if (known) return known;
  const signed = await fetch(url('/api/session'), {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ signIn: name, password: 'harbour-2026' }),
  });
  const cookies = signed.headers.getSetCookie().map((line) => {
    const [pair = ''] = line.split(';');
    const at = pair.indexOf('=');
    return { name: pair.slice(0, at), value: pair.slice(at + 1) };
  });
  states.set(`${url('')}${name}`, cookies);
  return cookies;
}

/** A browser of one's own, signed in, at an address. */
export async function person(browser: Browser, name: string, path = '/'): Promise<Page> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const page = await context.newPage();
  const problems: string[] = [];
  page.on('pageerror', (e) => problems.push(String(e)));
  await context.addCookies((await cookiesOf(name)).map((c) => ({ ...c, url: url('/') })));
  await page.goto(url(path));
  if (path === '/') await expect(page.getByRole('heading', { name: 'Floor' })).toBeVisible();
  page.on('close', () => expect(problems).toEqual([]));
  return page;
}

/** A page nobody looks at for a while: it follows no changes meanwhile. */
export async function park(...pages: Page[]): Promise<void> {
  for (const page of pages) await page.goto('about:blank');
}

/** Fills a field by its label, the first of that name. */
export async function fill(page: Page, label: string, value: string): Promise<void> {
  await page.getByLabel(label, { exact: true }).first().fill(value);
}
export async function choose(page: Page, label: string, value: string): Promise<void> {
  await page.getByLabel(label, { exact: true }).first().selectOption(value);
}

/** No sideways scroll at the size of a workshop screen. */
export async function fits(page: Page): Promise<void> {
  // charts follow the width of their place a moment later
  await expect
    .poll(() => page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth), { timeout: 5000 })
    .toBeLessThanOrEqual(0);
}
