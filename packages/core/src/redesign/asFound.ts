import { refuse } from '../calculation.ts';
import { hasMagnets } from '../machine/machineKind.ts';
import { NAMEPLATE_FIELDS, type Nameplate } from '../machine/nameplate.ts';
import { windingFigures } from '../winding/figures.ts';
import { inHalves, layoutInputOf, ratingOf, runningConnection } from '../winding/recordLayout.ts';
import type { Layout } from '../winding/layoutTypes.ts';
import { layoutOf } from '../winding/layout.ts';
import type { WindingRecord } from '../winding/record.ts';
import { WINDING_FIELDS } from '../winding/recordFields.ts';

/** What a redesign starts from, complete. */
export interface AsFound {
  record: WindingRecord;
  layout: Layout;
  turns: number;
  circuits: number;
  connection: 'wye' | 'delta';
  voltageV: number;
  frequencyHz: number;
  currentA: number | undefined;
  windingFactor: number;
  areaM2: number;
  airGapT: number;
  backIronT: number | undefined;
  meanTurnM: number | undefined;
  density: number | undefined;
  voltsPerCoil: number;
  /** leads that bring out halves: circuits of a candidate must be even */
  halves: boolean;
}

/** What the sheets call a field. */
const benchLabel = (name: string): string =>
  [...WINDING_FIELDS, ...NAMEPLATE_FIELDS].find((f) => f.name === name)?.label.toLowerCase() ?? name;

/** Why a winding cannot be searched as something else; nothing where it can. Screen and server ask the same. */
export function whyNotSearched(
  record: WindingRecord,
  nameplate: Nameplate,
): { field: string; message: string } | undefined {
  if (record.kind !== 'three-phase')
    return { field: 'record.kind', message: 'The search is for three-phase windings of one speed.' };
  if (hasMagnets(nameplate))
    return {
      field: 'nameplate.machine',
      message: 'The flux is the magnets’, other turns only move Ke: take "as found, other wire" with a factor.',
    };
  if (record.coilList || record.layers === 'mixed')
    return {
      field: record.coilList ? 'record.coilList' : 'record.layers',
      message: 'The search is for windings laid by their span; this one takes other wire and turns as found.',
    };
  return undefined;
}

/** Reads what is there; refuses with the field that is missing. */
export function asFoundOf(record: WindingRecord, nameplate: Nameplate): AsFound {
  const why = whyNotSearched(record, nameplate);
  if (why) refuse(why.field, why.message);
  const input = layoutInputOf(record);
  const figures = windingFigures.compute(windingFigures.input.parse({ record, nameplate }));
  const { voltageV, currentA } = ratingOf(nameplate, record);
  const connection = runningConnection(record);
  const f = nameplate.frequencyHz;
  const missing = (
    [
      ['record.spansSlots', input],
      ['record.turns', figures.seriesTurns],
      ['record.strands', figures.conductorAreaM2],
      ['record.boreM', record.boreM],
      ['record.coreLengthM', record.coreLengthM],
      ['nameplate.voltagesV', voltageV],
      ['nameplate.frequencyHz', f],
      ['record.connection', connection],
    ] as const
  ).filter(([, v]) => v === undefined);
  if (missing.length > 0)
    refuse(
      missing[0]?.[0] ?? 'record',
      `The search needs the winding as found complete: ${missing.map(([k]) => benchLabel(k.split('.')[1] ?? k)).join(', ')} missing.`,
    );
  const turns = record.turns ?? [];
  if (new Set(turns).size > 1) refuse('record.turns', 'The search is for coils of equal turns.');
  const layout = layoutOf({ ...(input as NonNullable<typeof input>), turns: [1] });
  return {
    record,
    layout,
    turns: turns[0] as number,
    circuits: (figures.totalTurns as number) / (3 * (figures.seriesTurns as number)),
    connection: connection as 'wye' | 'delta',
    voltageV: voltageV as number,
    frequencyHz: f as number,
    currentA,
    windingFactor: figures.windingFactor as number,
    areaM2: figures.conductorAreaM2 as number,
    airGapT: figures.airGapT as number,
    backIronT: figures.backIronT,
    meanTurnM: figures.meanTurnM,
    density: figures.currentDensityAMm2,
    voltsPerCoil: figures.voltsPerCoil as number,
    halves: inHalves(record),
  };
}

/** EMF of a phase at a line voltage. */
export const phaseVolts = (connection: 'wye' | 'delta', volts: number) =>
  connection === 'wye' ? volts / Math.sqrt(3) : volts;
