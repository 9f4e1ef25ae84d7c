import type { FieldSpec } from '@norther/core';
import { type ClipboardEvent, type KeyboardEvent, useId } from 'react';
import { useDay } from '../app/day.ts';
import type { TypedForm } from './useTypedForm.ts';

/** Enter goes to the next field of the form; with Ctrl it records. */
export function enterMovesOn(event: KeyboardEvent<HTMLFormElement>): void {
  const target = event.target as HTMLElement;
  if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) {
    event.preventDefault();
    event.currentTarget.requestSubmit();
    return;
  }
  if (event.key !== 'Enter' || target.tagName === 'TEXTAREA' || target.tagName === 'BUTTON') return;
  event.preventDefault();
  const fields = [
    ...event.currentTarget.querySelectorAll<HTMLElement>(
      'input:not([type=hidden]):not(:disabled), select:not(:disabled), textarea:not(:disabled), button[type=submit]',
    ),
  ].filter((f) => f.offsetParent !== null);
  fields[fields.indexOf(target) + 1]?.focus();
}

const YES_NO = [
  { value: 'yes', label: 'yes' },
  { value: 'no', label: 'no' },
];
/** What a field is chosen from; undefined where it is typed. */
export const choicesOf = (read: FieldSpec['read']): readonly { value: string; label: string }[] | undefined =>
  read.kind === 'flag' ? YES_NO : read.kind === 'choice' ? read.options : undefined;

/** One typed field: label, input, how it was understood, or what is wrong and what would be right. */
export function Field({
  form,
  spec,
  bench,
  wide,
  name,
  extra,
  suggest,
}: {
  form: TypedForm;
  spec: FieldSpec;
  bench?: true;
  wide?: true;
  name?: string;
  extra?: string | undefined;
  /** what is often written here */
  suggest?: readonly string[] | undefined;
}) {
  const id = useId();
  const field = name ?? spec.name;
  const problem = form.reading.problems.find((p) => p.field === field);
  const understood = form.reading.understood[field];
  const typed = form.typed[field] ?? '';
  const read = spec.read;
  const showUnderstood =
    understood !== undefined &&
    understood.replaceAll(/\s|×/g, '').toLowerCase() !== typed.replaceAll(/\s|x|×/gi, '').toLowerCase();
  const day = useDay();
  const said = read.kind === 'date' ? day(typed) : '';
  const note = problem?.message ?? extra ?? (said || (showUnderstood ? understood : spec.hint));
  const box = `w-full rounded-sm border bg-sheet px-2 text-ink ${bench ? 'min-h-11 text-[1.125rem]' : 'min-h-9'} ${problem ? 'border-fail border-2' : 'border-edge'}`;
  const common = {
    id,
    'aria-invalid': problem !== undefined,
    'aria-describedby': note ? `${id}-note` : undefined,
    'aria-required': spec.required === true,
    className: box,
  } as const;
  const onPaste = (event: ClipboardEvent<HTMLInputElement>): void => {
    const text = event.clipboardData.getData('text');
    if (read.kind !== 'counts' || !/[\n\t]/.test(text)) return;
    event.preventDefault();
    form.form.setValue(
      field,
      text
        .trim()
        .split(/[\s,;]+/)
        .join(', '),
    );
  };
  return (
    <div className={wide ? 'col-span-full' : undefined}>
      <label
        htmlFor={id}
        className={`block text-small font-semibold ${spec.required ? "after:content-['_*'] after:text-soft" : ''}`}
      >
        {spec.label}
      </label>
      {read.kind === 'choice' || read.kind === 'flag' ? (
        <select {...common} {...form.form.register(field)}>
          <option value="">{read.kind === 'choice' && read.assumed ? `${read.assumed}, assumed` : ''}</option>
          {(choicesOf(read) ?? []).map((o) => (
            <option key={o.value} value={o.value}>
              {o.label}
            </option>
          ))}
        </select>
      ) : read.kind === 'text' && read.long ? (
        <textarea {...common} rows={2} {...form.form.register(field)} />
      ) : (
        <input
          {...common}
          type={read.kind === 'date' ? 'date' : 'text'}
          autoComplete="off"
          spellCheck={false}
          {...form.form.register(field)}
          {...(suggest && suggest.length > 0 ? { list: `${id}-list` } : {})}
          onPaste={onPaste}
        />
      )}
      {suggest && suggest.length > 0 ? (
        <datalist id={`${id}-list`}>
          {suggest.map((s) => (
            <option key={s} value={s} />
          ))}
        </datalist>
      ) : null}
      <p id={`${id}-note`} className={`min-h-[1.2em] text-small ${problem ? 'text-fail font-semibold' : 'text-soft'}`}>
        {note}
      </p>
    </div>
  );
}

/** A plain labelled input for small forms outside the typed-field reader. */
export function PlainField({
  label,
  error,
  hint,
  ...rest
}: React.InputHTMLAttributes<HTMLInputElement> & { label: string; error?: string | undefined; hint?: string }) {
  const id = useId();
  return (
    <div>
      <label htmlFor={id} className="block text-small font-semibold">
        {label}
      </label>
      <input
        id={id}
        aria-invalid={error !== undefined}
        aria-describedby={error || hint ? `${id}-note` : undefined}
        {...rest}
        className={`w-full rounded-sm border bg-sheet px-2 min-h-9 ${error ? 'border-fail border-2' : 'border-edge'}`}
      />
      {error || hint ? (
        <p id={`${id}-note`} className={`text-small ${error ? 'text-fail font-semibold' : 'text-soft'}`}>
          {error ?? hint}
        </p>
      ) : null}
    </div>
  );
}

export function PlainSelect({
  label,
  options,
  ...rest
}: React.SelectHTMLAttributes<HTMLSelectElement> & {
  label: string;
  options: readonly { value: string; label: string }[];
}) {
  const id = useId();
  return (
    <div>
      <label htmlFor={id} className="block text-small font-semibold">
        {label}
      </label>
      <select id={id} {...rest} className="w-full rounded-sm border border-edge bg-sheet px-2 min-h-9">
        {options.map((o) => (
          <option key={o.value} value={o.value}>
            {o.label}
          </option>
        ))}
      </select>
    </div>
  );
}

/** What the draft of a form says of itself. */
export function DraftNote({ form }: { form: TypedForm }) {
  const said = {
    empty: '',
    'on this device': 'kept on this device',
    'not kept yet': 'not kept yet: this device has no room left, and the server has not got it',
    'saved as draft': 'saved as your draft',
    recorded: 'recorded',
  }[form.state];
  return (
    <span
      role="status"
      className={`text-small ${form.state === 'not kept yet' ? 'text-attention font-semibold' : 'text-soft'}`}
    >
      {said}
    </span>
  );
}
