import { need, quantity } from '../process/fieldKinds.ts';
import { HIGH_VOLTAGE, statedTest } from './testKind.ts';

/** Surge comparison in the test matrix: stated by a person. */
export const surgeTest = statedTest({
  id: 'surge',
  title: 'Surge comparison',
  stages: { IN: 'required', BS: 'optional', AC: 'required', VC: 'required', FI: 'optional' },
  fields: [quantity('testV', 'Peak voltage', 'voltage', 'V', need)],
  caution: HIGH_VOLTAGE,
});
