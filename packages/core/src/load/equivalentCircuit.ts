import { z } from 'zod';
import { defineCalculation } from '../calculation.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { formatNumber } from '../quantity/format.ts';
import { atSlip, breakdown, slipAtOutput, type AtSlip, type Circuit } from './circuit.ts';
import { circuitBySteps, circuitExactly, REACTANCE_RATIOS, type CageDesign } from './circuitFromTests.ts';

/** Above this slip a circuit of constant figures understates what deep bars do: an estimate. */
export const ESTIMATE_ABOVE_SLIP = 0.3;
const DESIGNS = Object.keys(REACTANCE_RATIOS) as [CageDesign, ...CageDesign[]];
const SLIPS = [
  0, 0.005, 0.01, 0.015, 0.02, 0.025, 0.03, 0.035, 0.04, 0.05, 0.06, 0.08, 0.1, 0.12, 0.15, 0.18, 0.2, 0.25, 0.3, 0.4,
  0.5, 0.6, 0.7, 0.8, 0.9, 1,
] as const;

const reading = {
  lineV: z.number().positive().max(1e6),
  amps: z.number().positive().max(1e6),
  watts: z.number().positive().max(1e9),
};
const circuit = z.object({
  r1: z.number(),
  x1: z.number(),
  r2: z.number(),
  x2: z.number(),
  xm: z.number(),
  rfe: z.number(),
  frictionW: z.number(),
});
const point = z.object({
  slip: z.number(),
  rpm: z.number(),
  gapNm: z.number(),
  amps: z.number(),
  powerFactor: z.number(),
  inW: z.number(),
  shaftW: z.number().optional(),
  efficiency: z.number().optional(),
  estimate: z.boolean(),
});

const shown = (p: AtSlip): z.output<typeof point> => ({
  slip: p.slip,
  rpm: p.rpm,
  gapNm: p.gapNm,
  amps: p.amps,
  powerFactor: p.powerFactor,
  inW: p.inW,
  ...(p.slip < 1 ? { shaftW: p.shaftW } : {}),
  ...(p.efficiency === undefined ? {} : { efficiency: p.efficiency }),
  estimate: p.slip > ESTIMATE_ABOVE_SLIP,
});

/** Calculation `evaluate.equivalentCircuit`. */
export const equivalentCircuit = defineCalculation({
  id: 'evaluate.equivalentCircuit',
  version: 1,
  title: 'Equivalent circuit from no-load and locked-rotor readings: by the steps of the standard and exactly',
  sources: ['IEEE 112 (from memory)', 'exact solution: derived'],
  input: z.strictObject({
    ratedV: z.number().positive().max(1e6),
    frequencyHz: z.number().positive().max(1000),
    poles: z.int().min(2).max(96).multipleOf(2),
    noLoad: z.strictObject(reading),
    locked: z.strictObject({ ...reading, frequencyHz: z.number().positive().max(1000) }),
    /** half of the resistance lead to lead, at the no-load run and at the locked test */
    r1Ohm: z.number().positive().max(1e6),
    r1LockedOhm: z.number().positive().max(1e6).optional(),
    frictionW: z.number().min(0).max(1e8),
    design: z.enum(DESIGNS).default('B'),
    /** instead of the design: X1 over X2 */
    reactanceRatio: z.number().min(0.1).max(10).optional(),
    outputW: z.number().positive().max(1e9).optional(),
    limits: shopLimitsSchema.default({}),
  }),
  output: z.object({
    verdict: z.enum(['pass', 'cannot judge']),
    reason: z.string(),
    bySteps: circuit.optional(),
    exact: circuit.optional(),
    /** of the exact circuit, else of that by steps */
    curve: z.array(point),
    breakdown: z.object({ slip: z.number(), gapNm: z.number() }).optional(),
    atOutput: point.optional(),
  }),
  example: {
    ratedV: 400,
    frequencyHz: 50,
    poles: 4,
    noLoad: { lineV: 400, amps: 6.8, watts: 335 },
    locked: { lineV: 33, amps: 15, watts: 720, frequencyHz: 12.5 },
    r1Ohm: 0.62,
    frictionW: 70,
    outputW: 7500,
  },
  compute: (x, note) => {
    const readings = {
      ...x,
      r1: x.r1Ohm,
      r1Locked: x.r1LockedOhm ?? x.r1Ohm,
      ratio: x.reactanceRatio ?? REACTANCE_RATIOS[x.design],
    };
    const bySteps = circuitBySteps(readings);
    if (!bySteps)
      return {
        verdict: 'cannot judge' as const,
        reason:
          'The readings make no circuit: look at the powers, the friction (it is part of the power at no load) and the frequency of the locked test.',
        curve: [],
      };
    const exact = circuitExactly(readings);
    const used: Circuit = exact ?? bySteps;
    for (const [name, symbol, value] of [
      ['Leakage reactance of the stator', 'X₁', used.x1],
      ['Leakage reactance of the rotor', 'X₂', used.x2],
      ['Magnetizing reactance', 'X_m', used.xm],
      ['Resistance of the rotor', 'R₂', used.r2],
      ['Resistance of the core loss', 'R_fe', used.rfe],
    ] as const)
      note?.({
        name,
        symbol,
        formula: exact ? 'the circuit that reads what was read' : 'steps of the standard',
        numbers: `X₁/X₂ = ${formatNumber(readings.ratio, 3)}`,
        value,
        unit: 'Ω',
        source: exact ? 'derived' : 'IEEE 112 (from memory)',
      });
    const supply = { lineV: x.ratedV, frequencyHz: x.frequencyHz, poles: x.poles };
    const top = breakdown(used, supply);
    const slip = x.outputW === undefined ? undefined : slipAtOutput(used, supply, x.outputW);
    const at = slip === undefined ? undefined : atSlip(used, supply, slip);
    return {
      verdict: 'pass' as const,
      reason: `Breakdown ${formatNumber(top.gapNm, 4)} N m at a slip of ${formatNumber(top.slip, 3)}${at ? `; at ${formatNumber((x.outputW ?? 0) / 1000)} kW ${formatNumber(at.rpm, 5)} r/min, ${formatNumber(at.amps, 4)} A, power factor ${formatNumber(at.powerFactor, 3)}, efficiency ${formatNumber(100 * (at.efficiency ?? 0), 4)} %` : ''}. ${exact ? 'From the circuit that reads exactly what was read' : 'From the steps of the standard: the exact solution did not settle'}; above a slip of ${ESTIMATE_ABOVE_SLIP} an estimate.`,
      bySteps,
      ...(exact ? { exact } : {}),
      curve: SLIPS.map((s) => shown(atSlip(used, supply, s))),
      breakdown: top,
      ...(at ? { atOutput: shown(at) } : {}),
    };
  },
});
