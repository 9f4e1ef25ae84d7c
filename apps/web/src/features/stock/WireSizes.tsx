import { formatNumber, nearestSize, parseWires, sizeTable, SPOOL_SIZES_KG, type WireSystem } from '@norther/core';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { useReadingDefaults } from '../../app/shop.ts';
import { PlainField, PlainSelect } from '../../ui/Field.tsx';

const SYSTEMS: readonly { value: WireSystem; label: string }[] = [
  { value: 'metric', label: 'metric (IEC 60317)' },
  { value: 'awg', label: 'AWG, half sizes too (ASTM B258)' },
  { value: 'swg', label: 'legacy gauge (SWG, from memory)' },
];

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
      <div className="max-h-[66vh] overflow-auto" tabIndex={0} role="group" aria-label="Size table">
        <table className="text-small w-full">
          <thead className="sticky top-0 bg-page">
            <tr className="border-b-2 border-edge">
              {[
                'Size',
                'Bare, mm',
                'over grade 1',
                'over grade 2',
                'Area, mm²',
                'cmil',
                'm/kg',
                `m on ${spool} kg`,
                'Ω/km at 20 °C',
                ...others.map((o) => `nearest ${o === 'metric' ? 'metric' : o.toUpperCase()}`),
                '',
              ].map((h) => (
                <th key={h} scope="col" className="text-right first:text-left pl-3 first:pl-0 py-1">
                  {h}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((r) => (
              <tr
                key={r.label}
                className={`border-b border-line tabular-nums text-right ${hit?.row.label === r.label ? 'bg-accent-tint' : ''}`}
              >
                <th scope="row" className="text-left">
                  {r.label}
                </th>
                <td>{mm(r.bareM)}</td>
                <td>{mm(r.overallM[0])}</td>
                <td>{mm(r.overallM[1])}</td>
                <td>{formatNumber(r.areaM2 * 1e6, 4)}</td>
                <td>{formatNumber(Math.round(r.circularMils))}</td>
                <td>{formatNumber(r.metresPerKg, 4)}</td>
                <td>{formatNumber(Math.round(r.metresPerKg * Number(spool)))}</td>
                <td>{formatNumber(r.ohmPerKm, 4)}</td>
                {others.map((o) => {
                  const n = nearestSize(r.bareM, o);
                  return (
                    <td key={o}>
                      {n
                        ? `${n.row.label} (${n.offPercent >= 0 ? '+' : '−'}${Math.abs(n.offPercent).toFixed(1)} %)`
                        : ''}
                    </td>
                  );
                })}
                <td className="pl-3">
                  <Link
                    className="text-accent underline inline-block min-h-6 leading-6"
                    to={`/stock?do=substitute&wires=1x${(r.bareM * 1000).toFixed(4)}mm`}
                  >
                    substitute
                  </Link>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="text-small text-soft mt-2">
        Insulated diameters are the largest allowed, from memory of IEC 60317-0-1 and the AWG table, between sizes
        interpolated; the label on the spool decides. Metres are of copper with grade 2 enamel.
      </p>
    </section>
  );
}
