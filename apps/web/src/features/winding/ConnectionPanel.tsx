import {
  connect,
  connectionChoiceOf,
  connectionOfRecord,
  connectionWarnings,
  connectionRing,
  connectionSchematic,
  inHalves,
  possibleCircuits,
  type ConnectionChoice,
  type Layout,
  type WindingRecord,
} from '@norther/core';
import { useMemo, useState } from 'react';
import { useMarks } from '../../app/shop.ts';
import { DrawingView } from '../../drawing/DrawingView.tsx';
import { Quiet } from '../../ui/Problem.tsx';
import { Titled } from './Titled.tsx';
import { ConnectionTables } from './WindingTables.tsx';

/** The connection of the record, and what other circuits, jumpers and leads would look like. */
export function ConnectionPanel({ record, layout }: { record: WindingRecord; layout: Layout }) {
  const { school, letters } = useMarks();
  const [tried, setTried] = useState<ConnectionChoice>();
  const possible = useMemo(() => possibleCircuits(layout), [layout]);
  const recorded = useMemo(() => connectionChoiceOf(record, layout), [record, layout]);
  const asRecorded = useMemo(() => connectionOfRecord(record), [record]);
  const threePhase = layout.kind === 'three-phase';
  const choice: ConnectionChoice = tried ??
    recorded ?? { connection: 'wye', circuits: 1, jumper: 'adjacent-pole', leads: 3, partWinding: false };
  const { made, why } = useMemo(() => {
    if (!tried) return { made: asRecorded.connection, why: asRecorded.why };
    try {
      return { made: connect(layout, tried), why: undefined };
    } catch (error) {
      return { made: undefined, why: error instanceof Error ? error.message.replace(/^\w+: /, '') : '' };
    }
  }, [tried, asRecorded, layout]);
  const differs = tried !== undefined && JSON.stringify(tried) !== JSON.stringify(recorded);
  const drawing = useMemo(
    () => (made ? connectionRing(layout, made, { marks: school, size: 440 }) : undefined),
    [layout, made, school],
  );
  const schematic = useMemo(
    () => (made ? connectionSchematic(layout, made, { marks: school, letters }) : undefined),
    [layout, made, school, letters],
  );
  const halved = choice.partWinding || choice.leads === 9 || choice.leads === 12;
  const circuits = possible
    .filter((p) => !halved || p.circuits % 2 === 0)
    .map((p) => (halved ? p.circuits / 2 : p.circuits));
  const jumpersOf = (c: number) => possible.find((p) => p.circuits === c * (halved ? 2 : 1))?.jumpers ?? [];
  const leadsValue = choice.partWinding ? 'pw' : String(choice.leads);
  const box = 'border border-edge bg-sheet min-h-8';
  return (
    <section aria-label="Connection">
      <Titled title="Connection" drawing={drawing} file="connection">
        {threePhase ? (
          <span className="inline-flex flex-wrap gap-1 text-small font-normal">
            <select
              aria-label="Connection"
              value={choice.connection}
              onChange={(e) => setTried({ ...choice, connection: e.target.value as 'wye' | 'delta' })}
              className={box}
            >
              <option value="wye">wye</option>
              <option value="delta">delta</option>
            </select>
            <select
              aria-label="Circuits"
              value={choice.circuits}
              onChange={(e) =>
                setTried({
                  ...choice,
                  circuits: Number(e.target.value),
                  jumper: jumpersOf(Number(e.target.value))[0] ?? choice.jumper,
                })
              }
              className={box}
            >
              {circuits.map((c) => (
                <option key={c} value={c}>
                  {c} circuit{c > 1 ? 's' : ''}
                  {halved ? ' a half' : ''}
                </option>
              ))}
            </select>
            <select
              aria-label="Jumpers"
              value={choice.jumper}
              onChange={(e) => setTried({ ...choice, jumper: e.target.value as typeof choice.jumper })}
              className={box}
            >
              {jumpersOf(choice.circuits).map((j) => (
                <option key={j} value={j}>
                  {j === 'adjacent-pole' ? 'short 1-4' : 'long 1-7'}
                </option>
              ))}
            </select>
            <select
              aria-label="Leads"
              value={leadsValue}
              onChange={(e) => {
                const partWinding = e.target.value === 'pw';
                const leads = (partWinding ? 6 : Number(e.target.value)) as 3 | 6 | 9 | 12;
                const half = partWinding || leads > 6;
                const all = choice.circuits * (halved ? 2 : 1);
                const next = half ? Math.max(1, Math.floor(all / 2)) : all;
                setTried({ ...choice, leads, partWinding, circuits: next });
              }}
              className={box}
            >
              <option value="3">3 leads</option>
              <option value="6">6 leads</option>
              <option value="pw">6, part-winding</option>
              <option value="9">9 leads</option>
              <option value="12">12 leads</option>
            </select>
          </span>
        ) : null}
      </Titled>
      {differs && recorded ? (
        <p className="text-small text-attention font-semibold">
          To look at only; the record stays {record.circuits}-circuit {record.connection}, {record.leads ?? '3'} leads
          {inHalves(record) ? ' (circuits of each half)' : ''}.{' '}
          <button type="button" className="underline" onClick={() => setTried(undefined)}>
            back
          </button>
        </p>
      ) : null}
      {connectionWarnings(layout).map((w) => (
        <p key={w} className="text-small border-l-4 border-attention pl-2">
          {w}
        </p>
      ))}
      {drawing && made ? (
        <>
          <DrawingView drawing={drawing} />
          <details className="my-2">
            <summary className="cursor-pointer text-accent underline">Schematic, circuit by circuit</summary>
            {schematic ? (
              <div className="overflow-x-auto" tabIndex={0} role="group" aria-label="Schematic">
                <div style={{ minWidth: schematic.width > 460 ? schematic.width * 0.8 : undefined }}>
                  <DrawingView drawing={schematic} />
                </div>
              </div>
            ) : null}
          </details>
          <ConnectionTables layout={layout} made={made} />
        </>
      ) : (
        <Quiet>{why}</Quiet>
      )}
    </section>
  );
}
