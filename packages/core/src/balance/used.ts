import type { BalanceEntry, FixedMass } from './entries.ts';
import type { BalancePlane, BalanceSetUp } from './setUp.ts';
import type { Place } from './split.ts';
import type { Heavy } from './stand.ts';
import { unbalanceOfDepth } from './depthTaken.ts';

const turned = (deg: number): number => ((deg % 360) + 360) % 360;
/** How far two angles are apart, 0 to 180. */
export const apartDeg = (a: number, b: number): number => {
  const d = turned(a - b);
  return Math.min(d, 360 - d);
};
/** Two angles of one place. */
const SAME_DEG = 0.05;

/** Masses that sit in each plane now: those of one place together, what was taken out again gone. */
export function massesAt(setUp: BalanceSetUp, entries: readonly BalanceEntry[]): FixedMass[][] {
  return setUp.planes.map((_, i) => {
    const out: FixedMass[] = [];
    for (const e of entries)
      if (e.kind === 'correction')
        for (const m of e.masses) {
          if (m.plane !== i + 1) continue;
          const there = out.find((o) => apartDeg(o.angleDeg, m.angleDeg) < SAME_DEG && o.radiusMm === m.radiusMm);
          if (there) there.massG += m.massG;
          else out.push({ ...m });
        }
    return out.filter((m) => Math.abs(m.massG) > 1e-6);
  });
}

/** Every mass that entries left in a rotor, where it sits along the shaft: corrections, and trials that stayed in. */
export function massesAlong(setUp: BalanceSetUp, entries: readonly BalanceEntry[]): Heavy[] {
  const at = (plane: number) => setUp.planes[plane - 1]?.xMm ?? 0;
  return entries.flatMap((e): Heavy[] => {
    if (e.kind === 'correction')
      return e.masses.map((m) => ({ xMm: at(m.plane), gMm: m.massG * m.radiusMm, angleDeg: m.angleDeg }));
    return e.kind === 'trial' && e.staysIn ? [{ xMm: at(e.plane), gMm: e.gMm, angleDeg: e.angleDeg }] : [];
  });
}

/** Mass at the radius of a plane that a hole, flat or slot of a depth takes there, g below zero: less what it took before. */
export function massOfDepth(p: BalancePlane, depthMm: number, atDeg: number, there: readonly FixedMass[]): number {
  const before = there.filter((m) => apartDeg(m.angleDeg, atDeg) < SAME_DEG);
  return -(unbalanceOfDepth(p, depthMm) / p.radiusMm + before.reduce((s, m) => s + m.massG, 0));
}

/** Whether an angle lies where nothing may be fixed or taken. */
export const isForbidden = (p: BalancePlane, deg: number): boolean =>
  p.forbidden.some(({ fromDeg, toDeg }) => {
    const wide = turned(toDeg - fromDeg);
    const at = turned(deg - fromDeg);
    return at > 1e-9 && at < wide - 1e-9;
  });

/** Half of the angle that a hole, flat or slot takes up at its radius, with as much again left beside it. */
export function toolHalfDeg(p: BalancePlane): number {
  const wide = p.way === 'drill' ? (p.drillMm ?? 8) : p.way === 'mill tooth tops' ? (p.widthMm ?? 3) : p.radiusMm / 2;
  return (Math.min(1, wide / p.radiusMm) * 180) / Math.PI;
}

/** Places of a plane that are free still, with their numbers; what sits there, or was taken there, has its share of the room. */
export function freePlaces(
  p: BalancePlane,
  there: readonly FixedMass[] = [],
): (Place & { number: number; takenGMm: number })[] {
  return Array.from({ length: p.places }, (_, i) => ({
    number: i + 1,
    angleDeg: turned(p.firstDeg + (360 * i) / p.places),
    radiusMm: p.radiusMm,
    takenGMm: 0,
  }))
    .filter((x) => !p.taken.includes(x.number) && !isForbidden(p, x.angleDeg))
    .flatMap((x) => {
      const at = there.filter((m) => apartDeg(m.angleDeg, x.angleDeg) < SAME_DEG);
      // a hole may be drilled deeper, up to its limit
      if (p.way !== 'add') return [{ ...x, takenGMm: Math.max(0, -at.reduce((s, m) => s + m.massG * m.radiusMm, 0)) }];
      if (p.mostG === undefined) return [x];
      const room = p.mostG - at.reduce((s, m) => s + m.massG, 0);
      return room > 1e-9 ? [{ ...x, mostG: room }] : [];
    });
}

/** Masses of one plane without places stand at least so far apart. */
const BESIDE_DEG = 10;

/** Angles where a wanted vector can be worked off on a rotor without places: there and beside it, off what is forbidden or used. */
export function freeAngles(p: BalancePlane, atDeg: number, there: readonly FixedMass[] = []): number[] {
  const half = toolHalfDeg(p);
  const used = p.way === 'add' ? [] : there.filter((m) => m.massG < 0).map((m) => m.angleDeg);
  const ok = (deg: number) => !isForbidden(p, deg) && used.every((u) => apartDeg(u, deg) > 2 * half - 1e-9);
  const at = turned(atDeg);
  // the angle itself; where it is barred, the nearest free ones on both sides
  const outwards = (way: 1 | -1): number | undefined => {
    const edges = [
      ...p.forbidden.flatMap((f) => [f.fromDeg, f.toDeg]),
      ...used.flatMap((u) => [u - 2 * half, u + 2 * half]),
    ].map((e) => turned(way * (e - at)));
    const near = edges.sort((a, b) => a - b).find((e) => ok(at + way * e));
    return near === undefined ? undefined : turned(at + way * near);
  };
  const sides = (step: number) => [turned(at - step), turned(at + step)].filter(ok);
  if (ok(at))
    return [
      at,
      ...(p.way === 'add' && p.mostG === undefined
        ? []
        : sides(p.way === 'add' ? BESIDE_DEG : Math.max(BESIDE_DEG, 2 * half))),
    ];
  return [outwards(-1), outwards(1)].filter((x): x is number => x !== undefined);
}
