import { outputAndTorque } from './torque.ts';
import type { Nameplate } from '../machine/nameplate.ts';
import { formatNumber } from '../quantity/format.ts';
import { inHalves, ratingOf } from '../winding/recordLayout.ts';
import { typedOfRecord } from '../winding/readRecord.ts';
import type { WindingRecord } from '../winding/record.ts';
import { WINDING_FIELDS } from '../winding/recordFields.ts';
import type { Candidate, RedesignWish } from './wish.ts';

/** The record of a changed rewind: the candidate's winding in the core as found; what was counted on the old one is dropped. */
export function plannedRecord(record: WindingRecord, c: Candidate): WindingRecord {
  const dropped = new Set<keyof WindingRecord>([
    'turnsSecondCount',
    'coilCount',
    'groupCount',
    'grouping',
    'endsPerLead',
    'wireTipsPerLead',
    'starPoints',
    'endsPerStar',
    'leadOneGroup',
    'jumper',
    'copperKg',
    'copperState',
    'resistanceOhm',
    'resistanceTemperatureC',
    'phasePaper',
  ]);
  const kept = Object.fromEntries(
    Object.entries(record).filter(([k]) => !dropped.has(k as keyof WindingRecord)),
  ) as Extract<WindingRecord, { kind: 'three-phase' }>;
  return {
    ...kept,
    poles: c.poles,
    layers: c.layers,
    form: c.form,
    ...(c.layers === (record.layers ?? 'double') ? {} : { poleGroups: 'every-pole' as const }),
    spansSlots: c.spansSlots,
    turns: [c.turns],
    strands: c.strands.map((s) => ({ ...s })),
    connection: c.connection,
    circuits: inHalves(record) ? c.circuits / 2 : c.circuits,
    ...(c.meanTurnM === undefined ? {} : { sampleCoilM: c.meanTurnM }),
  };
}

/**
 * The nameplate of a changed rewind. The motor needs a new plate whenever this differs from the old; a plate of two
 * voltages keeps only the one it is wound for when the connection is another.
 */
export function plannedPlate(
  nameplate: Nameplate,
  record: WindingRecord,
  wish: RedesignWish,
  connection: 'wye' | 'delta' | undefined,
): Nameplate {
  const { voltageV, currentA } = ratingOf(nameplate, record);
  const hertz = wish.frequencyHz ?? nameplate.frequencyHz;
  const oldPoles = record.poles ?? nameplate.poles;
  const poles = wish.poles ?? oldPoles;
  const outputRatio =
    nameplate.frequencyHz === undefined || oldPoles === undefined
      ? (wish.powerRatio ?? 1)
      : outputAndTorque(wish, { frequencyHz: nameplate.frequencyHz, poles: oldPoles }).outputRatio;
  const changed =
    (wish.lineVoltageV !== undefined && wish.lineVoltageV !== voltageV) ||
    outputRatio !== 1 ||
    hertz !== nameplate.frequencyHz ||
    poles !== oldPoles ||
    (connection !== record.connection && (nameplate.voltagesV?.length ?? 0) > 1);
  if (!changed) return nameplate;
  const volts = wish.lineVoltageV ?? voltageV;
  const speedRatio =
    hertz && nameplate.frequencyHz && poles && oldPoles ? (hertz / nameplate.frequencyHz) * (oldPoles / poles) : 1;
  const { voltagesV: _v, currentsA: _c, plateConnection: _p, ...rest } = nameplate;
  return {
    ...rest,
    ...(volts === undefined ? {} : { voltagesV: [volts] }),
    ...(currentA === undefined || volts === undefined || voltageV === undefined
      ? {}
      : { currentsA: [(currentA * outputRatio * voltageV) / volts] }),
    ...(hertz === undefined ? {} : { frequencyHz: hertz }),
    ...(nameplate.outputW === undefined ? {} : { outputW: nameplate.outputW * outputRatio }),
    ...(nameplate.speedRpm === undefined ? {} : { speedRpm: nameplate.speedRpm * speedRatio }),
    ...(nameplate.poles === undefined || poles === undefined ? {} : { poles }),
  };
}

export interface PlanChange {
  field: string;
  label: string;
  was: string;
  is: string;
}

const SAID = [
  'poles',
  'layers',
  'form',
  'spansSlots',
  'turns',
  'strands',
  'auxTurns',
  'auxStrands',
  'material',
  'connection',
  'circuits',
] as const;

/** What a plan changes against the winding as found, in the words of the sheet. */
export function planChanges(
  found: WindingRecord,
  planned: WindingRecord,
  plates?: { was: Nameplate; is: Nameplate },
): PlanChange[] {
  const [a, b] = [typedOfRecord(found), typedOfRecord(planned)];
  const out: PlanChange[] = SAID.flatMap((field) => {
    const spec = WINDING_FIELDS.find((f) => f.name === field);
    const [was, is] = [a[field] ?? '', b[field] ?? ''];
    if (!spec || was === is || (was === '' && (is === 'double' || is === 'lap'))) return [];
    return [{ field, label: spec.label, was: was || 'not recorded', is }];
  });
  if (plates) {
    const row = (field: string, label: string, was: number | undefined, is: number | undefined, unit: string) => {
      if (was !== undefined && is !== undefined && Math.abs(is / was - 1) > 1e-6)
        out.push({ field, label, was: `${formatNumber(was, 4)} ${unit}`, is: `${formatNumber(is, 4)} ${unit}` });
    };
    const [x, y] = [ratingOf(plates.was, found), ratingOf(plates.is, planned)];
    row('voltagesV', 'Voltage', x.voltageV, y.voltageV, 'V');
    row('currentsA', 'Current', x.currentA, y.currentA, 'A');
    row('frequencyHz', 'Frequency', plates.was.frequencyHz, plates.is.frequencyHz, 'Hz');
    row(
      'outputW',
      'Output',
      plates.was.outputW && plates.was.outputW / 1000,
      plates.is.outputW && plates.is.outputW / 1000,
      'kW',
    );
    row('speedRpm', 'Speed, about', plates.was.speedRpm, plates.is.speedRpm, 'r/min');
  }
  return out;
}
