import { formatNumber, formatQuantity } from '../quantity/format.ts';
import type { BillLine } from './billLines.ts';

/** How much of a material, in its unit; little masses in gram. */
export function sayAmount(quantity: number, unit: BillLine['unit'], massUnit: 'kg' | 'lb' = 'kg'): string {
  if (unit === 'kg')
    return Math.abs(quantity) < 0.1 && quantity !== 0
      ? `${formatNumber(quantity * 1000, 2)} g`
      : formatQuantity(quantity, 'mass', massUnit, 3);
  if (unit === 'm') return `${formatNumber(quantity, 3)} m`;
  return `${formatNumber(quantity, 4)} ${quantity === 1 ? unit.slice(0, -1) : unit}`;
}
