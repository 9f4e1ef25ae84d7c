import type { Verdict } from '@norther/core';

const LOOKS: Record<Verdict, { tint: string; ink: string; shape: string }> = {
  pass: { tint: 'bg-pass-tint', ink: 'text-pass', shape: 'M3 8.5 6.5 12 13 4.5' },
  attention: { tint: 'bg-attention-tint', ink: 'text-attention', shape: 'M8 2 14.5 13.5H1.5Z M8 6.2v3.6 M8 11.4v.6' },
  fail: { tint: 'bg-fail-tint', ink: 'text-fail', shape: 'M3.5 3.5l9 9 M12.5 3.5l-9 9' },
  'cannot judge': {
    tint: 'bg-cannot-tint',
    ink: 'text-cannot',
    shape: 'M5.2 6a2.8 2.8 0 1 1 4 2.6c-.9.5-1.2.9-1.2 1.9 M8 12.6v.5',
  },
};

/** Verdict as word, shape and colour together. */
export function VerdictMark({ verdict, size = 'small' }: { verdict: Verdict; size?: 'small' | 'large' }) {
  const look = LOOKS[verdict];
  return (
    <span
      className={`inline-flex items-center gap-1.5 rounded-sm font-semibold whitespace-nowrap ${look.tint} ${look.ink} ${size === 'large' ? 'px-3 py-1 text-title' : 'px-2 py-0.5 text-small'}`}
    >
      <svg viewBox="0 0 16 16" className={size === 'large' ? 'size-5' : 'size-3.5'} aria-hidden="true">
        <path
          d={look.shape}
          fill="none"
          stroke="currentColor"
          strokeWidth="2"
          strokeLinecap="round"
          strokeLinejoin="round"
        />
      </svg>
      {verdict}
    </span>
  );
}
