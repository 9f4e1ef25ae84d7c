import type { FieldSpec } from '../quantity/fields.ts';
import { AUXILIARY_KINDS, LEAD_COUNTS } from './record.ts';
import { SIDE_KINDS } from './mixedLayers.ts';
import { DUTIES } from './twoSpeed.ts';

const length = (min?: number) => ({ kind: 'quantity', dimension: 'length', unit: 'mm', above: min ?? 0 }) as const;
const options = (...values: string[]) =>
  ({ kind: 'choice', options: values.map((v) => ({ value: v, label: v })) }) as const;

/** The fields of the as-found sheet, in the order they are taken at the bench. Labels and hints are the bench's words. */
export const WINDING_FIELDS: readonly FieldSpec[] = [
  {
    name: 'kind',
    label: 'Kind of winding',
    read: {
      kind: 'choice',
      assumed: 'three-phase',
      options: [
        { value: 'three-phase', label: 'three-phase' },
        { value: 'two-speed', label: 'two speeds, one winding 2:1' },
        { value: 'single-phase', label: 'single-phase, main and auxiliary' },
        { value: 'tooth-coil', label: 'tooth coils, one round each tooth' },
        { value: 'bar-rotor', label: 'wound rotor of bars' },
      ],
    },
  },
  { name: 'slots', label: 'Slots', read: { kind: 'count', min: 6, max: 144 } },
  { name: 'poles', label: 'Poles', read: { kind: 'count', min: 2, max: 48, even: true } },
  {
    name: 'layers',
    label: 'Layers',
    read: {
      kind: 'choice',
      options: [
        { value: 'double', label: 'two coil sides in a slot' },
        { value: 'single', label: 'one coil side in a slot' },
        { value: 'mixed', label: 'mixed: some slots one, some two' },
      ],
    },
  },
  {
    name: 'form',
    label: 'Coils',
    read: {
      kind: 'choice',
      options: [
        { value: 'lap', label: 'lap (all alike)' },
        { value: 'concentric', label: 'concentric' },
      ],
    },
  },
  {
    name: 'poleGroups',
    label: 'Groups',
    read: {
      kind: 'choice',
      options: [
        { value: 'every-pole', label: 'a group for every pole' },
        { value: 'consequent', label: 'a group for every second pole' },
      ],
    },
  },
  {
    name: 'barsPerSlot',
    label: 'Bars in a slot',
    read: { kind: 'count', min: 2, max: 8, even: true },
    hint: 'as a rule two: one over the other',
  },
  { name: 'barWidthM', label: 'Bar, width', read: length() },
  { name: 'barHeightM', label: 'Bar, height', read: length() },
  {
    name: 'farPitchSlots',
    label: 'Pitch at the far end, slots',
    read: { kind: 'count', min: 1, max: 72 },
    hint: 'top bar to bottom bar; blank = a pole pitch',
  },
  { name: 'coilCount', label: 'Coils in all', read: { kind: 'count', min: 1, max: 288 } },
  { name: 'groupCount', label: 'Groups in all', read: { kind: 'count', min: 1, max: 288 } },
  { name: 'grouping', label: 'Coils per group', read: { kind: 'counts' }, hint: 'round the bore: 3-3-3 or 12x3' },
  {
    name: 'spansSlots',
    label: 'Span',
    read: { kind: 'spans' },
    hint: 'as counted, from 1: 1‑9; concentric: 1‑12, 2‑11, 3‑10',
  },
  {
    name: 'coilList',
    label: 'Coils, slot to slot',
    read: { kind: 'slotPairs' },
    hint: 'single layer, in the order wound: 1-9, 2-10, 11-18; one repeat is enough',
  },
  {
    name: 'sideKinds',
    label: 'Full or half sides',
    read: { kind: 'words', options: SIDE_KINDS },
    hint: 'mixed layers, outermost first: full, half',
  },
  {
    name: 'turns',
    label: 'Turns per coil',
    read: { kind: 'counts' },
    hint: 'one number, or every coil of a group, outermost first',
  },
  {
    name: 'turnsSecondCount',
    label: 'Turns, second count',
    read: { kind: 'counts' },
    hint: 'another coil, counted afresh',
  },
  { name: 'strands', label: 'Wires in hand', read: { kind: 'wires' }, hint: '2x18+1x17 or 2x0.85' },
  {
    name: 'wireGrade',
    label: 'Enamel',
    read: {
      kind: 'choice',
      options: [
        { value: '1', label: 'grade 1 / single' },
        { value: '2', label: 'grade 2 / heavy' },
      ],
    },
  },
  {
    name: 'auxSpansSlots',
    label: 'Auxiliary, spans',
    read: { kind: 'spans' },
    hint: 'coils of a pole, outermost first: 1-9, 2-8',
  },
  {
    name: 'auxTurns',
    label: 'Auxiliary, turns',
    read: { kind: 'counts' },
    hint: 'one number, or every coil of a pole',
  },
  { name: 'auxStrands', label: 'Auxiliary, wires in hand', read: { kind: 'wires' } },
  { name: 'auxKind', label: 'Auxiliary works as', read: options(...AUXILIARY_KINDS) },
  {
    name: 'auxShiftSlots',
    label: 'Axis shift, slots',
    read: { kind: 'quantity', dimension: 'number', unit: '', above: 0, max: 72 },
    hint: 'main to auxiliary; blank = half a pole',
  },
  {
    name: 'capacitorF',
    label: 'Capacitor',
    read: { kind: 'quantity', dimension: 'capacitance', unit: 'µF', above: 0 },
  },
  {
    name: 'startCapacitorF',
    label: 'Start capacitor',
    read: { kind: 'quantity', dimension: 'capacitance', unit: 'µF', above: 0 },
    hint: 'beside a run capacitor',
  },
  {
    name: 'auxCapacitorV',
    label: 'Capacitor rated',
    read: { kind: 'quantity', dimension: 'voltage', unit: 'V', above: 0 },
  },
  { name: 'material', label: 'Conductor', read: options('copper', 'aluminium') },
  {
    name: 'connection',
    label: 'Connection',
    read: {
      kind: 'choice',
      options: [
        { value: 'wye', label: 'wye (star)' },
        { value: 'delta', label: 'delta' },
      ],
    },
  },
  {
    name: 'circuits',
    label: 'Circuits',
    read: { kind: 'count', min: 1, max: 48 },
    hint: 'parallel paths in each phase; 9 or 12 leads, two speeds: in each half',
  },
  { name: 'leads', label: 'Leads out', read: options(...LEAD_COUNTS) },
  { name: 'duty', label: 'Two speeds for', read: options(...DUTIES) },
  {
    name: 'jumper',
    label: 'Jumpers',
    read: {
      kind: 'choice',
      options: [
        { value: 'adjacent-pole', label: 'short, 1-4 (next pole)' },
        { value: 'skip-pole', label: 'long, 1-7 (next but one)' },
      ],
    },
  },
  { name: 'leadOneGroup', label: 'Group of lead 1', read: { kind: 'count', min: 1, max: 144 } },
  { name: 'endsPerLead', label: 'Group ends per lead', read: { kind: 'count', min: 1, max: 96 } },
  { name: 'wireTipsPerLead', label: 'Wire tips per lead', read: { kind: 'count', min: 1, max: 960 } },
  { name: 'starPoints', label: 'Star points inside', read: { kind: 'count', min: 0, max: 48 } },
  { name: 'endsPerStar', label: 'Ends in each star', read: { kind: 'count', min: 0, max: 144 } },
  { name: 'boreM', label: 'Bore', read: length() },
  { name: 'coreLengthM', label: 'Core length', read: length() },
  { name: 'ductCount', label: 'Ducts', read: { kind: 'count', min: 0, max: 20 } },
  { name: 'ductWidthM', label: 'Duct width', read: length() },
  { name: 'coreOuterM', label: 'Core outside', read: length() },
  { name: 'backIronM', label: 'Back iron', read: length(), hint: 'behind the slot' },
  { name: 'toothWidthM', label: 'Tooth, narrowest', read: length() },
  { name: 'slotDepthM', label: 'Slot depth', read: length() },
  { name: 'slotOpeningM', label: 'Slot opening', read: length() },
  {
    name: 'slotAreaM2',
    label: 'Slot area, gross',
    read: { kind: 'quantity', dimension: 'area', unit: 'mm²', above: 0 },
  },
  {
    name: 'slotNetAreaM2',
    label: 'Slot area, net',
    read: { kind: 'quantity', dimension: 'area', unit: 'mm²', above: 0 },
    hint: 'less liner, separator, wedge',
  },
  { name: 'airGapM', label: 'Air gap', read: length() },
  { name: 'rotorBars', label: 'Rotor bars', read: { kind: 'count', min: 0, max: 200 } },
  {
    name: 'skewSlots',
    label: 'Skew, slots',
    read: { kind: 'quantity', dimension: 'number', unit: '', min: 0, max: 4 },
  },
  { name: 'extensionConnectionEndM', label: 'End turns, lead end', read: length(), hint: 'beyond the core' },
  { name: 'extensionOppositeEndM', label: 'End turns, other end', read: length() },
  { name: 'overhangOuterM', label: 'End turns outside Ø', read: length() },
  { name: 'overhangInnerM', label: 'End turns inside Ø', read: length() },
  { name: 'leadExit', label: 'Leads come out at', read: { kind: 'text' }, hint: 'clock, seen from the lead end' },
  { name: 'connectionSide', label: 'Lead end is at', read: options('drive end', 'opposite end') },
  { name: 'leadSize', label: 'Lead cable', read: { kind: 'text' } },
  { name: 'leadMarks', label: 'Lead marks', read: { kind: 'text' } },
  { name: 'linerM', label: 'Slot liner', read: length() },
  { name: 'separatorM', label: 'Separator', read: length() },
  { name: 'toothInsulationSideM', label: 'Tooth insulation, side', read: length() },
  { name: 'toothInsulationEndM', label: 'Tooth insulation, end', read: length() },
  { name: 'bobbinRadiusM', label: 'Corner of the bobbin, radius', read: length() },
  { name: 'windingHeightM', label: 'Winding, height along the tooth', read: length() },
  { name: 'coilGapM', label: 'Gap between two coils', read: length() },
  { name: 'wedge', label: 'Wedge', read: { kind: 'text' } },
  { name: 'phasePaper', label: 'Phase paper', read: { kind: 'text' } },
  {
    name: 'copperKg',
    label: 'Copper removed',
    read: { kind: 'quantity', dimension: 'mass', unit: 'kg', above: 0 },
    hint: 'cut-off end and stripped part together',
  },
  { name: 'copperState', label: 'Weighed', read: options('burned clean', 'with enamel') },
  { name: 'sampleCoilM', label: 'Mean turn of a sample coil', read: length() },
  {
    name: 'resistanceOhm',
    label: 'Resistance, lead to lead',
    read: { kind: 'quantity', dimension: 'resistance', unit: 'Ω', above: 0 },
    hint: 'before stripping',
  },
  {
    name: 'resistanceTemperatureC',
    label: 'at winding temperature',
    read: { kind: 'quantity', dimension: 'temperature', unit: '°C', min: -40, max: 200 },
  },
  { name: 'startedFrom', label: 'Started from', read: { kind: 'text' } },
  { name: 'remarks', label: 'Remarks', read: { kind: 'text', long: true } },
];
