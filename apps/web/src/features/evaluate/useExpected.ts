import {
  asLinkedToRun,
  connectionOfRecord,
  expectedWaves,
  formatNumber,
  jointsOf,
  parseJoints,
  qualityOf,
  ringing,
  type ExpectedWave,
  type WindingPart,
} from '@norther/core';
import { type JobDetail, windingOfPart } from '@norther/contracts';
import { useMemo } from 'react';
import { useJointsQuery } from '../../app/api/winding.ts';
import type { DrawnWave } from './waves.ts';

/** Points of one expected wave. */
const SAMPLES = 500;

export interface Expected {
  /** what it is worked out from */
  from: 'as drawn' | 'as made';
  says: string;
  /** the waves at a voltage, over the time of those that were measured */
  drawn: (own: readonly DrawnWave[], appliedV: number) => DrawnWave[];
}

/** The waves that the joints of a motor should make: as they were made, where that is kept, else as drawn. */
export function useExpected(
  job: JobDetail,
  part: WindingPart,
  waves: readonly { name: string; frequencyHz?: number | undefined }[],
): Expected | undefined {
  const { data: sheet } = useJointsQuery({ number: job.number, part }, { skip: waves.length === 0 });
  const asMade = sheet?.asMade ?? '';
  return useMemo(() => {
    if (waves.length === 0) return undefined;
    const { layout, connection } = connectionOfRecord(windingOfPart(job, part).record);
    const linked = layout && connection && asLinkedToRun(layout, connection);
    if (!layout || !linked) return undefined;
    const made = parseJoints(asMade);
    // joints as made are those of the winding as it runs only where no link comes between
    const isMade = asMade.trim() !== '' && made.problems.length === 0 && connection.leads === 3;
    const mode = waves.some((w) => w.name === 'UV') ? 'lead to lead' : 'one against two';
    const expected = expectedWaves(layout, isMade ? made.joints : jointsOf(linked), mode, waves);
    if (!expected) return undefined;
    const from = isMade ? 'as made' : 'as drawn';
    return { from, says: sayExpected(expected, from), drawn: (own, appliedV) => drawnOf(expected, own, appliedV) };
  }, [job, part, waves, asMade]);
}

const sayExpected = (expected: readonly ExpectedWave[], from: string): string =>
  `By the joints ${from}: ${expected
    .map(
      (w) =>
        `${w.name} ${formatNumber(w.hz, 4)} Hz${w.offPercent === undefined ? '' : ` (measured ${w.offPercent < 0 ? '−' : '+'}${formatNumber(Math.abs(w.offPercent), 2)} %)`}`,
    )
    .join(', ')}. Their size is taken from what was measured.`;

function drawnOf(expected: readonly ExpectedWave[], own: readonly DrawnWave[], appliedV: number): DrawnWave[] {
  return expected.flatMap((w): DrawnWave[] => {
    const measured = own.find((d) => d.name === w.name && Math.abs(d.appliedV - appliedV) <= 0.02 * appliedV);
    const last = measured?.points.at(-1)?.x;
    if (!measured || last === undefined || !(last > 0)) return [];
    const dtS = (last * 1e-6) / (SAMPLES - 1);
    const swing = -Math.min(...measured.points.map((p) => p.y).filter((y) => Number.isFinite(y))) / appliedV;
    const v = ringing(w.hz, qualityOf(swing), appliedV, { dtS, samples: SAMPLES });
    return [
      {
        name: `${w.name} expected`,
        appliedV,
        points: Array.from(v, (y, k) => ({ x: k * dtS * 1e6, y })),
      },
    ];
  });
}
