/** What kind of quantity a number is; each has one base unit inside Norther. */
export type Dimension =
  | 'length'
  | 'area'
  | 'mass'
  | 'power'
  | 'voltage'
  | 'current'
  | 'frequency'
  | 'speed'
  | 'resistance'
  | 'insulation'
  | 'temperature'
  | 'temperatureRise'
  | 'time'
  | 'unbalance'
  | 'velocity'
  | 'force'
  | 'torque'
  | 'lossPerMass'
  | 'fluxDensity'
  | 'pressure'
  | 'angle'
  | 'capacitance'
  | 'emfConstant'
  | 'percent'
  | 'number';

export interface Unit {
  /** as shown */
  name: string;
  /** base = typed * factor + offset */
  factor: number;
  offset?: number;
  /** other spellings, lower case */
  also?: string[];
}

/** 1 inch, by definition of the international inch. */
export const METRE_PER_INCH = 0.0254;
/** 1 circular mil: the area of a round of a thousandth of an inch, m². */
export const CIRCULAR_MIL_M2 = (Math.PI / 4) * (METRE_PER_INCH / 1000) ** 2;
/** 1 pound avoirdupois, by definition. */
export const KG_PER_POUND = 0.45359237;
/** Mechanical horsepower: 550 ft·lbf/s. */
export const WATT_PER_HORSEPOWER = 745.6998715822702;
/** Metric horsepower: 75 kgf·m/s. */
export const WATT_PER_METRIC_HORSEPOWER = 735.49875;

/** First unit of each list is the base unit (SI, but for what the field never writes in SI). */
export const UNITS: Readonly<Record<Dimension, readonly Unit[]>> = {
  length: [
    { name: 'm', factor: 1 },
    { name: 'mm', factor: 1e-3 },
    { name: 'cm', factor: 1e-2 },
    { name: 'µm', factor: 1e-6, also: ['um', 'μm'] },
    { name: 'in', factor: METRE_PER_INCH, also: ['"', '″', 'inch', 'inches', "''"] },
    { name: 'ft', factor: 0.3048, also: ["'", 'foot', 'feet'] },
    { name: 'mil', factor: METRE_PER_INCH / 1000, also: ['mils', 'thou'] },
  ],
  area: [
    { name: 'm²', factor: 1, also: ['m2'] },
    { name: 'mm²', factor: 1e-6, also: ['mm2', 'sqmm'] },
    { name: 'cmil', factor: CIRCULAR_MIL_M2 },
    { name: 'in²', factor: METRE_PER_INCH ** 2, also: ['in2', 'sqin'] },
  ],
  mass: [
    { name: 'kg', factor: 1 },
    { name: 'g', factor: 1e-3 },
    { name: 'lb', factor: KG_PER_POUND, also: ['lbs', 'pound', 'pounds'] },
    { name: 'oz', factor: KG_PER_POUND / 16 },
  ],
  power: [
    { name: 'W', factor: 1 },
    { name: 'kW', factor: 1e3 },
    { name: 'hp', factor: WATT_PER_HORSEPOWER },
    { name: 'PS', factor: WATT_PER_METRIC_HORSEPOWER, also: ['cv', 'ch'] },
  ],
  emfConstant: [
    { name: 'V·s/rad', factor: 1, also: ['v s/rad', 'vs/rad', 'v/(rad/s)', 'vs', 'v·s', 'v s'] },
    {
      name: 'V/1000 r/min',
      factor: 60 / (2 * Math.PI * 1000),
      also: [
        'v/1000 rpm',
        'v/krpm',
        'v/1000rpm',
        'v/1000 min-1',
        'v/(1000 r/min)',
        'v per 1000 r/min',
        'v per 1000 rpm',
      ],
    },
    { name: 'mV/(r/min)', factor: 60 / (2 * Math.PI * 1000), also: ['mv/rpm', 'mv/r/min'] },
  ],
  capacitance: [
    { name: 'F', factor: 1 },
    { name: 'µF', factor: 1e-6, also: ['uf', 'μf', 'mfd'] },
    { name: 'nF', factor: 1e-9 },
  ],
  voltage: [
    { name: 'V', factor: 1, also: ['volt', 'volts'] },
    { name: 'kV', factor: 1e3 },
    { name: 'mV', factor: 1e-3 },
  ],
  current: [
    { name: 'A', factor: 1, also: ['amp', 'amps'] },
    { name: 'mA', factor: 1e-3 },
    { name: 'µA', factor: 1e-6, also: ['ua', 'μa'] },
    { name: 'nA', factor: 1e-9 },
  ],
  frequency: [
    { name: 'Hz', factor: 1 },
    { name: 'kHz', factor: 1e3 },
  ],
  speed: [{ name: 'r/min', factor: 1, also: ['rpm', '1/min', 'min-1', 'u/min', 'tr/min'] }],
  resistance: [
    { name: 'Ω', factor: 1, also: ['ohm', 'ohms', 'ω', 'r'] },
    { name: 'mΩ', factor: 1e-3, also: ['mohm', 'milliohm', 'mω'] },
    { name: 'kΩ', factor: 1e3, also: ['kohm', 'kω'] },
  ],
  insulation: [
    { name: 'MΩ', factor: 1, also: ['mohm', 'megohm', 'megohms', 'mω', 'meg', 'm'] },
    { name: 'GΩ', factor: 1e3, also: ['gohm', 'gigohm', 'gω', 'g'] },
    { name: 'kΩ', factor: 1e-3, also: ['kohm', 'kω', 'k'] },
    { name: 'TΩ', factor: 1e6, also: ['tohm', 'tω', 't'] },
  ],
  temperature: [
    { name: '°C', factor: 1, also: ['c', 'degc', '℃'] },
    { name: '°F', factor: 5 / 9, offset: -160 / 9, also: ['f', 'degf', '℉'] },
    { name: 'K', factor: 1, offset: -273.15 },
  ],
  temperatureRise: [
    { name: 'K', factor: 1, also: ['°c', 'c'] },
    { name: '°F', factor: 5 / 9, also: ['f'] },
  ],
  time: [
    { name: 'min', factor: 1 },
    { name: 'h', factor: 60, also: ['hr', 'hrs', 'hour', 'hours'] },
    { name: 's', factor: 1 / 60, also: ['sec'] },
    { name: 'd', factor: 1440, also: ['day', 'days'] },
  ],
  unbalance: [
    { name: 'g·mm', factor: 1, also: ['gmm', 'g.mm', 'g*mm'] },
    { name: 'oz·in', factor: (KG_PER_POUND / 16) * 1000 * 25.4, also: ['ozin', 'oz.in', 'oz*in'] },
    { name: 'g·in', factor: 25.4, also: ['gin', 'g.in'] },
    { name: 'g·cm', factor: 10, also: ['gcm', 'g.cm'] },
    { name: 'kg·mm', factor: 1000, also: ['kgmm', 'kg.mm'] },
    { name: 'kg·in', factor: 25_400, also: ['kgin', 'kg.in'] },
    { name: 'lb·in', factor: KG_PER_POUND * 1000 * 25.4, also: ['lbin', 'lb.in'] },
  ],
  velocity: [
    { name: 'mm/s', factor: 1 },
    { name: 'in/s', factor: 25.4, also: ['ips'] },
  ],
  force: [
    { name: 'N', factor: 1 },
    { name: 'kN', factor: 1000 },
    { name: 'lbf', factor: 4.4482216152605 },
  ],
  torque: [
    { name: 'N·m', factor: 1, also: ['nm', 'n.m'] },
    { name: 'lbf·ft', factor: 1.3558179483314, also: ['lbft', 'ft·lbf', 'ftlb'] },
  ],
  lossPerMass: [
    { name: 'W/kg', factor: 1 },
    { name: 'W/lb', factor: 1 / KG_PER_POUND },
  ],
  fluxDensity: [
    { name: 'T', factor: 1, also: ['tesla'] },
    { name: 'kl/in²', factor: 1 / 64.516, also: ['kl/in2'] },
  ],
  pressure: [
    { name: 'bar', factor: 1 },
    { name: 'mbar', factor: 1e-3 },
    { name: 'psi', factor: 0.0689475729 },
  ],
  angle: [{ name: '°', factor: 1, also: ['deg'] }],
  percent: [{ name: '%', factor: 1 }],
  number: [{ name: '', factor: 1 }],
};

/** Finds a unit by name or spelling; case counts only where it must (mΩ against MΩ). */
export function findUnit(dimension: Dimension, written: string): Unit | undefined {
  const exact = UNITS[dimension].find((u) => u.name === written);
  if (exact) return exact;
  const lower = written.toLowerCase().replaceAll(/\s/g, '');
  return UNITS[dimension].find((u) => u.name.toLowerCase() === lower || u.also?.includes(lower));
}

/** Typed number in its unit -> base unit of the dimension. */
export function toBase(value: number, dimension: Dimension, unitName: string): number {
  const unit = findUnit(dimension, unitName);
  if (!unit) throw new RangeError(`unknown unit "${unitName}" for ${dimension}`);
  return value * unit.factor + (unit.offset ?? 0);
}

/** Base unit -> number in the wanted unit. */
export function fromBase(base: number, dimension: Dimension, unitName: string): number {
  const unit = findUnit(dimension, unitName);
  if (!unit) throw new RangeError(`unknown unit "${unitName}" for ${dimension}`);
  return (base - (unit.offset ?? 0)) / unit.factor;
}
