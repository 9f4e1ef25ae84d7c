import { otherwise, type MotorTests } from '@norther/core';
import { median, type Figure } from './figure.ts';

const TESTS = 1000;
const LONGEST_MS = 1000;
const KINDS = [
  {
    kind: 'insulationResistance',
    calculation: 'evaluate.insulationResistance',
    values: {
      testV: 500,
      r1min: 38,
      r10min: 72,
      windingC: 20,
      measured: 'whole winding',
      kind: 'random-wound',
      system: 'thermosetting',
      instrument: 'x',
    },
  },
  {
    kind: 'windingResistance',
    calculation: 'evaluate.windingResistance',
    values: { ab: 1.01, bc: 1.02, ca: 1.03, windingC: 21, instrument: 'x' },
  },
  { kind: 'rotorSwing', calculation: 'evaluate.rotorSwing', values: { maxA: 10.2, minA: 10, instrument: 'x' } },
  {
    kind: 'noLoadRun',
    calculation: 'evaluate.noLoadRun',
    values: { u12: 400, u23: 401, u31: 399, i1: 8, i2: 8.1, i3: 7.9, instrument: 'x' },
  },
];

/** A shop's tests, twelve to a motor. */
const motors: MotorTests[] = Array.from({ length: Math.ceil(TESTS / 12) }, (_, m) => ({
  number: `M-${m}`,
  what: 'motor',
  route: 'ac_random_rewind',
  nameplate: { voltagesV: [400], outputW: 11_000, currentsA: [22], frequencyHz: 50, speedRpm: 1455 },
  windings: {},
  tests: Array.from({ length: Math.min(12, TESTS - 12 * m) }, (_, t) => ({
    ...(KINDS[t % KINDS.length] as (typeof KINDS)[number]),
    id: `${m}-${t}`,
    part: 'stator' as const,
    stage: (['IN', 'AC', 'VC', 'FI'] as const)[Math.floor(t / 3) % 4] ?? 'IN',
    verdict: 'pass' as const,
    reason: '',
    lesser: null,
    supersedes: null,
    fromTraces: false,
  })) as MotorTests['tests'],
}));

/** Stored tests judged again by other limits. */
export function benchRejudge(): Figure[] {
  let judged = 0;
  const ms = median(() => {
    judged = otherwise(motors, { 'resistance.randomPassPercent': 1 }).judged;
  });
  return [
    {
      name: `${TESTS} stored tests judged again`,
      value: `${ms.toFixed(0)} ms (${judged} judged)`,
      ratio: ms / LONGEST_MS,
      must: 'under 1 s',
      holds: judged === TESTS && ms < LONGEST_MS,
    },
  ];
}
