import type { LimitEntry } from './limitEntry.ts';

const CP = 'common practice';
const one = <I extends string>(id: I, title: string, unit: string, published: number, source = CP) =>
  ({ id, title, unit, published, source, group: 'assembly' }) as const;

/** Limits of a motor as it is put together and coupled. */
export const ASSEMBLY_LIMITS = [
  one('assembly.bearingHeatC', 'Bearing heated to at most', '°C', 110),
  one('assembly.endFloatLowMm', 'End float at least', 'mm', 0.05),
  one('assembly.endFloatHighMm', 'End float at most', 'mm', 0.5),
  one('assembly.softFootMm', 'Soft foot, up to', 'mm', 0.05),
  one('assembly.softFootMostMm', 'Soft foot, at most', 'mm', 0.1),
  one('assembly.rotorRunOutPercent', 'Run-out of the rotor, of the mean gap', '%', 5),
  one('assembly.brakePercent', 'Brake lifts at, of its rated voltage, at most', '%', 85),
  one('assembly.fitPercent', 'Bearing fits: width of the field, of the published', '%', 100),
  one('assembly.torquePercent', 'Bolt torque: off the wanted one by at most', '%', 10),
  one('coupling.fastRpm', 'Coupling: the finer figures above', 'r/min', 1800),
  one('coupling.noShimMm', 'Coupling: nothing is moved for less than', 'mm', 0.02),
  one('coupling.offsetMm', 'Coupling, slow: offset, good up to', 'mm', 0.05),
  one('coupling.offsetMostMm', 'Coupling, slow: offset at most', 'mm', 0.1),
  one('coupling.angle', 'Coupling, slow: angle, good up to', 'mm in 100 mm', 0.05),
  one('coupling.angleMost', 'Coupling, slow: angle at most', 'mm in 100 mm', 0.08),
  one('coupling.fastFactor', 'Coupling, fast: these times', '', 0.6),
  one('coupling.closesMm', 'Rim readings close: top and bottom against the sides within', 'mm', 0.05),
] as const satisfies readonly LimitEntry[];
