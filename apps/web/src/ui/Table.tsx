import { createSortedRowModel, rowSortingFeature, sortFn_basic, tableFeatures, useTable } from '@tanstack/react-table';
import type { ReactNode } from 'react';

const features = tableFeatures({
  rowSortingFeature,
  sortedRowModel: createSortedRowModel(),
  sortFns: { basic: sortFn_basic },
});

/** A column: what stands over it, what stands in it, and what it sorts by. */
export interface Column<T> {
  id: string;
  head: string;
  /** the head is there for who listens, not for who looks */
  hidesHead?: true;
  cell: (row: T) => ReactNode;
  /** what pressing the head sorts by; a column without it does not sort */
  by?: (row: T) => number | string;
  /** the column that names its row */
  names?: true;
  align?: 'right';
  className?: string;
}

const ARIA = { asc: 'ascending', desc: 'descending' } as const;

/** A table of the kit: heads scoped and sorted by pressing them, rows named, scrolled within its own box where it is high. */
export function Table<T extends object>({
  label,
  columns,
  rows,
  keyOf,
  rowClass,
  height,
}: {
  label: string;
  columns: readonly Column<T>[];
  rows: readonly T[];
  keyOf: (row: T) => string;
  rowClass?: (row: T) => string;
  /** class that limits the height, where the table may grow long */
  height?: string;
}) {
  const table = useTable({
    features,
    data: rows,
    columns: columns.map((c) => ({
      id: c.id,
      header: c.head,
      ...(c.by ? { accessorFn: c.by, sortFn: 'basic' as const } : {}),
      enableSorting: c.by !== undefined,
      sortDescFirst: false,
    })),
    getRowId: keyOf,
  });
  const of = new Map(columns.map((c) => [c.id, c]));
  const side = (c: Column<T> | undefined) => (c?.align === 'right' ? 'text-right' : 'text-left');
  const body = (
    <table className="w-full text-small" aria-label={height ? undefined : label}>
      <thead className={height ? 'sticky top-0 bg-page' : ''}>
        {table.getHeaderGroups().map((group) => (
          <tr key={group.id} className="border-b-2 border-edge align-bottom">
            {group.headers.map((h) => {
              const column = of.get(h.column.id);
              const sorted = h.column.getIsSorted();
              return (
                <th
                  key={h.id}
                  scope="col"
                  aria-sort={sorted ? ARIA[sorted] : undefined}
                  className={`pr-2 first:pl-1 py-1 ${side(column)}`}
                >
                  {column?.by ? (
                    <button
                      type="button"
                      className={`underline decoration-dotted min-h-6 leading-6 ${sorted ? 'text-accent' : ''}`}
                      onClick={() => h.column.toggleSorting()}
                    >
                      {column.head}
                      <span aria-hidden>{sorted === 'asc' ? ' ↑' : sorted === 'desc' ? ' ↓' : ''}</span>
                    </button>
                  ) : (
                    <span className={column?.hidesHead ? 'sr-only' : 'inline-block leading-6'}>{column?.head}</span>
                  )}
                </th>
              );
            })}
          </tr>
        ))}
      </thead>
      <tbody>
        {table.getRowModel().rows.map((row) => (
          <tr key={row.id} className={`border-b border-line ${rowClass?.(row.original) ?? ''}`}>
            {columns.map((c) => {
              const cell = c.cell(row.original);
              const looks = `pr-2 first:pl-1 ${side(c)} ${c.className ?? ''}`;
              return c.names ? (
                <th key={c.id} scope="row" className={looks}>
                  {cell}
                </th>
              ) : (
                <td key={c.id} className={looks}>
                  {cell}
                </td>
              );
            })}
          </tr>
        ))}
      </tbody>
    </table>
  );
  return height ? (
    <div className={`${height} overflow-auto`} tabIndex={0} role="group" aria-label={label}>
      {body}
    </div>
  ) : (
    body
  );
}
