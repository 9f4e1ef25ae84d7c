import type { WhatCame } from '../process/routes.ts';
import { assembledVibrationTest } from './assembledVibration.ts';
import { highPotentialTest } from './highPotential.ts';
import { insulationResistanceTest } from './insulationResistance.ts';
import { capacitorTest } from './capacitor.ts';
import { noLoadHighTest, noLoadLowTest, noLoadRunTest } from './noLoadRun.ts';
import { noLoadSingleTest } from './noLoadSingle.ts';
import { ringVoltageTest } from './ringVoltage.ts';
import { rotorResistanceTest } from './rotorResistance.ts';
import { singlePhaseResistanceTest } from './singlePhaseResistance.ts';
import { startSwitchTest } from './startSwitch.ts';
import { polarityTest } from './boreCheck.ts';
import { growlerTest } from './growler.ts';
import { phaseBalanceTest } from './phaseImpedance.ts';
import { lossFactorTest, partialDischargeTest } from './statedTests.ts';
import { waterTestKind } from './waterTest.ts';
import { rotorSwingTest } from './rotorSwing.ts';
import { steppedVoltageTest } from './steppedVoltage.ts';
import { surgeTest } from './surge.ts';
import { assemblyTest } from '../assemble/assemblyFigures.ts';
import { couplingTest } from '../assemble/coupling.ts';
import { finalListTest } from '../assemble/finalList.ts';
import { leadRotationTest } from '../load/leadRotation.ts';
import { inputOutputTest } from '../load/inputOutput.ts';
import { loadTestKind } from '../load/loadTest.ts';
import { lockedRotorTest } from '../load/lockedRotorTest.ts';
import { noLoadCurveTest } from '../load/noLoadCurve.ts';
import { temperatureRiseTest } from '../load/riseTest.ts';
import type { Tested, TestKind } from './testKind.ts';
import { leadResistancesTest } from './leadResistances.ts';
import { windingResistanceTest } from './windingResistance.ts';
import type { TestStage } from '../process/operation.ts';

/** Every test of the matrix, in the order of stress: resistance, insulation resistance, surge, high potential. */
export const TEST_KINDS: readonly TestKind[] = [
  windingResistanceTest,
  leadResistancesTest,
  singlePhaseResistanceTest,
  rotorResistanceTest,
  insulationResistanceTest,
  surgeTest,
  polarityTest,
  steppedVoltageTest,
  highPotentialTest,
  waterTestKind,
  partialDischargeTest,
  lossFactorTest,
  phaseBalanceTest,
  rotorSwingTest,
  growlerTest,
  ringVoltageTest,
  capacitorTest,
  startSwitchTest,
  assemblyTest,
  noLoadRunTest,
  noLoadLowTest,
  noLoadHighTest,
  noLoadSingleTest,
  noLoadCurveTest,
  leadRotationTest,
  assembledVibrationTest,
  couplingTest,
  lockedRotorTest,
  loadTestKind,
  inputOutputTest,
  temperatureRiseTest,
  finalListTest,
];

/** The test of an id, or undefined. */
export function testKind(id: string): TestKind | undefined {
  return TEST_KINDS.find((t) => t.id === id);
}

/** A machine of which nothing special is known. */
export const PLAIN: Tested = { machine: 'three-phase', record: undefined };

/** Tests that this machine can have, whatever the stage. */
export const testsFor = (tested: Tested): TestKind[] => TEST_KINDS.filter((kind) => kind.for?.(tested) ?? true);

/** The fields of a test that this machine has a use for. */
export function fieldsFor(kind: TestKind, tested: Tested): TestKind['fields'] {
  const hidden = kind.hides?.(tested) ?? [];
  return hidden.length === 0 ? kind.fields : kind.fields.filter((f) => !hidden.includes(f.name));
}

/**
 * Whether the matrix wants a test at a stage, for the machine and for what came in: a stator alone is not run, a rotor alone has no
 * winding.
 */
export function wantedAt(
  kind: TestKind,
  stage: TestStage,
  came: WhatCame,
  tested: Tested = PLAIN,
): 'required' | 'optional' | undefined {
  if (came === 'rotor only' || (kind.needsWholeMotor && came !== 'whole motor')) return undefined;
  return (kind.for?.(tested) ?? true) ? kind.stages[stage] : undefined;
}

/** Tests that a stage needs before its operation can pass, for the machine and for what came in. */
export function requiredTests(stage: TestStage, came: WhatCame = 'whole motor', tested: Tested = PLAIN): TestKind[] {
  return TEST_KINDS.filter((kind) => wantedAt(kind, stage, came, tested) === 'required');
}
