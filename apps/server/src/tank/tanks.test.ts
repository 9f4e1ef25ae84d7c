import type { StockLotView, TankView } from '@norther/contracts';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { demo } from '../testing/demoNumber.ts';
import { asAdmin, startServer, type Client, type TestServer } from '../testing/server.ts';

let server: TestServer;
let [foreman, winder, viewer]: Client[] = [];
const as = (c: Client | undefined): Client => c as Client;
beforeAll(async () => {
  server = await startServer('norther_tanks', 'demo');
  [foreman, winder, viewer] = await Promise.all(['odd', 'ines', 'per'].map((p) => server.as(p)));
}, 180_000);
afterAll(() => server.stop());

const TYPED = {
  name: 'Tank two',
  resin: 'Test resin',
  unit: 's',
  reference: '25',
  least: '20',
  most: '40',
  coldest: '15',
  warmest: '30',
  everyDays: '14',
};
const tankOf = async (name: string): Promise<TankView> =>
  (await as(viewer)('GET', 'tanks')).body.find((t: TankView) => t.name === name);
const lots = async (): Promise<StockLotView[]> => (await as(viewer)('GET', 'stock')).body;
const lot = async (number: string, more: object = {}): Promise<string> =>
  (
    await as(winder)('POST', 'stock', {
      lot: number,
      what: { kind: 'material', name: 'Test resin' },
      unit: 'kg',
      quantity: 50,
      ...more,
    })
  ).body.id;
const fill = (tank: string, of: { lotId: string; quantity: number }[], leftKg?: number) =>
  as(winder)('POST', `tanks/${tank}/fill`, { lots: of, ...(leftKg === undefined ? {} : { leftKg }) });
const setAside = async (number: string, quarantined: boolean) => {
  const l = (await lots()).find((x) => x.lot === number);
  return as(foreman)('PUT', `stock/${l?.id}`, {
    version: l?.version,
    quarantined,
    pricePerUnit: l?.pricePerUnit,
    expires: l?.expires,
    note: l?.note,
  });
};

describe('a resin tank', () => {
  it('is kept by a foreman; what contradicts itself is refused with its field', async () => {
    expect((await as(winder)('POST', 'tanks', { typed: TYPED })).status).toBe(403);
    for (const [typed, field] of [
      [{ most: '20' }, 'most'],
      [{ warmest: '15' }, 'warmest'],
      [{ everyDays: '0' }, 'everyDays'],
      [{ reference: 'warm' }, 'reference'],
      [{ unit: 'pints' }, 'unit'],
    ] as const)
      expect((await as(foreman)('POST', 'tanks', { typed: { ...TYPED, ...typed } })).body.field).toBe(field);
    expect((await as(foreman)('POST', 'tanks', { typed: TYPED })).status).toBe(201);
    expect((await as(foreman)('POST', 'tanks', { typed: TYPED })).body.field).toBe('name');
    const t = await tankOf('Tank two');
    expect(t.blocked[0]).toMatch(/Nothing is in it/);
    const change = { typed: { ...TYPED, everyDays: '7' }, version: 1, active: true };
    expect((await as(foreman)('PUT', `tanks/${t.id}`, change)).status).toBe(200);
    expect((await as(foreman)('PUT', `tanks/${t.id}`, change)).status).toBe(409);
  });
  it('holds a lot of its own with parents; a top-up makes the next; all is traced both ways', async () => {
    const t = await tankOf('Tank two');
    const [a, b] = [await lot('A-1', { expires: '2999-01-01' }), await lot('B-1', { expires: '2998-01-01' })];
    const other = (await lots()).find((l) => l.lot === 'L-118')?.id ?? '';
    expect((await fill(t.id, [{ lotId: other, quantity: 1 }])).body.detail).toMatch(/not mixed/);
    expect((await fill(t.id, [{ lotId: a, quantity: 51 }])).body.detail).toMatch(/Only 50 kg/);
    expect((await fill(t.id, [])).status).toBe(422);
    const first = await fill(t.id, [{ lotId: a, quantity: 30 }]);
    expect(first.body.lot).toBe('Tank-two/1');
    expect((await tankOf('Tank two')).blocked).toEqual(['It has not been tested yet.']);
    const second = await fill(t.id, [{ lotId: b, quantity: 20 }], 28);
    expect(second.body.lot).toBe('Tank-two/2');
    const now = await tankOf('Tank two');
    expect(now.lot).toMatchObject({ lot: 'Tank-two/2', leftKg: 48, expires: '2998-01-01' });
    expect([...now.within].sort()).toEqual(['A-1', 'B-1', 'Tank-two/1']);
    const all = await lots();
    expect(all.find((l) => l.lot === 'A-1')?.left).toBe(20);
    expect(all.find((l) => l.lot === 'Tank-two/1')?.left).toBe(0);
    const trace = (await as(viewer)('GET', `stock/${a}/trace`)).body;
    expect(trace.after.map((l: { lot: string }) => l.lot).sort()).toEqual(['Tank-two/1', 'Tank-two/2']);
    expect(trace.within).toEqual([]);
  });
  it('of many top-ups at once each makes its own lot, and nothing is lost', async () => {
    const t = await tankOf('Tank two');
    const c = await lot('C-1');
    const before = t.lot?.leftKg ?? 0;
    const answers = await Promise.all([1, 2, 3].map((quantity) => fill(t.id, [{ lotId: c, quantity }])));
    // a lot that is in it already does not go in twice as itself, but may again later
    expect(answers.map((x) => x.status)).toEqual([201, 201, 201]);
    expect(new Set(answers.map((x) => x.body.lot)).size).toBe(3);
    expect((await tankOf('Tank two')).lot?.leftKg).toBeCloseTo(before + 6, 9);
    expect((await lots()).find((l) => l.lot === 'C-1')?.left).toBe(44);
  });
  it('a shelf test decides whether it may be used, by its band and its age', async () => {
    const t = await tankOf('Tank two');
    const test = (typed: object) => as(winder)('POST', `tanks/${t.id}/tests`, { typed });
    expect((await test({ viscosity: '30', temperature: '25' })).body.field).toBe('clean');
    expect((await test({ viscosity: '0', temperature: '25', clean: 'yes' })).body.field).toBe('viscosity');
    expect((await test({ viscosity: '55', temperature: '25', clean: 'yes' })).body.verdict).toBe('fail');
    expect((await tankOf('Tank two')).blocked[0]).toMatch(/last test failed/);
    expect((await test({ viscosity: '38', temperature: '18', clean: 'yes' })).body.verdict).toBe('pass');
    expect((await tankOf('Tank two')).blocked).toEqual([]);
    // a week later, without the guard that keeps a test as it is
    await asAdmin(server.name, (db) =>
      db.query(
        `set session_replication_role = replica;
         update tank_test set at = at - interval '8 days' where tank_id = '${t.id}'`,
      ),
    );
    expect((await tankOf('Tank two')).blocked[0]).toMatch(/8 days old; it is tested every 7/);
    await test({ viscosity: '33', temperature: '25', clean: 'yes' });
    expect((await tankOf('Tank two')).blocked).toEqual([]);
  });
});

describe('a lot at the step', () => {
  // the demo's job 26 has drained; its dip is done anew
  const dip = (number: string) =>
    as(winder)('POST', `jobs/${demo(26)}/steps/IMPD/finish`, {
      typed: { lot: number, part: '50', minutes: '12', bubbles: 'yes' },
    });
  it('is refused in quarantine (its own or that of a lot in it), when it ran out, and when the tank was topped up since', async () => {
    await as(foreman)('POST', `jobs/${demo(26)}/steps/IMPD/reopen`, { reason: 'Dipped anew.' });
    expect((await as(winder)('POST', `jobs/${demo(26)}/steps/IMPD/start`, {})).status).toBe(200);
    const held = (await tankOf('Tank two')).lot?.lot ?? '';
    expect((await dip('Tank-two/1')).body.detail).toMatch(/was topped up: Tank two holds lot/);
    expect((await setAside('A-1', true)).status).toBe(200);
    const refused = await dip(held);
    expect([refused.status, refused.body.field]).toEqual([422, 'lot']);
    expect(refused.body.detail).toMatch(/quarantine with lot A-1/);
    expect((await lots()).find((l) => l.lot === held)).toMatchObject({ quarantined: true, heldBy: 'A-1' });
    expect((await fill((await tankOf('Tank two')).id, [{ lotId: await lot('D-1'), quantity: 1 }])).body.detail).toMatch(
      /is in quarantine: nothing is added/,
    );
    await setAside('A-1', false);
    await lot('E-1', { expires: '2020-01-01' });
    expect((await dip('E-1')).body.detail).toMatch(/ran out on 2020-01-01/);
    const done = await dip(` ${held} `);
    expect(done.body.verdict).toBe('pass');
    // traced from the first parent to the motor, and back
    const a = (await lots()).find((l) => l.lot === 'A-1');
    const { motors } = (await as(viewer)('GET', `stock/${a?.id}/trace`)).body;
    expect(motors).toEqual([expect.objectContaining({ job: demo(26), lot: held, how: 'Dip' })]);
    const inIt = (await as(viewer)('GET', `jobs/${demo(26)}/lots`)).body;
    expect(inIt.find((l: { lot: string }) => l.lot === held).within).toContain('A-1');
  });
  it('a lot that the stock does not know is taken as written', async () => {
    await as(foreman)('POST', `jobs/${demo(26)}/steps/IMPD/reopen`, { reason: 'Dipped anew.' });
    await as(winder)('POST', `jobs/${demo(26)}/steps/IMPD/start`, {});
    expect((await dip('an old can')).body.verdict).toBe('pass');
  });
});

describe('material to order again', () => {
  it('follows its use', async () => {
    const { body } = await as(viewer)('GET', 'stock/order-again');
    const own = body.find((o: { what: string }) => o.what === 'Test resin');
    // 56 kg went into the tank within ninety days
    expect(own.perDay).toBeCloseTo(56 / 90, 6);
    expect(own.point).toBeGreaterThan(9 * own.perDay);
    expect(body.every((o: { perDay: number }) => o.perDay > 0)).toBe(true);
  });
});
