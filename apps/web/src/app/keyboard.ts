import { type RefObject, useEffect } from 'react';

/** Whether the last thing a person did was press a key: only then may a page take the focus to its first field. */
let pressedLast = false;
window.addEventListener('keydown', () => (pressedLast = true), { capture: true });
window.addEventListener('pointerdown', () => (pressedLast = false), { capture: true });

/** Who comes by keyboard begins in the first field of this form, unless something has the focus already. */
export function useFirstField(form: RefObject<HTMLFormElement | null>): void {
  useEffect(() => {
    if (!pressedLast || (document.activeElement && document.activeElement !== document.body)) return;
    form.current?.querySelector<HTMLElement>('input:not([type=hidden]):not(:disabled), select:not(:disabled)')?.focus();
  }, [form]);
}

/** Views of a motor by a key after g. */
export const MOTOR_KEYS: Readonly<Record<string, string>> = {
  m: '',
  r: '/route',
  d: '/data',
  p: '/plan',
  j: '/joints',
  e: '/tests',
};

/** Where a key after g leads from this address; nothing where it means nothing. */
export function goesTo(key: string, path: string): string | undefined {
  const house: Readonly<Record<string, string>> = {
    f: '/',
    t: '/take-in',
    o: '/ovens',
    w: '/stock',
    a: '/archive',
    s: '/shop',
  };
  const motor = /^\/jobs\/[^/]+/.exec(path)?.[0];
  const view = MOTOR_KEYS[key];
  return house[key] ?? (motor && view !== undefined ? `${motor}${view}` : undefined);
}
