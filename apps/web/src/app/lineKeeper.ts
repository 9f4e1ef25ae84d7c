/** New samples of a trace as the line brings them. */
export interface SamplesCame {
  id: string;
  x: number[];
  values: (number | null)[][];
}
/** What the line says to a tab. */
export type FromLine =
  { up: boolean } | { topic: string } | { samples: SamplesCame } | { again: string } | 'signed-out';
/** What a tab says to the line: that it is there (and for whom), which traces it looks at, that it goes. */
export type ToLine = { here: string } | { watch: string[] } | 'bye';

/** A tab that was not heard of for so long is gone. */
export const TAB_GONE_MS = 30_000;
/** Tabs say so often that they are there. */
export const TAB_HERE_MS = 10_000;
/** What is watched changes in bursts while screens open and close. */
const SETTLES_MS = 100;

interface Tab {
  say: (message: FromLine) => void;
  watch: readonly string[];
  heardAt: number;
  person: string;
}

/** The one event stream of a browser, whatever the number of its tabs; opened anew, after what it had, when they watch other traces. */
export class LineKeeper {
  private readonly tabs = new Set<Tab>();
  private source: EventSource | undefined;
  private person = '';
  private traces = '';
  private last = '';
  private isUp = false;
  private settle: ReturnType<typeof setTimeout> | undefined;
  constructor() {
    setInterval(() => this.sweep(), TAB_HERE_MS);
  }

  /** A tab comes; gives what takes its messages. */
  join(say: Tab['say']): (message: ToLine) => void {
    const tab: Tab = { say, watch: [], heardAt: Date.now(), person: '' };
    this.tabs.add(tab);
    return (message) => {
      tab.heardAt = Date.now();
      if (message === 'bye') {
        this.tabs.delete(tab);
        tab.watch = [];
        this.change();
      } else if ('watch' in message) {
        this.tabs.add(tab);
        // what the line brings already for others: what came between this tab's reading of it and now is asked for
        const brought = this.isUp ? this.traces.split(',') : [];
        const joined = message.watch.filter((id) => !tab.watch.includes(id) && brought.includes(id));
        tab.watch = message.watch;
        for (const id of joined) say({ again: id });
        this.change();
      } else {
        this.tabs.add(tab);
        const isNew = message.here !== tab.person;
        tab.person = message.here;
        if (isNew) say({ up: this.isUp });
        if (isNew && message.here !== this.person) {
          // somebody else signed in on this browser: the line is theirs now, and the other tabs become theirs too
          for (const other of this.tabs) if (other !== tab && other.person !== message.here) other.say('signed-out');
          this.last = '';
          this.open(message.here);
        } else if (!this.source && message.here !== '') this.open(message.here);
      }
    };
  }

  private tell(message: FromLine): void {
    for (const tab of this.tabs) tab.say(message);
  }

  private sweep(): void {
    const gone = [...this.tabs].filter((t) => Date.now() - t.heardAt > TAB_GONE_MS);
    for (const tab of gone) this.tabs.delete(tab);
    if (gone.length > 0) this.change();
  }

  private wanted(): string {
    return [...new Set([...this.tabs].flatMap((t) => t.watch))].sort().join(',');
  }

  private change(): void {
    clearTimeout(this.settle);
    this.settle = setTimeout(() => {
      if (this.tabs.size === 0) this.close();
      else if (this.source && this.wanted() !== this.traces) this.open(this.person);
    }, SETTLES_MS);
  }

  private close(): void {
    this.source?.close();
    this.source = undefined;
    this.isUp = false;
  }

  private open(person: string): void {
    this.source?.close();
    this.person = person;
    this.traces = this.wanted();
    const query = new URLSearchParams({
      ...(this.traces ? { traces: this.traces } : {}),
      ...(this.last ? { last: this.last } : {}),
    }).toString();
    const source = new EventSource(`/api/live${query ? `?${query}` : ''}`);
    this.source = source;
    const toWatchers = (id: string, message: FromLine) => {
      for (const tab of this.tabs) if (tab.watch.includes(id)) tab.say(message);
    };
    source.onopen = () => {
      this.isUp = true;
      this.tell({ up: true });
      // what came to a trace before the line was up is asked for: from here on nothing is missed
      for (const id of this.traces.split(',').filter(Boolean)) toWatchers(id, { again: id });
    };
    source.onerror = () => {
      this.isUp = false;
      this.tell({ up: false });
    };
    source.onmessage = (event: MessageEvent<string>) => {
      if (event.lastEventId) this.last = event.lastEventId;
      if (event.data === 'signed-out') {
        this.close();
        this.person = '';
        this.tell('signed-out');
      } else if (event.data !== 'hello') this.tell({ topic: event.data });
    };
    source.addEventListener('samples', (event: MessageEvent<string>) => {
      const samples = JSON.parse(event.data) as SamplesCame;
      toWatchers(samples.id, { samples });
    });
    source.addEventListener('again', (event: MessageEvent<string>) => toWatchers(event.data, { again: event.data }));
  }
}
