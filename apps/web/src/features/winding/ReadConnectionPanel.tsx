import {
  groupsPerPhase,
  readableCircuitLimit,
  readConnection,
  wiresInHand,
  type Layout,
  type ReadConnectionInput,
  type WindingRecord,
} from '@norther/core';
import { useState } from 'react';
import { Button } from '../../ui/Button.tsx';

/** From what was counted at leads and stars: what the connection can be, and what to look at next. */
export function ReadConnectionPanel({
  record,
  layout,
  onTake,
}: {
  record: WindingRecord;
  layout: Layout;
  onTake: (changes: Record<string, string>) => void;
}) {
  const [groups, setGroups] = useState('');
  const [others, setOthers] = useState('');
  const { endsPerLead, wireTipsPerLead, strands, starPoints, endsPerStar } = record;
  if (layout.kind !== 'three-phase' || (endsPerLead === undefined && wireTipsPerLead === undefined)) return null;
  const starEnds =
    starPoints === 0 ? 0 : starPoints !== undefined && endsPerStar !== undefined ? starPoints * endsPerStar : undefined;
  const count = (text: string) => (/^\d{1,2}$/.test(text.trim()) && Number(text) > 0 ? Number(text) : undefined);
  const input = {
    leads: record.leads ?? '3',
    endsPerLead,
    wireTipsPerLead,
    wiresInHand: strands ? wiresInHand(strands) : undefined,
    endsAtOtherLeads: count(others),
    starEnds,
    groupsInCircuit: count(groups),
    circuitLimit: readableCircuitLimit(layout),
    groupsPerPhase: groupsPerPhase(layout),
  };
  let read: ReturnType<typeof readConnection> | undefined;
  let why = '';
  try {
    read = readConnection(
      Object.fromEntries(Object.entries(input).filter(([, v]) => v !== undefined)) as ReadConnectionInput,
    );
  } catch (error) {
    why = error instanceof Error ? error.message.replace(/^\w+: /, '') : '';
  }
  const small = 'w-14 min-h-8 border border-edge rounded-sm px-1 bg-sheet';
  return (
    <section aria-label="Reading the connection" className="border-l-4 border-edge pl-3 mb-3 text-small">
      <h3 className="font-semibold">Reading the connection</h3>
      <p aria-live="polite">{read ? read.verdict : why}</p>
      {read && read.lookNext.length > 0 ? (
        <ul className="list-disc pl-5">
          {read.lookNext.map((l) => (
            <li key={l}>{l}</li>
          ))}
        </ul>
      ) : null}
      <div className="flex flex-wrap gap-4 items-center mt-1">
        <label>
          groups from lead to lead or star{' '}
          <input value={groups} inputMode="numeric" onChange={(e) => setGroups(e.target.value)} className={small} />
        </label>
        {record.leads === '9' ? (
          <label>
            ends at T4{' '}
            <input value={others} inputMode="numeric" onChange={(e) => setOthers(e.target.value)} className={small} />
          </label>
        ) : null}
        {read?.candidates.map((c) => (
          <Button
            key={c.say}
            look="plain"
            onClick={() =>
              onTake({
                circuits: String(c.circuits),
                ...(record.leads === '6' || record.leads === '12' || record.leads === '6 part-winding'
                  ? {}
                  : { connection: c.connection }),
              })
            }
          >
            Take {c.say}
          </Button>
        ))}
      </div>
    </section>
  );
}
