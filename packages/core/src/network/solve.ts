/** Solves a·x = b for several right sides by elimination with row pivoting; rows that say nothing give 0. Sizes: n × n, n × m. */
export function solve(a: readonly ArrayLike<number>[], b: readonly ArrayLike<number>[]): number[][] {
  const n = a.length;
  const m = b[0]?.length ?? 0;
  let scale = 1e-300;
  const w: Float64Array[] = a.map((row, i) => {
    const made = new Float64Array(n + m);
    made.set(row);
    made.set(b[i] ?? [], n);
    for (let j = 0; j < n; j++) scale = Math.max(scale, Math.abs(made[j] as number));
    return made;
  });
  const where: number[] = new Array<number>(n).fill(-1);
  let rank = 0;
  for (let col = 0; col < n && rank < n; col++) {
    let best = rank;
    for (let r = rank + 1; r < n; r++)
      if (Math.abs((w[r] as Float64Array)[col] ?? 0) > Math.abs((w[best] as Float64Array)[col] ?? 0)) best = r;
    const pivot = (w[best] as Float64Array)[col] ?? 0;
    if (Math.abs(pivot) < 1e-11 * scale) continue;
    [w[rank], w[best]] = [w[best] as Float64Array, w[rank] as Float64Array];
    const top = w[rank] as Float64Array;
    for (let r = 0; r < n; r++) {
      if (r === rank) continue;
      const row = w[r] as Float64Array;
      const k = (row[col] ?? 0) / pivot;
      if (k === 0) continue;
      for (let c = col; c < n + m; c++) row[c] = (row[c] as number) - k * (top[c] as number);
    }
    where[col] = rank;
    rank += 1;
  }
  return Array.from({ length: n }, (_, col) => {
    const at = where[col] ?? -1;
    if (at < 0) return new Array<number>(m).fill(0);
    const row = w[at] as Float64Array;
    const pivot = row[col] as number;
    const out = new Array<number>(m);
    for (let j = 0; j < m; j++) out[j] = (row[n + j] as number) / pivot;
    return out;
  });
}

/** Inverse of a square matrix. */
export function inverse(a: readonly (readonly number[])[]): number[][] {
  return solve(
    a,
    a.map((_, i) => a.map((__, j) => (i === j ? 1 : 0))),
  );
}

/**
 * Generalized inverse of a symmetric matrix without negative eigenvalues, by sweeping its diagonal: rows and columns that say
 * nothing more are 0, so a·x·a = a.
 * @param a n × n, row after row; it is written over
 */
export function symmetricInverse(a: Float64Array, n: number): Float64Array {
  const nothing = Float64Array.from({ length: n }, (_, k) => 1e-11 * (a[k * n + k] as number));
  const said = new Uint8Array(n);
  const column = new Float64Array(n);
  for (let k = 0; k < n; k++) {
    const d = a[k * n + k] as number;
    if (!(d > (nothing[k] as number))) continue;
    said[k] = 1;
    // the lower half only
    for (let i = 0; i < n; i++) column[i] = (i >= k ? a[i * n + k] : a[k * n + i]) as number;
    for (let i = 0; i < n; i++) {
      if (i === k) continue;
      const x = (column[i] as number) / d;
      if (x !== 0) for (let j = 0, at = i * n; j <= i; j++, at++) a[at] = (a[at] as number) - x * (column[j] as number);
    }
    for (let i = 0; i < n; i++) a[i >= k ? i * n + k : k * n + i] = (column[i] as number) / d;
    a[k * n + k] = -1 / d;
  }
  for (let i = 0; i < n; i++)
    for (let j = 0; j <= i; j++) {
      const x = said[i] && said[j] ? -(a[i * n + j] as number) : 0;
      a[i * n + j] = x;
      a[j * n + i] = x;
    }
  return a;
}
