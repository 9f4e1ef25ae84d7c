/** Greatest common divisor of two non-negative integers. */
export function gcd(a: number, b: number): number {
  while (b !== 0) [a, b] = [b, a % b];
  return a;
}

/** All divisors of n in rising order. */
export function divisorsOf(n: number): number[] {
  const out: number[] = [];
  for (let d = 1; d <= n; d++) if (n % d === 0) out.push(d);
  return out;
}

/** Slots per pole per phase as an exact fraction in lowest terms. */
export function slotsPerPolePerPhase(slots: number, poles: number): { numerator: number; denominator: number } {
  const g = gcd(slots, 3 * poles);
  return { numerator: slots / g, denominator: (3 * poles) / g };
}
