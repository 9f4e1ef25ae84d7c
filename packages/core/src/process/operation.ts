import type { FieldSpec } from '../quantity/fields.ts';
import type { LimitId } from '../limits/limits.ts';

export type Rail = 'trunk' | 'stator' | 'rotor';

/** Columns of the rail picture, left to right. Rotor work runs beside the stator's columns. */
export const STAGES = [
  'Intake',
  'Inspect',
  'Agree',
  'Data',
  'Strip',
  'Core',
  'Wind',
  'Connect',
  'Test',
  'Resin',
  'Assemble',
  'Final',
] as const;
export type Stage = (typeof STAGES)[number];

/** Acceptance of what was recorded, as data. A value that is absent and not required is not judged. */
export type AcceptRule =
  | {
      rule: 'yes';
      field: string;
      otherwise: string;
      verdict?: 'attention' | 'fail';
      when?: { field: string; is: readonly string[] };
    }
  /** named for some ways of doing it: without it a person looks */
  | { rule: 'named'; field: string; when: { field: string; is: readonly string[] }; otherwise: string }
  /** so near to what was worked out before; not judged where nothing was */
  | { rule: 'near'; field: string; of: string; percent: LimitId }
  /** bonded by current: the mean temperature by resistance lies in the window of the wire */
  | { rule: 'bond' }
  | {
      rule: 'at most';
      field: string;
      limit: LimitId;
      unit: string;
      per?: string;
      verdict?: 'attention' | 'fail';
      when?: { field: string; is: readonly string[] };
    }
  | { rule: 'within percent'; fields: readonly string[]; of: string; percent: LimitId }
  | { rule: 'at least'; field: string; limit: LimitId; unit: string; verdict?: 'attention' | 'fail' }
  /** up to `pass` passes, up to `attention` a person looks, above fails */
  | { rule: 'band'; field: string; unit: string; pass: LimitId; attention: LimitId }
  /** the limit follows another size: `larger` where that is above `from` */
  | {
      rule: 'at most by size';
      field: string;
      unit: string;
      by: string;
      byUnit: string;
      from: LimitId;
      limit: LimitId;
      larger: LimitId;
    }
  /** a share of another value of the same record */
  | { rule: 'at most share'; field: string; of: string; percent: LimitId }
  /** one of these is as it should be; another is looked at by a person */
  | { rule: 'one of'; field: string; good: readonly string[]; otherwise: string }
  | { rule: 'equals'; field: string; value: number; unit: string }
  /** rise against the same figure of an earlier operation, at the same flux density; losses go with its square */
  | {
      rule: 'rise';
      field: string;
      of: string;
      flux: string;
      fluxPercent: LimitId;
      pass: LimitId;
      attention: LimitId;
    }
  /** all the copper of the winding against the mass that its record comes to */
  | { rule: 'copper'; field: string }
  | { rule: 'stated'; field: string }
  | { rule: 'second person'; field: string };

/** What decides an operation beside its own record. */
export type Decider =
  | { kind: 'tests'; stage: TestStage; passes: 'when recorded' | 'when passed' }
  | { kind: 'cure' }
  /** the log of the oven, where one was read; else the record alone */
  | { kind: 'burn-off' }
  | { kind: 'balance' }
  | { kind: 'winding record'; role: 'verified' | 'released' };

/** Test stages of the matrix, in the order of the job. */
export const TEST_STAGES = ['IN', 'BS', 'AB', 'AC', 'VC', 'AA', 'FI'] as const;
export type TestStage = (typeof TEST_STAGES)[number];
export const TEST_STAGE_TITLES: Readonly<Record<TestStage, string>> = {
  IN: 'as found',
  BS: 'before strip',
  AB: 'after burn-off',
  AC: 'before varnish',
  VC: 'after cure',
  AA: 'assembled',
  FI: 'final',
};

export const IMPREGNATIONS = ['dip', 'vacuum-pressure', 'trickle', 'bonded wire'] as const;
export type Impregnation = (typeof IMPREGNATIONS)[number];

/** One operation as data. Its code is a literal, so that the codes of all lists make the type `OperationCode`. */
export interface OperationData {
  readonly code: string;
  readonly title: string;
  readonly what: string;
  readonly stage: Stage;
  readonly rail: Rail;
  readonly fields: readonly FieldSpec[];
  readonly accept: readonly AcceptRule[];
  readonly decidedBy?: Decider;
  readonly mayBeWaived?: true;
  /** a shop may leave it out of its routes: not every house blasts, paints slots or drives a motor under load */
  readonly mayBeLeftOut?: true;
  /** material goes into the motor here: what is used is entered at it */
  readonly takesMaterial?: true;
  /** takes cut material: waits until cutting and picking lists are made */
  readonly waitsForLists?: true;
  /** the winding data are agreed with it */
  readonly agreesData?: true;
  /** the motor leaves the house with it: a report must be issued, the job is closed */
  readonly closesJob?: true;
  /** of the trunk: stator and rotor work together here, so both must be in the house */
  readonly needsBothParts?: true;
  /** how many coats of resin the winding gets is agreed with it */
  readonly agreesCoats?: true;
  /** done once for each coat of resin: run 2 stands in a route as `CODE.2` */
  readonly runsAgain?: true;
  /** the way of impregnating that it is: one of these stands in a route, the one agreed */
  readonly impregnatesBy?: Impregnation;
  /** ways of impregnating that do without it */
  readonly notWith?: readonly Impregnation[];
  /** duration model at shaft height H: labour = L100 (H/100)^n, unattended = E100 (H/100)^p, hours (common practice) */
  readonly hours: { labour100: number; labourPower: number; wait100: number; waitPower: number };
  readonly resource: string;
  readonly cautions: readonly CautionCode[];
}

/** Short safety lines of the operation card; local codes, permits and licensed practice decide. */
export const CAUTIONS = {
  S1: 'Lock out, tag, prove dead.',
  S2: 'A DC test stores charge: discharge and earth at least four times the test time.',
  S3: 'Rated lifting points; nobody under the load.',
  S4: 'Hot part: gloves, sign, show the temperature.',
  S5: 'Burn-off: fume and flash fire; do not open hot; some enamels give off toxic fume.',
  S6: 'Solvent vapour: ventilate, earth, no sparks, purge the oven.',
  S7: 'Resin: gloves and eye protection; styrene or amine vapour.',
  S8: 'Vacuum and pressure vessel: inspected, relief valve in date, never force the lid.',
  S9: 'Rotating part: guard on, no gloves or loose sleeves.',
  S10: 'Test area: barrier and lamp, two persons where required.',
  S11: 'Blast and silica dust: extraction and respirator.',
  S12: 'Sharp sheet and wire whip: eye protection, cut-proof gloves.',
  S13: 'Soldering and brazing: fume and burns; no cadmium alloys.',
  S15: 'Press: two-hand control.',
  S16: 'Banding and spinning: guard, stand clear of the plane.',
} as const;
export type CautionCode = keyof typeof CAUTIONS;
