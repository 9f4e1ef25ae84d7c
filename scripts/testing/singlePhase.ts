/** What a bench knows of a 750 W capacitor motor, 230 V 50 Hz, four poles, as a test takes it. */
export const singlePhaseContext = (more: object = {}) =>
  ({
    nameplate: { voltagesV: [230], currentsA: [6.2], outputW: 750, frequencyHz: 50, poles: 4, frame: '80' },
    record: { kind: 'single-phase', auxKind: 'capacitor start and run', poles: 4, circuits: 2, capacitorF: 2e-5 },
    figures: { phaseResistance20Ohm: 3, auxResistance20Ohm: 8, meanTurnFrom: 'geometry' },
    newWinding: true,
    machine: 'single-phase',
    limits: {},
    ...more,
  }) as never;
