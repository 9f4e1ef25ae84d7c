import { formatNumber } from '../quantity/format.ts';
import type { BalanceEntry } from './entries.ts';
import type { BalanceSetUp } from './setUp.ts';

/** One row of a balance in words, the same on screen and paper. */
export function sayBalanceEntry(e: BalanceEntry, unit: string, setUp?: BalanceSetUp): string {
  const by = 'sent' in e && e.sent ? ` (${e.sent.instrument}${e.sent.simulated ? ', simulated' : ''})` : '';
  const shown = setUp?.readings === 'unbalance per plane' ? setUp.unbalanceUnit : unit;
  const read = (r: { size: number; angleDeg: number }[]) =>
    r
      .map((v) => `${formatNumber(v.size, 4)}${shown ? ` ${shown}` : ''} at ${formatNumber(v.angleDeg, 4)}°`)
      .join(' and ');
  switch (e.kind) {
    case 'run':
      return `${e.repeat ? 'The same once more' : 'Run'}: ${read(e.readings)}${by}`;
    case 'trial':
      return `Trial in plane ${e.plane}, ${formatNumber(e.gMm, 4)} g·mm at ${formatNumber(e.angleDeg, 4)}°${e.staysIn ? ', stays in' : ''}: ${read(e.readings)}${by}`;
    case 'moved':
      return `Test mass of ${formatNumber(e.testGMm, 4)} g·mm moved round plane ${e.plane}: ${e.positions.map((p) => `${formatNumber(p.amplitude, 4)} at ${formatNumber(p.angleDeg, 4)}°`).join(', ')}`;
    case 'correction':
      return `Correction: ${e.masses
        .map((m) => {
          const where = m.place === undefined ? '' : ` (${setUp?.planes[m.plane - 1]?.called ?? 'place'} ${m.place})`;
          const how = /deep|out/.test(m.how) ? `, ${m.how}` : '';
          return `plane ${m.plane} ${m.massG < 0 ? '−' : '+'}${formatNumber(Math.abs(m.massG), 4)} g at ${formatNumber(m.angleDeg, 4)}°${where}${how}`;
        })
        .join('; ')}`;
  }
}
