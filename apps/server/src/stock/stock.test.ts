import { partOf } from '../testing/partOf.ts';
import { demo } from '../testing/demoNumber.ts';
import type { StockLotView } from '@norther/contracts';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { startServer, type Client, type TestServer } from '../testing/server.ts';

let server: TestServer;
let winder: Client;
let foreman: Client;
let admin: Client;
let viewer: Client;

beforeAll(async () => {
  server = await startServer('norther_stock', 'demo');
  [winder, foreman, admin, viewer] = (await Promise.all(['ines', 'odd', 'liv', 'per'].map((n) => server.as(n)))) as [
    Client,
    Client,
    Client,
    Client,
  ];
}, 120_000);
afterAll(() => server.stop());

const lots = async (): Promise<StockLotView[]> => (await viewer('GET', 'stock')).body as StockLotView[];
const lot = async (name: string): Promise<StockLotView> => {
  const found = (await lots()).find((l) => l.lot === name);
  if (!found) throw new Error(`no lot ${name}`);
  return found;
};
const wire = (name: string, mm: number, quantity: number, more: object = {}) => ({
  lot: name,
  what: { kind: 'wire', bareM: mm / 1000, label: String(mm), grade: '2', material: 'copper' },
  unit: 'kg',
  quantity,
  ...more,
});

/** A motor with sound data, agreed nowhere, for releasing: the demo's ten-pole hoist. */
async function released(number = demo(13), more: object = {}): Promise<void> {
  const { body: job } = await viewer('GET', `jobs/${number}`);
  const answer = await foreman('POST', `jobs/${number}/winding/release`, {
    revision: partOf(job).found.revision,
    ...more,
  });
  expect(answer.body.detail ?? '').toBe('');
}

describe('stock lots', () => {
  it('are listed with what is left, reserved and free', async () => {
    for (const l of await lots()) {
      expect(l.left).toBeGreaterThanOrEqual(0);
      expect(l.free).toBeLessThanOrEqual(l.left);
      expect(l.free + l.reserved).toBeCloseTo(Math.max(l.left, l.reserved), 6);
    }
    expect((await lots()).filter((l) => l.what.kind === 'wire').length).toBeGreaterThan(15);
  });
  it('come in by a winder, once under a number; bad ones are refused with the field', async () => {
    const made = await winder('POST', 'stock', wire('T-1', 2.24, 12.5, { pricePerUnit: 14, spools: 2 }));
    expect(made.status).toBe(201);
    expect(made.body).toMatchObject({ left: 12.5, reserved: 0, free: 12.5, spools: 2 });
    const twice = await winder('POST', 'stock', wire('T-1', 2.24, 1));
    expect([twice.status, twice.body.field]).toEqual([422, 'lot']);
    expect((await winder('POST', 'stock', { ...wire('T-2', 1, 5), unit: 'm' })).body.field).toBe('unit');
    expect((await winder('POST', 'stock', wire('T-3', 1, -5))).status).toBe(422);
    expect((await viewer('POST', 'stock', wire('T-4', 1, 5))).status).toBe(403);
  });
  it('what came, went, was counted: nothing is overwritten, each with its person', async () => {
    const { id } = await lot('T-1');
    const enter = (body: object) => winder('POST', `stock/${id}/entries`, body);
    expect((await enter({ kind: 'used', quantity: 2.5, reason: 'test coil' })).body.left).toBeCloseTo(10, 9);
    expect((await enter({ kind: 'used', quantity: 50 })).body.detail).toMatch(/Only 10 kg of lot T-1 are left/);
    expect((await enter({ kind: 'counted', quantity: 9.2 })).body.field).toBe('reason');
    expect((await enter({ kind: 'counted', quantity: 9.2, reason: 'weighed' })).body.left).toBeCloseTo(9.2, 9);
    expect((await enter({ kind: 'returned', quantity: 0.8 })).body.left).toBeCloseTo(10, 9);
    expect((await enter({ kind: 'returned', quantity: 0 })).body.field).toBe('quantity');
    const { body: entries } = await viewer('GET', `stock/${id}/entries`);
    expect(entries.map((e: { kind: string }) => e.kind)).toEqual(['returned', 'counted', 'used', 'received']);
    expect(entries[2]).toMatchObject({ person: 'Ines Halvard', reason: 'test coil' });
  });
  it('the database itself keeps every entry as written', async () => {
    for (const change of ['update stock_entry set quantity = 1', 'delete from stock_entry', 'truncate stock_entry'])
      await expect(server.pool.query(change)).rejects.toThrow(/kept as written/);
  });
  it('a foreman puts a lot in quarantine; a stale change is refused with both', async () => {
    const now = await lot('T-1');
    const body = { version: now.version, quarantined: true, pricePerUnit: 15, expires: null, note: 'enamel blistered' };
    expect((await winder('PUT', `stock/${now.id}`, body)).status).toBe(403);
    expect((await foreman('PUT', `stock/${now.id}`, body)).body).toMatchObject({ quarantined: true, pricePerUnit: 15 });
    const stale = await foreman('PUT', `stock/${now.id}`, body);
    expect(stale.status).toBe(409);
    expect(stale.body.current).toMatchObject({ note: 'enamel blistered' });
    expect((await foreman('PUT', 'stock/00000000-0000-4000-8000-000000000000', body)).status).toBe(404);
  });
});

describe('bill, lists and use', () => {
  const at = `jobs/${demo(13)}/material/stator`;
  it('there are no lists before the plan is released, and winding waits for them', async () => {
    expect((await viewer('GET', at)).body).toMatchObject({
      version: 0,
      lists: null,
      why: expect.stringMatching(/not released as a plan/),
    });
    expect((await winder('POST', `${at}/lists`, { version: 0 })).status).toBe(422);
    expect((await viewer('GET', `${at}/cutting.pdf`)).status).toBe(404);
    expect((await viewer('GET', `jobs/${demo(13)}/material/wheel`)).status).toBe(404);
    // a part that did not come in has no material
    const none = await winder('PUT', `jobs/${demo(7)}/material/rotor`, { version: 0, typed: {} });
    expect([none.status, none.body.field]).toEqual([422, 'part']);
  });
  it('lists are made from the plan and reserve the wire; the same kilogram is not promised twice', async () => {
    await released();
    const before = await lots();
    const made = await winder('POST', `${at}/lists`, { version: 0 });
    expect(made.body.detail ?? '').toBe('');
    const { bill, lines } = made.body.lists;
    expect(bill.lines.length).toBe(lines.length);
    bill.lines.forEach((l: { quantity: number }, i: number) => {
      const picked = lines[i].picks.reduce((n: number, p: { quantity: number }) => n + p.quantity, 0);
      expect(picked + lines[i].short).toBeCloseTo(l.quantity, 6);
    });
    for (const now of await lots()) expect(now.free).toBeGreaterThanOrEqual(0);
    const reserved = (list: StockLotView[]) => list.reduce((n, l) => n + l.reserved, 0);
    expect(reserved(await lots())).toBeGreaterThan(reserved(before));
    expect((await winder('POST', `${at}/lists`, { version: 0 })).status).toBe(409);
  });
  it('print, and go out as CSV and JSON', async () => {
    for (const name of ['cutting.pdf', 'picking.pdf']) {
      const pdf = await viewer('GET', `${at}/${name}`);
      expect([pdf.status, pdf.headers.get('content-type')]).toEqual([200, 'application/pdf']);
    }
    const csv = (await viewer('GET', `${at}/bill.csv`)).body as string;
    expect(csv.split('\r\n')[0]).toMatch(/^use,material,class_c,pieces,length_mm/);
    const { body: json } = await viewer('GET', `${at}/bill.json`);
    expect(json).toMatchObject({ format: 'norther-bill', job: demo(13) });
    const joints = (await viewer('GET', `jobs/${demo(13)}/winding/stator/joints.csv`)).body as string;
    const { body: table } = await viewer('GET', `jobs/${demo(13)}/winding/stator/joints.json`);
    expect(joints.trim().split('\r\n')).toHaveLength(table.joints.length + 1);
    expect(table.joints.length).toBe(json.figures.joints);
    expect((await viewer('GET', `jobs/${demo(13)}/winding/stator/drawings/schematic.svg`)).status).toBe(200);
    expect((await viewer('GET', `jobs/${demo(13)}/winding/stator/drawings/former-1.svg`)).status).toBe(200);
  });
  it('use takes from the reserve; beyond the bill by more than a tenth somebody says why', async () => {
    const { body: sheet } = await viewer('GET', at);
    const mine = sheet.uses.find((u: { what: string }) => /grade 2 copper/.test(u.what));
    const use = (quantity: number, more: object = {}) =>
      winder('POST', `${at}/uses`, { lotId: mine.lotId, quantity, code: 'WND', ...more });
    await winder('POST', `stock/${mine.lotId}/entries`, { kind: 'received', quantity: 60, reason: 'another pail' });
    const half = await use(mine.reserved / 2);
    const after = half.body.uses.find((u: { lotId: string }) => u.lotId === mine.lotId);
    expect(after.used).toBeCloseTo(mine.reserved / 2, 9);
    expect(after.reserved).toBeCloseTo(mine.reserved / 2, 9);
    expect((await use(mine.reserved)).body).toMatchObject({ field: 'reason' });
    expect((await use(mine.reserved, { reason: 'a spool was kinked' })).status).toBe(200);
    expect((await use(5000, { reason: 'all' })).body.detail).toMatch(/are left/);
    expect((await use(1, { code: 'OWS' })).body.detail).toMatch(/not in the route/);
    expect((await use(1, { code: 'ZZZ' })).body.field).toBe('code');
    expect((await use(1, { lotId: (await lot('T-1')).id })).body.detail).toMatch(/quarantine/);
  });
  it('a change of the bill frees what was reserved, and the lists are to be made again', async () => {
    const { body: now } = await viewer('GET', at);
    const saved = await winder('PUT', at, {
      version: now.version,
      typed: { cuff: '8', linerMaterial: 'Aramid paper 0.25' },
    });
    expect(saved.body).toMatchObject({ lists: null, typed: { cuff: '8' } });
    expect(saved.body.uses.every((u: { reserved: number }) => u.reserved === 0)).toBe(true);
    const again = await winder('POST', `${at}/lists`, { version: saved.body.version });
    expect(again.body.lists.bill.lines.find((l: { use: string }) => l.use === 'slot liner').material).toBe(
      'Aramid paper 0.25',
    );
    const wrong = await winder('PUT', at, { version: again.body.version, typed: { cuff: 'wide' } });
    expect(wrong.body.why).toMatch(/not a number|read|type/i);
    await winder('PUT', at, { version: wrong.body.version, typed: {} });
  });
  it('liner and winding are held until the lists are made; a foreman may override', async () => {
    const { body: job } = await viewer('GET', `jobs/${demo(7)}`);
    for (const code of ['CT2', 'DA2'])
      expect(job.detailSteps.find((s: { code: string }) => s.code === code).state).toBe('passed');
    await foreman('POST', `jobs/${demo(7)}/winding/release`, { revision: partOf(job).found.revision });
    await foreman('POST', `jobs/${demo(7)}/steps/DSG/start`, {});
    const done = await foreman('POST', `jobs/${demo(7)}/steps/DSG/finish`, { typed: { secondName: 'Tomas Brekke' } });
    expect(done.body).toMatchObject({ verdict: 'pass' });
    const wnd = async () =>
      (await viewer('GET', `jobs/${demo(7)}`)).body.detailSteps.find((s: { code: string }) => s.code === 'WND');
    expect(await wnd()).toMatchObject({ status: 'blocked', why: expect.stringMatching(/cutting and picking lists/) });
    const held = await winder('POST', `jobs/${demo(7)}/steps/WND/start`, {});
    expect([held.status, held.body.detail]).toEqual([
      409,
      expect.stringMatching(/cutting and picking lists are not made/),
    ]);
    expect((await winder('POST', `jobs/${demo(7)}/material/stator/lists`, { version: 0 })).body.detail ?? '').toBe('');
    expect(await wnd()).toMatchObject({ status: 'ready' });
    expect((await winder('POST', `jobs/${demo(7)}/steps/WND/start`, {})).status).toBeLessThan(300);
  });
});

describe('a changed rewind', () => {
  const wish = { lineVoltageV: 440, frequencyHz: 60 };
  async function candidate(number: string): Promise<Record<string, unknown>> {
    const { body: job } = await viewer('GET', `jobs/${number}`);
    const stock = (await lots()).flatMap((l) =>
      l.what.kind === 'wire' ? [{ bareM: l.what.bareM, label: l.what.label }] : [],
    );
    const { body } = await viewer('POST', 'calculations/winding.redesign', {
      record: partOf(job).found.record,
      nameplate: job.nameplate,
      wish: { ...wish, mostWires: 6, mostSizes: 2 },
      stock,
      many: 1,
    });
    const c = body.values.candidates[0];
    const keys = ['poles', 'connection', 'circuits', 'form', 'layers', 'spansSlots', 'turns', 'strands'];
    return Object.fromEntries(keys.map((k) => [k, c[k]]));
  }
  it('needs a reason and the foreman, keeps what it changes, and stands on the card', async () => {
    const number = demo(13);
    const { body: job } = await viewer('GET', `jobs/${number}`);
    const chosen = await candidate(number);
    const body = { revision: partOf(job).found.revision, redesign: { wish, candidate: chosen } };
    const release = (more: object) => foreman('POST', `jobs/${number}/winding/release`, { ...body, ...more });
    expect((await release({})).body).toMatchObject({ field: 'reason' });
    expect(
      (await winder('POST', `jobs/${number}/winding/release`, { ...body, reason: 'Moved to the 440 V quay.' })).status,
    ).toBe(403);
    const wrong = {
      ...body,
      reason: 'Moved to the 440 V quay.',
      redesign: { wish, candidate: { ...chosen, turns: 500 } },
    };
    expect((await foreman('POST', `jobs/${number}/winding/release`, wrong)).body.field).toBe('redesign');
    const made = await release({ reason: 'Moved to the 440 V quay.' });
    expect(made.status).toBe(201);
    expect(made.body.redesign.changes.map((c: { field: string }) => c.field)).toContain('frequencyHz');
    expect(made.body.redesign.nameplate).toMatchObject({ voltagesV: [440], frequencyHz: 60 });
    const { body: after } = await viewer('GET', `jobs/${number}`);
    expect(partOf(after).plan.reason).toBe('Moved to the 440 V quay.');
    expect(partOf(after).found.revision).toBe(partOf(job).found.revision);
    expect((await viewer('GET', `jobs/${number}/card.pdf`)).status).toBe(200);
    // lists of the plan before it no longer hold
    expect((await viewer('GET', `jobs/${number}/material/stator`)).body.lists).toBeNull();
  });
  it('goes with the job to another Norther: changes, nameplate, lists', async () => {
    await winder('POST', `jobs/${demo(13)}/material/stator/lists`, {
      version: (await viewer('GET', `jobs/${demo(13)}/material/stator`)).body.version,
    });
    const { body: whole } = await viewer('GET', `jobs/${demo(13)}/export.json`);
    // readings keep their own ids, which this same shop has already
    const file = { ...whole, tests: [] };
    expect(file.material[0].lists.bill.lines.length).toBeGreaterThan(5);
    const brought = await admin('POST', 'import', { ...file, job: { ...file.job, number: 'X-13' } });
    expect(brought.body.detail ?? '').toBe('');
    const { body: job } = await viewer('GET', `jobs/${brought.body.number}`);
    expect(partOf(job).plan.redesign?.nameplate).toMatchObject({ voltagesV: [440], frequencyHz: 60 });
    const { body: sheet } = await viewer('GET', `jobs/${brought.body.number}/material/stator`);
    expect(sheet.lists.bill.lines.length).toBe(file.material[0].lists.bill.lines.length);
    // a file from before has none of it and is taken all the same
    const { material: _m, ...older } = file;
    const old = { ...older, windings: older.windings.map(({ redesign: _r, ...w }: { redesign: unknown }) => w) };
    expect((await admin('POST', 'import', { ...old, job: { ...old.job, number: 'X-14' } })).body.detail ?? '').toBe('');
  });
  it('the shop keeps its weights and materials', async () => {
    const { body: shop } = await admin('GET', 'shop');
    expect(shop.settings.redesignWeights).toEqual({ flux: 4, loss: 2, fill: 1, ease: 1 });
    expect(shop.settings.materials.length).toBeGreaterThan(8);
    const settings = { ...shop.settings, redesignWeights: { flux: 1, loss: 8, fill: 1, ease: 0 } };
    expect((await admin('PUT', 'shop', { version: shop.version, settings })).body.settings.redesignWeights.loss).toBe(
      8,
    );
    const twice = { ...settings, materials: [...settings.materials, settings.materials[0]] };
    expect((await admin('PUT', 'shop', { version: shop.version + 1, settings: twice })).body.field).toBe('materials');
  });
});

describe('coils of strip', () => {
  it('their lists name strip, tapes and pieces; what the store has of them is promised', async () => {
    const number = demo(22);
    expect((await winder('GET', `jobs/${number}/material/stator`)).body.why).toMatch(/not released as a plan/);
    await released(number);
    const tape = await foreman('POST', 'stock', {
      lot: 'GT-1',
      what: { kind: 'material', name: 'Mica tape on glass 0.13 × 25' },
      unit: 'm',
      quantity: 6000,
    });
    expect(tape.body.detail ?? '').toBe('');
    const { body: sheet } = await winder('GET', `jobs/${number}/material/stator`);
    const made = await foreman('POST', `jobs/${number}/material/stator/lists`, { version: sheet.version });
    expect(made.body.detail ?? '').toBe('');
    const { bill, lines } = made.body.lists;
    expect(bill.lines.map((l: { use: string }) => l.use)).toEqual(
      expect.arrayContaining(['strip', 'turn tape', 'ground-wall tape', 'slot strip', 'wedge', 'lead cable']),
    );
    const at = bill.lines.findIndex((l: { use: string }) => l.use === 'ground-wall tape');
    expect(lines[at]).toMatchObject({ short: 0, picks: [{ lot: 'GT-1', quantity: bill.lines[at].quantity }] });
    expect((await lot('GT-1')).free).toBeCloseTo(6000 - bill.lines[at].quantity, 6);
    for (const file of ['cutting.pdf', 'picking.pdf', 'bill.csv', 'bill.json']) {
      const got = await winder('GET', `jobs/${number}/material/stator/${file}`);
      expect([file, got.status]).toEqual([file, 200]);
    }
  });
});
