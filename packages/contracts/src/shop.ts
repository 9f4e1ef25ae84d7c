import {
  METRIC_DEFAULTS,
  type ReadingDefaults,
  JOINT_KINDS,
  JOINT_ORDERS,
  leaveOutRefusal,
  redesignWeightsSchema,
  resinSchema,
  ROUTE_IDS,
  shopLimitsSchema,
  shopMaterialSchema,
  USUAL_MATERIALS,
} from '@norther/core';
import { z } from 'zod';
import { paperTemplatesSchema } from './paper.ts';

/** How the shop says and writes things; defaults are what a metric shop would choose. */
export const shopSettingsSchema = z.strictObject({
  name: z.string().trim().min(1).max(80),
  address: z.string().max(200).default(''),
  leadMarks: z.enum(['T', 'U']).default('U'),
  frameSchool: z.enum(['IEC', 'NEMA']).default('IEC'),
  units: z
    .strictObject({
      lengthUnit: z.enum(['mm', 'in']).default('mm'),
      temperatureUnit: z.enum(['°C', '°F']).default('°C'),
      massUnit: z.enum(['kg', 'lb']).default('kg'),
      powerUnit: z.enum(['kW', 'hp']).default('kW'),
      wireSystem: z.enum(['metric', 'awg', 'swg']).default('metric'),
    })
    .prefault({}),
  paper: z.enum(['A4', 'LETTER']).default('A4'),
  label: z
    .strictObject({
      widthMm: z.number().min(25).max(210).default(100),
      heightMm: z.number().min(20).max(300).default(60),
    })
    .prefault({}),
  dateFormat: z.enum(['yyyy-MM-dd', 'dd.MM.yyyy', 'dd/MM/yyyy', 'MM/dd/yyyy']).default('yyyy-MM-dd'),
  timeZone: z
    .string()
    .default('UTC')
    .refine((zone) => {
      try {
        new Intl.DateTimeFormat('en', { timeZone: zone });
        return true;
      } catch {
        return false;
      }
    }, 'This is not a time zone; use a name like Europe/Oslo or UTC.'),
  cureSchool: z.enum(['equivalent time', 'hold only']).default('equivalent time'),
  limits: shopLimitsSchema.default({}),
  /** operations this shop leaves out of a route when a motor is taken in; motors in the house keep theirs */
  leaveOut: z
    .partialRecord(
      z.enum(ROUTE_IDS),
      z.array(z.string()).superRefine((codes, ctx) => {
        const why = leaveOutRefusal(codes);
        if (why) ctx.addIssue({ code: 'custom', message: why });
      }),
    )
    .default({}),
  /** what the shop measures with; a reading with one out of calibration is looked at by a person */
  gauges: z
    .array(
      z.strictObject({
        name: z.string().trim().min(1, 'Name the instrument.').max(80),
        calibratedUntil: z.iso.date().nullable().default(null),
      }),
    )
    .max(300)
    .refine(
      (all) => new Set(all.map((g) => g.name.toLowerCase())).size === all.length,
      'Two instruments have the same name.',
    )
    .default([]),
  /** voltages for the loop of a core test, taps included, V */
  supplyTapsV: z.array(z.number().positive().max(1000)).max(20).default([]),
  resins: z.array(resinSchema).max(100).default([]),
  /** insulation and other material the shop works with */
  materials: z
    .array(shopMaterialSchema)
    .max(200)
    .default(() => USUAL_MATERIALS.map((m) => ({ ...m }))),
  /** how this shop makes its joints, and in which order, unless a sheet says otherwise */
  jointKind: z.enum(JOINT_KINDS).default('braze'),
  jointOrder: z.enum(JOINT_ORDERS).default('jumpers first'),
  /** what counts how much when candidates of a changed rewind are ranked */
  redesignWeights: redesignWeightsSchema.prefault({}),
  /** what the reports of this shop hold, and of single customers */
  papers: paperTemplatesSchema.prefault({}),
});
export type ShopSettings = z.output<typeof shopSettingsSchema>;

export const changeShopBody = z.strictObject({ version: z.int(), settings: shopSettingsSchema });
export interface ShopView {
  version: number;
  settings: ShopSettings;
}

/** What bare numbers mean in this shop, for reading typed fields. */
export function defaultsOf(settings: Pick<ShopSettings, 'units'>): ReadingDefaults {
  return { ...METRIC_DEFAULTS, ...settings.units };
}
