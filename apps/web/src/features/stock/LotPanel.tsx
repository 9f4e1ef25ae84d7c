import { operation, parseNumber, sayAmount } from '@norther/core';
import type { StockEntryView, StockLotView } from '@norther/contracts';
import { useState } from 'react';
import { Link } from 'react-router';
import { useDraft } from '../../app/draft.ts';
import { problemOf } from '../../app/api/base.ts';
import { useChangeLotMutation, useEnterStockMutation, useStockEntriesQuery } from '../../app/api/stock.ts';
import { useMay, useReadingDefaults, useTime } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { PlainField, PlainSelect } from '../../ui/Field.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';
import { LotTracing } from './LotTracing.tsx';
import { sayWhat } from './sayWhat.ts';

const SAID: Record<StockEntryView['kind'], string> = {
  received: 'came in',
  counted: 'count put right by',
  reserved: 'promised',
  freed: 'promise taken back',
  used: 'used',
  returned: 'brought back',
};

/** One lot: entries by person and time, what came or went, quarantine. */
export function LotPanel({ lot }: { lot: StockLotView }) {
  const { data: entries } = useStockEntriesQuery(lot.id);
  const [enter, { isLoading, error }] = useEnterStockMutation();
  const [change, { error: changeError }] = useChangeLotMutation();
  const [kind, setKind] = useState<'received' | 'counted' | 'used' | 'returned'>('counted');
  const { typed, set, recorded } = useDraft(`lot:${lot.id}`);
  const { amount = '', reason = '' } = typed;
  const [wrong, setWrong] = useState('');
  const may = useMay('winder');
  const mayChange = useMay('foreman');
  const time = useTime();
  const { massUnit } = useReadingDefaults();
  const field = error ? problemOf(error).field : undefined;
  return (
    <div className="space-y-3">
      <h2 className="font-semibold break-words">
        Lot {lot.lot}, {sayWhat(lot)}
      </h2>
      {lot.note ? <p className="text-small">{lot.note}</p> : null}
      {may ? (
        <form
          className="grid grid-cols-1 lg:grid-cols-[1fr_0.8fr] gap-2 items-end"
          onSubmit={(e) => {
            e.preventDefault();
            const quantity = parseNumber(amount);
            if (quantity === undefined || quantity < 0) {
              setWrong(
                amount.trim() === ''
                  ? 'Amount: type how much, for example 12.5.'
                  : `Amount: "${amount}" is not a number; type for example 12.5.`,
              );
              return;
            }
            setWrong('');
            void enter({ id: lot.id, kind, quantity, reason }).then((r) => {
              if ('data' in r) recorded();
            });
          }}
        >
          <PlainSelect
            label="What happened"
            value={kind}
            onChange={(e) => setKind(e.target.value as typeof kind)}
            options={[
              { value: 'counted', label: 'counted or weighed: left now' },
              { value: 'received', label: 'more came in' },
              { value: 'used', label: 'used beside a job' },
              { value: 'returned', label: 'brought back' },
            ]}
          />
          <PlainField
            label={`Amount, ${lot.unit}`}
            value={amount}
            inputMode="decimal"
            onChange={(e) => set('amount', e.target.value)}
          />
          <PlainField
            label="Why"
            value={reason}
            error={field === 'reason' ? ' ' : undefined}
            onChange={(e) => set('reason', e.target.value)}
          />
          <Button type="submit" disabled={isLoading}>
            Record
          </Button>
        </form>
      ) : null}
      {wrong ? <ProblemNote>{wrong}</ProblemNote> : null}
      <ProblemNote error={error} />
      {lot.heldBy ? (
        <p className="text-attention font-semibold">In quarantine with lot {lot.heldBy}, which is in it.</p>
      ) : null}
      {mayChange && !lot.heldBy ? (
        <Button
          look="plain"
          onClick={() =>
            void change({
              id: lot.id,
              version: lot.version,
              quarantined: !lot.quarantined,
              pricePerUnit: lot.pricePerUnit,
              expires: lot.expires,
              note: lot.note,
            })
          }
        >
          {lot.quarantined ? 'Out of quarantine' : 'Into quarantine'}
        </Button>
      ) : null}
      <ProblemNote error={changeError} />
      <LotTracing lot={lot} />
      <ol className="text-small divide-y divide-line border-y border-line max-h-96 overflow-auto" aria-label="Entries">
        {(entries ?? []).map((e) => (
          <li key={e.id} className="py-1">
            <span className="font-semibold">
              {SAID[e.kind]} {sayAmount(e.quantity, lot.unit, massUnit).replace('-', '−')}
            </span>
            {e.job ? (
              <>
                {' '}
                for{' '}
                <Link className="text-accent underline" to={`/jobs/${e.job}/material`}>
                  {e.job}
                </Link>
              </>
            ) : null}
            {e.code ? `, ${operation(e.code).title.toLowerCase()}` : ''}
            <span className="block text-soft">
              {e.person}, {time(e.at)}
              {e.reason ? `: ${e.reason}` : ''}
            </span>
          </li>
        ))}
      </ol>
    </div>
  );
}
