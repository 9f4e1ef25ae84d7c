import { operation } from '@norther/core';

/** Where a step stands, as it is said on screen. */
export const STATE_WORDS: Record<string, string> = {
  ready: 'your turn',
  running: 'running',
  passed: 'passed',
  waiting: 'not yet',
  blocked: 'held',
  failed: 'failed',
  attention: 'waits for a sign-off',
  undecided: 'cannot be judged yet',
  waived: 'waived',
  recheck: 'look again',
  open: 'open',
};
const titleOf = (code: string) => {
  try {
    return operation(code).title;
  } catch {
    return code;
  }
};
/** Codes of operations in a sentence, as their titles. */
export const inWords = (text: string) => text.replaceAll(/\b[A-Z][A-Z0-9]{2,3}\b(?:\.[2-9]\b)?/g, titleOf);
