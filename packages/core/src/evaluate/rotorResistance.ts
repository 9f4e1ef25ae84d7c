import type { Calculation } from '../calculation.ts';
import { celsius, choice, need, orOpen, quantity, text } from '../process/fieldKinds.ts';
import { isFormWound } from '../winding/record.ts';
import { expectedReading } from './resistanceRatio.ts';
import { EARTH, num, type TestKind } from './testKind.ts';
import { readings, windingResistance } from './windingResistance.ts';

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
  input: (v, c) => {
    const phase = c.figures?.phaseResistance20Ohm;
    const connection = c.record?.connection;
    return {
      ...readings(v),
      throughBrushes: v['where'] === WHERE[1],
      windingC: num(v, 'windingC'),
      ambientC: num(v, 'ambientC'),
      resolutionOhm: num(v, 'resolution'),
      connection,
      material: c.record?.material ?? 'copper',
      windingKind: isFormWound(c.record) ? 'form-wound' : 'random-wound',
      planned20Ohm: phase === undefined || !connection ? undefined : expectedReading(phase, 'lead to lead', connection),
      meanTurnEstimated: c.figures?.meanTurnFrom === 'geometry',
      newWinding: c.newWinding,
      strandsInHand: c.figures?.wiresInHand,
    };
  },
};
