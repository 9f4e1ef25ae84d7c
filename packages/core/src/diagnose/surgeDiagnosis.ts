import { formatNumber } from '../quantity/format.ts';
import { othersOf, type SurgePhase } from '../surge/suspect.ts';
import { cause, ranked, type Cause, type Weighed } from './ranked.ts';

/** What the waves, and the tests before them, tell. */
export interface SurgeFacts {
  /** comparisons out of limit at the highest voltage, of how many */
  out: number;
  of: number;
  /** out of limit at the lowest voltage too; undefined where only one voltage was taken */
  outAtLowest: boolean | undefined;
  /** lowest voltage at which a comparison is out */
  outFromV: number | undefined;
  /** largest difference of ring frequency between two waves, %; undefined where one does not ring */
  shiftPercent: number | undefined;
  /** limit of the shift */
  shiftLimit: number;
  /** waves that jump from pulse to pulse, while the voltage rises */
  jumps: { wave: string; fromV: number; toV: number }[];
  /** a wave that holds none of the suspect phase did not jump */
  soundWaveSteady: boolean | undefined;
  /** waves that differ between pulses of one voltage */
  unsteady: string[];
  /** waves that stay a line near zero */
  dead: string[];
  /** waves that fall without ringing */
  silent: string[];
  /** waves smaller or much more damped than the others */
  weak: string[];
  rotor: 'in' | 'out';
  windings: 'alike' | 'concentric';
  resistance: { kind: 'equal' } | { kind: 'low' | 'high'; phase: SurgePhase; percent: number } | undefined;
  insulation: 'low' | 'sound' | undefined;
  /** the suspect phase, where the rules allow one */
  phase: SurgePhase | undefined;
  /** the odd wave rings lower than the others expected: inductance gained */
  lower: boolean;
}

const when = (is: boolean | undefined, weight: number, say: string): Weighed => is === true && { weight, say };
const list = (names: readonly string[]) => names.join(', ');
const POLARITY =
  'Take the compass round the bore, or read the induced voltages: the size of the shift does not decide.';

/**
 * Explanations of a surge comparison, the most likely first.
 * Source: patterns of the trade (common practice), shifts by the model of the ideal gap (docs/derivations.md 8, 43).
 */
export function surgeDiagnosis(f: SurgeFacts): Cause[] {
  const anyOut = f.out > 0;
  const jumped = f.jumps.length > 0;
  const steady = anyOut && f.outAtLowest !== false && !jumped;
  const shifted = f.shiftPercent !== undefined && Math.abs(f.shiftPercent) > f.shiftLimit;
  const lines = f.dead.length + f.silent.length > 0;
  const shiftSays = `ring frequencies ${formatNumber(Math.abs(f.shiftPercent ?? 0), 2)} % apart`;
  const atAll = f.outAtLowest === true ? 'out at the lowest voltage too' : 'out at the one voltage that was taken';
  const inPhase = f.phase === undefined ? '' : ` in phase ${f.phase}`;
  const equal = f.resistance?.kind === 'equal';
  const low = f.resistance?.kind === 'low' ? f.resistance : undefined;
  const high = f.resistance?.kind === 'high' ? f.resistance : undefined;
  const resistanceSays =
    f.resistance && f.resistance.kind !== 'equal'
      ? `resistance of phase ${f.resistance.phase} ${formatNumber(Math.abs(f.resistance.percent), 2)} % ${f.resistance.kind}`
      : '';
  const insulationLow: Weighed = when(f.insulation === 'low', 2, 'insulation resistance is low');
  const insulationSound: Weighed = when(f.insulation === 'sound', -1.5, 'insulation resistance is sound');
  const first = f.jumps[0];
  return ranked([
    !anyOut && !jumped && !lines && f.unsteady.length === 0
      ? cause(
          'healthy',
          'Healthy, or all phases altered alike',
          'Compare with an earlier wave, a master wave, the predicted resistance.',
          [
            {
              weight: 4,
              say: f.of === 0 ? 'no step from pulse to pulse is out' : 'every comparison is within its limit',
            },
            when(equal, 1, 'phase resistances are equal'),
            when(f.resistance !== undefined && !equal, -1, resistanceSays),
            when(f.insulation === 'low', -1, 'insulation resistance is low'),
          ],
        )
      : undefined,
    cause(
      'turn insulation',
      `Turn insulation breaks down${inPhase}`,
      'Stop there: do not raise the voltage. Repeat once with the leads exchanged; find the coil before resin, or rewind.',
      [
        first && {
          weight: 4,
          say: `${first.wave} jumps between ${formatNumber(first.fromV)} and ${formatNumber(first.toV)} V`,
        },
        when(
          f.outAtLowest === false && anyOut,
          2,
          `within limits below, out from ${formatNumber(f.outFromV ?? 0)} V up`,
        ),
        when(jumped && f.soundWaveSteady === true, 1, 'the wave without that phase stays'),
        when(jumped && f.soundWaveSteady === false, -1, 'the wave without that phase jumps as well'),
        when(jumped && f.insulation === 'sound', 0.5, 'insulation resistance is sound'),
        when(steady, -2, 'no jump while the voltage rises'),
      ],
    ),
    cause('ground fault', 'Ground fault', 'Measure insulation resistance, part the phases, find the place.', [
      when(f.weak.length > 0 && f.dead.length < f.of, 2, `${list(f.weak)} smaller or much more damped than the others`),
      insulationLow,
      when(f.weak.length > 0 && (jumped || f.unsteady.length > 0), 1, 'unsteady'),
      insulationSound,
    ]),
    cause('reversed or exchanged groups, hard turn short', groupsTitle(f.phase), POLARITY, [
      when(steady && shifted, 2, `${shiftSays}, ${atAll}`),
      when(steady && shifted && equal, 2, 'phase resistances are equal'),
      when(jumped || f.outAtLowest === false, -3, 'it comes only with the voltage'),
      when(f.resistance !== undefined && !equal, -3, resistanceSays),
      when(f.rotor === 'in', -1, 'the rotor is in'),
      when(f.windings === 'concentric', -1, 'the phases are unlike by design'),
      when(lines, -5, 'not every wave rings'),
    ]),
    cause(
      'turns missing',
      `Turns missing or a group bypassed${low ? ` in phase ${low.phase}` : ''}`,
      'Count turns; read the group resistances; the as-made check names the group.',
      [
        when(steady && shifted && !f.lower, 1, shiftSays),
        low && { weight: 3, say: resistanceSays },
        when(equal, -3, 'phase resistances are equal'),
        high && { weight: -3, say: resistanceSays },
        when(jumped, -2, 'it comes only with the voltage'),
      ],
    ),
    cause(
      'more turns or open circuit',
      `More turns, or a parallel circuit open${high ? `, in phase ${high.phase}` : ''}`,
      'Read the circuits apart; look for the open joint.',
      [
        when(steady && shifted && f.lower, 1, shiftSays),
        high && { weight: 3, say: resistanceSays },
        when(equal, -2, 'phase resistances are equal'),
        low && { weight: -3, say: resistanceSays },
        when(jumped, -2, 'it comes only with the voltage'),
      ],
    ),
    cause(
      'rotor position',
      'Rotor position',
      'Turn the rotor slowly at reduced voltage; compare each phase at its own best place, or take the rotor out.',
      [
        when(
          f.rotor === 'in' && anyOut && !jumped,
          f.out === f.of ? 4 : 2,
          f.out === f.of ? 'all comparisons out with the rotor in' : 'the rotor is in',
        ),
        when(f.rotor === 'in' && anyOut && !jumped && equal, 1, 'phase resistances are equal'),
        when(f.rotor === 'in' && f.resistance !== undefined && !equal, -2, resistanceSays),
      ],
    ),
    cause(
      'unlike windings',
      f.windings === 'concentric'
        ? 'Phases unlike by design (concentric)'
        : 'Unlike windings, misconnection, two faults, or a short in an outer coil',
      f.windings === 'concentric'
        ? 'Compare with a master wave of this winding.'
        : 'Check the connection as made; compare coil by coil.',
      [
        when(f.rotor === 'out' && f.of === 3 && f.out === 3, 3, 'all three comparisons out with the rotor out'),
        when(f.windings === 'concentric' && f.out > 0, 2, 'the windings are recorded as concentric'),
        when(jumped, -2, 'it comes only with the voltage'),
        when(lines, -3, 'not every wave rings'),
      ],
    ),
    cause(
      'open circuit',
      'Open circuit, or a lead of the tester',
      'Check the clips, then the resistance of that pair.',
      [
        when(f.dead.length > 0, 4, `${list(f.dead)} stays a line`),
        when(f.silent.length > 0, 4, `${list(f.silent)} falls without ringing`),
        high && { weight: 1, say: resistanceSays },
      ],
    ),
    cause(
      'partial discharge or unsteady joint',
      'Partial discharge or an unsteady joint',
      'Repeat at that voltage; listen and look in the dark; check joints.',
      [
        when(f.unsteady.length > 0, 3, `${list(f.unsteady)} changes between pulses of one voltage`),
        when(f.unsteady.length > 0 && anyOut, 0.5, 'comparisons are out'),
      ],
    ),
  ]);
}

const groupsTitle = (phase: SurgePhase | undefined): string => {
  if (phase === undefined) return 'Reversed or exchanged groups, or a hard turn short';
  const [a, b] = othersOf(phase);
  return `Group of ${phase} reversed or a hard turn short in ${phase}, or groups of ${a} and ${b} exchanged`;
};
