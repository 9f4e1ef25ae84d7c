import { prepareDatabase } from './database/prepareDatabase.ts';

// What the set-up scripts call: migrate as the owner, give the running user its rights, and end.
await prepareDatabase(process.env['DATABASE_OWNER_URL'], process.env['DATABASE_URL'] ?? '');
