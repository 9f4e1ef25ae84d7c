import { type Browser, expect, type Page } from '@playwright/test';

export const url = (path: string): string => `${process.env['NORTHER_URL'] ?? ''}${path}`;

/** A browser of one's own, signed in by the sign-in page. */
export async function person(browser: Browser, name: string): Promise<Page> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const page = await context.newPage();
  const problems: string[] = [];
  page.on('pageerror', (e) => problems.push(String(e)));
  await page.goto(url('/'));
  await page.getByLabel('Sign-in name').fill(name);
  await page.getByLabel('Password').fill('harbour-2026');
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Floor' })).toBeVisible();
  page.on('close', () => expect(problems).toEqual([]));
  return page;
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
  const [wide, view] = await page.evaluate(() => [document.documentElement.scrollWidth, window.innerWidth]);
  expect(wide).toBeLessThanOrEqual(view ?? 0);
}
