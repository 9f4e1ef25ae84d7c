import { randomBytes } from 'node:crypto';
import { chmodSync, existsSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { SetupError } from './say.mjs';

/** The users of the database: the superuser that made it, the owner that migrates, and the one the application runs as. */
export const SUPERUSER = 'norther';
export const OWNER = 'norther_owner';
export const RUNNER = 'norther_app';

/** Passwords of the three users, kept in the data folder for its owner's eyes only. */
export function secretsOf(folder) {
  const file = join(folder, 'database.json');
  if (existsSync(file)) {
    try {
      const kept = JSON.parse(readFileSync(file, 'utf8'));
      if ([SUPERUSER, OWNER, RUNNER].every((u) => typeof kept[u] === 'string')) return kept;
    } catch {
      // said below
    }
    throw new SetupError(
      `The file ${file} with the database's passwords cannot be read. Put it back from where the data folder was copied from.`,
    );
  }
  return undefined;
}

export function makeSecrets(folder) {
  const made = Object.fromEntries([SUPERUSER, OWNER, RUNNER].map((u) => [u, randomBytes(24).toString('base64url')]));
  const file = join(folder, 'database.json');
  writeFileSync(`${file}.new`, JSON.stringify(made, null, 1), { mode: 0o600 });
  chmodSync(`${file}.new`, 0o600);
  renameSync(`${file}.new`, file);
  return made;
}

export const HBA = `# written by Norther: everybody says a password
local all all scram-sha-256
host all all 127.0.0.1/32 scram-sha-256
host all all ::1/128 scram-sha-256
`;

export async function makeUsers(client, secrets) {
  for (const name of [OWNER, RUNNER]) {
    const found = await client.query('select 1 from pg_roles where rolname = $1', [name]);
    const password = client.escapeLiteral(secrets[name]);
    await client.query(
      `${found.rowCount === 0 ? 'create' : 'alter'} role ${name} login nosuperuser nocreatedb nocreaterole password ${password}`,
    );
  }
}

async function connected(url) {
  const { default: pg } = await import('pg');
  const client = new pg.Client({ connectionString: url });
  client.on('error', () => undefined);
  await client.connect();
  return client;
}

/** Makes sure that a database of that name exists in the cluster and that everything in it belongs to the owner. */
export async function ensureDatabase(cluster, name = 'norther', options = {}) {
  const client = await connected(cluster.adminUrl);
  try {
    // two starts at once would change the same users; the lock goes with the connection
    await client.query('select pg_advisory_lock(471101)');
    await makeUsers(client, cluster.secrets);
    const found = await client.query('select 1 from pg_database where datname = $1', [name]);
    if (found.rowCount === 0)
      await client.query(
        `create database "${name}" owner ${OWNER}${options.template ? ` template "${options.template}"` : ''}`,
      );
    await client.query(`alter database "${name}" owner to ${OWNER}`);
    await client.query(`revoke all on database "${name}" from public`);
    await client.query(`grant connect on database "${name}" to ${RUNNER}`);
  } finally {
    await client.end();
  }
  const url = new URL(cluster.adminUrl);
  url.pathname = `/${name}`;
  const inside = await connected(url.href);
  try {
    await inside.query(OWN_EVERYTHING);
  } finally {
    await inside.end();
  }
}

/** Schemas, tables, sequences and functions of Norther that belong to another user (a data folder of before) go to the owner. */
const OWN_EVERYTHING = `do $$
declare one record;
begin
  for one in select nspname from pg_namespace where nspname in ('public', 'drizzle', 'pgboss') and nspowner <> '${OWNER}'::regrole loop
    execute format('alter schema %I owner to ${OWNER}', one.nspname);
  end loop;
  for one in select n.nspname, c.relname, c.relkind from pg_class c join pg_namespace n on n.oid = c.relnamespace
      where n.nspname in ('public', 'drizzle', 'pgboss') and c.relowner <> '${OWNER}'::regrole and c.relkind in ('r', 'p', 'v', 'm') loop
    execute format('alter table %I.%I owner to ${OWNER}', one.nspname, one.relname);
  end loop;
  for one in select n.nspname, c.relname from pg_class c join pg_namespace n on n.oid = c.relnamespace
      where n.nspname in ('public', 'drizzle', 'pgboss') and c.relowner <> '${OWNER}'::regrole and c.relkind = 'S' loop
    execute format('alter sequence %I.%I owner to ${OWNER}', one.nspname, one.relname);
  end loop;
  for one in select n.nspname, t.typname from pg_type t join pg_namespace n on n.oid = t.typnamespace
      where n.nspname in ('public', 'drizzle', 'pgboss') and t.typtype = 'e' and t.typowner <> '${OWNER}'::regrole loop
    execute format('alter type %I.%I owner to ${OWNER}', one.nspname, one.typname);
  end loop;
  for one in select p.oid::regprocedure as name from pg_proc p join pg_namespace n on n.oid = p.pronamespace
      where n.nspname in ('public', 'drizzle', 'pgboss') and p.proowner <> '${OWNER}'::regrole
        and not exists (select 1 from pg_depend d where d.objid = p.oid and d.deptype = 'e') loop
    execute format('alter function %s owner to ${OWNER}', one.name);
  end loop;
end $$`;
