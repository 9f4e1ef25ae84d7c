import { describe, expect, it } from 'vitest';
import { demo } from '../testing/demoNumber.ts';
import { demoShop } from '../testing/shopPeople.ts';
import { idle } from '../testing/server.ts';
import { BROUGHT_AT_ONCE, COMPARED_AT_ONCE } from './archive.ts';
import { ArchiveRepository } from './archiveRepository.ts';
import { MOST_RANKED, rank } from './likeness.ts';

const { server, winder, viewer, admin, foreman } = demoShop('norther_archive');

const row = (line: number, more: object = {}) => ({
  line,
  title: `Old fan ${line}`,
  plateTyped: { outputW: String(1 + (line % 40)), voltagesV: '400', frequencyHz: '50', speedRpm: '1455' },
  typed: {
    slots: '36',
    poles: '4',
    layers: 'double',
    form: 'lap',
    spansSlots: '1-9',
    turns: String(20 + (line % 30)),
    ...more,
  },
});
const table = (n: number, odd: Record<number, object> = {}) => ({
  fileName: 'decades.csv',
  rows: Array.from({ length: n }, (_, i) => row(i + 2, odd[i + 2])),
});
const kept = async () => server().app.get(ArchiveRepository).count();
const ended = async (id: string) => {
  await idle(server().app);
  return (await viewer('GET', `work/${id}`)).body;
};

describe('a long table of old records', () => {
  it(`is read in the background beyond ${BROUGHT_AT_ONCE} rows, all or none`, async () => {
    const before = await kept();
    const short = await admin('POST', 'archive', table(BROUGHT_AT_ONCE));
    expect(short.body).toEqual({ kept: BROUGHT_AT_ONCE });
    const long = await admin('POST', 'archive', table(BROUGHT_AT_ONCE + 1));
    expect(long.status).toBe(201);
    expect(await ended(long.body.work)).toMatchObject({
      kind: 'archiveImport',
      state: 'done',
      progress: 1,
      result: { kept: BROUGHT_AT_ONCE + 1 },
    });
    expect(await kept()).toBe(before + 2 * BROUGHT_AT_ONCE + 1);
    const wrong = await admin(
      'POST',
      'archive',
      table(BROUGHT_AT_ONCE + 50, { 240: { poles: '2' }, 7: { slots: '' } }),
    );
    const failed = await ended(wrong.body.work);
    expect(failed.state).toBe('failed');
    expect(failed.problem).toMatch(/Nothing was kept\..*Line 7: Slots and poles are needed\..*Line 240: 2 poles/);
    expect(await kept()).toBe(before + 2 * BROUGHT_AT_ONCE + 1);
  });
});

describe('a large archive', () => {
  const key = `job/${demo(4)}/stator`;
  it('is compared in the background, with the same result as at once', async () => {
    expect(await kept()).toBeGreaterThan(COMPARED_AT_ONCE);
    const asked = (await viewer('POST', 'archive/similar', { key })).body;
    expect(asked).toEqual({ work: expect.any(String) });
    expect((await ended(asked.work)).state).toBe('done');
    const { entries } = (await winder('GET', `archive/similar/${asked.work}`)).body;
    const records = server().app.get(ArchiveRepository);
    const [own] = await records.byKeys([key]);
    if (!own) throw new Error('not there');
    const plate = own.nameplate;
    const direct = rank(
      { record: own.record, nameplate: plate, without: key, rail: 'stator' },
      await records.compared(),
    );
    expect(entries.map((e: { score: number }) => e.score)).toEqual(direct.map((r) => r.score));
    expect(entries).toHaveLength(MOST_RANKED);
    expect(entries[0]).toMatchObject({ title: expect.any(String), differs: expect.any(Array) });
    expect(entries.some((e: { key: string }) => e.key === key)).toBe(false);
  });
  it('what is no comparison is not found; one that was cancelled says so in its work', async () => {
    const backup = await admin('POST', 'work/backup');
    for (const id of ['x', crypto.randomUUID(), backup.body.id])
      expect((await viewer('GET', `archive/similar/${id}`)).status).toBe(404);
    expect((await viewer('POST', 'archive/similar', { key: 'old/none' })).status).toBe(404);
  });
  it('the list shows the newest and reads no more of it', async () => {
    const list = (await foreman('GET', 'archive?q=old%20fan')).body as { title: string }[];
    expect(list).toHaveLength(60);
  });
});
