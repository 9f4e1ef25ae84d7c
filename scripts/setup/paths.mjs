import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = resolve(dirname(fileURLToPath(import.meta.url)), '..', '..');
/** Where the database of this copy of Norther lives; NORTHER_DATA chooses another place. */
export const dataFolder = process.env.NORTHER_DATA ? resolve(process.env.NORTHER_DATA) : join(root, 'data');
