import { randomUUID } from 'node:crypto';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import { pino } from 'pino';
import type { Request } from '../auth/guard.ts';
import type { Metrics } from './metrics.ts';

/** Requests that take longer are logged even where only trouble is. */
const SLOW_MS = 5000;
const LEVELS = ['debug', 'info', 'warn', 'error', 'silent'];

/** The level of NORTHER_LOG: `info` logs every request, `warn` (as it comes) slow and broken ones. */
export function logLevel(said = process.env['NORTHER_LOG']): string {
  if (!said) return process.env['NORTHER_TESTS'] === 'yes' ? 'silent' : 'warn';
  if (!LEVELS.includes(said)) throw new Error(`NORTHER_LOG must be one of ${LEVELS.join(', ')}.`);
  return said;
}

/** What a request is known by: as it came from a proxy of ours, else made here. Answers carry it as X-Request-Id. */
export const requestId = (request: { headers: Record<string, string | string[] | undefined> }): string => {
  const said = request.headers['x-request-id'];
  return typeof said === 'string' && /^[\w.-]{8,80}$/.test(said) ? said : randomUUID();
};

/** One line of JSON for each request: id, person, route, status, duration; and its counts. Never a body, a query or a name typed. */
export function hangLog(fastify: FastifyInstance, metrics: () => Metrics): void {
  const log = pino({ level: logLevel(), base: null, timestamp: pino.stdTimeFunctions.isoTime });
  fastify.addHook('onSend', async (request: FastifyRequest, reply) => {
    void reply.header('X-Request-Id', request.id);
  });
  fastify.addHook('onResponse', async (request: FastifyRequest, reply) => {
    const route = request.routeOptions.url ?? 'none';
    const ms = Math.round(reply.elapsedTime);
    const { method } = request;
    metrics().requests.inc({ method, route, status: String(reply.statusCode) });
    metrics().seconds.observe({ method, route }, reply.elapsedTime / 1000);
    const line = {
      id: request.id,
      person: (request as Request).person?.name,
      method,
      route,
      status: reply.statusCode,
      ms,
    };
    if (reply.statusCode >= 500) log.error(line, 'request broke');
    else if (ms > SLOW_MS) log.warn(line, 'request was slow');
    else log.info(line, 'request');
  });
}
