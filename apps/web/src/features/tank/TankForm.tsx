import { TANK_FIELDS } from '@norther/core';
import type { TankView } from '@norther/contracts';
import { useMemo } from 'react';
import { useAddTankMutation, useChangeTankMutation } from '../../app/api/tank.ts';
import { Button } from '../../ui/Button.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { enterMovesOn, Field } from '../../ui/Field.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';
import { useTypedForm } from '../../ui/useTypedForm.ts';

const NOTHING = {};

/** A tank, entered once from the data sheet of its resin. */
export function TankForm({ tank, onClose }: { tank: TankView | undefined; onClose: () => void }) {
  const start = useMemo(() => tank?.typed ?? NOTHING, [tank]);
  const form = useTypedForm({ key: `tank:form:${tank?.id ?? 'new'}`, specs: TANK_FIELDS, start });
  const [add, added] = useAddTankMutation();
  const [change, changed] = useChangeTankMutation();
  const keep = async (active: boolean): Promise<void> => {
    const r = tank
      ? await change({ id: tank.id, version: tank.version, typed: form.typed, active })
      : await add({ typed: form.typed });
    if (!r.data) return;
    form.recorded({});
    onClose();
  };
  return (
    <Dialog open onOpenChange={(o) => (o ? undefined : onClose())} title={tank ? tank.name : 'A tank'}>
      <form
        onKeyDown={enterMovesOn}
        onSubmit={(e) => {
          e.preventDefault();
          void keep(true);
        }}
      >
        <div className="grid grid-cols-2 gap-x-3">
          {TANK_FIELDS.map((f) => (
            <Field key={f.name} form={form} spec={f} {...(f.name === 'resin' ? { wide: true as const } : {})} />
          ))}
        </div>
        <div className="flex gap-2">
          <Button look="main" type="submit" disabled={added.isLoading || changed.isLoading}>
            Keep
          </Button>
          {tank ? (
            <Button look="quiet" onClick={() => void keep(!tank.active)}>
              {tank.active ? 'Put out of use' : 'Take into use'}
            </Button>
          ) : null}
        </div>
        <ProblemNote error={added.error ?? changed.error} />
      </form>
    </Dialog>
  );
}
