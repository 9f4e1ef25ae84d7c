import { parseNumber } from '../quantity/parse.ts';

/** Fewest samples of one turn that tell a swing. */
const FEWEST = 20;
export const MOST_SWING_ROWS = 20_000;
/** Samples are smoothed over this share of the turn: noise goes, a dip stays. */
const SMOOTHED = 1 / 200;
/** A dip falls below the middle by this share of the whole swing, and rises above it by as much before the next counts. Source: common practice. */
const DEEP = 0.15;

export interface LoggedSwing {
  maxA: number;
  minA: number;
  dips: number;
  samples: number;
}

/** Currents of a logged turn: the last number of each line; a line of words is a heading. Time and order are as logged. */
export function readSwingLog(csv: string): { amps: number[]; problem?: string } {
  const lines = csv
    .replace(/\r/g, '')
    .split('\n')
    .map((l) => l.trim())
    .filter((l) => l !== '');
  const amps: number[] = [];
  for (const [i, line] of lines.entries()) {
    // a comma parts columns only where no semicolon or tab does: else it is a decimal one
    const cells = (/[;\t]/.test(line) ? line.split(/[;\t]/) : line.split(',')).map((c) => c.trim());
    const value = parseNumber((cells.at(-1) ?? '').replace(',', '.'));
    if (value !== undefined) amps.push(value);
    else if (i > 1) return { amps, problem: `Line ${i + 1}, "${line.slice(0, 40)}", holds no current.` };
  }
  if (amps.length > MOST_SWING_ROWS)
    return { amps, problem: `At most ${MOST_SWING_ROWS} lines are read; log one turn.` };
  if (amps.length < FEWEST)
    return { amps, problem: `${amps.length} currents are too few for one turn: at least ${FEWEST}.` };
  const bad = amps.findIndex((a) => !(a > 0));
  if (bad >= 0)
    return { amps, problem: `Current ${bad + 1} is ${amps[bad]}: every current of the turn is above zero.` };
  return { amps };
}

/** Largest and smallest current of one turn, and how often it dips, from its smoothed log; the log closes on itself. */
export function swingOfLog(amps: readonly number[]): LoggedSwing {
  const half = Math.floor((amps.length * SMOOTHED) / 2);
  const n = amps.length;
  const smooth = amps.map((_, i) => {
    let sum = 0;
    for (let k = -half; k <= half; k++) sum += amps[(i + k + n) % n] ?? 0;
    return sum / (2 * half + 1);
  });
  const [maxA, minA] = [Math.max(...smooth), Math.min(...smooth)];
  const [low, high] = [(maxA + minA) / 2 - DEEP * (maxA - minA), (maxA + minA) / 2 + DEEP * (maxA - minA)];
  // begun at the top, so that a dip over the end of the log is one
  const start = smooth.indexOf(maxA);
  let down = false;
  let dips = 0;
  for (let k = 0; k < n; k++) {
    const v = smooth[(start + k) % n] ?? 0;
    if (!down && v < low) {
      down = true;
      dips += 1;
    } else if (down && v > high) down = false;
  }
  return { maxA, minA, dips: maxA > minA ? dips : 0, samples: n };
}
