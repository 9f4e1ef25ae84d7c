import { z } from 'zod';
import { defineCalculation, refuse } from '../calculation.ts';
import { drilled, DRILL_POINT_DEG, drillDepth, flatDepth, flatMilled, toothDepth, toothMilled } from './material.ts';
import { residualByMoving } from './testMass.ts';

/** Calculation `balance.movedMass`. */
export const balanceMovedMass = defineCalculation({
  id: 'balance.movedMass',
  version: 1,
  title: 'Residual unbalance from amplitudes read with a test mass moved round one plane',
  sources: ['A² = a0 + c cos θ + s sin θ, exact for a linear stand (derived)'],
  input: z.strictObject({
    testGMm: z.number().min(1e-6).max(1e9),
    positions: z
      .array(z.strictObject({ angleDeg: z.number().min(-360).max(720), amplitude: z.number().min(0).max(1e7) }))
      .min(6)
      .max(24),
  }),
  output: z.object({
    gMm: z.number(),
    angleDeg: z.number(),
    simpleGMm: z.number(),
    r2: z.number(),
    tooSmall: z.boolean(),
  }),
  example: {
    testGMm: 200,
    // balancing reference, section 12
    positions: [4.319, 4.7, 4.721, 4.376, 3.808, 3.327, 3.296, 3.743].map((amplitude, i) => ({
      angleDeg: 45 * i,
      amplitude,
    })),
  },
  compute: ({ testGMm, positions }, note) => {
    const fit = residualByMoving(positions, testGMm);
    if (!fit) refuse('positions', 'Nothing can be fitted through these amplitudes.');
    note?.({
      name: 'Residual as this bearing feels it, at its heavy spot',
      symbol: 'U_r',
      formula: 'x U_t, x = (1 − √(1 − q²)) / q, q = hypot(c, s) / a0',
      numbers: `${(fit.gMm / testGMm).toFixed(5)} · ${testGMm}`,
      value: fit.gMm,
      unit: 'g·mm',
      source: 'derived',
    });
    return fit;
  },
});

const ways = ['drill', 'mill a flat', 'mill tooth tops'] as const;

/** Calculation `balance.materialTaken`. */
export const balanceMaterialTaken = defineCalculation({
  id: 'balance.materialTaken',
  version: 1,
  title: 'Unbalance that a radial hole, a milled flat or a slot on a tooth takes away, and the depth for a wanted one',
  sources: ['cylinder and cone, circular segment, slot: derived'],
  input: z.strictObject({
    way: z.enum(ways),
    radiusMm: z.number().min(0.1).max(1e5).describe('of the surface'),
    depthMm: z.number().min(1e-6).max(1e5).optional().describe('to the tip of a drill'),
    wantedGMm: z.number().min(1e-6).max(1e12).optional(),
    diameterMm: z.number().min(0.1).max(1e4).default(8),
    pointDeg: z.number().min(60).max(180).default(DRILL_POINT_DEG),
    widthMm: z.number().min(0.1).max(1e4).default(3),
    lengthMm: z.number().min(0.1).max(1e5).default(20),
    densityGMm3: z
      .number()
      .min(1e-5)
      .max(0.05)
      .default(7.85e-3)
      .describe('steel 7.85e-3; laminations times their stacking factor'),
  }),
  output: z.object({ gMm: z.number().optional(), massG: z.number().optional(), depthMm: z.number().optional() }),
  example: { way: 'drill', radiusMm: 60, diameterMm: 10, depthMm: 15, wantedGMm: 350 },
  compute: (x, note) => {
    const { way, radiusMm, depthMm, wantedGMm, lengthMm, widthMm, densityGMm3 } = x;
    if (depthMm === undefined && wantedGMm === undefined)
      refuse('depthMm', 'Say a depth, or the unbalance that is wanted.');
    if (depthMm !== undefined && depthMm > radiusMm)
      refuse('depthMm', 'It cannot go deeper than the middle of the shaft.');
    const drill = { diameterMm: x.diameterMm, radiusMm, pointDeg: x.pointDeg, densityGMm3 };
    const taken = (depth: number) =>
      way === 'drill'
        ? drilled(drill, depth)
        : way === 'mill a flat'
          ? { gMm: flatMilled({ radiusMm, lengthMm, densityGMm3 }, depth).gMm, massG: undefined }
          : { gMm: toothMilled({ radiusMm, lengthMm, widthMm, densityGMm3 }, depth), massG: undefined };
    const depthFor = (gMm: number) =>
      way === 'drill'
        ? drillDepth(drill, gMm, radiusMm)
        : way === 'mill a flat'
          ? flatDepth({ radiusMm, lengthMm, densityGMm3 }, gMm, radiusMm)
          : toothDepth({ radiusMm, lengthMm, widthMm, densityGMm3 }, gMm, radiusMm);
    const is = depthMm === undefined ? undefined : taken(depthMm);
    const deep = wantedGMm === undefined ? undefined : depthFor(wantedGMm);
    if (wantedGMm !== undefined && deep === undefined)
      refuse('wantedGMm', 'Even to the middle of the shaft it does not take so much: use more places.');
    if (is)
      note?.({
        name: 'Unbalance taken away',
        symbol: 'U',
        formula: 'what sinks below the surface counts at its own radius',
        numbers: `depth ${depthMm ?? 0} mm at radius ${radiusMm} mm`,
        value: is.gMm,
        unit: 'g·mm',
        source: 'derived',
      });
    return {
      ...(is ? { gMm: is.gMm, ...(is.massG === undefined ? {} : { massG: is.massG }) } : {}),
      ...(deep === undefined ? {} : { depthMm: deep }),
    };
  },
});
