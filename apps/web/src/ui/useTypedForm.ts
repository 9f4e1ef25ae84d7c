import { readForm, type FieldSpec, type FormReading } from '@norther/core';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useForm, useWatch } from 'react-hook-form';
import { useReadingDefaults } from '../app/shop.ts';
import { useSessionQuery } from '../app/api/people.ts';

export type Typed = Record<string, string>;
export type DraftState = 'empty' | 'on this device' | 'saved as draft' | 'recorded';

interface Kept {
  typed: Typed;
  base: string;
}

/** What was typed as one comparable text: blanks left out, in the order of the names, as a record read back may have another order. */
export function typedText(typed: Typed): string {
  return JSON.stringify(
    Object.entries(typed)
      .filter(([, value]) => typeof value === 'string' && value !== '')
      .sort(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0)),
  );
}

const draftAddress = (key: string): string => `/api/drafts/${encodeURIComponent(key)}`;

function readKept(key: string): Kept | undefined {
  try {
    return JSON.parse(localStorage.getItem(key) ?? 'null') as Kept | undefined;
  } catch {
    return undefined;
  }
}

/**
 * A form of typed fields that never loses a keystroke: kept on the device at once, as the person's draft on the server a
 * moment later, read live by the same reader as the server uses.
 * @param start what is recorded already; a draft typed on top of something older is offered, not forced
 */
export function useTypedForm(options: { key: string; specs: readonly FieldSpec[]; start: Typed }) {
  const { data: session } = useSessionQuery();
  const person = session?.person.id ?? 'nobody';
  const storeKey = `norther.draft.${person}.${options.key}`;
  const base = typedText(options.start);
  const kept = useMemo(() => readKept(storeKey), [storeKey]);
  const resumes = kept !== undefined && kept !== null && typedText(kept.typed) !== base;
  const form = useForm<Typed>({ defaultValues: resumes ? kept.typed : options.start });
  const watched = useWatch({ control: form.control }) as Typed;
  const typed = useMemo(
    () => Object.fromEntries(Object.entries(watched).filter(([, v]) => typeof v === 'string' && v !== '')),
    [watched],
  );
  const defaults = useReadingDefaults();
  const reading: FormReading = useMemo(
    () => readForm(options.specs, typed, defaults),
    [options.specs, typed, defaults],
  );
  const [serverHas, setServerHas] = useState('');
  const [recordedNow, setRecordedNow] = useState('');
  const first = useRef(true);
  const changed = typedText(typed) !== base;

  useEffect(() => {
    if (first.current) {
      first.current = false;
      return;
    }
    if (!changed) return;
    localStorage.setItem(storeKey, JSON.stringify({ typed, base } satisfies Kept));
    const later = setTimeout(() => {
      fetch(draftAddress(options.key), {
        method: 'PUT',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ typed, base }),
      })
        .then((r) => (r.ok ? setServerHas(typedText(typed)) : undefined))
        .catch(() => undefined);
    }, 900);
    return () => clearTimeout(later);
  }, [typed, changed, storeKey, base, options.key]);
  const now = typedText(typed);
  const state: DraftState = changed
    ? serverHas === now
      ? 'saved as draft'
      : 'on this device'
    : recordedNow === now
      ? 'recorded'
      : 'empty';

  /** A draft made on another device is fetched once, when this device has none. */
  useEffect(() => {
    if (resumes || person === 'nobody') return;
    let stale = false;
    fetch(draftAddress(options.key))
      .then((r) => r.json() as Promise<{ body?: Kept }>)
      .then(({ body }) => {
        if (stale || !body || body.base !== base || typedText(body.typed) === base) return;
        form.reset(body.typed);
        setServerHas(typedText(body.typed));
        void fetch(`${draftAddress(options.key)}/taken`, { method: 'POST' }).catch(() => undefined);
      })
      .catch(() => undefined);
    return () => {
      stale = true;
    };
    // asked once when the form opens for this person
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [person, options.key]);

  const forget = (how: '' | '?recorded=yes'): void => {
    localStorage.removeItem(storeKey);
    void fetch(`${draftAddress(options.key)}${how}`, { method: 'DELETE' }).catch(() => undefined);
  };
  return {
    form,
    typed,
    reading,
    defaults,
    changed,
    state,
    staleDraft: resumes && kept.base !== base,
    set: (name: string, value: string) => form.setValue(name, value),
    /** everything typed is recorded: the draft has done its work */
    recorded: (next: Typed) => {
      forget('?recorded=yes');
      form.reset(next);
      setRecordedNow(typedText(next));
    },
    /** back to what is recorded */
    undo: () => {
      forget('');
      form.reset(
        Object.fromEntries([...options.specs.map((s) => [s.name, '']), ...Object.entries(options.start)]) as Typed,
      );
    },
  };
}
export type TypedForm = ReturnType<typeof useTypedForm>;
