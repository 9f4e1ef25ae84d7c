import type { SessionView } from '@norther/contracts';
import { useEffect, useState, useSyncExternalStore } from 'react';
import { api, newKey, problemOf } from '../api/base.ts';
import { jobApi } from '../api/job.ts';
import { peopleApi } from '../api/people.ts';
import { changedOnFloor } from '../floorChanges.ts';
import { store } from '../store.ts';
import { kept, type Waiting } from './kept.ts';
import { Sender, type Sent } from './sender.ts';

export type { NewWaiting, Waiting } from './kept.ts';
export type { Outcome } from './sender.ts';

/** Without an answer it is tried again after so long, ms. */
const AGAIN_MS = 4000;
const PATIENCE_MS = { words: 20_000, file: 120_000 } as const;

let list: readonly Waiting[] = [];
const hearers = new Set<() => void>();
const channel = typeof BroadcastChannel === 'undefined' ? undefined : new BroadcastChannel('norther-outbox');

async function readAgain(): Promise<void> {
  list = (await (await kept()).all()).sort((a, b) => a.id - b.id);
  for (const hear of hearers) hear();
}
if (channel) channel.onmessage = () => void readAgain();

const sessionOf = (): SessionView | undefined => peopleApi.endpoints.session.select()(store.getState()).data;

/** Asks for a motor anew where a screen shows it; a slow answer keeps nothing up. */
async function fresh(number: string): Promise<void> {
  if (jobApi.endpoints.job.select(number)(store.getState()).data === undefined) return;
  await Promise.race([
    store.dispatch(jobApi.endpoints.job.initiate(number, { subscribe: false, forceRefetch: true })),
    new Promise((resolve) => setTimeout(resolve, 3000)),
  ]);
}

async function send(w: Waiting): Promise<Sent> {
  const step = `/api/jobs/${w.number}/steps/${w.code}`;
  const address =
    w.what === 'photograph'
      ? `/api/jobs/${w.number}/attachments`
      : `${step}/${w.what === 'start' || w.what === 'finish' ? w.what : 'work'}`;
  try {
    const answer = await fetch(address, {
      method: 'POST',
      credentials: 'same-origin',
      headers: {
        'Idempotency-Key': w.key,
        'X-Waited-S': String(Math.max(0, Math.round((Date.now() - w.at) / 1000))),
        ...(w.file
          ? {
              'Content-Type': w.file.type || 'application/octet-stream',
              'X-File-Name': encodeURIComponent(w.fileName ?? 'photograph'),
              'X-Step': w.code,
            }
          : { 'Content-Type': 'application/json' }),
      },
      body: w.file ?? JSON.stringify(w.body),
      signal: AbortSignal.timeout(w.file ? PATIENCE_MS.file : PATIENCE_MS.words),
    });
    const text = await answer.text();
    // signed out, too many at once, or the server in trouble: it is asked again
    if (answer.status >= 500 || [401, 408, 425, 429].includes(answer.status)) return { outcome: 'nobody' };
    if (answer.ok) {
      // it is shown as waiting until the screen has it from the server
      await fresh(w.number);
      return { outcome: 'taken', data: text === '' ? undefined : (JSON.parse(text) as unknown) };
    }
    return { outcome: 'refused', problem: problemOf({ status: answer.status, data: text }) };
  } catch {
    return { outcome: 'nobody' };
  }
}

let queue: Promise<unknown> = Promise.resolve();
const sender = new Sender({
  kept,
  send,
  person: () => sessionOf()?.person.id ?? '',
  now: () => Date.now(),
  newKey,
  alone: <T>(work: () => Promise<T>): Promise<T> => {
    // `locks` is there on secure pages only; elsewhere one tab at least goes one after the other
    if ('locks' in navigator) return navigator.locks.request('norther-outbox', work) as Promise<T>;
    const mine = queue.then(work, work);
    queue = mine.catch(() => undefined);
    return mine;
  },
  changed: (number) => {
    void readAgain();
    channel?.postMessage('changed');
    if (number === undefined) return;
    store.dispatch(api.util.invalidateTags([{ type: 'Job', id: number }]));
    changedOnFloor(store, number);
  },
});

export const outbox = {
  act: sender.act.bind(sender),
  again: sender.again.bind(sender),
  drop: sender.drop.bind(sender),
  sendAll: () => sender.sendAll(),
};

/** What waits on this device, oldest first. */
export function useWaiting(): readonly Waiting[] {
  return useSyncExternalStore(
    (hear) => {
      hearers.add(hear);
      return () => hearers.delete(hear);
    },
    () => list,
  );
}

/** Keeps sending while somebody is signed in; tells how much waits. */
export function useOutbox(person: string): readonly Waiting[] {
  const waiting = useWaiting();
  const [online, setOnline] = useState(0);
  useEffect(() => {
    const back = () => setOnline((n) => n + 1);
    window.addEventListener('online', back);
    return () => window.removeEventListener('online', back);
  }, []);
  useEffect(() => {
    if (person === '') return;
    void readAgain().then(() => (list.length > 0 ? outbox.sendAll() : undefined));
    const timer = setInterval(() => {
      if (list.some((w) => w.refused === '' && w.person === person)) void outbox.sendAll();
    }, AGAIN_MS);
    return () => clearInterval(timer);
  }, [person, online]);
  return waiting;
}
