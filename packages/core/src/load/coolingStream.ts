import { findUnit, toBase } from '../quantity/units.ts';
import { formatNumber } from '../quantity/format.ts';
import { largestA, type LoadChannel, type LoadFrame } from './loadFrames.ts';
import type { CoolingReading } from './temperatureRise.ts';

/** The channel of a stream that sends the resistance of a winding while it cools, by what it is called (common practice). */
const RESISTANCE = /^(r|r ?ll|r ?12|ohms?|resistance|line resistance)$/i;
/** Readings that are made of a stream: as many as one would write down. */
const MOST = 12;
/** A line with less than this share of the largest current of the run is off. */
const OFF_SHARE = 0.05;
/** Each reading is the mean of this share of the way to the next, at least of one sample of the stream. */
const MEAN_OVER = 0.5;

/** The row of the resistance among channels and its unit; a sentence where there is none. */
export function resistanceRow(channels: readonly LoadChannel[]): { row: number; unit: string } | string {
  const row = channels.findIndex((c) => RESISTANCE.test(c.name.trim()));
  const found = channels[row];
  if (!found) return `No channel is a resistance (R): ${channels.map((c) => c.name).join(', ')}.`;
  const unit = found.unit.trim() || 'Ω';
  return findUnit('resistance', unit)
    ? { row, unit }
    : `"${found.name}" is in "${unit}": a resistance is wanted, as in Ω.`;
}

/**
 * When the power went off: the last moment at which a line carried current.
 * @returns seconds of the run; undefined where no current was read
 */
export function switchedOffAt(frames: readonly LoadFrame[]): number | undefined {
  const amps = frames.map((f) => largestA(f) ?? 0);
  const most = amps.reduce((a, b) => Math.max(a, b), 0);
  return most > 0 ? frames[amps.findLastIndex((a) => a > OFF_SHARE * most)]?.t : undefined;
}

/**
 * A stream of resistance as the readings of a cooling: spread evenly over it, each the mean of what was sent around its time.
 * @param x seconds since the power went off @param ohms null or NaN where one was lost
 */
export function coolingOfStream(x: ArrayLike<number>, ohms: ArrayLike<number | null>, unit = 'Ω'): CoolingReading[] {
  const read = Array.from(x, (seconds, i): CoolingReading => ({ seconds, ohm: ohms[i] ?? NaN })).filter(
    (r) => r.seconds >= 0 && r.ohm > 0 && Number.isFinite(r.ohm),
  );
  const [first, last] = [read[0], read.at(-1)];
  if (!first || !last) return [];
  const step = (last.seconds - first.seconds) / (MOST - 1);
  if (read.length <= MOST || step <= 0)
    return read.map((r) => ({ seconds: r.seconds, ohm: toBase(r.ohm, 'resistance', unit) }));
  // each sample lies in one of them at most
  const wide = Math.min(step, Math.max(step * MEAN_OVER, usualStep(read)));
  return Array.from({ length: MOST }, (_, k) => first.seconds + k * step - wide / 2).flatMap((from) => {
    const near = read.filter((r) => r.seconds >= from && r.seconds < from + wide);
    // a gap in the stream has no reading
    if (near.length === 0) return [];
    const mean = (value: (r: CoolingReading) => number) => near.reduce((s, r) => s + value(r), 0) / near.length;
    return [
      {
        seconds: mean((r) => r.seconds),
        ohm: toBase(
          mean((r) => r.ohm),
          'resistance',
          unit,
        ),
      },
    ];
  });
}

/** The median time from one reading to the next, s. */
function usualStep(read: readonly CoolingReading[]): number {
  const steps = read.slice(1).map((r, i) => r.seconds - (read[i]?.seconds ?? r.seconds));
  return steps.sort((a, b) => a - b)[Math.floor(steps.length / 2)] ?? 0;
}

/** The sheet of a temperature rise filled in from a stream; what it does not tell stays as it is typed. */
export function coolingTyped(readings: readonly CoolingReading[], coolantC?: number): Record<string, string> {
  if (readings.length === 0) return {};
  return {
    seconds: readings.map((r) => formatNumber(r.seconds, 4)).join('; '),
    ohms: readings.map((r) => formatNumber(r.ohm, 6)).join('; '),
    ...(coolantC === undefined ? {} : { coolantC: formatNumber(coolantC, 4) }),
  };
}
