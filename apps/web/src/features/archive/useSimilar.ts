import type { ArchiveEntry, WorkView } from '@norther/contracts';
import type { WindingPart } from '@norther/core';
import { useLikenessQuery, useSimilarQuery } from '../../app/api/archive.ts';
import { useFollowedWork } from '../../app/followedWork.ts';

/** The windings most like one; with a large archive the work that compares them until it is done. */
export function useSimilar(
  to: { key: string } | { number: string; part: WindingPart; typed: Record<string, string> },
): {
  entries: ArchiveEntry[] | undefined;
  work: WorkView | undefined;
  error: unknown;
} {
  const asked = useSimilarQuery(to);
  const id = asked.data && 'work' in asked.data ? asked.data.work : undefined;
  const { work, error } = useFollowedWork(id);
  const done = useLikenessQuery(id ?? '', { skip: id === undefined || work?.state !== 'done' });
  const answer = id === undefined ? asked.data : done.data;
  return {
    entries: answer && 'entries' in answer ? answer.entries : undefined,
    work,
    error: asked.error ?? error ?? done.error,
  };
}
