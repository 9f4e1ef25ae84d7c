import { createParamDecorator, type ExecutionContext } from '@nestjs/common';
import { parse } from 'cookie';
import type { FastifyRequest } from 'fastify';
import { now } from '../clock/clock.ts';
import { type Act, fingerprintOf } from '../database/writes.ts';
import type { InstrumentRow } from '../instrument/instrumentRepository.ts';
import type { PersonRow } from './peopleRepository.ts';
import { Problem } from '../problem/problem.ts';
import { waitedS } from '../process/doneAt.ts';

export { Needs, Open } from '../http/routeFacts.ts';

export const SESSION_COOKIE = 'norther_session';
export const DEVICE_COOKIE = 'norther_device';

export type { PersonRow } from './peopleRepository.ts';
/** A request that came through the door (`http/door.ts`): signed in, unless its route is open. */
export type Request = FastifyRequest & { person?: PersonRow; instrument?: InstrumentRow };

export function cookiesOf(request: FastifyRequest): Record<string, string | undefined> {
  return parse(request.headers.cookie ?? '');
}

/** Who acts: the signed-in person, the time, and the idempotency key of the request. */
export const Acting = createParamDecorator((_: unknown, context: ExecutionContext): Act => {
  const request = context.switchToHttp().getRequest<Request>();
  if (!request.person) throw new Problem(401, 'Not signed in', 'Sign in first.');
  const header = request.headers['idempotency-key'];
  const key = typeof header === 'string' && header.length > 0 && header.length <= 200 ? header : undefined;
  return {
    actor: { id: request.person.id, name: request.person.name, role: request.person.role },
    at: now(),
    waitedS: waitedS(request.headers['x-waited-s']),
    key,
    session: { token: cookiesOf(request)[SESSION_COOKIE] ?? '', device: cookiesOf(request)[DEVICE_COOKIE] },
    fingerprint: key === undefined ? undefined : fingerprintOf(request.method, request.url, request.body),
  };
});
