import { drilled, flatMilled, toothMilled } from './material.ts';
import type { BalancePlane } from './setUp.ts';

/** Unbalance that a hole, flat or slot of a depth takes away in a plane, g·mm: what sinks below the radius counts for less. */
export function unbalanceOfDepth(p: BalancePlane, depthMm: number): number {
  switch (p.way) {
    case 'add':
      return 0;
    case 'drill':
      return drilled({ diameterMm: p.drillMm ?? 8, radiusMm: p.radiusMm }, depthMm).gMm;
    case 'mill a flat':
      return flatMilled({ radiusMm: p.radiusMm, lengthMm: p.lengthMm ?? 20 }, depthMm).gMm;
    case 'mill tooth tops':
      return toothMilled({ radiusMm: p.radiusMm, lengthMm: p.lengthMm ?? 20, widthMm: p.widthMm ?? 3 }, depthMm);
  }
}
