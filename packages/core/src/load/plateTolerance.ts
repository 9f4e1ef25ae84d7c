/** Quantities of a plate that a measured value is held against. */
export const TOLERANCED = [
  'efficiency',
  'power factor',
  'slip',
  'locked-rotor current',
  'locked-rotor torque',
  'pull-up torque',
  'breakdown torque',
  'total losses',
] as const;
export type Toleranced = (typeof TOLERANCED)[number];

/** What a declared value allows; an end that is open is undefined. */
export interface Allowed {
  from?: number;
  to?: number;
  says: string;
}

/**
 * Tolerance of a declared value. Source: IEC 60034-1 (from memory).
 * @param declared efficiency and power factor as shares, slip as a share, amperes, N m, watts
 */
export function allowed(what: Toleranced, declared: number, ratedKW: number): Allowed | undefined {
  switch (what) {
    case 'efficiency': {
      const share = ratedKW <= 150 ? 0.15 : 0.1;
      return { from: declared - share * (1 - declared), says: `−${100 * share} % of (1 − η)` };
    }
    case 'power factor': {
      const off = Math.min(0.07, Math.max(0.02, (1 - declared) / 6));
      return { from: declared - off, says: '−(1 − cos φ)/6, at least 0.02, at most 0.07' };
    }
    case 'slip': {
      const share = ratedKW < 1 ? 0.3 : 0.2;
      return { from: declared * (1 - share), to: declared * (1 + share), says: `±${100 * share} % of the slip` };
    }
    case 'locked-rotor current':
      return { to: 1.2 * declared, says: '+20 %, no lower limit' };
    case 'locked-rotor torque':
      return { from: 0.85 * declared, to: 1.25 * declared, says: '−15 % +25 %' };
    case 'pull-up torque':
      return { from: 0.85 * declared, says: '−15 %' };
    case 'breakdown torque':
      return { from: 0.9 * declared, says: '−10 %' };
    case 'total losses':
      return ratedKW > 150 ? { to: 1.1 * declared, says: '+10 %, above 150 kW' } : undefined;
  }
}

/** Nominal efficiency and the least that is allowed with it, %. Source: NEMA MG 1 (from memory). */
const NEMA_MINIMA: readonly (readonly [number, number])[] = [
  [99, 98.8],
  [98.5, 98.2],
  [96.5, 95.8],
  [96.2, 95.4],
  [95.8, 95],
  [95.4, 94.5],
  [95, 94.1],
  [94.5, 93.6],
  [94.1, 93],
  [93.6, 92.4],
  [93, 91.7],
  [92.4, 91],
  [91.7, 90.2],
  [91, 89.5],
  [90.2, 88.5],
  [89.5, 87.5],
  [88.5, 86.5],
  [87.5, 85.5],
  [86.5, 84],
  [85.5, 82.5],
  [84, 81.5],
  [82.5, 80],
  [81.5, 78.5],
  [80, 77],
  [78.5, 75.5],
  [77, 74],
  [75.5, 72],
  [74, 70],
  [72, 68],
  [70, 66],
  [68, 64],
  [66, 62],
  [64, 59.5],
];

/** Least efficiency of a nominal one, %; undefined where the table does not name it. */
export const nemaMinimum = (nominalPercent: number): number | undefined =>
  NEMA_MINIMA.find(([nominal]) => Math.abs(nominal - nominalPercent) < 0.05)?.[1];

/** The same by its rule: a fifth more loss. @example nemaMinimumByLoss(0.93) // 0.9172 */
export const nemaMinimumByLoss = (nominal: number): number => 1 / (1 + (1.2 * (1 - nominal)) / nominal);
