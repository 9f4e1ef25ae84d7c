import {
  ANALYSER_FAULTS,
  LOAD_FAULTS,
  STAND_FAULTS,
  type AnalyserOrder,
  type LoadOrder,
  type SpinOrder,
} from '@norther/core';
import { z } from 'zod';

/** Kinds an instrument may be of, and what each sends; the list is open. */
export const INSTRUMENT_SENDS = {
  'oven logger': 'oven',
  'resin tank': 'resin tank',
  'balancing stand': 'balance',
  'winding analyser': 'winding',
  dynamometer: 'load',
  'power meter': 'power',
  'insulation tester': 'insulation',
  'core tester': 'core',
  other: 'other',
} as const;
export type InstrumentKind = keyof typeof INSTRUMENT_SENDS;
export const INSTRUMENT_KINDS = Object.keys(INSTRUMENT_SENDS) as [InstrumentKind, ...InstrumentKind[]];

/** What an instrument may be told, with the unit of its value where it has one. */
export const COMMANDS = {
  'set load': { unit: 'N·m' },
  /** no more load than now */
  hold: {},
  /** the load comes off at once, the motor goes on */
  unload: {},
  'next test': {},
  'next load': {},
  stop: {},
  'probe falls': {},
  'probe sticks': {},
  'door opens': {},
  'burner out': {},
  'falls silent': {},
  'vessel leaks': {},
  'lead comes off': {},
  'level falls': {},
  /** a simulated stand or analyser only: nobody starts a real one from afar */
  spin: {},
  measure: {},
  load: {},
  'turn short': {},
  'group reversed': {},
  'group bypassed': {},
  'ground fault': {},
  'damp winding': {},
  'lead open': {},
  'bar comes loose': {},
  'shaft bends': {},
  'angle sense turns': {},
  'near resonance': {},
  'supply unbalanced': {},
  misaligned: {},
  'torque zero drifts': {},
  overheats: {},
  'load runs away': {},
  'sound again': {},
} as const satisfies Record<string, { unit?: string }>;
export type CommandName = keyof typeof COMMANDS;
export const COMMAND_NAMES = Object.keys(COMMANDS) as [CommandName, ...CommandName[]];
/** What instruments of a kind can be told; the others only send. */
export const INSTRUMENT_TAKES: Partial<Record<InstrumentKind, readonly CommandName[]>> = {
  'oven logger': ['next load'],
  'resin tank': ['next load'],
  'balancing stand': ['stop'],
  'core tester': ['next test', 'stop'],
  'winding analyser': ['next test', 'stop'],
  dynamometer: ['set load', 'hold', 'unload', 'stop'],
};
/** Faults that a simulated instrument of a kind shows when it is told. */
export const SIMULATED_FAULTS: Partial<Record<InstrumentKind, readonly CommandName[]>> = {
  'oven logger': ['probe falls', 'probe sticks', 'door opens', 'burner out', 'falls silent'],
  'resin tank': ['vessel leaks', 'lead comes off', 'level falls', 'falls silent'],
  'balancing stand': STAND_FAULTS,
  'winding analyser': ANALYSER_FAULTS,
  dynamometer: LOAD_FAULTS,
};
/** What an instrument can be told. */
export const takesOf = (i: { kind: string; simulated: boolean }): readonly CommandName[] => [
  ...(INSTRUMENT_TAKES[i.kind as InstrumentKind] ?? []),
  ...(i.simulated ? (SIMULATED_FAULTS[i.kind as InstrumentKind] ?? []) : []),
];
/** The command stream says so often that it is there; after two silent seconds an instrument goes to its safe state by itself. */
export const HEARD_EVERY_MS = 500;

/** What an instrument is told; it counts for a while only, so that nothing happens long after it was meant. */
export const commandBody = z
  .strictObject({
    command: z.enum(COMMAND_NAMES),
    value: z.number().optional(),
    /** seconds after which it is not to be done any more */
    withinS: z.number().min(1).max(3600).default(10),
  })
  .superRefine(({ command, value }, context) => {
    const wants = 'unit' in COMMANDS[command];
    if (wants !== (value !== undefined))
      context.addIssue({
        code: 'custom',
        path: ['value'],
        message: wants ? `say how much, for "${command}"` : `"${command}" takes no value`,
      });
  });
/** What became of a command, said by the instrument. */
export const commandAnswerBody = z.strictObject({
  answer: z.enum(['done', 'refused']),
  said: z.string().trim().max(200).default(''),
});
export const INSTRUMENT_STATES = ['ready', 'stopped here', 'safe'] as const;
/** How the instrument stands: somebody stopped it on the spot, or it heard nothing and went to its safe state. */
export const instrumentStateBody = z.strictObject({ state: z.enum(INSTRUMENT_STATES) });

/** A command as its stream sends it. */
export interface CommandSent {
  id: number;
  command: CommandName;
  value: number | null;
  /** of "spin", "measure" and "load": what is on the simulated instrument */
  detail: SpinOrder | AnalyserOrder | LoadOrder | null;
  /** seconds left until it counts no more */
  leftS: number;
}
export interface CommandView {
  id: number;
  command: CommandName;
  value: number | null;
  person: string;
  at: string;
  answer: 'waiting' | 'done' | 'refused' | 'expired';
  said: string;
}

/** Samples of one batch at most, and channels of a trace. */
export const MOST_BATCH = 4096;
export const MOST_CHANNELS = 16;

const line = (most: number) => z.string().trim().min(1).max(most);
const day = z.iso.date();

export const newInstrumentBody = z.strictObject({
  name: line(80),
  kind: z.enum(INSTRUMENT_KINDS),
  calibratedUntil: day.nullable().default(null),
  /** what its samples may be of: an oven log, a load run */
  mayWrite: z.array(line(40)).min(1).max(10),
});
export const changeInstrumentBody = z.strictObject({
  version: z.int().min(1),
  name: line(80).optional(),
  calibratedUntil: day.nullable().optional(),
  mayWrite: z.array(line(40)).min(1).max(10).optional(),
  active: z.boolean().optional(),
});

/** A numbered batch of samples. Times are the instrument's; `start` is that of its first sample. */
export const samplesBody = z.strictObject({
  /** names the run on the instrument; batches of one stream make one trace */
  stream: line(80),
  batch: z.int().min(0).max(10_000_000),
  what: line(40),
  job: line(40).optional(),
  channels: z
    .array(z.strictObject({ name: line(60), unit: line(20), role: z.string().trim().max(40).default('') }))
    .min(1)
    .max(MOST_CHANNELS),
  start: z.iso.datetime({ offset: true }),
  /** seconds from one sample to the next, or `times` */
  step: z.number().positive().max(86_400).optional(),
  /** seconds from `start`, rising */
  times: z.array(z.number().min(0).max(864_000)).min(1).optional(),
  /** one row a channel; null where a value was lost */
  values: z.array(z.array(z.number().nullable())).min(1),
  /** the run has ended with this batch */
  last: z.boolean().default(false),
});

export interface InstrumentView {
  id: string;
  name: string;
  kind: string;
  calibratedUntil: string | null;
  /** its calibration has run out */
  outOfDate: boolean;
  mayWrite: string[];
  simulated: boolean;
  /** as it says of itself; null of one that never said */
  state: (typeof INSTRUMENT_STATES)[number] | null;
  /** whether it hears commands now, and the newest of them */
  hears: boolean;
  commands: CommandView[];
  active: boolean;
  version: number;
  lastSeenAt: string | null;
  /** it was sending and has not been heard of for three intervals */
  silent: boolean;
  /** its clock against the server's, seconds, where more than two minutes apart */
  clockOffS: number | null;
  /** what it is sending, or has sent last */
  trace: { id: string; what: string; stream: string; startAt: string | null; ended: boolean; missing: number } | null;
}

/** What became of a batch. */
export interface BatchAnswer {
  trace: string;
  batch: number;
  /** false: it was here already */
  stored: boolean;
  /** batches between that have not come */
  missing: number;
}
