import { z } from 'zod';

/** What insulation and other material is for. */
export const MATERIAL_USES = [
  'slot liner',
  'separator',
  'phase paper',
  'wedge',
  'group sleeving',
  'joint sleeving',
  'lacing cord',
  'lead cable',
  'braze metal',
  'varnish',
  'turn tape',
  'ground-wall tape',
  'slot strip',
  'solder',
  'bearing',
  'grease',
] as const;
export type MaterialUse = (typeof MATERIAL_USES)[number];
/** What only coils of strip take. */
const OF_STRIP: readonly MaterialUse[] = ['turn tape', 'ground-wall tape', 'slot strip'];
/** What only coils of round wire take. */
const OF_WIRE: readonly MaterialUse[] = [
  'slot liner',
  'separator',
  'phase paper',
  'group sleeving',
  'joint sleeving',
  'lacing cord',
];
/** What goes into the motor and is no part of a winding's bill. */
const OF_MOTOR = ['solder', 'bearing', 'grease'] as const satisfies readonly MaterialUse[];
/** What a winding is made of. */
export type BillUse = Exclude<MaterialUse, (typeof OF_MOTOR)[number]>;
/** The materials that a winding of this kind has a use for. */
export const usesOfKind = (kind: string): readonly BillUse[] =>
  MATERIAL_USES.filter(
    (use): use is BillUse =>
      !(OF_MOTOR as readonly string[]).includes(use) && !(kind === 'form-wound' ? OF_WIRE : OF_STRIP).includes(use),
  );

/** A material the shop works with. Fold lines of a slot cell run along the slot: how the grain lies is kept with it. */
export const shopMaterialSchema = z.strictObject({
  name: z.string().trim().min(1, 'Name the material.').max(80),
  use: z.array(z.enum(MATERIAL_USES)).min(1),
  /** thermal class, °C; null = nobody stated it */
  classC: z.number().min(60).max(300).nullable(),
  thicknessM: z.number().positive().max(0.01).optional(),
  densityKgM3: z.number().positive().max(20_000).optional(),
  supply: z.discriminatedUnion('kind', [
    z.strictObject({
      kind: z.literal('sheet'),
      lengthM: z.number().positive().max(20),
      widthM: z.number().positive().max(20),
      /** along: the piece's length lies along the sheet's length */
      grain: z.enum(['along', 'free']),
    }),
    z.strictObject({
      kind: z.literal('roll'),
      widthM: z.number().positive().max(5),
      /** which way the slot runs on the roll */
      slot: z.enum(['across', 'along']),
    }),
    z.strictObject({ kind: z.literal('length') }),
    z.strictObject({ kind: z.literal('piece') }),
    z.strictObject({ kind: z.literal('mass') }),
  ]),
  /** for a sheet, a metre of roll or length, a piece, or a kilogram */
  price: z.number().min(0).max(1e6).optional(),
});
export type ShopMaterial = z.output<typeof shopMaterialSchema>;

const mm = (x: number) => x / 1000;

/** A shop's first materials, typical of the trade (classes: common practice; the maker's data sheet decides). */
export const USUAL_MATERIALS: readonly ShopMaterial[] = [
  {
    name: 'Fleece-film-fleece laminate 0.25',
    use: ['slot liner', 'separator', 'phase paper'],
    classC: 155,
    thicknessM: mm(0.25),
    densityKgM3: 1150,
    supply: { kind: 'sheet', lengthM: 1, widthM: 0.6, grain: 'along' },
  },
  {
    name: 'Aramid paper 0.25',
    use: ['slot liner', 'separator', 'phase paper'],
    classC: 220,
    thicknessM: mm(0.25),
    densityKgM3: 960,
    supply: { kind: 'roll', widthM: 0.914, slot: 'across' },
  },
  {
    name: 'Aramid-film laminate 0.30',
    use: ['slot liner', 'separator', 'phase paper'],
    classC: 180,
    thicknessM: mm(0.3),
    densityKgM3: 1100,
    supply: { kind: 'roll', widthM: 0.914, slot: 'across' },
  },
  {
    name: 'Glass-epoxy wedge strip',
    use: ['wedge'],
    classC: 155,
    thicknessM: mm(1.5),
    supply: { kind: 'length' },
  },
  {
    name: 'Acrylic-coated glass sleeving',
    use: ['group sleeving', 'joint sleeving'],
    classC: 155,
    supply: { kind: 'length' },
  },
  {
    name: 'Silicone-coated glass sleeving',
    use: ['group sleeving', 'joint sleeving'],
    classC: 180,
    supply: { kind: 'length' },
  },
  { name: 'Polyester lacing cord', use: ['lacing cord'], classC: 155, supply: { kind: 'length' } },
  { name: 'Silicone rubber lead cable', use: ['lead cable'], classC: 180, supply: { kind: 'length' } },
  {
    name: 'Copper-phosphorus-silver alloy',
    use: ['braze metal'],
    classC: 250,
    densityKgM3: 8400,
    supply: { kind: 'mass' },
  },
  {
    name: 'Mica tape on film 0.08 × 20',
    use: ['turn tape'],
    classC: 155,
    thicknessM: mm(0.08),
    supply: { kind: 'length' },
  },
  {
    name: 'Mica tape on glass 0.13 × 25',
    use: ['ground-wall tape'],
    classC: 155,
    thicknessM: mm(0.13),
    supply: { kind: 'length' },
  },
  { name: 'Glass-epoxy strip', use: ['slot strip'], classC: 155, supply: { kind: 'piece' } },
  { name: 'Tin-copper solder', use: ['solder'], classC: 180, supply: { kind: 'mass' } },
  { name: 'Deep-groove ball bearing', use: ['bearing'], classC: 120, supply: { kind: 'piece' } },
  { name: 'Polyurea grease', use: ['grease'], classC: 150, supply: { kind: 'mass' } },
  { name: 'Polyester dip resin', use: ['varnish'], classC: 155, supply: { kind: 'mass' } },
  { name: 'Epoxy for vacuum-pressure', use: ['varnish'], classC: 180, supply: { kind: 'mass' } },
];
