import { useEffect, useMemo, useRef, useState } from 'react';
import { device } from './device.ts';
import { useDraftKeysQuery, useSessionQuery } from './api/people.ts';

export type Typed = Record<string, string>;
export type DraftState = 'empty' | 'on this device' | 'not kept yet' | 'saved as draft' | 'recorded';

/** What is kept of a draft, with what was recorded when it was begun. */
interface Kept {
  typed: Typed;
  base: string;
}
/** Typing rests so long before it goes to the server. */
const RESTS_MS = 900;
/** With nothing kept here the server is tried again after so long. */
const AGAIN_MS = 3000;
/** The list of a person's drafts is asked for again when a screen opens and it is older, in seconds. */
const LIST_FRESH_S = 20;
const NOTHING: Typed = {};

/** What was typed as one comparable text: blanks left out, in the order of the names, as a record read back may have another order. */
export function typedText(typed: Typed): string {
  return JSON.stringify(
    Object.entries(typed)
      .filter(([, value]) => typeof value === 'string' && value !== '')
      .sort(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0)),
  );
}

const addressOf = (key: string): string => `/api/drafts/${encodeURIComponent(key)}`;

/** A draft as it was kept; what is none is no draft. */
export function readKept(text: string | null): Kept | undefined {
  try {
    const kept = JSON.parse(text ?? 'null') as Partial<Kept> | null;
    const { typed, base } = kept ?? {};
    if (typeof typed !== 'object' || typed === null || typeof base !== 'string') return undefined;
    return Object.values(typed).every((v) => typeof v === 'string') ? { typed, base } : undefined;
  } catch {
    return undefined;
  }
}

/**
 * What two tabs of one person typed on top of the same: of each field the one that was touched here since they last saw each other,
 * else theirs. A field cleared here stays cleared.
 */
export function mergedDraft(mine: Typed, seen: Typed, theirs: Typed): Typed {
  const names = new Set([...Object.keys(mine), ...Object.keys(theirs)]);
  return Object.fromEntries(
    [...names]
      .map((name): [string, string] => [
        name,
        (mine[name] ?? '') === (seen[name] ?? '') ? (theirs[name] ?? '') : (mine[name] ?? ''),
      ])
      .filter(([, value]) => value !== ''),
  );
}

/** The draft of a person and a key as this device has it, on top of what is recorded. */
export function useKept(key: string, start: Typed) {
  const { data: session } = useSessionQuery();
  const person = session?.person.id ?? 'nobody';
  const storeKey = `norther.draft.${person}.${key}`;
  const base = typedText(start);
  const kept = useMemo(() => readKept(device.read(storeKey)), [storeKey]);
  const resumes = kept !== undefined && typedText(kept.typed) !== base;
  return {
    key,
    person,
    storeKey,
    base,
    resumes,
    opens: resumes ? kept.typed : start,
    /** typed on top of something older than what is recorded now */
    staleDraft: resumes && kept.base !== base,
  };
}

/**
 * The one door of drafts: what is typed is kept on the device at once and as the person's draft on the server a moment later; a
 * draft begun on another device goes on here; what is typed back to what is recorded is a draft no more.
 * @param take puts what another device had into the fields
 */
export function useKeep(of: ReturnType<typeof useKept>, typed: Typed, take: (typed: Typed) => void) {
  const { key, person, storeKey, base, resumes } = of;
  const [serverHas, setServerHas] = useState('');
  const [recordedNow, setRecordedNow] = useState('');
  const [here, setHere] = useState(true);
  const [again, setAgain] = useState(0);
  const first = useRef(true);
  /** what this tab and the others last had in common */
  const seen = useRef(of.opens);
  const takeNow = useRef(take);
  const typedNow = useRef(typed);
  useEffect(() => {
    takeNow.current = take;
    typedNow.current = typed;
  });
  const { data: keys } = useDraftKeysQuery(undefined, {
    skip: person === 'nobody',
    refetchOnMountOrArgChange: LIST_FRESH_S,
  });
  const waits = keys?.includes(key) === true;
  const now = typedText(typed);
  const changed = now !== base;
  const forget = (how: '' | '?recorded=yes'): void => {
    device.forget(storeKey);
    void fetch(`${addressOf(key)}${how}`, { method: 'DELETE' }).catch(() => undefined);
  };

  useEffect(() => {
    if (first.current) {
      first.current = false;
      return undefined;
    }
    if (!changed) {
      if (device.read(storeKey) !== null) forget('');
      return undefined;
    }
    // another tab may have typed meanwhile: its fields go on beside these
    const theirs = readKept(device.read(storeKey));
    if (theirs && theirs.base === base && typedText(theirs.typed) !== typedText(seen.current)) {
      const both = mergedDraft(typed, seen.current, theirs.typed);
      seen.current = theirs.typed;
      if (typedText(both) !== typedText(typed)) {
        takeNow.current(both);
        return undefined;
      }
    }
    seen.current = typed;
    const kept = device.keep(storeKey, JSON.stringify({ typed, base } satisfies Kept));
    setHere(kept);
    const later = setTimeout(
      () => {
        fetch(addressOf(key), {
          method: 'PUT',
          headers: { 'Content-Type': 'application/json' },
          body: JSON.stringify({ typed, base }),
        })
          .then((r) => (r.ok ? setServerHas(typedText(typed)) : undefined))
          .catch(() => (kept ? undefined : setTimeout(() => setAgain((n) => n + 1), AGAIN_MS)));
      },
      // what this device cannot keep goes to the server at once, and again until it has it
      kept ? RESTS_MS : 0,
    );
    return () => clearTimeout(later);
    // forget follows from the key
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [typed, changed, storeKey, base, key, again]);

  // what another tab of this person types stands here at once
  useEffect(() => {
    const heard = (event: StorageEvent): void => {
      const theirs = event.key === storeKey ? readKept(event.newValue) : undefined;
      if (!theirs || theirs.base !== base) return;
      const both = mergedDraft(typedNow.current, seen.current, theirs.typed);
      seen.current = theirs.typed;
      if (typedText(both) !== typedText(typedNow.current)) takeNow.current(both);
    };
    window.addEventListener('storage', heard);
    return () => window.removeEventListener('storage', heard);
  }, [storeKey, base]);

  const isTyped = useRef(changed);
  useEffect(() => {
    isTyped.current = changed;
  }, [changed]);
  // a draft made on another device is fetched once, when this device has none
  useEffect(() => {
    if (resumes || !waits || isTyped.current) return undefined;
    let stale = false;
    fetch(addressOf(key))
      .then((r) => r.json() as Promise<{ body?: unknown }>)
      .then(({ body }) => {
        const kept = readKept(JSON.stringify(body ?? null));
        if (stale || isTyped.current || kept?.base !== base || typedText(kept.typed) === base) return;
        take(kept.typed);
        setServerHas(typedText(kept.typed));
        void fetch(`${addressOf(key)}/taken`, { method: 'POST' }).catch(() => undefined);
      })
      .catch(() => undefined);
    return () => {
      stale = true;
    };
    // asked once when the fields open for this person
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [person, key, waits]);

  const state: DraftState = changed
    ? serverHas === now
      ? 'saved as draft'
      : here
        ? 'on this device'
        : 'not kept yet'
    : recordedNow === now
      ? 'recorded'
      : 'empty';
  return {
    changed,
    state,
    /** everything typed is recorded: the draft has done its work */
    recorded: (next: Typed) => {
      forget('?recorded=yes');
      take(next);
      setRecordedNow(typedText(next));
    },
    /** back to what is recorded */
    undone: (to: Typed) => {
      forget('');
      take(to);
    },
  };
}

/** A few fields outside the typed-field reader whose keystrokes are not lost either. */
export function useDraft(key: string, start: Typed = NOTHING) {
  const kept = useKept(key, start);
  const [typed, setTyped] = useState(kept.opens);
  const keep = useKeep(kept, typed, setTyped);
  return {
    typed,
    take: setTyped,
    set: (name: string, value: string) => setTyped((before) => ({ ...before, [name]: value })),
    changed: keep.changed,
    recorded: (next: Typed = start) => keep.recorded(next),
  };
}

/** One line of text, for example a reason, that a reload or a dead battery does not take. */
export function useDraftText(key: string, start = '') {
  const draft = useDraft(
    key,
    useMemo(() => (start === '' ? NOTHING : { text: start }), [start]),
  );
  return {
    text: draft.typed['text'] ?? '',
    set: (text: string) => draft.set('text', text),
    recorded: () => draft.recorded(),
  };
}
