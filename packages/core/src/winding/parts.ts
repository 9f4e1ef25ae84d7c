import { z } from 'zod';
import { defineCalculation, refuse } from '../calculation.ts';
import { limit } from '../limits/limits.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { nameplateSchema, type Nameplate } from '../machine/nameplate.ts';
import { partFacts, type WindingPart } from '../machine/parts.ts';
import { windingFigures } from './figures.ts';
import { ratingOf, runningConnection } from './recordLayout.ts';
import { windingRecordSchema, type WindingRecord } from './record.ts';

/**
 * What the nameplate says of one winding. A rotor is judged at its standstill voltage and its own current; a second
 * winding has the line voltage and frequency only, its speed and current are not those of the first.
 */
export function plateOfPart(nameplate: Nameplate, part: WindingPart): Nameplate {
  const { plate } = partFacts(part);
  if (plate === 'whole') return nameplate;
  const { frequencyHz, voltagesV, phases, poles, insulationClass, enclosure } = nameplate;
  const common = Object.fromEntries(
    Object.entries({ frequencyHz, phases, insulationClass, enclosure }).filter(([, v]) => v !== undefined),
  ) as Nameplate;
  if (plate === 'line') return voltagesV === undefined ? common : { ...common, voltagesV };
  return {
    ...common,
    ...(poles === undefined ? {} : { poles }),
    ...(nameplate.rotorVoltageV === undefined ? {} : { voltagesV: [nameplate.rotorVoltageV] }),
    ...(nameplate.rotorCurrentA === undefined ? {} : { currentsA: [nameplate.rotorCurrentA] }),
  };
}

/** A second winding lies in another's core: what was measured there once is not asked again. */
function inSameCore(record: WindingRecord, stator: WindingRecord | undefined): WindingRecord {
  if (!stator) return record;
  const core = [
    'slots',
    'boreM',
    'coreLengthM',
    'ductCount',
    'ductWidthM',
    'coreOuterM',
    'backIronM',
    'toothWidthM',
    'slotDepthM',
    'slotOpeningM',
    'airGapM',
    'leadExit',
    'connectionSide',
  ] as const;
  const shared = Object.fromEntries(
    core.filter((k) => record[k] === undefined && stator[k] !== undefined).map((k) => [k, stator[k]]),
  );
  return { ...record, ...shared };
}

/** The record of a part's winding with what was measured of its core, also where that is another part's. */
export function inItsCore(record: WindingRecord, part: WindingPart, carrier: WindingRecord | undefined): WindingRecord {
  return partFacts(part).core === undefined ? record : inSameCore(record, carrier);
}

/** Calculation `winding.rotorVoltage`. */
export const windingRotorVoltage = defineCalculation({
  id: 'winding.rotorVoltage',
  version: 1,
  title: 'Wound rotor: voltage between the open slip rings at standstill',
  sources: ['Say, Performance and Design of A.C. Machines (turns ratio at standstill)', 'tolerance: common practice'],
  input: z.strictObject({
    stator: windingRecordSchema,
    rotor: windingRecordSchema,
    nameplate: nameplateSchema,
    limits: shopLimitsSchema.default({}),
  }),
  output: z.object({
    ratio: z.number().describe('effective turns of a rotor phase over those of a stator phase'),
    openCircuitV: z.number().describe('line to line between the rings, magnetizing drop left out'),
    plateV: z.number().optional(),
    offPercent: z.number().optional(),
    says: z.string(),
  }),
  example: {
    stator: {
      slots: 36,
      poles: 4,
      layers: 'double',
      form: 'lap',
      spansSlots: [8],
      turns: [12],
      circuits: 2,
      connection: 'delta',
    },
    rotor: {
      slots: 24,
      poles: 4,
      layers: 'double',
      form: 'lap',
      spansSlots: [6],
      turns: [6],
      circuits: 1,
      connection: 'wye',
    },
    nameplate: { voltagesV: [400], frequencyHz: 50, rotorVoltageV: 310 },
  },
  compute: ({ stator, rotor, nameplate, limits }, note) => {
    if (stator.poles !== undefined && rotor.poles !== undefined && stator.poles !== rotor.poles)
      refuse(
        'rotor.poles',
        `The rotor has ${rotor.poles} poles and the stator ${stator.poles}; they must be the same. Count again.`,
      );
    const of = (record: WindingRecord) => windingFigures.compute(windingFigures.input.parse({ record, nameplate: {} }));
    const s = of(stator);
    const r = of(rotor);
    const volts = ratingOf(nameplate, stator).voltageV;
    const connection = runningConnection(stator);
    if (s.seriesTurns === undefined || s.windingFactor === undefined || volts === undefined || !connection)
      return refuse(
        'stator',
        'The stator winding needs span, turns, circuits and connection, and the plate its voltage.',
      );
    if (r.seriesTurns === undefined || r.windingFactor === undefined || !rotor.connection)
      return refuse('rotor', 'The rotor winding needs span, turns, circuits and connection.');
    const ratio = (r.seriesTurns * r.windingFactor) / (s.seriesTurns * s.windingFactor);
    const statorPhase = connection === 'wye' ? volts / Math.sqrt(3) : volts;
    const openCircuitV = statorPhase * ratio * (rotor.connection === 'wye' ? Math.sqrt(3) : 1);
    note?.({
      name: 'Turns ratio',
      symbol: 'ü',
      formula: 'N_r k_w,r / (N_s k_w,s)',
      numbers: `${r.seriesTurns} · ${r.windingFactor.toFixed(4)} / (${s.seriesTurns} · ${s.windingFactor.toFixed(4)})`,
      value: ratio,
      unit: '',
      source: 'Say',
    });
    note?.({
      name: 'Voltage between the open rings',
      symbol: 'U_20',
      formula: rotor.connection === 'wye' ? 'U_s,phase · ü · √3' : 'U_s,phase · ü',
      numbers: `${statorPhase.toFixed(1)} · ${ratio.toFixed(4)}${rotor.connection === 'wye' ? ' · 1.732' : ''}`,
      value: openCircuitV,
      unit: 'V',
      source: 'Say; magnetizing drop (2 to 5 %) left out',
    });
    const plateV = nameplate.rotorVoltageV;
    const offPercent = plateV === undefined ? undefined : (100 * (openCircuitV - plateV)) / plateV;
    const off = limit('winding.ringVoltsPercent', limits);
    const shown = `${openCircuitV.toFixed(0)} V between the open rings`;
    return {
      ratio,
      openCircuitV,
      plateV,
      offPercent,
      says:
        plateV === undefined || offPercent === undefined
          ? `${shown}; the plate does not say.`
          : Math.abs(offPercent) <= off
            ? `${shown}; the plate says ${plateV} V (${offPercent.toFixed(1)} %).`
            : `${shown}, but the plate says ${plateV} V (${offPercent.toFixed(1)} %): look again at turns, circuits and connection of both windings.`,
    };
  },
});
