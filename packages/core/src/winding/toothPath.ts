import { z } from 'zod';
import { defineCalculation, refuse } from '../calculation.ts';
import { add, sizeOf, subtract, type Complex } from './complex.ts';
import type { Layout, Phase, Sign } from './layoutTypes.ts';
import { coilPhasor } from './phaseBalance.ts';
import { windingRecordSchema, type WindingRecord } from './record.ts';
import { layoutOfRecord } from './recordLayout.ts';

/** One tooth on the way of the wire. */
export interface ToothStep {
  /** tooth i stands between slot i and slot i + 1 */
  tooth: number;
  /** + counter-clockwise seen from the bore, connection end up; − clockwise */
  sign: Sign;
  enterSlot: number;
  leaveSlot: number;
  /** slots from where the tooth before was left, the shorter way; 0 at the first */
  jump: number;
}

/** One uncut run of wire: a circuit of a phase, from its start to its finish. */
export interface ToothRun {
  phase: Phase;
  circuit: number;
  steps: ToothStep[];
  startSlot: number;
  finishSlot: number;
  /** terminal of the start and of the finish */
  from: string;
  to: string;
}

export interface ToothPath {
  runs: ToothRun[];
  circuits: number;
  /** numbers of circuits whose phasors are equal */
  possible: number[];
}

const LETTERS = { A: 0, B: 1, C: 2 } as const;

/** The shorter way from one slot to another round S slots, signed. */
function shorter(from: number, to: number, S: number): number {
  const d = (((to - from) % S) + S) % S;
  return d > S / 2 ? d - S : d;
}

interface Tooth {
  tooth: number;
  sign: Sign;
  emf: Complex;
}

function stepsOf(teeth: readonly Tooth[], S: number): ToothStep[] {
  const out: ToothStep[] = [];
  for (const { tooth, sign } of teeth) {
    const right = (tooth % S) + 1;
    const [enterSlot, leaveSlot] = sign > 0 ? [tooth, right] : [right, tooth];
    const before = out.at(-1);
    out.push({ tooth, sign, enterSlot, leaveSlot, jump: before ? shorter(before.leaveSlot, enterSlot, S) : 0 });
  }
  return out;
}

const parts = <T>(list: readonly T[], c: number): T[][] =>
  Array.from({ length: c }, (_, i) => list.slice((i * list.length) / c, ((i + 1) * list.length) / c));

/** Whether the parts of a phase carry the same EMF. */
function equalParts(cut: readonly (readonly Tooth[])[]): boolean {
  const sums = cut.map((part) => part.reduce<Complex>((s, t) => add(s, t.emf), { re: 0, im: 0 }));
  const [first] = sums;
  return first !== undefined && sums.every((s) => sizeOf(subtract(s, first)) <= 1e-9 * Math.max(1, sizeOf(first)));
}

/** The way of one phase in c circuits: starts of runs of neighbours are tried, the least jumping wins, a tie by the lowest tooth. */
function phaseWay(teeth: readonly Tooth[], S: number, c: number): { cut: Tooth[][]; steps: ToothStep[][] } | undefined {
  if (teeth.length % c !== 0) return undefined;
  const rising = [...teeth].sort((a, b) => a.tooth - b.tooth);
  const numbers = new Set(rising.map((t) => t.tooth));
  const runs = rising
    .map((t, at) => ({ t, at }))
    .filter(({ t }) => !numbers.has(((t.tooth - 2 + S) % S) + 1))
    .map(({ t, at }) => {
      const members: number[] = [];
      for (let n = t.tooth; numbers.has(n) && members.length < S; n = (n % S) + 1) members.push(n);
      return { at, lowest: Math.min(...members) };
    });
  const starts = runs.length > 0 ? runs : [{ at: 0, lowest: 1 }];
  const ways = starts.map(({ at, lowest }) => {
    const cut = parts([...rising.slice(at), ...rising.slice(0, at)], c);
    const steps = cut.map((part) => stepsOf(part, S));
    return { cut, steps, lowest, jumps: steps.flat().reduce((n, s) => n + Math.abs(s.jump), 0) };
  });
  const equal = ways.filter((w) => equalParts(w.cut));
  return equal.sort((a, b) => a.jumps - b.jumps || a.lowest - b.lowest)[0];
}

/**
 * How the wire goes round the teeth: seen from the bore with the connection end up, + is counter-clockwise. Circuits lie one after the
 * other; wye with three leads ends on the star hook, delta is one uncut wire. Source: derived (docs/derivations.md, winding path).
 * @throws CalculationInputError when the circuits cannot be equal
 */
export function toothPath(
  layout: Layout,
  x: { circuits: number; connection: 'wye' | 'delta'; leads: '3' | '6'; fromFinish?: readonly Phase[] },
): ToothPath {
  const S = layout.slots;
  const teethOf = (phase: Phase): Tooth[] =>
    layout.coils
      .filter((c) => c.phase === phase)
      .map((c) => ({ tooth: c.goSlot, sign: c.sign, emf: coilPhasor(c, S, layout.poles) }));
  const count = teethOf('A').length;
  const possible = Array.from({ length: count }, (_, i) => i + 1).filter((c) =>
    layout.phases.every((p) => phaseWay(teethOf(p), S, c) !== undefined),
  );
  if (!possible.includes(x.circuits))
    refuse(
      'circuits',
      `${count} coils of a phase do not make ${x.circuits} equal circuits; possible: ${possible.join(', ')}.`,
    );
  const runs = layout.phases.flatMap((phase): ToothRun[] => {
    const way = phaseWay(teethOf(phase), S, x.circuits);
    const at = LETTERS[phase];
    const start = String(at + 1);
    const finish = x.leads === '6' ? String(at + 4) : x.connection === 'wye' ? 'star' : String(((at + 1) % 3) + 1);
    return (way?.cut ?? []).map((part, i): ToothRun => {
      // laid from its finish: the list the other way round, every sense turned
      const turned = x.fromFinish?.includes(phase) ?? false;
      const list = turned ? [...part].reverse().map((t) => ({ ...t, sign: -t.sign as Sign })) : part;
      const steps = stepsOf(list, S);
      const [from, to] = turned ? [finish, start] : [start, finish];
      return {
        phase,
        circuit: i + 1,
        steps,
        startSlot: steps[0]?.enterSlot ?? 0,
        finishSlot: steps.at(-1)?.leaveSlot ?? 0,
        from,
        to,
      };
    });
  });
  return { runs, circuits: x.circuits, possible };
}

/** A run as it is said at the bench: "12− 1+ 6+ 7−". */
export const sayRun = (run: Pick<ToothRun, 'steps'>): string =>
  run.steps.map((s) => `${s.tooth}${s.sign > 0 ? '+' : '−'}`).join(' ');

/** The winding path of a record, as it is to be laid; undefined where it has no teeth with coils or its circuits cannot be. */
export function pathOf(
  record: WindingRecord,
  layout: Layout,
  fromFinish: readonly Phase[] = [],
): ToothPath | undefined {
  if (record.kind !== 'tooth-coil') return undefined;
  try {
    return toothPath(layout, {
      circuits: record.circuits ?? 1,
      connection: record.connection ?? 'wye',
      leads: record.leads === '6' ? '6' : '3',
      fromFinish,
    });
  } catch {
    return undefined;
  }
}

/** Calculation `winding.toothPath`. */
export const windingToothPath = defineCalculation({
  id: 'winding.toothPath',
  version: 1,
  title: 'Winding path of tooth coils: order, sense, jumps and terminals of every circuit',
  sources: ['derived from the layout'],
  input: z.strictObject({
    record: windingRecordSchema,
    fromFinish: z
      .array(z.enum(['A', 'B', 'C']))
      .default([])
      .describe('phases that are laid from their finish'),
  }),
  output: z.object({ runs: z.array(z.unknown()), circuits: z.number(), possible: z.array(z.number()) }),
  example: {
    record: {
      kind: 'tooth-coil',
      slots: 12,
      poles: 10,
      layers: 'double',
      turns: [20],
      circuits: 1,
      connection: 'wye',
      leads: '3',
    },
  },
  compute: ({ record, fromFinish }) => {
    const laid = layoutOfRecord(record);
    if (record.kind !== 'tooth-coil') refuse('record.kind', 'A winding path is for coils round teeth.');
    if (!laid.layout) return refuse('record.slots', laid.why);
    return toothPath(laid.layout, {
      circuits: record.circuits ?? 1,
      connection: record.connection ?? 'wye',
      leads: record.leads === '6' ? '6' : '3',
      fromFinish,
    });
  },
});
