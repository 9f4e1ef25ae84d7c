import { formatNumber, type WorkingStep } from '@norther/core';
import { Popover } from 'radix-ui';
import type { ReactNode } from 'react';

/** A computed number that shows its working when pressed (or Enter, when focused). */
export function Worked({
  steps,
  children,
  title,
}: {
  steps: readonly WorkingStep[];
  children: ReactNode;
  title: string;
}) {
  if (steps.length === 0) return <>{children}</>;
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <button
          type="button"
          aria-label={`${title}: show the working`}
          className="text-left underline decoration-dotted decoration-edge underline-offset-4 hover:decoration-accent cursor-help"
        >
          {children}
        </button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          collisionPadding={12}
          sideOffset={6}
          className="z-50 max-w-[min(560px,92vw)] max-h-[60vh] overflow-auto bg-sheet text-ink border border-edge p-4 shadow-lg"
        >
          <p className="font-semibold mb-2">{title}</p>
          <WorkingTable steps={steps} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

export function WorkingTable({ steps }: { steps: readonly WorkingStep[] }) {
  return (
    <ol className="space-y-2">
      {steps.map((s, i) => (
        <li key={i} className="text-small">
          <span className="font-semibold">{s.name}</span>
          <div className="text-soft">{[s.symbol, s.formula].filter(Boolean).join(' = ')}</div>
          {s.numbers ? <div>{s.numbers}</div> : null}
          <div>
            <span className="font-semibold">
              = {typeof s.value === 'number' ? formatNumber(s.value, 5) : s.value} {s.unit}
            </span>{' '}
            <span className="text-soft">· {s.source}</span>
          </div>
        </li>
      ))}
    </ol>
  );
}
