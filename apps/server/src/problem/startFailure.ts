import { withoutValues } from './problemFilter.ts';

const SENTENCES: Readonly<Record<string, string>> = {
  ECONNREFUSED: 'The database of DATABASE_URL cannot be reached. Check that it runs and that the address is right.',
  ENOTFOUND: 'The host of DATABASE_URL is not known. Check the address.',
  ETIMEDOUT: 'The database of DATABASE_URL does not answer. Check the address and the network.',
  EACCES: 'This port may not be used by this user; choose one above 1023.',
  EADDRNOTAVAIL: 'HOST is not an address of this machine.',
  '28P01': 'The database refuses the user or password of DATABASE_URL.',
  '28000': 'The database refuses the user of DATABASE_URL.',
  '3D000': 'The database named in DATABASE_URL does not exist; create it first.',
  '42501': 'The user of DATABASE_URL may not make tables; name the owner in DATABASE_OWNER_URL.',
  '57P03': 'The database is still starting; try again in a moment.',
  '53300': 'The database takes no more connections.',
};

/** Why Norther did not start, in one sentence where the reason is known. */
export function startFailure(error: unknown, port: number): string {
  const code = codeOf(error);
  if (code === 'EADDRINUSE') return `Port ${port} is in use. Choose another: PORT=${port + 1} npm start`;
  if (code !== undefined && SENTENCES[code]) return SENTENCES[code];
  const { message } = (error ?? {}) as { message?: string };
  // sentences of our own settings (TRUST_PROXY, NORTHER_CLOCK_DAYS) are written for a reader
  return message && /^(TRUST_PROXY|NORTHER_[A-Z_]+|DATABASE_[A-Z_]+)\b/.test(message) ? message : withoutValues(error);
}

/** The code of an error, of what caused it, or of the first of several tries. */
function codeOf(error: unknown): string | undefined {
  const e = (error ?? {}) as { code?: string; cause?: unknown; errors?: unknown[] };
  return (
    e.code ??
    (e.cause === undefined ? undefined : codeOf(e.cause)) ??
    (e.errors?.length ? codeOf(e.errors[0]) : undefined)
  );
}
