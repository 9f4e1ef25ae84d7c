import { parseNumber, pickLots } from '@norther/core';
import type { TankView } from '@norther/contracts';
import { useState } from 'react';
import { useStockQuery } from '../../app/api/stock.ts';
import { useFillTankMutation } from '../../app/api/tank.ts';
import { useToday } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { PlainField } from '../../ui/Field.tsx';
import { ProblemNote, Quiet } from '../../ui/Problem.tsx';

/** What goes in, first expired first; all that the tank holds then is a lot of its own. */
export function FillTank({ tank, onDone }: { tank: TankView; onDone: () => void }) {
  const { data } = useStockQuery();
  const today = useToday();
  const [amounts, setAmounts] = useState<Readonly<Record<string, string>>>({});
  const [left, setLeft] = useState('');
  const [fill, { error, isLoading }] = useFillTankMutation();
  const fits = (data ?? []).filter(
    (l) =>
      l.what.kind === 'material' &&
      l.what.name.toLowerCase() === tank.resin.toLowerCase() &&
      l.id !== tank.lot?.id &&
      l.left > 0,
  );
  const inOrder = pickLots(fits, Infinity, today).picks.map((p) => p.lot);
  const said = inOrder.flatMap((l) => {
    const quantity = parseNumber(amounts[l.id] ?? '');
    return quantity !== undefined && quantity > 0 ? [{ lotId: l.id, quantity }] : [];
  });
  const leftKg = left.trim() === '' ? undefined : parseNumber(left);
  const wrong =
    Object.values(amounts).some((a) => a.trim() !== '' && parseNumber(a) === undefined) ||
    (left.trim() !== '' && leftKg === undefined);
  return (
    <form
      aria-label={`Top up ${tank.name}`}
      className="space-y-2"
      onSubmit={(e) => {
        e.preventDefault();
        void fill({ id: tank.id, lots: said, ...(leftKg === undefined ? {} : { leftKg }) }).then((r) =>
          r.data ? onDone() : undefined,
        );
      }}
    >
      {inOrder.length === 0 ? (
        <Quiet>No lot of {tank.resin} stands in the stock that may be used; take one in on the Wire page.</Quiet>
      ) : null}
      {inOrder.map((l, i) => (
        <PlainField
          key={l.id}
          label={`Of lot ${l.lot}, kg${i === 0 && inOrder.length > 1 ? ' (use this first)' : ''}`}
          hint={`${l.left} kg left${l.expires ? `, to ${l.expires}` : ''}`}
          inputMode="decimal"
          value={amounts[l.id] ?? ''}
          onChange={(e) => setAmounts({ ...amounts, [l.id]: e.target.value })}
        />
      ))}
      {tank.lot ? (
        <PlainField
          label="In the tank before, kg"
          hint={`${tank.lot.leftKg} kg by the books; type what its level says`}
          inputMode="decimal"
          value={left}
          onChange={(e) => setLeft(e.target.value)}
        />
      ) : null}
      {wrong ? <ProblemNote>Amounts are numbers of kg, for example 12.5.</ProblemNote> : null}
      <Button look="main" bench type="submit" disabled={isLoading || wrong || said.length === 0}>
        Top it up: a new lot
      </Button>
      <ProblemNote error={error} />
    </form>
  );
}
