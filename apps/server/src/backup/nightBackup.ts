import { execFile } from 'node:child_process';
import {
  chmodSync,
  closeSync,
  existsSync,
  mkdirSync,
  openSync,
  readdirSync,
  renameSync,
  rmSync,
  statSync,
} from 'node:fs';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { Inject, Injectable } from '@nestjs/common';
import { now } from '../clock/clock.ts';
import { Database } from '../database/database.ts';
import { QUEUE_SCHEMA, WorkProblem, type Control, type Effect, type WorkHandler } from '../queue/kinds.ts';

/** Backups of nights that are kept; older ones go. */
export const KEPT_NIGHTS = 14;
const NAME = /^norther-\d{4}-\d{2}-\d{2}(-\d{4})?\.dump$/;

/** Where Debian keeps pg_dump, newest version first. */
function pgDump(): string {
  const base = '/usr/lib/postgresql';
  const versions = existsSync(base) ? readdirSync(base).sort((a, b) => Number(b) - Number(a)) : [];
  const found = versions.map((v) => join(base, v, 'bin', 'pg_dump')).find((p) => existsSync(p));
  if (!found) throw new WorkProblem('PostgreSQL’s pg_dump is not installed on this machine; no backup was made.');
  return found;
}

/** Everything in the database as one file a night, readable by its owner only; `npm run restore` puts it back. */
@Injectable()
export class NightBackup implements WorkHandler<'backup'> {
  readonly kind = 'backup';
  readonly database: Database;
  constructor(@Inject(Database) database: Database) {
    this.database = database;
  }

  /** Where backups go; undefined where whoever keeps the database makes them. */
  static folder(): string | undefined {
    return process.env['NORTHER_BACKUPS'] || undefined;
  }

  async prepare(_data: Record<string, never>, control: Control): Promise<Effect> {
    const folder = NightBackup.folder();
    if (!folder)
      throw new WorkProblem('NORTHER_BACKUPS names no folder on the machine of this worker; no backup was made.');
    const at = now().toISOString();
    const name = `norther-${at.slice(0, 10)}-${at.slice(11, 13)}${at.slice(14, 16)}.dump`;
    const path = join(folder, name);
    const half = `${path}.part`;
    try {
      // never recursive: Node spins for ever below /proc
      if (!existsSync(folder)) mkdirSync(folder, { mode: 0o700 });
      closeSync(openSync(half, 'w', 0o600));
      chmodSync(half, 0o600);
    } catch (error) {
      throw new WorkProblem(
        `The backup could not be written to ${folder} (${(error as NodeJS.ErrnoException).code ?? String(error)}).`,
      );
    }
    try {
      await promisify(execFile)(
        pgDump(),
        [
          '--format=custom',
          `--exclude-schema=${QUEUE_SCHEMA}`,
          `--file=${half}`,
          `--dbname=${this.database.ownerUrl ?? this.database.url}`,
        ],
        { maxBuffer: 1e6 },
      );
      await control.check();
      renameSync(half, path);
    } catch (error) {
      rmSync(half, { force: true });
      throw error;
    }
    const bytes = statSync(path).size;
    const old = readdirSync(folder)
      .filter((f) => NAME.test(f))
      .sort()
      .slice(0, -KEPT_NIGHTS);
    for (const f of old) rmSync(join(folder, f), { force: true });
    return () => Promise.resolve({ result: { file: name, bytes } });
  }
}
