import type { Page } from '@playwright/test';
import { expect, test } from '../norther.ts';
import { person, url } from '../person.ts';

/** A person without a mouse: every press is counted, what is typed as a value is not; the focus is looked at after each press. */
class Hands {
  presses = 0;
  constructor(private readonly page: Page) {}
  async press(key: string): Promise<void> {
    this.presses += 1;
    await this.page.keyboard.press(key);
  }
  async type(value: string): Promise<void> {
    await this.page.keyboard.type(value);
  }
  /** the name of what has the focus, which must be seen: in the window, with a ring round it */
  async at(): Promise<string> {
    const seen = await this.page.evaluate(() => {
      const e = document.activeElement as HTMLElement | null;
      if (!e || e === document.body) return { name: '', visible: true };
      const box = e.getBoundingClientRect();
      const style = getComputedStyle(e);
      const label =
        e instanceof HTMLInputElement || e instanceof HTMLSelectElement || e instanceof HTMLTextAreaElement
          ? e.labels?.[0]?.textContent
          : undefined;
      return {
        name: (e.getAttribute('aria-label') ?? label ?? e.textContent ?? '').replace(/\s*\*$/, '').trim(),
        visible:
          box.width > 0 &&
          box.bottom > 0 &&
          box.top < window.innerHeight &&
          box.right > 0 &&
          box.left < window.innerWidth &&
          style.outlineStyle !== 'none' &&
          parseFloat(style.outlineWidth) >= 2,
      };
    });
    expect(seen.visible, `focus on "${seen.name}" is seen`).toBe(true);
    return seen.name;
  }
  /** goes on with this key until the field of that name has the focus */
  async to(name: string, key: 'Enter' | 'Tab', most = 40): Promise<void> {
    const passed: string[] = [];
    for (let i = 0; i <= most; i++) {
      const at = await this.at();
      if (at === name) return;
      passed.push(at);
      await this.press(key);
    }
    throw new Error(`${name} was not reached by ${key}: ${passed.join(' | ')}`);
  }
  async fill(name: string, value: string): Promise<void> {
    await this.to(name, 'Enter');
    await this.type(value);
  }
}

test('from Take in to a released plan by keyboard alone, in at most 150 presses beside the values', async ({
  browser,
}) => {
  const page = await person(browser, 'odd');
  const hands = new Hands(page);
  await hands.press('g');
  await hands.press('t');
  await expect(page.getByRole('heading', { name: 'Take a motor in' })).toBeVisible();
  await expect.poll(() => hands.at()).toBe('Customer');
  await hands.type('Island Bakery');
  await hands.fill('What it is', 'Oven fan');
  for (const [name, value] of [
    ['Output', '7.5 kW'],
    ['Voltage', '400'],
    ['Current', '15.2'],
    ['Frequency', '50'],
    ['Speed', '960'],
  ] as const) {
    // a text of several lines keeps Enter for itself
    while (/Complaint|Condition/.test(await hands.at())) await hands.press('Tab');
    await (name === 'Output' ? toOutput(hands) : hands.to(name, 'Enter'));
    await hands.type(value);
  }
  await hands.press('Control+Enter');
  await expect(page.getByRole('heading', { name: 'Oven fan' })).toBeVisible();

  await hands.press('g');
  await hands.press('d');
  await expect.poll(() => hands.at()).toBe('Kind of winding');
  for (const [name, value] of [
    ['Slots', '36'],
    ['Poles', '6'],
    ['Layers', 'two'],
    ['Coils', 'lap'],
    ['Span', '1-6'],
    ['Turns per coil', '24'],
    ['Turns, second count', '24'],
    ['Wires in hand', '2x0.9'],
    ['Connection', 'wye'],
    ['Circuits', '2'],
    ['Leads out', '3'],
    ['Leads come out at', "3 o'clock"],
    ['Lead end is at', 'opposite'],
    ['Bore', '160'],
    ['Core length', '130'],
  ] as const)
    await hands.fill(name, value);
  await hands.press('Control+Enter');
  await expect(page.getByText(/revision 1, Odd/)).toBeVisible();

  await hands.press('Escape');
  await hands.press('g');
  await hands.press('p');
  await expect(page.getByText('As found, not released for winding.')).toBeVisible();
  await hands.to('Reason of the release', 'Tab', 60);
  await hands.press('Enter');
  await expect(page.getByText('Plan 1 released')).toBeVisible();
  expect(hands.presses).toBeLessThanOrEqual(150);
  process.stdout.write(`Take in to released plan by keyboard: ${hands.presses} presses beside the values.\n`);
  expect(new URL(page.url()).pathname).toContain('/plan');
  expect(page.url().startsWith(url(''))).toBe(true);
});

/** From the visit to the plate: past the two texts of several lines. */
async function toOutput(hands: Hands): Promise<void> {
  for (let i = 0; i < 40; i++) {
    const at = await hands.at();
    if (at === 'Output') return;
    await hands.press(/Complaint|Condition/.test(at) ? 'Tab' : 'Enter');
  }
}
