import { parseNumber, parseWires } from '@norther/core';
import { STOCK_UNITS, type StockUnit } from '@norther/contracts';
import { useState } from 'react';
import { problemOf } from '../../app/api/base.ts';
import { useReceiveLotMutation } from '../../app/api/stock.ts';
import { useReadingDefaults, useSettings } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { DateField } from '../../ui/DateField.tsx';
import { enterMovesOn, PlainField, PlainSelect } from '../../ui/Field.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';

const EMPTY = {
  lot: '',
  kind: 'wire' as 'wire' | 'material',
  size: '',
  grade: '2' as '1' | '2',
  metal: 'copper' as 'copper' | 'aluminium',
  classC: '',
  material: '',
  unit: 'kg' as StockUnit,
  quantity: '',
  price: '',
  spools: '',
  expires: '',
  note: '',
};

/** A lot comes in: wire by size, or a material of the shop's list. */
export function NewLot({ onDone }: { onDone: (id: string) => void }) {
  const [v, setV] = useState(EMPTY);
  const [wrong, setWrong] = useState<{ field: string; message: string }>();
  const [receive, { isLoading, error }] = useReceiveLotMutation();
  const materials = useSettings()?.materials ?? [];
  const { wireSystem } = useReadingDefaults();
  const put = (part: Partial<typeof EMPTY>) => setV({ ...v, ...part });
  const problem = error ? problemOf(error) : undefined;
  const at = (field: string) =>
    wrong?.field === field ? wrong.message : problem?.field === field ? problem.detail : undefined;
  const size = v.size.trim() === '' ? undefined : parseWires(v.size, wireSystem);
  const one = size?.ok && size.value.length === 1 && size.value[0]?.count === 1 ? size.value[0] : undefined;
  const send = (): void => {
    const fail = (field: string, message: string) => setWrong({ field, message });
    const quantity = parseNumber(v.quantity);
    if (v.lot.trim() === '') return fail('lot', 'Type the lot number, as on the label.');
    if (v.kind === 'wire' && !one)
      return fail('size', size && !size.ok ? size.message : 'Type one size, for example 0.85 or AWG 18.');
    if (v.kind === 'material' && v.material === '') return fail('material', 'Choose the material.');
    if (quantity === undefined || quantity <= 0) return fail('quantity', 'Type how much came, above zero.');
    const optional = (text: string, field: string): number | undefined => {
      if (text.trim() === '') return undefined;
      const n = parseNumber(text);
      if (n === undefined || n < 0) throw new Error(field);
      return n;
    };
    try {
      const pricePerUnit = optional(v.price, 'price');
      const spools = optional(v.spools, 'spools');
      const classC = optional(v.classC, 'classC');
      setWrong(undefined);
      void receive({
        lot: v.lot,
        what:
          v.kind === 'wire' && one
            ? {
                kind: 'wire',
                bareM: one.bareM,
                label: one.label,
                grade: v.grade,
                material: v.metal,
                ...(classC === undefined ? {} : { classC }),
              }
            : { kind: 'material', name: v.material },
        unit: v.kind === 'wire' ? 'kg' : v.unit,
        quantity,
        ...(pricePerUnit === undefined ? {} : { pricePerUnit }),
        ...(spools === undefined ? {} : { spools }),
        ...(v.expires === '' ? {} : { expires: v.expires }),
        note: v.note,
      }).then((r) => ('data' in r && r.data ? onDone(r.data.id) : undefined));
    } catch (e) {
      fail((e as Error).message, 'Type a number, or leave it blank.');
    }
  };
  return (
    <form
      className="grid grid-cols-1 sm:grid-cols-2 gap-x-3 gap-y-2 items-start"
      onKeyDown={enterMovesOn}
      onSubmit={(e) => {
        e.preventDefault();
        send();
      }}
    >
      <h2 className="font-semibold col-span-2">A lot came in</h2>
      <PlainField label="Lot number" value={v.lot} onChange={(e) => put({ lot: e.target.value })} error={at('lot')} />
      <PlainSelect
        label="Of"
        value={v.kind}
        onChange={(e) => put({ kind: e.target.value as typeof v.kind })}
        options={[
          { value: 'wire', label: 'winding wire' },
          { value: 'material', label: 'other material' },
        ]}
      />
      {v.kind === 'wire' ? (
        <>
          <PlainField
            label="Size"
            value={v.size}
            onChange={(e) => put({ size: e.target.value })}
            error={at('size')}
            hint={one ? `${one.label}: ${(one.bareM * 1000).toFixed(3)} mm bare` : '0.85, AWG 18, SWG 20'}
          />
          <PlainSelect
            label="Enamel"
            value={v.grade}
            onChange={(e) => put({ grade: e.target.value as '1' | '2' })}
            options={[
              { value: '1', label: 'grade 1 / single' },
              { value: '2', label: 'grade 2 / heavy' },
            ]}
          />
          <PlainSelect
            label="Conductor"
            value={v.metal}
            onChange={(e) => put({ metal: e.target.value as typeof v.metal })}
            options={['copper', 'aluminium'].map((x) => ({ value: x, label: x }))}
          />
          <PlainField
            label="Class, °C"
            value={v.classC}
            onChange={(e) => put({ classC: e.target.value })}
            error={at('classC')}
          />
        </>
      ) : (
        <>
          <PlainSelect
            label="Material"
            value={v.material}
            onChange={(e) => put({ material: e.target.value })}
            options={[{ value: '', label: '' }, ...materials.map((m) => ({ value: m.name, label: m.name }))]}
          />
          <PlainSelect
            label="Counted in"
            value={v.unit}
            onChange={(e) => put({ unit: e.target.value as StockUnit })}
            options={STOCK_UNITS.map((u) => ({ value: u, label: u }))}
          />
        </>
      )}
      <PlainField
        label={`Amount, ${v.kind === 'wire' ? 'kg net' : v.unit}`}
        value={v.quantity}
        inputMode="decimal"
        onChange={(e) => put({ quantity: e.target.value })}
        error={at('quantity')}
      />
      <PlainField
        label={`Price for a ${v.kind === 'wire' ? 'kg' : v.unit.replace(/s$/, '')}`}
        value={v.price}
        onChange={(e) => put({ price: e.target.value })}
        error={at('price')}
      />
      <PlainField
        label="Spools"
        value={v.spools}
        onChange={(e) => put({ spools: e.target.value })}
        error={at('spools')}
      />
      <DateField label="Use by" value={v.expires} onChange={(expires) => put({ expires })} error={at('expires')} />
      <div className="col-span-2">
        <PlainField label="Note" value={v.note} onChange={(e) => put({ note: e.target.value })} />
      </div>
      <div className="col-span-2">
        {wrong?.field === 'material' ? <ProblemNote>{wrong.message}</ProblemNote> : null}
        {problem && !['lot', 'size', 'quantity'].includes(problem.field ?? '') ? <ProblemNote error={error} /> : null}
        <Button look="main" bench type="submit" disabled={isLoading}>
          Record the lot
        </Button>
      </div>
    </form>
  );
}
