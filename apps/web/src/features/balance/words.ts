import type { BalanceNow } from '@norther/core';

/** What is to be done at a stage of a balance. */
export const STAGE_WORDS: Readonly<Record<BalanceNow['stage'], string>> = {
  refused: 'Not to be balanced so',
  'first run': 'Spin it as found',
  'trial 1': 'Trial mass in plane 1',
  'trial 2': 'Trial mass in plane 2',
  correct: 'Correct',
  'check run': 'Spin it again',
  done: 'Inside',
};
