import type { Nameplate } from '../../packages/core/src/machine/nameplate.ts';
import { insulatedDiameterM } from '../../packages/core/src/wire/insulatedDiameter.ts';
import { possibleCircuits } from '../../packages/core/src/winding/connection.ts';
import { workingFactor } from '../../packages/core/src/winding/factors.ts';
import { windingFigures } from '../../packages/core/src/winding/figures.ts';
import { gcd } from '../../packages/core/src/winding/integers.ts';
import { usualProduct } from '../../packages/core/src/winding/jointChecks.ts';
import { layoutOf } from '../../packages/core/src/winding/layout.ts';
import type { ThreePhaseRecord } from '../../packages/core/src/winding/record.ts';

export interface Sound {
  record: ThreePhaseRecord;
  nameplate: Nameplate;
}

/** A machine whose figures belong together, from a few free choices: flux, loading and densities in the usual middle. */
export function soundMachine(x: {
  poles: number;
  slots: number;
  kilowatt: number;
  wye: boolean;
  circuitPick: number;
  gap: number;
  skip: boolean;
}): Sound | undefined {
  const { poles, slots, wye } = x;
  if (slots % (3 * gcd(slots, poles / 2)) !== 0) return undefined;
  const pitch = slots / poles;
  if (pitch < 3) return undefined;
  const span = Math.max(Math.ceil((2 / 3) * pitch), Math.round((5 / 6) * pitch));
  if (span > pitch) return undefined;
  const layout = layoutOf({
    slots,
    poles,
    layers: 2,
    form: 'lap',
    poleGroups: 'every-pole',
    spanSlots: span,
    turns: [1],
  });
  const kw = workingFactor(layout);
  const f = 50;
  const speed = ((120 * f) / poles) * 0.97;
  // D²L from 2.5 kW·min/m³, L as the pole arc
  const d2l = x.kilowatt / (2.5 * speed);
  const D = Math.cbrt((d2l * poles) / Math.PI);
  const L = d2l / (D * D);
  const possible = possibleCircuits(layout);
  const hit = possible[x.circuitPick % possible.length];
  if (!hit) return undefined;
  const c = hit.circuits;
  const volts = 400;
  const phaseV = wye ? volts / Math.sqrt(3) : volts;
  const B = x.gap;
  const flux = (2 * B * D * L) / poles;
  const T = Math.round((3 * c * phaseV) / (slots * Math.SQRT2 * Math.PI * f * kw * flux));
  if (T < 6 || T > 1000) return undefined;
  const amps = (x.kilowatt * 1000) / (Math.sqrt(3) * volts * usualProduct(x.kilowatt, poles));
  const phaseA = wye ? amps : amps / Math.sqrt(3);
  const series = (slots * T) / (3 * c);
  const loading = (6 * series * phaseA) / (Math.PI * D);
  if (loading < 9000 || loading > 48000) return undefined;
  const area = phaseA / c / 5;
  const w = Math.max(1, Math.ceil(area / 1.2));
  const bare = Math.sqrt((4 * area) / w / Math.PI) / 1000;
  if (bare < 0.0003 || w > 20) return undefined;
  const kFe = 0.95;
  const tooth = (B * ((Math.PI * D) / slots)) / (1.6 * kFe);
  const back = flux / (2 * 1.4 * L * kFe);
  const net = (2 * T * w * insulatedDiameterM(bare, 2) ** 2) / 0.7;
  const slotDepth = net / (((Math.PI * D) / slots - tooth) * 1.1) + 0.003;
  // within the sizes that random-wound machines have
  if (slotDepth > 0.09 || slotDepth < 0.008 || tooth < 0.0015 || tooth > 0.025 || D < 0.025) return undefined;
  const opening = insulatedDiameterM(bare, 2) + 0.0012;
  if (opening < 0.0015 || net * 1.15 < 20e-6 || net * 1.15 > 2500e-6 || L < 0.015) return undefined;
  const outer = D + 2 * slotDepth + 2 * back;
  if (outer < 1.3 * D || outer > 2.2 * D) return undefined;
  const record: ThreePhaseRecord = {
    kind: 'three-phase',
    slots,
    poles,
    layers: 'double',
    form: 'lap',
    poleGroups: 'every-pole',
    coilCount: slots,
    groupCount: layout.groups.length,
    grouping: layout.groups.map((g) => g.coils.length),
    spansSlots: [span],
    turns: [T],
    turnsSecondCount: [T],
    strands: [{ count: w, bareM: bare, label: '' }],
    wireGrade: '2',
    material: 'copper',
    connection: wye ? 'wye' : 'delta',
    circuits: c,
    leads: '3',
    jumper: hit.jumpers[x.skip ? hit.jumpers.length - 1 : 0],
    endsPerLead: wye ? c : 2 * c,
    wireTipsPerLead: (wye ? c : 2 * c) * w,
    starPoints: wye ? 1 : 0,
    endsPerStar: wye ? 3 * c : 0,
    boreM: D,
    coreLengthM: L,
    coreOuterM: outer,
    backIronM: back,
    toothWidthM: tooth,
    slotDepthM: slotDepth,
    slotOpeningM: opening,
    slotAreaM2: net * 1.15,
    slotNetAreaM2: net,
    linerM: 0.00025,
  };
  const nameplate: Nameplate = {
    outputW: x.kilowatt * 1000,
    voltagesV: [volts],
    currentsA: [amps],
    frequencyHz: f,
    speedRpm: speed,
    poles,
    phases: '3',
  } as Nameplate;
  const figures = windingFigures.compute(windingFigures.input.parse({ record, nameplate }));
  if (figures.geometryBareMassKg !== undefined) {
    record.copperKg = figures.geometryBareMassKg;
    record.copperState = 'burned clean';
  }
  if (figures.lineResistance20Ohm !== undefined) {
    record.resistanceOhm = figures.lineResistance20Ohm;
    record.resistanceTemperatureC = 20;
  }
  return { record, nameplate };
}
