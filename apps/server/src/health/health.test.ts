import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { client, startServer, type Client, type TestServer } from '../testing/server.ts';
import { logLevel, requestId } from './requestLog.ts';

let server: TestServer;
let open: Client;
beforeAll(async () => {
  server = await startServer('norther_health');
  open = client(server.base);
}, 120_000);
afterAll(() => server.stop());
afterEach(() => {
  delete process.env['NORTHER_METRICS_KEY'];
});

describe('how a server stands', () => {
  it('is alive without a look at the database', async () => {
    expect((await open('GET', 'health')).body).toEqual({ status: 'ok' });
  });
  it('is ready when database, shape and queue are there, and says who works', async () => {
    const { status, body } = await open('GET', 'ready');
    expect([status, body]).toEqual([200, { status: 'ready', workers: 1, waiting: 0 }]);
  });
  it('is not ready while a migration is missing, or the queue is', async () => {
    const last = await server.pool.query(
      'select id, created_at from drizzle.__drizzle_migrations order by created_at desc limit 1',
    );
    const { id, created_at: at } = last.rows[0];
    await server.pool.query('update drizzle.__drizzle_migrations set created_at = created_at - 1 where id = $1', [id]);
    expect(await open('GET', 'ready')).toMatchObject({
      status: 503,
      body: { detail: expect.stringContaining('newest shape') },
    });
    await server.pool.query('update drizzle.__drizzle_migrations set created_at = $2 where id = $1', [id, at]);
    await server.pool.query('alter table pgboss.version rename to version_away');
    expect(await open('GET', 'ready')).toMatchObject({
      status: 503,
      body: { detail: expect.stringContaining('queue') },
    });
    await server.pool.query('alter table pgboss.version_away rename to version');
    expect((await open('GET', 'ready')).status).toBe(200);
  });
});

describe('counts', () => {
  it('of requests, durations, pool, queue and streams, to this machine', async () => {
    await open('GET', 'nothing-here');
    await open('GET', 'setup');
    const { status, body } = await open('GET', 'metrics');
    expect(status).toBe(200);
    expect(body).toMatch(/norther_requests_total\{method="GET",route="\/api\/setup",status="200"\} \d/);
    expect(body).toMatch(/norther_request_seconds_bucket\{le="0.1",method="GET",route="\/api\/setup"\}/);
    expect(body).toMatch(/norther_pool_connections\{state="waiting"\} 0/);
    expect(body).toMatch(/norther_queue\{state="workers"\} 1/);
    expect(body).toMatch(/norther_streams 0/);
    // a made-up address is no label of its own: nobody fills the memory with names
    expect(body).not.toContain('nothing-here');
  });
  it.each([
    [{ 'X-Forwarded-For': '10.0.0.7' }, undefined, 403],
    [{}, 'a-long-key', 403],
    [{ Authorization: 'Bearer a-long-kez' }, 'a-long-key', 403],
    [{ Authorization: 'Bearer a-long-key' }, 'a-long-key', 200],
    [{ Authorization: 'Bearer a-long-key', 'X-Forwarded-For': '10.0.0.7' }, 'a-long-key', 200],
  ])('asked with %j, key %s: %i', async (headers, key, status) => {
    if (key) process.env['NORTHER_METRICS_KEY'] = key;
    expect((await open('GET', 'metrics', undefined, headers as Record<string, string>)).status).toBe(status);
  });
});

describe('what a request is known by', () => {
  it('every answer carries it, also a refusal; one from a proxy is kept', async () => {
    for (const path of ['health', 'jobs'])
      expect((await open('GET', path)).headers.get('x-request-id')).toMatch(/^[\w-]{36}$/);
    const own = await open('GET', 'health', undefined, { 'X-Request-Id': 'proxy-12345' });
    expect(own.headers.get('x-request-id')).toBe('proxy-12345');
  });
  it.each(['short', 'x'.repeat(81), 'with space 1', 'line\nbreak-1'])('"%s" is not taken over', (said) => {
    expect(requestId({ headers: { 'x-request-id': said } })).toMatch(/^[\w-]{36}$/);
  });
  it('NORTHER_LOG names a level', () => {
    expect(logLevel('info')).toBe('info');
    expect(logLevel('')).toBe('silent');
    expect(() => logLevel('loud')).toThrow(/NORTHER_LOG must be one of/);
  });
});
