/** Wires of one size in hand. */
export interface Strand {
  count: number;
  bareM: number;
  /** the size as the shop says it, for example "AWG 18" */
  label: string;
}

/** Cross-section of a round of a diameter, m². */
export const roundAreaM2 = (diameterM: number): number => (Math.PI / 4) * diameterM ** 2;

/** Number of wires in hand. */
export function wiresInHand(strands: readonly Strand[]): number {
  return strands.reduce((n, s) => n + s.count, 0);
}

/** Bare cross-section of all wires in hand, m². Areas are added; diameters never are. */
export function conductorAreaM2(strands: readonly Strand[]): number {
  return strands.reduce((a, s) => a + s.count * roundAreaM2(s.bareM), 0);
}
