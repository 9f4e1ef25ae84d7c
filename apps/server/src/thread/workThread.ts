import { Worker } from 'node:worker_threads';
import { CalculationInputError } from '@norther/core';
import { Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import { afterTransaction } from '../database/database.ts';
import type { Done, Order, Work, WorkName } from './work.ts';

/** Orders at most waiting for the thread before more are turned away. */
const MOST_ORDERS = 200;

export class TooMuchWork extends Error {}

/** What lays out papers does not wait for what judges logs of a million rows. */
const LANES = ['papers', 'figures'] as const;
type Lane = (typeof LANES)[number];
const FIGURES: readonly WorkName[] = ['ovenLog', 'ovenTrace', 'surgeCsv', 'otherwise', 'calculation'];
const laneOf = (name: WorkName): Lane => (FIGURES.includes(name) ? 'figures' : 'papers');

/**
 * Threads beside the one that serves: papers are laid out and long logs judged there, so that nobody else waits for them.
 * A thread that died is replaced; what it had in hand is answered as broken.
 */
@Injectable()
export class WorkThread implements OnApplicationShutdown {
  private readonly lanes: Record<Lane, LaneThread> = { papers: new LaneThread(), figures: new LaneThread() };

  async do<N extends WorkName>(name: N, input: Parameters<Work[N]>[0]): Promise<Awaited<ReturnType<Work[N]>>> {
    return this.lanes[laneOf(name)].do(name, input) as Promise<Awaited<ReturnType<Work[N]>>>;
  }

  async onApplicationShutdown(): Promise<void> {
    await Promise.all(LANES.map((lane) => this.lanes[lane].end()));
  }
}

class LaneThread {
  private worker: Worker | undefined;
  private next = 1;
  private ending = false;
  private readonly waiting = new Map<number, { resolve: (v: unknown) => void; reject: (e: Error) => void }>();
  private readonly log = new Logger('thread');

  async do(name: WorkName, input: unknown): Promise<unknown> {
    if (this.waiting.size >= MOST_ORDERS) throw new TooMuchWork(`${this.waiting.size} orders wait for the thread`);
    const id = this.next++;
    return new Promise((resolve, reject) => {
      this.waiting.set(id, { resolve, reject });
      const order: Order = { id, name, input };
      this.open().postMessage(order);
    });
  }

  private open(): Worker {
    if (this.worker) return this.worker;
    const source = import.meta.url.endsWith('.ts');
    const worker = afterTransaction(
      () =>
        new Worker(new URL(source ? './source.mjs' : './entry.js', import.meta.url), {
          ...(source ? { execArgv: ['--conditions=norther-source'] } : {}),
          resourceLimits: { maxOldGenerationSizeMb: 6144 },
        }),
    );
    worker.on('message', (done: Done) => {
      const order = this.waiting.get(done.id);
      this.waiting.delete(done.id);
      if ('value' in done) order?.resolve(toBuffer(done.value));
      else if ('problems' in done) order?.reject(new CalculationInputError(done.problems));
      else order?.reject(new Error(`work in the thread broke: ${done.broke}`));
    });
    const gone = (why: string) => {
      if (this.worker !== worker) return;
      this.worker = undefined;
      if (this.waiting.size > 0 && !this.ending) this.log.error(`the thread ended: ${why}`);
      for (const { reject } of this.waiting.values()) reject(new Error(`the thread ended: ${why}`));
      this.waiting.clear();
    };
    worker.on('error', (e) => gone(e.message));
    worker.on('exit', (code) => gone(`code ${code}`));
    worker.unref();
    this.worker = worker;
    return worker;
  }

  async end(): Promise<void> {
    this.ending = true;
    await this.worker?.terminate();
  }
}

/** A buffer comes through the door as plain bytes. */
const toBuffer = (value: unknown): unknown =>
  value instanceof Uint8Array && !Buffer.isBuffer(value)
    ? Buffer.from(value.buffer, value.byteOffset, value.byteLength)
    : value;
