import { formatNumber, sayPart } from '@norther/core';
import type { ArchiveEntry } from '@norther/contracts';
import type { ReactNode } from 'react';
import { useReadingDefaults } from '../../app/shop.ts';

const list = (x: unknown, map: (v: number) => string = String): string =>
  Array.isArray(x) ? (x as number[]).map(map).join(', ') : '';

/** Windings of the archive as rows: rating, core, winding, and what differs where they are compared. */
export function SimilarList({
  entries,
  action,
}: {
  entries: readonly ArchiveEntry[];
  action: (entry: ArchiveEntry) => ReactNode;
}) {
  const { powerUnit } = useReadingDefaults();
  const rating = (e: ArchiveEntry) => {
    const { outputW, voltagesV, frequencyHz } = e.nameplate as {
      outputW?: number;
      voltagesV?: number[];
      frequencyHz?: number;
    };
    return [
      outputW === undefined
        ? ''
        : `${formatNumber(powerUnit === 'hp' ? outputW / 745.7 : outputW / 1000, 3)} ${powerUnit}`,
      voltagesV ? `${voltagesV.join('/')} V` : '',
      frequencyHz ? `${frequencyHz} Hz` : '',
    ]
      .filter(Boolean)
      .join(', ');
  };
  return (
    <ul className="divide-y divide-line border-y border-line">
      {entries.map((e) => {
        const r = e.record as Record<string, unknown>;
        return (
          <li key={e.key} className="py-2 grid grid-cols-[minmax(0,1fr)_auto] gap-3 items-start">
            <div className="min-w-0">
              <p className="font-semibold truncate" title={e.title}>
                {e.title}
                {sayPart(e.part) === '' ? '' : ` · ${sayPart(e.part)}`}{' '}
                <span className="font-normal text-soft">{e.from}</span>
              </p>
              <p className="text-small">
                {[
                  rating(e),
                  `${String(r['slots'] ?? '?')} slots, ${String(r['poles'] ?? '?')} poles`,
                  r['kind'] && r['kind'] !== 'three-phase' ? String(r['kind']) : '',
                  list(r['spansSlots'], (y) => `1-${y + 1}`),
                  r['turns'] ? `${list(r['turns'])} turns` : '',
                  e.typed['strands'] ?? '',
                  r['connection'] ? `${String(r['circuits'] ?? '?')}-circuit ${String(r['connection'])}` : '',
                ]
                  .filter(Boolean)
                  .join(' · ')}
              </p>
              {e.differs ? (
                <p className="text-small text-soft">
                  {Math.round(100 * (e.score ?? 0))} % alike
                  {e.differs.length > 0 ? `; ${e.differs.join('; ')}` : ''}
                </p>
              ) : null}
            </div>
            {action(e)}
          </li>
        );
      })}
    </ul>
  );
}
