import { formatNumber } from '../quantity/format.ts';
import { add, polar, scale, sizeOf, subtract, type Complex } from '../winding/complex.ts';
import { ZERO, type BalanceEntry, type FixedMass } from './entries.ts';
import { correctionsFor, predicted, type Influence } from './influence.ts';
import { drillDepth, flatDepth, toothDepth } from './material.ts';
import { atBearings, vectorOf, type Planes, type Vector } from './planes.ts';
import type { BalancePlane, BalanceSetUp, BalanceTolerance } from './setUp.ts';
import { splitLadder, type Bearings } from './split.ts';
import { spread } from './spread.ts';
import { freeAngles, freePlaces } from './used.ts';

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
export interface Step {
  next: PlaneStep[];
  /** of the tolerance, at the worse bearing */
  expected: number;
  /** at bearing A and B */
  expectedGMm: number[];
}
/** How deep it may go in a plane: as was stated, at most half of the material that lies under it, and a wall stays. Common practice. */
export const deepestOf = (p: BalancePlane, wallMm: number): number =>
  Math.max(
    0,
    Math.min(
      p.mostDepthMm ?? p.radiusMm,
      p.thickMm === undefined ? Infinity : Math.min(p.thickMm / 2, p.thickMm - wallMm),
    ),
  );
/** How deep for an unbalance, where material is taken away. */
export function depthFor(p: BalancePlane, gMm: number, most: number = deepestOf(p, 0)): number | undefined {
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

/** What to do next in each plane, on the places that there are; what is expected to stay of the tolerance, and at each bearing. */
export function nextStep(
  setUp: BalanceSetUp,
  heavy: readonly Complex[],
  tolerance: BalanceTolerance,
  geometry: Planes,
  rules: { enough: number; wallMm: number },
  there: readonly (readonly FixedMass[])[] = [],
): Step {
  const bearings = { felt: feltBy(geometry), allowedGMm: [...tolerance.sharesGMm] };
  const wanted = heavy.map((z) => scale(z, -1));
  const stocked = setUp.stockG.length > 0 && setUp.planes.every((p) => p.way === 'add' && p.places > 0);
  const steps: PlaneStep[] = [];
  const left: Complex[] = [];
  if (stocked) {
    const of = setUp.planes.map((p, i) => freePlaces(p, there[i]));
    const { steps: ladder, chosen } = splitLadder(
      setUp.planes.map((_, i) => ({ wanted: wanted[i] ?? ZERO, places: of[i] ?? [], stockG: setUp.stockG })),
      bearings,
      rules.enough,
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
      steps.push(planeStep(setUp, i + 1, wanted[i] ?? ZERO, masses));
    });
    return stepOf(steps, bearings, left);
  }
  setUp.planes.forEach((p, i) => {
    const add1 = wanted[i] ?? ZERO;
    // material is taken away on the heavy side
    const at = p.way === 'add' ? add1 : scale(add1, -1);
    const deepest = deepestOf(p, rules.wallMm);
    const whole = p.way === 'add' ? (p.mostG ?? Infinity) * p.radiusMm : mostBy(p, deepest);
    const free: { number: number | undefined; angleDeg: number; mostG?: number; takenGMm: number }[] =
      p.places > 0
        ? freePlaces(p, there[i])
        : freeAngles(p, vectorOf(at).angleDeg, there[i]).map((angleDeg) => ({
            number: undefined,
            angleDeg,
            takenGMm: 0,
          }));
    const { gMm, left: rest } = spread(
      at,
      free.map((f) => ({
        angleDeg: f.angleDeg,
        mostGMm: Math.min(f.mostG === undefined ? Math.max(0, whole - f.takenGMm) : f.mostG * p.radiusMm, 1e12),
      })),
    );
    const masses = free.flatMap((f, k) => {
      const g = gMm[k] ?? 0;
      return g > 1e-9
        ? [
            {
              place: f.number,
              angleDeg: f.angleDeg,
              massG: g / p.radiusMm,
              depthMm: depthFor(p, g + f.takenGMm, deepest),
              gMm: g,
            },
          ]
        : [];
    });
    left.push(p.way === 'add' ? rest : scale(rest, -1));
    steps.push(planeStep(setUp, i + 1, add1, masses));
  });
  return stepOf(steps, bearings, left);
}
const stepOf = (next: PlaneStep[], bearings: Bearings, left: readonly Complex[]): Step => ({
  next,
  expected: shareOf(bearings, left),
  expectedGMm: leftAt(bearings, left),
});
/** The most unbalance that one place gives, g·mm, where its depth is limited. */
export function mostBy(p: BalancePlane, deepest: number): number {
  if (p.mostDepthMm === undefined && p.thickMm === undefined) return 1e12;
  let [low, high] = [0, 1e7];
  for (let i = 0; i < 100; i++) {
    const mid = (low + high) / 2;
    if (depthFor(p, mid, deepest) === undefined) high = mid;
    else low = mid;
  }
  return low;
}
/** What is left at each bearing, g·mm. */
export const leftAt = (b: Bearings, left: readonly Complex[]): number[] =>
  b.felt.map((row) => sizeOf(row.reduce<Complex>((s, k, plane) => add(s, scale(left[plane] ?? ZERO, k)), ZERO)));
export const shareOf = (b: Bearings, left: readonly Complex[]): number =>
  Math.max(...leftAt(b, left).map((gMm, i) => gMm / (b.allowedGMm[i] ?? Infinity)));

const inWords = (all: readonly string[]): string =>
  all.length < 2 ? all.join('') : `${all.slice(0, -1).join(', ')} and ${all.at(-1)}`;

/** Which end of the rotor a plane stands at, in words. */
export const planeSide = (setUp: BalanceSetUp, plane: number): string =>
  setUp.planes.length === 1 ? '' : (plane === 1) === (setUp.driveEnd === 'A') ? ' (drive side)' : ' (other side)';

export function planeStep(setUp: BalanceSetUp, plane: number, wanted: Complex, masses: PlaneStep['masses']): PlaneStep {
  const p = setUp.planes[plane - 1] as BalancePlane;
  const removes = p.way !== 'add';
  const at = vectorOf(removes ? scale(wanted, -1) : wanted).angleDeg;
  const where = (m: PlaneStep['masses'][number]) =>
    m.place === undefined
      ? `at ${formatNumber(m.angleDeg, 4)}°`
      : `at ${p.called} ${m.place} (${formatNumber(m.angleDeg, 4)}°)`;
  const over =
    p.way === 'mill a flat' || p.way === 'mill tooth tops' ? ` over ${formatNumber(p.lengthMm ?? 20, 3)} mm` : '';
  const what = (m: PlaneStep['masses'][number]) =>
    removes
      ? `${m.depthMm === undefined ? 'deeper than is allowed' : `${formatNumber(m.depthMm, 3)} mm deep`}${over} ${where(m)}`
      : `${formatNumber(m.massG, 4)} g ${where(m)}`;
  const verb = {
    add: 'fix',
    drill: `drill ${formatNumber(p.drillMm ?? 8, 3)} mm`,
    'mill a flat': 'mill a flat',
    'mill tooth tops': 'mill',
  }[p.way];
  return {
    plane,
    wanted: vectorOf(wanted),
    atDeg: at,
    masses,
    says:
      masses.length === 0
        ? `Plane ${plane}${planeSide(setUp, plane)}: leave it as it is.`
        : `Plane ${plane}${planeSide(setUp, plane)}, radius ${formatNumber(p.radiusMm, 4)} mm: ${verb} ${inWords(masses.map(what))}, seen from the ${setUp.view}.`,
  };
}

/** A step that takes out the masses of the planes they were added to and fixes afresh; undefined where there is little to take out. */
export function mergedStep(
  setUp: BalanceSetUp,
  heavy: readonly Complex[],
  tolerance: BalanceTolerance,
  geometry: Planes,
  rules: { enough: number; wallMm: number },
  there: readonly (readonly FixedMass[])[],
): (Step & { out: FixedMass[] }) | undefined {
  const old = setUp.planes.map((p, i) => (p.way === 'add' ? (there[i] ?? []).filter((m) => m.massG > 0) : []));
  if (old.every((m) => m.length < 2)) return undefined;
  const bare = heavy.map((z, i) =>
    subtract(
      z,
      (old[i] ?? []).reduce<Complex>((s, m) => add(s, polar(m.massG * m.radiusMm, m.angleDeg)), ZERO),
    ),
  );
  return {
    ...nextStep(
      setUp,
      bare,
      tolerance,
      geometry,
      rules,
      there.map((m, i) => m.filter((x) => !(old[i] ?? []).includes(x))),
    ),
    out: old.flat(),
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
): { expected: number; expectedGMm: number[] } {
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
  const bearings = { felt: feltBy(geometry), allowedGMm: tolerance.sharesGMm };
  const signed = left.map((z) => subtract(ZERO, z));
  return { expected: shareOf(bearings, signed), expectedGMm: leftAt(bearings, signed) };
}
