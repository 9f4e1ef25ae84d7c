import type { Candidate } from '@norther/core';
import { type Column, Table } from '../../ui/Table.tsx';
import { candidateName, number, saySpans, sayWires, signed } from './candidates.ts';

/** Candidates by rank, or by the column pressed; up to four are taken to the comparison. */
export function CandidateTable({
  candidates,
  picked,
  onPick,
}: {
  candidates: readonly Candidate[];
  picked: readonly Candidate[];
  onPick: (c: Candidate) => void;
}) {
  const names = new Set(picked.map(candidateName));
  const columns: Column<Candidate>[] = [
    {
      id: 'compare',
      head: 'Compare',
      cell: (c) => (
        <input
          type="checkbox"
          className="size-5"
          aria-label={`Compare ${c.connection} ${c.circuits}, ${saySpans(c)}, ${c.turns} turns, ${sayWires(c)}`}
          checked={names.has(candidateName(c))}
          onChange={() => onPick(c)}
        />
      ),
    },
    {
      id: 'connection',
      head: 'Connection',
      className: 'whitespace-nowrap',
      cell: (c) => `${c.circuits}-circuit ${c.connection}`,
    },
    { id: 'span', head: 'Span', cell: saySpans },
    { id: 'turns', head: 'Turns', by: (c) => c.turns, cell: (c) => c.turns },
    { id: 'wires', head: 'Wires in hand', className: 'whitespace-nowrap', cell: sayWires },
    { id: 'flux', head: 'Flux', by: (c) => Math.abs(c.fluxErrorPercent), cell: (c) => signed(c.fluxErrorPercent) },
    { id: 'loss', head: 'Loss', by: (c) => c.lossChangePercent, cell: (c) => signed(c.lossChangePercent) },
    {
      id: 'fill',
      head: 'Fill',
      by: (c) => c.fill ?? 9,
      cell: (c) => (c.fill === undefined ? '–' : c.fill.toFixed(3)),
    },
    { id: 'density', head: 'A/mm²', cell: (c) => number(c.currentDensityAMm2) },
    { id: 'coil', head: 'V/coil', cell: (c) => number(c.voltsPerCoil) },
    { id: 'ohm', head: 'Ω lead to lead', cell: (c) => number(c.lineResistance20Ohm) },
    {
      id: 'harmonics',
      head: '5th, 7th',
      className: 'whitespace-nowrap',
      cell: (c) => `${c.fifth.toFixed(3)}, ${c.seventh.toFixed(3)}`,
    },
    { id: 'copper', head: 'kg', by: (c) => c.copperKg ?? 0, cell: (c) => number(c.copperKg) },
    { id: 'cost', head: 'Cost', cell: (c) => (c.cost === undefined ? '–' : Math.round(c.cost)) },
    {
      id: 'mind',
      head: 'Mind',
      cell: (c) =>
        c.warnings.length > 0 ? (
          <span className="text-attention font-semibold" title={c.warnings.join('; ')}>
            ▲ {c.warnings.length}
          </span>
        ) : (
          <span className="text-soft">none</span>
        ),
    },
  ];
  return (
    <Table
      label="Candidates by rank"
      height="max-h-[430px]"
      columns={columns}
      rows={candidates}
      keyOf={candidateName}
      rowClass={(c) => `tabular-nums ${names.has(candidateName(c)) ? 'bg-accent-tint' : ''}`}
    />
  );
}
