import { foundTests, type JobDetail } from '@norther/contracts';
import { againstPlate, formatAgainst, formatNumber, type AgainstPlate } from '@norther/core';
import { useMemo } from 'react';
import { Table, type Column } from '../../ui/Table.tsx';
import { VerdictMark } from '../../ui/Verdict.tsx';

const shown = (r: AgainstPlate, value: number | undefined): string =>
  value === undefined ? '–' : `${formatNumber(r.unit === '%' ? 100 * value : value, 4)}${r.unit ? ` ${r.unit}` : ''}`;
const between = (r: AgainstPlate): string => {
  const scale = r.unit === '%' ? 100 : 1;
  // as many figures as tell the measured value from its bound
  const bound = (v: number) => formatAgainst(scale * (r.measured ?? v), scale * v, 4)[1];
  const unit = r.unit ? ` ${r.unit}` : '';
  if (r.from !== undefined && r.to !== undefined) return `${bound(r.from)} to ${bound(r.to)}${unit}`;
  if (r.from !== undefined) return `from ${bound(r.from)}${unit}`;
  return r.to === undefined ? '–' : `to ${bound(r.to)}${unit}`;
};
const COLUMNS: Column<AgainstPlate>[] = [
  { id: 'what', head: 'Against the plate', names: true, cell: (r) => r.what },
  { id: 'declared', head: 'Declared', align: 'right', cell: (r) => shown(r, r.declared) },
  { id: 'measured', head: 'Measured', align: 'right', cell: (r) => shown(r, r.measured) },
  { id: 'allowed', head: 'Allowed', align: 'right', cell: (r) => between(r) },
  { id: 'verdict', head: '', cell: (r) => <VerdictMark verdict={r.verdict} /> },
];

/** Declared, measured, allowed, verdict, quantity by quantity (IEC 60034-1, from memory). */
export function PlateTable({ job }: { job: JobDetail }) {
  const rows = useMemo(() => {
    const { tests, poles } = foundTests(job);
    return againstPlate(tests, job.nameplate, poles);
  }, [job]);
  if (rows.length === 0) return null;
  return (
    <div className="mt-4">
      <Table label="Against the plate" columns={COLUMNS} rows={rows} keyOf={(r) => r.what} />
      <p className="text-small text-soft">Tolerances of IEC 60034-1, from memory.</p>
    </div>
  );
}
