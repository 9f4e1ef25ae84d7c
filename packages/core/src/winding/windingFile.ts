import { z } from 'zod';
import { nameplateSchema, type Nameplate } from '../machine/nameplate.ts';
import { connectionOfRecord } from './connectionOfRecord.ts';
import type { Layout } from './layoutTypes.ts';
import { windingPartSchema, type WindingPart } from '../machine/parts.ts';
import { recordOfBefore, windingRecordSchema, type WindingRecord } from './record.ts';

/** A winding as a file of its own: documented in docs/winding-record.schema.json. SI units, as the names of the fields say. */
export const windingFileSchema = z.strictObject({
  format: z.literal('norther-winding'),
  formatVersion: z.literal(2),
  title: z.string().max(200),
  part: windingPartSchema.default('stator'),
  nameplate: nameplateSchema,
  record: windingRecordSchema,
});
export type WindingFile = z.output<typeof windingFileSchema>;

export function windingFile(
  title: string,
  part: WindingPart,
  nameplate: Nameplate,
  record: WindingRecord,
): WindingFile {
  return { format: 'norther-winding', formatVersion: 2, title, part, nameplate, record };
}

/** A winding file of today or of before: version 1 had one flat record for all kinds of winding. Throws a ZodError. */
export function readWindingFile(raw: unknown): WindingFile {
  const old = z.looseObject({ formatVersion: z.literal(1), record: z.record(z.string(), z.unknown()) }).safeParse(raw);
  if (!old.success) return windingFileSchema.parse(raw);
  return windingFileSchema.parse({ ...old.data, formatVersion: 2, record: recordOfBefore(old.data.record) });
}

/** The published schema of a winding file. */
export function windingFileJsonSchema(): Record<string, unknown> {
  return {
    ...(z.toJSONSchema(windingFileSchema, { io: 'input' }) as Record<string, unknown>),
    title: 'Norther winding record, version 2',
    description:
      'One winding as recorded. Lengths in m, areas in m², mass in kg, voltage in V, current in A, resistance in Ω, capacitance in F, temperature in °C; spans in slots ("1-9" is 8); numbers of slots, coils and groups count from 1, clockwise seen from the connection end.',
  };
}

/** Coil table: one line a coil. */
export function coilTable(layout: Layout): (string | number)[][] {
  return [
    ['coil', 'group', 'place in group', 'phase', 'polarity', 'go slot', 'return slot', 'span, slots', 'turns'],
    ...layout.coils.map((c) => [
      c.number,
      c.group,
      c.position,
      c.phase,
      c.sign === 1 ? '+' : '-',
      c.goSlot,
      c.returnSlot,
      c.spanSlots,
      c.turns,
    ]),
  ];
}

/** Group table: one line a group, with what its two ends are joined to. */
export function groupTable(record: WindingRecord): (string | number)[][] {
  const { layout, connection } = connectionOfRecord(record);
  if (!layout) return [];
  const joined = new Map<string, string[]>();
  const meet = (end: string, what: string) => joined.set(end, [...(joined.get(end) ?? []), what]);
  for (const j of connection?.jumpers ?? []) {
    meet(j.from, j.to);
    meet(j.to, j.from);
  }
  for (const node of connection?.nodes ?? []) for (const end of node.ends) meet(end, node.name);
  return [
    ['group', 'phase', 'polarity', 'coils', 'first go slot', 'last return slot', 'start joined to', 'finish joined to'],
    ...layout.groups.map((g) => {
      const first = layout.coils[(g.coils[0] ?? 1) - 1];
      const last = layout.coils[(g.coils[g.coils.length - 1] ?? 1) - 1];
      return [
        g.number,
        g.phase,
        g.sign === 1 ? '+' : '-',
        g.coils.length,
        first?.goSlot ?? '',
        last?.returnSlot ?? '',
        (joined.get(`${g.number}S`) ?? []).join(' '),
        (joined.get(`${g.number}F`) ?? []).join(' '),
      ];
    }),
  ];
}
