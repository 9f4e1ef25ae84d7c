import type { LoadPartView } from '@norther/contracts';

/** Whether a part has had what it is there for; a burn-off only once it has cooled. */
export const partState = (part: LoadPartView): 'done' | 'on' =>
  part.now !== null &&
  (part.now.burn === null || part.now.burn.state === 'may be opened') &&
  (part.now.verdict === 'cured' || (part.now.verdict !== 'over_temperature' && part.now.degree >= 1))
    ? 'done'
    : 'on';
