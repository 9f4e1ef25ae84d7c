import type { Page } from '@playwright/test';
import { expect, test } from '../norther.ts';
import { PASSING } from '../../apps/server/src/demo/passingRecords.ts';
import { choose, fill, fits, park, person, url } from '../person.ts';

/** Records made at the desk and bench that this walk does not need to type: through the same API as the screens. */
async function api(page: Page, path: string, body: object): Promise<void> {
  const answer = await page.request.post(url(`/api/${path}`), { data: body });
  expect(answer.ok(), `${path}: ${await answer.text()}`).toBe(true);
}

async function quickly(page: Page, number: string, codes: readonly string[]): Promise<void> {
  for (const code of codes) {
    await api(page, `jobs/${number}/steps/${code}/start`, {});
    await api(page, `jobs/${number}/steps/${code}/finish`, { typed: PASSING[code] ?? {} });
  }
}

async function record(page: Page, button = 'Record'): Promise<void> {
  await page.getByRole('button', { name: button, exact: true }).click();
}

async function stated(
  page: Page,
  number: string,
  stage: string,
  kind: string,
  extra: Record<string, string> = {},
  says = /Stated by Runa Solvik, with simple test set/,
): Promise<void> {
  await page.goto(url(`/jobs/${number}/tests?stage=${stage}&test=${kind}`));
  for (const [label, value] of Object.entries(extra)) await fill(page, label, value);
  await choose(page, 'Outcome', 'pass');
  await fill(page, 'Instrument', 'simple test set');
  await record(page);
  await expect(page.getByText(says).first()).toBeVisible();
}

async function measured(page: Page, number: string, stage: string): Promise<void> {
  await page.goto(url(`/jobs/${number}/tests?stage=${stage}&test=insulationResistance`));
  await fill(page, 'after 1 min', '900');
  await fill(page, 'Winding temperature', '22');
  await fill(page, 'Instrument', 'tester 1');
  await expect(page.getByText(/minimum 5 MΩ/).first()).toBeVisible();
  await record(page);
  await expect(page.getByRole('button', { name: 'Measure again' })).toBeVisible();
}

async function resistance(page: Page, number: string, stage: string, ohm: number): Promise<void> {
  await page.goto(url(`/jobs/${number}/tests?stage=${stage}&test=windingResistance`));
  for (const lead of ['U1–V1', 'V1–W1', 'W1–U1']) await fill(page, lead, ohm.toPrecision(4));
  await fill(page, 'Winding temperature', '20');
  await fill(page, 'Instrument', 'bridge');
  await record(page);
  await expect(page.getByRole('button', { name: 'Measure again' })).toBeVisible();
}

test('the whole road once: winder, tester and foreman take a motor from the desk to the report', async ({
  browser,
}) => {
  test.setTimeout(360_000);
  const winder = await person(browser, 'ines');
  const tester = await person(browser, 'runa');
  const foreman = await person(browser, 'odd');

  // intake, by the winder
  await winder.getByRole('link', { name: 'Take in' }).click();
  await fill(winder, 'Customer', 'Island Bakery');
  await fill(winder, 'What it is', 'Dough mixer motor');
  await fill(winder, 'Serial number', 'IB-7');
  await fill(winder, 'Output', '11 kW');
  await fill(winder, 'Voltage', '400');
  await fill(winder, 'Current', '22');
  await fill(winder, 'Frequency', '50');
  await fill(winder, 'Speed', '1455');
  await expect(winder.getByText('4 poles, slip 3.0 %')).toBeVisible();
  await choose(winder, 'Insulation class', 'F');
  await fits(winder);
  await winder.getByRole('button', { name: 'Take in' }).click();
  await expect(winder.getByRole('heading', { name: 'Dough mixer motor' })).toBeVisible();
  const number = new URL(winder.url()).pathname.split('/')[2] ?? '';
  expect(number).toMatch(/^\d\d-\d{4}$/);
  // it stands on the foreman's floor without a reload
  await expect(foreman.getByRole('link', { name: 'Dough mixer motor' })).toBeVisible();
  // scanning its label from anywhere finds it
  await tester.getByRole('combobox').first().fill(`norther:job:${number}`);
  await tester.keyboard.press('Enter');
  await expect(tester.getByRole('heading', { name: 'Dough mixer motor' })).toBeVisible();

  await park(tester, foreman);
  // the first step by hand on the route page
  await winder.getByRole('link', { name: 'Route', exact: true }).click();
  await winder.getByRole('button', { name: 'Start', exact: true }).click();
  await winder.getByRole('button', { name: 'Finish intake' }).click();
  await expect(winder.getByText(/Still needed: Every part tagged, Nameplate/)).toBeVisible();
  await choose(winder, 'Every part tagged', 'yes');
  await choose(winder, 'Nameplate', 'legible');
  await winder.getByRole('button', { name: 'Finish intake' }).click();
  await expect(winder.getByText('your turn').first()).toBeVisible();

  await park(winder);
  // as found
  await resistance(tester, number, 'IN', 0.69);
  await measured(tester, number, 'IN');
  await stated(tester, number, 'IN', 'surge', { 'Peak voltage': '1800' });
  await quickly(tester, number, ['TAF']);
  await quickly(foreman, number, ['DIS', 'MEC', 'RIN', 'RBT', 'RJR', 'RCA', 'CT1', 'QTE', 'MRP']);

  // data as found, as at the bench
  await park(tester);
  await winder.goto(url(`/jobs/${number}/data`));
  const typed: [string, string][] = [
    ['Slots', '36'],
    ['Poles', '4'],
    ['Coils in all', '36'],
    ['Groups in all', '12'],
    ['Coils per group', '12x3'],
    ['Span', '1-9'],
    ['Turns per coil', '34'],
    ['Turns, second count', '34'],
    ['Wires in hand', '2x0,85'],
    ['Circuits', '2'],
    ['Group ends per lead', '4'],
    ['Leads come out at', "3 o'clock"],
    ['Bore', '150'],
    ['Core length', '5 1/2 in'],
    ['Back iron', '25'],
    ['Tooth, narrowest', '7'],
    ['Slot depth', '24'],
    ['Slot area, gross', '185'],
    ['Slot area, net', '158'],
  ];
  await choose(winder, 'Layers', 'double');
  await choose(winder, 'Coils', 'lap');
  for (const [label, value] of typed) await fill(winder, label, value);
  await choose(winder, 'Connection', 'wye');
  await choose(winder, 'Leads out', '3');
  await choose(winder, 'Lead end is at', 'opposite end');
  await choose(winder, 'Enamel', '2');
  // a wrong entry is caught while it is typed: four ends at a lead are no 2-circuit wye
  await expect(
    winder.getByText(/4 ends at a lead do not make 2-circuit wye; they make 2-circuit delta or 4-circuit wye/),
  ).toBeVisible();
  await choose(winder, 'Connection', 'delta');
  await expect(winder.getByRole('heading', { name: 'Checks: nothing against it' })).toBeVisible();
  await expect(winder.getByRole('img', { name: /Slot ring, 36 slots/ })).toBeVisible();
  // reload in the middle of typing loses nothing
  await fill(winder, 'Wedge', 'glass-epoxy');
  await expect(winder.getByText(/saved as your draft|kept on this device/)).toBeVisible();
  await winder.reload();
  await expect(winder.getByLabel('Wedge', { exact: true })).toHaveValue('glass-epoxy');
  await expect(winder.getByLabel('Span', { exact: true })).toHaveValue('1-9');
  await winder.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(winder.getByText(/revision 1, Ines Halvard/)).toBeVisible();
  // the working stands behind each number
  await winder.getByRole('button', { name: 'Air gap: show the working' }).click();
  await expect(winder.getByText('Φ P / (2 D L)')).toBeVisible();
  await park(winder);
  await quickly(winder, number, ['DAT', 'CUT', 'BRN', 'COL', 'STR', 'DA2', 'TT1', 'BLS', 'WSH', 'TT2']);
  await quickly(tester, number, ['CT2']);

  // the plan is the foreman's to release
  await winder.goto(url(`/jobs/${number}/plan`));
  await expect(winder.getByText('As found, not released for winding.')).toBeVisible();
  await expect(winder.getByRole('button', { name: 'Release as plan' })).toHaveCount(0);
  await foreman.goto(url(`/jobs/${number}/plan`));
  await foreman.getByRole('button', { name: 'Release as plan' }).click();
  await expect(foreman.getByText('Plan 1 released')).toBeVisible();
  await expect(foreman.getByRole('img', { name: /Connection, 2-circuit delta/ })).toBeVisible();
  await expect(foreman.getByText('U1 – 1S 1F – 4F 4S – V1')).toBeVisible();
  const card = await foreman.request.get(url(`/api/jobs/${number}/card.pdf`));
  expect((await card.body()).subarray(0, 5).toString()).toBe('%PDF-');
  await park(foreman, winder);
  await quickly(foreman, number, ['DSG', 'SLP']);

  // the hold: no liner and no coil before the cutting and picking lists are made
  await winder.goto(url(`/jobs/${number}/route?stage=Wind`));
  await expect(winder.getByText(/cutting and picking lists are not made yet/).first()).toBeVisible();
  await winder.goto(url(`/jobs/${number}/material`));
  await winder.getByRole('button', { name: 'Make the lists and reserve' }).click();
  await expect(winder.getByText('Lists made')).toBeVisible();
  const cutting = await winder.request.get(url(`/api/jobs/${number}/material/stator/cutting.pdf`));
  expect((await cutting.body()).subarray(0, 5).toString()).toBe('%PDF-');
  await park(winder);
  await quickly(foreman, number, ['LIN', 'WND', 'INS', 'SEP', 'WDG', 'PHI', 'CON', 'SLV', 'LDS', 'LAC', 'BOR']);

  // the hold: no resin before passed tests
  await winder.goto(url(`/jobs/${number}/route?stage=Resin`));
  await expect(winder.getByText('after Tests before resin')).toBeVisible();
  await expect(winder.getByRole('button', { name: 'Start', exact: true })).toHaveCount(0);
  await resistance(tester, number, 'AC', 0.69);
  await measured(tester, number, 'AC');
  await stated(tester, number, 'AC', 'surge', { 'Peak voltage': '1300' });
  await stated(tester, number, 'AC', 'polarity');
  await tester.goto(url(`/jobs/${number}/route?stage=Test`));
  await tester.getByRole('button', { name: 'Start', exact: true }).click();
  await tester.getByRole('button', { name: 'Finish tests before resin' }).click();
  await expect(tester.getByText('passed', { exact: true })).toBeVisible();
  await expect(winder.getByRole('button', { name: 'Start', exact: true })).toHaveCount(1);
  await park(winder, tester);
  await quickly(winder, number, ['PRE', 'IMPD', 'DRN']);

  // the cure, from the oven log
  await winder.goto(url(`/jobs/${number}/oven`));
  await winder.getByLabel('File').setInputFiles(new URL('../../demo/oven-log.csv', import.meta.url).pathname);
  await expect(winder.getByText(/2 rows have a problem/)).toBeVisible();
  await expect(winder.getByText('cured', { exact: true })).toBeVisible();
  await winder.getByRole('button', { name: 'Record with this verdict' }).click();
  await expect(winder.getByRole('button', { name: 'Read in another log' })).toBeVisible();
  await park(winder);
  await quickly(winder, number, ['CUR', 'CLN']);

  await resistance(tester, number, 'VC', 0.69);
  await measured(tester, number, 'VC');
  await stated(tester, number, 'VC', 'surge', { 'Peak voltage': '1800' });
  await stated(
    tester,
    number,
    'VC',
    'highPotential',
    { 'Test voltage, rms': '1800', 'Held for': '60' },
    /1800 V AC for 60 s.*Held\./,
  );
  await park(tester);
  await quickly(tester, number, ['PCT']);

  // the rotor, in parallel
  await winder.goto(url(`/jobs/${number}/balance`));
  await winder.getByRole('button', { name: 'One plane, in one sheet' }).click();
  await winder
    .getByLabel(/Read a run set/)
    .setInputFiles(new URL('../../demo/balance-run.csv', import.meta.url).pathname);
  await expect(winder.getByText(/Residual .* at most/).first()).toBeVisible();
  await winder.getByRole('button', { name: 'Record this run' }).click();
  await expect(winder.getByRole('heading', { name: 'Recorded runs' })).toBeVisible();
  await park(winder);
  await quickly(winder, number, ['RBL', 'BRG', 'RGP', 'ASM']);

  // run, report, out of the house
  await measured(tester, number, 'AA');
  await stated(tester, number, 'AA', 'polarity');
  await tester.goto(url(`/jobs/${number}/tests?stage=AA&test=noLoadRun`));
  for (const [label, value] of [
    ['U 1–2', '400'],
    ['U 2–3', '401'],
    ['U 3–1', '399'],
    ['I 1', '8.1'],
    ['I 2', '8.0'],
    ['I 3', '7.9'],
    ['Instrument', 'analyser'],
  ] as const)
    await fill(tester, label, value);
  await record(tester);
  await expect(tester.getByText(/Current unbalance 1\.25 %/).first()).toBeVisible();
  await park(tester);
  await quickly(tester, number, ['RUN']);
  await foreman.request.post(url(`/api/jobs/${number}/steps/LDT/waive`), { data: { reason: 'not ordered' } });
  await quickly(winder, number, ['PNT']);
  await resistance(tester, number, 'FI', 0.69);
  await measured(tester, number, 'FI');
  await api(tester, `jobs/${number}/tests`, {
    stage: 'FI',
    kind: 'noLoadRun',
    typed: { u12: '400', u23: '401', u31: '399', i1: '8.1', i2: '8', i3: '7.9', instrument: 'analyser' },
  });
  await foreman.goto(url(`/jobs/${number}/papers`));
  await foreman.getByRole('button', { name: 'Issue the report' }).click();
  await expect(foreman.getByRole('link', { name: 'Revision 1' })).toBeVisible();
  await quickly(foreman, number, ['DSP']);
  await expect(foreman.getByText(/left the house/)).toBeVisible();
  for (const page of [winder, tester, foreman]) await page.context().close();
});
