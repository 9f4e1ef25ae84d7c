import type { StockLotView } from '@norther/contracts';

/** What a lot holds, as one says it. */
export const sayWhat = (l: Pick<StockLotView, 'what'>): string =>
  l.what.kind === 'wire' ? `${l.what.label} grade ${l.what.grade} ${l.what.material}` : l.what.name;
