import { DEFAULT_FLOOR_K, type Resin } from '@norther/core';
import { Button } from '../../ui/Button.tsx';
import { PlainField, PlainSelect } from '../../ui/Field.tsx';

const DOUBLING = { law: 'doubling', doublingK: 10 } as const;
const ARRHENIUS = { law: 'arrhenius', activationKJMol: 95 } as const;

/** The shop's resins: rated cure at part temperature, floor, ceiling and rate law, all from the maker's data sheet. */
export function Resins({ resins, onChange }: { resins: readonly Resin[]; onChange: (resins: Resin[]) => void }) {
  return (
    <>
      <div className="space-y-3">
        {resins.map((r, i) => {
          const put = (part: Partial<Resin>) => onChange(resins.map((x, k) => (k === i ? { ...x, ...part } : x)));
          const number = (text: string) => (text === '' ? 0 : Number(text));
          return (
            <div key={i} className="grid grid-cols-2 md:grid-cols-4 gap-2 items-end border-l-4 border-line pl-2">
              <div className="col-span-2">
                <PlainField label="Name" value={r.name} onChange={(e) => put({ name: e.target.value })} />
              </div>
              <PlainField
                label="Rated, °C"
                type="number"
                value={r.ratedC}
                onChange={(e) => put({ ratedC: number(e.target.value) })}
              />
              <PlainField
                label="for, h"
                type="number"
                step="0.1"
                value={r.ratedH}
                onChange={(e) => put({ ratedH: number(e.target.value) })}
              />
              <PlainField
                label="No credit below, °C"
                type="number"
                value={r.floorC === undefined ? r.ratedC - DEFAULT_FLOOR_K : (r.floorC ?? '')}
                onChange={(e) => put({ floorC: e.target.value === '' ? null : Number(e.target.value) })}
              />
              <PlainField
                label="Never above, °C"
                type="number"
                value={r.maxC ?? ''}
                placeholder={String(r.ratedC + 20)}
                onChange={(e) => put({ maxC: e.target.value === '' ? undefined : Number(e.target.value) })}
              />
              <PlainSelect
                label="Rate law"
                value={r.rate.law}
                onChange={(e) => put({ rate: e.target.value === 'doubling' ? DOUBLING : ARRHENIUS })}
                options={[
                  { value: 'doubling', label: 'doubling' },
                  { value: 'arrhenius', label: 'Arrhenius' },
                ]}
              />
              {r.rate.law === 'doubling' ? (
                <PlainField
                  label="Doubles every, K"
                  type="number"
                  step="0.5"
                  value={r.rate.doublingK}
                  onChange={(e) => put({ rate: { law: 'doubling', doublingK: number(e.target.value) } })}
                />
              ) : (
                <PlainField
                  label="Activation, kJ/mol"
                  type="number"
                  value={r.rate.activationKJMol}
                  onChange={(e) => put({ rate: { law: 'arrhenius', activationKJMol: number(e.target.value) } })}
                />
              )}
              <Button look="quiet" onClick={() => onChange(resins.filter((_, k) => k !== i))}>
                Take out
              </Button>
            </div>
          );
        })}
      </div>
      <Button
        look="plain"
        className="mt-2"
        onClick={() => onChange([...resins, { name: 'New resin', ratedC: 145, ratedH: 5, rate: DOUBLING }])}
      >
        Add a resin
      </Button>
    </>
  );
}
