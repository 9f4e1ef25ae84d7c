import 'reflect-metadata';
import type { NestFastifyApplication } from '@nestjs/platform-fastify';
import pg from 'pg';
import { inject } from 'vitest';
import { createApp } from '../app.ts';
import { Database } from '../database/database.ts';
import { DEMO_PASSWORD } from '../demo/demoPeople.ts';

export interface Answer {
  status: number;
  // answers are looked into by the tests field by field
  // eslint-disable-next-line @typescript-eslint/no-explicit-any
  body: any;
  headers: Headers;
}

export interface TestServer {
  app: NestFastifyApplication;
  base: string;
  pool: pg.Pool;
  as: (signIn: string) => Promise<Client>;
  stop: () => Promise<void>;
}
export type Client = (
  method: string,
  path: string,
  body?: unknown,
  headers?: Record<string, string>,
) => Promise<Answer>;

/** A server of its own on a database of its own, reached through HTTP like the interface reaches it. */
export async function startServer(name: string): Promise<TestServer> {
  const url = new URL(inject('databaseUrl'));
  const admin = new pg.Client({ connectionString: url.href });
  await admin.connect();
  await admin.query(`drop database if exists "${name}" with (force)`);
  await admin.query(`create database "${name}"`);
  await admin.end();
  url.pathname = `/${name}`;
  process.env['DATABASE_URL'] = url.href;
  const app = await createApp({ log: 'quiet' });
  await app.get(Database).migrate();
  await app.listen({ host: '127.0.0.1', port: 0 });
  const address = app.getHttpServer().address() as { port: number };
  const base = `http://127.0.0.1:${address.port}/api`;
  const as = async (signIn: string): Promise<Client> => {
    const signed = await fetch(`${base}/session`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ signIn, password: DEMO_PASSWORD }),
    });
    if (!signed.ok) throw new Error(`${signIn} could not sign in: ${await signed.text()}`);
    return client(
      base,
      signed.headers
        .getSetCookie()
        .map((c) => c.split(';')[0])
        .join('; '),
    );
  };
  return { app, base, pool: app.get(Database).pool, as, stop: () => app.close() };
}

export function client(base: string, cookie = ''): Client {
  return async (method, path, body, headers = {}) => {
    const raw = body instanceof Uint8Array;
    const response = await fetch(`${base}/${path}`, {
      method,
      headers: {
        ...(cookie ? { Cookie: cookie } : {}),
        ...(body === undefined || raw ? {} : { 'Content-Type': 'application/json' }),
        ...headers,
      },
      ...(body === undefined ? {} : { body: raw ? Buffer.from(body) : JSON.stringify(body) }),
    });
    const text = await response.text();
    let parsed: unknown = text;
    try {
      parsed = JSON.parse(text);
    } catch {
      // not JSON: PDF, CSV or empty
    }
    return { status: response.status, body: parsed, headers: response.headers };
  };
}
