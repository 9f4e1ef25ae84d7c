import { formatNumber } from '../quantity/format.ts';
import { add, polar, scale, sizeOf, subtract, type Complex } from '../winding/complex.ts';
import { ZERO, type BalanceEntry } from './entries.ts';
import { correctionsFor, predicted, type Influence } from './influence.ts';
import { drillDepth, flatDepth, toothDepth } from './material.ts';
import { atBearings, vectorOf, type Planes, type Vector } from './planes.ts';
import type { BalancePlane, BalanceSetUp, BalanceTolerance } from './setUp.ts';
import { splitLadder, spread, type Place } from './split.ts';

/** What is to be fixed or taken away in one plane, in words and as figures. */
export interface PlaneStep {
  plane: number;
  /** to add, g·mm */
  wanted: Vector;
  /** where to do it: opposite the wanted vector where material is taken away */
  atDeg: number;
  masses: { place: number | undefined; angleDeg: number; massG: number; depthMm: number | undefined; gMm: number }[];
  says: string;
}
/** Places of a plane that are free, with their numbers. */
export function freePlaces(p: BalancePlane): (Place & { number: number })[] {
  return Array.from({ length: p.places }, (_, i) => ({
    number: i + 1,
    angleDeg: (((p.firstDeg + (360 * i) / p.places) % 360) + 360) % 360,
    radiusMm: p.radiusMm,
    ...(p.mostG === undefined ? {} : { mostG: p.mostG }),
  })).filter((x) => !p.taken.includes(x.number));
}
/** How deep for an unbalance, where material is taken away. */
export function depthFor(p: BalancePlane, gMm: number): number | undefined {
  const most = p.mostDepthMm ?? p.radiusMm;
  switch (p.way) {
    case 'add':
      return undefined;
    case 'drill':
      return drillDepth({ diameterMm: p.drillMm ?? 8, radiusMm: p.radiusMm }, gMm, most);
    case 'mill a flat':
      return flatDepth({ radiusMm: p.radiusMm, lengthMm: p.lengthMm ?? 20 }, gMm, most);
    case 'mill tooth tops':
      return toothDepth({ radiusMm: p.radiusMm, lengthMm: p.lengthMm ?? 20, widthMm: p.widthMm ?? 3 }, gMm, most);
  }
}
export const feltBy = (g: Planes): number[][] => {
  const unit = (k: number) => g.planesMm.map((_, i): Complex => (i === k ? { re: 1, im: 0 } : ZERO));
  const columns = g.planesMm.map((_, k) => atBearings(g, unit(k)).map((z) => z.re));
  return [0, 1].map((i) => columns.map((c) => c[i] ?? 0));
};

/** What to do next in each plane, on the places that there are; and what share of the tolerance is expected to stay. */
export function nextStep(
  setUp: BalanceSetUp,
  heavy: readonly Complex[],
  tolerance: BalanceTolerance,
  geometry: Planes,
  enough: number,
): { next: PlaneStep[]; expected: number } {
  const bearings = { felt: feltBy(geometry), allowedGMm: [...tolerance.sharesGMm] };
  const wanted = heavy.map((z) => scale(z, -1));
  const stocked = setUp.stockG.length > 0 && setUp.planes.every((p) => p.way === 'add' && p.places > 0);
  const steps: PlaneStep[] = [];
  const left: Complex[] = [];
  if (stocked) {
    const of = setUp.planes.map((p) => freePlaces(p));
    const { steps: ladder, chosen } = splitLadder(
      setUp.planes.map((_, i) => ({ wanted: wanted[i] ?? ZERO, places: of[i] ?? [], stockG: setUp.stockG })),
      bearings,
      enough,
    );
    const split = ladder[chosen];
    setUp.planes.forEach((p, i) => {
      const masses = (split?.fixed[i] ?? []).map((f) => {
        const place = of[i]?.[f.place];
        return {
          place: place?.number,
          angleDeg: place?.angleDeg ?? 0,
          massG: f.massG,
          depthMm: undefined,
          gMm: f.massG * p.radiusMm,
        };
      });
      left.push(split?.left[i] ?? wanted[i] ?? ZERO);
      steps.push(planeStep(i + 1, p, wanted[i] ?? ZERO, masses));
    });
    return { next: steps, expected: split?.worst ?? shareOf(bearings, left) };
  }
  setUp.planes.forEach((p, i) => {
    const add1 = wanted[i] ?? ZERO;
    // material is taken away on the heavy side
    const at = p.way === 'add' ? add1 : scale(add1, -1);
    const cap = p.way === 'add' ? (p.mostG ?? Infinity) * p.radiusMm : mostBy(p);
    const free =
      p.places > 0 ? freePlaces(p) : [{ number: undefined, angleDeg: vectorOf(at).angleDeg, radiusMm: p.radiusMm }];
    const { gMm, left: rest } = spread(
      at,
      free.map((f) => ({ angleDeg: f.angleDeg, mostGMm: Math.min(cap, 1e12) })),
    );
    const masses = free.flatMap((f, k) => {
      const g = gMm[k] ?? 0;
      return g > 1e-9
        ? [{ place: f.number, angleDeg: f.angleDeg, massG: g / p.radiusMm, depthMm: depthFor(p, g), gMm: g }]
        : [];
    });
    left.push(p.way === 'add' ? rest : scale(rest, -1));
    steps.push(planeStep(i + 1, p, add1, masses));
  });
  return { next: steps, expected: shareOf(bearings, left) };
}
/** The most unbalance that one place gives, g·mm, where its depth is limited. */
export function mostBy(p: BalancePlane): number {
  if (p.mostDepthMm === undefined) return 1e12;
  let [low, high] = [0, 1e7];
  for (let i = 0; i < 100; i++) {
    const mid = (low + high) / 2;
    if (depthFor(p, mid) === undefined) high = mid;
    else low = mid;
  }
  return low;
}
export const shareOf = (
  b: { felt: readonly (readonly number[])[]; allowedGMm: readonly number[] },
  left: readonly Complex[],
): number =>
  Math.max(
    ...b.felt.map(
      (row, i) =>
        sizeOf(row.reduce<Complex>((s, k, plane) => add(s, scale(left[plane] ?? ZERO, k)), ZERO)) /
        (b.allowedGMm[i] ?? Infinity),
    ),
  );

const inWords = (all: readonly string[]): string =>
  all.length < 2 ? all.join('') : `${all.slice(0, -1).join(', ')} and ${all.at(-1)}`;

export function planeStep(plane: number, p: BalancePlane, wanted: Complex, masses: PlaneStep['masses']): PlaneStep {
  const removes = p.way !== 'add';
  const at = vectorOf(removes ? scale(wanted, -1) : wanted).angleDeg;
  const where = (m: PlaneStep['masses'][number]) =>
    m.place === undefined
      ? `at ${formatNumber(m.angleDeg, 4)}°`
      : `at place ${m.place} (${formatNumber(m.angleDeg, 4)}°)`;
  const what = (m: PlaneStep['masses'][number]) =>
    removes
      ? `${m.depthMm === undefined ? 'deeper than is allowed' : `${formatNumber(m.depthMm, 3)} mm deep`} ${where(m)}`
      : `${formatNumber(m.massG, 4)} g ${where(m)}`;
  const verb = { add: 'fix', drill: 'drill', 'mill a flat': 'mill a flat', 'mill tooth tops': 'mill' }[p.way];
  return {
    plane,
    wanted: vectorOf(wanted),
    atDeg: at,
    masses,
    says:
      masses.length === 0
        ? `Plane ${plane}: leave it as it is.`
        : `Plane ${plane}, radius ${formatNumber(p.radiusMm, 4)} mm: ${verb} ${inWords(masses.map(what))}.`,
  };
}

/** What share of the tolerance the masses as they were fixed are expected to leave. */
export function expectedAfter(
  setUp: BalanceSetUp,
  entries: readonly BalanceEntry[],
  influence: Influence,
  heavy: readonly Complex[],
  tolerance: BalanceTolerance,
  geometry: Planes,
): number {
  const from = entries.findLastIndex((e) => e.kind === 'run' || e.kind === 'trial');
  const fixed = setUp.planes.map((_, i) =>
    entries
      .slice(from + 1)
      .flatMap((e) => (e.kind === 'correction' ? e.masses : []))
      .filter((m) => m.plane === i + 1)
      .reduce<Complex>((s, m) => add(s, polar(m.massG * m.radiusMm, m.angleDeg)), ZERO),
  );
  // by the influence, so that it is told as the next run will read
  const readings = predicted(
    influence,
    predicted(
      influence,
      influence.map(() => ZERO),
      [...heavy],
    ),
    fixed,
  );
  const left = (correctionsFor(influence, readings) ?? []).map((z) => scale(z, -1));
  return shareOf(
    { felt: feltBy(geometry), allowedGMm: tolerance.sharesGMm },
    left.map((z) => subtract(ZERO, z)),
  );
}
