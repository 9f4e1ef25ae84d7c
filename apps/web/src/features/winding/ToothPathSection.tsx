import { pathOf, sayRun, toothPathDrawing, type Layout, type Phase, type WindingRecord } from '@norther/core';
import { useMemo, useState } from 'react';
import { useMarks } from '../../app/shop.ts';
import { DrawingView } from '../../drawing/DrawingView.tsx';
import { Table } from '../../ui/Table.tsx';
import { Quiet } from '../../ui/Problem.tsx';
import { Titled } from './Titled.tsx';

const PHASES: readonly Phase[] = ['A', 'B', 'C'];

/** How the wire goes round the teeth: drawn, and as a table for the winder; each phase from its start or from its finish. */
export function ToothPathSection({ record, layout }: { record: WindingRecord; layout: Layout }) {
  const { letters } = useMarks();
  const [turned, setTurned] = useState<readonly Phase[]>([]);
  const path = useMemo(() => pathOf(record, layout, turned), [record, layout, turned]);
  const drawing = useMemo(() => path && toothPathDrawing(path, layout.slots, letters), [path, layout.slots, letters]);
  const name = (phase: Phase) => letters[PHASES.indexOf(phase)] ?? phase;
  return (
    <section className="mt-4 space-y-2">
      <h2 className="text-title font-semibold">Winding path</h2>
      {path ? (
        <>
          <p className="text-small text-soft">
            Seen from the bore, connection end up: + counter-clockwise, − clockwise. Jumps lie at the connection end.
            Electrically the same as the connection above, in the order in which the wire is laid.
          </p>
          <fieldset className="flex gap-4 text-small">
            <legend className="sr-only">Phases laid from their finish</legend>
            {PHASES.map((p) => (
              <label key={p} className="flex gap-1 items-center min-h-9">
                <input
                  type="checkbox"
                  checked={turned.includes(p)}
                  onChange={(e) => setTurned(e.target.checked ? [...turned, p] : turned.filter((t) => t !== p))}
                />
                {name(p)} laid from its finish
              </label>
            ))}
          </fieldset>
          <Titled title="Teeth and jumps" drawing={drawing} file="winding-path" />
          {drawing ? (
            <div className="overflow-x-auto" tabIndex={0} role="group" aria-label="Winding path, drawn">
              <DrawingView drawing={drawing} />
            </div>
          ) : null}
          <Table
            label="Winding path"
            rows={path.runs}
            keyOf={(r) => `${r.phase}${r.circuit}`}
            columns={[
              { id: 'run', head: 'Circuit', cell: (r) => `${name(r.phase)} ${r.circuit}`, names: true },
              { id: 'from', head: 'From', cell: (r) => r.from },
              { id: 'teeth', head: 'Teeth, with sense', cell: (r) => sayRun(r) },
              {
                id: 'jumps',
                head: 'Jumps, slots',
                cell: (r) =>
                  r.steps
                    .slice(1)
                    .map((s) => s.jump)
                    .join(', ') || '–',
              },
              { id: 'start', head: 'Start slot', cell: (r) => r.startSlot },
              { id: 'finish', head: 'Finish slot', cell: (r) => r.finishSlot },
              { id: 'to', head: 'To', cell: (r) => r.to },
            ]}
          />
        </>
      ) : (
        <Quiet>These coils do not make equal circuits of that number: see the checks.</Quiet>
      )}
    </section>
  );
}
