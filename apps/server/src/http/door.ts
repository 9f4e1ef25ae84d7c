import { may, type Role } from '@norther/contracts';
import type { FastifyInstance, FastifyReply, FastifyRequest } from 'fastify';
import { cookiesOf, type Request, SESSION_COOKIE } from '../auth/guard.ts';
import type { Sessions } from '../auth/sessions.ts';
import type { Instruments } from '../instrument/instruments.ts';
import { Problem } from '../problem/problem.ts';
import { answerProblem } from '../problem/problemFilter.ts';
import { readJson } from './jsonBody.ts';
import { ORDINARY_BYTES, type RouteFacts } from './routeFacts.ts';

/** Pages of the API's description, served by a library and not by a controller. */
const DESCRIPTION = /^\/api\/(docs|openapi\.json)(\/|$|\?)/;
const FILE_TYPES = ['image/jpeg', 'image/png', 'image/webp', 'application/pdf', 'application/octet-stream'];
// eslint-disable-next-line no-control-regex
const CONTROL = /[\u0000-\u001f\u007f]/;

/**
 * The door every request comes through, before its body is read: who asks, whether the role is enough, whether a change comes from
 * a page of this Norther, and how large it may be.
 */
export function hangDoor(fastify: FastifyInstance, sessions: () => Sessions, instruments: () => Instruments): void {
  fastify.addHook('onRoute', (route) => {
    route.bodyLimit = (route.config as RouteFacts | undefined)?.mostBytes ?? ORDINARY_BYTES;
  });
  fastify.removeContentTypeParser(['application/json', 'text/plain']);
  fastify.addContentTypeParser('application/json', { parseAs: 'buffer' }, (_request, body, done) => {
    try {
      done(null, readJson(body as Buffer));
    } catch (error) {
      done(error as Error);
    }
  });
  fastify.addContentTypeParser(FILE_TYPES, { parseAs: 'buffer' }, (_request, body, done) => done(null, body));
  fastify.addHook('onRequest', async (request: FastifyRequest) => {
    if (request.is404) return;
    const facts = (request.routeOptions.config ?? {}) as RouteFacts;
    refuseOddAddress(request);
    const changes = request.method !== 'GET' && request.method !== 'HEAD';
    if (changes) {
      // a key is no cookie: no page can send it unasked
      if (!facts.byKey) refuseForeignPage(request);
      refuseOddBody(request, facts);
    }
    if (facts.open || !request.url.startsWith('/api/') || DESCRIPTION.test(request.url)) return;
    if (facts.byKey) {
      const instrument = await instruments().ofKey(request.headers.authorization);
      if (!instrument)
        throw new Problem(401, 'Not known', 'Send the key of the instrument: Authorization: Bearer ni_…');
      (request as Request).instrument = instrument;
      return;
    }
    const token = cookiesOf(request)[SESSION_COOKIE];
    const person = token ? await sessions().personOf(token) : undefined;
    if (!person) throw new Problem(401, 'Not signed in', 'Sign in first.');
    (request as Request).person = person;
    const needed = facts.needs ?? (changes ? 'admin' : 'viewer');
    if (!may(person.role as Role, needed))
      throw new Problem(
        403,
        'Not allowed',
        `This needs the role ${needed}; ${person.name} is signed in as ${person.role}.`,
      );
  });
}

/** A key said twice, or characters no name holds, are refused before anything reads them. */
function refuseOddAddress(request: FastifyRequest): void {
  for (const [key, value] of Object.entries((request.query ?? {}) as Record<string, unknown>)) {
    if (Array.isArray(value))
      throw new Problem(400, 'Not taken', `${key} stands twice in the address; say it once.`, { field: key });
    if (typeof value === 'string' && CONTROL.test(value))
      throw new Problem(400, 'Not taken', `${key} holds characters that no name has.`, { field: key });
  }
  for (const [key, value] of Object.entries((request.params ?? {}) as Record<string, unknown>))
    if (typeof value === 'string' && CONTROL.test(value))
      throw new Problem(400, 'Not taken', 'This address holds characters that no name has.', { field: key });
}

/** A browser says which page a change comes from; only pages of this Norther may change anything. */
function refuseForeignPage(request: FastifyRequest): void {
  const origin = request.headers.origin;
  const site = request.headers['sec-fetch-site'];
  const foreign = new Problem(
    403,
    'Not allowed',
    'This change comes from another page than Norther; nothing was changed.',
  );
  if (origin !== undefined) {
    let host: string;
    try {
      host = new URL(origin).host;
    } catch {
      throw foreign;
    }
    if (host !== request.host) throw foreign;
  } else if (site !== undefined && site !== 'same-origin' && site !== 'none') throw foreign;
}

function refuseOddBody(request: FastifyRequest, facts: RouteFacts): void {
  const said = request.headers['content-type'];
  const has = request.headers['transfer-encoding'] !== undefined || Number(request.headers['content-length'] ?? 0) > 0;
  if (!has && said === undefined) return;
  const type = (said ?? '').split(';')[0]?.trim().toLowerCase() ?? '';
  const fits = facts.takesFile ? FILE_TYPES.includes(type) : type === 'application/json';
  if (!fits)
    throw new Problem(
      415,
      'Not taken',
      facts.takesFile
        ? 'Send a JPEG, PNG or WebP photograph, or a PDF.'
        : 'Only JSON is taken here: send it with Content-Type application/json.',
    );
}

/** Addresses the router cannot read are answered as everything else is. */
export function answerOddAddress(error: Error & { code?: string }, request: FastifyRequest, reply: FastifyReply): void {
  const long = error.code === 'FST_ERR_MAX_PARAM_LENGTH';
  answerProblem(
    reply,
    new Problem(
      long ? 414 : 400,
      long ? 'Too long' : 'Not taken',
      long ? 'A part of this address is too long.' : 'This address cannot be read.',
    ),
    request,
  );
}

/** What is not even HTTP gets its answer on the bare line. */
export function answerOddLine(
  this: unknown,
  error: NodeJS.ErrnoException,
  socket: NodeJS.Socket & { writable: boolean; destroy: () => void },
): void {
  if (error.code === 'ECONNRESET' || !socket.writable) return socket.destroy();
  const long = error.code === 'HPE_HEADER_OVERFLOW';
  const status = long ? 431 : error.code === 'ERR_HTTP_REQUEST_TIMEOUT' ? 408 : 400;
  const detail = long ? 'The address or the headers are too long.' : 'This is no request that can be read.';
  const body = JSON.stringify({ type: 'about:blank', title: 'Not taken', status, detail });
  socket.end(
    `HTTP/1.1 ${status} Not taken\r\nContent-Type: application/problem+json\r\nContent-Length: ${Buffer.byteLength(body)}\r\nConnection: close\r\n\r\n${body}`,
  );
}
