#!/usr/bin/env node
// npm run person -- unlock NAME: a new password for somebody who is locked out, an admin too. For who looks after the server.
import { randomBytes } from 'node:crypto';
import { withDatabase } from './setup/withDatabase.mjs';
import { say, SetupError, stopWith } from './setup/say.mjs';

const [what, name] = process.argv.slice(2);
try {
  if (!['unlock', 'list'].includes(what ?? '') || (what === 'unlock' && !name))
    throw new SetupError(
      'Say npm run person -- list, or npm run person -- unlock NAME for a new password and no more waiting after wrong tries.',
    );
  await withDatabase(async ({ ownerUrl }) => {
    const { default: pg } = await import('pg');
    const { hash } = await import('@node-rs/argon2');
    const client = new pg.Client({ connectionString: ownerUrl });
    await client.connect();
    try {
      const { rows } = await client.query('select id, sign_in, name, role, active from person order by name');
      if (what === 'list') {
        for (const p of rows) process.stdout.write(`${p.sign_in}\t${p.name}\t${p.role}${p.active ? '' : ', let go'}\n`);
        return;
      }
      const person = rows.find((p) => p.sign_in === name.toLowerCase());
      if (!person) throw new SetupError(`Nobody signs in as "${name}". npm run person -- list tells who there is.`);
      const password = randomBytes(9).toString('base64url');
      const hashed = await hash(password, { memoryCost: 19456, timeCost: 2, parallelism: 1 });
      await client.query('begin');
      await client.query('update person set password_hash = $1, active = true, version = version + 1 where id = $2', [
        hashed,
        person.id,
      ]);
      await client.query('delete from session where person_id = $1', [person.id]);
      await client.query('delete from device_person where person_id = $1', [person.id]);
      // tries count by name, by name and address, by device and name, and by address
      await client.query('delete from sign_in_failure');
      await client.query(
        `insert into audit_event (person_name, action, summary) values ('on the server', 'person.unlock', $1)`,
        [`${person.name} got a new password on the server`],
      );
      await client.query(`select pg_notify('norther', $1)`, [`!person ${person.id} `]);
      await client.query('commit');
      say(`${person.name} (${person.role}) signs in as ${person.sign_in} with the password`);
      process.stdout.write(`${password}\n`);
      say('Change it after signing in: "Change person", then "New password".');
    } finally {
      await client.end();
    }
  });
} catch (error) {
  stopWith(error);
}
