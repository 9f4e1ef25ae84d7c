import type { Joint } from '../network/joints.ts';
import { nodalByInductance, networkOf, type Network } from '../network/network.ts';
import { symmetricInverse } from '../network/solve.ts';
import type { Layout } from '../winding/layoutTypes.ts';
import { surgeWave, type SurgeCircuit } from './simulatedWave.ts';
import type { SurgeMode } from './suspect.ts';
import type { SurgePulse } from './wave.ts';

/** Turns of one coil that touch each other. */
export interface TurnShort {
  /** number of the coil */
  coil: number;
  turns: number;
  /** resistance round the short, Ω */
  loopOhm: number;
}

/** What a tester sees between its two clips, in the unit of the ideal gap (turns² and a permeance of one). */
export interface Port {
  /** with the shorted turns open */
  inductance: number;
  /** flux of one ampere through the shorted turns, and their own inductance; absent where nothing is shorted */
  shared?: number;
  loop?: number;
}

/** The clips of each wave: from one lead to another, or from one lead to the two others tied. */
const CLIPS = {
  'lead to lead': [
    [['T1'], ['T2']],
    [['T2'], ['T3']],
    [['T3'], ['T1']],
  ],
  'one against two': [
    [['T1'], ['T2', 'T3']],
    [['T2'], ['T3', 'T1']],
    [['T3'], ['T1', 'T2']],
  ],
} as const satisfies Record<
  Exclude<SurgeMode, 'not known'>,
  readonly (readonly [readonly string[], readonly string[]])[]
>;

/** The layout with some turns of a coil as a group of their own, and the number of that group. */
function split(layout: Layout, short: TurnShort): { layout: Layout; loop: number } {
  const coil = layout.coils[short.coil - 1];
  if (!coil) throw new RangeError(`there is no coil ${short.coil}`);
  if (!(short.turns > 0 && short.turns <= coil.turns))
    throw new RangeError(`coil ${short.coil} has ${coil.turns} turns`);
  const group = layout.groups.find((g) => g.coils.includes(short.coil));
  if (!group) throw new RangeError(`coil ${short.coil} is in no group`);
  const loop = Math.max(...layout.groups.map((g) => g.number)) + 1;
  const number = layout.coils.length + 1;
  return {
    loop,
    layout: {
      ...layout,
      coils: [
        ...layout.coils.map((c) => (c === coil ? { ...c, turns: c.turns - short.turns } : c)),
        { ...coil, number, turns: short.turns },
      ],
      groups: [...layout.groups, { ...group, number: loop, coils: [number] }],
    },
  };
}

/** What the three waves of a test see of a winding as it is joined, with turns of one coil shorted where that is so. */
export function portsOf(
  layout: Layout,
  joints: readonly Joint[],
  mode: Exclude<SurgeMode, 'not known'>,
  short?: TurnShort,
): Port[] {
  const made = short ? split(layout, short) : undefined;
  return CLIPS[mode].map(([plus, minus]) => {
    const tied: Joint[] = [...joints, [...plus], [...minus]].filter((j) => j.length > 1);
    const net = networkOf(made?.layout ?? layout, mergedJoints(tied));
    const across = acrossIn(net);
    const lead = [plus[0], minus[0]] as [string, string];
    const inductance = across(lead, lead);
    if (!made) return { inductance };
    const loop: [string, string] = [`${made.loop}S`, `${made.loop}F`];
    return { inductance, shared: across(lead, loop), loop: across(loop, loop) };
  });
}

/** Joints that share a name are one. */
function mergedJoints(joints: readonly Joint[]): Joint[] {
  const out: string[][] = [];
  for (const joint of joints) {
    const met = out.filter((o) => joint.some((end) => o.includes(end)));
    const one = [...new Set([...met.flat(), ...joint])];
    for (const m of met) out.splice(out.indexOf(m), 1);
    out.push(one);
  }
  return out;
}

/** Volts across one pair of ends when another takes one ampere per second. */
function acrossIn(net: Network): (a: readonly [string, string], b: readonly [string, string]) => number {
  const n = net.meets.length;
  const K = symmetricInverse(Float64Array.from(nodalByInductance(net).flat()), n);
  const at = (end: string): number => net.nodeOf.get(end) ?? 0;
  return ([a, b], [c, d]) => {
    const [p, q, r, s] = [at(a), at(b), at(c), at(d)];
    return (K[p * n + r] ?? 0) - (K[p * n + s] ?? 0) - (K[q * n + r] ?? 0) + (K[q * n + s] ?? 0);
  };
}

/** A tester and what turns the model's unit into henry. */
export interface Bench {
  farad: number;
  /** henry of one unit of the ideal gap */
  henryPerUnit: number;
  /** √(L/C)/R of the sound winding: 2 to 5 */
  quality: number;
}

/** The circuit of one wave: L and R as the shorted turns leave them at the ring frequency. */
export function circuitOf(port: Port, sound: Port, bench: Bench, loopOhm = 0): SurgeCircuit {
  const { farad, henryPerUnit, quality } = bench;
  const ohm = Math.sqrt((sound.inductance * henryPerUnit) / farad) / quality;
  const henry = port.inductance * henryPerUnit;
  if (port.shared === undefined || port.loop === undefined) return { ohm, henry, farad };
  const w = 1 / Math.sqrt(henry * farad);
  const [shared, loop] = [port.shared * henryPerUnit, port.loop * henryPerUnit];
  const D = loopOhm ** 2 + (w * loop) ** 2;
  if (D === 0) return { ohm, henry, farad };
  return {
    ohm: ohm + (w * w * shared * shared * loopOhm) / D,
    henry: henry - (w * w * shared * shared * loop) / D,
    farad,
  };
}

/** One record of a wave as a tester would send it: noise of `noise` times the applied voltage. */
export function recordOf(
  circuit: SurgeCircuit,
  appliedV: number,
  window: { dtS: number; samples: number },
  noise: number,
  random: () => number,
): SurgePulse {
  const wave = surgeWave(circuit, appliedV, window.dtS, window.samples);
  const v = Float64Array.from(wave.v);
  // twelve uniform numbers less six: near enough to a normal one
  for (let i = 0; noise > 0 && i < v.length; i++) {
    let sum = -6;
    for (let k = 0; k < 12; k++) sum += random();
    v[i] = (v[i] as number) + sum * noise * appliedV;
  }
  return { ...wave, v };
}
