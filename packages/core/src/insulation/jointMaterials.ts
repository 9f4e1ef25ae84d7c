import type { JointItem } from '../network/jointList.ts';
import { conductorAreaM2, type Strand } from '../wire/strands.ts';
import type { WireGrade } from '../wire/insulatedDiameter.ts';
import { bundleDiameterM, sleeveBoreM } from './ends.ts';
import type { LeadSize } from './leadSize.ts';

/** What goes onto one joint beside the braze. */
export interface JointMaterial {
  ends: number;
  /** undefined: thicker than any sleeving sold */
  sleeveBoreM: number | undefined;
  sleeveLengthM: number;
  /** lead cable, mm²; joints at leads only */
  leadMm2: number | undefined;
  /** all wire that meets, mm² */
  copperMm2: number;
}

/** Insulation of a lead cable takes about this much of its diameter beyond the bare strand (common practice). */
const LEAD_OVER_BARE = 1.6;

/** Sleeve and lead of one joint: the sleeve passes over the bundle of all ends and, at a lead, the cable. */
export function jointMaterial(
  joint: JointItem,
  strands: readonly Strand[],
  grade: WireGrade,
  lead: LeadSize | undefined,
  sleeveLengthM: number,
): JointMaterial {
  const ends = joint.ends.filter((e) => /^\d+[SF]$/.test(e)).length;
  const bundle = bundleDiameterM(strands, ends, grade);
  const leadMm2 = joint.what === 'lead' ? lead?.sizeMm2 : undefined;
  // parallel cables lie side by side in the sleeve
  const cable =
    leadMm2 === undefined ? 0 : (LEAD_OVER_BARE * Math.sqrt((4 * leadMm2 * (lead?.cables ?? 1)) / Math.PI)) / 1000;
  return {
    ends,
    sleeveBoreM: sleeveBoreM(Math.max(bundle, cable)),
    sleeveLengthM,
    leadMm2,
    copperMm2: conductorAreaM2(strands) * ends * 1e6,
  };
}
