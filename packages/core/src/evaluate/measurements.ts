import { shaftHeightOf } from './vibration.ts';
import type { TestKind } from './testKind.ts';
import { TEST_KINDS } from './tests.ts';
import type { Nameplate } from '../machine/nameplate.ts';
import { OPERATIONS } from '../process/operations.ts';
import {
  typedWithUnit,
  type FieldSpec,
  type FieldValue,
  type ReadingDefaults,
  type Typed,
} from '../quantity/fields.ts';
import { UNITS } from '../quantity/units.ts';

/** One measured or derived quantity of a reading, as it can be compared over years. */
export interface Measurement {
  /** test, operation or balance and its field: `windingResistance.ab`, `BRN.peak`; derived: `windingResistance.unbalancePercent` */
  what: string;
  /** in the dimension's base unit */
  value: number;
  unit: string;
  /** the instrument was over or below its range: the true value lies above or below the one kept */
  bound: 'above' | 'below' | null;
  /** as typed, with the unit a bare number was read in; null of what was derived */
  typed: string | null;
}

const finite = (value: unknown): value is number => typeof value === 'number' && Number.isFinite(value);

/** Every measured quantity of a form: what is text, a choice or a count of things is none. */
export function measurementsOf(
  of: string,
  fields: readonly FieldSpec[],
  values: Readonly<Record<string, FieldValue>>,
  typed: Typed,
  defaults: ReadingDefaults,
): Measurement[] {
  return fields.flatMap((spec): Measurement[] => {
    const value = values[spec.name];
    if (spec.read.kind !== 'quantity' || !finite(value)) return [];
    return [
      {
        what: `${of}.${spec.name}`,
        value,
        unit: UNITS[spec.read.dimension][0]?.name ?? '',
        bound:
          values[`${spec.name}OverRange`] === true
            ? 'above'
            : values[`${spec.name}UnderRange`] === true
              ? 'below'
              : null,
        typed: typedWithUnit(spec, typed[spec.name] ?? '', defaults, value),
      },
    ];
  });
}

/** What a test's calculation worked out and is worth comparing: its readings at one temperature, their ratios. */
export function derivedOf(kind: TestKind, result: { values: unknown } | null | undefined): Measurement[] {
  const values = (result?.values ?? {}) as Record<string, unknown>;
  return (kind.derived ?? []).flatMap((d): Measurement[] => {
    const value = values[d.name];
    return finite(value) ? [{ what: `${kind.id}.${d.name}`, value, unit: d.unit, bound: null, typed: null }] : [];
  });
}

/** What a balance, step by step, left in the rotor: of the tolerance, at the worse bearing. */
export function measuredBySession(result: { id?: string; values?: unknown } | null | undefined): Measurement[] {
  if (result?.id !== 'balance.session') return [];
  const { bearings = [] } = (result.values ?? {}) as { bearings?: { gMm: number; allowedGMm: number }[] };
  const shares = bearings.map((b) => (100 * b.gMm) / b.allowedGMm).filter(finite);
  return shares.length === 0
    ? []
    : [{ what: BALANCE_LEFT.what, value: Math.max(...shares), unit: BALANCE_LEFT.unit, bound: null, typed: null }];
}

export interface Measurable {
  what: string;
  title: string;
  unit: string;
}

export const BALANCE_LEFT: Measurable = {
  what: 'balance.leftPercent',
  title: 'Unbalance left, of the tolerance, at the worse bearing',
  unit: '%',
};

const titled = (of: string, fields: readonly FieldSpec[]): Measurable[] =>
  fields.flatMap((f) =>
    f.read.kind === 'quantity'
      ? [{ what: `${of}.${f.name}`, title: f.label, unit: UNITS[f.read.dimension][0]?.name ?? '' }]
      : [],
  );

/** The quantities of a test that a trend can be asked of: derived ones first, as they stand at one temperature. */
export const measurablesOf = (kind: TestKind): Measurable[] => [
  ...(kind.derived ?? []).map((d) => ({ what: `${kind.id}.${d.name}`, title: d.title, unit: d.unit })),
  ...titled(kind.id, kind.fields),
];

/** Every quantity that tests and operations measure, by its name. */
export const MEASURABLES: ReadonlyMap<string, Measurable> = new Map(
  [
    BALANCE_LEFT,
    ...TEST_KINDS.flatMap(measurablesOf),
    ...[...OPERATIONS.values()].flatMap((op) =>
      titled(op.code, op.fields).map((m) => ({ ...m, title: `${op.title}, ${m.title}` })),
    ),
  ].map((m): [string, Measurable] => [m.what, m]),
);

/**
 * What a motor is compared with: motors of the same kind, output, poles, voltage and shaft height. Undefined where the nameplate does
 * not say enough to compare by. Rounded, so that 7.46 kW and 10 hp are one.
 */
export function familyOf(nameplate: Nameplate): string | undefined {
  const { outputW, poles, voltagesV } = nameplate;
  if (outputW === undefined || poles === undefined || !voltagesV?.length) return undefined;
  const height = shaftHeightOf(nameplate.frame);
  return [
    nameplate.phases === '1' ? '1~' : nameplate.rotorVoltageV === undefined ? '3~' : '3~ slip ring',
    `${Number((outputW / 1000).toPrecision(2))} kW`,
    `${poles} poles`,
    `${Number(Math.max(...voltagesV).toPrecision(3))} V`,
    height === undefined ? 'height not known' : `${Number(height.toPrecision(2))} mm`,
  ].join(', ');
}
