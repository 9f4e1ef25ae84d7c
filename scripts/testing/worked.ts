import { expect } from 'vitest';
import { runCalculation, type Calculation, type WorkingStep } from '../../packages/core/src/calculation.ts';

const RAISED: Record<string, number> = { '²': 2, '³': 3 };
const FUNCTIONS: Record<string, (x: number) => number> = {
  cos: Math.cos,
  sin: Math.sin,
  tan: Math.tan,
  sqrt: Math.sqrt,
  '√': Math.sqrt,
};

/**
 * What the numbers of a working come to, reckoned from the printed text alone: + − · × / ^ ² ³ √ | | ( ) cos sin π °.
 * @returns undefined where the text is no plain arithmetic
 */
export function reckon(text: string): number | undefined {
  const tokens = text
    .replaceAll('\u202f', '')
    .replaceAll(/ mWb\b/g, ' · 0.001')
    .match(/\d+(?:\.\d+)?(?:e[+-]?\d+)?|cos|sin|tan|sqrt|[-+−·×*/^²³√|()π°]|\S/g);
  if (!tokens) return undefined;
  let at = 0;
  let failed = false;
  const fail = () => {
    failed = true;
    return Number.NaN;
  };
  const sum = (): number => {
    let value = product();
    while (!failed && /^[-+−]$/.test(tokens[at] ?? '')) value += (tokens[at++] === '+' ? 1 : -1) * product();
    return value;
  };
  const product = (): number => {
    let value = power();
    // a number before a root, π, a bracket or a function is a factor: 2√2, 100 (a − b)
    while (!failed && /^([·×*/√π(]|cos|sin|tan|sqrt)$/.test(tokens[at] ?? '')) {
      const divided = tokens[at] === '/';
      if (/^[·×*/]$/.test(tokens[at] ?? '')) at += 1;
      const by = power();
      value = divided ? value / by : value * by;
    }
    return value;
  };
  const power = (): number => {
    let value = atom();
    for (;;) {
      const token = tokens[at] ?? '';
      if (token in RAISED) value = value ** (RAISED[token] ?? 1);
      else if (token === '°') value = (value * Math.PI) / 180;
      else if (token === '^') {
        at += 1;
        return value ** power();
      } else return value;
      at += 1;
    }
  };
  const closed = (end: string): number => {
    const value = sum();
    return tokens[at++] === end ? value : fail();
  };
  const atom = (): number => {
    const token = tokens[at++] ?? '';
    if (/^\d/.test(token)) return Number(token);
    if (token === '-' || token === '−') return -power();
    if (token === '(') return closed(')');
    if (token === '|') return Math.abs(closed('|'));
    if (token === 'π') return Math.PI;
    const f = FUNCTIONS[token];
    return f ? f(power()) : fail();
  };
  const value = sum();
  return failed || at < tokens.length ? undefined : value;
}

/** Powers of ten between the base units that are printed and the unit of the result. */
const powersOf = (unit: string): number[] =>
  unit === '%'
    ? [1, 100]
    : unit.startsWith('k')
      ? [1, 1e-3]
      : unit.startsWith('µ')
        ? [1, 1e3, 1e6]
        : /^m[A-Z]/.test(unit)
          ? [1, 1e3]
          : [1];

/** Whether a step's result is what its printed numbers come to, within what was rounded for print; undefined where it is no plain sum. */
export function stepHolds(step: WorkingStep, tolerance = 0.006): boolean | undefined {
  if (typeof step.value !== 'number') return undefined;
  const reckoned = reckon(step.numbers);
  if (reckoned === undefined) return undefined;
  const value = step.value;
  return powersOf(step.unit).some(
    (power) => Math.abs(power * reckoned - value) <= tolerance * Math.max(Math.abs(value), 1e-9),
  );
}

/**
 * Runs a calculation with and without its working: the same result, and every line of the working true by its own numbers.
 * @returns the values, and how many lines were reckoned again
 */
export function worked<C extends Calculation>(calculation: C, input: unknown, reckonedAtLeast = 0) {
  const { values, working } = runCalculation(calculation, input);
  expect(runCalculation(calculation, input, { working: 'none' }).values).toEqual(values);
  let reckoned = 0;
  for (const step of working) {
    const holds = stepHolds(step);
    if (holds !== undefined) reckoned += 1;
    expect(holds === false ? `${step.name}: ${step.numbers} is not ${step.value}` : '').toBe('');
  }
  expect(reckoned, 'lines of the working that could be reckoned again').toBeGreaterThanOrEqual(reckonedAtLeast);
  return values as ReturnType<typeof runCalculation<C['input'], C['output']>>['values'];
}
