import { Inject, Injectable, type OnApplicationShutdown } from '@nestjs/common';
import type { Subscription } from 'rxjs';
import { Database } from '../database/database.ts';
import { unpack } from '../trace/packing.ts';
import { TraceRepository } from '../trace/traceRepository.ts';
import { Live } from './live.ts';

/** New samples of one trace, in the order of its chunks; x in the trace's unit. */
export interface Samples {
  id: string;
  x: number[];
  values: (number | null)[][];
}
/** Events of one trace are at least this far apart: ten a second. */
const APART_MS = 100;
/** Chunks that wait to be read; with more, the screen asks for the trace again. */
const MOST_WAITING = 200;

interface Feed {
  channels: number;
  /** x of the newest sample that was sent, once something was */
  to: number | undefined;
  sinks: Set<(what: Samples | 'again') => void>;
  /** numbers of the chunks that came and are not read yet */
  waiting: Set<number>;
  sentAt: number;
  timer: NodeJS.Timeout | undefined;
}

/**
 * Sends what comes to a trace on to whoever looks at it. The notice from the database carries numbers only; each chunk is read once
 * in each process, however many look.
 */
@Injectable()
export class TraceFeed implements OnApplicationShutdown {
  readonly database: Database;
  readonly traces: TraceRepository;
  private readonly feeds = new Map<string, Feed>();
  private readonly subscription: Subscription;
  constructor(
    @Inject(Database) database: Database,
    @Inject(TraceRepository) traces: TraceRepository,
    @Inject(Live) live: Live,
  ) {
    this.database = database;
    this.traces = traces;
    this.subscription = live.topics.subscribe((topic) => this.hear(topic));
  }

  /** Watches a trace until the function given back is called. Nothing is sent of a trace that is not there. */
  watch(id: string, sink: (what: Samples | 'again') => void): () => void {
    let feed = this.feeds.get(id);
    if (!feed) {
      feed = { channels: 0, to: undefined, sinks: new Set(), waiting: new Set(), sentAt: 0, timer: undefined };
      this.feeds.set(id, feed);
    }
    const mine = feed;
    mine.sinks.add(sink);
    return () => {
      mine.sinks.delete(sink);
      if (mine.sinks.size > 0) return;
      clearTimeout(mine.timer);
      this.feeds.delete(id);
    };
  }

  private hear(topic: string): void {
    // the line to the database was away: nobody knows what came meanwhile
    if (topic === 'all') for (const feed of this.feeds.values()) this.again(feed);
    const [kind, id, chunk] = topic.split(':');
    if (kind !== 'trace' || !id) return;
    const feed = this.feeds.get(id);
    if (!feed) return;
    if (chunk === undefined || feed.waiting.size >= MOST_WAITING) return this.again(feed);
    feed.waiting.add(Number(chunk));
    feed.timer ??= setTimeout(() => void this.send(id, feed), Math.max(0, feed.sentAt + APART_MS - Date.now()));
  }

  private again(feed: Feed): void {
    feed.waiting.clear();
    for (const sink of feed.sinks) sink('again');
  }

  private async send(id: string, feed: Feed): Promise<void> {
    const firsts = [...feed.waiting].sort((a, b) => a - b);
    feed.waiting.clear();
    try {
      const chunks = await this.traces.chunksAt(this.database.tables, id, firsts);
      const head = feed.to === undefined ? await this.traces.head(this.database.tables, id) : undefined;
      feed.channels ||= head?.channels.length ?? 0;
      const { x, values } = unpack(chunks, feed.channels);
      const samples: Samples = {
        id,
        x: Array.from(x),
        values: values.map((channel) => Array.from(channel, (v) => (Number.isNaN(v) ? null : v))),
      };
      if (x.length > 0) {
        const oldest = x.reduce((a, b) => Math.min(a, b));
        const newest = x.reduce((a, b) => Math.max(a, b));
        // what came late lies among what the screens have: they cannot put it in its place among points they do not hold
        const late = feed.to === undefined ? newest < (head?.to ?? newest) : oldest <= feed.to;
        feed.to = Math.max(feed.to ?? newest, newest, head?.to ?? newest);
        for (const sink of feed.sinks) sink(late ? 'again' : samples);
      }
    } catch {
      this.again(feed);
    }
    feed.sentAt = Date.now();
    feed.timer =
      feed.waiting.size > 0 && this.feeds.get(id) === feed
        ? setTimeout(() => void this.send(id, feed), APART_MS)
        : undefined;
  }

  onApplicationShutdown(): void {
    this.subscription.unsubscribe();
    for (const feed of this.feeds.values()) clearTimeout(feed.timer);
  }
}
