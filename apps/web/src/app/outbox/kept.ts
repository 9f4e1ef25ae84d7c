import { openDB, type DBSchema, type IDBPDatabase } from 'idb';

/** Something done at a step that is not with the server yet. */
export interface Waiting {
  id: number;
  /** who did it: it is sent under this person's sign-in only */
  person: string;
  number: string;
  code: string;
  what: 'start' | 'join' | 'pause' | 'hand over' | 'finish' | 'photograph';
  body: object;
  file?: Blob;
  fileName?: string;
  /** the server knows a repeated one by it */
  key: string;
  /** ms of this device's clock */
  at: number;
  /** what the server said when it would not take it; empty = not asked yet, or not answered */
  refused: string;
}
export type NewWaiting = Omit<Waiting, 'id' | 'refused' | 'key' | 'at'>;

interface Shape extends DBSchema {
  waiting: { key: number; value: Waiting };
}

/** Where what waits is kept on this device. */
export interface Kept {
  all(): Promise<Waiting[]>;
  add(w: Omit<Waiting, 'id'>): Promise<number>;
  put(w: Waiting): Promise<void>;
  remove(id: number): Promise<void>;
}

/** Kept in this tab only: for a browser that has no store of its own, or a full one. */
export function inMemory(): Kept {
  const rows = new Map<number, Waiting>();
  let last = 0;
  return {
    all: () => Promise.resolve([...rows.values()]),
    add: (w) => {
      last += 1;
      rows.set(last, { ...w, id: last });
      return Promise.resolve(last);
    },
    put: (w) => {
      rows.set(w.id, w);
      return Promise.resolve();
    },
    remove: (id) => {
      rows.delete(id);
      return Promise.resolve();
    },
  };
}

const inStore = (db: IDBPDatabase<Shape>): Kept => ({
  all: () => db.getAll('waiting'),
  add: (w) => db.add('waiting', w as Waiting),
  put: async (w) => void (await db.put('waiting', w)),
  remove: (id) => db.delete('waiting', id),
});

let opened: Promise<Kept> | undefined;
export function kept(): Promise<Kept> {
  opened ??= openDB<Shape>('norther', 1, {
    upgrade: (db) => void db.createObjectStore('waiting', { keyPath: 'id', autoIncrement: true }),
  }).then(inStore, inMemory);
  return opened;
}
