import { operation } from '@norther/core';
import { Link } from 'react-router';
import { useTanksQuery } from '../../app/api/tank.ts';
import { Button } from '../../ui/Button.tsx';

/** At a step that impregnates: the tanks that may be used today, with the lot that goes into the record. */
export function TankNote({
  code,
  onFill,
}: {
  code: string;
  onFill: ((typed: Readonly<Record<string, string>>) => void) | undefined;
}) {
  const asks = operation(code).impregnatesBy !== undefined && operation(code).fields.some((f) => f.name === 'lot');
  const { data } = useTanksQuery(undefined, { skip: !asks });
  const tanks = (data ?? []).filter((t) => t.active);
  if (!asks || tanks.length === 0) return null;
  return (
    <section aria-label="Resin tanks" className="mt-3 border border-line bg-sheet px-3 py-2">
      <ul className="space-y-1">
        {tanks.map((t) => (
          <li key={t.id} className="flex flex-wrap gap-x-3 gap-y-1 items-center">
            <Link className="text-accent underline font-semibold min-h-6" to="/ovens?look=tanks">
              {t.name}
            </Link>
            <span>{t.lot ? `lot ${t.lot.lot}` : 'empty'}</span>
            {t.blocked.length > 0 ? (
              <span className="text-fail font-semibold">{t.blocked.join(' ')}</span>
            ) : onFill && t.lot ? (
              <Button bench onClick={() => onFill({ lot: t.lot?.lot ?? '' })}>
                Take its lot into the record
              </Button>
            ) : null}
          </li>
        ))}
      </ul>
    </section>
  );
}
