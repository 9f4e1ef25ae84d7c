import type { NodePgDatabase } from 'drizzle-orm/node-postgres';
import type * as schema from './schema.ts';

export type Tables = NodePgDatabase<typeof schema>;
export type Transaction = Parameters<Parameters<Tables['transaction']>[0]>[0];
/** Whoever asks says over which connection: the pool's next free one, or that of the transaction it stands in. */
export type Reader = Tables | Transaction;
