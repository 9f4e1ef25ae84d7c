import { serialize } from 'cookie';
import type { FastifyReply } from 'fastify';

/** httpOnly and same-site; not "secure", since the shop's tablets come over plain HTTP. */
const common = { httpOnly: true, sameSite: 'strict', path: '/' } as const;

/** Adds a cookie; fastify keeps earlier set-cookie headers of the same reply. */
export function setCookie(reply: FastifyReply, name: string, value: string, maxAgeSeconds?: number): void {
  void reply.header(
    'set-cookie',
    serialize(name, value, { ...common, ...(maxAgeSeconds === undefined ? {} : { maxAge: maxAgeSeconds }) }),
  );
}

export function clearCookie(reply: FastifyReply, name: string): void {
  void reply.header('set-cookie', serialize(name, '', { ...common, maxAge: 0 }));
}
