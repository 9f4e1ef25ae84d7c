/** Straight part, slant and nose taken when nobody measured them (common practice). */
export const DEFAULT_END_TURN = { straightM: 0.012, slantDeg: 35, noseM: 0.02 } as const;
/** The shortest straight part that a coil leaves its core by, m (common practice). */
export const LEAST_STRAIGHT_M = 0.005;

const DEG = Math.PI / 180;

/** Arc of a span at mid-slot depth, m: π(D + h_s) y/S; inside out, slots open outwards: π(D_a − h_s) y/S. */
export const chordM = (boreM: number, slotDepthM: number, spanSlots: number, slots: number): number =>
  (Math.PI * (boreM + slotDepthM) * spanSlots) / slots;

/** One end turn of a coil. */
export interface EndTurn {
  /** conductor in this end, m */
  lengthM: number;
  /** straight part leaving the core, m */
  straightM: number;
  /** slant to the circumference, degrees; 0 where the end is round */
  slantDeg: number;
  /** how far it stands beyond the core, m */
  projectionM: number;
}

interface Allowances {
  straightM: number;
  slantDeg: number;
  noseM: number;
}

/** End of a diamond coil from what is assumed: 2x + τ_c/cos φ + n_l. */
export function assumedLapEnd(tauM: number, a: Allowances = DEFAULT_END_TURN): EndTurn {
  return {
    lengthM: 2 * a.straightM + tauM / Math.cos(a.slantDeg * DEG) + a.noseM,
    straightM: a.straightM,
    slantDeg: a.slantDeg,
    projectionM: a.straightM + (tauM / 2) * Math.tan(a.slantDeg * DEG) + a.noseM / 2,
  };
}

/**
 * End of a diamond coil from its measured projection X: x = X − (τ_c/2) tan φ − n_l/2, and where that is under the least straight part
 * the slant gives way. Undefined where no coil can stand so short. Source: derived (docs/derivations.md, measured projection).
 */
export function measuredLapEnd(
  projectionM: number,
  tauM: number,
  a: Allowances = DEFAULT_END_TURN,
): EndTurn | undefined {
  const room = projectionM - a.noseM / 2;
  let straightM = room - (tauM / 2) * Math.tan(a.slantDeg * DEG);
  let slant = a.slantDeg * DEG;
  if (straightM < LEAST_STRAIGHT_M) {
    if (room <= LEAST_STRAIGHT_M) return undefined;
    straightM = LEAST_STRAIGHT_M;
    slant = Math.atan((room - LEAST_STRAIGHT_M) / (tauM / 2));
  }
  return { lengthM: 2 * straightM + tauM / Math.cos(slant) + a.noseM, straightM, slantDeg: slant / DEG, projectionM };
}

/** Half an ellipse by Ramanujan's second formula: π(a + b)(1 + 3h/(10 + √(4 − 3h)))/2, h = ((a − b)/(a + b))². */
export function halfEllipseM(a: number, b: number): number {
  const h = ((a - b) / (a + b)) ** 2;
  return (Math.PI * (a + b) * (1 + (3 * h) / (10 + Math.sqrt(4 - 3 * h)))) / 2;
}

/** Round end of a concentric coil from what is assumed: 2x and half a circle on its chord. */
export const assumedRoundEnd = (tauM: number, straightM: number): EndTurn => ({
  lengthM: 2 * straightM + (Math.PI * tauM) / 2,
  straightM,
  slantDeg: 0,
  projectionM: straightM + tauM / 2,
});

/**
 * Round end of a concentric coil from the measured projection X of the outermost of its group: the inner ones stand back by half the
 * difference of the chords; where the half circle does not fit it is pressed to half an ellipse. Undefined where it cannot be.
 */
export function measuredRoundEnd(projectionM: number, tauM: number, outerTauM: number): EndTurn | undefined {
  const own = projectionM - (outerTauM - tauM) / 2;
  if (own <= LEAST_STRAIGHT_M) return undefined;
  if (own >= LEAST_STRAIGHT_M + tauM / 2) return assumedRoundEnd(tauM, own - tauM / 2);
  return {
    lengthM: 2 * LEAST_STRAIGHT_M + halfEllipseM(tauM / 2, own - LEAST_STRAIGHT_M),
    straightM: LEAST_STRAIGHT_M,
    slantDeg: 0,
    projectionM: own,
  };
}

/** Both ends of a coil: measured where a projection is given and can be, else assumed. */
export function endsOf(x: {
  form: 'lap' | 'concentric';
  tauM: number;
  outerTauM: number;
  projectionsM: readonly (number | undefined)[];
  allowances?: Allowances;
}): { ends: readonly [EndTurn, EndTurn]; measured: boolean } {
  const a = x.allowances ?? DEFAULT_END_TURN;
  let measured = false;
  const one = (projection: number | undefined): EndTurn => {
    const made =
      projection === undefined
        ? undefined
        : x.form === 'lap'
          ? measuredLapEnd(projection, x.tauM, a)
          : measuredRoundEnd(projection, x.tauM, x.outerTauM);
    if (made) measured = true;
    return made ?? (x.form === 'lap' ? assumedLapEnd(x.tauM, a) : assumedRoundEnd(x.tauM, a.straightM));
  };
  const ends = [one(x.projectionsM[0]), one(x.projectionsM[1])] as const;
  return { ends, measured };
}
