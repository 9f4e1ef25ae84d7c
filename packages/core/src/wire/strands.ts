/** Wires of one size in hand. */
export interface Strand {
  count: number;
  bareM: number;
  /** the size as the shop says it, for example "AWG 18" */
  label: string;
}

/** Number of wires in hand. */
export function wiresInHand(strands: readonly Strand[]): number {
  return strands.reduce((n, s) => n + s.count, 0);
}

/** Bare cross-section of all wires in hand, m². Areas are added; diameters never are. */
export function conductorAreaM2(strands: readonly Strand[]): number {
  return strands.reduce((a, s) => a + s.count * (Math.PI / 4) * s.bareM ** 2, 0);
}
