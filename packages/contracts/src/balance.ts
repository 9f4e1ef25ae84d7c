import type { FieldSpec } from '@norther/core';

const angle = (name: string, label: string, required = true): FieldSpec => ({
  name,
  label,
  read: { kind: 'quantity', dimension: 'angle', unit: '°', min: -360, max: 720 },
  ...(required ? { required: true as const } : {}),
});
const number = (name: string, label: string, required = true): FieldSpec => ({
  name,
  label,
  read: { kind: 'quantity', dimension: 'number', unit: '', min: 0 },
  ...(required ? { required: true as const } : {}),
});
const length = (name: string, label: string, required = true): FieldSpec => ({
  name,
  label,
  read: { kind: 'quantity', dimension: 'length', unit: 'mm', above: 0 },
  ...(required ? { required: true as const } : {}),
});

/** Fields of a one-plane balance run, as typed at the stand. */
export const BALANCE_FIELDS: readonly FieldSpec[] = [
  {
    name: 'grade',
    label: 'Grade G',
    read: { kind: 'quantity', dimension: 'number', unit: '', above: 0 },
    required: true,
    hint: 'mm/s: 2.5, 6.3 …',
  },
  { name: 'mass', label: 'Rotor mass', read: { kind: 'quantity', dimension: 'mass', unit: 'kg', above: 0 } },
  {
    name: 'serviceSpeed',
    label: 'Highest service speed',
    read: { kind: 'quantity', dimension: 'speed', unit: 'r/min', above: 0 },
  },
  {
    name: 'balancingSpeed',
    label: 'Balancing speed',
    read: { kind: 'quantity', dimension: 'speed', unit: 'r/min', above: 0 },
  },
  { name: 'width', label: 'Rotor body, length', read: { kind: 'quantity', dimension: 'length', unit: 'mm', above: 0 } },
  { name: 'span', label: 'Bearing span', read: { kind: 'quantity', dimension: 'length', unit: 'mm', above: 0 } },
  length('radius', 'Correction radius'),
  {
    name: 'method',
    label: 'Correct by',
    read: {
      kind: 'choice',
      options: [
        { value: 'add', label: 'adding mass' },
        { value: 'remove', label: 'removing material' },
      ],
    },
    required: true,
  },
  {
    name: 'positions',
    label: 'Places on the rotor',
    read: { kind: 'count', min: 0, max: 360 },
    hint: 'equally spaced; 0 = anywhere',
  },
  angle('firstPosition', 'First place at', false),
  number('foundSize', 'As found, amplitude'),
  angle('foundAngle', 'As found, phase'),
  {
    name: 'trial',
    label: 'Trial mass × radius',
    read: { kind: 'quantity', dimension: 'unbalance', unit: 'g·mm', above: 0 },
    required: true,
  },
  angle('trialAngle', 'Trial at'),
  number('trialSize', 'With trial, amplitude'),
  angle('trialPhase', 'With trial, phase'),
  { name: 'trialStays', label: 'Trial stays in', read: { kind: 'flag' } },
  number('afterSize', 'After correction, amplitude', false),
  angle('afterPhase', 'After correction, phase', false),
  {
    name: 'scatter',
    label: 'Scatter of repeat runs',
    read: { kind: 'quantity', dimension: 'unbalance', unit: 'g·mm', min: 0 },
  },
  { name: 'stand', label: 'Stand', read: { kind: 'text' } },
];

type Values = Readonly<Record<string, unknown>>;

/** Typed balance fields in base units -> input of `balance.onePlane`. */
export function balanceInput(values: Values, limits: Readonly<Record<string, number>>): Record<string, unknown> {
  const n = (name: string) => (typeof values[name] === 'number' ? values[name] : undefined);
  const mm = (name: string) => {
    const metres = n(name);
    return metres === undefined ? undefined : metres * 1000;
  };
  const all = {
    grade: n('grade'),
    massKg: n('mass'),
    serviceSpeedRpm: n('serviceSpeed'),
    balancingSpeedRpm: n('balancingSpeed'),
    planeWidthMm: mm('width'),
    bearingSpanMm: mm('span'),
    correctionRadiusMm: mm('radius'),
    method: values['method'],
    positions: n('positions') ?? 0,
    firstPositionDeg: n('firstPosition') ?? 0,
    asFound: { size: n('foundSize'), angleDeg: n('foundAngle') },
    trial: { unbalanceGMm: n('trial'), angleDeg: n('trialAngle') },
    withTrial: { size: n('trialSize'), angleDeg: n('trialPhase') },
    trialStaysIn: values['trialStays'] === true,
    after: n('afterSize') === undefined ? undefined : { size: n('afterSize'), angleDeg: n('afterPhase') ?? 0 },
    scatterGMm: n('scatter') ?? 0,
    limits,
  };
  return Object.fromEntries(Object.entries(all).filter(([, v]) => v !== undefined));
}
