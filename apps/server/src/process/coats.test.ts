import { describe, expect, it } from 'vitest';
import { demo } from '../testing/demoNumber.ts';
import { demoShop } from '../testing/shopPeople.ts';

const { winder, viewer, foreman, take } = demoShop('norther_coats');

/** An hour up, so many hours at so many °C, an hour down. */
const bake = (hours: number, c: number): string =>
  [
    'min,air,part',
    ...[0, 60, 60 + 60 * hours, 120 + 60 * hours].map((t, i) => `${t},${c},${i === 0 ? 25 : i === 3 ? 60 : c}`),
  ].join('\n');
const log = (csv: string, more: object = {}) => ({
  csv,
  fileName: 'bake.csv',
  roles: ['oven air', 'part'],
  resin: 'Polyester dip resin',
  maxGapMin: 1000,
  ...more,
});
const dipped = { lot: 'R-2026-12', part: '50', minutes: '20', viscosity: '', bubbles: 'yes' };
const step = async (job: string, code: string, typed: object, who = winder) => {
  const begun = await who('POST', `jobs/${job}/steps/${code}/start`, {});
  expect([code, begun.status]).toEqual([code, 200]);
  return who('POST', `jobs/${job}/steps/${code}/finish`, { typed });
};
const of = async (job: string) => {
  const { body } = await viewer('GET', `jobs/${job}`);
  return {
    steps: new Map<string, { state: string; after: string[]; status: string }>(
      body.detailSteps.map((s: { code: string }) => [s.code, s]),
    ),
    cures: body.cures as { code: string; verdict: string }[],
  };
};

describe('coats of resin', () => {
  const job = demo(26);
  it('a foreman asks for a second one; each is dipped when the one before is cured, with its own log', async () => {
    const before = await of(job);
    expect(before.steps.get('DRN')?.state).toBe('passed');
    const edit = { edit: { do: 'coats', coats: 2 }, reason: 'Salt air: two coats.' };
    expect((await winder('POST', `jobs/${job}/route/edits`, edit)).status).toBe(403);
    expect((await foreman('POST', `jobs/${job}/route/edits`, edit)).status).toBe(200);
    const { steps } = await of(job);
    expect(steps.get('CLN')?.after).toEqual(['CUR.2']);
    const held = await winder('POST', `jobs/${job}/steps/IMPD.2/start`, {});
    expect([held.status, held.body.detail]).toEqual([409, expect.stringMatching(/^Dip, coat 2 is held: after Cure\./)]);
    expect((await winder('POST', `jobs/${job}/cures`, log(bake(8, 150)))).body.verdict).toBe('pass');
    expect((await step(job, 'CUR', {})).body.verdict).toBe('pass');
    const noTurn = await winder('POST', `jobs/${job}/steps/IMPD.2/start`, {});
    expect(noTurn.status).toBe(200);
    const missing = await winder('POST', `jobs/${job}/steps/IMPD.2/finish`, { typed: dipped });
    expect([missing.status, missing.body.field]).toEqual([422, 'turned']);
    const second = await winder('POST', `jobs/${job}/steps/IMPD.2/finish`, { typed: { ...dipped, turned: 'yes' } });
    expect(second.body.verdict).toBe('pass');
    await step(job, 'DRN.2', { wiped: 'yes' });
  });
  it('its bake does not stand on the log of the first, and counts for the first coat too', async () => {
    await winder('POST', `jobs/${job}/steps/CUR.2/start`, {});
    // no reason asked: it is the first log of this bake
    const cured = await winder('POST', `jobs/${job}/cures`, log(bake(10, 148.5)));
    expect([cured.status, cured.body.verdict, cured.body.reason]).toEqual([201, 'pass', expect.any(String)]);
    const again = await winder('POST', `jobs/${job}/cures`, log(bake(10, 148.5)));
    expect([again.status, again.body.field]).toEqual([422, 'reason']);
    const { cures } = await of(job);
    expect(cures.map((c) => c.code)).toEqual(['CUR.2', 'CUR']);
    const done = await winder('POST', `jobs/${job}/steps/CUR.2/finish`, { typed: {} });
    expect(done.body.verdict).toBe('attention');
    expect(done.body.reason).toMatch(/Coat 1 has had [\d.]+ times its rated cure with the later bakes, above 3 times/);
    expect((await of(job)).steps.get('CLN')?.status).toBe('blocked');
    const { body: file } = await viewer('GET', `jobs/${job}/export.json`);
    expect(file.cures.map((c: { code: string }) => c.code)).toEqual(['CUR', 'CUR.2']);
    expect(file.job.ownRoute.CLN).toEqual(['CUR.2']);
  });
  it('how many are agreed with the release of the data', async () => {
    const { steps } = await of(demo(21));
    expect(steps.get('DSG')?.state).toBe('passed');
    expect(steps.get('CLN')?.after).toEqual(['CUR.2']);
    expect(steps.get('IMPD.2')).toMatchObject({ state: 'open', after: ['CUR'] });
  });
});

describe('how the winding comes out', () => {
  it('cold: the steps of the burn-off go, those of the pull come, and they hold', async () => {
    const job = await take();
    const to = (way: string) =>
      foreman('POST', `jobs/${job}/route/edits`, { edit: { do: 'removal', way }, reason: 'Bonded core.' });
    expect((await to('smelting')).status).toBe(422);
    expect((await to('cold pull')).status).toBe(200);
    const { steps } = await of(job);
    expect(steps.has('BRN')).toBe(false);
    expect(steps.get('STR')?.after).toEqual(['WPL']);
    const warm = { by: 'induction', slots: '205', straight: 'yes' };
    const over = { override: { reason: 'The core is out already.' } };
    expect((await foreman('POST', `jobs/${job}/steps/WPL/start`, over)).status).toBe(200);
    const done = await winder('POST', `jobs/${job}/steps/WPL/finish`, { typed: warm });
    expect([done.body.verdict, done.body.reason]).toEqual(['attention', expect.stringMatching(/205 °C; at most 200/)]);
    // what was begun is not taken back
    expect((await to('chemical')).body.detail).toMatch(/Warm the slots was begun/);
  });
});
