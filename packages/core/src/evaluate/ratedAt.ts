import { expectedNoLoadA, runningOf, type Running } from '../machine/noLoadCurrent.ts';
import { fluxFigures, ironDensities } from '../machine/flux.ts';
import type { WindingRecord } from '../winding/record.ts';
import { layoutOfRecord, ratingOf, runningConnection } from '../winding/recordLayout.ts';
import { twoSpeedOf } from '../winding/twoSpeed.ts';
import type { JudgingContext } from './testKind.ts';

/** The speed that is run: the only one, or the low or high one of a two-speed winding. */
export type Speed = 'only' | 'low' | 'high';

/** Which currents of a two-speed plate belong to which speed: low speed first, as the plate says it. */
export function currentAt(currentsA: readonly number[] | undefined, speed: Speed): number | undefined {
  return speed === 'high' ? (currentsA?.[1] ?? currentsA?.[0]) : currentsA?.[0];
}

/**
 * A two-speed winding at its high speed: half the poles, its halves the other way together. Constant torque and variable torque run
 * there in parallel wye, constant power in series delta. Source: Say; the flux worked out as at the low speed.
 */
export function runningHigh(
  record: WindingRecord,
  x: { voltageV: number | undefined; frequencyHz: number | undefined; totalTurns: number | undefined },
): Running | undefined {
  const { layout } = layoutOfRecord(record);
  const { boreM, coreLengthM, circuits } = record;
  if (!layout || boreM === undefined || coreLengthM === undefined || circuits === undefined) return undefined;
  if (x.voltageV === undefined || x.frequencyHz === undefined || x.totalTurns === undefined) return undefined;
  const two = twoSpeedOf(layout);
  const parallel = record.duty !== 'constant power';
  const seriesTurns = x.totalTurns / (3 * circuits * (parallel ? 2 : 1));
  const connection = parallel ? 'wye' : 'delta';
  const core = { ...record, boreM, coreLengthM, poles: two.highPoles };
  const { airGapT } = fluxFigures({
    ...core,
    lineVoltageV: x.voltageV,
    frequencyHz: x.frequencyHz,
    connection,
    seriesTurns,
    windingFactor: two.highFactor,
  });
  const { toothT } = ironDensities(core, airGapT);
  return toothT === undefined
    ? undefined
    : { poles: two.highPoles, seriesTurns, windingFactor: two.highFactor, connection, airGapT, toothT };
}

/** What a no-load run is judged by at one speed: rated voltage and current, poles, the current this winding should take. */
export function ratedAt(c: JudgingContext, speed: Speed) {
  const { nameplate, record, figures } = c;
  const rating = ratingOf(nameplate, record ?? { kind: 'three-phase' });
  const lowPoles = record?.poles ?? nameplate.poles;
  const high = speed === 'high';
  const running =
    !record || !figures
      ? undefined
      : high
        ? runningHigh(record, {
            voltageV: rating.voltageV,
            frequencyHz: nameplate.frequencyHz,
            totalTurns: figures.totalTurns,
          })
        : runningOf(record, figures, runningConnection(record));
  return {
    ratedV: rating.voltageV,
    ratedA: speed === 'only' ? rating.currentA : currentAt(nameplate.currentsA, speed),
    ratedW: nameplate.outputW,
    // a magnet machine draws at no load what its drive makes it draw: no usual share, no magnetizing current
    ...(c.machine === 'permanent magnet'
      ? {}
      : {
          poles: high && lowPoles !== undefined ? lowPoles / 2 : lowPoles,
          expectedA: record ? expectedNoLoadA(record, running) : undefined,
        }),
  };
}
