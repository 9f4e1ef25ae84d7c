import { expect } from 'vitest';

/** As close as the printed value is printed. */
export const printed = (value: number | undefined, text: string) => {
  const places = /\.(\d+)/.exec(text)?.[1]?.length ?? 0;
  expect((value ?? NaN).toFixed(places)).toBe(text);
};
