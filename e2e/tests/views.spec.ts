import { demo } from '../demo.ts';
import { AxeBuilder } from '@axe-core/playwright';
import { expect, test } from '../norther.ts';
import { fits, person, url } from '../person.ts';

// the two themes on two workers
test.describe.configure({ mode: 'parallel' });

for (const theme of ['light', 'dark'])
  test(`every main view fits 1280 wide and holds to WCAG 2.2 AA, in ${theme}`, async ({ browser }) => {
    test.setTimeout(300_000);
    const page = await person(browser, 'liv');
    await page.evaluate((t) => localStorage.setItem('norther.theme', t), theme);
    for (const path of [
      '/',
      '/take-in',
      '/shop',
      '/instruments',
      `/jobs/${demo(1)}`,
      `/jobs/${demo(2)}/data`,
      `/jobs/${demo(2)}/plan`,
      `/jobs/${demo(14)}/plan`,
      `/jobs/${demo(19)}/data?part=rotor`,
      '/archive',
      '/stock',
      '/stock?do=substitute&wires=2x0.85',
      '/stock?do=sizes',
      `/jobs/${demo(6)}/material`,
      `/jobs/${demo(6)}/plan?do=change`,
      `/jobs/${demo(6)}/joints`,
      `/jobs/${demo(6)}/joints?do=made`,
      `/jobs/${demo(3)}/route?stage=Connect`,
      `/jobs/${demo(1)}/oven`,
      `/jobs/${demo(12)}/balance`,
      `/jobs/${demo(4)}/tests?stage=AC&test=insulationResistance`,
      `/jobs/${demo(1)}/papers`,
    ]) {
      await page.goto(url(path));
      await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
      await expect(page.getByText('Opening …')).toHaveCount(0);
      await fits(page);
      const { violations } = await new AxeBuilder({ page })
        .withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa'])
        .analyze();
      expect(
        violations.map(
          (v) =>
            `${theme} ${path} ${v.id}: ${v.nodes
              .slice(0, 3)
              .map((n) => n.html.slice(0, 160))
              .join(' | ')}`,
        ),
      ).toEqual([]);
    }
    await page.context().close();
  });
