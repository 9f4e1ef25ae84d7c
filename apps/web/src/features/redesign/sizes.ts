import { formatNumber, METRIC_R20_MM, METRIC_R40_EXTRA_MM, type StockWire } from '@norther/core';

/** Round wire as it is made, 0.2 to 2 mm, whether in stock or not. */
export const ALL_SIZES: readonly StockWire[] = [...METRIC_R20_MM, ...METRIC_R40_EXTRA_MM]
  .filter((d) => d >= 0.2 && d <= 2)
  .map((d) => ({ bareM: d / 1000, label: formatNumber(d, 3) }));
