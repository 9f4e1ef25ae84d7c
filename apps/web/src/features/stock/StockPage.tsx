import { useSearchParams } from 'react-router';
import { LotList } from './LotList.tsx';
import { Substitute } from './Substitute.tsx';
import { WireSizes } from './WireSizes.tsx';

const VIEWS = [
  ['stock', 'Stock and lots'],
  ['substitute', 'Substitute wire'],
  ['sizes', 'Sizes and spools'],
] as const;

/** Wire and other material: what stands on the shelf, what may stand in for a size, tables of sizes. */
export function StockPage() {
  const [query, setQuery] = useSearchParams();
  const view = VIEWS.find(([v]) => v === query.get('do'))?.[0] ?? 'stock';
  return (
    <div className="space-y-3">
      <div className="flex flex-wrap items-center gap-4">
        <h1 className="text-title font-semibold">Wire and material</h1>
        <div role="group" aria-label="What to look at" className="flex gap-1">
          {VIEWS.map(([v, text]) => (
            <button
              key={v}
              type="button"
              aria-pressed={v === view}
              onClick={() => setQuery(v === 'stock' ? {} : { do: v })}
              className={`min-h-9 px-3 rounded-sm border ${v === view ? 'border-accent font-semibold bg-accent-tint' : 'border-edge bg-sheet'}`}
            >
              {text}
            </button>
          ))}
        </div>
      </div>
      {view === 'stock' ? <LotList /> : view === 'substitute' ? <Substitute /> : <WireSizes />}
    </div>
  );
}
