import { EXAMPLE_PLATE, EXAMPLE_RECORD } from './exampleRecord.ts';
import { z } from 'zod';
import { defineCalculation } from '../calculation.ts';
import { DEFAULT_STACKING_FACTOR, machineFlux } from '../machine/flux.ts';
import { hasMagnets } from '../machine/machineKind.ts';
import { coggingPeriods, emfConstantRms, machineMagnetFlux } from '../machine/magnets.ts';
import { nameplateSchema } from '../machine/nameplate.ts';
import { conductorAreaM2 } from '../wire/strands.ts';
import { conductorOf } from './formCoilOf.ts';
import {
  CONDUCTORS,
  enamelShare,
  temperatureFactor,
  windingMeanTurn,
  leadToLeadOhm,
  MEAN_TURN_FROM,
} from './copper.ts';
import { meanTurnInputOf } from './meanTurnOf.ts';
import { workingFactor } from './factors.ts';
import { windingRecordSchema } from './record.ts';
import { slotFill } from '../wire/slotFill.ts';
import { fullestSlot, layoutOfRecord, ratingOf, runningCircuits, runningConnection } from './recordLayout.ts';

const figureInput = z.strictObject({
  record: windingRecordSchema,
  nameplate: nameplateSchema,
  stackingFactor: z.number().min(0.8).max(1).default(DEFAULT_STACKING_FACTOR),
});

const n = z.number().optional();
const figureOutput = z.object({
  windingFactor: n,
  coils: n,
  groups: n,
  totalTurns: n,
  seriesTurns: n,
  coilsInSeries: n,
  wiresInHand: n,
  conductorAreaM2: n,
  lineVoltageV: n,
  phaseVoltageV: n,
  voltsPerTurn: n,
  voltsPerCoil: n,
  fluxWb: n,
  airGapT: n,
  toothT: n,
  backIronT: n,
  lineCurrentA: n,
  circuitCurrentA: n,
  currentDensityAMm2: n,
  circularMilsPerAmpere: n,
  linearLoadingAM: n,
  coggingPeriods: n,
  emfConstantVs: n,
  insulatedSquareFill: n,
  insulatedRoundFill: n,
  copperFill: n,
  wiresPerSlot: n,
  meanTurnM: n,
  meanTurnFrom: z.enum(MEAN_TURN_FROM),
  meanTurnGeometryM: n,
  bareMassKg: n,
  geometryBareMassKg: n,
  sampleBareMassKg: n,
  orderMassKg: n,
  phaseResistance20Ohm: n,
  lineResistance20Ohm: n,
  copperLossAt115W: n,
  auxSeriesTurns: n,
  auxWindingFactor: n,
  turnsRatio: n,
  auxBareMassKg: n,
  auxResistance20Ohm: n,
});
export type WindingFigures = z.infer<typeof figureOutput>;

/** Waste allowed when wire is drawn from stock (common practice). */
export const WIRE_WASTE_SHARE = 0.05;

/** Calculation `winding.figures`: what the record comes to, as far as it is complete. */
export const windingFigures = defineCalculation({
  id: 'winding.figures',
  version: 1,
  title: 'Figures of a winding: flux and current densities, volts per coil, fill, resistance, copper',
  sources: [
    'Say, Performance and Design of A.C. Machines',
    'IEC 60028 copper; IEC 60034-1 temperature constant',
    'IEC 60317-0-1 insulated diameters (from memory)',
  ],
  input: figureInput,
  output: figureOutput,
  example: {
    record: EXAMPLE_RECORD,
    nameplate: EXAMPLE_PLATE,
  },
  compute: ({ record, nameplate, stackingFactor }, note) => {
    const out: WindingFigures = { meanTurnFrom: 'nothing' };
    const laid = layoutOfRecord(record);
    const layout = laid.layout;
    const material = CONDUCTORS[record.material ?? 'copper'];
    const strands = record.strands ?? [];
    const { areaM2: area, inHand } = conductorOf(record);
    const rating = ratingOf(nameplate, record);
    out.lineVoltageV = rating.voltageV;
    out.lineCurrentA = rating.currentA;
    if (area > 0) {
      out.wiresInHand = inHand;
      out.conductorAreaM2 = area;
    }
    // bars over each other are the sides of one turn
    const hasTurns = record.kind === 'bar-rotor' || (record.turns?.length ?? 0) > 0;
    const circuits = runningCircuits(record);
    const connection = runningConnection(record);
    const phases = record.kind === 'single-phase' ? 1 : 3;
    const magnets = hasMagnets(nameplate);
    if (layout) {
      const own = phases === 1 ? layout.coils.filter((c) => c.phase === 'A') : layout.coils;
      out.windingFactor = workingFactor(layout);
      out.coils = own.length;
      out.groups = layout.groups.length;
      if (hasTurns) out.totalTurns = own.reduce((sum, c) => sum + c.turns, 0);
      const aux = phases === 1 ? layout.coils.filter((c) => c.phase === 'B') : [];
      if (hasTurns && aux.length > 0 && (record.auxTurns?.length ?? 0) > 0) {
        const auxTurns = aux.reduce((sum, c) => sum + c.turns, 0);
        out.auxSeriesTurns = auxTurns;
        out.auxWindingFactor = workingFactor(layout, 'B');
        out.turnsRatio =
          (auxTurns * out.auxWindingFactor) / ((out.totalTurns ?? 0) / (circuits ?? 1)) / out.windingFactor;
      }
    }
    if (layout && hasTurns && circuits !== undefined && out.totalTurns !== undefined) {
      const seriesTurns = out.totalTurns / (phases * circuits);
      const coilsInSeries = (out.coils ?? 0) / (phases * circuits);
      out.seriesTurns = seriesTurns;
      out.coilsInSeries = coilsInSeries;
      note?.({
        name: 'Turns in series per phase',
        symbol: 'N_s',
        formula: phases === 1 ? 'Σ main turns / c' : 'Σ turns / (3 c)',
        numbers: `${out.totalTurns} / (${phases} · ${circuits})`,
        value: seriesTurns,
        unit: '',
        source: 'definition',
      });
      const ke = magnets ? emfConstantRms(nameplate) : undefined;
      if (magnets) out.coggingPeriods = coggingPeriods(layout.slots, layout.poles);
      if (ke !== undefined) out.emfConstantVs = ke;
      // the drive's voltage is no EMF: with magnets it is the EMF at rated speed that lies on the turns
      const lineV = !magnets
        ? rating.voltageV
        : ke === undefined || nameplate.speedRpm === undefined
          ? undefined
          : (ke * 2 * Math.PI * nameplate.speedRpm) / 60;
      if (lineV !== undefined && connection) {
        const phaseVoltage = connection === 'wye' ? lineV / Math.sqrt(3) : lineV;
        out.phaseVoltageV = phaseVoltage;
        out.voltsPerTurn = phaseVoltage / seriesTurns;
        out.voltsPerCoil = phaseVoltage / coilsInSeries;
        note?.({
          name: 'Volts per coil',
          symbol: 'U_c',
          formula: 'phase voltage / coils in series',
          numbers: `${phaseVoltage.toFixed(2)} / ${coilsInSeries}`,
          value: out.voltsPerCoil,
          unit: 'V',
          source: 'definition',
        });
        if (
          !magnets &&
          nameplate.frequencyHz !== undefined &&
          record.boreM !== undefined &&
          record.coreLengthM !== undefined &&
          out.windingFactor
        ) {
          const flux = machineFlux.compute(
            {
              lineVoltageV: lineV,
              frequencyHz: nameplate.frequencyHz,
              connection,
              seriesTurns,
              windingFactor: out.windingFactor,
              poles: layout.poles,
              boreM: record.boreM,
              coreLengthM: record.coreLengthM,
              ductCount: record.ductCount,
              ductWidthM: record.ductWidthM,
              slots: layout.slots,
              toothWidthM: record.toothWidthM,
              backIronM: record.backIronM,
              stackingFactor,
            },
            note,
          );
          out.fluxWb = flux.fluxWb;
          out.airGapT = flux.airGapT;
          out.toothT = flux.toothT;
          out.backIronT = flux.backIronT;
        }
      }
      if (
        ke !== undefined &&
        connection &&
        out.windingFactor &&
        record.boreM !== undefined &&
        record.coreLengthM !== undefined
      ) {
        const flux = machineMagnetFlux.compute(
          {
            emfConstantVs: ke,
            connection,
            poles: layout.poles,
            seriesTurns,
            windingFactor: out.windingFactor,
            boreM: record.boreM,
            coreLengthM: record.coreLengthM,
            slots: layout.slots,
            toothWidthM: record.toothWidthM,
            toothCoils: record.kind === 'tooth-coil',
            backIronM: record.backIronM,
            stackingFactor,
          },
          note,
        );
        out.fluxWb = flux.fluxWb;
        out.airGapT = flux.airGapT;
        out.toothT = flux.toothT;
        out.backIronT = flux.backIronT;
      }
      if (rating.currentA !== undefined && connection) {
        const phaseCurrent = connection === 'wye' || phases === 1 ? rating.currentA : rating.currentA / Math.sqrt(3);
        const circuitCurrent = phaseCurrent / circuits;
        out.circuitCurrentA = circuitCurrent;
        if (area > 0) {
          out.currentDensityAMm2 = circuitCurrent / (area * 1e6);
          out.circularMilsPerAmpere = 1973.525 / out.currentDensityAMm2;
          note?.({
            name: 'Current density',
            symbol: 'J',
            formula: 'circuit current / area of all wires in hand',
            numbers: `${circuitCurrent.toFixed(3)} A / ${(area * 1e6).toFixed(4)} mm²`,
            value: out.currentDensityAMm2,
            unit: 'A/mm²',
            source: 'definition',
          });
        }
        if (record.boreM !== undefined && phases === 3) {
          out.linearLoadingAM = (6 * seriesTurns * phaseCurrent) / (Math.PI * record.boreM);
          note?.({
            name: 'Linear loading',
            symbol: 'A',
            formula: '6 N_s I_ph / (πD)',
            numbers: `6 · ${seriesTurns} · ${phaseCurrent.toFixed(3)} / (π · ${record.boreM})`,
            value: out.linearLoadingAM / 1000,
            unit: 'kA/m',
            source: 'Say',
          });
        }
      }
    }
    if (layout && hasTurns && strands.length > 0) {
      const { main: mainTurns, aux: auxTurns } = fullestSlot(layout);
      const grade = record.wireGrade === '1' ? 1 : 2;
      const fill = slotFill(
        [
          { strands, turnsInSlot: mainTurns },
          { strands: record.auxStrands ?? [], turnsInSlot: auxTurns },
        ],
        grade,
        record.slotAreaM2,
        record.slotNetAreaM2,
      );
      out.wiresPerSlot = fill.wires;
      if (fill.copper !== undefined) out.copperFill = fill.copper;
      if (record.slotNetAreaM2 !== undefined && fill.insulatedSquare !== undefined) {
        out.insulatedSquareFill = fill.insulatedSquare;
        out.insulatedRoundFill = fill.insulatedRound;
        note?.({
          name: 'Slot fill, insulated squares over net area',
          symbol: 'f',
          formula: 'Σ n d_o² / A_net',
          numbers: `${fill.wires.toFixed(1)} wires in ${(record.slotNetAreaM2 * 1e6).toFixed(1)} mm² net`,
          value: out.insulatedSquareFill,
          unit: '',
          source: 'definition; ranges common practice',
        });
      }
    }
    const mean = windingMeanTurn.compute(
      windingMeanTurn.input.parse({
        ...meanTurnInputOf(record),
        copperKg: record.copperKg,
        copperState: record.copperState ?? 'burned clean',
        totalTurns: out.totalTurns,
        sampleCoilM: record.sampleCoilM,
      }),
      note,
    );
    out.meanTurnFrom = mean.from;
    out.meanTurnM = mean.metres;
    out.meanTurnGeometryM = mean.geometryM;
    if (area > 0 && out.totalTurns !== undefined) {
      const massAt = (metres: number) => material.densityKgM3 * area * metres * (out.totalTurns ?? 0);
      if (mean.metres !== undefined) {
        out.bareMassKg = massAt(mean.metres);
        const grade = record.wireGrade === '1' ? 1 : 2;
        out.orderMassKg =
          out.bareMassKg * (1 + enamelShare(strands, grade, material.densityKgM3)) * (1 + WIRE_WASTE_SHARE);
        note?.({
          name: 'Bare conductor',
          symbol: 'm',
          formula: 'ρ_m A · MLT · Σ turns',
          numbers: `${material.densityKgM3} · ${(area * 1e6).toFixed(4)} mm² · ${mean.metres.toFixed(4)} m · ${out.totalTurns}`,
          value: out.bareMassKg,
          unit: 'kg',
          source: 'density IEC 60028',
        });
        if (out.seriesTurns !== undefined && circuits !== undefined) {
          const phase = (material.resistivityOhmM * out.seriesTurns * mean.metres) / (area * circuits);
          out.phaseResistance20Ohm = phase;
          note?.({
            name: 'Resistance of a phase at 20 °C',
            symbol: 'R_ph',
            formula: 'ρ₂₀ N_s MLT / (A c)',
            numbers: `${(material.resistivityOhmM * 1e6).toFixed(6)} · ${out.seriesTurns} · ${mean.metres.toFixed(4)} / (${(area * 1e6).toFixed(4)} · ${circuits})`,
            value: phase,
            unit: 'Ω',
            source: 'resistivity IEC 60028',
          });
          if (connection) {
            const line = phases === 1 ? phase : leadToLeadOhm(phase, connection);
            out.lineResistance20Ohm = line;
            note?.({
              name: 'Lead to lead at 20 °C',
              symbol: 'R_LL',
              formula: phases === 1 ? 'R of the main winding' : connection === 'wye' ? '2 R_ph' : '2/3 R_ph',
              numbers: `${phases === 1 ? '1' : connection === 'wye' ? '2' : '2/3'} · ${phase.toFixed(5)}`,
              value: line,
              unit: 'Ω',
              source: 'derived',
            });
            if (rating.currentA !== undefined) {
              const i = connection === 'wye' || phases === 1 ? rating.currentA : rating.currentA / Math.sqrt(3);
              out.copperLossAt115W = phases * i * i * phase * temperatureFactor(20, 115, material.temperatureConstantC);
            }
          }
        }
      }
      if (mean.geometryM !== undefined) out.geometryBareMassKg = massAt(mean.geometryM);
      if (record.sampleCoilM !== undefined) out.sampleBareMassKg = massAt(record.sampleCoilM);
    }
    const auxStrands = record.auxStrands ?? [];
    if (out.auxSeriesTurns !== undefined && auxStrands.length > 0 && record.auxSpansSlots) {
      const auxMean = windingMeanTurn.compute(
        windingMeanTurn.input.parse({
          form: 'concentric',
          coreLengthM: record.coreLengthM,
          boreM: record.boreM,
          slotDepthM: record.slotDepthM,
          slots: record.slots,
          spansSlots: record.auxSpansSlots,
          spanWeights: record.auxTurns?.length === record.auxSpansSlots.length ? record.auxTurns : undefined,
          extensionConnectionEndM: record.extensionConnectionEndM,
          extensionOppositeEndM: record.extensionOppositeEndM,
        }),
      ).geometryM;
      if (auxMean !== undefined) {
        const auxArea = conductorAreaM2(auxStrands);
        out.auxBareMassKg = material.densityKgM3 * auxArea * auxMean * out.auxSeriesTurns;
        out.auxResistance20Ohm = (material.resistivityOhmM * out.auxSeriesTurns * auxMean) / auxArea;
      }
    }
    return out;
  },
});
