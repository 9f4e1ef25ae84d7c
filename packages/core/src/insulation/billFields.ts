import type { FieldSpec } from '../quantity/fields.ts';
import type { BillUse } from './materials.ts';

const length = { kind: 'quantity', dimension: 'length', unit: 'mm', min: 0 } as const;
const percent = { kind: 'quantity', dimension: 'number', unit: '', min: 0, max: 50 } as const;

/** What the person may alter of a bill; blank = as worked out from the record or as usual. */
export const BILL_FIELDS: readonly FieldSpec[] = [
  {
    name: 'slotBottom',
    label: 'Slot bottom',
    read: {
      kind: 'choice',
      options: [
        { value: 'flat', label: 'flat' },
        { value: 'round', label: 'round' },
      ],
    },
  },
  { name: 'slotTopWidth', label: 'Slot width under the lip', read: length },
  { name: 'slotBottomWidth', label: 'Slot width at the bottom', read: length },
  { name: 'slotBottomRadius', label: 'Bottom radius', read: length },
  { name: 'allowance', label: 'Liner above the slot, each side', read: { ...length, min: -0.02 } },
  { name: 'extension', label: 'Liner beyond the core', read: length, hint: 'each end' },
  { name: 'cuff', label: 'Cuff folded', read: length, hint: 'each end; 0 = none' },
  { name: 'sideMargin', label: 'Phase paper, side margin', read: length },
  { name: 'topMargin', label: 'Phase paper, top margin', read: length },
  { name: 'overhang', label: 'End turns beyond the core', read: length },
  {
    name: 'papers',
    label: 'Phase paper at a boundary',
    read: {
      kind: 'choice',
      options: [
        { value: 'two', label: 'a piece for each end' },
        { value: 'one', label: 'one piece spans both ends' },
      ],
    },
  },
  { name: 'groupTail', label: 'Tail of a group end', read: length, hint: 'slot to joint' },
  { name: 'groupSleeve', label: 'Sleeve on a group end', read: length },
  { name: 'jointSleeve', label: 'Sleeve on a joint', read: length },
  { name: 'leadLength', label: 'Lead, each', read: length },
  { name: 'stitches', label: 'Stitches of an end', read: { kind: 'count', min: 0, max: 300 } },
  { name: 'bundlePerimeter', label: 'Round the end turns', read: length, hint: 'perimeter the cord goes round' },
  { name: 'wireWaste', label: 'Wire or strip waste, %', read: percent },
  { name: 'sheetWaste', label: 'Sheet waste, %', read: percent },
  { name: 'sleeveWaste', label: 'Sleeve and cord waste, %', read: percent },
  {
    name: 'spoolKg',
    label: 'Net wire on a spool',
    read: { kind: 'quantity', dimension: 'mass', unit: 'kg', above: 0 },
  },
  ...(
    [
      ['slot liner', 'liner'],
      ['separator', 'separator'],
      ['phase paper', 'phase'],
      ['wedge', 'wedge'],
      ['group sleeving', 'sleeving'],
      ['joint sleeving', 'jointSleeving'],
      ['lacing cord', 'cord'],
      ['lead cable', 'lead'],
      ['braze metal', 'braze'],
      ['varnish', 'varnish'],
      ['turn tape', 'turnTape'],
      ['ground-wall tape', 'wallTape'],
      ['slot strip', 'slotStrip'],
    ] as const
  ).map(([use, name]): FieldSpec => ({ name: `${name}Material`, label: `Material: ${use}`, read: { kind: 'text' } })),
  {
    name: 'wireClass',
    label: 'Enamel class, °C',
    read: { kind: 'quantity', dimension: 'number', unit: '', min: 90, max: 250 },
    hint: 'blank = as its lots in stock state it',
  },
  {
    name: 'testedClass',
    label: 'Tested system: class, °C',
    read: { kind: 'quantity', dimension: 'number', unit: '', min: 90, max: 300 },
    hint: 'by its certificate, in place of the weakest member',
  },
  { name: 'certificate', label: 'Tested system: certificate', read: { kind: 'text' } },
  { name: 'spareCoils', label: 'Spare coils', read: { kind: 'count', min: 0, max: 12 }, hint: 'blank: one' },
  { name: 'turnTapeWidth', label: 'Turn tape, width', read: length, hint: 'blank: 20 mm' },
  { name: 'wallTapeWidth', label: 'Ground-wall tape, width', read: length, hint: 'blank: 25 mm' },
];
/** What of a bill is asked of coils of strip; everything else but these is asked of round wire. */
const OF_STRIP = ['spareCoils', 'turnTapeWidth', 'wallTapeWidth'];
const OF_BOTH = ['leadLength', 'wireWaste', 'testedClass', 'certificate'];
/** The fields of a bill that a winding of this kind has a use for. */
export const billFieldsOfKind = (kind: string): readonly FieldSpec[] =>
  BILL_FIELDS.filter((f) =>
    kind === 'form-wound'
      ? [...OF_STRIP, ...OF_BOTH].includes(f.name) || f.label.startsWith('Material:')
      : !OF_STRIP.includes(f.name),
  );

export const FIELD_OF_USE: Readonly<Record<BillUse, string>> = {
  'slot liner': 'linerMaterial',
  separator: 'separatorMaterial',
  'phase paper': 'phaseMaterial',
  wedge: 'wedgeMaterial',
  'group sleeving': 'sleevingMaterial',
  'joint sleeving': 'jointSleevingMaterial',
  'lacing cord': 'cordMaterial',
  'lead cable': 'leadMaterial',
  'braze metal': 'brazeMaterial',
  varnish: 'varnishMaterial',
  'turn tape': 'turnTapeMaterial',
  'ground-wall tape': 'wallTapeMaterial',
  'slot strip': 'slotStripMaterial',
};
export const billFieldOf = (use: BillUse): string => FIELD_OF_USE[use];
