import { LOAD_FIELDS, sayUse, type OvenUse } from '@norther/core';
import type { ChamberView } from '@norther/contracts';
import { useState } from 'react';
import { useBeginLoadMutation } from '../../app/api/oven.ts';
import { useMay, useSettings } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { enterMovesOn, Field, PlainSelect } from '../../ui/Field.tsx';
import { ProblemNote, Quiet } from '../../ui/Problem.tsx';
import { Segmented } from '../../ui/Segmented.tsx';
import { useTypedForm } from '../../ui/useTypedForm.ts';

const NOTHING = {};
const USE_WORDS: Readonly<Record<OvenUse, string>> = {
  bake: 'Bake resin',
  dry: 'Dry or preheat',
  'burn-off': 'Burn off',
};

/** An empty chamber: what the next load is for. */
export function BeginLoad({ chamber }: { chamber: ChamberView }) {
  const may = useMay('winder');
  const settings = useSettings();
  const [use, setUse] = useState<OvenUse>(chamber.uses[0] ?? 'bake');
  const [resin, setResin] = useState('');
  const [begin, { error, isLoading }] = useBeginLoadMutation();
  const form = useTypedForm({ key: `oven:begin:${chamber.id}`, specs: LOAD_FIELDS, start: NOTHING });
  const name = resin || (settings?.resins[0]?.name ?? '');
  const own = settings?.resins.find((r) => r.name === name);
  if (!may) return <Quiet>{chamber.name} is empty.</Quiet>;
  return (
    <form
      aria-label="Begin a load"
      className="space-y-3 max-w-xl"
      onKeyDown={enterMovesOn}
      onSubmit={(e) => {
        e.preventDefault();
        void begin({
          chamberId: chamber.id,
          use,
          ...(use === 'bake' ? { resin: name } : {}),
          typed: form.typed,
        }).then((r) => (r.data ? form.recorded({}) : undefined));
      }}
    >
      <h2 className="font-semibold border-b border-line">{chamber.name} is empty: begin a load</h2>
      {use === 'burn-off' ? (
        <p className="border-l-4 border-attention pl-2 font-semibold">
          Caution: fume and flash fire; afterburner hot before loading, water or inert quench ready; some enamels give
          off toxic fume. Local codes and licensed practice decide.
        </p>
      ) : null}
      {chamber.uses.length > 1 ? (
        <Segmented
          label="What for"
          options={chamber.uses.map((u) => [u, USE_WORDS[u]] as const)}
          value={use}
          onChange={setUse}
        />
      ) : (
        <p>To {sayUse(use)}.</p>
      )}
      {use === 'bake' ? (
        <PlainSelect
          label="Resin"
          value={name}
          onChange={(e) => setResin(e.target.value)}
          options={(settings?.resins ?? []).map((r) => ({
            value: r.name,
            label: `${r.name}: ${r.ratedH} h at ${r.ratedC} °C of the part`,
          }))}
        />
      ) : null}
      <div className="max-w-60">
        {LOAD_FIELDS.map((f) => (
          <Field
            key={f.name}
            form={form}
            spec={f}
            bench
            extra={
              use === 'bake' && own && !form.typed['setPoint'] ? `the part is to come to ${own.ratedC} °C` : undefined
            }
          />
        ))}
      </div>
      <Button look="main" bench type="submit" disabled={isLoading}>
        Begin the load
      </Button>
      <ProblemNote error={error} />
    </form>
  );
}
