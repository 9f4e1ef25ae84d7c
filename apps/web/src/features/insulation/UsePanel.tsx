import { operation, parseNumber, sayAmount, type WindingPart } from '@norther/core';
import type { JobDetail, MaterialSheet } from '@norther/contracts';
import { useState } from 'react';
import { useDraft } from '../../app/draft.ts';
import { problemOf } from '../../app/api/base.ts';
import { useUseMaterialMutation } from '../../app/api/stock.ts';
import { useReadingDefaults } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { PlainField, PlainSelect } from '../../ui/Field.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';

/** What is reserved and used for this winding, and entering a use by a step. */
export function UsePanel({
  job,
  part,
  sheet,
  may,
}: {
  job: JobDetail;
  part: WindingPart;
  sheet: MaterialSheet;
  may: boolean;
}) {
  const [use, { isLoading, error }] = useUseMaterialMutation();
  const [lotId, setLot] = useState('');
  const { typed, set, recorded } = useDraft(`use:${job.number}:${part}`);
  const { amount = '', reason = '' } = typed;
  const taking = job.detailSteps.filter((s) => operation(s.code).takesMaterial);
  const codes = taking.map((s) => s.code);
  const [code, setCode] = useState(taking.find((s) => ['running', 'ready'].includes(s.status))?.code ?? codes[0] ?? '');
  const [wrong, setWrong] = useState('');
  const { massUnit } = useReadingDefaults();
  const chosen = sheet.uses.find((u) => u.lotId === lotId) ?? sheet.uses[0];
  const problem = error ? problemOf(error) : undefined;
  return (
    <section aria-label="Reserved and used">
      <h2 className="font-semibold border-b border-line">Reserved and used</h2>
      <table className="w-full text-small">
        <thead>
          <tr>
            {['Lot', 'Of', 'Reserved', 'Used'].map((h) => (
              <th key={h} scope="col" className="text-left pr-2">
                {h}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {sheet.uses.map((u) => (
            <tr key={u.lotId} className="border-b border-line">
              <th scope="row" className="text-left pr-2">
                {u.lot}
              </th>
              <td>{u.what}</td>
              <td className="tabular-nums">{u.reserved > 0 ? sayAmount(u.reserved, u.unit, massUnit) : '–'}</td>
              <td className="tabular-nums">{u.used > 0 ? sayAmount(u.used, u.unit, massUnit) : '–'}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {may && chosen ? (
        <form
          className="grid grid-cols-1 lg:grid-cols-[1.4fr_1fr_0.7fr_1.4fr_auto] gap-2 items-end mt-2"
          onSubmit={(e) => {
            e.preventDefault();
            const quantity = parseNumber(amount);
            if (quantity === undefined || quantity <= 0) {
              setWrong(
                amount.trim() === ''
                  ? 'Amount: type how much was used, for example 3.2.'
                  : `Amount: "${amount}" is not a number above zero; type for example 3.2.`,
              );
              return;
            }
            setWrong('');
            void use({ number: job.number, part, lotId: chosen.lotId, quantity, code, reason }).then((r) => {
              if (!('data' in r)) return;
              recorded();
            });
          }}
        >
          <PlainSelect
            label="Used of lot"
            value={chosen.lotId}
            onChange={(e) => setLot(e.target.value)}
            options={sheet.uses.map((u) => ({ value: u.lotId, label: `${u.lot}, ${u.what}` }))}
          />
          <PlainSelect
            label="in"
            value={code}
            onChange={(e) => setCode(e.target.value)}
            options={codes.map((c) => ({ value: c, label: operation(c).title }))}
          />
          <PlainField
            label={`Amount, ${chosen.unit}`}
            value={amount}
            inputMode="decimal"
            onChange={(e) => set('amount', e.target.value)}
          />
          <PlainField
            label="Why more than the bill"
            value={reason}
            onChange={(e) => set('reason', e.target.value)}
            error={problem?.field === 'reason' ? ' ' : undefined}
          />
          <Button type="submit" bench disabled={isLoading}>
            Record use
          </Button>
        </form>
      ) : null}
      {wrong ? <ProblemNote>{wrong}</ProblemNote> : null}
      <ProblemNote error={error} />
    </section>
  );
}
