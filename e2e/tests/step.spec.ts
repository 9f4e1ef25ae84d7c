import { demo } from '../demo.ts';
import { expect, test } from '../norther.ts';
import { choose, fill, fits, person, url } from '../person.ts';

/** A small photograph, made here. */
const photograph = (name: string) => ({
  name,
  mimeType: 'image/png',
  buffer: Buffer.from(
    'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNkYPhfDwAChwGA60e6kgAAAABJRU5ErkJggg==',
    'base64',
  ),
});

interface Detail {
  detailSteps: {
    code: string;
    state: string;
    attempts: { finishedBy: string | null; spells: { person: string; ended: string | null }[] }[];
  }[];
  attachments: { step: string | null; name: string }[];
}

test('two steps with photographs without network are sent once and in order; two people at one step', async ({
  browser,
}) => {
  const number = demo(11);
  const page = await person(browser, 'tomas', `/jobs/${number}/route?stage=Strip`);
  await page.setViewportSize({ width: 820, height: 1180 });
  await page.getByRole('link', { name: 'Cut one end' }).click();
  await expect(page.getByRole('heading', { name: 'Cut one end' })).toBeVisible();
  await expect(page.getByText('A good one')).toBeVisible();
  await expect(page.getByText(/^Caution: /)).toBeVisible();
  await page.getByRole('button', { name: 'Start cut one end' }).click();
  await expect(page.getByText(/^At it: Tomas Brekke, 0 min$/)).toBeVisible();

  // a second person joins; both see it
  const second = await person(browser, 'ines', `/jobs/${number}/step/CUT`);
  await second.getByRole('button', { name: 'Work at it too' }).click();
  for (const p of [page, second])
    await expect(p.getByText(/^At it: Tomas Brekke, 0 min · Ines Halvard, 0 min$/)).toBeVisible();
  await second.getByRole('button', { name: 'Pause' }).click();
  await expect(page.getByText(/Ines Halvard \(away\)/)).toBeVisible();
  await second.context().close();
  await fits(page);

  // judged while it is typed
  await choose(page, 'End cut', 'opposite end');
  await choose(page, 'No tooth touched', 'no');
  await expect(page.getByText(/A tooth was touched/)).toBeVisible();
  await choose(page, 'No tooth touched', 'yes');
  await expect(page.getByText(/A tooth was touched/)).toBeHidden();
  await fill(page, 'Copper cut off', '0.8');

  await page.context().setOffline(true);
  await page.getByLabel('Photograph', { exact: true }).setInputFiles(photograph('end.png'));
  await expect(page.getByAltText('not sent yet')).toBeVisible();
  await page.getByRole('button', { name: 'Finish cut one end' }).click();
  await expect(page.getByText(/Kept on this device; it is sent when the network is back/)).toBeVisible();
  await page.getByRole('link', { name: 'Next: Burn off' }).click();
  await page.getByRole('button', { name: 'Start burn off' }).click();
  await choose(page, 'Core plate', 'unknown');
  await fill(page, 'Hottest part temperature', '352');
  await fill(page, 'Hours at 345 °C or more', '3.4');
  await page.getByLabel('Photograph', { exact: true }).setInputFiles(photograph('oven.png'));
  await page.getByRole('button', { name: 'Finish burn off' }).click();
  await expect(page.getByRole('link', { name: 'Next: Slow cool' })).toBeVisible();
  await expect(page.getByText('5 things are kept on this device and sent when the server is there.')).toBeVisible();

  // what is kept outlives the page
  await page.goto('about:blank');
  await page.context().setOffline(false);
  await page.goto(url(`/jobs/${number}/step/COL`));
  await expect(page.getByRole('button', { name: 'Start slow cool' })).toBeVisible();
  await expect(page.getByText(/kept on this device/)).toBeHidden();
  const kept = (await (await page.request.get(url(`/api/jobs/${number}`))).json()) as Detail;
  const of = (code: string) => kept.detailSteps.find((s) => s.code === code);
  expect([of('CUT')?.state, of('BRN')?.state]).toEqual(['passed', 'passed']);
  expect([of('CUT')?.attempts.length, of('BRN')?.attempts.length]).toEqual([1, 1]);
  expect(of('CUT')?.attempts[0]?.spells.map((s) => [s.person, s.ended])).toEqual([
    ['Tomas Brekke', 'finish'],
    ['Ines Halvard', 'pause'],
  ]);
  expect(kept.attachments.map((a) => [a.step, a.name])).toEqual([
    ['CUT', 'end.png'],
    ['BRN', 'oven.png'],
  ]);
  await page.context().close();
});

test('handing over, the core test reckoned at the step and put into its record', async ({ browser }) => {
  const page = await person(browser, 'tomas', '/');
  await page.setViewportSize({ width: 390, height: 800 });
  const made = await page.request.post(url('/api/jobs'), {
    headers: { Origin: url('') },
    data: {
      customerName: 'Core customer',
      what: 'Stator with a doubtful core',
      route: 'ac_random_rewind',
      impregnation: 'dip',
      priority: 'ordinary',
      nameplate: { frequencyHz: '50' },
      intake: { came: 'stator only' },
    },
  });
  expect(made.status()).toBe(201);
  const { number } = (await made.json()) as { number: string };
  await page.goto(url(`/jobs/${number}/step/INT`));
  await page.getByRole('button', { name: 'Start intake' }).click();
  await page.getByRole('button', { name: 'Hand over' }).click();
  await choose(page, 'Hand over to', { label: 'Ines Halvard' } as never);
  await page.getByRole('button', { name: 'Hand over' }).last().click();
  await expect(page.getByText(/^At it: Tomas Brekke \(away\), 0 min · Ines Halvard, 0 min$/)).toBeVisible();

  await page.goto(url(`/jobs/${number}/step/CT1`));
  await page.getByText('Set up the loop').click();
  const loop = page.getByRole('form', { name: 'Set up the loop' });
  for (const [label, value] of [
    ['Core outside', '600'],
    ['Bore', '400'],
    ['Slot depth', '55'],
    ['Core length', '450'],
    ['Ducts', '2'],
    ['Duct width', '10'],
    ['Voltages at hand', '120'],
  ] as const)
    await loop.getByLabel(label, { exact: true }).fill(value);
  await expect(loop.getByText(/^22 turns on 120 V/)).toBeVisible();
  await fits(page);
  await loop.getByLabel('Slot depth', { exact: true }).fill('120');
  await expect(loop.getByText(/there is no iron left/)).toBeVisible();
  await page.context().close();
});

test('a step that is not of the route is said to be none', async ({ browser }) => {
  const page = await person(browser, 'tomas', `/jobs/${demo(11)}/step/XYZ`);
  await expect(page.getByText(/has no operation XYZ/)).toBeVisible();
  await page.context().close();
});
