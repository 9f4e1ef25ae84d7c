import { formatNumber, type FieldValue, type LoadRow } from '@norther/core';
import type { ChartSeries } from '../../chart/chartModel.ts';

/** A chart of what a test was worked out from. */
export interface LoadChart {
  title: string;
  xLabel: string;
  yLabel: string;
  sayX: (x: number) => string;
  sayY: (y: number, digits?: number) => string;
  series: ChartSeries[];
}

type Values = Readonly<Record<string, FieldValue>>;
const numbersOf = (v: FieldValue | undefined): number[] =>
  Array.isArray(v) ? v.filter((n): n is number => typeof n === 'number') : [];
const STEPS = 40;
const along = (from: number, to: number): number[] =>
  Array.from({ length: STEPS + 1 }, (_, i) => from + ((to - from) * i) / STEPS);

/** Constant losses over voltage squared, with the line that friction is read from. */
export function noLoadChart(
  values: Values,
  result: { constantW: number[]; slope?: number; frictionW?: number; fitted?: number[] },
): LoadChart | undefined {
  const volts = numbersOf(values['volts']);
  const { constantW, slope, frictionW, fitted = [] } = result;
  if (volts.length === 0 || volts.length !== constantW.length) return undefined;
  const squares = volts.map((u) => u ** 2);
  const end = Math.max(0, ...fitted.map((n) => squares[n - 1] ?? 0));
  return {
    title: 'Friction and core loss over voltage squared',
    xLabel: 'Voltage squared, V²',
    yLabel: 'Power, W',
    sayX: (x) => `${formatNumber(Math.sqrt(Math.max(0, x)), 4)} V`,
    sayY: (y, digits = 4) => `${formatNumber(y, digits)} W`,
    series: [
      {
        key: 'read',
        label: 'as read, without the winding’s own losses',
        shape: 'points',
        look: 'main',
        points: squares.map((x, i) => ({ x, y: constantW[i] ?? NaN })),
      },
      ...(slope === undefined || frictionW === undefined
        ? []
        : [
            {
              key: 'line',
              label: `line down to friction, ${formatNumber(frictionW, 3)} W`,
              shape: 'line' as const,
              look: 'second' as const,
              points: [
                { x: 0, y: frictionW },
                { x: end, y: frictionW + slope * end },
              ],
            },
          ]),
    ],
  };
}

/** What one method made of the points. */
export interface MethodRows {
  method: string;
  rows: LoadRow[];
  slope: number;
  intercept: number;
  correlation: number;
}

/** Efficiency over the output, by each method; stray losses over torque squared with their line. */
export function loadCharts(methods: readonly MethodRows[], judged: string): LoadChart[] {
  const own = methods.find((m) => m.method === judged) ?? methods[0];
  if (!own) return [];
  const most = Math.max(...own.rows.map((r) => r.torqueNm ** 2));
  return [
    {
      title: 'Efficiency over the output',
      xLabel: 'Output, kW',
      yLabel: 'Efficiency, %',
      sayX: (x) => `${formatNumber(x, 3)} kW`,
      sayY: (y, digits = 4) => `${formatNumber(y, digits)} %`,
      series: methods.map((m, i) => ({
        key: m.method,
        label: `method ${m.method}`,
        shape: 'line and points',
        look: m === own ? 'main' : i === 0 ? 'second' : 'third',
        points: [...m.rows]
          .sort((a, b) => a.outCorrectedW - b.outCorrectedW)
          .map((r) => ({ x: r.outCorrectedW / 1000, y: 100 * r.efficiency })),
      })),
    },
    {
      title: `Stray losses over torque squared, method ${own.method}`,
      xLabel: 'Torque squared, (N m)²',
      yLabel: 'Stray losses, W',
      sayX: (x) => `${formatNumber(Math.sqrt(Math.max(0, x)), 3)} N m`,
      sayY: (y, digits = 3) => `${formatNumber(y, digits)} W`,
      series: [
        {
          key: 'points',
          label: 'of each point',
          shape: 'points',
          look: 'main',
          points: own.rows.map((r) => ({
            x: r.torqueNm ** 2,
            y: r.rawStrayW,
            ...(r.dropped ? { note: 'left out of the line', tone: 'attention' as const } : {}),
          })),
        },
        {
          key: 'line',
          label: `line, correlation ${formatNumber(own.correlation, 4)}`,
          shape: 'line',
          look: 'second',
          points: [
            { x: 0, y: own.intercept },
            { x: most, y: own.intercept + own.slope * most },
          ],
        },
      ],
    },
  ];
}

/** The winding as it cooled, and the line back to the switch. */
export function riseChart(result: {
  riseK?: number;
  timeConstantS?: number;
  rises?: { seconds: number; riseK: number }[];
}): LoadChart | undefined {
  const { riseK, timeConstantS, rises = [] } = result;
  if (riseK === undefined || rises.length < 2) return undefined;
  const end = Math.max(...rises.map((r) => r.seconds));
  return {
    title: 'Rise of the winding after the switch',
    xLabel: 'Time since the switch, s',
    yLabel: 'Rise, K',
    sayX: (x) => `${formatNumber(x, 3)} s`,
    sayY: (y, digits = 3) => `${formatNumber(y, digits)} K`,
    series: [
      {
        key: 'read',
        label: 'as read',
        shape: 'points',
        look: 'main',
        points: rises.map((r) => ({ x: r.seconds, y: r.riseK })),
      },
      ...(timeConstantS === undefined
        ? []
        : [
            {
              key: 'back',
              label: `drawn back to the switch, ${formatNumber(riseK, 3)} K`,
              shape: 'line' as const,
              look: 'second' as const,
              points: along(0, end).map((x) => ({ x, y: riseK * Math.exp(-x / timeConstantS) })),
            },
          ]),
    ],
  };
}

/** Locked current over the voltage, with the power of the voltage that it follows. */
export function lockedChart(
  values: Values,
  result: { exponent?: number; ampsAtRated?: number },
  ratedV: number | undefined,
): LoadChart | undefined {
  const [volts, amps] = [numbersOf(values['volts']), numbersOf(values['amps'])];
  const { exponent, ampsAtRated } = result;
  if (volts.length === 0 || volts.length !== amps.length || exponent === undefined) return undefined;
  if (ampsAtRated === undefined || ratedV === undefined) return undefined;
  return {
    title: 'Locked-rotor current over the voltage',
    xLabel: 'Voltage, V',
    yLabel: 'Current, A',
    sayX: (x) => `${formatNumber(x, 3)} V`,
    sayY: (y, digits = 3) => `${formatNumber(y, digits)} A`,
    series: [
      {
        key: 'read',
        label: 'as read',
        shape: 'points',
        look: 'main',
        points: volts.map((x, i) => ({ x, y: amps[i] ?? NaN })),
      },
      {
        key: 'line',
        label: `to the power of ${formatNumber(exponent, 4)}, ${formatNumber(ampsAtRated, 3)} A at ${formatNumber(ratedV)} V`,
        shape: 'line',
        look: 'second',
        points: along(Math.min(...volts), Math.max(ratedV, ...volts)).map((x) => ({
          x,
          y: ampsAtRated * (x / ratedV) ** exponent,
        })),
      },
    ],
  };
}
