import { z } from 'zod';
import { defineCalculation, refuse } from '../calculation.ts';
import { limit } from '../limits/limits.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { formatAgainst, formatNumber } from '../quantity/format.ts';
import { LEAD_SIZES_MM2 } from '../insulation/leadSize.ts';
import { judgedTogether, notAbove, type Judged } from '../verdict.ts';

/** 85 kilolines per square inch, T (1 T = 64,516 lines/in²). */
export const CORE_TEST_T = 85000 / 64516;
/** Field strength at the target, A/m: a figure to choose the cable by; real cores want 200 to 800 (common practice). */
export const CORE_FIELD_A_M = 400;
/** Current in the cable of a short test, A/m² (common practice). */
const CABLE_A_M2 = 4e6;
/** A cable up to this section is laid through a bore by hand; beyond it a higher voltage with more turns is taken. */
const HANDY_MM2 = 25;
/** A supply is taken where the flux density comes this near to the target. */
const NEAR = 0.05;

const length = (what: string) => z.number().positive().max(20).describe(`${what}, m`);
export const coreGeometrySchema = z.strictObject({
  outerM: length('outer diameter of the core'),
  boreM: length('bore'),
  slotDepthM: z.number().min(0).max(1).describe('slot depth, m'),
  lengthM: length('gross length of the core'),
  ducts: z.number().int().min(0).max(60).default(0),
  ductWidthM: z.number().min(0).max(0.1).default(0),
  stacking: z.number().min(0.5).max(1).default(0.95).describe('sheet in the length, 0.90 to 0.97'),
  densityKgM3: z.number().min(7000).max(8000).default(7750).describe('of the sheet'),
});
export type CoreGeometry = z.output<typeof coreGeometrySchema>;

/** Back iron of a stator core that a loop through the bore magnetizes (docs/derivations.md 29). */
export function backIron(core: CoreGeometry): {
  depthM: number;
  netM: number;
  areaM2: number;
  pathM: number;
  kg: number;
} {
  const depthM = (core.outerM - core.boreM) / 2 - core.slotDepthM;
  const netM = (core.lengthM - core.ducts * core.ductWidthM) * core.stacking;
  if (!(depthM > 0))
    refuse(
      'core.slotDepthM',
      'Between the slot bottoms and the outside there is no iron left: outer diameter, bore and slot depth do not go together.',
    );
  if (!(netM > 0))
    refuse('core.ducts', 'The ducts are as long as the core: number and width of the ducts do not fit its length.');
  const pathM = Math.PI * (core.outerM - depthM);
  const areaM2 = depthM * netM;
  return { depthM, netM, areaM2, pathM, kg: pathM * areaM2 * core.densityKgM3 };
}

const supplyResult = z.object({
  volts: z.number(),
  turns: z.number(),
  flux: z.number(),
  offPercent: z.number(),
  amps: z.number(),
  va: z.number(),
  cableMm2: z.number().optional().describe('absent above the listed sizes'),
  near: z.boolean(),
});

/** Calculation `process.coreSetUp`: loop turns, current and cable of a core test for each voltage at hand. */
export const processCoreSetUp = defineCalculation({
  id: 'process.coreSetUp',
  version: 1,
  title: 'Set-up of a core test: loop turns, flux density, current and cable from the measured core',
  sources: ['U = 4.44 f B A per turn', 'target 85 kilolines/in², 400 A/m, 4 A/mm² for a short test: common practice'],
  input: z.strictObject({
    core: coreGeometrySchema,
    frequencyHz: z.number().min(10).max(400).default(50),
    supplyV: z.array(z.number().positive().max(1000)).min(1).max(20).describe('voltages at hand, taps included'),
    targetT: z.number().min(0.5).max(1.6).default(CORE_TEST_T),
  }),
  output: z.object({
    depthM: z.number(),
    netM: z.number(),
    areaM2: z.number(),
    pathM: z.number(),
    kg: z.number(),
    voltsPerTurn: z.number(),
    supplies: z.array(supplyResult),
    chosen: supplyResult
      .optional()
      .describe('within 5 % of the target: the fewest turns with a handy cable, else the least current'),
    says: z.string(),
  }),
  example: {
    core: { outerM: 0.42, boreM: 0.27, slotDepthM: 0.034, lengthM: 0.31, ducts: 1, ductWidthM: 0.01 },
    supplyV: [115, 230],
  },
  compute: ({ core, frequencyHz, supplyV, targetT }, note) => {
    const iron = backIron(core);
    const voltsPerTurn = 4.44 * frequencyHz * targetT * iron.areaM2;
    const supplies = supplyV.map((volts) => {
      const turns = Math.max(1, Math.round(volts / voltsPerTurn));
      const flux = volts / (4.44 * frequencyHz * iron.areaM2 * turns);
      const amps = (CORE_FIELD_A_M * iron.pathM) / turns;
      const cableMm2 = LEAD_SIZES_MM2.find((mm2) => notAbove((1e6 * amps) / CABLE_A_M2, mm2));
      const offPercent = 100 * (flux / targetT - 1);
      return {
        volts,
        turns,
        flux,
        offPercent,
        amps,
        va: volts * amps,
        ...(cableMm2 === undefined ? {} : { cableMm2 }),
        near: notAbove(Math.abs(offPercent), 100 * NEAR),
      };
    });
    // few turns leave room in the bore, as long as the cable still goes through it by hand
    const isHandy = (s: (typeof supplies)[number]) => s.cableMm2 !== undefined && s.cableMm2 <= HANDY_MM2;
    const near = supplies.filter((s) => s.near);
    const chosen = near.filter(isHandy).sort((a, b) => a.turns - b.turns)[0] ?? near.sort((a, b) => a.amps - b.amps)[0];
    note?.({
      name: 'Back iron',
      symbol: 'A',
      formula: '((D − d)/2 − h) · (l − n·b) · k',
      numbers: `((${formatNumber(core.outerM, 5)} − ${formatNumber(core.boreM, 5)})/2 − ${formatNumber(core.slotDepthM, 5)}) · (${formatNumber(core.lengthM, 5)} − ${core.ducts} · ${formatNumber(core.ductWidthM, 5)}) · ${formatNumber(core.stacking, 4)}`,
      value: iron.areaM2,
      unit: 'm²',
      source: 'geometry',
    });
    note?.({
      name: 'Voltage of a turn',
      symbol: 'U/N',
      formula: '4.44 · f · B · A',
      numbers: `4.44 · ${formatNumber(frequencyHz)} · ${formatNumber(targetT, 5)} · ${formatNumber(iron.areaM2, 6)}`,
      value: voltsPerTurn,
      unit: 'V',
      source: 'law of induction',
    });
    note?.({
      name: 'Mass of the back iron',
      symbol: 'm',
      formula: 'π · (D − d_b) · A · ρ',
      numbers: `π · (${formatNumber(core.outerM, 5)} − ${formatNumber(iron.depthM, 6)}) · ${formatNumber(iron.areaM2, 6)} · ${formatNumber(core.densityKgM3)}`,
      value: iron.kg,
      unit: 'kg',
      source: 'teeth carry no loop flux',
    });
    const least = Math.round(Math.max(...supplyV) / voltsPerTurn);
    return {
      ...iron,
      voltsPerTurn,
      supplies,
      ...(chosen ? { chosen } : {}),
      says: chosen
        ? `${chosen.turns} turn${chosen.turns === 1 ? '' : 's'} on ${formatNumber(chosen.volts)} V: ${formatNumber(chosen.flux, 4)} T, about ${formatNumber(chosen.amps)} A, ${
            chosen.cableMm2 === undefined
              ? 'more than one cable of any listed size: go to a higher voltage or lay cables side by side'
              : `cable of ${formatNumber(chosen.cableMm2)} mm² or more`
          }.`
        : `No voltage at hand comes within 5 % of ${formatNumber(targetT, 4)} T: a turn takes ${formatNumber(voltsPerTurn)} V, so use a tap near ${formatNumber(Math.max(1, least) * voltsPerTurn)} V.`,
    };
  },
});

/** Calculation `process.coreLoss`: what was read in a core test, per kilogram and at the target flux density, judged. */
export const processCoreLoss = defineCalculation({
  id: 'process.coreLoss',
  version: 1,
  title: 'Core loss per kilogram at the target flux density, hot spot and rise on the test before heat',
  sources: ['losses go with the square of the flux density near the target', 'bands: common practice'],
  input: z.strictObject({
    core: coreGeometrySchema,
    frequencyHz: z.number().min(10).max(400).default(50),
    watts: z.number().min(0).max(1e7).describe('of the core, W: by a search turn, or of the loop'),
    turns: z.number().int().min(1).max(1000).describe('of the loop'),
    volts: z.number().positive().max(2000).optional().describe('at the loop; a search turn is better'),
    searchVolts: z.number().positive().max(1000).optional().describe('of the search turns'),
    searchTurns: z.number().int().min(1).max(100).default(1),
    wattsBySearch: z.boolean().default(false).describe('the wattmeter has its voltage from the search turns'),
    hotSpotK: z.number().min(0).max(500).optional(),
    targetT: z.number().min(0.5).max(1.6).default(CORE_TEST_T),
    before: z
      .strictObject({ lossWKg: z.number().positive(), flux: z.number().positive() })
      .optional()
      .describe('the test before heat'),
    limits: shopLimitsSchema.default({}),
  }),
  output: z.object({
    kg: z.number(),
    flux: z.number(),
    lossWKg: z.number().describe('at the flux density of the test'),
    atTargetWKg: z.number().optional().describe('within 5 % of the target only'),
    risePercent: z.number().optional(),
    verdict: z.enum(['pass', 'attention', 'fail', 'cannot judge']),
    reason: z.string(),
    advice: z.array(z.string()),
  }),
  example: {
    core: { outerM: 0.42, boreM: 0.27, slotDepthM: 0.034, lengthM: 0.31, ducts: 1, ductWidthM: 0.01 },
    watts: 268,
    turns: 70,
    searchVolts: 3.45,
    hotSpotK: 6,
  },
  compute: (input, note) => {
    const iron = backIron(input.core);
    const perTurn =
      input.searchVolts !== undefined
        ? input.searchVolts / input.searchTurns
        : input.volts !== undefined
          ? input.volts / input.turns
          : undefined;
    if (perTurn === undefined) refuse('searchVolts', 'State the voltage of the search turn, or of the loop.');
    const flux = perTurn / (4.44 * input.frequencyHz * iron.areaM2);
    const watts = input.wattsBySearch ? (input.watts * input.turns) / input.searchTurns : input.watts;
    const lossWKg = watts / iron.kg;
    const near = notAbove(100 * Math.abs(flux / input.targetT - 1), limit('core.fluxPercent', input.limits));
    const atTargetWKg = near ? lossWKg * (input.targetT / flux) ** 2 : undefined;
    note?.({
      name: 'Flux density',
      symbol: 'B',
      formula: 'U/(4.44 · f · A)',
      numbers: `${formatNumber(perTurn, 5)} / (4.44 · ${formatNumber(input.frequencyHz)} · ${formatNumber(iron.areaM2, 6)})`,
      value: flux,
      unit: 'T',
      source: 'law of induction',
    });
    note?.({
      name: 'Loss',
      symbol: 'p',
      formula: 'P/m',
      numbers: `${formatNumber(watts, 6)} / ${formatNumber(iron.kg, 6)}`,
      value: lossWKg,
      unit: 'W/kg',
      source: 'mass of the back iron',
    });
    if (atTargetWKg !== undefined)
      note?.({
        name: 'Loss at the target',
        symbol: 'p₀',
        formula: 'p · (B₀/B)²',
        numbers: `${formatNumber(lossWKg, 6)} · (${formatNumber(input.targetT, 6)} / ${formatNumber(flux, 6)})²`,
        value: atTargetWKg,
        unit: 'W/kg',
        source: 'losses go with the square near the target',
      });
    const band = (value: number, what: string, unit: string, pass: number, attention: number): Judged => {
      if (notAbove(value, pass))
        return { verdict: 'pass', reason: `${what} ${formatAgainst(value, pass)[0]} ${unit}.` };
      const fails = !notAbove(value, attention);
      const [a, b] = formatAgainst(value, fails ? attention : pass);
      return { verdict: fails ? 'fail' : 'attention', reason: `${what} ${a} ${unit}; at most ${b} ${unit}.` };
    };
    const own = (id: Parameters<typeof limit>[0]) => limit(id, input.limits);
    const parts: Judged[] = [
      atTargetWKg === undefined
        ? {
            verdict: 'cannot judge',
            reason: `${formatNumber(flux, 4)} T is more than ${own('core.fluxPercent')} % from the target of ${formatNumber(input.targetT, 4)} T: change turns or voltage and read again.`,
          }
        : band(atTargetWKg, 'Loss at the target', 'W/kg', own('core.lossPass'), own('core.lossAttention')),
    ];
    if (input.hotSpotK !== undefined)
      parts.push(
        band(
          input.hotSpotK,
          'Hot spot',
          'K above the core round it',
          own('core.hotSpotPass'),
          own('core.hotSpotAttention'),
        ),
      );
    let risePercent: number | undefined;
    if (input.before) {
      const apart = 100 * Math.abs(flux / input.before.flux - 1);
      if (notAbove(apart, own('core.fluxPercent'))) {
        risePercent = 100 * ((lossWKg * (input.before.flux / flux) ** 2) / input.before.lossWKg - 1);
        parts.push(
          band(risePercent, 'Rise on the test before heat', '%', own('core.risePass'), own('core.riseAttention')),
        );
      } else
        parts.push({
          verdict: 'cannot judge',
          reason: `The test before heat was at ${formatNumber(input.before.flux, 4)} T, this one at ${formatNumber(flux, 4)} T: losses compare only within ${own('core.fluxPercent')} %.`,
        });
    }
    const advice: string[] = [];
    const hot = input.hotSpotK !== undefined && !notAbove(input.hotSpotK, own('core.hotSpotPass'));
    const risen = risePercent !== undefined && !notAbove(risePercent, own('core.risePass'));
    const high = atTargetWKg !== undefined && !notAbove(atTargetWKg, own('core.lossPass'));
    if (hot)
      advice.push(
        'At the hot spot look for smeared or bent teeth: free them with a thin file or a light grinder along the sheets, spread and put thin mica or varnish between, then test again.',
      );
    if (risen)
      advice.push(
        'The sheets lost insulation since the test before heat: spread and re-insulate, or restack; next time burn at a lower part temperature and look at blasting media and teeth.',
      );
    if (high && !hot)
      advice.push(
        'High all over without a spot: compare with a sister core or the sheet of this age before the core is given up; an old grade of sheet reads high.',
      );
    return {
      kg: iron.kg,
      flux,
      lossWKg,
      ...(atTargetWKg === undefined ? {} : { atTargetWKg }),
      ...(risePercent === undefined ? {} : { risePercent }),
      ...judgedTogether(parts),
      advice,
    };
  },
});
