/** A straight line through points by least squares: y = slope · x + intercept. */
export interface Line {
  slope: number;
  intercept: number;
  /** correlation coefficient, −1 to 1 */
  r: number;
}

/**
 * Least squares of y over x.
 * @returns undefined for fewer than two points, or where all x are one
 */
export function fitLine(x: readonly number[], y: readonly number[]): Line | undefined {
  const n = Math.min(x.length, y.length);
  if (n < 2) return undefined;
  const mean = (of: readonly number[]) => of.slice(0, n).reduce((sum, v) => sum + v, 0) / n;
  const [mx, my] = [mean(x), mean(y)];
  let [xx, xy, yy] = [0, 0, 0];
  for (let i = 0; i < n; i++) {
    const [dx, dy] = [(x[i] as number) - mx, (y[i] as number) - my];
    xx += dx * dx;
    xy += dx * dy;
    yy += dy * dy;
  }
  if (!(xx > 0)) return undefined;
  const slope = xy / xx;
  // where every y is one, a level line fits wholly
  return { slope, intercept: my - slope * mx, r: yy > 0 ? xy / Math.sqrt(xx * yy) : 1 };
}
