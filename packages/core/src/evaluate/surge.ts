import { z } from 'zod';
import { defineCalculation, refuse, type Calculation } from '../calculation.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { choice, need, notes, quantity, stated, text } from '../process/fieldKinds.ts';
import { formatNumber } from '../quantity/format.ts';
import { SURGE_CONNECTIONS, SURGE_MODES, SURGE_PHASES, waveNames } from '../surge/suspect.ts';
import { clippedSamples, peakOf } from '../surge/wave.ts';
import { combineVerdicts, outOfCalibration } from '../verdict.ts';
import { isFormWound } from '../winding/record.ts';
import { runningConnection } from '../winding/recordLayout.ts';
import { againstEarlier } from './surgeAligned.ts';
import { surgeDue, surgeRequired } from './surgeDue.ts';
import { judgeSurge } from './surgeJudged.ts';
import { judgeTurned } from './surgeTurned.ts';
import { HIGH_VOLTAGE, type TestKind } from './testKind.ts';

/** Samples of one record at most. */
export const MOST_WAVE_SAMPLES = 20_000;
const MOST_PULSES = 40;
const FEWEST_SAMPLES = 5;
/** More samples than this at the very peak, one behind the other: the converter was at its end. */
const MOST_AT_PEAK = 3;
/** A peak so far above what was applied is another unit. */
const KILOVOLTS = 50;

const pulse = z.strictObject({
  appliedV: z.number().min(1).max(1e6),
  /** µs from sample to sample */
  dtUs: z.number().min(1e-6).max(1e6),
  /** volts, from the closing of the switch on */
  v: z.array(z.number().min(-1e7).max(1e7)).min(FEWEST_SAMPLES).max(MOST_WAVE_SAMPLES),
});
const pulseOf = (p: z.output<typeof pulse>) => ({ v: p.v, dtS: p.dtUs * 1e-6, appliedV: p.appliedV });
const percent = z.number();
const verdict = z.enum(['pass', 'attention', 'fail', 'cannot judge']);
const waveNumber = z.int();

const input = z.strictObject({
  mode: z.enum(SURGE_MODES).default('lead to lead'),
  connection: z.enum(SURGE_CONNECTIONS).default('not known'),
  winding: z.enum(['random-wound', 'form-wound']).default('random-wound'),
  /** the phases: alike, or concentric with unlike coils */
  windings: z.enum(['alike', 'concentric']).default('alike'),
  rotor: z.enum(['in', 'out']).default('out'),
  /** turned between the pulses of one voltage: they are places of the rotor */
  turned: z.boolean().default(false),
  /** each wave with its pulses in the order in which they were taken; lead to lead UV, VW, WU, one against two U, V, W */
  waves: z
    .array(
      z.strictObject({ name: z.string().trim().max(40).optional(), pulses: z.array(pulse).min(1).max(MOST_PULSES) }),
    )
    .min(1)
    .max(3),
  /** waves of an earlier test of this winding, taken alike; resin and cure lie between where it is said */
  earlier: z
    .strictObject({
      said: z.string().max(200),
      acrossCure: z.boolean().default(false),
      waves: z
        .array(z.strictObject({ name: z.string().trim().max(40), pulses: z.array(pulse).min(1).max(MOST_PULSES) }))
        .max(3),
    })
    .optional(),
  requiredV: z.number().positive().max(1e6).optional(),
  requiredFrom: z.string().max(300).optional(),
  /** U, V, W at one temperature: decide whether inductance was lost or gained */
  phasesOhm: z.tuple([z.number().positive(), z.number().positive(), z.number().positive()]).optional(),
  insulation: z.enum(['low', 'sound']).optional(),
  calibrationExpired: z.boolean().default(false),
  limits: shopLimitsSchema.default({}),
});

/** Calculation `evaluate.surge`. */
export const surge = defineCalculation({
  id: 'evaluate.surge',
  version: 1,
  title: 'Surge comparison: areas, ring frequencies, pulse to pulse, suspect phase, diagnosis',
  sources: ['areas, shifts, naming of the phase: derived', 'limits: common practice', 'docs/derivations.md 43, 44'],
  input,
  heavy: true,
  output: z.object({
    verdict,
    reason: z.string(),
    waves: z.array(
      z.object({
        name: z.string(),
        appliedV: z.number(),
        frequencyHz: z.number().optional(),
        peakV: z.number(),
        steps: z.array(z.object({ fromV: z.number(), toV: z.number(), areaPercent: percent, out: z.boolean() })),
      }),
    ),
    levels: z.array(
      z.object({
        appliedV: z.number(),
        comparisons: z.array(
          z.object({
            first: waveNumber,
            second: waveNumber,
            areaPercent: percent,
            samples: z.number(),
            dtUs: z.number(),
            shiftPercent: percent.optional(),
            amplitudePercent: percent,
            out: z.boolean(),
          }),
        ),
      }),
    ),
    largestAreaPercent: percent.optional(),
    largestStepPercent: percent.optional(),
    reachedV: z.number(),
    requiredV: z.number().optional(),
    breakdown: z.object({ wave: z.string(), fromV: z.number(), toV: z.number() }).optional(),
    outFromV: z.number().optional(),
    oddWave: z.string().optional(),
    suspectPhase: z.enum(SURGE_PHASES).optional(),
    /** each wave against the earlier one, frequencies aligned */
    againstEarlier: z
      .array(
        z.object({
          wave: z.string(),
          appliedV: z.number(),
          shiftPercent: percent,
          plainPercent: percent,
          alignedPercent: percent,
          verdict,
          reason: z.string(),
        }),
      )
      .optional(),
    diagnosis: z.array(
      z.object({
        id: z.string(),
        title: z.string(),
        confidence: z.number(),
        speaksFor: z.array(z.string()),
        speaksAgainst: z.array(z.string()),
        next: z.string(),
      }),
    ),
  }),
  example: {
    mode: 'lead to lead',
    connection: 'wye',
    waves: [
      { pulses: [{ appliedV: 100, dtUs: 10, v: [100, 60, -20, -50, -10] }] },
      { pulses: [{ appliedV: 100, dtUs: 10, v: [100, 56, -26, -47, -8] }] },
      { pulses: [{ appliedV: 100, dtUs: 10, v: [100, 59, -21, -49, -10] }] },
    ],
  },
  compute: (x, note) => {
    const names = waveNames(x.mode);
    const waves = x.waves.map((w, i) => ({
      name: w.name === undefined || w.name === '' ? (names[i] ?? `${i + 1}`) : w.name,
      pulses: w.pulses.map(pulseOf),
    }));
    waves.forEach((w, i) =>
      w.pulses.forEach((p, k) => {
        const peak = peakOf(p.v);
        if (peak > KILOVOLTS * p.appliedV)
          refuse(
            `waves.${i}.pulses.${k}.appliedV`,
            `${w.name} reaches ${formatNumber(peak)} V but only ${formatNumber(p.appliedV)} V were applied: was that kV?`,
          );
        if (clippedSamples(p.v) > MOST_AT_PEAK && p.v.length > 2 * MOST_AT_PEAK + 4)
          refuse(
            `waves.${i}.pulses.${k}.v`,
            `${w.name} at ${formatNumber(p.appliedV)} V stands at its peak for ${clippedSamples(p.v)} samples: clipped. Set the range of the instrument higher and repeat.`,
          );
      }),
    );
    const judged = x.rotor === 'in' && x.turned ? judgeTurned({ ...x, waves }) : judgeSurge({ ...x, waves });
    const against = againstEarlier(
      waves,
      (x.earlier?.waves ?? []).map((w) => ({ name: w.name, pulses: w.pulses.map(pulseOf) })),
      x.earlier?.acrossCure ?? false,
      x.limits,
    );
    const worst = against.filter((a) => a.verdict !== 'pass');
    const top = judged.levels.at(-1);
    for (const c of top?.comparisons ?? [])
      note?.({
        name: `Area of ${waves[c.second]?.name} against ${waves[c.first]?.name}`,
        symbol: 'EAR',
        formula: '100 Σ|a − b| / Σ|a|',
        numbers: `${c.samples} samples of ${formatNumber(c.dtS * 1e6)} µs, ${formatNumber(top?.appliedV ?? 0)} V`,
        value: c.areaPercent,
        unit: '%',
        source: 'derived',
      });
    for (const w of judged.waves) {
      note?.({
        name: `Ring frequency of ${w.name}`,
        symbol: 'f',
        formula: '(n − 1) / (2 (t_n − t_1))',
        numbers: 'zero crossings, linear between samples',
        value: w.frequencyHz ?? 'does not ring',
        unit: 'Hz',
        source: 'derived',
      });
      for (const s of w.steps)
        note?.({
          name: `${w.name} from ${formatNumber(s.fromV)} to ${formatNumber(s.toV)} V`,
          symbol: 'PPR',
          formula: 'area of the two, each divided by its own voltage',
          numbers: '',
          value: s.areaPercent,
          unit: '%',
          source: 'derived',
        });
    }
    const areas = top?.comparisons.map((c) => c.areaPercent) ?? [];
    const steps = judged.waves.flatMap((w) => w.steps.map((s) => s.areaPercent));
    const late = outOfCalibration(x.calibrationExpired);
    const { suspect, breakdown, outFromV, requiredV } = judged;
    return {
      verdict: combineVerdicts([judged.verdict, ...worst.map((a) => a.verdict), ...late.map((l) => l.verdict)]),
      reason: [
        judged.reason,
        ...worst.map((a) => `${a.wave} against ${x.earlier?.said ?? 'earlier'}: ${a.reason}`),
        ...(against.length > 0 && worst.length === 0
          ? [
              `As ${x.earlier?.said ?? 'earlier'}: every wave within its limit once aligned, ring frequency ${formatNumber(Math.min(...against.map((a) => a.shiftPercent)), 3)} to ${formatNumber(Math.max(...against.map((a) => a.shiftPercent)), 3)} %.`,
            ]
          : []),
        ...late.map((l) => l.reason),
      ].join(' '),
      waves: judged.waves.map(({ frequencyHz, ...w }) => ({
        ...w,
        ...(frequencyHz === undefined ? {} : { frequencyHz }),
      })),
      levels: judged.levels.map((l) => ({
        appliedV: l.appliedV,
        comparisons: l.comparisons.map(({ shiftPercent, dtS, ...c }) => ({
          ...c,
          dtUs: dtS * 1e6,
          ...(shiftPercent === undefined ? {} : { shiftPercent }),
        })),
      })),
      reachedV: judged.reachedV,
      ...(areas.length === 0 ? {} : { largestAreaPercent: Math.max(...areas) }),
      ...(steps.length === 0 ? {} : { largestStepPercent: Math.max(...steps) }),
      ...(requiredV === undefined ? {} : { requiredV }),
      ...(breakdown === undefined ? {} : { breakdown }),
      ...(outFromV === undefined ? {} : { outFromV }),
      ...(suspect.odd === undefined ? {} : { oddWave: waves[suspect.odd]?.name ?? '' }),
      ...(suspect.phase === undefined ? {} : { suspectPhase: suspect.phase }),
      ...(against.length === 0 ? {} : { againstEarlier: against.map(({ samples: _samples, ...a }) => a) }),
      diagnosis: judged.diagnosis,
    };
  },
});

const TURNED = 'in, turned';
const ROTOR_STATES = ['out', 'in', TURNED] as const;

/** Surge comparison in the test matrix: judged from its waves, or stated by a person where a tester shows none. */
export const surgeTest: TestKind = {
  id: 'surge',
  title: 'Surge comparison',
  stages: { IN: 'required', BS: 'optional', AC: 'required', VC: 'required', AA: 'optional', FI: 'optional' },
  fields: [
    quantity('testV', 'Peak voltage', 'voltage', 'V', { hint: 'crest; waves say their own' }),
    choice('mode', 'Tested', [...SURGE_MODES], { hint: 'blank: lead to lead' }),
    choice('rotor', 'Rotor', [...ROTOR_STATES], { hint: 'blank: out; turned: several places at one voltage' }),
    choice('windings', 'Phases', ['alike', 'concentric'], { hint: 'blank: alike' }),
    stated('outcome', 'Outcome', { hint: 'where no waves are given' }),
    text('instrument', 'Instrument', need),
    notes('finding', 'What was seen'),
  ],
  caution: HIGH_VOLTAGE,
  takesWaves: true,
  calculation: surge as unknown as Calculation,
  derived: [
    { name: 'largestAreaPercent', title: 'Largest area between two waves', unit: '%' },
    { name: 'largestStepPercent', title: 'Largest area from pulse to pulse', unit: '%' },
    { name: 'reachedV', title: 'Voltage reached, crest', unit: 'V' },
  ],
  lacks: (v, given) =>
    given?.waves
      ? undefined
      : v['testV'] === undefined
        ? { field: 'testV', message: 'Peak voltage is needed.' }
        : v['outcome'] === undefined
          ? { field: 'outcome', message: 'Outcome is needed where no waves are given.' }
          : undefined,
  due: surgeDue,
  input: (v, c) => {
    if (!c.waves || c.waves.length === 0) return undefined;
    const required = surgeRequired(c);
    return {
      mode: v['mode'],
      rotor: v['rotor'] === TURNED ? 'in' : v['rotor'],
      turned: v['rotor'] === TURNED,
      connection: c.record ? runningConnection(c.record) : undefined,
      winding: isFormWound(c.record) ? 'form-wound' : 'random-wound',
      windings: v['windings'],
      waves: c.waves,
      earlier: c.earlierWaves,
      requiredV: required?.crestV,
      requiredFrom: required === undefined ? undefined : `${required.formula}, ${required.source}`,
      phasesOhm: c.before?.phasesOhm,
      insulation: c.before?.insulation,
    };
  },
};
