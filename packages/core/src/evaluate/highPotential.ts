import { need, quantity } from '../process/fieldKinds.ts';
import { HIGH_VOLTAGE, statedTest } from './testKind.ts';

/** High potential in the test matrix: stated by a person. */
export const highPotentialTest = statedTest({
  id: 'highPotential',
  title: 'High potential',
  stages: { AC: 'optional', VC: 'required', FI: 'optional' },
  fields: [
    quantity('testV', 'Test voltage, rms', 'voltage', 'V', need),
    quantity('seconds', 'Held for', 'time', 's', need),
  ],
  caution: HIGH_VOLTAGE,
});
