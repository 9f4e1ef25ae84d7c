import { polar, sizeOf, subtract, type Complex } from '../winding/complex.ts';

/** Where material can be taken away or added in any amount up to a cap: a share to the two nearest free places, the rest further out. */
export function spread(
  wanted: Complex,
  places: readonly { angleDeg: number; mostGMm: number }[],
): { gMm: number[]; left: Complex } {
  const gMm = places.map(() => 0);
  let left = wanted;
  const whole = sizeOf(wanted);
  const full = new Set(places.flatMap((p, i) => (p.mostGMm <= 0 ? [i] : [])));
  for (let round = 0; round < 4 * places.length && sizeOf(left) > 1e-9 * Math.max(1, whole); round++) {
    const at = (Math.atan2(left.im, left.re) * 180) / Math.PI;
    const turn = (a: number) => ((((a - at) % 360) + 540) % 360) - 180;
    const free = places.map((p, i) => ({ i, off: turn(p.angleDeg) })).filter(({ i }) => !full.has(i));
    const before = free.filter((f) => f.off <= 0 && f.off > -90).sort((a, b) => b.off - a.off)[0];
    const after = free.filter((f) => f.off > 0 && f.off < 90).sort((a, b) => a.off - b.off)[0];
    const near = (before && before.off > -1e-9 ? [before] : [before, after]).filter((f) => f !== undefined);
    const [one, two] = near;
    if (!one) break;
    const size = sizeOf(left);
    const sin = (deg: number) => Math.sin((deg * Math.PI) / 180);
    const parts = two
      ? [(size * sin(two.off)) / sin(two.off - one.off), (size * sin(-one.off)) / sin(two.off - one.off)]
      : [size * Math.cos((one.off * Math.PI) / 180)];
    near.forEach(({ i }, k) => {
      const place = places[i];
      const room = (place?.mostGMm ?? 0) - (gMm[i] ?? 0);
      const put = Math.min(room, parts[k] ?? 0);
      if (put >= room - 1e-12) full.add(i);
      gMm[i] = (gMm[i] ?? 0) + put;
      left = subtract(left, polar(put, place?.angleDeg ?? 0));
    });
    // one place alone leaves what it cannot reach
    if (near.length === 1 && !full.has(near[0]?.i ?? -1)) break;
  }
  return { gMm, left };
}
