import { COOLING_CHANNELS, LOAD_CHANNELS, LoadStand, plateMachine } from '@norther/core';
import { demo } from '../demo.ts';
import { expect, test } from '../norther.ts';
import { fits, park, person, url } from '../person.ts';

const COUPLING: readonly (readonly [string, string])[] = [
  ['Rim, top', '0'],
  ['Rim, right', '-0.03'],
  ['Rim, bottom', '-0.06'],
  ['Rim, left', '-0.03'],
  ['The bar’s own sag at the bottom', '-0.06'],
  ['Face, top', '0'],
  ['Face, right', '0.01'],
  ['Face, bottom', '0.02'],
  ['Face, left', '0.01'],
  ['Face taken at a diameter of', '120'],
  ['Coupling to front feet', '180'],
  ['Coupling to back feet', '420'],
];
const RUN: readonly (readonly [string, string])[] = [
  ['U 1–2', '400'],
  ['U 2–3', '401'],
  ['U 3–1', '399'],
  ['I 1', '9.1'],
  ['I 2', '9.2'],
  ['I 3', '9.3'],
  ['Bearings followed at', '0; 20; 30'],
  ['Drive-end bearing at each', '31; 44; 47'],
];
const SHEET: readonly (readonly [string, string])[] = [
  ['Cold resistance lead to lead', '0.5'],
  ['Winding then', '22'],
  ['Rise of the rated run, K', '62'],
  ['Coolant at its end', '24'],
  ['No-load voltages', '440; 400; 360; 240; 200; 160; 120'],
  ['No-load currents', '11; 9.2; 7.9; 5.1; 4.2; 3.4; 2.6'],
  ['No-load powers', '600; 500; 420; 250; 215; 185; 160'],
  ['Winding at no load', '40'],
];

test('from the coupling over the load bench to the certificate: points taken by themselves, guarded, kept with what was sent', async ({
  browser,
}) => {
  const number = demo(30);
  const liv = await person(browser, 'liv');
  const made = (await (
    await liv.request.post(url('/api/instruments'), {
      data: { name: 'Quay brake', kind: 'dynamometer', mayWrite: ['load', 'cooling'] },
    })
  ).json()) as { id: string; key: string };
  await park(liv);

  const page = await person(browser, 'runa', `/jobs/${number}/tests?stage=FI&test=coupling`);
  for (const [label, text] of COUPLING) await page.getByLabel(label).first().fill(text);
  await page.getByLabel(/^Instrument/).fill('dial 3');
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(page.getByText(/Offset 0 mm, at most 0.05 mm/).first()).toBeVisible();

  await page.goto(url(`/jobs/${number}/load`));
  await page.getByLabel('Instrument').selectOption({ label: 'Quay brake' });
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByText('Waiting for what Quay brake sends')).toBeVisible();
  const plate = ((await (await page.request.get(url(`/api/jobs/${number}`))).json()) as { nameplate: object })
    .nameplate;
  const machine = plateMachine({ ...plate, poles: 4 }, { line20Ohm: 0.5 });
  if (typeof machine === 'string') throw new Error(machine);
  const stand = new LoadStand({ job: number, stream: 'x', mostNm: 999, line20Ohm: 0.5, ...machine }, 4);
  const began = Date.now();
  let sent = 0;
  let batch = 0;
  /** So many seconds of samples at a share of the rated load, as a brake sends them. */
  const send = async (share: number, seconds: number, last = false) => {
    stand.set(share * machine.ratedNm);
    const rows = Array.from({ length: seconds * 20 }, () => {
      stand.advance(0.05);
      return stand.read();
    });
    const answer = await page.request.post(url(`/api/instruments/${made.id}/samples`), {
      headers: { Authorization: `Bearer ${made.key}` },
      data: {
        stream: 'brake run',
        batch: batch++,
        what: 'load',
        job: number,
        channels: LOAD_CHANNELS,
        start: new Date(began + sent * 50).toISOString(),
        step: 0.05,
        values: LOAD_CHANNELS.map((_, k) => rows.map((r) => r[k])),
        last,
      },
    });
    expect(answer.status()).toBe(202);
    sent += rows.length;
  };
  // the real brake only hears set load, off and stop
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible();
  for (const share of [1, 0.75, 0.5, 0.25]) await send(share, 26);
  await expect(page.getByRole('region', { name: 'Now' })).toContainText('N·m');
  await expect(page.getByRole('table', { name: 'Points' }).getByRole('row')).toHaveCount(5);
  await expect(page.getByText('Steady.', { exact: true })).toBeVisible();
  const figure = await page
    .getByRole('region', { name: 'Now' })
    .locator('dd')
    .first()
    .evaluate((e) => parseFloat(getComputedStyle(e).fontSize));
  expect(figure).toBeGreaterThanOrEqual(800 / 12);
  await fits(page);
  // the brake puts on far too much: the load comes off, and only a person lets it go on
  await send(1.6, 14);
  await expect(page.getByText(/The load was taken off: current/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Raise by 10 %' })).toBeDisabled();
  await page.getByRole('button', { name: 'Looked at: go on' }).click();
  await expect(page.getByText(/The load was taken off/)).toBeHidden();
  stand.unload();
  await send(0, 2, true);
  await expect(page.getByText(/Ended: the stream of Quay brake ended/)).toBeVisible();

  // it stands: its meter sends the resistance of the winding, one a second
  const off = began + sent * 50;
  stand.stop();
  const ohms = Array.from({ length: 60 }, () => {
    stand.advance(1);
    return stand.readOhm();
  });
  const cooled = await page.request.post(url(`/api/instruments/${made.id}/samples`), {
    headers: { Authorization: `Bearer ${made.key}` },
    data: {
      stream: 'brake cools',
      batch: 0,
      what: 'cooling',
      job: number,
      channels: COOLING_CHANNELS,
      start: new Date(off + 8000).toISOString(),
      step: 1,
      values: [ohms],
      last: true,
    },
  });
  expect(cooled.status()).toBe(202);

  await page.getByRole('link', { name: 'Make the load test of it' }).click();
  await page.getByRole('button', { name: 'Take these points' }).click();
  await expect(page.getByLabel('Torque, indicated')).toHaveValue(/^[\d.]+; [\d.]+; [\d.]+; [\d.]+/);
  for (const [label, text] of SHEET) await page.getByLabel(label).first().fill(text);
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(page.getByText(/method 2-1-1B|points do not reach|no-load curve does not/i).first()).toBeVisible();
  await page.goto(url(`/jobs/${number}/load`));
  await expect(page.getByText('A load test is made of it.')).toBeVisible();
  // the stream of the cooling, then a reading by hand against the clock
  await page.goto(url(`/jobs/${number}/tests?stage=FI&test=temperatureRise`));
  await expect(page.getByRole('region', { name: 'Sent while it cools' })).toContainText(
    'seconds count from the switch',
  );
  await page.getByRole('button', { name: 'Take these readings' }).click();
  await expect(page.getByLabel('Resistance at each')).toHaveValue(/^[\d.]+(; [\d.]+){11}$/);
  await page.getByRole('button', { name: 'Power off: start the clock' }).click();
  await page.getByLabel('Resistance now, Ω').fill('0.5');
  await page.getByLabel('Resistance now, Ω').press('Enter');
  await expect(page.getByLabel('Resistance at each')).toHaveValue(/^[\d.]+(; [\d.]+){12}$/);
  await page.reload();
  await expect(page.getByRole('button', { name: 'Stop the clock' })).toBeVisible();
  await fits(page);
  await page.getByRole('button', { name: 'Stop the clock' }).click();
  // bearings of a run at no load: what is not steady is not judged
  await page.goto(url(`/jobs/${number}/tests?stage=FI&test=noLoadRun`));
  for (const [label, text] of RUN) await page.getByLabel(label, { exact: true }).fill(text);
  await page.getByLabel(/^Instrument/).fill('analyser');
  await expect(page.getByText(/Drive-end bearing still rises: 3 K in 10 min/)).toBeVisible();
  await page.getByLabel('Drive-end bearing at each').fill('31; 44; 44.5');
  await expect(page.getByText(/Drive-end bearing steady: it moved by 0.5/)).toBeVisible();
  await page.goto(url('/yield?by=test'));
  await expect(page.getByRole('list', { name: 'First readings' })).toContainText('Coupling by rim and face, final');
  await page.context().close();

  const odd = await person(browser, 'odd', `/jobs/${number}/papers`);
  await expect(odd.getByText('The visit, day by day').first()).toBeVisible();
  await odd.getByLabel('Witness of the tests').fill('Ada Surveyor');
  await odd.getByRole('button', { name: 'Issue the report' }).click();
  await expect(odd.getByRole('link', { name: 'Revision 1' })).toBeVisible();
  await expect(odd.getByRole('button', { name: 'Issue revision 2' })).toBeDisabled();
  const paper = await odd.getByRole('link', { name: 'Revision 1' }).getAttribute('href');
  const pdf = await odd.request.get(url(paper ?? ''));
  expect([pdf.status(), pdf.headers()['content-type']]).toEqual([200, 'application/pdf']);
  const data = (await (await odd.request.get(url(`${paper ?? ''}/data.json`))).json()) as {
    witness: string;
    job: { tests: { kind: string; traces: unknown[] }[] };
  };
  expect(data.witness).toBe('Ada Surveyor');
  expect(data.job.tests.find((t) => t.kind === 'loadTest')?.traces).toHaveLength(1);
  await odd.context().close();
});
