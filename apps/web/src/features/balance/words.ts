import { formatNumber, type BalanceEntry, type BalanceNow } from '@norther/core';

/** What is to be done at a stage of a balance. */
export const STAGE_WORDS: Readonly<Record<BalanceNow['stage'], string>> = {
  refused: 'Not to be balanced so',
  'first run': 'Spin it as found',
  'trial 1': 'Trial mass in plane 1',
  'trial 2': 'Trial mass in plane 2',
  correct: 'Correct',
  'check run': 'Spin it again',
  done: 'Inside',
};

/** One row of what was done, in words. */
export const sayEntry = (e: BalanceEntry, unit: string): string => {
  const read = (r: { size: number; angleDeg: number }[]) =>
    r
      .map((v) => `${formatNumber(v.size, 4)}${unit ? ` ${unit}` : ''} at ${formatNumber(v.angleDeg, 4)}°`)
      .join(' and ');
  switch (e.kind) {
    case 'run':
      return `${e.repeat ? 'The same once more' : 'Run'}: ${read(e.readings)}`;
    case 'trial':
      return `Trial in plane ${e.plane}, ${formatNumber(e.gMm, 4)} g·mm at ${formatNumber(e.angleDeg, 4)}°${e.staysIn ? ', stays in' : ''}: ${read(e.readings)}`;
    case 'moved':
      return `Test mass of ${formatNumber(e.testGMm, 4)} g·mm moved round plane ${e.plane}: ${e.positions.map((p) => `${formatNumber(p.amplitude, 4)} at ${formatNumber(p.angleDeg, 4)}°`).join(', ')}`;
    case 'correction':
      return `Correction: ${e.masses.map((m) => `plane ${m.plane} ${m.massG < 0 ? '−' : '+'}${formatNumber(Math.abs(m.massG), 4)} g at ${formatNumber(m.angleDeg, 4)}°`).join(', ')}`;
  }
};
