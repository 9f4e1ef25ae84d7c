import type { FieldSpec, FieldValue } from '../quantity/fields.ts';
import {
  PLACE_NAMES,
  ROTOR_KINDS,
  UNBALANCE_UNITS,
  WAYS,
  balanceSetUpSchema,
  type BalanceSetUp,
  type StoredSet,
} from './setUp.ts';

type Options = { required?: true; hint?: string };
const need = { required: true } as const;
const place = (name: string, label: string, o: Options = {}): FieldSpec => ({
  name,
  label,
  read: { kind: 'quantity', dimension: 'length', unit: 'mm', min: -20 },
  ...o,
});
const size = (name: string, label: string, o: Options = {}): FieldSpec => ({
  name,
  label,
  read: { kind: 'quantity', dimension: 'length', unit: 'mm', above: 0 },
  ...o,
});
const runOut = (name: string, label: string): FieldSpec => ({
  name,
  label,
  read: { kind: 'quantity', dimension: 'length', unit: 'mm', min: 0 },
});
const speed = (name: string, label: string, o: Options = {}): FieldSpec => ({
  name,
  label,
  read: { kind: 'quantity', dimension: 'speed', unit: 'r/min', above: 0 },
  ...o,
});
const unbalance = (name: string, label: string, o: Options = {}): FieldSpec => ({
  name,
  label,
  read: { kind: 'quantity', dimension: 'unbalance', unit: 'g·mm', min: 0 },
  ...o,
});
const choice = (name: string, label: string, options: readonly string[], o: Options = {}): FieldSpec => ({
  name,
  label,
  read: { kind: 'choice', options: options.map((value) => ({ value, label: value })) },
  ...o,
});
const angle = (name: string, label: string, o: Options = {}): FieldSpec => ({
  name,
  label,
  read: { kind: 'quantity', dimension: 'angle', unit: '°', min: -360, max: 720 },
  ...o,
});
const count = (name: string, label: string, o: Options = {}): FieldSpec => ({
  name,
  label,
  read: { kind: 'count', min: 0, max: 360 },
  ...o,
});
const text = (name: string, label: string, o: Options = {}): FieldSpec => ({
  name,
  label,
  read: { kind: 'text' },
  ...o,
});

/** One plane as it is typed; `n` is its number. */
const planeFields = (n: 1 | 2): FieldSpec[] => [
  place(`x${n}`, `Plane ${n} at`, n === 1 ? need : { hint: 'empty: one plane is enough' }),
  size(`radius${n}`, `Radius in plane ${n}`, n === 1 ? need : {}),
  choice(`way${n}`, `In plane ${n}`, WAYS),
  count(`places${n}`, `Places in plane ${n}`, { hint: 'blades, pins, holes; 0 = anywhere' }),
  choice(`called${n}`, `They are called, plane ${n}`, PLACE_NAMES),
  angle(`first${n}`, `First place of plane ${n}`),
  text(`taken${n}`, `Taken in plane ${n}`, { hint: 'numbers of places: 3, 7' }),
  text(`forbidden${n}`, `Not between, plane ${n}`, { hint: 'degrees: 30-60, 350-10' }),
  {
    name: `most${n}`,
    label: `One place of plane ${n} holds`,
    read: { kind: 'quantity', dimension: 'mass', unit: 'kg', min: 0 },
    hint: 'at most; 12 g',
  },
  size(`depth${n}`, `Deepest in plane ${n}`),
  size(`tool${n}`, `Drill or slot width, plane ${n}`),
  size(`length${n}`, `Length milled, plane ${n}`),
  size(`thick${n}`, `Material under it, plane ${n}`, { hint: 'to bar, bore, shaft or insulation' }),
];

/** Sections of the set-up sheet, each with its fields. */
export const BALANCE_SECTIONS: readonly { title: string; fields: readonly FieldSpec[] }[] = [
  {
    title: 'Rotor',
    fields: [
      choice('kind', 'Rotor', ROTOR_KINDS, need),
      {
        name: 'mass',
        label: 'Mass',
        read: { kind: 'quantity', dimension: 'mass', unit: 'kg', above: 0 },
        required: true,
      },
      speed('service', 'Highest service speed', need),
      speed('balancing', 'Balancing speed', need),
      speed('critical', 'First critical speed', { hint: 'where it is known' }),
      {
        name: 'grade',
        label: 'Grade G',
        read: { kind: 'quantity', dimension: 'number', unit: '', above: 0 },
        required: true,
        hint: 'mm/s: 2.5, 6.3 …',
      },
      unbalance('own', 'Stricter figure, whole rotor', { hint: 'of the shop or the customer' }),
      unbalance('uncertainty', 'Uncertainty of a residual'),
    ],
  },
  {
    title: 'Places along the shaft, from one datum; bearing A and plane 1 at the same end',
    fields: [
      place('bearingA', 'Bearing A at', need),
      place('bearingB', 'Bearing B at', need),
      place('centre', 'Centre of mass at', need),
      size('body', 'Rotor body, length'),
    ],
  },
  { title: 'Plane 1', fields: planeFields(1) },
  { title: 'Plane 2', fields: planeFields(2) },
  {
    title: 'Stand and readings',
    fields: [
      text('stand', 'Stand'),
      choice('drive', 'Drive', ['belt', 'air', 'own']),
      choice('readings', 'It shows', ['vibration', 'unbalance per plane']),
      choice('phase', 'Its phase is', ['lead', 'lag']),
      choice('driveEnd', 'Drive end is at bearing', ['A', 'B']),
      choice('view', 'Angles seen from', ['drive end', 'other end']),
      text('unit', 'Unit of the readings', { hint: 'mm/s, µm …: one all through' }),
      choice('unbalanceUnit', 'Unbalance in', UNBALANCE_UNITS),
      {
        name: 'trim',
        label: 'Trim: either bearing shows at most',
        read: { kind: 'quantity', dimension: 'velocity', unit: 'mm/s', above: 0 },
        hint: 'only in the assembled motor; once per turn, rms',
      },
      {
        name: 'stock',
        label: 'Masses of the stock',
        read: { kind: 'quantities', dimension: 'mass', unit: 'kg' },
        hint: '2 g, 5 g, 10 g; empty = cut to weight',
      },
    ],
  },
  {
    title: 'Key, run-out: before it is spun',
    fields: [
      choice('key', 'Key', ['half', 'full', 'none']),
      size('keyWidth', 'Key, wide'),
      size('keyHeight', 'high'),
      size('keyLength', 'long'),
      size('keyRadius', 'Key at radius'),
      runOut('seatTir', 'Bearing seats run out, TIR'),
      runOut('shaftEndTir', 'Shaft end, TIR'),
      size('shaft', 'Shaft diameter'),
      runOut('coreTir', 'Core, TIR'),
      size('airGap', 'Air gap, one side'),
      runOut('commutatorTir', 'Commutator, TIR'),
      { name: 'loose', label: 'Anything loose by tap', read: { kind: 'flag' } },
    ],
  },
];
export const BALANCE_SET_UP_FIELDS: readonly FieldSpec[] = BALANCE_SECTIONS.flatMap((s) => s.fields);

const REMOVAL = ['depth', 'tool', 'length', 'thick'];
/** Fields that say something of a plane as it is corrected: nothing is drilled where masses are added. */
export function balanceFieldHasUse(name: string, typed: Readonly<Record<string, string>>): boolean {
  const n = /[12]$/.exec(name)?.[0];
  if (n === undefined) return true;
  const removes = (typed[`way${n}`] ?? 'add') !== 'add';
  const stem = name.slice(0, -1);
  // what was typed stays in sight
  if (typed[name]) return true;
  if (REMOVAL.includes(stem)) return removes;
  if (stem === 'most') return !removes;
  return !['called', 'first', 'taken'].includes(stem) || !['', '0'].includes(typed[`places${n}`] ?? '');
}

/** What a set-up sheet says, as it is reckoned with; a problem names the field. */
export function balanceSetUpOf(
  values: Readonly<Record<string, FieldValue>>,
  stored?: StoredSet,
): { setUp: BalanceSetUp } | { field: string; message: string } {
  const n = (name: string, times = 1): number | undefined =>
    typeof values[name] === 'number' ? times * (values[name] as number) : undefined;
  const mm = (name: string) => n(name, 1000);
  const given = (of: Record<string, unknown>): Record<string, unknown> =>
    Object.fromEntries(Object.entries(of).filter(([, v]) => v !== undefined));
  const has = (name: string): boolean => values[name] !== undefined;
  const wrong = (field: string, message: string) => ({ field, message });
  if (mm('bearingA') === mm('bearingB')) return wrong('bearingB', 'The two bearings stand at different places.');
  if (has('x2') && mm('x1') === mm('x2')) return wrong('x2', 'The two planes stand at different places.');
  if (has('x2') && !has('radius2')) return wrong('radius2', 'Plane 2 wants its radius.');
  const along = (mm('bearingB') ?? 0) - (mm('bearingA') ?? 0);
  if (has('x2') && ((mm('x2') ?? 0) - (mm('x1') ?? 0)) * along < 0)
    return wrong('x2', 'Plane 1 stands at the end of bearing A: the planes are exchanged, or the bearings.');
  const taken: Record<number, number[]> = {};
  for (const k of [1, 2]) {
    const typed = String(values[`taken${k}`] ?? '')
      .split(/[\s,;]+/)
      .filter(Boolean)
      .map(Number);
    const places = n(`places${k}`) ?? 0;
    if (typed.some((x) => !Number.isInteger(x) || x < 1 || x > places))
      return wrong(`taken${k}`, `Places of plane ${k} are numbers from 1 to ${places}.`);
    taken[k] = typed;
  }
  const forbidden: Record<number, { fromDeg: number; toDeg: number }[]> = {};
  for (const k of [1, 2]) {
    const typed = String(values[`forbidden${k}`] ?? '')
      .split(/[,;]/)
      .map((x) => x.trim())
      .filter(Boolean)
      .map((x) => /^(\d{1,3}(?:\.\d+)?)\s*°?\s*(?:-|–|to)\s*(\d{1,3}(?:\.\d+)?)\s*°?$/.exec(x));
    const zones = typed.map((m) => ({ fromDeg: Number(m?.[1]), toDeg: Number(m?.[2]) }));
    if (zones.some((z) => !(z.fromDeg <= 360 && z.toDeg <= 360 && z.fromDeg !== z.toDeg)))
      return wrong(
        `forbidden${k}`,
        `Angles of plane ${k} where nothing goes are pairs from 0 to 360, as 30-60, 350-10.`,
      );
    forbidden[k] = zones;
  }
  if (has('trim') && values['readings'] === 'unbalance per plane')
    return wrong('trim', 'A trim is judged by vibration: the stand has to show vibration.');
  if (has('trim') && has('unit') && !/^mm\/s/.test(String(values['unit']).trim()))
    return wrong('unit', 'A trim is read in mm/s.');
  const plane = (k: 1 | 2) =>
    given({
      called: values[`called${k}`],
      forbidden: forbidden[k],
      thickMm: mm(`thick${k}`),
      xMm: mm(`x${k}`),
      radiusMm: mm(`radius${k}`),
      way: values[`way${k}`],
      places: n(`places${k}`),
      firstDeg: n(`first${k}`),
      taken: taken[k],
      mostG: n(`most${k}`, 1000),
      mostDepthMm: mm(`depth${k}`),
      drillMm: mm(`tool${k}`),
      widthMm: mm(`tool${k}`),
      lengthMm: mm(`length${k}`),
    });
  const key = { width: mm('keyWidth'), height: mm('keyHeight'), length: mm('keyLength') };
  const stock = values['stock'];
  const read = balanceSetUpSchema.safeParse(
    given({
      kind: values['kind'],
      massKg: n('mass'),
      grade: n('grade'),
      serviceRpm: n('service'),
      balancingRpm: n('balancing'),
      criticalRpm: n('critical'),
      bearingAMm: mm('bearingA'),
      bearingBMm: mm('bearingB'),
      centreMm: mm('centre'),
      bodyMm: mm('body'),
      planes: has('x2') ? [plane(1), plane(2)] : [plane(1)],
      stockG: Array.isArray(stock) ? stock.map((kg) => Math.round(1e9 * Number(kg)) / 1e6) : undefined,
      readings: values['readings'],
      phase: values['phase'],
      unbalanceUnit: values['unbalanceUnit'],
      driveEnd: values['driveEnd'],
      view: values['view'],
      trimMmS: n('trim'),
      stored,
      ownGMm: n('own') === 0 ? undefined : n('own'),
      uncertaintyGMm: n('uncertainty'),
      key: values['key'],
      keyMm: Object.values(key).every((x) => x !== undefined) ? key : undefined,
      keyRadiusMm: mm('keyRadius'),
      seatTirMm: mm('seatTir'),
      shaftEndTirMm: mm('shaftEndTir'),
      shaftMm: mm('shaft'),
      coreTirMm: mm('coreTir'),
      airGapMm: mm('airGap'),
      commutatorTirMm: mm('commutatorTir'),
      loose: values['loose'] === true ? true : undefined,
    }),
  );
  if (read.success) return { setUp: read.data };
  const [issue] = read.error.issues;
  return wrong(String(issue?.path.at(-1) ?? ''), issue?.message ?? 'This set-up cannot be reckoned with.');
}
