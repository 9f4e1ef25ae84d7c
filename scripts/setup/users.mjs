import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { alive } from './cluster.mjs';

/** When a process began, so that another one under its number is not taken for it. */
function begunAt(pid) {
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8');
    return stat.slice(stat.lastIndexOf(')') + 2).split(' ')[19] ?? '';
  } catch {
    return '';
  }
}

/**
 * Who uses the database of a data folder: each start, backup or restore signs in here, and the last one to leave stops the database.
 * One that was killed does not count.
 */
export function useFolder(folder) {
  const desk = join(folder, 'users');
  mkdirSync(desk, { recursive: true });
  const own = join(desk, String(process.pid));
  writeFileSync(own, begunAt(process.pid));
  const others = () =>
    readdirSync(desk).filter((name) => {
      const pid = Number(name);
      if (pid === process.pid) return false;
      const file = join(desk, name);
      const lives = alive(pid) && existsSync(file) && readFileSync(file, 'utf8') === begunAt(pid);
      if (!lives) rmSync(file, { force: true });
      return lives;
    });
  return {
    others,
    /** Signs out; true when nobody else is left. */
    leave() {
      rmSync(own, { force: true });
      return others().length === 0;
    },
  };
}
