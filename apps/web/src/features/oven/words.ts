import type { LoadPartNow, LoadPartView } from '@norther/contracts';

/** Minutes left, by forecast where there is one; undefined where nothing can be said or nothing is left. */
export const leftOf = (now: LoadPartNow | null): number | undefined => {
  if (now?.burn && now.degree >= 1) return now.burn.openMin ?? undefined;
  if (!now || now.degree >= 1) return undefined;
  return now.forecastMin ?? now.simpleMin ?? undefined;
};

/** Whether a part has had what it is there for; a burn-off only once it has cooled. */
export const partState = (part: LoadPartView): 'done' | 'on' =>
  part.now !== null &&
  (part.now.burn === null || part.now.burn.state === 'may be opened') &&
  (part.now.verdict === 'cured' || (part.now.verdict !== 'over_temperature' && part.now.degree >= 1))
    ? 'done'
    : 'on';
