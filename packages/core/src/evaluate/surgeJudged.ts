import { surgeDiagnosis } from '../diagnose/surgeDiagnosis.ts';
import type { Cause } from '../diagnose/ranked.ts';
import { limit, quoteLimit } from '../limits/limits.ts';
import type { ShopLimits } from '../limits/limits.ts';
import { formatAgainst, formatNumber } from '../quantity/format.ts';
import {
  levelsOf,
  stepsOf,
  type Comparison,
  type SurgeLevel,
  type PulseStep,
  type WaveRecord,
} from '../surge/levels.ts';
import {
  oddResistance,
  othersOf,
  suspectOf,
  SURGE_PHASES,
  type Suspect,
  type SurgeConnection,
  type SurgeMode,
} from '../surge/suspect.ts';
import { figuresOf, type PulseFigures } from '../surge/wave.ts';
import { combineVerdicts, notAbove, notBelow, type Judged, type Verdict } from '../verdict.ts';

export interface SurgeQuestion {
  waves: readonly WaveRecord[];
  mode: SurgeMode;
  connection: SurgeConnection;
  winding: 'random-wound' | 'form-wound';
  windings: 'alike' | 'concentric';
  rotor: 'in' | 'out';
  /** how the rotor stood, in words of its own */
  rotorSays?: string | undefined;
  requiredV?: number | undefined;
  requiredFrom?: string | undefined;
  phasesOhm?: readonly [number, number, number] | undefined;
  insulation?: 'low' | 'sound' | undefined;
  limits: ShopLimits;
}

export interface WaveFigures {
  name: string;
  appliedV: number;
  frequencyHz: number | undefined;
  peakV: number;
  steps: PulseStep[];
}

export interface SurgeJudged extends Judged {
  waves: WaveFigures[];
  /** the comparisons of each voltage, the lowest first; the last decides */
  levels: SurgeLevel[];
  reachedV: number;
  requiredV: number | undefined;
  /** between which voltages the turn insulation gave way */
  breakdown: { wave: string; fromV: number; toV: number } | undefined;
  /** lowest voltage at which a comparison is out */
  outFromV: number | undefined;
  suspect: Suspect;
  diagnosis: Cause[];
}

const pairOf = (waves: readonly WaveRecord[], c: Comparison): string =>
  `${waves[c.first]?.name ?? ''} against ${waves[c.second]?.name ?? ''}`;

/** Every two waves' largest difference of ring frequency, %. */
function largestShift(hz: readonly (number | undefined)[]): number | undefined {
  const all = hz.filter((f) => f !== undefined);
  return all.length < hz.length || all.length < 2
    ? undefined
    : (100 * (Math.max(...all) - Math.min(...all))) / Math.min(...all);
}

/**
 * Judges a surge comparison: every step from pulse to pulse, then the comparisons at the highest voltage that all waves reached, then
 * whether that voltage was enough. Limits: common practice, the shop's own first.
 */
export function judgeSurge(q: SurgeQuestion): SurgeJudged {
  const { waves, limits } = q;
  const areaId = q.winding === 'form-wound' ? 'surge.formAreaPercent' : 'surge.randomAreaPercent';
  const figures: PulseFigures[][] = waves.map((w) => w.pulses.map(figuresOf));
  const levels = levelsOf(waves, figures, limit(areaId, limits));
  const top = levels.at(-1);
  const steps = waves.map((w) => stepsOf(w, limit('surge.pulsePercent', limits)));
  const jumps = steps.flatMap((of, i) =>
    of.filter((s) => s.out).map((s) => ({ wave: waves[i]?.name ?? '', at: i, fromV: s.fromV, toV: s.toV })),
  );
  const rising = jumps.filter((j) => j.toV > j.fromV * 1.02);
  const breakdown = [...jumps].sort((a, b) => a.toV - b.toV)[0];
  const out = (top?.comparisons ?? []).filter((c) => c.out);
  const first = levels.find((l) => l.comparisons.some((c) => c.out));
  // a jump needs at least two pulses to be seen; what is out only above a voltage is the same thing
  const onlyAbove = first !== undefined && levels.length > 1 && first !== levels[0];
  const breaksDown = rising.length > 0 || onlyAbove;
  const highest = waves.map((w, i) => {
    const at = top?.pulses[i] ?? w.pulses.length - 1;
    return { pulse: w.pulses[at], figures: figures[i]?.[at] };
  });
  const hz = highest.map((h) => h.figures?.hz);
  const resistance = q.phasesOhm && oddResistance(q.phasesOhm);
  const mostApart = limit(
    q.winding === 'form-wound' ? 'resistance.formPassPercent' : 'resistance.randomPassPercent',
    limits,
  );
  const odd = resistance && !notAbove(Math.abs(resistance.percent), mostApart) ? resistance : undefined;
  const suspect = suspectOf({
    comparisons: top?.comparisons ?? [],
    hz,
    mode: q.mode,
    connection: q.connection,
    odd,
    breaksDown,
    nearPercent: limit('surge.oddNearPercent', limits),
  });
  const reachedV = Math.min(...waves.map((w) => Math.max(...w.pulses.map((p) => p.appliedV))));
  const dead = waves
    .filter((_, i) => {
      const { pulse, figures: own } = highest[i] ?? {};
      return (
        pulse !== undefined &&
        own !== undefined &&
        own.peakV < (limit('surge.deadPercent', limits) / 100) * pulse.appliedV
      );
    })
    .map((w) => w.name);
  const empty = waves.filter((_, i) => figures[i]?.every((f) => f.peakV === 0)).map((w) => w.name);
  const silent = waves
    .filter((w, i) => !dead.includes(w.name) && highest[i]?.figures && highest[i].figures.hz === undefined)
    .map((w) => w.name);
  const diagnosis = surgeDiagnosis({
    out: out.length,
    of: top?.comparisons.length ?? 0,
    outAtLowest: levels.length < 2 ? undefined : (levels[0]?.comparisons.some((c) => c.out) ?? false),
    outFromV: first?.appliedV,
    shiftPercent: largestShift(hz),
    shiftLimit: limit('surge.shiftPercent', limits),
    jumps: rising,
    soundWaveSteady: steadyWithout(suspect, waves, rising),
    unsteady: [...new Set(jumps.filter((j) => !rising.includes(j)).map((j) => j.wave))],
    dead,
    silent,
    weak: weakOf(waves, highest, limits),
    rotor: q.rotor,
    windings: q.windings,
    resistance:
      resistance === undefined
        ? undefined
        : odd === undefined
          ? { kind: 'equal' }
          : { kind: odd.percent > 0 ? 'high' : 'low', phase: SURGE_PHASES[odd.phase] ?? 'U', percent: odd.percent },
    insulation: q.insulation,
    phase: suspect.phase,
    lower: suspect.change === 'gained',
  });
  const judged = verdictOf({
    ...q,
    areaId,
    levels,
    top,
    out,
    breakdown,
    suspect,
    onlyAbove,
    first,
    reachedV,
    dead,
    empty,
    silent,
    steps,
  });
  return {
    ...judged,
    waves: waves.map((w, i) => ({
      name: w.name,
      appliedV: highest[i]?.pulse?.appliedV ?? 0,
      frequencyHz: hz[i],
      peakV: highest[i]?.figures?.peakV ?? 0,
      steps: steps[i] ?? [],
    })),
    levels,
    reachedV,
    requiredV: q.requiredV,
    breakdown: breakdown && { wave: breakdown.wave, fromV: breakdown.fromV, toV: breakdown.toV },
    outFromV: first?.appliedV,
    suspect,
    diagnosis,
  };
}

/** Where the odd wave holds none of the suspect phase: whether it stood still while others jumped. */
function steadyWithout(
  suspect: Suspect,
  waves: readonly WaveRecord[],
  jumps: readonly { wave: string }[],
): boolean | undefined {
  if (suspect.odd === undefined || suspect.oddIsHealthy !== true || jumps.length === 0) return undefined;
  const name = waves[suspect.odd]?.name;
  return !jumps.some((j) => j.wave === name);
}

/** Waves much smaller or much more damped than the strongest. */
function weakOf(
  waves: readonly WaveRecord[],
  highest: readonly { pulse: WaveRecord['pulses'][number] | undefined; figures: PulseFigures | undefined }[],
  limits: ShopLimits,
): string[] {
  const share = (id: 'surge.weakPercent' | 'surge.weakSwingPercent') => limit(id, limits) / 100;
  const sizes = highest.map((h) => (h.pulse && h.figures ? h.figures.peakV / h.pulse.appliedV : 0));
  const swings = highest.map((h) => h.figures?.swing ?? 0);
  const [size, swing] = [Math.max(...sizes), Math.max(...swings)];
  return waves
    .filter(
      (_, i) =>
        (sizes[i] ?? 0) < share('surge.weakPercent') * size ||
        (swings[i] ?? 0) < share('surge.weakSwingPercent') * swing,
    )
    .map((w) => w.name);
}

interface Weighed extends SurgeQuestion {
  areaId: 'surge.formAreaPercent' | 'surge.randomAreaPercent';
  levels: readonly SurgeLevel[];
  top: SurgeLevel | undefined;
  out: readonly Comparison[];
  breakdown: { wave: string; fromV: number; toV: number } | undefined;
  suspect: Suspect;
  onlyAbove: boolean;
  first: SurgeLevel | undefined;
  reachedV: number;
  dead: readonly string[];
  empty: readonly string[];
  silent: readonly string[];
  steps: readonly (readonly PulseStep[])[];
}

/** The sentence of the suspect phase, or why there is none. */
function phaseSays(x: Weighed): string {
  const { suspect } = x;
  if (suspect.phase === undefined) return `No phase is named: ${suspect.why ?? ''}.`;
  const assumed = x.phasesOhm === undefined ? ' (inductance taken as lost: the phase resistances are not known)' : '';
  if (x.breakdown || x.onlyAbove) return `Suspect: phase ${suspect.phase}.`;
  if (suspect.change === 'gained') return `Suspect: phase ${suspect.phase}, more inductance than the others.`;
  const [a, b] = othersOf(suspect.phase);
  return `Suspect: phase ${suspect.phase}, or groups of ${a} and ${b} exchanged${assumed}.`;
}

function verdictOf(x: Weighed): Judged {
  const { limits, top, out } = x;
  const all = x.steps.flat();
  const ends = (verdict: Verdict, reason: string): Judged => ({ verdict, reason });
  if (x.breakdown) {
    const worst = Math.max(...all.filter((s) => s.out).map((s) => s.areaPercent));
    const [shown] = formatAgainst(worst, limit('surge.pulsePercent', limits));
    const { wave, fromV, toV } = x.breakdown;
    const where =
      toV === fromV
        ? `at ${formatNumber(toV)} V`
        : `between ${formatNumber(Math.min(fromV, toV))} and ${formatNumber(Math.max(fromV, toV))} V`;
    return ends(
      'fail',
      `${wave} changes ${where} by ${shown} % from pulse to pulse, more than ${quoteLimit('surge.pulsePercent', limits)}: the turn insulation gives way there. ${out.length === 2 ? phaseSays(x) : ''} Do not raise the voltage.`.replace(
        '.  ',
        '. ',
      ),
    );
  }
  if (x.empty.length > 0)
    return ends('cannot judge', `${x.empty.join(', ')}: nothing but zeros. Check the lead and the record.`);
  if (x.waves.length > 1 && !top)
    return ends(
      'cannot judge',
      'The waves were not taken at one voltage: nothing to compare. Repeat at equal voltage.',
    );
  const parts: Judged[] = [];
  if (top) parts.push(comparisonsSay(x, top, out));
  else if (all.length === 0) parts.push(ends('cannot judge', 'One wave of one pulse: nothing to compare with.'));
  else {
    const worst = Math.max(...all.map((s) => s.areaPercent));
    const [shown] = formatAgainst(worst, limit('surge.pulsePercent', limits));
    parts.push(
      ends('pass', `From pulse to pulse at most ${shown} %, within ${quoteLimit('surge.pulsePercent', limits)}.`),
    );
  }
  if (x.dead.length + x.silent.length > 0)
    parts.push(
      ends(
        'fail',
        `${[...x.dead, ...x.silent].join(', ')} ${x.dead.length + x.silent.length === 1 ? 'does' : 'do'} not ring: open circuit, or a lead of the tester.`,
      ),
    );
  const judged = {
    verdict: combineVerdicts(parts.map((p) => p.verdict)),
    reason: parts.map((p) => p.reason).join(' '),
  };
  if (judged.verdict === 'fail' || x.requiredV === undefined) return judged;
  const least = (limit('surge.reachedPercent', limits) / 100) * x.requiredV;
  if (notBelow(x.reachedV, least)) return judged;
  const [reached, needed] = formatAgainst(x.reachedV, least);
  return ends(
    'cannot judge',
    `${judged.reason} Reached ${reached} V, less than ${needed} V (${limit('surge.reachedPercent', limits)} % of ${formatNumber(x.requiredV)} V${x.requiredFrom === undefined ? '' : `, ${x.requiredFrom}`}): not proved.`,
  );
}

/** What is told beside the area, which alone decides. */
const BESIDE = [
  { id: 'surge.amplitudePercent', says: 'The amplitude', of: (c: Comparison) => c.amplitudePercent },
  { id: 'surge.shiftPercent', says: 'The ring frequency', of: (c: Comparison) => c.shiftPercent },
] as const;

/** The comparison that goes furthest beyond a limit; none where all keep within. */
function beyond(
  comparisons: readonly Comparison[],
  of: (c: Comparison) => number | undefined,
  most: number,
): Comparison[] {
  const out = comparisons.filter((c) => !notAbove(Math.abs(of(c) ?? 0), most));
  return out.length === 0 ? [] : [out.reduce((a, b) => (Math.abs(of(b) ?? 0) > Math.abs(of(a) ?? 0) ? b : a))];
}

/** What the comparisons at the highest voltage say. */
function comparisonsSay(x: Weighed, top: SurgeLevel, out: readonly Comparison[]): Judged {
  const { waves, limits } = x;
  const most = limit(x.areaId, limits);
  const worst = top.comparisons.reduce((a, b) => (b.areaPercent > a.areaPercent ? b : a));
  const [shown, bound] = formatAgainst(worst.areaPercent, most);
  const at = `${formatNumber(top.appliedV)} V, rotor ${x.rotorSays ?? x.rotor}`;
  const source = quoteLimit(x.areaId, limits);
  const [single] = out;
  if (!single) {
    const within = `At ${at}: largest area ${shown} % (${pairOf(waves, worst)}), within ${source}.`;
    const beside = BESIDE.flatMap(({ id, of, says }) =>
      beyond(top.comparisons, of, limit(id, limits)).map(
        (c) =>
          `${says} of ${pairOf(waves, c)} differs by ${formatAgainst(Math.abs(of(c) ?? 0), limit(id, limits))[0]} %, more than ${quoteLimit(id, limits)}`,
      ),
    );
    return {
      verdict: 'pass',
      reason:
        beside.length === 0 ? within : `${within} ${beside.join('; ')}: exchange the leads and repeat to be sure.`,
    };
  }
  const far = out.map((c) => `${pairOf(waves, c)} ${formatAgainst(c.areaPercent, most)[0]} %`).join(', ');
  const from = x.onlyAbove && x.first ? ` Within limits below; from ${formatNumber(x.first.appliedV)} V up.` : '';
  const told = `At ${at}: ${far}, above ${source === '' ? bound : source}.${from}`;
  if (out.length === 1)
    return {
      verdict: 'attention',
      reason: `${told} One comparison alone is marginal: exchange the leads and repeat.`,
    };
  const turn = x.rotor === 'in' ? ' The rotor is in: turn it and repeat before condemning.' : '';
  if (out.length === 2) return { verdict: 'fail', reason: `${told} ${phaseSays(x)}${turn}` };
  if (x.rotor === 'in')
    return {
      verdict: 'cannot judge',
      reason: `${told} With the rotor in its position tells: turn it slowly at reduced voltage and compare each phase at its own best place, or take it out.`,
    };
  const measured = x.waves.every((w) => w.pulses.length > 1);
  if (x.windings === 'concentric' && measured)
    return {
      verdict: 'attention',
      reason: `${told} The phases are unlike by design and every step from pulse to pulse is within its limit: compare with a master wave.`,
    };
  return {
    verdict: 'fail',
    reason: `${told} Unequal windings, misconnection or two faults; no phase is named.`,
  };
}
