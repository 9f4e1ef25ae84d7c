import { Inject, Injectable } from '@nestjs/common';
import { collectDefaultMetrics, Counter, Gauge, Histogram, Registry } from 'prom-client';
import { Database } from '../database/database.ts';
import { QueueRepository } from '../queue/queueRepository.ts';

/** What this process counts, for whoever watches it. */
@Injectable()
export class Metrics {
  readonly registry = new Registry();
  readonly requests = new Counter({
    name: 'norther_requests_total',
    help: 'Requests answered, by route and status',
    labelNames: ['method', 'route', 'status'],
    registers: [this.registry],
  });
  readonly seconds = new Histogram({
    name: 'norther_request_seconds',
    help: 'How long requests took, by route',
    labelNames: ['method', 'route'],
    buckets: [0.01, 0.03, 0.1, 0.3, 1, 3, 10, 30],
    registers: [this.registry],
  });
  readonly streams = new Gauge({
    name: 'norther_streams',
    help: 'Event streams that are open',
    registers: [this.registry],
  });

  constructor(@Inject(Database) database: Database, @Inject(QueueRepository) queue: QueueRepository) {
    collectDefaultMetrics({ register: this.registry, prefix: 'norther_' });
    const { registry } = this;
    const registers = [registry];
    new Gauge({
      name: 'norther_pool_connections',
      help: 'Connections to the database: open, idle, and requests that wait for one',
      labelNames: ['state'],
      registers,
      collect() {
        this.set({ state: 'open' }, database.pool.totalCount);
        this.set({ state: 'idle' }, database.pool.idleCount);
        this.set({ state: 'waiting' }, database.pool.waitingCount);
      },
    });
    new Gauge({
      name: 'norther_queue',
      help: 'Work in the background: waiting, running, and workers that do it',
      labelNames: ['state'],
      registers,
      async collect() {
        try {
          for (const [state, n] of Object.entries(await queue.depth())) this.set({ state }, n);
        } catch {
          this.reset();
        }
      },
    });
  }
}
