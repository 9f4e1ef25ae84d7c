import { z } from 'zod';
import { defineCalculation, type Calculation } from '../calculation.ts';
import { num, type TestKind } from '../evaluate/testKind.ts';
import { limit, quoteLimit } from '../limits/limits.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { need, quantity, text } from '../process/fieldKinds.ts';
import { formatAgainst, formatNumber } from '../quantity/format.ts';
import { judgedTogether, notAbove, notBelow, outOfCalibration, type Judged } from '../verdict.ts';
import { codeLetter, kvaPerHp, lockedTorqueNm, scaleLocked } from './lockedRotor.ts';
import { allowed } from './plateTolerance.ts';
import { listOf, numbers, sameLengths } from './typedLists.ts';

/** Readings of three or four figures leave the exponent open by this much (common practice). */
const READ_TO = 0.005;

/** Calculation `evaluate.lockedRotor`. */
export const lockedRotor = defineCalculation({
  id: 'evaluate.lockedRotor',
  version: 2,
  title: 'Locked rotor: current and torque at rated voltage, code letter',
  sources: [
    'IEEE 112 (from memory)',
    'code letters: NEMA MG 1 10.37 (from memory)',
    'tolerances: IEC 60034-1 (from memory)',
    'scaling: derived',
  ],
  input: z.strictObject({
    points: z
      .array(
        z.strictObject({
          volts: z.number().positive().max(1e6),
          amps: z.number().positive().max(1e6),
          watts: z.number().positive().max(1e9).optional(),
          torqueNm: z.number().positive().max(1e7).optional(),
        }),
      )
      .min(1)
      .max(40),
    ratedV: z.number().positive().max(1e6).optional(),
    outputW: z.number().positive().max(1e9).optional(),
    /** of the supply of the pulses, and of the plate */
    frequencyHz: z.number().positive().max(1000).optional(),
    ratedHz: z.number().positive().max(1000).optional(),
    phases: z.union([z.literal(1), z.literal(3)]).default(3),
    synchronousRpm: z.number().positive().max(1e5).optional(),
    /** lead to lead at the temperature of the pulses, and the core loss there */
    lineOhm: z.number().positive().max(1e6).optional(),
    coreW: z.number().min(0).max(1e8).default(0),
    c1: z.number().min(0.9).max(1).optional(),
    declaredA: z.number().positive().max(1e6).optional(),
    declaredNm: z.number().positive().max(1e7).optional(),
    calibrationExpired: z.boolean().default(false),
    limits: shopLimitsSchema.default({}),
  }),
  output: z.object({
    verdict: z.enum(['pass', 'attention', 'fail', 'cannot judge']),
    reason: z.string(),
    exponent: z.number().optional(),
    ampsAtRated: z.number().optional(),
    torqueNm: z.number().optional(),
    torqueFrom: z.enum(['read', 'worked out from the power']).optional(),
    kvaPerHp: z.number().optional(),
    codeLetter: z.string().optional(),
  }),
  example: {
    ratedV: 400,
    outputW: 7500,
    points: [
      { volts: 120, amps: 24 },
      { volts: 160, amps: 33 },
      { volts: 200, amps: 42 },
    ],
  },
  compute: (x, note) => {
    if (x.ratedV === undefined)
      return { verdict: 'cannot judge' as const, reason: 'The rated voltage is needed to bring the readings to it.' };
    const [hz, ratedHz] = [x.frequencyHz ?? x.ratedHz, x.ratedHz ?? x.frequencyHz];
    // reactances go with the frequency: nothing is brought to the rated voltage from another one
    if (
      hz !== undefined &&
      ratedHz !== undefined &&
      !notAbove(100 * Math.abs(hz / ratedHz - 1), limit('live.frequencyPercent', x.limits))
    )
      return judgedTogether([
        {
          verdict: 'attention',
          reason: `Read at ${formatNumber(hz)} Hz: it tells the equivalent circuit. Current, torque and code letter at the plate's ${formatNumber(ratedHz)} Hz want a locked rotor at that frequency.`,
        },
        ...outOfCalibration(x.calibrationExpired),
      ]);
    const found = scaleLocked(x.points, x.ratedV);
    if (!found) return { verdict: 'cannot judge' as const, reason: 'No reading with voltage and current.' };
    note?.({
      name: 'Locked-rotor current at the rated voltage',
      symbol: 'I_LR',
      formula: 'I_t (U/U_t)^n',
      numbers: `n = ${formatNumber(found.exponent, 4)}, ${x.points.length} reading${x.points.length === 1 ? '' : 's'}`,
      value: found.amps,
      unit: 'A',
      source: 'IEEE 112 (from memory)',
    });
    const fromPower =
      found.watts !== undefined && x.lineOhm !== undefined && x.synchronousRpm !== undefined
        ? lockedTorqueNm({
            watts: found.watts,
            amps: found.amps,
            lineOhm: x.lineOhm,
            coreW: x.coreW,
            synchronousRpm: x.synchronousRpm,
            ...(x.c1 === undefined ? {} : { c1: x.c1 }),
          })
        : undefined;
    const torqueNm = found.torqueNm ?? (fromPower !== undefined && fromPower > 0 ? fromPower : undefined);
    const kva = x.outputW === undefined ? undefined : kvaPerHp(x.ratedV, found.amps, x.outputW, x.phases);
    const letter = kva === undefined ? undefined : codeLetter(kva);
    const parts: Judged[] = [
      {
        verdict: 'pass',
        reason: `${formatNumber(found.amps, 4)} A at ${formatNumber(x.ratedV)} V${kva === undefined ? '' : `, ${formatNumber(kva, 3)} kVA/hp: code letter ${letter}`}${torqueNm === undefined ? '' : `; torque ${formatNumber(torqueNm, 3)} N m (${found.torqueNm === undefined ? 'worked out from the power' : 'read'})`}.`,
      },
    ];
    if (found.linear)
      parts.push({
        verdict: 'attention',
        reason: 'One voltage only: taken as linear. Three rising voltages tell how the leakage saturates.',
      });
    else if (
      !notAbove(found.exponent, limit('load.lockedExponentHigh', x.limits)) ||
      !notBelow(found.exponent, 1 - READ_TO)
    )
      parts.push({
        verdict: 'attention',
        reason: `The current grows with the voltage to the power of ${formatNumber(found.exponent, 4)}; 1 to ${quoteLimit('load.lockedExponentHigh', x.limits)} is usual: closed slots, or a reading is off.`,
      });
    const ratedKW = (x.outputW ?? 0) / 1000;
    const against = (
      what: 'locked-rotor current' | 'locked-rotor torque',
      value: number | undefined,
      declared: number | undefined,
      unit: string,
    ): void => {
      const range = declared === undefined ? undefined : allowed(what, declared, ratedKW);
      if (value === undefined || declared === undefined || !range) return;
      const low = range.from !== undefined && !notBelow(value, range.from);
      const high = range.to !== undefined && !notAbove(value, range.to);
      const [shown, bound] = formatAgainst(value, (low ? range.from : range.to) ?? declared);
      parts.push(
        low || high
          ? {
              verdict: 'fail',
              reason: `The ${what} of ${shown} ${unit} is ${low ? 'below' : 'above'} ${bound} ${unit}, the end of what ${formatNumber(declared)} ${unit} allows (${range.says}; IEC 60034-1, from memory).`,
            }
          : {
              verdict: 'pass',
              reason: `Declared ${formatNumber(declared)} ${unit}: inside its tolerance (${range.says}).`,
            },
      );
    };
    against('locked-rotor current', found.amps, x.declaredA, 'A');
    against('locked-rotor torque', torqueNm, x.declaredNm, 'N m');
    return {
      ...judgedTogether([...parts, ...outOfCalibration(x.calibrationExpired)]),
      exponent: found.exponent,
      ampsAtRated: found.amps,
      ...(torqueNm === undefined
        ? {}
        : {
            torqueNm,
            torqueFrom: found.torqueNm === undefined ? ('worked out from the power' as const) : ('read' as const),
          }),
      ...(kva === undefined ? {} : { kvaPerHp: kva, codeLetter: letter }),
    };
  },
});

/** Locked rotor in the test matrix. */
export const lockedRotorTest: TestKind = {
  id: 'lockedRotor',
  title: 'Locked rotor',
  stages: { AA: 'optional', FI: 'optional' },
  calculation: lockedRotor as unknown as Calculation,
  for: ({ machine }) => machine !== 'permanent magnet',
  needsWholeMotor: true,
  fields: [
    listOf('volts', 'Voltages', 'voltage', 'V', 'three or more, rising'),
    listOf('amps', 'Current at each', 'current', 'A', 'mean of the lines'),
    listOf('watts', 'Power at each', 'power', 'W', '310 W, 820 W', false),
    listOf('torques', 'Torque at each', 'torque', 'N m', 'at the arm', false),
    quantity('lineOhm', 'Resistance lead to lead', 'resistance', 'Ω', { hint: 'as warm as the pulses left it' }),
    quantity('frequency', 'Frequency', 'frequency', 'Hz', {
      hint: 'blank: as on the plate; a quarter tells deep bars',
    }),
    quantity('declaredA', 'Declared current', 'current', 'A', { hint: 'of the data sheet' }),
    quantity('declaredNm', 'Declared torque', 'torque', 'N m'),
    text('instrument', 'Instrument', need),
  ],
  lacks: (v) => sameLengths(v, ['volts', 'amps', 'watts', 'torques'], 'Each voltage has its figures'),
  due: ({ nameplate }) => {
    const rated = Math.max(0, ...(nameplate.currentsA ?? []));
    return {
      says: [
        `Rotor blocked at a strong arm; at least three voltages, rising until ${rated > 0 ? `${formatNumber(rated)} to ${formatNumber(3 * rated)} A flow` : 'one to three times the rated current flows'}. Pulses under 5 to 10 s, cooling between; never leave it heating unattended.`,
      ],
    };
  },
  input: (v, { nameplate, record, machine }) => {
    const [volts, amps, watts, torques] = ['volts', 'amps', 'watts', 'torques'].map((n) => numbers(v, n)) as [
      number[],
      number[],
      number[],
      number[],
    ];
    const poles = record?.poles ?? nameplate.poles;
    return {
      points: volts.map((u, i) => ({ volts: u, amps: amps[i], watts: watts[i], torqueNm: torques[i] })),
      ratedV: nameplate.voltagesV ? Math.max(...nameplate.voltagesV) : undefined,
      outputW: nameplate.outputW,
      frequencyHz: num(v, 'frequency'),
      ratedHz: nameplate.frequencyHz,
      phases: machine === 'single-phase' ? 1 : 3,
      synchronousRpm: poles && nameplate.frequencyHz ? (120 * nameplate.frequencyHz) / poles : undefined,
      lineOhm: num(v, 'lineOhm'),
      declaredA: num(v, 'declaredA'),
      declaredNm: num(v, 'declaredNm'),
    };
  },
  derived: [
    { name: 'ampsAtRated', title: 'Locked-rotor current at rated voltage', unit: 'A' },
    { name: 'torqueNm', title: 'Locked-rotor torque at rated voltage', unit: 'N m' },
  ],
  caution:
    'A locked rotor pulls with more than its rated torque and heats within seconds: arm and stand bolted, nobody in its reach, short pulses. Local codes and licensed practice decide.',
};
