import { ALL_LIMITS } from '@norther/core';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';

const ROOT = join(import.meta.dirname, '../../../..');

describe('limits of the shop', () => {
  it('every one that can be set is read by something', () => {
    const all = ['packages/core/src', 'packages/contracts/src', 'apps/server/src']
      .flatMap((folder) =>
        readdirSync(join(ROOT, folder), { recursive: true, encoding: 'utf8' })
          .filter((path) => path.endsWith('.ts') && !path.endsWith('.test.ts') && !path.startsWith('limits'))
          .map((path) => readFileSync(join(ROOT, folder, path), 'utf8')),
      )
      .join('\n');
    // of the usual sizes both ends are read by their key
    expect(ALL_LIMITS.filter((l) => l.group !== 'sizes' && !all.includes(`'${l.id}'`)).map((l) => l.id)).toEqual([]);
  });
});
