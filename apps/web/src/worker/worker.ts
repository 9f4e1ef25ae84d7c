import { calculationOf, readTraceCsv, runCalculation, type CalculationResult, type TraceReading } from '@norther/core';
import { expose } from 'comlink';

/** A thin door to the core, away from the page's own thread. */
const door = {
  run(id: string, input: unknown): CalculationResult {
    const calculation = calculationOf(id);
    if (!calculation) throw new Error(`There is no calculation ${id}.`);
    return runCalculation(calculation, input);
  },
  readTrace(csv: string, unit?: '°C' | '°F'): TraceReading {
    return readTraceCsv(csv, unit ? { unit } : {});
  },
};
export type CoreDoor = typeof door;
expose(door);
