/** A little more than floating-point dust: a piece that fits exactly fits. */
const fits = (room: number, pitch: number): number => (pitch > 0 ? Math.floor(room / pitch + 1e-9) : 0);

/** Counted pieces with their waste: ceil(n·(1 + w)). */
export function withWaste(pieces: number, waste: number): number {
  return Math.max(0, Math.ceil(pieces * (1 + waste) - 1e-9));
}

export interface SheetNesting {
  perSheet: number;
  sheets: number;
  /** pieces lie with their length along the sheet's length */
  along: boolean;
  columns: number;
  rows: number;
}

/**
 * Pieces of l × w cut from sheets of A × B with a gap k between cuts: ⌊(A+k)/(l+k)⌋·⌊(B+k)/(w+k)⌋ a sheet. The length
 * lies along A unless the material is free of grain; then the better way is taken.
 * @returns undefined when a piece does not fit a sheet
 */
export function nestOnSheet(
  pieces: number,
  piece: { lengthM: number; widthM: number },
  sheet: { lengthM: number; widthM: number; grain: 'along' | 'free' },
  gapM = 0,
): SheetNesting | undefined {
  const way = (along: boolean): SheetNesting => {
    const [l, w] = along ? [piece.lengthM, piece.widthM] : [piece.widthM, piece.lengthM];
    const columns = fits(sheet.lengthM + gapM, l + gapM);
    const rows = fits(sheet.widthM + gapM, w + gapM);
    const perSheet = columns * rows;
    return { perSheet, sheets: perSheet === 0 ? 0 : Math.ceil(pieces / perSheet), along, columns, rows };
  };
  const [one, other] = [way(true), way(false)];
  const best = sheet.grain === 'free' && other.perSheet > one.perSheet ? other : one;
  return best.perSheet === 0 ? undefined : best;
}

export interface RollNesting {
  across: number;
  rows: number;
  lengthM: number;
}

/**
 * Pieces cut from a roll: `acrossM` of the piece lies across the roll, `alongM` along it.
 * @returns undefined when a piece is wider than the roll
 */
export function nestOnRoll(
  pieces: number,
  piece: { acrossM: number; alongM: number },
  rollWidthM: number,
  gapM = 0,
): RollNesting | undefined {
  const across = fits(rollWidthM + gapM, piece.acrossM + gapM);
  if (across === 0) return undefined;
  const rows = Math.ceil(pieces / across);
  return { across, rows, lengthM: rows * piece.alongM + Math.max(0, rows - 1) * gapM };
}
