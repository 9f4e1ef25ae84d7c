import { partOnRail, PARTS, type PartKind } from '@norther/core';
import type { Transaction } from '../database/tables.ts';
import { badField } from '../problem/problem.ts';
import type { JobRepository, JobRow } from './jobRepository.ts';

/** The part that is spoken of, or the one of a rail where none is named; 422 where it did not come in. */
export async function partThatCame(
  jobs: JobRepository,
  tx: Transaction,
  row: JobRow,
  named: PartKind | undefined,
  rail: 'stator' | 'rotor',
): Promise<PartKind> {
  const parts = await jobs.parts(row, tx);
  const part = named ?? partOnRail(parts, rail) ?? parts[0];
  if (part === undefined || !parts.includes(part))
    throw badField(
      'part',
      `${part ? PARTS[part].title : 'This part'} did not come in with ${row.number}; there are: ${parts.map((p) => PARTS[p].title).join(', ')}.`,
    );
  return part;
}
