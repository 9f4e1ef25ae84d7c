import type { VesselSetUp } from '../../packages/core/src/process/vesselCycle.ts';

/** A vessel as its tests set it up. */
export const VESSEL: VesselSetUp = {
  diameterMm: 1200,
  depthMm: 1500,
  standMm: 80,
  coverMm: 60,
  vacuumMbar: 5,
  vacuumHoldMin: 30,
  soakMin: 15,
  pressureBar: 4,
  holdLeastMin: 60,
  holdMostMin: 240,
  transferBar: 0.5,
  partC: [40, 60],
  resinC: [18, 30],
  monomerMbar: 2,
  reliefDue: '2026-12-31',
};
