/** Slot cell to cut: `widthM` is developed across the slot, `lengthM` along it. */
export interface SlotCell {
  widthM: number;
  lengthM: number;
}

export interface SlotShape {
  bottom: 'flat' | 'round';
  /** from the seat under the lip to the bottom, m */
  depthM: number;
  /** under the lip, m */
  topWidthM: number;
  /** flat bottom: its width, m; a parallel slot has bottom = top */
  bottomWidthM?: number | undefined;
  /** round bottom: its radius, m */
  bottomRadiusM?: number | undefined;
}

/**
 * Developed width of a slot cell. Flat: 2·√(d² + ((bt−bb)/2)²) + bb + 2a; round: 2·√((d−r)² + ((bt−2r)/2)²) + π·r + 2a,
 * tapered sides an approximation. With a thickness the mid-line is taken: −2t flat, −π·t/2 round.
 * @param allowanceM each side above the cell; negative keeps the edge below the wedge
 * @param thicknessM liner thickness for the mid-line correction, 0 = none
 * Source: geometry, docs/derivations.md 13.
 */
export function slotCellWidthM(shape: SlotShape, allowanceM = 0, thicknessM = 0): number {
  const { depthM: d, topWidthM: bt } = shape;
  if (shape.bottom === 'flat') {
    const bb = shape.bottomWidthM ?? bt;
    return 2 * Math.hypot(d, (bt - bb) / 2) + bb + 2 * allowanceM - 2 * thicknessM;
  }
  const r = shape.bottomRadiusM ?? bt / 2;
  return 2 * Math.hypot(d - r, (bt - 2 * r) / 2) + Math.PI * r + 2 * allowanceM - (Math.PI * thicknessM) / 2;
}

/** Length of a slot cell: core + 2·(extension + cuff). */
export function slotCellLengthM(coreM: number, extensionM: number, cuffM: number): number {
  return coreM + 2 * (extensionM + cuffM);
}

/** Extension of the cell beyond the core at each end by shaft height (common practice), m. */
export function usualExtensionM(shaftHeightMm: number): number {
  return shaftHeightMm <= 90 ? 0.005 : shaftHeightMm <= 160 ? 0.008 : shaftHeightMm <= 250 ? 0.01 : 0.015;
}

/** Separator: slot width at the layer plane with a lip each side; liner length without cuffs and a little more. */
export function separatorSize(
  layerWidthM: number,
  coreM: number,
  extensionM: number,
  lipM = 0.0018,
  longerM = 0.005,
): SlotCell {
  return { widthM: layerWidthM + 2 * lipM, lengthM: coreM + 2 * extensionM + longerM };
}

/**
 * Boundaries between groups of unlike phase, walking round the bore and back to the start.
 * @param phases phase of each group in order round the bore
 */
export function phaseBoundaries(phases: readonly string[]): number {
  if (phases.length < 2) return 0;
  return phases.filter((p, i) => p !== phases[(i + 1) % phases.length]).length;
}

/** Phase paper pieces: two at each boundary, or one that spans both ends. */
export function phasePapers(phases: readonly string[], bothEndsInOne = false): number {
  return phaseBoundaries(phases) * (bothEndsInOne ? 1 : 2);
}

/**
 * Size of a phase paper: width π·(D + d)·(y + q − 1)/S + 2·margin, height overhang + margin (common practice).
 * @param overhangM end turns beyond the core, m
 */
export function phasePaperSize(x: {
  boreM: number;
  slotDepthM: number;
  spanSlots: number;
  coilsPerGroup: number;
  slots: number;
  sideMarginM: number;
  overhangM: number;
  topMarginM: number;
}): { widthM: number; heightM: number } {
  const { boreM, slotDepthM, spanSlots, coilsPerGroup, slots } = x;
  return {
    widthM: (Math.PI * (boreM + slotDepthM) * (spanSlots + coilsPerGroup - 1)) / slots + 2 * x.sideMarginM,
    heightM: x.overhangM + x.topMarginM,
  };
}
