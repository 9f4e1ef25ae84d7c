import { createHash, randomBytes } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';

/** Argon2id with 19 MiB and two passes (the OWASP minimum for interactive sign-in). */
const COST = { memoryCost: 19456, timeCost: 2, parallelism: 1 } as const;

export const hashSecret = (secret: string): Promise<string> => hash(secret, COST);

/** Verifies a secret; an absent hash takes as long as a wrong one, so that names cannot be guessed by time. */
export async function secretFits(hashed: string | null, secret: string): Promise<boolean> {
  if (hashed === null) {
    await hash(secret, COST);
    return false;
  }
  return verify(hashed, secret);
}

export const newToken = (): string => randomBytes(32).toString('base64url');
export const tokenHash = (token: string): string => createHash('sha256').update(token).digest('base64url');
