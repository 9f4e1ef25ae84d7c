import { z } from 'zod';
import { defineCalculation, type Calculation } from '../calculation.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { choice, need, notes, stated, text } from '../process/fieldKinds.ts';
import type { FieldSpec } from '../quantity/fields.ts';
import { judgedTogether, outOfCalibration, type Judged } from '../verdict.ts';
import { layoutOfRecord } from '../winding/recordLayout.ts';
import type { Layout } from '../winding/layoutTypes.ts';
import { EARTH, type Readings, type TestKind } from './testKind.ts';

const POLES = ['N', 'S'] as const;
type Pole = (typeof POLES)[number];
const TURNS = ['clockwise', 'counter-clockwise'] as const;
const PHASE_NAMES = ['U', 'V', 'W'] as const;

const centres = z.array(z.enum(POLES)).max(200);

/** Calculation `evaluate.boreCheck`. */
export const boreCheck = defineCalculation({
  id: 'evaluate.boreCheck',
  version: 1,
  title: 'Compass round the bore: poles of each phase, reversed groups; direction of rotation',
  sources: ['each phase alone shows as many poles as the machine has: derived', 'rotation: common practice'],
  input: z.strictObject({
    poles: z.int().min(2).max(48).multipleOf(2),
    /** one group per phase and pole pair: all of one phase alike */
    consequent: z.boolean().default(false),
    /** pole at the centre of each group of a phase that is fed alone, in the order round the bore */
    phases: z
      .array(z.strictObject({ name: z.string().max(20), centres }))
      .max(6)
      .default([]),
    /** numbers of the groups of each phase, in the same order */
    groups: z
      .array(z.array(z.int().min(1).max(500)).max(200))
      .max(6)
      .optional(),
    /** seen from the drive end */
    rotationSeen: z.enum(TURNS).optional(),
    rotationWanted: z.enum(TURNS).optional(),
    calibrationExpired: z.boolean().default(false),
    limits: shopLimitsSchema.default({}),
  }),
  output: z.object({
    verdict: z.enum(['pass', 'attention', 'fail', 'cannot judge']),
    reason: z.string(),
    /** groups whose pole does not fit the others of their phase */
    turned: z.array(z.object({ phase: z.string(), groups: z.array(z.int()) })),
  }),
  example: {
    poles: 4,
    phases: [{ name: 'U', centres: ['N', 'S', 'N', 'S'] }],
    rotationSeen: 'clockwise',
    rotationWanted: 'clockwise',
  },
  compute: (x) => {
    const turned: { phase: string; groups: number[] }[] = [];
    const parts: Judged[] = [];
    x.phases.forEach((p, i) => {
      const odd = turnedOf(p.centres, x.consequent);
      const wanted = x.consequent ? x.poles / 2 : x.poles;
      if (p.centres.length !== wanted) {
        parts.push({
          verdict: 'fail',
          reason: `Phase ${p.name}: ${p.centres.length} group centres, not ${wanted}${x.consequent ? ' (consequent poles)' : ''}: count again, then look for a group that is passed by.`,
        });
        return;
      }
      if (odd.length === 0) {
        parts.push({
          verdict: 'pass',
          reason: `Phase ${p.name}: ${x.poles} poles${x.consequent ? ', all group centres alike' : ', neighbours alternate'}.`,
        });
        return;
      }
      const own = x.groups?.[i] ?? [];
      const groups = odd.map((k) => own[k] ?? k + 1);
      turned.push({ phase: p.name, groups });
      const half = odd.length * 2 === p.centres.length;
      parts.push({
        verdict: 'fail',
        reason: `Phase ${p.name}: ${own.length > 0 ? '' : 'in its own order '}group${groups.length === 1 ? '' : 's'} ${groups.join(', ')} ${groups.length === 1 ? 'stands' : 'stand'} against the others${half ? ' (half of the phase: it may be the other half)' : ''}: reversed.`,
      });
    });
    if (x.rotationSeen !== undefined)
      parts.push(
        x.rotationWanted === undefined
          ? {
              verdict: 'cannot judge',
              reason: `Turns ${x.rotationSeen} seen from the drive end; which way is wanted is not said.`,
            }
          : x.rotationSeen === x.rotationWanted
            ? { verdict: 'pass', reason: `Turns ${x.rotationSeen} seen from the drive end, as wanted.` }
            : {
                verdict: 'fail',
                reason: `Turns ${x.rotationSeen} seen from the drive end; ${x.rotationWanted} is wanted: exchange two leads, and their marks.`,
              },
      );
    if (parts.length === 0) return { verdict: 'cannot judge' as const, reason: 'Nothing was read.', turned };
    return { ...judgedTogether([...parts, ...outOfCalibration(x.calibrationExpired)]), turned };
  },
});

/** Numbers (from 0) of the centres that do not fit: fewest that would have to turn for the phase to be sound. */
function turnedOf(found: readonly Pole[], consequent: boolean): number[] {
  const off = (first: Pole): number[] =>
    found.flatMap((p, i) => ((consequent || i % 2 === 0) === (p === first) ? [] : [i]));
  const [north, south] = [off('N'), off('S')];
  return north.length <= south.length ? north : south;
}

/** Numbers of the groups of each phase, round the bore. */
export const groupsOfPhases = (layout: Layout | undefined): number[][] =>
  (['A', 'B', 'C'] as const).map((phase) =>
    (layout?.groups ?? []).filter((g) => g.phase === phase).map((g) => g.number),
  );

const compass = (phase: string): FieldSpec => ({
  name: `centres${phase}`,
  label: `Phase ${phase} round the bore`,
  read: { kind: 'words', options: [...POLES] },
  hint: 'N, S, N, S at its group centres',
});

const readings = (v: Readings) =>
  PHASE_NAMES.flatMap((name) => {
    const read = v[`centres${name}`];
    return Array.isArray(read) ? [{ name, centres: read }] : [];
  });

/** Polarity and rotation in the test matrix: by the compass, or stated by a person. */
export const polarityTest: TestKind = {
  id: 'polarity',
  title: 'Polarity and rotation',
  stages: { AC: 'required', AA: 'required', FI: 'optional' },
  calculation: boreCheck as unknown as Calculation,
  fields: [
    ...PHASE_NAMES.map(compass),
    choice('rotationSeen', 'Turns, from the drive end', [...TURNS]),
    choice('rotationWanted', 'Wanted', [...TURNS]),
    stated('outcome', 'Outcome', { hint: 'where nothing is read above' }),
    text('instrument', 'Instrument', need),
    notes('finding', 'What was seen'),
  ],
  lacks: (v) =>
    v['outcome'] === undefined && readings(v).length === 0 && v['rotationSeen'] === undefined
      ? { field: 'outcome', message: 'Outcome is needed where neither compass nor rotation is read.' }
      : undefined,
  due: ({ record, nameplate }) => {
    const { layout } = record ? layoutOfRecord(record) : { layout: undefined };
    const poles = record?.poles ?? nameplate.poles;
    return {
      says: [
        `Direct current of a few per cent into each phase alone; the compass round the bore counts ${poles ?? 'as many'} poles${poles === undefined ? ' as the machine has' : ''}.`,
        layout?.poleGroups === 'consequent'
          ? 'Consequent poles: the group centres of a phase are all alike.'
          : 'Neighbouring group centres of a phase alternate.',
      ],
    };
  },
  input: (v, { record, nameplate }) => {
    const { layout } = record ? layoutOfRecord(record) : { layout: undefined };
    const poles = record?.poles ?? nameplate.poles;
    const phases = readings(v);
    if (poles === undefined || (phases.length === 0 && v['rotationSeen'] === undefined)) return undefined;
    const groups = groupsOfPhases(layout);
    return {
      poles,
      consequent: layout?.poleGroups === 'consequent',
      phases,
      groups: layout ? phases.map((p) => groups[PHASE_NAMES.indexOf(p.name)] ?? []) : undefined,
      rotationSeen: v['rotationSeen'],
      rotationWanted: v['rotationWanted'],
    };
  },
  caution: EARTH,
};
