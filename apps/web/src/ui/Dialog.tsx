import { Dialog as Radix } from 'radix-ui';
import type { ReactNode } from 'react';

/** A dialog over the page: title, content, closes with Escape. */
export function Dialog({
  open,
  onOpenChange,
  title,
  children,
  wide,
}: {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  title: string;
  children: ReactNode;
  wide?: true;
}) {
  return (
    <Radix.Root open={open} onOpenChange={onOpenChange}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 bg-black/50 z-40" />
        <Radix.Content
          aria-describedby={undefined}
          className={`fixed z-50 left-1/2 top-[8vh] -translate-x-1/2 max-h-[84vh] overflow-auto bg-sheet text-ink border border-edge p-5 ${wide ? 'w-[min(860px,94vw)]' : 'w-[min(480px,94vw)]'}`}
        >
          <Radix.Title className="text-title font-semibold mb-3">{title}</Radix.Title>
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
