import type { z } from 'zod';
import { sentenceOfIssue } from './problems.ts';

type Issue = z.core.$ZodIssue;

/** Words of the trade for a value that the schemas know under one name. */
const SAME: Readonly<Record<string, string>> = { star: 'wye', y: 'wye', mesh: 'delta', d: 'delta', triangle: 'delta' };

/** The input with the trade's other words for wye and delta put into ours; anything else as it came. */
export function inOurWords(input: unknown, depth = 0): unknown {
  if (depth > 6 || typeof input !== 'object' || input === null || Array.isArray(input)) return input;
  return Object.fromEntries(
    Object.entries(input).map(([key, value]) => [
      key,
      /^(plate)?connection$/i.test(key) && typeof value === 'string'
        ? (SAME[value.trim().toLowerCase()] ?? value)
        : inOurWords(value, depth + 1),
    ]),
  );
}

/** How many letters apart two names are (Levenshtein). */
function apart(a: string, b: string): number {
  let row = Array.from({ length: b.length + 1 }, (_, j) => j);
  for (let i = 1; i <= a.length; i++) {
    const next = [i];
    for (let j = 1; j <= b.length; j++)
      next.push(
        Math.min((row[j] ?? 0) + 1, (next[j - 1] ?? 0) + 1, (row[j - 1] ?? 0) + (a[i - 1] === b[j - 1] ? 0 : 1)),
      );
    row = next;
  }
  return row[b.length] ?? 0;
}

/** The field of a schema that a name not known probably means. */
function nearest(name: string, known: readonly string[]): string | undefined {
  if (/pole.?pairs?/i.test(name) && known.includes('poles')) return 'poles';
  const lower = name.toLowerCase();
  return known
    .map((k) => ({
      k,
      d: k.toLowerCase().startsWith(lower) || lower.startsWith(k.toLowerCase()) ? 1 : apart(lower, k.toLowerCase()),
    }))
    .filter(({ k, d }) => d <= Math.max(2, Math.floor(k.length / 3)))
    .sort((a, b) => a.d - b.d)[0]?.k;
}

const at = (input: unknown, path: readonly PropertyKey[]): unknown =>
  path.reduce<unknown>((x, key) => (x as Record<PropertyKey, unknown> | null | undefined)?.[key as never], input);

/** The sentence for one issue of a calculation's input, with what would fit. */
export function sentenceOfInput(issue: Issue, input: unknown, known: readonly string[]): string {
  const name = String(issue.path[issue.path.length - 1] ?? '');
  const isMissing = issue.path.length > 0 && at(input, issue.path) === undefined;
  if (isMissing && issue.code === 'invalid_value')
    return `This is missing; one of these fits: ${issue.values.map(String).join(', ')}.`;
  if (isMissing && issue.code === 'invalid_union') {
    const values = issue.errors.flat().flatMap((e) => (e.code === 'invalid_value' ? e.values : []));
    return values.length > 0
      ? `This is missing; one of these fits: ${values.map(String).join(', ')}.`
      : 'This is missing.';
  }
  if (name === 'poles' && (issue.code === 'not_multiple_of' || issue.code === 'too_small'))
    return 'This is the number of poles, not of pole pairs: an even number from 2 up.';
  if (issue.code === 'unrecognized_keys' && issue.path.length === 0)
    return issue.keys
      .map((key) => {
        const near = nearest(key, known);
        return near === 'poles' && /pair/i.test(key)
          ? `There is no field ${key}: say poles, the number of poles.`
          : `There is no field ${key}${near ? `; did you mean ${near}?` : `; there are ${known.join(', ')}.`}`;
      })
      .join(' ');
  return sentenceOfIssue(issue);
}
