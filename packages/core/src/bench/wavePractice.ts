import type { Joint } from '../network/joints.ts';
import { SURGE_PHASES, type SurgePhase } from '../surge/suspect.ts';
import type { SurgeWaves } from '../evaluate/testKind.ts';
import type { Layout } from '../winding/layoutTypes.ts';
import { analyserRun, hiddenCoil, type AnalyserOrder } from './analyser.ts';
import { readingsOfRun } from './analyserReadings.ts';

/** What may be wrong with a practice winding; in most of them a phase is asked for too. */
export const WAVE_FAULTS = [
  'nothing wrong',
  'turn short',
  'group reversed',
  'group bypassed',
  'ground fault',
  'lead open',
] as const;
export type WaveFault = (typeof WAVE_FAULTS)[number];

/** A planted fault with what a tester reads of it. */
export interface WavePuzzle {
  fault: WaveFault;
  /** the phase, or the lead, at fault; none where nothing is */
  phase: SurgePhase | undefined;
  waves: SurgeWaves[];
  /** lead to lead, as typed: U–V, V–W, W–U */
  ohm: [string, string, string];
  /** after one minute, as typed */
  megohm: string;
  insulation: 'low' | 'sound';
}

/** Waves of a wound motor as it could have come out wrong: another fault, coil and phase each time. Deterministic in `random`. */
export function plantWaveFault(
  of: { layout: Layout; joints: Joint[]; volts: number; lineOhm: number },
  random: () => number,
): WavePuzzle {
  const fault = WAVE_FAULTS[Math.floor(random() * WAVE_FAULTS.length)] ?? 'nothing wrong';
  // the motor's hidden figures, the coil among them, follow from its name
  const order = { ...of, job: `practice ${Math.floor(random() * 1e9)}`, stage: 'AC', cured: false };
  const told = fault === 'nothing wrong' ? undefined : fault;
  const run = (test: AnalyserOrder['test'], volts: number) => analyserRun({ ...order, test, volts }, told, random);
  const waves = run('surge', of.volts).map((s): SurgeWaves => {
    const dtUs = 1e6 * ((s.times[1] ?? 0) - (s.times[0] ?? 0));
    return {
      name: s.name,
      pulses: s.channels.map((c, i) => ({ appliedV: Number.parseFloat(c.role), dtUs, v: [...(s.values[i] ?? [])] })),
    };
  });
  const read = (test: 'windingResistance' | 'insulationResistance'): Record<string, string> => {
    const [stream] = run(test, 500);
    return stream ? readingsOfRun(test, { ...stream, x: stream.times }) : {};
  };
  const r = read('windingResistance');
  const ohm = ['ab', 'bc', 'ca'].map((k) => r[k] ?? '');
  // the three phases are alike: the whole picture is turned by a phase or two, so that each may be at fault
  const turn = Math.floor(random() * 3);
  const turned = <T>(three: readonly T[]): T[] => three.map((_, i) => three[(i + 3 - turn) % 3] as T);
  const names = waves.map((w) => w.name);
  const phase = told === undefined ? undefined : phaseOf(told, order, turn);
  return {
    fault,
    phase,
    waves: turned(waves).map((w, i) => ({ ...w, ...(names[i] === undefined ? {} : { name: names[i] }) })),
    ohm: turned(ohm) as [string, string, string],
    megohm: read('insulationResistance')['r1min'] ?? '',
    insulation: fault === 'ground fault' ? 'low' : 'sound',
  };
}

function phaseOf(
  fault: Exclude<WaveFault, 'nothing wrong'>,
  order: Pick<AnalyserOrder, 'job' | 'layout'>,
  turn: number,
): SurgePhase {
  // a ground fault and an open lead lie at the first lead
  const own =
    fault === 'ground fault' || fault === 'lead open' ? 'A' : (order.layout.coils[hiddenCoil(order) - 1]?.phase ?? 'A');
  return SURGE_PHASES[(['A', 'B', 'C'].indexOf(own) + turn) % 3] ?? 'U';
}

/** How near an answer is: cause and phase, one of the two, or neither. */
export function judgeWavePuzzle(
  puzzle: Pick<WavePuzzle, 'fault' | 'phase'>,
  said: { fault: WaveFault; phase: SurgePhase | undefined },
): 'right' | 'near' | 'wrong' {
  if (puzzle.fault !== said.fault)
    // whether a coil has a turn short or its group is reversed cannot always be told apart; the phase is worth something
    return puzzle.phase !== undefined && said.fault !== 'nothing wrong' && said.phase === puzzle.phase
      ? 'near'
      : 'wrong';
  return puzzle.phase === undefined || puzzle.phase === said.phase ? 'right' : 'near';
}
