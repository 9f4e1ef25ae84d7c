import { formatNumber, insulatedDiameterM, metresPerKg, sayAmount } from '@norther/core';
import type { StockLotView } from '@norther/contracts';
import { useMemo, useState } from 'react';
import { useStockQuery } from '../../app/api/stock.ts';
import { useMay, useReadingDefaults } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { ProblemNote, Quiet } from '../../ui/Problem.tsx';
import { LotPanel } from './LotPanel.tsx';
import { NewLot } from './NewLot.tsx';
import { sayWhat } from './sayWhat.ts';

/** Every lot with what is left, reserved and free. */
export function LotList() {
  const { data, error } = useStockQuery();
  const [text, setText] = useState('');
  const [only, setOnly] = useState<'all' | 'wire' | 'material' | 'low'>('all');
  const [open, setOpen] = useState<string>();
  const [adding, setAdding] = useState(false);
  const units = useReadingDefaults();
  const mayAdd = useMay('winder');
  const shown = useMemo(
    () =>
      (data ?? [])
        .filter(
          (l) =>
            (only === 'all' ||
              only === l.what.kind ||
              (only === 'low' && l.free < 0.15 * (l.left + l.reserved + 1e-9))) &&
            `${l.lot} ${sayWhat(l)} ${l.note}`.toLowerCase().includes(text.trim().toLowerCase()),
        )
        .sort((a, b) =>
          a.what.kind !== b.what.kind
            ? a.what.kind === 'wire'
              ? -1
              : 1
            : a.what.kind === 'wire' && b.what.kind === 'wire'
              ? a.what.bareM - b.what.bareM || a.lot.localeCompare(b.lot)
              : a.lot.localeCompare(b.lot),
        ),
    [data, only, text],
  );
  if (error && !data) return <ProblemNote error={error} />;
  if (!data) return <Quiet>Asking for the stock …</Quiet>;
  const chosen = data.find((l) => l.id === open);
  const amount = (q: number, l: StockLotView) => sayAmount(q, l.unit, units.massUnit);
  return (
    <div className="grid grid-cols-[minmax(0,1.6fr)_minmax(330px,1fr)] gap-6">
      <section aria-label="Lots" className="min-w-0">
        <div className="flex flex-wrap gap-3 items-center mb-2">
          <label className="flex-1">
            <span className="sr-only">Search the stock</span>
            <input
              value={text}
              onChange={(e) => setText(e.target.value)}
              placeholder="lot, size, material …"
              className="w-full min-h-9 border border-edge rounded-sm px-2 bg-sheet"
            />
          </label>
          <label className="text-small">
            show{' '}
            <select
              value={only}
              onChange={(e) => setOnly(e.target.value as typeof only)}
              className="min-h-9 border border-edge bg-sheet rounded-sm"
            >
              <option value="all">everything</option>
              <option value="wire">wire</option>
              <option value="material">other material</option>
              <option value="low">nearly all promised</option>
            </select>
          </label>
          {mayAdd ? (
            <Button
              look="plain"
              onClick={() => {
                setAdding(true);
                setOpen(undefined);
              }}
            >
              A lot came in
            </Button>
          ) : null}
        </div>
        {data.length === 0 ? (
          <Quiet>Nothing is in stock yet. Enter the first lot as it comes in, with its number, size and mass.</Quiet>
        ) : shown.length === 0 ? (
          <Quiet>Nothing in stock has &quot;{text}&quot;.</Quiet>
        ) : (
          <div className="max-h-[68vh] overflow-auto" tabIndex={0} role="group" aria-label="Stock table">
            <table className="w-full text-small">
              <thead className="sticky top-0 bg-page">
                <tr className="border-b-2 border-edge">
                  {['Lot', 'Of', 'Spools', 'Left', 'Promised', 'Free', 'Price', ''].map((h) => (
                    <th key={h} scope="col" className="text-left pr-2 py-1">
                      {h}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {shown.map((l) => (
                  <tr key={l.id} className={`border-b border-line ${l.id === open ? 'bg-accent-tint' : ''}`}>
                    <th scope="row" className="text-left pr-2">
                      <button
                        type="button"
                        className="min-h-9 text-accent underline max-w-36 truncate text-left"
                        title={l.lot}
                        onClick={() => {
                          setOpen(l.id);
                          setAdding(false);
                        }}
                      >
                        {l.lot}
                      </button>
                    </th>
                    <td className="pr-2">{sayWhat(l)}</td>
                    <td className="pr-2 tabular-nums">{l.spools ?? ''}</td>
                    <td className="pr-2 tabular-nums whitespace-nowrap">
                      {amount(l.left, l)}
                      {l.what.kind === 'wire' ? (
                        <span className="text-soft">
                          {' '}
                          {formatNumber(
                            (l.left *
                              metresPerKg(
                                l.what.bareM,
                                insulatedDiameterM(l.what.bareM, l.what.grade === '1' ? 1 : 2),
                                l.what.material,
                              )) /
                              1000,
                            2,
                          )}{' '}
                          km
                        </span>
                      ) : null}
                    </td>
                    <td className="pr-2 tabular-nums">{l.reserved > 0 ? amount(l.reserved, l) : ''}</td>
                    <td className="pr-2 tabular-nums font-semibold">{amount(l.free, l)}</td>
                    <td className="pr-2 tabular-nums">{l.pricePerUnit ?? ''}</td>
                    <td className="text-attention font-semibold whitespace-nowrap">
                      {l.quarantined ? (
                        '▲ quarantine'
                      ) : l.expires ? (
                        <span className="text-soft">to {l.expires}</span>
                      ) : (
                        ''
                      )}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        )}
      </section>
      <section aria-label="One lot" className="min-w-0">
        {adding ? (
          <NewLot onDone={(id) => (setAdding(false), setOpen(id))} />
        ) : chosen ? (
          <LotPanel key={chosen.id} lot={chosen} />
        ) : (
          <Quiet>Press a lot to see what came, went and is promised to which motor.</Quiet>
        )}
      </section>
    </div>
  );
}
