import { MATERIAL_USES, type MaterialUse, type ShopMaterial } from '@norther/core';
import { useState } from 'react';
import { Button } from '../../ui/Button.tsx';
import { PlainField, PlainSelect } from '../../ui/Field.tsx';

type Supply = ShopMaterial['supply'];
const FIRST: Record<Supply['kind'], Supply> = {
  sheet: { kind: 'sheet', lengthM: 1, widthM: 0.6, grain: 'along' },
  roll: { kind: 'roll', widthM: 0.914, slot: 'across' },
  length: { kind: 'length' },
  piece: { kind: 'piece' },
  mass: { kind: 'mass' },
};
const SAID: Record<Supply['kind'], string> = {
  sheet: 'sheets',
  roll: 'a roll',
  length: 'metres',
  piece: 'pieces',
  mass: 'kilograms',
};

/** Materials called by what they are, with class, thickness and how they come; fold lines run along the slot. */
export function Materials({
  materials,
  onChange,
}: {
  materials: readonly ShopMaterial[];
  onChange: (materials: ShopMaterial[]) => void;
}) {
  const [open, setOpen] = useState<number>();
  const number = (text: string): number | undefined => (text === '' ? undefined : Number(text));
  return (
    <>
      <ul className="divide-y divide-line border-y border-line">
        {materials.map((m, i) => {
          const put = (part: Partial<ShopMaterial>) =>
            onChange(materials.map((x, k) => (k === i ? { ...x, ...part } : x)));
          const supply = m.supply;
          return (
            <li key={i} className="py-1">
              <button
                type="button"
                aria-expanded={open === i}
                onClick={() => setOpen(open === i ? undefined : i)}
                className="w-full text-left min-h-8"
              >
                <span className="font-semibold">{m.name}</span>{' '}
                <span className="text-small text-soft">
                  {m.classC === null ? 'class not stated' : `class ${m.classC}`}, by {SAID[supply.kind]}:{' '}
                  {m.use.join(', ')}
                </span>
              </button>
              {open === i ? (
                <div className="grid grid-cols-2 md:grid-cols-4 gap-2 items-end border-l-4 border-line pl-2 mb-2">
                  <div className="col-span-2">
                    <PlainField label="Name" value={m.name} onChange={(e) => put({ name: e.target.value })} />
                  </div>
                  <PlainField
                    label="Class, °C"
                    type="number"
                    value={m.classC ?? ''}
                    placeholder="not stated"
                    onChange={(e) => put({ classC: number(e.target.value) ?? null })}
                  />
                  <PlainField
                    label="Thickness, mm"
                    type="number"
                    step="0.01"
                    value={m.thicknessM === undefined ? '' : Number((m.thicknessM * 1000).toFixed(4))}
                    onChange={(e) => {
                      const { thicknessM: _, ...rest } = m;
                      const t = number(e.target.value);
                      onChange(materials.map((x, k) => (k === i ? (t ? { ...rest, thicknessM: t / 1000 } : rest) : x)));
                    }}
                  />
                  <PlainSelect
                    label="Comes as"
                    value={supply.kind}
                    onChange={(e) => put({ supply: FIRST[e.target.value as Supply['kind']] })}
                    options={Object.entries(SAID).map(([value, label]) => ({ value, label }))}
                  />
                  {supply.kind === 'sheet' ? (
                    <>
                      <PlainField
                        label="Length, mm"
                        type="number"
                        value={Math.round(supply.lengthM * 1000)}
                        onChange={(e) => put({ supply: { ...supply, lengthM: (number(e.target.value) ?? 0) / 1000 } })}
                      />
                      <PlainField
                        label="Width, mm"
                        type="number"
                        value={Math.round(supply.widthM * 1000)}
                        onChange={(e) => put({ supply: { ...supply, widthM: (number(e.target.value) ?? 0) / 1000 } })}
                      />
                      <PlainSelect
                        label="Grain"
                        value={supply.grain}
                        onChange={(e) => put({ supply: { ...supply, grain: e.target.value as 'along' | 'free' } })}
                        options={[
                          { value: 'along', label: 'slot along the sheet' },
                          { value: 'free', label: 'either way' },
                        ]}
                      />
                    </>
                  ) : supply.kind === 'roll' ? (
                    <>
                      <PlainField
                        label="Roll width, mm"
                        type="number"
                        value={Math.round(supply.widthM * 1000)}
                        onChange={(e) => put({ supply: { ...supply, widthM: (number(e.target.value) ?? 0) / 1000 } })}
                      />
                      <PlainSelect
                        label="The slot lies"
                        value={supply.slot}
                        onChange={(e) => put({ supply: { ...supply, slot: e.target.value as 'across' | 'along' } })}
                        options={[
                          { value: 'across', label: 'across the roll' },
                          { value: 'along', label: 'along the roll' },
                        ]}
                      />
                    </>
                  ) : null}
                  <fieldset className="col-span-4 flex flex-wrap gap-x-3 text-small">
                    <legend className="font-semibold">For</legend>
                    {MATERIAL_USES.map((use) => (
                      <label key={use} className="inline-flex items-center gap-1">
                        <input
                          type="checkbox"
                          checked={m.use.includes(use)}
                          onChange={(e) => {
                            const next: MaterialUse[] = e.target.checked
                              ? [...m.use, use]
                              : m.use.filter((u) => u !== use);
                            if (next.length > 0) put({ use: next });
                          }}
                        />
                        {use}
                      </label>
                    ))}
                  </fieldset>
                  <Button
                    look="quiet"
                    onClick={() => (setOpen(undefined), onChange(materials.filter((_, k) => k !== i)))}
                  >
                    Take out
                  </Button>
                </div>
              ) : null}
            </li>
          );
        })}
      </ul>
      <Button
        look="plain"
        className="mt-2"
        onClick={() => {
          setOpen(materials.length);
          onChange([...materials, { name: 'New material', use: ['slot liner'], classC: null, supply: FIRST.sheet }]);
        }}
      >
        Add a material
      </Button>
    </>
  );
}
