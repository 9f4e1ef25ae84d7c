import type { JobDetail } from '@norther/contracts';
import { ESTIMATE_ABOVE_SLIP, formatNumber, highestRating, type FieldValue } from '@norther/core';
import type { ChartPoint, ChartSeries } from '../../chart/chartModel.ts';
import type { LoadChart } from '../evaluate/loadSeries.ts';

interface CurvePoint {
  slip: number;
  rpm: number;
  gapNm: number;
  amps: number;
  powerFactor: number;
  shaftW?: number | undefined;
  efficiency?: number | undefined;
}

const list = (v: FieldValue | undefined): number[] =>
  Array.isArray(v) ? v.filter((n): n is number => typeof n === 'number') : [];

/** Torque and current over the speed, efficiency and power factor over the output; plate and measured points beside them. */
export function circuitCharts(job: JobDetail, found: { curve: readonly CurvePoint[] }): LoadChart[] {
  const { curve } = found;
  const { outputW, speedRpm, efficiencyPercent, powerFactor } = job.nameplate;
  const test = job.tests.filter((t) => t.kind === 'loadTest' && t.supersededBy === null).at(-1);
  const [rpm, torque, amps, watts] = ['speeds', 'torques', 'amps', 'watts'].map((n) => list(test?.values[n])) as [
    number[],
    number[],
    number[],
    number[],
  ];
  const { ratedA: plateA } = highestRating(job.nameplate);
  const plateNm = outputW && speedRpm ? (outputW * 30) / (Math.PI * speedRpm) : undefined;
  const overSpeed = (of: (p: CurvePoint) => number, measured: number[], plate: number | undefined): ChartSeries[] => [
    course(
      'worked out',
      curve.filter((p) => p.slip <= ESTIMATE_ABOVE_SLIP),
      of,
      'main',
    ),
    course(
      'estimate',
      curve.filter((p) => p.slip >= ESTIMATE_ABOVE_SLIP),
      of,
      'quiet',
    ),
    points(
      'measured',
      rpm.map((x, i) => ({ x, y: measured[i] ?? NaN })),
      'second',
    ),
    points('plate', speedRpm && plate !== undefined ? [{ x: speedRpm, y: plate }] : [], 'third'),
  ];
  const most = 1.3 * (outputW ?? Infinity);
  const working = curve.filter((p) => (p.shaftW ?? 0) > 0 && (p.shaftW ?? 0) < most && p.slip <= ESTIMATE_ABOVE_SLIP);
  // up to the largest output: beyond it the same output comes at a worse speed
  const top = working.findIndex((p, i) => i > 0 && (p.shaftW ?? 0) < (working[i - 1]?.shaftW ?? 0));
  const rising = top < 0 ? working : working.slice(0, top);
  const overOutput = (of: (p: CurvePoint) => number | undefined): ChartPoint[] =>
    rising.flatMap((p) => {
      const y = of(p);
      return y === undefined ? [] : [{ x: (p.shaftW ?? 0) / 1000, y: 100 * y }];
    });
  const outW = rpm.map((n, i) => ((torque[i] ?? NaN) * n * Math.PI) / 30);
  const speed = (x: number) => `${formatNumber(x, 5)} r/min`;
  return [
    {
      title: 'Torque over speed',
      xLabel: 'Speed, r/min',
      yLabel: 'Torque, N m',
      sayX: speed,
      sayY: (y, digits = 3) => `${formatNumber(y, digits)} N m`,
      series: overSpeed((p) => p.gapNm, torque, plateNm).filter(some),
    },
    {
      title: 'Current over speed',
      xLabel: 'Speed, r/min',
      yLabel: 'Current, A',
      sayX: speed,
      sayY: (y, digits = 3) => `${formatNumber(y, digits)} A`,
      series: overSpeed((p) => p.amps, amps, plateA).filter(some),
    },
    {
      title: 'Efficiency and power factor over output',
      xLabel: 'Output, kW',
      yLabel: '%',
      sayX: (x) => `${formatNumber(x, 3)} kW`,
      sayY: (y, digits = 3) => `${formatNumber(y, digits)} %`,
      series: [
        {
          key: 'eff',
          label: 'efficiency, worked out',
          shape: 'line' as const,
          look: 'main' as const,
          points: overOutput((p) => p.efficiency),
        },
        {
          key: 'pf',
          label: 'power factor, worked out',
          shape: 'line' as const,
          look: 'third' as const,
          points: overOutput((p) => p.powerFactor),
        },
        points(
          'output over input, measured',
          outW.map((w, i) => ({ x: w / 1000, y: (100 * w) / (watts[i] ?? NaN) })),
          'second',
        ),
        points(
          'plate, efficiency and power factor',
          outputW ? plateShares(outputW, efficiencyPercent, powerFactor) : [],
          'quiet',
        ),
      ].filter(some),
    },
  ];
}

const some = (s: ChartSeries): boolean => s.points.length > 0;
const plateShares = (outputW: number, efficiency: number | undefined, pf: number | undefined): ChartPoint[] =>
  [efficiency, pf === undefined ? undefined : 100 * pf].flatMap((y) =>
    y === undefined ? [] : [{ x: outputW / 1000, y }],
  );
const course = (
  label: string,
  along: readonly CurvePoint[],
  of: (p: CurvePoint) => number,
  look: ChartSeries['look'],
): ChartSeries => ({ key: label, label, shape: 'line', look, points: along.map((p) => ({ x: p.rpm, y: of(p) })) });
const points = (label: string, of: readonly ChartPoint[], look: ChartSeries['look']): ChartSeries => ({
  key: label,
  label,
  shape: 'points',
  look,
  points: of.filter((p) => Number.isFinite(p.x) && Number.isFinite(p.y)),
});
