/** One size with the range that random-wound low-voltage machines have it in (common practice). */
export interface SizeRange {
  readonly key: string;
  readonly label: string;
  /** the field a finding points at */
  readonly field: string;
  readonly low: number;
  readonly high: number;
  readonly unit: string;
}

/** Usual sizes; every low and high is a limit of the shop's, `range.<key>.low` and `range.<key>.high`. */
export const SIZE_RANGES = [
  { key: 'bore', label: 'Bore', field: 'boreM', low: 25, high: 1500, unit: 'mm' },
  { key: 'coreLength', label: 'Core length', field: 'coreLengthM', low: 15, high: 1500, unit: 'mm' },
  { key: 'tooth', label: 'Tooth', field: 'toothWidthM', low: 1.5, high: 25, unit: 'mm' },
  { key: 'slotDepth', label: 'Slot depth', field: 'slotDepthM', low: 8, high: 100, unit: 'mm' },
  { key: 'slotOpening', label: 'Slot opening', field: 'slotOpeningM', low: 1.5, high: 8, unit: 'mm' },
  { key: 'airGap', label: 'Air gap', field: 'airGapM', low: 0.2, high: 3, unit: 'mm' },
  { key: 'ductWidth', label: 'Duct width', field: 'ductWidthM', low: 6, high: 12, unit: 'mm' },
  { key: 'liner', label: 'Slot liner', field: 'linerM', low: 0.15, high: 0.5, unit: 'mm' },
  {
    key: 'endTurnsLead',
    label: 'End turns, lead end',
    field: 'extensionConnectionEndM',
    low: 15,
    high: 300,
    unit: 'mm',
  },
  {
    key: 'endTurnsOther',
    label: 'End turns, other end',
    field: 'extensionOppositeEndM',
    low: 15,
    high: 300,
    unit: 'mm',
  },
  { key: 'slotArea', label: 'Slot area', field: 'slotAreaM2', low: 20, high: 2500, unit: 'mm²' },
  { key: 'rotorBars', label: 'Rotor bars', field: 'rotorBars', low: 10, high: 150, unit: '' },
  { key: 'turns', label: 'Turns', field: 'turns', low: 1, high: 1000, unit: '' },
  { key: 'wires', label: 'Wires in hand', field: 'strands', low: 1, high: 30, unit: '' },
  { key: 'output', label: 'Output', field: 'slots', low: 0.02, high: 1000, unit: 'kW' },
  { key: 'frequency', label: 'Frequency', field: 'slots', low: 16, high: 400, unit: 'Hz' },
  { key: 'speed', label: 'Speed', field: 'slots', low: 100, high: 24000, unit: 'r/min' },
  { key: 'product', label: 'Efficiency × power factor', field: 'connection', low: 0.35, high: 0.95, unit: '' },
] as const satisfies readonly SizeRange[];
export type SizeKey = (typeof SIZE_RANGES)[number]['key'];
export type SizeLimitId = `range.${SizeKey}.${'low' | 'high'}`;

/** The range of a size in force: the shop's where it has one. */
export function sizeRange(key: SizeKey, shop: Readonly<Record<string, number>>): SizeRange {
  const found: SizeRange | undefined = SIZE_RANGES.find((r) => r.key === key);
  if (!found) throw new RangeError(`unknown size ${key}`);
  return { ...found, low: shop[`range.${key}.low`] ?? found.low, high: shop[`range.${key}.high`] ?? found.high };
}
