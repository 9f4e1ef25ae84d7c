import type { WhatCame } from '../process/routes.ts';
import { highPotentialTest } from './highPotential.ts';
import { insulationResistanceTest } from './insulationResistance.ts';
import { noLoadRunTest } from './noLoadRun.ts';
import { polarityTest } from './polarity.ts';
import { rotorSwingTest } from './rotorSwing.ts';
import { surgeTest } from './surge.ts';
import type { TestKind } from './testKind.ts';
import { windingResistanceTest } from './windingResistance.ts';
import type { TestStage } from '../process/operation.ts';

/** Every test of the matrix, in the order of stress: resistance, insulation resistance, surge, high potential. */
export const TEST_KINDS: readonly TestKind[] = [
  windingResistanceTest,
  insulationResistanceTest,
  surgeTest,
  polarityTest,
  highPotentialTest,
  rotorSwingTest,
  noLoadRunTest,
];

/** The test of an id, or undefined. */
export function testKind(id: string): TestKind | undefined {
  return TEST_KINDS.find((t) => t.id === id);
}

/** Whether the matrix wants a test at a stage, for what came in: a stator alone is not run, a rotor alone has no winding. */
export function wantedAt(kind: TestKind, stage: TestStage, came: WhatCame): 'required' | 'optional' | undefined {
  if (came === 'rotor only' || (kind.needsWholeMotor && came !== 'whole motor')) return undefined;
  return kind.stages[stage];
}

/** Tests that a stage needs before its operation can pass, for what came in. */
export function requiredTests(stage: TestStage, came: WhatCame = 'whole motor'): TestKind[] {
  return TEST_KINDS.filter((kind) => wantedAt(kind, stage, came) === 'required');
}
