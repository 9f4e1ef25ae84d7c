import { demo } from '../demo.ts';
import { AxeBuilder } from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { expect, test } from '../norther.ts';
import { fits, person, url } from '../person.ts';

// halves of the list on two workers
test.describe.configure({ mode: 'parallel' });

const VIEWS = [
  '/',
  '/take-in',
  '/shop',
  '/instruments',
  `/jobs/${demo(1)}`,
  `/jobs/${demo(2)}/data`,
  `/jobs/${demo(3)}/failure`,
  `/jobs/${demo(2)}/plan`,
  `/jobs/${demo(14)}/plan`,
  `/jobs/${demo(19)}/data?part=rotor`,
  '/archive',
  '/stock',
  '/stock?do=substitute&wires=2x0.85',
  '/stock?do=sizes',
  '/stock?do=order',
  '/ovens',
  '/ovens?look=tanks',
  '/ovens?look=vessels',
  `/jobs/${demo(6)}/material`,
  `/jobs/${demo(6)}/plan?do=change`,
  `/jobs/${demo(6)}/joints`,
  `/jobs/${demo(6)}/joints?do=made`,
  `/jobs/${demo(3)}/route?stage=Connect`,
  `/jobs/${demo(1)}/oven`,
  `/jobs/${demo(12)}/balance`,
  `/jobs/${demo(21)}/balance`,
  `/jobs/${demo(22)}/balance`,
  `/jobs/${demo(23)}/step/PVT`,
  `/jobs/${demo(4)}/tests?stage=AC&test=insulationResistance`,
  `/jobs/${demo(1)}/papers`,
  `/jobs/${demo(33)}/load`,
  `/jobs/${demo(33)}/tests?stage=FI&test=lockedRotor`,
  '/yield',
];
/** Views that hold every kind of thing there is to see: looked at in the dark too (each ink on each ground is judged in ui/tokens.test.ts). */
const DARK: readonly string[] = [
  '/',
  '/shop',
  '/instruments',
  `/jobs/${demo(2)}/data`,
  `/jobs/${demo(3)}/failure`,
  `/jobs/${demo(2)}/plan`,
  '/stock',
  '/ovens?look=tanks',
  `/jobs/${demo(6)}/material`,
  `/jobs/${demo(6)}/joints`,
  `/jobs/${demo(3)}/route?stage=Connect`,
  `/jobs/${demo(1)}/oven`,
  `/jobs/${demo(12)}/balance`,
  `/jobs/${demo(21)}/balance`,
  `/jobs/${demo(22)}/balance`,
  `/jobs/${demo(23)}/step/PVT`,
  `/jobs/${demo(4)}/tests?stage=AC&test=insulationResistance`,
];
/** What is used at the bench: looked at by axe as wide as a phone too. */
const BENCH: readonly string[] = [
  '/',
  '/ovens',
  '/ovens?look=vessels',
  `/jobs/${demo(1)}`,
  `/jobs/${demo(6)}/joints`,
  `/jobs/${demo(3)}/route?stage=Connect`,
  `/jobs/${demo(1)}/oven`,
];
const WIDE = { width: 1280, height: 800 };
/** A portrait tablet and a phone. */
const NARROW = [
  { width: 820, height: 1180 },
  { width: 390, height: 844 },
] as const;
const half = Math.ceil(VIEWS.length / 2);

/** What axe finds, a line each. The dark look of a page already checked differs in colours alone. */
async function found(page: Page, theme: string, path: string): Promise<string[]> {
  // what drawings are written in is judged by their tokens (ui/tokens.test.ts): axe reads colour, not fill
  const whole = new AxeBuilder({ page }).setLegacyMode();
  const axe = (theme === 'light' ? whole : whole.exclude('svg')).options({
    runOnly:
      theme === 'light'
        ? { type: 'tag', values: ['wcag2a', 'wcag21a', 'wcag2aa', 'wcag21aa', 'wcag22aa'] }
        : { type: 'rule', values: ['color-contrast'] },
    resultTypes: ['violations'],
    preload: false,
  });
  const { violations } = await axe.analyze();
  return violations.map(
    (v) =>
      `${theme} ${path} ${v.id}: ${v.nodes
        .slice(0, 3)
        .map((n) => n.html.slice(0, 160))
        .join(' | ')}`,
  );
}

for (const [which, views] of [
  ['first half', VIEWS.slice(0, half)],
  ['second half', VIEWS.slice(half)],
] as const)
  test(`every main view fits 1280, 820 and 390 wide and holds to WCAG 2.2 AA, light and dark: ${which}`, async ({
    browser,
  }) => {
    test.setTimeout(360_000);
    const page = await person(browser, 'liv');
    await page.emulateMedia({ reducedMotion: 'reduce' });
    await page.evaluate(() => localStorage.setItem('norther.theme', 'light'));
    for (const path of views) {
      await page.goto(url(path));
      await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
      await expect(page.getByText('Opening …')).toHaveCount(0);
      await fits(page);
      expect(await found(page, 'light', path)).toEqual([]);
      for (const size of NARROW) {
        await page.setViewportSize(size);
        await fits(page);
      }
      if (BENCH.includes(path)) {
        expect(await found(page, 'light', `${path} at 390`)).toEqual([]);
        await page.evaluate(() => (document.documentElement.dataset['theme'] = 'dark'));
        for (const size of [...NARROW].reverse()) {
          await page.setViewportSize(size);
          expect(await found(page, 'dark', `${path} at ${size.width}`)).toEqual([]);
        }
        await page.evaluate(() => (document.documentElement.dataset['theme'] = 'light'));
      }
      await page.setViewportSize(WIDE);
      if (!DARK.includes(path)) continue;
      await page.evaluate(() => (document.documentElement.dataset['theme'] = 'dark'));
      expect(await found(page, 'dark', path)).toEqual([]);
    }
    await page.context().close();
  });
