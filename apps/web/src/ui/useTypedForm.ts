import { readForm, type FieldSpec, type FormReading } from '@norther/core';
import { useMemo } from 'react';
import { useForm, useWatch } from 'react-hook-form';
import { type Typed, useKeep, useKept } from '../app/draft.ts';
import { useReadingDefaults } from '../app/shop.ts';

export type { Typed } from '../app/draft.ts';

/**
 * A form of typed fields that never loses a keystroke (app/draft.ts), read live by the same reader as the server uses.
 * @param start what is recorded already; a draft typed on top of something older is offered, not forced
 */
export function useTypedForm(options: { key: string; specs: readonly FieldSpec[]; start: Typed }) {
  const kept = useKept(options.key, options.start);
  const form = useForm<Typed>({ defaultValues: kept.opens });
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
  const keep = useKeep(kept, typed, (next) =>
    form.reset({ ...Object.fromEntries(options.specs.map((s) => [s.name, ''])), ...next }),
  );
  return {
    form,
    typed,
    reading,
    defaults,
    changed: keep.changed,
    state: keep.state,
    staleDraft: kept.staleDraft,
    set: (name: string, value: string) => form.setValue(name, value),
    recorded: keep.recorded,
    undo: () =>
      keep.undone(
        Object.fromEntries([...options.specs.map((s) => [s.name, '']), ...Object.entries(options.start)]) as Typed,
      ),
  };
}
export type TypedForm = ReturnType<typeof useTypedForm>;
