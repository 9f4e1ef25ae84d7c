import { fieldsOfKind, type WindingRecord } from '@norther/core';

/** A heading of the sheet and the fields below it. */
export interface Section {
  title: string;
  fields: readonly string[];
}
const END_AND_AFTER: readonly Section[] = [
  {
    title: 'Core',
    fields: [
      'boreM',
      'coreLengthM',
      'coreOuterM',
      'backIronM',
      'toothWidthM',
      'slotDepthM',
      'slotOpeningM',
      'slotAreaM2',
      'slotNetAreaM2',
      'airGapM',
      'ductCount',
      'ductWidthM',
      'rotorBars',
      'skewSlots',
    ],
  },
  {
    title: 'End turns and insulation',
    fields: [
      'extensionConnectionEndM',
      'extensionOppositeEndM',
      'overhangOuterM',
      'overhangInnerM',
      'toothInsulationSideM',
      'toothInsulationEndM',
      'bobbinRadiusM',
      'windingHeightM',
      'coilGapM',
      'linerM',
      'separatorM',
      'wedge',
      'phasePaper',
    ],
  },
  {
    title: 'Before and after stripping',
    fields: ['resistanceOhm', 'resistanceTemperatureC', 'copperKg', 'copperState', 'sampleCoilM'],
  },
];
const LEADS = ['leadOneGroup', 'leadExit', 'connectionSide', 'leadSize', 'leadMarks'];

/** Fields that only one way of laying the coils has. */
const BY_LAYERS: Readonly<Record<string, string>> = { coilList: 'single', sideKinds: 'mixed' };

/** The sheet asks only what its kind of winding has, laid as it is; what was typed already is never hidden. */
export function sectionsOf(kind: WindingRecord['kind'], typed: Readonly<Record<string, string>>): readonly Section[] {
  const fields = fieldsOfKind(kind);
  const asked = (name: string) =>
    fields.has(name) &&
    (BY_LAYERS[name] === undefined || BY_LAYERS[name] === typed['layers'] || (typed[name] ?? '') !== '');
  return allSectionsOf(kind)
    .map((s) => ({ ...s, fields: s.fields.filter(asked) }))
    .filter((s) => s.fields.length > 0);
}

function allSectionsOf(kind: WindingRecord['kind']): readonly Section[] {
  if (kind === 'single-phase')
    return [
      { title: 'Count', fields: ['kind', 'slots', 'poles', 'poleGroups', 'groupCount'] },
      { title: 'Main winding', fields: ['spansSlots', 'turns', 'turnsSecondCount', 'strands', 'circuits', 'jumper'] },
      {
        title: 'Auxiliary winding',
        fields: [
          'auxKind',
          'auxSpansSlots',
          'auxTurns',
          'auxStrands',
          'auxShiftSlots',
          'capacitorF',
          'auxCapacitorV',
          'startCapacitorF',
        ],
      },
      {
        title: 'Wire and leads',
        fields: ['wireGrade', 'material', 'leadExit', 'connectionSide', 'leadSize', 'leadMarks'],
      },
      ...END_AND_AFTER,
    ];
  const two = kind === 'two-speed';
  return [
    {
      title: 'Count',
      fields: [
        'kind',
        'slots',
        'poles',
        ...(two ? [] : ['layers']),
        'form',
        ...(two ? [] : ['poleGroups']),
        'coilCount',
        'groupCount',
        'grouping',
        'spansSlots',
        'coilList',
        'sideKinds',
      ],
    },
    {
      title: 'Strip and insulation of the coil',
      fields: [
        'stripThicknessM',
        'stripWidthM',
        'stripCornerM',
        'stripsWide',
        'stripsHigh',
        'strandBuildM',
        'turnTapeM',
        'groundWallM',
      ],
    },
    {
      title: 'Slot build-up and ends',
      fields: ['slotWidthM', 'bottomStripM', 'topStripM', 'wedgeDepthM', 'coilStraightM', 'knucklePinM'],
    },
    { title: 'Bars', fields: ['barsPerSlot', 'barWidthM', 'barHeightM', 'farPitchSlots'] },
    { title: 'Turns and wire', fields: ['turns', 'turnsSecondCount', 'strands', 'wireGrade', 'material'] },
    {
      title: 'Connection',
      fields: two
        ? ['duty', 'circuits', 'starPoints', 'endsPerStar', ...LEADS]
        : [
            'connection',
            'circuits',
            'leads',
            'jumper',
            'endsPerLead',
            'wireTipsPerLead',
            'starPoints',
            'endsPerStar',
            ...LEADS,
          ],
    },
    ...END_AND_AFTER,
  ];
}
