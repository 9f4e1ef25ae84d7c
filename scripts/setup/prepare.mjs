import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './paths.mjs';
import { run } from './run.mjs';
import { SetupError } from './say.mjs';

/** When the newest migration that this Norther knows was made. */
export function newestMigration() {
  const journal = JSON.parse(readFileSync(join(root, 'apps/server/drizzle/meta/_journal.json'), 'utf8'));
  return Math.max(...journal.entries.map((e) => e.when));
}

/** Migrates a database to this Norther's shape and gives the running user its rights. */
export async function prepare(ownerUrl, url) {
  const built = join(root, 'apps/server/dist/prepare.js');
  const source = join(root, 'apps/server/src/prepare.ts');
  const args = existsSync(built) ? [built] : ['--conditions=norther-source', '--import', 'tsx', source];
  const { code, out } = await run(process.execPath, args, {
    spawn: { cwd: root, env: { ...process.env, DATABASE_URL: url, DATABASE_OWNER_URL: ownerUrl } },
  });
  if (code !== 0)
    throw new SetupError(`The backup is put back but could not be brought to this version.\n${out.slice(-1500)}`);
}
