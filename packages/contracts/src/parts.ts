import {
  inItsCore,
  partFacts,
  PART_KINDS,
  plateOfPart,
  type Nameplate,
  type WindingPart,
  type WindingRecord,
} from '@norther/core';
import type { JobDetail, PartView, WindingView } from './job.ts';

/** The winding of one part of a visit. */
export interface PartWinding {
  part: WindingPart;
  found: WindingView | null;
  plan: WindingView | null;
  /** what is worked from: the released plan, else as found */
  shown: WindingView | null;
  /** its record, with what was measured of the core also where that is another part's */
  record: WindingRecord;
  /** a changed rewind has a nameplate of its own */
  nameplate: Nameplate;
  /** what the visit's nameplate says of this part, whatever is planned */
  nameplateFound: Nameplate;
  /** a record of this part, with what was measured of its core */
  inCore: (record: WindingRecord) => WindingRecord;
}

type OfJob = Pick<JobDetail, 'nameplate' | 'parts'>;
const shownOf = (part: PartView | undefined): WindingView | null => part?.plan ?? part?.found ?? null;

/** The winding of a part: recorded or not, as found and as planned. The one answer to that question. */
export function windingOfPart(job: OfJob, part: WindingPart): PartWinding {
  const own = job.parts.find((p) => p.kind === part);
  const { core } = partFacts(part);
  const carrier = shownOf(job.parts.find((p) => p.kind === (core ?? part)))?.record;
  const inCore = (record: WindingRecord) => inItsCore(record, part, carrier);
  const shown = shownOf(own);
  const nameplateFound = plateOfPart(job.nameplate, part);
  return {
    part,
    found: own?.found ?? null,
    plan: own?.plan ?? null,
    shown,
    record: inCore(shown?.record ?? { kind: 'three-phase' }),
    nameplate: shown?.redesign?.nameplate ?? nameplateFound,
    nameplateFound,
    inCore,
  };
}

/** Parts of a visit whose windings are recorded, in the order of parts; the stator always. */
export const recordedParts = (job: OfJob): WindingPart[] =>
  PART_KINDS.filter(
    (kind): kind is WindingPart => kind === 'stator' || shownOf(job.parts.find((p) => p.kind === kind)) !== null,
  );
