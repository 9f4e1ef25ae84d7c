import { formatNumber, nearestSize, parseWires, sizeTable, SPOOL_SIZES_KG, type WireSystem } from '@norther/core';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { useReadingDefaults } from '../../app/shop.ts';
import { PlainField, PlainSelect } from '../../ui/Field.tsx';
import { Table } from '../../ui/Table.tsx';

const SYSTEMS: readonly { value: WireSystem; label: string }[] = [
  { value: 'metric', label: 'metric (IEC 60317)' },
  { value: 'awg', label: 'AWG, half sizes too (ASTM B258)' },
  { value: 'swg', label: 'legacy gauge (SWG, from memory)' },
];

const FIGURES = { align: 'right', className: 'tabular-nums' } as const;

/** Tables of sizes with their nearest in the other systems, metres in a kilogram and on a spool. */
export function WireSizes() {
  const { wireSystem } = useReadingDefaults();
  const [system, setSystem] = useState<WireSystem>(wireSystem);
  const [spool, setSpool] = useState('15');
  const [near, setNear] = useState('');
  const rows = useMemo(() => sizeTable(system), [system]);
  const others = SYSTEMS.map((s) => s.value).filter((s) => s !== system);
  const read = near.trim() === '' ? undefined : parseWires(near, wireSystem);
  const wanted = read?.ok ? read.value[0]?.bareM : undefined;
  const hit = wanted === undefined ? undefined : nearestSize(wanted, system);
  const mm = (m: number) => (m * 1000).toFixed(3);
  return (
    <section aria-label="Wire sizes">
      <div className="flex gap-3 mb-2 items-start">
        <PlainSelect
          label="Sizes"
          value={system}
          onChange={(e) => setSystem(e.target.value as WireSystem)}
          options={SYSTEMS}
        />
        <PlainSelect
          label="Spool of"
          value={spool}
          onChange={(e) => setSpool(e.target.value)}
          options={SPOOL_SIZES_KG.map((k) => ({ value: String(k), label: `${k} kg net` }))}
        />
        <PlainField
          label="Nearest to"
          value={near}
          placeholder="AWG 18, 0.85 …"
          onChange={(e) => setNear(e.target.value)}
          error={read && !read.ok ? read.message : undefined}
          hint={
            hit
              ? `${hit.row.label}, area ${hit.offPercent >= 0 ? '+' : '−'}${Math.abs(hit.offPercent).toFixed(1)} %`
              : ''
          }
        />
      </div>
      <Table
        label="Size table"
        height="max-h-[66vh]"
        rows={rows}
        keyOf={(r) => r.label}
        rowClass={(r) => (hit?.row.label === r.label ? 'bg-accent-tint' : '')}
        columns={[
          { id: 'size', head: 'Size', names: true, cell: (r) => r.label },
          { ...FIGURES, id: 'bare', head: 'Bare, mm', cell: (r) => mm(r.bareM) },
          { ...FIGURES, id: 'grade1', head: 'over grade 1', cell: (r) => mm(r.overallM[0]) },
          { ...FIGURES, id: 'grade2', head: 'over grade 2', cell: (r) => mm(r.overallM[1]) },
          { ...FIGURES, id: 'area', head: 'Area, mm²', cell: (r) => formatNumber(r.areaM2 * 1e6, 4) },
          { ...FIGURES, id: 'cmil', head: 'cmil', cell: (r) => formatNumber(Math.round(r.circularMils)) },
          { ...FIGURES, id: 'perKg', head: 'm/kg', cell: (r) => formatNumber(r.metresPerKg, 4) },
          {
            ...FIGURES,
            id: 'onSpool',
            head: `m on ${spool} kg`,
            cell: (r) => formatNumber(Math.round(r.metresPerKg * Number(spool))),
          },
          { ...FIGURES, id: 'ohm', head: 'Ω/km at 20 °C', cell: (r) => formatNumber(r.ohmPerKm, 4) },
          ...others.map((o) => ({
            ...FIGURES,
            id: o,
            head: `nearest ${o === 'metric' ? 'metric' : o.toUpperCase()}`,
            cell: (r: (typeof rows)[number]) => {
              const n = nearestSize(r.bareM, o);
              return n ? `${n.row.label} (${n.offPercent >= 0 ? '+' : '−'}${Math.abs(n.offPercent).toFixed(1)} %)` : '';
            },
          })),
          {
            id: 'substitute',
            head: 'Substitute',
            hidesHead: true,
            cell: (r) => (
              <Link
                className="text-accent underline inline-block min-h-6 leading-6"
                to={`/stock?do=substitute&wires=1x${(r.bareM * 1000).toFixed(4)}mm`}
              >
                substitute
              </Link>
            ),
          },
        ]}
      />
      <p className="text-small text-soft mt-2">
        Insulated diameters are the largest allowed, from memory of IEC 60317-0-1 and the AWG table, between sizes
        interpolated; the label on the spool decides. Metres are of copper with grade 2 enamel.
      </p>
    </section>
  );
}
