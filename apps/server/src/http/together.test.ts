import { describe, expect, it } from 'vitest';
import { Together, TogetherBy } from './together.ts';

/** A reading that ends when the test says so. */
function gated() {
  const ends: { done: (v: number) => void; fail: (e: Error) => void }[] = [];
  let value = 0;
  const read = () => new Promise<number>((done, fail) => ends.push({ done, fail }));
  return {
    read,
    begun: () => ends.length,
    end: (i: number) => ends[i]?.done(++value),
    fail: (i: number) => ends[i]?.fail(new Error('no database')),
  };
}
const turn = () => new Promise((r) => setTimeout(r, 0));

describe('who asks together', () => {
  it('shares a reading that begins after they asked, never one from before', async () => {
    const g = gated();
    const together = new Together(g.read);
    const first = together.ask();
    const late = Array.from({ length: 60 }, () => together.ask());
    expect(g.begun()).toBe(1);
    g.end(0);
    expect(await first).toBe(1);
    await turn();
    expect(g.begun()).toBe(2);
    // asked while the second runs: a third
    const later = together.ask();
    g.end(1);
    expect(await Promise.all(late)).toEqual(late.map(() => 2));
    await turn();
    g.end(2);
    expect(await later).toBe(3);
    await turn();
    expect(together.isIdle).toBe(true);
    expect(g.begun()).toBe(3);
  });
  it('a reading that breaks is told to those who shared it; the next is tried', async () => {
    const g = gated();
    const together = new Together(g.read);
    const first = together.ask();
    const second = together.ask();
    g.fail(0);
    await expect(first).rejects.toThrow('no database');
    await turn();
    g.end(1);
    expect(await second).toBe(1);
    const third = together.ask();
    g.fail(2);
    await expect(third).rejects.toThrow();
    expect(g.begun()).toBe(3);
  });
  it('by key, and nothing is kept of what nobody asks for', async () => {
    const asked: string[] = [];
    const by = new TogetherBy(async (key) => {
      asked.push(key);
      await turn();
      return key.toUpperCase();
    });
    expect(await Promise.all(['a', 'b', 'a', 'a'].map((k) => by.ask(k)))).toEqual(['A', 'B', 'A', 'A']);
    expect(asked.sort()).toEqual(['a', 'a', 'b']);
    await turn();
    expect(by.size).toBe(0);
  });
});
