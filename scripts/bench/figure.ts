export interface Figure {
  name: string;
  value: string;
  ratio: number;
  must: string;
  holds: boolean;
}

/** Median of repeated runs after a warm-up, in milliseconds. */
export function median(work: () => void, runs = 201): number {
  for (let i = 0; i < 200; i++) work();
  const times: number[] = [];
  for (let i = 0; i < runs; i++) {
    const start = performance.now();
    work();
    times.push(performance.now() - start);
  }
  times.sort((a, b) => a - b);
  return times[Math.floor(runs / 2)] ?? 0;
}

export function show(figures: readonly Figure[]): boolean {
  for (const f of figures)
    process.stdout.write(
      `${f.holds ? 'holds' : 'FAILS'}  ${f.name}: ${f.value}; ratio ${f.ratio.toFixed(2)} (${f.must})\n`,
    );
  return figures.every((f) => f.holds);
}
