import { EARTH, statedTest } from './testKind.ts';

/** Polarity and rotation in the test matrix: stated by a person. */
export const polarityTest = statedTest({
  id: 'polarity',
  title: 'Polarity and rotation',
  stages: { AC: 'required', AA: 'required', FI: 'optional' },
  fields: [],
  caution: EARTH,
});
