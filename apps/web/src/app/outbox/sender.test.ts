import { describe, expect, it } from 'vitest';
import { inMemory, type Kept, type NewWaiting, type Waiting } from './kept.ts';
import { Sender, type Sent } from './sender.ts';

const done = (number: string, what: NewWaiting['what'], person = 'liv'): NewWaiting => ({
  person,
  number,
  code: 'CUT',
  what,
  body: {},
});
const TAKEN: Sent = { outcome: 'taken', data: 'well' };
const refusedBecause = (detail: string): Sent => ({
  outcome: 'refused',
  problem: { type: 'about:blank', title: 'Not taken', status: 409, detail },
});

/** A sender with a server that answers by `answer`; what it got, in order. */
function shop(answer: (w: Waiting) => Sent | Promise<Sent>, o: { kept?: Kept; person?: string } = {}) {
  const got: Waiting[] = [];
  const told: (string | undefined)[] = [];
  const store = o.kept ?? inMemory();
  let keys = 0;
  let last: Promise<unknown> = Promise.resolve();
  const who = { person: o.person ?? 'liv' };
  const sender = new Sender({
    kept: () => Promise.resolve(store),
    send: async (w) => {
      got.push(w);
      return answer(w);
    },
    person: () => who.person,
    now: () => 1000,
    newKey: () => `key ${(keys += 1)}`,
    alone: (work) => {
      const mine = last.then(work, work);
      last = mine.catch(() => undefined);
      return mine;
    },
    changed: (number) => told.push(number),
  });
  return { sender, got, told, store, who };
}

describe('what is done at steps', () => {
  it('is sent at once where the server is there, and gives its answer', async () => {
    const { sender, got, store, told } = shop(() => TAKEN);
    expect(await sender.act(done('7', 'start'))).toEqual(TAKEN);
    expect(got).toMatchObject([{ number: '7', what: 'start', key: 'key 1', at: 1000 }]);
    expect(await store.all()).toEqual([]);
    expect(told).toContain('7');
  });
  it('waits without network, and is sent once and in order when it is back, under the same key', async () => {
    let up = false;
    const { sender, got, store } = shop(() => (up ? TAKEN : { outcome: 'nobody' }));
    for (const what of ['start', 'photograph', 'finish'] as const)
      expect(await sender.act(done('7', what))).toEqual({ outcome: 'waits' });
    expect((await store.all()).map((w) => w.what)).toEqual(['start', 'photograph', 'finish']);
    // each time only the oldest is tried
    expect(got.map((w) => w.key)).toEqual(['key 1', 'key 1', 'key 1']);
    up = true;
    got.length = 0;
    await Promise.all([sender.sendAll(), sender.sendAll(), sender.sendAll()]);
    expect(got.map((w) => [w.what, w.key])).toEqual([
      ['start', 'key 1'],
      ['photograph', 'key 2'],
      ['finish', 'key 3'],
    ]);
    expect(await store.all()).toEqual([]);
  });
  it('a line that drops in the middle loses nothing', async () => {
    let left = 0;
    const { sender, got, store } = shop(() => (left-- > 0 ? TAKEN : { outcome: 'nobody' }));
    for (const what of ['start', 'photograph', 'finish'] as const) await sender.act(done('7', what));
    left = 2;
    await sender.sendAll();
    expect((await store.all()).map((w) => w.what)).toEqual(['finish']);
    left = 9;
    await sender.sendAll();
    expect(got.filter((w) => w.what === 'finish').map((w) => w.key)).toEqual(['key 3', 'key 3']);
  });
  it('a new page finds what the last one kept', async () => {
    const store = inMemory();
    const before = shop(() => ({ outcome: 'nobody' }), { kept: store });
    await before.sender.act(done('7', 'start'));
    const after = shop(() => TAKEN, { kept: store });
    await after.sender.sendAll();
    expect(after.got).toMatchObject([{ key: 'key 1', what: 'start' }]);
  });
  it('refused while the person is there: the reason comes back and nothing stays', async () => {
    const { sender, store } = shop(() => refusedBecause('It runs already.'));
    expect(await sender.act(done('7', 'start'))).toMatchObject({
      outcome: 'refused',
      problem: { detail: 'It runs already.' },
    });
    expect(await store.all()).toEqual([]);
  });
  it('refused later: it stays with its reason, what follows of that motor waits behind it, others go on', async () => {
    let up = false;
    const { sender, got, store } = shop((w) =>
      !up ? { outcome: 'nobody' } : w.number === '7' && w.what === 'start' ? refusedBecause('It runs already.') : TAKEN,
    );
    await sender.act(done('7', 'start'));
    await sender.act(done('7', 'finish'));
    await sender.act(done('8', 'finish'));
    up = true;
    got.length = 0;
    await sender.sendAll();
    await sender.sendAll();
    expect(got.map((w) => `${w.number} ${w.what}`)).toEqual(['7 start', '8 finish']);
    expect((await store.all()).map((w) => [w.what, w.refused])).toEqual([
      ['start', 'It runs already.'],
      ['finish', ''],
    ]);
    const [stuck] = await store.all();
    await sender.drop(stuck as Waiting);
    expect(got.at(-1)).toMatchObject({ number: '7', what: 'finish' });
    expect(await store.all()).toEqual([]);
  });
  it('asked again it has a key of its own, as the server keeps its first answer under the old one', async () => {
    let answer: Sent = { outcome: 'nobody' };
    const { sender, got, store } = shop(() => answer);
    await sender.act(done('7', 'start'));
    answer = refusedBecause('Not yet.');
    await sender.sendAll();
    answer = TAKEN;
    await sender.again((await store.all())[0] as Waiting);
    expect(got.at(-1)?.key).toBe('key 2');
    expect(await store.all()).toEqual([]);
  });
  it('is sent under the sign-in of who did it', async () => {
    const { sender, got, who } = shop(() => TAKEN, { person: 'odd' });
    expect(await sender.act(done('7', 'start', 'liv'))).toEqual({ outcome: 'waits' });
    expect(got).toEqual([]);
    who.person = 'liv';
    await sender.sendAll();
    expect(got).toHaveLength(1);
  });
});
