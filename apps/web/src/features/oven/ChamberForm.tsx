import { CHAMBER_FIELDS, OVEN_USES, type OvenUse } from '@norther/core';
import type { ChamberView } from '@norther/contracts';
import { useMemo, useState } from 'react';
import { useAddChamberMutation, useChangeChamberMutation } from '../../app/api/oven.ts';
import { useInstrumentsQuery } from '../../app/api/instrument.ts';
import { Button } from '../../ui/Button.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { enterMovesOn, Field, PlainSelect } from '../../ui/Field.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';
import { useTypedForm } from '../../ui/useTypedForm.ts';

const NOTHING = {};
const WORDS: Readonly<Record<OvenUse, string>> = {
  bake: 'baking resin',
  dry: 'drying and preheating',
  'burn-off': 'burning off',
};

/** A chamber, entered once. */
export function ChamberForm({ chamber, onClose }: { chamber: ChamberView | undefined; onClose: () => void }) {
  const start = useMemo(() => chamber?.typed ?? NOTHING, [chamber]);
  const form = useTypedForm({ key: `oven:chamber:${chamber?.id ?? 'new'}`, specs: CHAMBER_FIELDS, start });
  const [uses, setUses] = useState<OvenUse[]>(chamber?.uses ?? ['bake', 'dry']);
  const [logger, setLogger] = useState(chamber?.instrument?.id ?? '');
  const { data: instruments } = useInstrumentsQuery();
  const [add, added] = useAddChamberMutation();
  const [change, changed] = useChangeChamberMutation();
  const keep = async (active: boolean): Promise<void> => {
    const body = { typed: form.typed, uses, instrumentId: logger === '' ? null : logger };
    const r = chamber ? await change({ id: chamber.id, version: chamber.version, active, ...body }) : await add(body);
    if (!r.data) return;
    form.recorded({});
    onClose();
  };
  return (
    <Dialog open onOpenChange={(o) => (o ? undefined : onClose())} title={chamber ? chamber.name : 'A chamber'}>
      <form
        onKeyDown={enterMovesOn}
        onSubmit={(e) => {
          e.preventDefault();
          void keep(true);
        }}
        className="space-y-2"
      >
        <div className="grid grid-cols-2 gap-x-3">
          {CHAMBER_FIELDS.map((f) => (
            <Field key={f.name} form={form} spec={f} {...(f.name === 'name' ? { wide: true as const } : {})} />
          ))}
        </div>
        <fieldset>
          <legend className="text-small font-semibold">It is for</legend>
          {OVEN_USES.map((u) => (
            <label key={u} className="mr-4 inline-flex items-center gap-2 min-h-9">
              <input
                type="checkbox"
                className="size-4"
                checked={uses.includes(u)}
                onChange={(e) => setUses(e.target.checked ? [...uses, u] : uses.filter((x) => x !== u))}
              />
              {WORDS[u]}
            </label>
          ))}
        </fieldset>
        <PlainSelect
          label="Logger that reads it"
          value={logger}
          onChange={(e) => setLogger(e.target.value)}
          options={[
            { value: '', label: 'none: read by hand' },
            ...(instruments ?? [])
              .filter((i) => i.active && i.mayWrite.includes('oven'))
              .map((i) => ({ value: i.id, label: `${i.name}${i.simulated ? ' (simulated)' : ''}` })),
          ]}
        />
        <div className="flex gap-2">
          <Button look="main" type="submit" disabled={added.isLoading || changed.isLoading || uses.length === 0}>
            Keep
          </Button>
          {chamber ? (
            <Button look="quiet" onClick={() => void keep(false)}>
              Put out of use
            </Button>
          ) : null}
        </div>
        <ProblemNote error={added.error ?? changed.error} />
      </form>
    </Dialog>
  );
}
