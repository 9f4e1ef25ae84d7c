import { defaultsOf, type archiveImportBody, type ShopSettings } from '@norther/contracts';
import {
  checkRecord,
  NAMEPLATE_FIELDS,
  nameplateSchema,
  readForm,
  readWindingRecord,
  type Nameplate,
} from '@norther/core';
import type { z } from 'zod';
import type { ArchiveRepository } from './archiveRepository.ts';

export type OldRows = z.output<typeof archiveImportBody>['rows'];
export type OldRecord = Parameters<ArchiveRepository['add']>[1][number];

/** Old records as they are kept, read and checked by the rules of the shop; what cannot be right names its line. */
export function readOldRecords(
  rows: OldRows,
  settings: ShopSettings,
  by: { fileName: string; personName: string; at: Date },
): { values: OldRecord[]; problems: { field: string; message: string }[] } {
  const defaults = defaultsOf(settings);
  const problems: { field: string; message: string }[] = [];
  const values = rows.map((row) => {
    const plate = readForm(NAMEPLATE_FIELDS, row.plateTyped, defaults);
    const winding = readWindingRecord(row.typed, defaults);
    const nameplate = nameplateSchema.safeParse(plate.values);
    const say = (message: string) =>
      problems.push({ field: `rows.${row.line}`, message: `Line ${row.line}: ${message}` });
    for (const p of [...plate.problems, ...winding.problems]) say(`${p.label}: ${p.message}`);
    if (winding.record.slots === undefined || winding.record.poles === undefined) say('Slots and poles are needed.');
    if (!nameplate.success) say('The nameplate cannot be read.');
    const wrong = checkRecord(winding.record, nameplate.success ? nameplate.data : ({} as Nameplate), settings.limits);
    for (const f of wrong) if (f.severity === 'E') say(f.message);
    return {
      title: row.title,
      nameplateTyped: row.plateTyped,
      nameplate: nameplate.success ? nameplate.data : {},
      typed: row.typed,
      record: winding.record,
      readWith: defaults,
      ...by,
    };
  });
  return { values, problems };
}
