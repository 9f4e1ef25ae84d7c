import { describe, expect, it } from 'vitest';
import { demo } from '../testing/demoNumber.ts';
import { demoShop } from '../testing/shopPeople.ts';
import { idle } from '../testing/server.ts';
import { LONG_LOG } from './cures.ts';

const { server, winder, viewer, take } = demoShop('norther_cures');

const ROWS = 90_000;
/** Nine hours: an hour up, seven at temperature, an hour down; as many rows as asked. */
const log = (rows: number): string => {
  const lines = ['min;air;part'];
  for (let i = 0; i < rows; i++) {
    const min = (540 * i) / (rows - 1);
    const part = min < 60 ? 24 + (124 * min) / 60 : min < 480 ? 148 : 148 - (68 * (min - 480)) / 60;
    lines.push(`${min.toFixed(4)};${(part + 2).toFixed(3)};${part.toFixed(3)}`);
  }
  return `${lines.join('\n')}\n`;
};
const body = (csv: string, more: object = {}) => ({
  csv,
  fileName: 'bake.csv',
  roles: ['oven air', 'part'],
  resin: 'Polyester dip resin',
  ...more,
});

describe('a long oven log', () => {
  const csv = log(ROWS);
  it('is read in the background, with the verdict of a short one, under the name of who read it in', async () => {
    expect(csv.length).toBeGreaterThan(LONG_LOG);
    const number = await take();
    const short = await winder('POST', `jobs/${await take()}/cures`, body(log(540)));
    expect(short.body.verdict).toBe('pass');
    const asked = await winder('POST', `jobs/${number}/cures`, body(csv));
    expect([asked.status, asked.body]).toEqual([201, { work: expect.any(String) }]);
    await idle(server().app);
    const work = (await viewer('GET', `work/${asked.body.work}`)).body;
    expect(work).toMatchObject({ kind: 'ovenLog', state: 'done', result: { verdict: 'pass' } });
    const { cures } = (await viewer('GET', `jobs/${number}`)).body;
    expect(cures).toHaveLength(1);
    expect(cures[0]).toMatchObject({ verdict: 'pass', fileName: 'bake.csv', person: 'Ines Halvard' });
    const events = (await viewer('GET', `jobs/${number}/history`)).body as { action: string; person: string }[];
    expect(events.find((e) => e.action === 'cure.record')?.person).toBe('Ines Halvard');
    // what was handed over is let go once it is kept
    const { rows } = await server().pool.query('select data from work where id = $1', [asked.body.work]);
    expect(rows[0].data).toEqual({});
    // a second one wants its reason at once, not when it was read
    const again = await winder('POST', `jobs/${number}/cures`, body(csv));
    expect([again.status, again.body.field]).toEqual([422, 'reason']);
  });
  it('that cannot be judged says why and keeps nothing', async () => {
    const number = await take();
    const asked = await winder('POST', `jobs/${number}/cures`, body(csv, { roles: ['part'] }));
    await idle(server().app);
    const work = (await viewer('GET', `work/${asked.body.work}`)).body;
    expect(work).toMatchObject({ state: 'failed', attempt: 1 });
    expect(work.problem).toMatch(/There are 2 channels, but 1 were assigned\./);
    expect((await viewer('GET', `jobs/${number}`)).body.cures).toEqual([]);
  });
  it('is refused at once where it can be: no such resin, a motor that left the house', async () => {
    const resin = await winder('POST', `jobs/${await take()}/cures`, body(csv, { resin: 'wax' }));
    expect([resin.status, resin.body.field]).toEqual([422, 'resin']);
    expect((await winder('POST', `jobs/${demo(1)}/cures`, body(csv, { reason: 'late' }))).status).toBe(409);
  });
});
