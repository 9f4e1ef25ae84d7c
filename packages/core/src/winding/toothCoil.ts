import { insulatedDiameterM, type WireGrade } from '../wire/insulatedDiameter.ts';
import type { Strand } from '../wire/strands.ts';

/** A coil wound round one tooth. Lengths in m. */
export interface ToothCoilInput {
  boreM: number;
  slotDepthM: number;
  slots: number;
  toothWidthM: number;
  coreLengthM: number;
  /** insulation between tooth and coil, at a side and at an end */
  sideM: number;
  endM: number;
  /** corner radius of the bobbin */
  cornerM: number;
  /** height of the winding along the tooth */
  heightM: number;
  /** between two coils in one slot */
  gapM: number;
  /** a coil round every tooth; else round every second one */
  everyTooth: boolean;
  turns: number;
  strands: readonly Strand[];
  grade: WireGrade;
  /** wires laid into the gaps of the layer below */
  nested?: boolean | undefined;
  /** how far the coil stands beyond the core */
  projectionM?: number | undefined;
}

export interface ToothCoil {
  wiresPerLayer: number;
  layers: number;
  /** build at the sides and at the ends */
  buildM: number;
  endBuildM: number;
  meanTurnM: number;
  slotWidthM: number;
  /** largest build that fits the mean width of the slot */
  roomM: number;
  /** the same at the narrowest end of the winding */
  narrowRoomM: number;
  overallM: number;
  /** the projection is shorter than the layers can be */
  projectionTooShort: boolean;
}

/** What is taken where nobody measured it (common practice). */
export const DEFAULT_TOOTH_COIL = { sideM: 0.0005, endM: 0.0015, cornerM: 0.0015, gapM: 0.001 } as const;
/** Depth of a slot that is wound, where the height of the winding was not measured (common practice). */
export const WOUND_SHARE = 0.85;

/** Layers nested in each other, of the height of an equilateral triangle. */
const NESTED = Math.sqrt(3) / 2;

/**
 * Build and mean turn of a coil round a tooth: a rectangle round the insulated tooth with the corners of the bobbin, MLT = P₀ + πb;
 * ends fuller than sides where the projection says so. Several wires in hand lie beside each other. Source: derived
 * (docs/derivations.md, tooth coils).
 */
export function toothCoil(x: ToothCoilInput): ToothCoil {
  const wires = x.strands.flatMap((s) => Array.from({ length: s.count }, () => insulatedDiameterM(s.bareM, x.grade)));
  const overallM =
    wires.reduce((a, b) => a + b ** 2, 0) === 0 ? 0 : Math.sqrt(wires.reduce((a, b) => a + b ** 2, 0) / wires.length);
  const wiresPerLayer = Math.max(1, Math.floor(x.heightM / overallM + 1e-9));
  const layers = Math.ceil((x.turns * wires.length) / wiresPerLayer);
  const buildM = x.nested ? overallM * (1 + (layers - 1) * NESTED) : layers * overallM;
  const projected = x.projectionM === undefined ? undefined : x.projectionM - x.endM;
  const projectionTooShort = projected !== undefined && projected < buildM - overallM;
  const endBuildM = projected === undefined || projectionTooShort ? buildM : projected;
  const meanTurnM =
    2 * (x.coreLengthM + 2 * x.endM + endBuildM) +
    2 * (x.toothWidthM + 2 * x.sideM + buildM) -
    (8 - 2 * Math.PI) * (x.cornerM + (buildM + endBuildM) / 4);
  const widthAt = (depthM: number) => (Math.PI * (x.boreM + 2 * depthM)) / x.slots - x.toothWidthM;
  const room = (width: number) => (x.everyTooth ? (width - 2 * x.sideM - x.gapM) / 2 : width - 2 * x.sideM);
  const slotWidthM = widthAt(x.slotDepthM / 2);
  return {
    wiresPerLayer,
    layers,
    buildM,
    endBuildM,
    meanTurnM,
    slotWidthM,
    roomM: room(slotWidthM),
    narrowRoomM: room(widthAt(x.slotDepthM - x.heightM)),
    overallM,
    projectionTooShort,
  };
}
