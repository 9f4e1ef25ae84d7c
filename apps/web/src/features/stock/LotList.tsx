import { formatNumber, insulatedDiameterM, metresPerKg, sayAmount } from '@norther/core';
import type { StockLotView } from '@norther/contracts';
import { useMemo, useState } from 'react';
import { useStockQuery } from '../../app/api/stock.ts';
import { useMay, useReadingDefaults } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { ProblemNote, Quiet } from '../../ui/Problem.tsx';
import { Table } from '../../ui/Table.tsx';
import { LotPanel } from './LotPanel.tsx';
import { NewLot } from './NewLot.tsx';
import { sayWhat } from './sayWhat.ts';

/** Metres left of a wire, in kilometres. */
function kilometres(l: StockLotView): string {
  if (l.what.kind !== 'wire') return '';
  const { bareM, grade, material } = l.what;
  const perKg = metresPerKg(bareM, insulatedDiameterM(bareM, grade === '1' ? 1 : 2), material);
  return ` ${formatNumber((l.left * perKg) / 1000, 2)} km`;
}

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
    <div className="grid grid-cols-1 lg:grid-cols-[minmax(0,1.6fr)_minmax(330px,1fr)] gap-6">
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
          <Table
            label="Stock table"
            height="max-h-[68vh]"
            rows={shown}
            keyOf={(l) => l.id}
            rowClass={(l) => (l.id === open ? 'bg-accent-tint' : '')}
            columns={[
              {
                id: 'lot',
                head: 'Lot',
                names: true,
                by: (l) => l.lot,
                cell: (l) => (
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
                ),
              },
              { id: 'of', head: 'Of', cell: sayWhat },
              { id: 'spools', head: 'Spools', className: 'tabular-nums', cell: (l) => l.spools ?? '' },
              {
                id: 'left',
                head: 'Left',
                className: 'tabular-nums whitespace-nowrap',
                by: (l) => l.left,
                cell: (l) => (
                  <>
                    {amount(l.left, l)}
                    <span className="text-soft">{kilometres(l)}</span>
                  </>
                ),
              },
              {
                id: 'promised',
                head: 'Promised',
                className: 'tabular-nums',
                by: (l) => l.reserved,
                cell: (l) => (l.reserved > 0 ? amount(l.reserved, l) : ''),
              },
              {
                id: 'free',
                head: 'Free',
                className: 'tabular-nums font-semibold',
                by: (l) => l.free,
                cell: (l) => amount(l.free, l),
              },
              {
                id: 'price',
                head: 'Price',
                className: 'tabular-nums',
                by: (l) => l.pricePerUnit ?? -1,
                cell: (l) => l.pricePerUnit ?? '',
              },
              {
                id: 'state',
                head: 'Quarantine, last day',
                hidesHead: true,
                className: 'whitespace-nowrap',
                cell: (l) =>
                  l.quarantined ? (
                    <span className="text-attention font-semibold">▲ quarantine</span>
                  ) : l.expires ? (
                    <span className="text-soft">to {l.expires}</span>
                  ) : null,
              },
            ]}
          />
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
