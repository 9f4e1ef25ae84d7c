import type { Role } from '@norther/contracts';
import { RouteConfig } from '@nestjs/platform-fastify';

/** What is known of a route before a byte of its body is read. */
export interface RouteFacts {
  /** reached without signing in */
  open?: true;
  /** reached by an instrument with its key, not by people */
  byKey?: true;
  /** the least role; reading needs only a sign-in, a change that names none needs an admin */
  needs?: Role;
  /** bytes at most of a body, where it is not the ordinary limit */
  mostBytes?: number;
  /** takes a photograph or document in place of JSON */
  takesFile?: true;
}

/** Bytes at most of an ordinary body: a long form, a draft, a winding record. */
export const ORDINARY_BYTES = 1024 * 1024;

/** Bytes at most of an oven log of a million rows. */
/** A file of waves: three waves of many pulses. */
export const MOST_WAVE_BYTES = 24 * 1024 * 1024;
export const MOST_LOG_BYTES = 160 * 1024 * 1024;

const factsOf = new WeakMap<object, RouteFacts>();

/** States facts of a route; several decorators add up. Fastify carries them as the route's config. */
export function states(facts: RouteFacts): MethodDecorator {
  return (target, key, descriptor) => {
    const handler = descriptor.value as object;
    const all = { ...factsOf.get(handler), ...facts };
    factsOf.set(handler, all);
    return RouteConfig(all)(target, key, descriptor as never);
  };
}

/** Reached without signing in. */
export const Open = (): MethodDecorator => states({ open: true });
/** Needs at least this role. */
export const Needs = (role: Role): MethodDecorator => states({ needs: role });
/** For instruments: the key of one stands for a sign-in. */
export const ByKey = (): MethodDecorator => states({ byKey: true });
/** Takes bodies up to so many bytes. */
export const MostBytes = (mostBytes: number): MethodDecorator => states({ mostBytes });
/** Takes a file in place of JSON. */
export const TakesFile = (mostBytes: number): MethodDecorator => states({ mostBytes, takesFile: true });
