import { limit } from '../limits/limits.ts';
import { hasMagnets } from '../machine/machineKind.ts';
import type { Nameplate } from '../machine/nameplate.ts';
import { notAbove } from '../verdict.ts';
import { I, W, f, type Checks, type Context, type Finding } from './checkTypes.ts';
import { CONDUCTORS, enamelShare, leadToLeadOhm, temperatureFactor } from './copper.ts';
import { conductorOf } from './formCoilOf.ts';
import { ratingOf, runningCircuits, runningConnection } from './recordLayout.ts';

/** What mass and resistance say together: the conductor, and the length of all of it, each without the other. */
export interface CopperTogether {
  areaM2: number;
  lengthM: number;
}

/**
 * Conductor area and length from the bare mass and the resistance of a phase: A = √(m ρ/(3 c² ρ_m R)), Λ = m/(ρ_m A).
 * Source: derived.
 */
export function copperTogether(x: {
  massKg: number;
  phaseOhm20: number;
  circuits: number;
  phases: 1 | 3;
  densityKgM3: number;
  resistivityOhmM: number;
}): CopperTogether {
  const areaM2 = Math.sqrt(
    (x.massKg * x.resistivityOhmM) / (x.phases * x.circuits ** 2 * x.densityKgM3 * x.phaseOhm20),
  );
  return { areaM2, lengthM: x.massKg / (x.densityKgM3 * areaM2) };
}

function together({
  record,
  figures,
}: Context): (CopperTogether & { areaTyped: number; lengthTyped: number }) | undefined {
  const { copperKg, resistanceOhm: R, resistanceTemperatureC: T } = record;
  const circuits = runningCircuits(record);
  const connection = runningConnection(record);
  const meanTurnM = record.sampleCoilM ?? figures.meanTurnGeometryM;
  const areaTyped = conductorOf(record).areaM2;
  if (record.kind === 'single-phase' || copperKg === undefined || R === undefined || T === undefined) return undefined;
  if (
    circuits === undefined ||
    !connection ||
    meanTurnM === undefined ||
    figures.totalTurns === undefined ||
    areaTyped === 0
  )
    return undefined;
  const metal = CONDUCTORS[record.material ?? 'copper'];
  const share =
    record.copperState === 'with enamel'
      ? enamelShare(record.strands ?? [], record.wireGrade === '1' ? 1 : 2, metal.densityKgM3)
      : 0;
  const made = copperTogether({
    massKg: copperKg / (1 + share),
    phaseOhm20: (R * temperatureFactor(T, 20, metal.temperatureConstantC)) / leadToLeadOhm(1, connection),
    circuits,
    phases: 3,
    ...metal,
  });
  return { ...made, areaTyped, lengthTyped: figures.totalTurns * meanTurnM };
}

/** Efficiency × power factor of ordinary four-pole cage motors by output, kW (common practice). */
const USUAL_PRODUCT: readonly (readonly [number, number])[] = [
  [0.18, 0.4],
  [0.37, 0.48],
  [0.75, 0.57],
  [1.5, 0.64],
  [3, 0.7],
  [7.5, 0.75],
  [15, 0.79],
  [37, 0.81],
  [90, 0.83],
  [200, 0.85],
];
/** What other pole numbers add to it. */
const BY_POLES: Readonly<Record<number, number>> = { 2: 0.03, 4: 0, 6: -0.05, 8: -0.09 };
const MANY_POLES = -0.13;

/** Usual efficiency × power factor of a three-phase cage motor; linear in the logarithm of the output. Source: common practice. */
export function usualProduct(outputKW: number, poles: number): number {
  const [first] = USUAL_PRODUCT;
  const last = USUAL_PRODUCT.at(-1);
  const add = BY_POLES[poles] ?? MANY_POLES;
  if (first && outputKW <= first[0]) return first[1] + add;
  for (let i = 1; i < USUAL_PRODUCT.length; i++) {
    const [x0, y0] = USUAL_PRODUCT[i - 1] as readonly [number, number];
    const [x1, y1] = USUAL_PRODUCT[i] as readonly [number, number];
    if (outputKW <= x1) return y0 + ((y1 - y0) * Math.log(outputKW / x0)) / Math.log(x1 / x0) + add;
  }
  return (last?.[1] ?? 0.85) + add;
}

/** What output, volts and amperes should give: as the plate says, else what motors of this size have. */
function wantedProduct(
  nameplate: Nameplate,
  poles: number | undefined,
): { value: number; of: 'plate' | 'size' } | undefined {
  const { efficiencyPercent: eta, powerFactor: pf, outputW } = nameplate;
  if (eta !== undefined && pf !== undefined) return { value: (eta / 100) * pf, of: 'plate' };
  return outputW === undefined || poles === undefined
    ? undefined
    : { value: usualProduct(outputW / 1000, poles), of: 'size' };
}

const KW_PER_HP = 0.7457;

/** Checks that weigh several things against each other: none of them alone would show the slip. */
export const JOINT_CHECKS: Checks = {
  'copper-together': {
    title: 'Mass and resistance together: conductor and length apart',
    run: (c) => {
      const known = together(c);
      if (!known) return undefined;
      const out: Finding[] = [];
      const area = 100 * (known.areaM2 / known.areaTyped - 1);
      const ask = limit('winding.togetherAskPercent', c.limits);
      const warn = limit('winding.togetherWarnPercent', c.limits);
      const how = (off: number) => (notAbove(Math.abs(off), warn) ? I : W);
      if (!notAbove(Math.abs(area), ask))
        out.push(
          how(area)(
            'copper-together',
            ['strands', 'copperKg', 'resistanceOhm'],
            `Mass and resistance together say ${f(known.areaM2 * 1e6)} mm² of conductor, the wires typed are ${f(known.areaTyped * 1e6)} mm² (${f(area)} %): measure the wire again and count the wires in hand.`,
          ),
        );
      const length = 100 * (known.lengthM / known.lengthTyped - 1);
      if (!notAbove(Math.abs(length), ask)) {
        const turns = c.record.turns?.[0];
        out.push(
          how(length)(
            'copper-together',
            ['turns', 'spansSlots', 'copperKg', 'resistanceOhm'],
            `Mass and resistance together say ${f(known.lengthM, 4)} m of conductor, turns and span ${f(known.lengthTyped, 4)} m (${f(length)} %): count the turns and the span again${turns === undefined ? '' : `; ${f((turns * known.lengthM) / known.lengthTyped)} turns would agree`}.`,
          ),
        );
      }
      return out;
    },
  },
  'output-together': {
    title: 'Output against volts, amperes and what such motors have',
    run: ({ record, nameplate, limits }) => {
      if (record.kind === 'single-phase' || record.kind === 'two-speed' || hasMagnets(nameplate)) return undefined;
      const { voltageV, currentA } = ratingOf(nameplate, record);
      const wanted = wantedProduct(nameplate, record.poles ?? nameplate.poles);
      if (nameplate.outputW === undefined || voltageV === undefined || currentA === undefined || !wanted)
        return undefined;
      const is = nameplate.outputW / (Math.sqrt(3) * voltageV * currentA);
      const ratio = is / wanted.value;
      const most =
        1 + limit(wanted.of === 'plate' ? 'winding.productPlatePercent' : 'winding.productSizePercent', limits) / 100;
      if (notAbove(ratio, most) && notAbove(1 / most, ratio)) return undefined;
      const kW = nameplate.outputW / 1000;
      const hint =
        ratio > 1
          ? ` Was ${f(kW)} hp meant? That is ${f(kW * KW_PER_HP)} kW.`
          : ` Was ${f(kW / KW_PER_HP)} kW meant, not hp?`;
      return W(
        'output-together',
        ['connection'],
        `Output over volts and amperes gives efficiency × power factor = ${f(is)}; ${wanted.of === 'plate' ? 'the plate says' : 'motors of this size have about'} ${f(wanted.value)}.${hint}`,
      );
    },
  },
  'full-pitch': {
    title: 'Full pitch in two layers',
    run: ({ record }) => {
      const { slots, poles, spansSlots: spans } = record;
      if (record.kind !== 'three-phase' || record.layers !== 'double' || (record.form ?? 'lap') !== 'lap')
        return undefined;
      if (slots === undefined || poles === undefined || !spans || spans.length !== 1 || slots < 3 * poles)
        return undefined;
      return spans[0] !== slots / poles
        ? undefined
        : I(
            'full-pitch',
            ['spansSlots'],
            `1-${(spans[0] ?? 0) + 1} is full pitch; two layers are as a rule wound shorter. Count it again on the core.`,
          );
    },
  },
};
