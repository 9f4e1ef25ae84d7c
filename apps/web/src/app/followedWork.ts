import type { WorkView } from '@norther/contracts';
import { useWorkQuery } from './api/shop.ts';

const ASKS_MS = 700;
const hasEnded = (work: WorkView | undefined): boolean =>
  work !== undefined && work.state !== 'waiting' && work.state !== 'running';

/** Work in the background that this screen waits for: asked after until it has ended. */
export function useFollowedWork(id: string | undefined): { work: WorkView | undefined; error: unknown } {
  const known = useWorkQuery(id ?? '', { skip: id === undefined });
  const ended = id === undefined || hasEnded(known.currentData);
  useWorkQuery(id ?? '', { skip: ended, pollingInterval: ASKS_MS });
  return { work: id === undefined ? undefined : known.currentData, error: known.error };
}
