import { isAirByName } from '@norther/core';
import { PROBE_ROLES, type ChamberView, type LoadView, type ProbeRole } from '@norther/contracts';
import { useState } from 'react';
import { useSetProbesMutation } from '../../app/api/oven.ts';
import { Button } from '../../ui/Button.tsx';
import { PlainField, PlainSelect } from '../../ui/Field.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';

type Seat = { role: ProbeRole; part: string | null };
const ROLE_WORDS: Readonly<Record<ProbeRole, string>> = {
  part: 'on no part',
  'oven air': 'in the air',
  'not used': 'not used',
};

/** Which sensor sits where; while the load runs a change is a correction for the whole of it, and says why. */
export function Sensors({ load, chamber }: { load: LoadView; chamber: ChamberView }) {
  const channels = [
    ...new Set([...(chamber.instrument?.channels ?? []), ...load.channels, ...load.probes.map((p) => p.channel)]),
  ];
  const [said, setSaid] = useState<Readonly<Record<string, Seat>>>({});
  const [reason, setReason] = useState('');
  const [set, { error, isLoading }] = useSetProbesMutation();
  if (channels.length === 0) return null;
  const now = (c: string): Seat => {
    const p = load.probes.find((x) => x.channel === c);
    return p ? { role: p.role, part: p.part } : { role: isAirByName(c) ? 'oven air' : 'not used', part: null };
  };
  const changed = Object.entries(said).filter(([c, s]) => s.role !== now(c).role || s.part !== now(c).part);
  const inside = load.parts.filter((p) => p.out === null);
  return (
    <details>
      <summary className="cursor-pointer font-semibold py-1.5">Sensors: which sits where</summary>
      <div className="grid grid-cols-1 sm:grid-cols-2 gap-3">
        {channels.map((c) => {
          const seat = said[c] ?? now(c);
          return (
            <PlainSelect
              key={c}
              label={c}
              value={seat.part ?? seat.role}
              onChange={(e) => {
                const v = e.target.value;
                const role = PROBE_ROLES.find((r) => r === v);
                setSaid({ ...said, [c]: role ? { role, part: null } : { role: 'part', part: v } });
              }}
              options={[
                ...inside.map((p) => ({ value: p.id, label: `on ${p.job}, ${p.what}` })),
                ...PROBE_ROLES.map((r) => ({ value: r, label: ROLE_WORDS[r] })),
              ]}
            />
          );
        })}
      </div>
      <div className="flex flex-wrap gap-3 items-end mt-2">
        {load.state === 'running' ? (
          <PlainField
            label="Why they are assigned otherwise"
            value={reason}
            onChange={(e) => setReason(e.target.value)}
          />
        ) : null}
        <Button
          disabled={isLoading || changed.length === 0}
          onClick={() =>
            void set({
              id: load.id,
              probes: changed.map(([channel, s]) => ({ channel, ...s })),
              reason,
            }).then((r) => {
              if (!r.data) return;
              setSaid({});
              setReason('');
            })
          }
        >
          Assign
        </Button>
      </div>
      <ProblemNote error={error} />
    </details>
  );
}
