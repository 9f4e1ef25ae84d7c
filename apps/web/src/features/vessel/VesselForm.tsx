import { VESSEL_FIELDS } from '@norther/core';
import type { VesselView } from '@norther/contracts';
import { useMemo, useState } from 'react';
import { useInstrumentsQuery } from '../../app/api/instrument.ts';
import { useTanksQuery } from '../../app/api/tank.ts';
import { useAddVesselMutation, useChangeVesselMutation } from '../../app/api/vessel.ts';
import { Button } from '../../ui/Button.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { enterMovesOn, Field, PlainSelect } from '../../ui/Field.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';
import { useTypedForm } from '../../ui/useTypedForm.ts';

const NOTHING = {};

/** A vessel, entered once with the set points of its resin. */
export function VesselForm({ vessel, onClose }: { vessel: VesselView | undefined; onClose: () => void }) {
  const start = useMemo(() => vessel?.typed ?? NOTHING, [vessel]);
  const form = useTypedForm({ key: `vessel:form:${vessel?.id ?? 'new'}`, specs: VESSEL_FIELDS, start });
  const [tankId, setTank] = useState(vessel?.tank?.id ?? '');
  const [instrumentId, setInstrument] = useState(vessel?.instrument?.id ?? '');
  const { data: tanks } = useTanksQuery();
  const { data: instruments } = useInstrumentsQuery();
  const [add, added] = useAddVesselMutation();
  const [change, changed] = useChangeVesselMutation();
  const keep = async (active: boolean): Promise<void> => {
    const body = { typed: form.typed, tankId: tankId || null, instrumentId: instrumentId || null };
    const r = vessel ? await change({ id: vessel.id, version: vessel.version, active, ...body }) : await add(body);
    if (!r.data) return;
    form.recorded({});
    onClose();
  };
  return (
    <Dialog open wide onOpenChange={(o) => (o ? undefined : onClose())} title={vessel ? vessel.name : 'A vessel'}>
      <form
        onKeyDown={enterMovesOn}
        onSubmit={(e) => {
          e.preventDefault();
          void keep(true);
        }}
      >
        <div className="grid grid-cols-2 sm:grid-cols-3 gap-x-3">
          {VESSEL_FIELDS.map((f) => (
            <Field key={f.name} form={form} spec={f} />
          ))}
        </div>
        <div className="grid grid-cols-2 gap-3">
          <PlainSelect
            label="Resin comes from"
            value={tankId}
            onChange={(e) => setTank(e.target.value)}
            options={[
              { value: '', label: 'no tank named' },
              ...(tanks ?? []).map((t) => ({ value: t.id, label: t.name })),
            ]}
          />
          <PlainSelect
            label="Instrument that reads it"
            value={instrumentId}
            onChange={(e) => setInstrument(e.target.value)}
            options={[
              { value: '', label: 'none: read by hand' },
              ...(instruments ?? [])
                .filter((i) => i.active && i.mayWrite.includes('resin tank'))
                .map((i) => ({ value: i.id, label: `${i.name}${i.simulated ? ' (simulated)' : ''}` })),
            ]}
          />
        </div>
        <div className="flex gap-2 mt-3">
          <Button look="main" type="submit" disabled={added.isLoading || changed.isLoading}>
            Keep
          </Button>
          {vessel ? (
            <Button look="quiet" onClick={() => void keep(!vessel.active)}>
              {vessel.active ? 'Put out of use' : 'Take into use'}
            </Button>
          ) : null}
        </div>
        <ProblemNote error={added.error ?? changed.error} />
      </form>
    </Dialog>
  );
}
