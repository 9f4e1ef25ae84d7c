import type { Candidate } from '@norther/core';
import { useMemo, useState } from 'react';
import { candidateName, number, saySpans, sayWires, signed } from './candidates.ts';

type Sort = 'rank' | 'flux' | 'loss' | 'fill' | 'copper' | 'turns';
const VALUE: Record<Exclude<Sort, 'rank'>, (c: Candidate) => number> = {
  flux: (c) => Math.abs(c.fluxErrorPercent),
  loss: (c) => c.lossChangePercent,
  fill: (c) => c.fill ?? 9,
  copper: (c) => c.copperKg ?? 0,
  turns: (c) => c.turns,
};

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
  const [sort, setSort] = useState<Sort>('rank');
  const rows = useMemo(
    () => (sort === 'rank' ? candidates : [...candidates].sort((a, b) => VALUE[sort](a) - VALUE[sort](b))),
    [candidates, sort],
  );
  const names = new Set(picked.map(candidateName));
  const head = (text: string, by?: Sort) => (
    <th scope="col" className="text-left pr-2 py-1" aria-sort={by && sort === by ? 'ascending' : undefined}>
      {by ? (
        <button
          type="button"
          className={`underline decoration-dotted ${sort === by ? 'text-accent' : ''}`}
          onClick={() => setSort(sort === by ? 'rank' : by)}
        >
          {text}
        </button>
      ) : (
        text
      )}
    </th>
  );
  return (
    <div className="max-h-[430px] overflow-auto" tabIndex={0} role="group" aria-label="Candidates by rank">
      <table className="w-full text-small tabular-nums">
        <thead className="sticky top-0 bg-page">
          <tr className="border-b-2 border-edge align-bottom">
            {head('Compare')}
            {head('Connection')}
            {head('Span')}
            {head('Turns', 'turns')}
            {head('Wires in hand')}
            {head('Flux', 'flux')}
            {head('Loss', 'loss')}
            {head('Fill', 'fill')}
            {head('A/mm²')}
            {head('V/coil')}
            {head('Ω lead to lead')}
            {head('5th, 7th')}
            {head('kg', 'copper')}
            {head('Cost')}
            {head('Mind')}
          </tr>
        </thead>
        <tbody>
          {rows.map((c) => {
            const name = candidateName(c);
            return (
              <tr key={name} className={`border-b border-line ${names.has(name) ? 'bg-accent-tint' : ''}`}>
                <td>
                  <input
                    type="checkbox"
                    className="size-5"
                    aria-label={`Compare ${c.connection} ${c.circuits}, ${saySpans(c)}, ${c.turns} turns, ${sayWires(c)}`}
                    checked={names.has(name)}
                    onChange={() => onPick(c)}
                  />
                </td>
                <td className="pr-2 whitespace-nowrap">
                  {c.circuits}-circuit {c.connection}
                </td>
                <td className="pr-2">{saySpans(c)}</td>
                <td className="pr-2">{c.turns}</td>
                <td className="pr-2 whitespace-nowrap">{sayWires(c)}</td>
                <td className="pr-2">{signed(c.fluxErrorPercent)}</td>
                <td className="pr-2">{signed(c.lossChangePercent)}</td>
                <td className="pr-2">{c.fill === undefined ? '–' : c.fill.toFixed(3)}</td>
                <td className="pr-2">{number(c.currentDensityAMm2)}</td>
                <td className="pr-2">{number(c.voltsPerCoil)}</td>
                <td className="pr-2">{number(c.lineResistance20Ohm)}</td>
                <td className="pr-2 whitespace-nowrap">
                  {c.fifth.toFixed(3)}, {c.seventh.toFixed(3)}
                </td>
                <td className="pr-2">{number(c.copperKg)}</td>
                <td className="pr-2">{c.cost === undefined ? '–' : Math.round(c.cost)}</td>
                <td className={c.warnings.length > 0 ? 'text-attention font-semibold' : 'text-soft'}>
                  {c.warnings.length > 0 ? <span title={c.warnings.join('; ')}>▲ {c.warnings.length}</span> : 'none'}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}
