import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { LineKeeper, TAB_GONE_MS, type FromLine, type ToLine } from './lineKeeper.ts';
import { after, withSamples } from './useTrace.ts';

/** An event stream that the test speaks for. */
class Source {
  static all: Source[] = [];
  static open = () => Source.all.filter((s) => !s.closed);
  readonly url: string;
  closed = false;
  onopen: () => void = () => undefined;
  onerror: () => void = () => undefined;
  onmessage: (e: { data: string; lastEventId: string }) => void = () => undefined;
  readonly on = new Map<string, (e: { data: string }) => void>();
  constructor(url: string) {
    this.url = url;
    Source.all.push(this);
  }
  addEventListener(name: string, on: (e: { data: string }) => void): void {
    this.on.set(name, on);
  }
  close(): void {
    this.closed = true;
  }
}

beforeEach(() => {
  vi.useFakeTimers();
  Source.all = [];
  vi.stubGlobal('EventSource', Source);
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

interface Tab {
  say: (m: ToLine) => void;
  got: FromLine[];
}
function tabs(keeper: LineKeeper, n: number, person = 'liv'): Tab[] {
  return Array.from({ length: n }, () => {
    const got: FromLine[] = [];
    const say = keeper.join((m) => got.push(m));
    say({ here: person });
    return { say, got };
  });
}
const one = (): Source => {
  const open = Source.open();
  expect(open).toHaveLength(1);
  return open[0] as Source;
};
const traces = Array.from({ length: 12 }, (_, i) => `trace-${String(i).padStart(2, '0')}`);

describe('the line of a browser', () => {
  it('is one for eight tabs that look at twelve traces; each tab gets its own', () => {
    const keeper = new LineKeeper();
    const all = tabs(keeper, 8);
    all.forEach((t, i) => t.say({ watch: traces.filter((_, k) => k % 8 === i) }));
    vi.advanceTimersByTime(200);
    const line = one();
    expect(new URLSearchParams(line.url.split('?')[1]).get('traces')).toBe(traces.join(','));
    for (const id of traces) line.on.get('samples')?.({ data: JSON.stringify({ id, x: [1], values: [[2]] }) });
    all.forEach((t, i) => {
      const ids = t.got.flatMap((m) => (typeof m === 'object' && 'samples' in m ? [m.samples.id] : []));
      expect(ids).toEqual(traces.filter((_, k) => k % 8 === i));
    });
    line.onmessage({ data: 'job:26-0001', lastEventId: 'a-5' });
    expect(all.every((t) => t.got.some((m) => typeof m === 'object' && 'topic' in m))).toBe(true);
  });
  it('goes on after what it had when other traces are looked at, and closes with the last tab', () => {
    const keeper = new LineKeeper();
    const [a, b] = tabs(keeper, 2) as [Tab, Tab];
    one().onmessage({ data: 'shop', lastEventId: 'p-7' });
    a.say({ watch: ['t1'] });
    vi.advanceTimersByTime(200);
    expect(one().url).toBe('/api/live?traces=t1&last=p-7');
    a.say('bye');
    vi.advanceTimersByTime(200);
    expect(one().url).toBe('/api/live?last=p-7');
    b.say('bye');
    vi.advanceTimersByTime(200);
    expect(Source.open()).toHaveLength(0);
  });
  it('asks anew for traces after the line was down, and forgets tabs that are gone', () => {
    const keeper = new LineKeeper();
    const [a, b] = tabs(keeper, 2) as [Tab, Tab];
    a.say({ watch: ['t1'] });
    b.say({ watch: ['t2'] });
    vi.advanceTimersByTime(200);
    const line = one();
    line.onopen();
    line.onerror();
    line.onopen();
    expect(a.got).toContainEqual({ again: 't1' });
    for (let s = 0; s <= TAB_GONE_MS + 20_000; s += 5000) {
      vi.advanceTimersByTime(5000);
      a.say({ here: 'liv' });
    }
    expect(one().url).toBe('/api/live?traces=t1');
  });
  it('a tab that joins what is brought already asks for it once: something may have come since it read', () => {
    const keeper = new LineKeeper();
    const [a, b] = tabs(keeper, 2) as [Tab, Tab];
    a.say({ watch: ['t1'] });
    vi.advanceTimersByTime(200);
    one().onopen();
    b.say({ watch: ['t1', 't2'] });
    b.say({ watch: ['t1'] });
    expect(b.got.filter((m) => typeof m === 'object' && 'again' in m)).toEqual([{ again: 't1' }]);
    // gone and back, as a page kept by the browser
    b.say('bye');
    b.say({ watch: ['t1'] });
    expect(b.got.filter((m) => typeof m === 'object' && 'again' in m)).toHaveLength(2);
    expect(a.got.filter((m) => typeof m === 'object' && 'again' in m)).toHaveLength(1);
  });
  it('belongs to who signed in last; signing out closes it for all', () => {
    const keeper = new LineKeeper();
    const [a, b] = tabs(keeper, 2) as [Tab, Tab];
    b.say({ here: 'odd' });
    expect(a.got).toContain('signed-out');
    a.say({ here: 'liv' });
    expect(Source.open()).toHaveLength(1);
    one().onmessage({ data: 'signed-out', lastEventId: '' });
    expect(b.got).toContain('signed-out');
    expect(Source.open()).toHaveLength(0);
    b.say({ here: 'odd' });
    one();
  });
});

describe('samples that come', () => {
  it('stand in their place, each once', () => {
    const tail = withSamples({ x: [1, 3], values: [[10, 30]] }, { x: [2, 3, 0], values: [[20, 99, null]] });
    expect(tail).toEqual({ x: [0, 1, 2, 3], values: [[null, 10, 20, 30]] });
    expect(after(tail, 1)).toEqual({ x: [2, 3], values: [[20, 30]] });
    expect(after(tail, 3)).toEqual({ x: [], values: [[]] });
    expect(withSamples({ x: [], values: [] }, { x: [5], values: [[1], [2]] })).toEqual({ x: [5], values: [[1], [2]] });
  });
});
