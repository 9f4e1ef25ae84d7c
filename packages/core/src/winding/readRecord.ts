import { sentenceOfIssue } from '../problems.ts';
import { fromBase } from '../quantity/units.ts';
import { readForm, type FormReading, type ReadingDefaults, type Typed } from '../quantity/fields.ts';
import { fieldsOfKind, RECORD_KINDS, windingRecordSchema, type WindingRecord } from './record.ts';
import { WINDING_FIELDS } from './recordFields.ts';
import { sayPairs, saySpans } from './say.ts';

/** Base area unit is m², typed bare in mm²; everything else is read by its field. */
export function readWindingRecord(typed: Typed, defaults: ReadingDefaults): FormReading & { record: WindingRecord } {
  const reading = readForm(WINDING_FIELDS, typed, defaults);
  const kind = RECORD_KINDS.find((k) => k === reading.values['kind']) ?? 'three-phase';
  // what was typed for another kind of winding stays typed and is no part of this one
  const fields = fieldsOfKind(kind);
  const values = Object.fromEntries(Object.entries({ ...reading.values, kind }).filter(([name]) => fields.has(name)));
  const parsed = windingRecordSchema.safeParse(values);
  if (parsed.success) return { ...reading, record: parsed.data };
  // a field that reads well but does not fit the record is named, and the rest is kept
  const unfit = new Set(parsed.error.issues.map((issue) => String(issue.path[0] ?? '')));
  for (const issue of parsed.error.issues) {
    const field = String(issue.path[0] ?? '');
    const label = WINDING_FIELDS.find((f) => f.name === field)?.label ?? field;
    reading.problems.push({ field, label, message: `${label}: ${sentenceOfIssue(issue)}` });
  }
  const kept = Object.fromEntries(Object.entries(values).filter(([name]) => !unfit.has(name)));
  return { ...reading, record: windingRecordSchema.parse(kept) };
}

/**
 * A record as it would be typed, every unit written out: for taking over a file. Reading it back gives the same record.
 * @returns typed text by field name
 */
export function typedOfRecord(record: WindingRecord): Record<string, string> {
  const out: Record<string, string> = {};
  for (const { name, read } of WINDING_FIELDS) {
    const value = record[name as keyof WindingRecord];
    if (value === undefined) continue;
    switch (read.kind) {
      case 'quantity':
        out[name] = `${plainNumber(fromBase(value as number, read.dimension, read.unit))} ${read.unit}`.trim();
        break;
      case 'counts':
        out[name] = (value as number[]).join(', ');
        break;
      case 'spans':
        out[name] = saySpans(value as number[]) ?? '';
        break;
      case 'slotPairs':
        out[name] = sayPairs(value as [number, number][]);
        break;
      case 'words':
        out[name] = (value as string[]).join(', ');
        break;
      case 'wires':
        out[name] = (value as WindingRecord['strands'] & object)
          .map((s) => `${s.count}x${plainNumber(s.bareM * 1000)} mm`)
          .join(' + ');
        break;
      default:
        out[name] = String(value);
    }
  }
  return out;
}

/** Twelve figures, never an exponent, no trailing noise. */
const plainNumber = (x: number): string => String(Number(x.toPrecision(12)));
