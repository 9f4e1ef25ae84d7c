import {
  calculationOf,
  readTraceCsv,
  redesignSteps,
  runCalculation,
  sentenceOfIssue,
  windingRedesign,
  type CalculationResult,
  type Candidate,
  type RedesignResult,
  type TraceReading,
} from '@norther/core';
import { expose } from 'comlink';

export interface SearchShown {
  done: number;
  total: number;
  best: Candidate[];
}

/** How long the search works before it looks up, ms. */
const LOOK_UP_MS = 25;
let search = 0;

/** A thin door to the core, away from the page's own thread. */
const door = {
  run(id: string, input: unknown): CalculationResult {
    const calculation = calculationOf(id);
    if (!calculation) throw new Error(`There is no calculation ${id}.`);
    return runCalculation(calculation, input);
  },
  /** A search of a worked example: the code that the first search needs is then translated already. */
  warm(): void {
    windingRedesign.compute(windingRedesign.input.parse(windingRedesign.example));
  },
  readTrace(csv: string, unit?: '°C' | '°F'): TraceReading {
    return readTraceCsv(csv, unit ? { unit } : {});
  },
  /** The search for a changed rewind, shown while it works. A later search or `stopSearch` ends it: undefined. */
  async redesign(input: unknown, show: (p: SearchShown) => void): Promise<RedesignResult | undefined> {
    const mine = ++search;
    const read = windingRedesign.input.safeParse(input);
    if (!read.success) {
      const [issue] = read.error.issues;
      throw new Error(
        issue ? `${issue.path.slice(1).join(' ')}: ${sentenceOfIssue(issue)}` : 'This cannot be searched.',
      );
    }
    const { record, nameplate, wish, stock, weights, limits, many } = read.data;
    const steps = redesignSteps(record, nameplate, wish, stock, { weights, limits, many });
    show({ done: 0, total: 1, best: [] });
    let looked = performance.now();
    for (;;) {
      const step = steps.next();
      if (step.done) return step.value;
      if (performance.now() - looked < LOOK_UP_MS) continue;
      show({ done: step.value.done, total: step.value.total, best: step.value.best() });
      await new Promise((resolve) => setTimeout(resolve));
      if (search !== mine) return undefined;
      looked = performance.now();
    }
  },
  stopSearch(): void {
    search += 1;
  },
};
export type CoreDoor = typeof door;
expose(door);
