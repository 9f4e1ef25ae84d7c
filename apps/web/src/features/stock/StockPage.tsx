import { useSearchParams } from 'react-router';
import { LotList } from './LotList.tsx';
import { OrderAgain } from './OrderAgain.tsx';
import { Substitute } from './Substitute.tsx';
import { WireSizes } from './WireSizes.tsx';
import { Segmented } from '../../ui/Segmented.tsx';

const VIEWS = [
  ['stock', 'Stock and lots'],
  ['substitute', 'Substitute wire'],
  ['sizes', 'Sizes and spools'],
  ['order', 'Order again'],
] as const;

/** Wire and other material: what stands on the shelf, what may stand in for a size, tables of sizes. */
export function StockPage() {
  const [query, setQuery] = useSearchParams();
  const view = VIEWS.find(([v]) => v === query.get('do'))?.[0] ?? 'stock';
  return (
    <div className="space-y-3">
      <div className="flex flex-wrap items-center gap-4">
        <h1 className="text-title font-semibold">Wire and material</h1>
        <Segmented
          label="What to look at"
          options={VIEWS}
          value={view}
          onChange={(v) => setQuery(v === 'stock' ? {} : { do: v })}
        />
      </div>
      {view === 'stock' ? (
        <LotList />
      ) : view === 'substitute' ? (
        <Substitute />
      ) : view === 'order' ? (
        <OrderAgain />
      ) : (
        <WireSizes />
      )}
    </div>
  );
}
