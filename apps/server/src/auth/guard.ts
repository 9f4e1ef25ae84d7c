import { may, type Role } from '@norther/contracts';
import {
  type CanActivate,
  createParamDecorator,
  type ExecutionContext,
  Inject,
  Injectable,
  SetMetadata,
} from '@nestjs/common';
import { Reflector } from '@nestjs/core';
import { parse } from 'cookie';
import type { FastifyRequest } from 'fastify';
import { type Act, fingerprintOf } from '../database/writes.ts';
import type { person } from '../database/schema.ts';
import { Problem } from '../problem/problem.ts';
import { Sessions } from './sessions.ts';

export const SESSION_COOKIE = 'norther_session';
export const DEVICE_COOKIE = 'norther_device';
const OPEN = 'norther:open';
const NEEDS = 'norther:needs';

/** Reached without signing in. */
export const Open = (): MethodDecorator & ClassDecorator => SetMetadata(OPEN, true);
/** Needs at least this role; reading needs only a sign-in. */
export const Needs = (role: Role): MethodDecorator => SetMetadata(NEEDS, role);

export type PersonRow = typeof person.$inferSelect;
export type Request = FastifyRequest & { person?: PersonRow };

export function cookiesOf(request: FastifyRequest): Record<string, string | undefined> {
  return parse(request.headers.cookie ?? '');
}

/** Everybody signs in, and every change needs the role named at its route. */
@Injectable()
export class RoleGuard implements CanActivate {
  readonly reflector: Reflector;
  readonly sessions: Sessions;
  constructor(@Inject(Reflector) reflector: Reflector, @Inject(Sessions) sessions: Sessions) {
    this.reflector = reflector;
    this.sessions = sessions;
  }

  async canActivate(context: ExecutionContext): Promise<boolean> {
    const targets = [context.getHandler(), context.getClass()];
    if (this.reflector.getAllAndOverride<boolean>(OPEN, targets)) return true;
    const request = context.switchToHttp().getRequest<Request>();
    const token = cookiesOf(request)[SESSION_COOKIE];
    const row = token ? await this.sessions.personOf(token) : undefined;
    if (!row) throw new Problem(401, 'Not signed in', 'Sign in first.');
    request.person = row;
    const needed =
      this.reflector.getAllAndOverride<Role>(NEEDS, targets) ?? (request.method === 'GET' ? 'viewer' : 'admin');
    if (!may(row.role as Role, needed)) {
      throw new Problem(403, 'Not allowed', `This needs the role ${needed}; ${row.name} is signed in as ${row.role}.`);
    }
    return true;
  }
}

/** Who acts: the signed-in person, the time, and the idempotency key of the request. */
export const Acting = createParamDecorator((_: unknown, context: ExecutionContext): Act => {
  const request = context.switchToHttp().getRequest<Request>();
  if (!request.person) throw new Problem(401, 'Not signed in', 'Sign in first.');
  const header = request.headers['idempotency-key'];
  const key = typeof header === 'string' && header.length > 0 && header.length <= 200 ? header : undefined;
  return {
    actor: { id: request.person.id, name: request.person.name, role: request.person.role as Role },
    at: new Date(),
    key,
    fingerprint: key === undefined ? undefined : fingerprintOf(request.method, request.url, request.body),
  };
});
