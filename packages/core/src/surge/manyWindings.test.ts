import { describe, expect, it } from 'vitest';
import { seeded } from '../balance/stand.ts';
import { judgeSurge, type SurgeQuestion } from '../evaluate/surgeJudged.ts';
import { jointsOf } from '../network/joints.ts';
import { reversed } from '../network/mistakes.ts';
import { connect, possibleCircuits } from '../winding/connection.ts';
import { layoutOf } from '../winding/layout.ts';
import { circuitOf, portsOf, recordOf, type Port, type TurnShort } from './motorWaves.ts';
import { SURGE_PHASES, waveNames, type SurgeMode } from './suspect.ts';

const LONG = process.env['NORTHER_LONG'] === 'yes';
const MANY = LONG ? 2000 : process.env['NORTHER_DRAWS'] === 'few' ? 40 : 200;

/** Turns of a phase in series; one of them is shorted. */
const PHASE_TURNS = 60;
const VOLTS = [600, 1000, 1400, 1800];

const CORES = [
  { slots: 24, poles: 4, spanSlots: 5 },
  { slots: 36, poles: 4, spanSlots: 8 },
  { slots: 36, poles: 6, spanSlots: 5 },
  { slots: 48, poles: 4, spanSlots: 10 },
  { slots: 48, poles: 8, spanSlots: 5 },
  { slots: 54, poles: 6, spanSlots: 8 },
] as const;

interface Drawn {
  question: SurgeQuestion;
  phase: (typeof SURGE_PHASES)[number] | undefined;
}

/** A motor on the bench: any core, wye or delta, a tester, its scatter and noise, with a fault of stated size or none. */
function drawn(seed: number, fault: 'none' | 'hard' | 'breaks down' | 'reversed'): Drawn {
  const random = seeded(seed);
  const pick = <T>(of: readonly T[]): T => of[Math.floor(random() * of.length)] as T;
  const between = (a: number, b: number) => a + (b - a) * random();
  const core = pick(CORES);
  const plain = layoutOf({ ...core, layers: 2, form: 'lap', poleGroups: 'every-pole', turns: [1] });
  const connection = pick(['wye', 'delta'] as const);
  const { circuits, jumpers } = pick(possibleCircuits(plain).filter((p) => p.circuits <= 2));
  const perCircuit = core.slots / 3 / circuits;
  const turns = Math.max(2, Math.round(PHASE_TURNS / perCircuit));
  const layout = layoutOf({ ...core, layers: 2, form: 'lap', poleGroups: 'every-pole', turns: [turns] });
  const joints = jointsOf(connect(layout, { connection, circuits, jumper: jumpers[0] ?? 'adjacent-pole', leads: 3 }));
  const mode = pick(['lead to lead', 'one against two'] as const satisfies readonly SurgeMode[]);
  const coil = 1 + Math.floor(random() * layout.coils.length);
  const short: TurnShort = { coil, turns: 1, loopOhm: between(0.002, 0.01) };
  const group = layout.groups.find((g) => g.coils.includes(coil));
  const sound = portsOf(layout, joints, mode);
  const bad =
    fault === 'reversed'
      ? portsOf(layout, reversed(joints, group?.number ?? 1), mode)
      : portsOf(layout, joints, mode, short);
  const [first] = sound as [Port];
  const bench = { farad: 0.1e-6, henryPerUnit: between(2e-3, 6e-3) / first.inductance, quality: between(2, 5) };
  const breaksAt = pick([1000, 1400, 1800]);
  const period = 2 * Math.PI * Math.sqrt(first.inductance * bench.henryPerUnit * bench.farad);
  const window = { dtS: (4 * period) / 800, samples: 800 };
  const waves = waveNames(mode).map((name, i) => {
    // what makes three sound phases unlike: end turns, places of the coils
    const scatter = 1 + 0.004 * (random() + random() + random() - 1.5);
    const damping = 1 + 0.03 * (random() - 0.5);
    return {
      name,
      pulses: VOLTS.map((volts) => {
        const isBad = fault === 'hard' || fault === 'reversed' || (fault === 'breaks down' && volts >= breaksAt);
        // an arc does not stand still
        const loopOhm = short.loopOhm * (fault === 'breaks down' ? between(1, 4) : 1);
        const c = circuitOf((isBad ? bad : sound)[i] as Port, sound[i] as Port, bench, isBad ? loopOhm : 0);
        return recordOf(
          { ohm: c.ohm * damping, henry: c.henry * scatter, farad: c.farad },
          volts,
          window,
          0.002,
          random,
        );
      }),
    };
  });
  return {
    phase: group && SURGE_PHASES[['A', 'B', 'C'].indexOf(group.phase)],
    question: {
      waves,
      mode,
      connection,
      winding: 'random-wound',
      windings: 'alike',
      rotor: 'out',
      phasesOhm: [1, 1.002, 0.999],
      insulation: 'sound',
      limits: {},
    },
  };
}

const share = (many: number, of: (seed: number) => boolean): number =>
  Array.from({ length: many }, (_, i) => of(1000 + i)).filter(Boolean).length / many;

describe('windings with faults of stated size', () => {
  it('a healthy one is hardly ever judged wrong', () => {
    expect(share(MANY, (seed) => judgeSurge(drawn(seed, 'none').question).verdict !== 'pass')).toBeLessThan(0.005);
  });

  it.each(['hard', 'breaks down'] as const)('one turn of sixty shorted (%s) is found', (fault) => {
    const found = share(MANY, (seed) =>
      ['fail', 'attention'].includes(judgeSurge(drawn(seed, fault).question).verdict),
    );
    expect(found).toBeGreaterThanOrEqual(0.95);
  });

  it('a phase that is named is the one with the fault', () => {
    let named = 0;
    let right = 0;
    for (const fault of ['hard', 'breaks down', 'reversed'] as const)
      for (let i = 0; i < MANY; i++) {
        const { question, phase } = drawn(50_000 + i, fault);
        const { suspect } = judgeSurge(question);
        if (suspect.phase === undefined) continue;
        named += 1;
        if (suspect.phase === phase) right += 1;
      }
    expect(named).toBeGreaterThan(MANY / 4);
    expect(right / named).toBeGreaterThanOrEqual(0.95);
  });
});
