/**
 * An invented oven log: air ramps and holds, two parts follow with their own lag (docs/derivations.md 14: one lump each).
 * @returns semicolon-separated text with a clock, as loggers write it
 */
export function ovenLog(options: { start: [number, number]; holdC: number; hours: number; lagsMin: readonly [number, number] }): string {
  const rows = ['time;air °C;stator °C;test piece °C'];
  let parts = [24, 24];
  const step = 10;
  for (let minute = 0; minute <= options.hours * 60; minute += step) {
    const left = options.hours * 60 - minute;
    const air = Math.min(24 + 2.2 * minute, options.holdC) + (minute % 30 === 0 ? 0.8 : -0.6);
    const now = left < 40 ? Math.max(70, air - (40 - left) * 2) : air;
    const clock = (options.start[0] * 60 + options.start[1] + minute) % 1440;
    rows.push(`${String(Math.floor(clock / 60)).padStart(2, '0')}:${String(clock % 60).padStart(2, '0')};${now.toFixed(1)};${parts.map((c) => c.toFixed(1)).join(';')}`);
    parts = parts.map((c, i) => now - (now - c) * Math.exp(-step / (options.lagsMin[i] ?? 40)));
  }
  return `${rows.join('\n')}\n`;
}
