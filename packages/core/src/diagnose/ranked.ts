/** One explanation with what speaks for it, what against, and what to do next. */
export interface Cause {
  id: string;
  title: string;
  /** 0 to 1: what speaks for it over all that was weighed */
  confidence: number;
  speaksFor: string[];
  speaksAgainst: string[];
  next: string;
}

/** A piece of evidence: what it weighs for an explanation, or against it where negative; undefined: not known, weighs nothing. */
export interface Evidence {
  weight: number;
  say: string;
}
export type Weighed = Evidence | undefined | false;

/**
 * An explanation from its evidence; undefined where more speaks against it than for it, or nothing for it. What was not looked at (a
 * share of evidence that nobody gave) keeps the confidence below one.
 */
export function cause(id: string, title: string, next: string, weighed: readonly Weighed[]): Cause | undefined {
  let pro = 0;
  let contra = 0;
  const speaksFor: string[] = [];
  const speaksAgainst: string[] = [];
  for (const e of weighed) {
    if (!e) continue;
    if (e.weight > 0) {
      pro += e.weight;
      speaksFor.push(e.say);
    } else {
      contra -= e.weight;
      speaksAgainst.push(e.say);
    }
  }
  return pro > contra ? { id, title, confidence: pro / (pro + contra + 1), speaksFor, speaksAgainst, next } : undefined;
}

/** The most likely first; equal ones stay in the order given. */
export const ranked = (all: readonly (Cause | undefined)[]): Cause[] =>
  all.filter((e) => e !== undefined).sort((a, b) => b.confidence - a.confidence);
