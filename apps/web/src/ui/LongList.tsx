import { useWindowVirtualizer } from '@tanstack/react-virtual';
import { useLayoutEffect, useRef, useState, type ReactNode } from 'react';

/** Rows beyond the screen that are drawn too, for the wheel and for search in the page. */
const BEYOND = 20;

/** A list of any length: only rows near the screen are drawn; the page scrolls as if all were. */
export function LongList<T>({
  items,
  keyOf,
  estimatePx,
  render,
}: {
  items: readonly T[];
  keyOf: (item: T) => string;
  estimatePx: number;
  render: (item: T) => ReactNode;
}) {
  const list = useRef<HTMLOListElement>(null);
  const [top, setTop] = useState(0);
  useLayoutEffect(() => setTop(list.current?.offsetTop ?? 0), []);
  const rows = useWindowVirtualizer({
    count: items.length,
    estimateSize: () => estimatePx,
    overscan: BEYOND,
    scrollMargin: top,
    getItemKey: (i) => keyOf(items[i] as T),
  });
  return (
    <ol ref={list} className="relative" style={{ height: rows.getTotalSize() }}>
      {rows.getVirtualItems().map((row) => (
        <li
          key={row.key}
          data-index={row.index}
          ref={rows.measureElement}
          aria-setsize={items.length}
          aria-posinset={row.index + 1}
          className="absolute left-0 w-full"
          style={{ transform: `translateY(${row.start - top}px)` }}
        >
          {render(items[row.index] as T)}
        </li>
      ))}
    </ol>
  );
}
