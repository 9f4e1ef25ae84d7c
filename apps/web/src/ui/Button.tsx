import type { ButtonHTMLAttributes } from 'react';

type Look = 'main' | 'plain' | 'quiet' | 'danger';

const LOOKS: Record<Look, string> = {
  main: 'bg-accent text-on-accent border-accent hover:brightness-110',
  plain: 'bg-sheet text-ink border-edge hover:bg-sunk',
  quiet: 'bg-transparent text-accent border-transparent hover:bg-sunk',
  danger: 'bg-sheet text-fail border-fail hover:bg-fail-tint',
};

/** One button, four looks; `bench` is large enough for a gloved finger. */
export function Button({
  look = 'plain',
  bench,
  className = '',
  type = 'button',
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { look?: Look; bench?: true }) {
  return (
    <button
      type={type}
      className={`inline-flex items-center justify-center gap-2 rounded-sm border px-3 font-semibold disabled:opacity-50 disabled:cursor-not-allowed ${bench ? 'min-h-11 text-[1.0625rem] px-4' : 'min-h-9'} ${LOOKS[look]} ${className}`}
      {...rest}
    />
  );
}
