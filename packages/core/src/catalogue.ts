import { assemblyFigures } from './assemble/assemblyFigures.ts';
import { coupling } from './assemble/coupling.ts';
import { finalList } from './assemble/finalList.ts';
import { equivalentCircuit } from './load/equivalentCircuit.ts';
import { inputOutput } from './load/inputOutput.ts';
import { leadRotation } from './load/leadRotation.ts';
import { loadTest } from './load/loadTest.ts';
import { lockedRotor } from './load/lockedRotorTest.ts';
import { noLoadCurve } from './load/noLoadCurve.ts';
import { temperatureRise } from './load/riseTest.ts';
import type { Calculation } from './calculation.ts';
import { balanceOnePlane } from './balance/onePlane.ts';
import { balanceMaterialTaken, balanceMovedMass } from './balance/benchCalculations.ts';
import { balanceSession } from './balance/sessionCalculation.ts';
import { balancePermissible } from './balance/tolerance.ts';
import { machineMagnetFlux } from './machine/magnets.ts';
import { insulationFormBill } from './insulation/formBill.ts';
import { windingOtherWire } from './redesign/otherWire.ts';
import { windingFormCoil } from './winding/formCoil.ts';
import { windingBarWave } from './winding/barWave.ts';
import { windingMixedLayers } from './winding/mixedLayers.ts';
import { windingToothPath } from './winding/toothPath.ts';
import { capacitor } from './evaluate/capacitor.ts';
import { noLoadSingle } from './evaluate/noLoadSingle.ts';
import { ringVoltage } from './evaluate/ringVoltage.ts';
import { singlePhaseResistance } from './evaluate/singlePhaseResistance.ts';
import { assembledVibration } from './evaluate/assembledVibration.ts';
import { startSwitch } from './evaluate/startSwitch.ts';
import { highPotential, withstandVoltage } from './evaluate/highPotential.ts';
import { steppedVoltage } from './evaluate/steppedVoltage.ts';
import { surge } from './evaluate/surge.ts';
import { surgeAgainstEarlier, surgeVoltageCalculation } from './evaluate/surgeCalculations.ts';
import { burntPattern } from './diagnose/burntPattern.ts';
import { failureAnalysis } from './diagnose/failure.ts';
import { boreCheck } from './evaluate/boreCheck.ts';
import { growler } from './evaluate/growler.ts';
import { phaseBalance } from './evaluate/phaseImpedance.ts';
import { waterTest } from './evaluate/waterTest.ts';
import { insulationCurve } from './evaluate/insulationCurve.ts';
import { insulationResistance } from './evaluate/insulationResistance.ts';
import { leadResistances } from './evaluate/leadResistances.ts';
import { noLoadRun } from './evaluate/noLoadRun.ts';
import { rotorSwing } from './evaluate/rotorSwing.ts';
import { windingResistance } from './evaluate/windingResistance.ts';
import { insulationBill } from './insulation/bill.ts';
import { insulationNesting, insulationSlotCell, insulationSystemClass } from './insulation/cutCalculations.ts';
import { insulationLeadSize } from './insulation/leadSize.ts';
import { machineFlux } from './machine/flux.ts';
import { machinePoles } from './machine/nameplate.ts';
import { processBondedWire } from './process/bondedWire.ts';
import { processBurnOff } from './process/burnOff.ts';
import { processCapacitance } from './process/capacitance.ts';
import { processCoreLoss, processCoreSetUp } from './process/coreTest.ts';
import { processCure } from './process/cure.ts';
import { processDryOut } from './process/dryOut.ts';
import { processDip } from './process/dip.ts';
import { processInterlocks } from './process/interlocks.ts';
import { processResinToHold } from './process/resinToHold.ts';
import { processSensors } from './process/sensors.ts';
import { processShelfTrend } from './process/shelfTrend.ts';
import { processStrippedCopper } from './process/strippedCopper.ts';
import { processTrickle } from './process/trickle.ts';
import { processOvenLog } from './process/ovenLog.ts';
import { processRoute } from './process/routeCalculation.ts';
import { windingChecks } from './winding/checks.ts';
import { windingConnection } from './winding/connection.ts';
import { windingMeanTurn } from './winding/copper.ts';
import { windingFactorsCalculation } from './winding/factors.ts';
import { windingFigures } from './winding/figures.ts';
import { windingFormer } from './winding/former.ts';
import { windingLayout } from './winding/layoutCalculation.ts';
import { windingNetworkCheck } from './network/check.ts';
import { windingLinkCheck } from './network/linkCheck.ts';
import { windingExplainReadings } from './network/poorJoint.ts';
import { windingRedesign } from './redesign/redesign.ts';
import { wireSubstitute } from './redesign/substitute.ts';
import { windingRotorVoltage } from './winding/parts.ts';
import { windingReadConnection } from './winding/readConnection.ts';
import { windingField } from './winding/spectrum.ts';
import { windingTwoSpeed } from './winding/twoSpeed.ts';
import { windingSinusoidalTurns } from './winding/singlePhase.ts';
import { wireFill } from './wire/slotFill.ts';
import { wireSpool } from './wire/spools.ts';
import { wireSize } from './wire/wireCalculation.ts';

/** Every calculation that a user can ask for, listed by hand. */
export const CATALOGUE: readonly Calculation[] = [
  machinePoles,
  machineFlux,
  wireSize,
  windingLayout,
  windingSinusoidalTurns,
  windingTwoSpeed,
  windingField,
  windingReadConnection,
  windingRotorVoltage,
  windingRedesign,
  windingOtherWire,
  wireSubstitute,
  wireSpool,
  wireFill,
  insulationSlotCell,
  insulationNesting,
  insulationSystemClass,
  insulationLeadSize,
  insulationBill,
  windingFormer,
  windingToothPath,
  windingMixedLayers,
  windingBarWave,
  windingFormCoil,
  insulationFormBill,
  machineMagnetFlux,
  windingNetworkCheck,
  windingLinkCheck,
  windingExplainReadings,
  windingFactorsCalculation,
  windingConnection,
  windingMeanTurn,
  windingFigures,
  windingChecks,
  processRoute,
  processOvenLog,
  processBurnOff,
  processStrippedCopper,
  processCoreSetUp,
  processCoreLoss,
  processDip,
  processDryOut,
  processTrickle,
  processBondedWire,
  processShelfTrend,
  processResinToHold,
  processCapacitance,
  processInterlocks,
  processSensors,
  processCure,
  balancePermissible,
  balanceOnePlane,
  balanceSession,
  balanceMovedMass,
  balanceMaterialTaken,
  insulationResistance,
  insulationCurve,
  surge,
  surgeVoltageCalculation,
  surgeAgainstEarlier,
  withstandVoltage,
  highPotential,
  steppedVoltage,
  boreCheck,
  phaseBalance,
  growler,
  burntPattern,
  failureAnalysis,
  waterTest,
  singlePhaseResistance,
  capacitor,
  startSwitch,
  assembledVibration,
  noLoadSingle,
  ringVoltage,
  windingResistance,
  leadResistances,
  rotorSwing,
  noLoadRun,
  noLoadCurve,
  leadRotation,
  lockedRotor,
  equivalentCircuit,
  loadTest,
  assemblyFigures,
  coupling,
  finalList,
  inputOutput,
  temperatureRise,
] as unknown as readonly Calculation[];

/** The calculation of an id, or undefined. */
export function calculationOf(id: string): Calculation | undefined {
  return CATALOGUE.find((c) => c.id === id);
}
