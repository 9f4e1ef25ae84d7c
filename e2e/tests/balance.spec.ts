import { standReadings, vectorOf, type Heavy } from '@norther/core';
import { demo } from '../demo.ts';
import { expect, test } from '../norther.ts';
import { fits, park, person, url } from '../person.ts';

const ROTOR = {
  massKg: 26,
  inertiaKgM2: 0.4,
  bearingAMm: 0,
  bearingBMm: 410,
  centreMm: 204,
  stiffness: [220000, 205000] as const,
  damping: [70, 70] as const,
};

test('a rotor is balanced in two planes from an empty session to pass', async ({ browser }) => {
  const page = await person(browser, 'ines', `/jobs/${demo(7)}/balance`);
  await page.getByRole('button', { name: /^Step by step/ }).click();
  const sheet = page.getByRole('form', { name: 'Set-up sheet' });
  for (const [label, value] of [
    [/^Mass \*?$|^Mass$/, '26'],
    [/^Highest service speed/, '1450'],
    [/^Balancing speed/, '900'],
    [/^Grade G/, '2.5'],
    [/^Bearing A at/, '0'],
    [/^Bearing B at/, '410'],
    [/^Centre of mass at/, '204'],
    [/^Plane 1 at/, '320'],
    [/^Radius in plane 1/, '55'],
    [/^Places in plane 1/, '10'],
    [/^Plane 2 at/, '95'],
    [/^Radius in plane 2/, '55'],
    [/^Places in plane 2/, '10'],
    [/^Masses of the stock/, '1 g, 2 g, 5 g, 10 g'],
  ] as const)
    await sheet.getByLabel(label).first().fill(value);
  // planes exchanged: named beside the sheet, nothing is lost
  await expect(sheet.getByText(/Plane 1 stands at the end of bearing A/)).toBeVisible();
  await sheet.getByLabel(/^Plane 1 at/).fill('95');
  await sheet.getByLabel(/^Plane 2 at/).fill('320');
  await expect(page.getByRole('img', { name: /to scale/ })).toBeVisible();
  // a bent shaft is refused before anything is spun
  await sheet.getByLabel(/^Bearing seats run out/).fill('0.03');
  await expect(page.getByText(/repair the shaft first/)).toBeVisible();
  await sheet.getByLabel(/^Bearing seats run out/).fill('0.005');
  await expect(page.getByText(/repair the shaft first/)).toHaveCount(0);
  await fits(page);
  await sheet.getByRole('button', { name: 'On the stand: begin' }).click();

  const heavy: Heavy[] = [
    { gMm: 1300, angleDeg: 75, xMm: 95 },
    { gMm: 870, angleDeg: 250, xMm: 320 },
  ];
  const reading = page.getByRole('form', { name: 'Reading' });
  const spin = async (extra: Heavy[] = []): Promise<void> => {
    const read = standReadings(ROTOR, 900, [...heavy, ...extra]).map(vectorOf);
    for (const [i, name] of ['Bearing A', 'Bearing B'].entries()) {
      await reading.getByLabel(`${name}, amplitude`).fill((read[i]?.size ?? 0).toFixed(4));
      await reading.getByLabel(`${name}, °`).fill((read[i]?.angleDeg ?? 0).toFixed(2));
    }
    await reading.getByRole('button', { name: 'Enter this run' }).click();
  };
  const stage = (name: string) => expect(page.getByRole('heading', { name, exact: true })).toBeVisible();
  await stage('Spin it as found');
  await reading.getByRole('button', { name: 'Enter this run' }).click();
  await expect(reading.getByText(/Bearing A: amplitude and angle are numbers/)).toBeVisible();
  await spin();
  for (const [plane, xMm, at] of [
    [1, 95, 0],
    [2, 320, 90],
  ] as const) {
    await stage(`Trial mass in plane ${plane}`);
    await reading.getByLabel('Trial mass, g').fill('14');
    await reading.getByLabel('Trial mass at, °').fill(String(at));
    await spin([{ gMm: 14 * 55, angleDeg: at, xMm }]);
  }
  await stage('Correct');
  await expect(
    page.getByText(/^Plane 1 \(drive side\), radius 55 mm: fix .* at place .*, seen from the drive end\.$/),
  ).toBeVisible();
  await fits(page);
  const correction = page.getByRole('form', { name: 'Correction' });
  const rows = await correction.getByLabel(/: place$/).count();
  expect(rows).toBeGreaterThan(1);
  for (let i = 1; i <= rows; i++) {
    const plane = await correction.getByLabel(`${i}: plane`).inputValue();
    const place = Number(await correction.getByLabel(`${i}: place`).inputValue());
    const grams = Number(await correction.getByLabel(`${i}: fixed, g`).inputValue());
    expect([1, 2, 5, 10]).toContain(grams);
    heavy.push({ gMm: grams * 55, angleDeg: 36 * (place - 1), xMm: plane === '1' ? 95 : 320 });
  }
  await correction.getByRole('button', { name: 'It is done' }).click();
  await stage('Spin it again');
  await spin();
  await stage('Inside');
  await page.getByRole('button', { name: 'Inside: record the balance' }).click();
  await expect(page.getByText(/^Ended by Ines Halvard/)).toBeVisible();
  await expect(page.getByText(/Bearing A .* g·mm of .* g·mm, Bearing B/).first()).toBeVisible();
  await park(page);
});

test('a lesson on the simulated stand is worked and scored; a faulty rotor is called by its fault', async ({
  browser,
}) => {
  const page = await person(browser, 'tomas', `/jobs/${demo(7)}/balance`);
  await page.getByRole('button', { name: 'Practice' }).click();
  const spin = page.getByRole('button', { name: 'Spin', exact: true });
  const rows = page.getByRole('list', { name: 'What was done' }).getByRole('listitem');
  for (let n = 1; n <= 3; n++) {
    await spin.click();
    await expect(rows).toHaveCount(n);
  }
  await page.getByRole('button', { name: 'How good was it' }).click();
  await expect(page.getByText(/^0 points\. Not inside yet/)).toBeVisible();
  for (let n = 0; n < 3 && (await page.getByRole('heading', { name: 'Correct', exact: true }).isVisible()); n++) {
    await page.getByRole('button', { name: 'It is done' }).click();
    await spin.click();
  }
  await expect(page.getByRole('heading', { name: 'Inside', exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'How good was it' }).click();
  await expect(page.getByText(/points\. Inside with/)).toBeVisible();
  await fits(page);
  await page.getByLabel('Lesson').selectOption('something is wrong');
  await page.getByLabel('Wrong with it').selectOption('loose mass');
  await page.getByRole('button', { name: 'How good was it' }).click();
  await expect(page.getByText(/points\. (Right: loose mass|It was)/)).toBeVisible();
  await park(page);
});

test('a stand sends its runs, the residual is checked by a moved mass, and the family is kept for the next rotor', async ({
  browser,
}) => {
  const liv = await person(browser, 'liv', '/');
  const made = await liv.request.post(url('/api/instruments'), {
    data: { name: 'Air stand', kind: 'balancing stand', mayWrite: ['balance'] },
  });
  const { id: instrument, key } = (await made.json()) as { id: string; key: string };
  await park(liv);
  const number = demo(8);
  const page = await person(browser, 'ines', '/');
  const SET_UP = {
    kind: 'cage rotor', mass: '26', service: '1450', balancing: '900', grade: '2.5', bearingA: '0', bearingB: '410', centre: '204',
    x1: '95', radius1: '55', x2: '320', radius2: '55', stand: 'Air stand', unit: 'mm/s',
  }; // prettier-ignore
  await page.request.post(url(`/api/jobs/${number}/balance-sessions`), { data: { typed: SET_UP } });
  await page.goto(url(`/jobs/${number}/balance`));
  const heavy: Heavy[] = [
    { gMm: 1100, angleDeg: 205, xMm: 95 },
    { gMm: 760, angleDeg: 20, xMm: 320 },
  ];
  let sent = 0;
  /** The stand turns it and sends what it reads; it is taken with one press. */
  const take = async (extra: Heavy[] = []): Promise<void> => {
    const [a, b] = standReadings(ROTOR, 900, [...heavy, ...extra]).map(vectorOf);
    const row = [a?.size, a?.angleDeg, b?.size, b?.angleDeg, 901];
    const units = ['mm/s', '°', 'mm/s', '°', 'r/min'];
    const answer = await page.request.post(url(`/api/instruments/${instrument}/samples`), {
      headers: { Authorization: `Bearer ${key}` },
      data: {
        stream: `run ${(sent += 1)}`, batch: 0, what: 'balance', job: number, start: new Date().toISOString(), step: 0.5, last: true,
        channels: ['A', 'A phase', 'B', 'B phase', 'speed'].map((name, i) => ({ name, unit: units[i] })),
        values: row.map((x) => [x, x, x, x]),
      },
    }); // prettier-ignore
    expect(answer.status()).toBe(202);
    await page.getByRole('button', { name: 'Take this run' }).click();
  };
  const stage = (name: string) => expect(page.getByRole('heading', { name, exact: true })).toBeVisible();
  await stage('Spin it as found');
  await expect(page.getByText('Air stand: started where it stands')).toBeVisible();
  await take();
  for (const [plane, xMm, at] of [
    [1, 95, 0],
    [2, 320, 90],
  ] as const) {
    await stage(`Trial mass in plane ${plane}`);
    await page.getByLabel('Trial mass, g').fill('14');
    await page.getByLabel('Trial mass at, °').fill(String(at));
    await take([{ gMm: 14 * 55, angleDeg: at, xMm }]);
  }
  await stage('Correct');
  const correction = page.getByRole('form', { name: 'Correction' });
  for (const i of [1, 2]) {
    const grams = Number(await correction.getByLabel(`${i}: fixed, g`).inputValue());
    const deg = Number(await correction.getByLabel(`${i}: or at, °`).inputValue());
    heavy.push({ gMm: grams * 55, angleDeg: deg, xMm: i === 1 ? 95 : 320 });
  }
  await correction.getByRole('button', { name: 'It is done' }).click();
  await stage('Spin it again');
  await take();
  await stage('Inside');
  // what is left, by a test mass moved round each plane
  await page.getByRole('button', { name: 'Residual by a moved mass' }).click();
  const moved = page.getByRole('form', { name: 'Residual by a moved mass' });
  for (const plane of [1, 2]) {
    await moved.getByLabel('Test mass, g').fill('2');
    await expect(moved.getByLabel('Moved in')).toHaveValue(String(plane));
    for (const deg of [0, 45, 90, 135, 180, 225, 270, 315]) {
      const at = { gMm: 2 * 55, angleDeg: deg, xMm: plane === 1 ? 95 : 320 };
      const read = standReadings(ROTOR, 900, [...heavy, at]).map(vectorOf)[plane - 1];
      await moved.getByLabel(`${deg}°`, { exact: true }).fill((read?.size ?? 0).toFixed(5));
    }
    await expect(moved.getByRole('img', { name: /with the curve that fits/ })).toBeVisible();
    await moved.getByRole('button', { name: 'Enter this check' }).click();
    await expect(page.getByRole('figure', { name: `Moved mass, plane ${plane}` })).toBeVisible();
  }
  await stage('Inside');
  await fits(page);
  // a reading that was typed wrong is put right with its reason, both stay
  await page.getByRole('button', { name: 'It was wrong' }).first().click();
  await page.getByLabel('Why it does not count').fill('Read from the other channel.');
  await page.getByRole('button', { name: 'Enter what is right' }).click();
  const right = page.getByRole('form', { name: 'Put right' });
  const was = Number(await right.getByLabel('Bearing A, amplitude').inputValue());
  await right.getByLabel('Bearing A, amplitude').fill((was * 1.001).toFixed(5));
  await right.getByRole('button', { name: 'This is right' }).click();
  await expect(page.getByText(/in place of 1: Read from the other channel\./)).toBeVisible();
  await page.getByLabel('Keep as rotor family').fill('Pump rotor, 26 kg');
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByText('Kept as Pump rotor, 26 kg.')).toBeVisible();
  // the next rotor of the family: its set-up is there, its influence set wants one trial
  await page.goto(url(`/jobs/${demo(10)}/balance`));
  await page.getByRole('button', { name: /^Step by step/ }).click();
  const sheet = page.getByRole('form', { name: 'Set-up sheet' });
  const option = await sheet
    .getByLabel('As a rotor family')
    .locator('option', { hasText: 'Pump rotor, 26 kg' })
    .getAttribute('value');
  await sheet.getByLabel('As a rotor family').selectOption(option ?? '');
  await expect(page.getByText(/one trial in either plane has to agree/)).toBeVisible();
  await sheet.getByRole('button', { name: 'On the stand: begin' }).click();
  await stage('Spin it as found');
  await park(page);
});
