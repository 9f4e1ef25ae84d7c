import { limit, type ShopLimits } from '../limits/limits.ts';
import { notAbove } from '../verdict.ts';
import type { EarlierTest } from '../evaluate/before.ts';
import type { PartKind } from '../machine/parts.ts';
import { choice, notes, text } from '../process/fieldKinds.ts';
import type { FieldSpec, FieldValue } from '../quantity/fields.ts';
import type { Connection } from '../winding/connection.ts';
import type { Layout } from '../winding/layoutTypes.ts';
import { complaintSigns } from './complaint.ts';
import { CAUSES, type FailureFacts } from './failure.ts';
import { coilsOfMap, MOST_PINS, readMarks, readPins } from './failureMap.ts';

const seen = (name: string, label: string): FieldSpec => ({ name, label, read: { kind: 'flag' } });

/** Not told by the list of causes: not known, or in the person's own words. */
export const OPEN_CAUSES = { unknown: 'Unknown', other: 'Another cause' } as const;

/** What a cause is called. @example causeTitle('overload') */
export const causeTitle = (id: string): string =>
  (CAUSES as Record<string, readonly [string, string]>)[id]?.[0] ?? (OPEN_CAUSES as Record<string, string>)[id] ?? id;

/** The record of a failure analysis: the map, what was seen at the strip-down, and what a person concludes. */
export const FAILURE_FIELDS: readonly FieldSpec[] = [
  { ...notes('marks', 'Damaged coils'), hint: '4 destroyed at end turn; 5-8 burnt' },
  { name: 'looked', label: 'Groups looked at', read: { kind: 'counts' }, hint: 'left blank: all of them' },
  seen('rotorRub', 'Core smeared, rotor polished'),
  seen('rotorBlued', 'Bars blued or molten'),
  seen('contamination', 'Wet, oily or conductive dust inside'),
  seen('steepSupply', 'Fed by an inverter, or switched often'),
  choice('bearings', 'Bearings', ['sound', 'worn', 'failed']),
  choice('shaft', 'Shaft', ['true', 'bent']),
  choice('cooling', 'Air path', ['clear', 'blocked']),
  choice('terminals', 'Terminals and leads', ['sound', 'burnt or loose']),
  choice('protection', 'Protection', ['tripped', 'did not trip']),
  choice('endTurns', 'End turns', ['tied', 'loose']),
  { ...notes('pins', 'Photographs and places') },
  {
    name: 'cause',
    label: 'Cause',
    read: {
      kind: 'choice',
      options: [
        ...Object.entries(CAUSES).map(([value, [label]]) => ({ value, label })),
        ...Object.entries(OPEN_CAUSES).map(([value, label]) => ({ value, label })),
      ],
    },
  },
  notes('causeSays', 'In own words'),
  notes('contributing', 'Contributing causes'),
  notes('advice', 'Advice to the owner'),
  text('missing', 'What is missing to tell', { hint: 'where the cause is unknown' }),
];

type Values = Readonly<Record<string, FieldValue>>;
const said = (values: Values, name: string): string => (typeof values[name] === 'string' ? values[name] : '');

/** What a record cannot be kept with: the field and a sentence. Coils and groups are those of the winding, where it is known. */
export function lacksFailure(
  values: Values,
  layout: Layout | undefined,
): { field: string; message: string } | undefined {
  const { marks, problems } = readMarks(said(values, 'marks'));
  if (problems[0]) return { field: 'marks', message: problems[0] };
  const coils = layout?.coils.length ?? 500;
  const beyond = marks.find((m) => m.coil > coils);
  if (beyond) return { field: 'marks', message: `There is no coil ${beyond.coil}: the winding has ${coils}.` };
  const looked = groupsLooked(values);
  const missing = layout && looked.find((g) => !layout.groups.some((has) => has.number === g));
  if (missing !== undefined)
    return {
      field: 'looked',
      message: `There is no group ${missing}: the winding has ${layout?.groups.length ?? 0} groups.`,
    };
  const outside =
    layout && looked.length > 0 && marks.find((m) => !looked.includes(layout.coils[m.coil - 1]?.group ?? 0));
  if (outside)
    return {
      field: 'looked',
      message: `Coil ${outside.coil} is marked, but its group ${layout.coils[outside.coil - 1]?.group} is not among those looked at.`,
    };
  const pins = said(values, 'pins');
  const lines = pins.split('\n').filter((l) => l.trim() !== '');
  if (lines.length > MOST_PINS) return { field: 'pins', message: `At most ${MOST_PINS} places can be pinned.` };
  if (readPins(pins).length < lines.length)
    return { field: 'pins', message: 'Each place is a line: slot 5 at 40 %: what is seen.' };
  const cause = said(values, 'cause');
  if (cause === 'unknown' && said(values, 'missing') === '')
    return { field: 'missing', message: 'Where the cause is unknown, say what is missing to tell it.' };
  if (cause === 'other' && said(values, 'causeSays') === '')
    return { field: 'causeSays', message: 'Name the cause in your own words.' };
  if (cause === '' && (said(values, 'advice') !== '' || said(values, 'contributing') !== ''))
    return { field: 'cause', message: 'Choose a cause, or "Unknown", before advice is given.' };
  return undefined;
}

const groupsLooked = (values: Values): number[] =>
  Array.isArray(values['looked']) ? values['looked'].filter((n): n is number => typeof n === 'number') : [];

/** What the tests as found say of a part: the newest of each that was not replaced. */
export function failureFacts(tests: readonly EarlierTest[], part: PartKind, limits?: ShopLimits): FailureFacts {
  const gone = new Set(tests.map((t) => t.supersedes));
  const own = tests.filter(
    (t) => !gone.has(t.id) && (t.stage === 'IN' || t.stage === 'BS') && (t.part ?? part) === part && judged(t.verdict),
  );
  const last = (kind: string) => own.filter((t) => t.kind === kind).at(-1);
  const sound = (test: EarlierTest | undefined): boolean | undefined => test && test.verdict !== 'fail';
  const insulation = sound(last('insulationResistance'));
  const surge = sound(last('surge'));
  const cage = sound(last('rotorSwing')) ?? sound(last('growler'));
  const resistance = last('windingResistance');
  return {
    ...(insulation === undefined ? {} : { insulation: insulation ? 'sound' : 'low' }),
    ...(resistance === undefined ? {} : { resistance: resistanceSays(resistance, limits) }),
    ...(surge === undefined ? {} : { surge: surge ? 'sound' : 'turn fault' }),
    ...(cage === undefined ? {} : { cage: cage ? 'sound' : 'broken bars' }),
  };
}

const judged = (verdict: string): boolean => verdict !== 'cannot judge';
function resistanceSays(test: EarlierTest, limits: ShopLimits | undefined): 'equal' | 'unequal' | 'open' {
  const { unbalancePercent } = ((test.result as { values?: { unbalancePercent?: unknown } } | null | undefined)
    ?.values ?? {}) as { unbalancePercent?: unknown };
  // an open pair is told without a percentage
  if (typeof unbalancePercent !== 'number') return test.verdict === 'fail' ? 'open' : 'equal';
  return !notAbove(unbalancePercent, limit('resistance.patternPercent', limits)) ? 'unequal' : 'equal';
}

/** Input of `diagnose.failure` from the record of a motor. */
export function failureInput(of: {
  values: Values;
  layout: Layout | undefined;
  connection: Connection | undefined;
  complaint: string;
  tests: readonly EarlierTest[];
  part: PartKind;
  /** what the core test before heat came to */
  core?: 'hot spots' | 'sound' | undefined;
  limits?: ShopLimits | undefined;
}): Record<string, unknown> {
  const { values, layout, connection } = of;
  const { marks } = readMarks(said(values, 'marks'));
  const facts = (['bearings', 'shaft', 'cooling', 'terminals', 'protection', 'endTurns'] as const).flatMap((name) =>
    said(values, name) === '' ? [] : [[name, said(values, name)] as const],
  );
  const flags = (['rotorRub', 'rotorBlued', 'contamination', 'steepSupply'] as const).map(
    (name) => [name, values[name] === true] as const,
  );
  const singlePhase = layout?.kind === 'single-phase';
  // nothing marked and no group named: the map was not taken
  const looked = groupsLooked(values);
  const taken = marks.length > 0 || looked.length > 0;
  return {
    coils: layout && taken ? coilsOfMap(layout, connection, marks, looked) : [],
    ...(connection && !singlePhase ? { connection: connection.connection } : {}),
    circuits: connection?.circuitsPerPhase ?? 1,
    ...Object.fromEntries(flags),
    facts: {
      ...failureFacts(of.tests, of.part, of.limits),
      ...(of.core ? { core: of.core } : {}),
      ...Object.fromEntries(facts),
    },
    complaint: complaintSigns(of.complaint),
    singlePhase,
    limits: of.limits ?? {},
  };
}
