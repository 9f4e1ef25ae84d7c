import { need, quantity } from '../process/fieldKinds.ts';
import { isFormWound } from '../winding/record.ts';
import { HIGH_VOLTAGE, statedTest, type Tested, type TestKind } from './testKind.ts';

const formWound = ({ record }: Tested): boolean => isFormWound(record);

/** Partial discharge in the test matrix: stated by a person. */
export const partialDischargeTest: TestKind = {
  ...statedTest({
    id: 'partialDischarge',
    title: 'Partial discharge',
    stages: { IN: 'optional', VC: 'optional', FI: 'optional' },
    fields: [
      quantity('testV', 'Test voltage, rms', 'voltage', 'V', need),
      quantity('inceptionV', 'Begins at', 'voltage', 'V'),
      quantity('extinctionV', 'Ends at', 'voltage', 'V'),
      quantity('charge', 'Largest apparent charge', 'number', '', { hint: 'pC' }),
    ],
    caution: HIGH_VOLTAGE,
  }),
  for: formWound,
};

/** Loss factor in the test matrix: stated by a person. */
export const lossFactorTest: TestKind = {
  ...statedTest({
    id: 'lossFactor',
    title: 'Loss factor',
    stages: { IN: 'optional', VC: 'optional', FI: 'optional' },
    fields: [
      quantity('lowV', 'Low voltage', 'voltage', 'V', need),
      quantity('lowPercent', 'Loss factor there', 'percent', '%', need),
      quantity('highV', 'High voltage', 'voltage', 'V', need),
      quantity('highPercent', 'Loss factor there, high', 'percent', '%', need),
      quantity('capacitance', 'Capacitance', 'capacitance', 'nF'),
    ],
    caution: HIGH_VOLTAGE,
  }),
  for: formWound,
};
