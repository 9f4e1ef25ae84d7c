import {
  allMixes,
  conductorAreaM2,
  formatNumber,
  insulatedDiameterM,
  METRIC_R20_MM,
  parseNumber,
  parseWires,
  substitutes,
  type StockWire,
} from '@norther/core';
import { useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { useStockQuery } from '../../app/api/stock.ts';
import { useReadingDefaults, useToday } from '../../app/shop.ts';
import { PlainField, PlainSelect } from '../../ui/Field.tsx';
import { Quiet } from '../../ui/Problem.tsx';
import { Table } from '../../ui/Table.tsx';
import { freeWire } from './freeWire.ts';

const FIGURES = { className: 'tabular-nums py-1' } as const;
const percent = (x: number): string => `${x >= 0 ? '+' : '−'}${Math.abs(x * 100).toFixed(2)} %`;

/** What may stand in for the wires of a hand: by area, within a hand limit, from the shelf or from all sizes. */
export function Substitute() {
  const [query, setQuery] = useSearchParams();
  const { wireSystem } = useReadingDefaults();
  const { data: stock } = useStockQuery();
  const today = useToday();
  const wires = query.get('wires') ?? '';
  const [most, setMost] = useState('4');
  const [tolerance, setTolerance] = useState('2');
  const [from, setFrom] = useState<'stock' | 'all'>('stock');
  const [grade, setGrade] = useState<'1' | '2'>('2');
  const [opening, setOpening] = useState('');
  const read = wires.trim() === '' ? undefined : parseWires(wires, wireSystem);
  const sizes = useMemo(() => {
    if (from === 'all') return METRIC_R20_MM.map((d) => ({ bareM: d / 1000, label: formatNumber(d, 3) }));
    return freeWire(stock ?? [], { grade, today });
  }, [from, stock, grade, today]);
  const n = Number(most);
  const tol = parseNumber(tolerance);
  const slot = opening.trim() === '' ? undefined : parseNumber(opening);
  const bad =
    !Number.isInteger(n) || n < 1 || n > 10
      ? 'Most wires in hand: type a whole number from 1 to 10.'
      : tol === undefined || tol <= 0 || tol > 20
        ? 'Off by at most: type a number of per cent from 0.1 to 20.'
        : opening.trim() !== '' && (slot === undefined || slot <= 0)
          ? 'Slot opening: type its width in mm, or leave it blank.'
          : undefined;
  const g = grade === '1' ? 1 : 2;
  const found = useMemo(() => {
    if (bad || !read?.ok) return [];
    const widest = slot === undefined ? Infinity : (slot - 2 * 0.25 - 0.3) / 1000;
    return substitutes(allMixes(sizes, n, g, widest), conductorAreaM2(read.value), (tol ?? 2) / 100).slice(0, 40);
  }, [bad, read, sizes, n, g, slot, tol]);
  const target = read?.ok ? conductorAreaM2(read.value) : 0;
  const squares = read?.ok ? read.value.reduce((a, s) => a + s.count * insulatedDiameterM(s.bareM, g) ** 2, 0) : 0;
  const kgOf = (bareM: number) => (sizes as readonly StockWire[]).find((s) => s.bareM === bareM)?.massKg;
  return (
    <section aria-label="Substitution" className="space-y-3">
      <div className="grid grid-cols-1 lg:grid-cols-[2fr_1fr_1fr_1.2fr_1.2fr_1fr] gap-3 max-w-5xl items-start">
        <PlainField
          label="Wires to be replaced"
          value={wires}
          placeholder="2x0.85 or 2x18+1x17"
          onChange={(e) =>
            setQuery({ do: 'substitute', ...(e.target.value ? { wires: e.target.value } : {}) }, { replace: true })
          }
          error={read && !read.ok ? read.message : undefined}
          hint={read?.ok ? `${formatNumber(target * 1e6, 4)} mm² in all` : 'as on the data sheet'}
        />
        <PlainField label="Most wires in hand" value={most} onChange={(e) => setMost(e.target.value)} />
        <PlainField label="Off by at most, %" value={tolerance} onChange={(e) => setTolerance(e.target.value)} />
        <PlainSelect
          label="From"
          value={from}
          onChange={(e) => setFrom(e.target.value as typeof from)}
          options={[
            { value: 'stock', label: 'what is free in stock' },
            { value: 'all', label: 'all preferred sizes' },
          ]}
        />
        <PlainSelect
          label="Enamel"
          value={grade}
          onChange={(e) => setGrade(e.target.value as '1' | '2')}
          options={[
            { value: '1', label: 'grade 1 / single' },
            { value: '2', label: 'grade 2 / heavy' },
          ]}
        />
        <PlainField label="Slot opening, mm" value={opening} onChange={(e) => setOpening(e.target.value)} />
      </div>
      {bad ? <p className="text-fail font-semibold">{bad}</p> : null}
      <p className="text-small text-soft">
        Areas are added, never diameters. Sizes of one hand stay within 1.6 of each other; the slot opening must pass
        each wire with its liner and 0.3 mm to spare (common practice).
      </p>
      {!read?.ok ? (
        <Quiet>Type the wires of the winding to see what may stand in for them.</Quiet>
      ) : found.length === 0 && !bad ? (
        <Quiet>Nothing fits: allow more wires, a wider tolerance, or all sizes.</Quiet>
      ) : (
        <Table
          label="What may stand in"
          rows={found}
          keyOf={(m) => JSON.stringify(m.strands)}
          columns={[
            {
              id: 'wires',
              head: 'Wires in hand',
              names: true,
              cell: (m) => m.strands.map((s) => `${s.count} × ${s.label}`).join(' + '),
            },
            { ...FIGURES, id: 'area', head: 'Area', cell: (m) => `${formatNumber(m.areaM2 * 1e6, 4)} mm²` },
            { ...FIGURES, id: 'off', head: 'Off by', by: (m) => Math.abs(m.error), cell: (m) => percent(m.error) },
            { ...FIGURES, id: 'density', head: 'Current density', cell: (m) => percent(1 / (1 + m.error) - 1) },
            {
              ...FIGURES,
              id: 'fill',
              head: 'Slot fill',
              by: (m) => m.squaresM2,
              cell: (m) => percent(m.squaresM2 / squares - 1),
            },
            {
              ...FIGURES,
              id: 'free',
              head: 'Free in stock',
              cell: (m) =>
                m.strands
                  .map((s) => kgOf(s.bareM))
                  .map((kg) => (kg === undefined ? '' : `${formatNumber(kg, 3)} kg`))
                  .join(' + '),
            },
          ]}
        />
      )}
    </section>
  );
}
