import type { Calculation } from '../calculation.ts';
import { celsius, choice, need, orOpen, quantity, text } from '../process/fieldKinds.ts';
import { EARTH, type TestKind } from './testKind.ts';
import { readAgainstPlan, windingResistance } from './windingResistance.ts';

const WHERE = ['on the rings, brushes lifted', 'through the brushes'] as const;

/** Resistance ring to ring in the test matrix: the rotor's own winding, judged as a winding is. */
export const rotorResistanceTest: TestKind = {
  id: 'rotorResistance',
  title: 'Rotor resistance, ring to ring',
  part: 'wound-rotor',
  calculation: windingResistance as unknown as Calculation,
  derived: [
    { name: 'correctedMeanOhm', title: 'Mean at 20 °C', unit: 'Ω' },
    { name: 'unbalancePercent', title: 'Unbalance ring to ring', unit: '%' },
  ],
  caution: EARTH,
  stages: { IN: 'required', BS: 'optional', VC: 'optional', AA: 'optional', FI: 'optional' },
  for: ({ machine }) => machine === 'slip-ring',
  needsWholeMotor: true,
  fields: [
    choice('where', 'Read', [...WHERE], need),
    orOpen('ab', 'Rings K–L', need),
    orOpen('bc', 'Rings L–M', need),
    orOpen('ca', 'Rings M–K', need),
    celsius('windingC', 'Rotor winding temperature', need),
    celsius('ambientC', 'Air temperature'),
    quantity('resolution', 'One digit is', 'resistance', 'Ω'),
    text('instrument', 'Instrument', need),
  ],
  input: (v, c) => ({ ...readAgainstPlan(v, c, 'lead to lead'), throughBrushes: v['where'] === WHERE[1] }),
};
