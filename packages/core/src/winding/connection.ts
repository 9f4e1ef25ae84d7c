import { z } from 'zod';
import { defineCalculation, refuse } from '../calculation.ts';
import { add, scale, sizeOf, subtract, type Complex } from './complex.ts';
import { divisorsOf } from './integers.ts';
import { groupEmf } from './phaseBalance.ts';
import { layoutInputSchema, PHASES, type Group, type Layout, type Phase } from './layoutTypes.ts';
import { layoutOf } from './layout.ts';
import { LINKS, TWO_SPEED_LINKS, type LinkRow } from './leadMarks.ts';
import { DUTIES, twoSpeedOf } from './twoSpeed.ts';

export const connectionChoiceSchema = z.strictObject({
  connection: z.enum(['wye', 'delta']),
  circuits: z.int().min(1).describe('parallel circuits per phase'),
  jumper: z
    .enum(['adjacent-pole', 'skip-pole'])
    .default('adjacent-pole')
    .describe('short jumpers (1-4) or long jumpers (1-7)'),
  leads: z
    .union([z.literal(3), z.literal(6), z.literal(9), z.literal(12)])
    .default(3)
    .describe('9 and 12, part-winding and two-speed: circuits are those of each half'),
  partWinding: z
    .boolean()
    .default(false)
    .describe('six leads: two wyes of half the winding each, started one after the other'),
  duty: z.enum(DUTIES).optional().describe('two-speed windings only'),
});
export type ConnectionChoice = Omit<z.output<typeof connectionChoiceSchema>, 'partWinding'> & { partWinding?: boolean };

/** One group in a circuit with the ends at which current enters and leaves. */
export interface CircuitStep {
  group: number;
  enter: string;
  leave: string;
}
export interface Circuit {
  phase: Phase;
  number: number;
  /** half of the phase, where the phase is brought out in halves */
  half?: 1 | 2;
  from: string;
  to: string;
  steps: CircuitStep[];
}
export interface Jumper {
  phase: Phase;
  from: string;
  to: string;
}
export interface ConnectionNode {
  name: string;
  kind: 'lead' | 'star';
  ends: string[];
}
export interface Connection {
  connection: 'wye' | 'delta';
  circuits: Circuit[];
  circuitsPerPhase: number;
  jumper: 'adjacent-pole' | 'skip-pole';
  leads: number;
  jumpers: Jumper[];
  nodes: ConnectionNode[];
  links: LinkRow[];
}

/** EMF phasor of a group, in turns, in the polarity of its place. */
const groupPhasor = (layout: Layout, group: Group): Complex => scale(groupEmf(layout, group), group.sign);

/** The phases whose circuits must agree; the auxiliary of a single-phase winding is joined for itself. */
const joined = (layout: Layout): readonly Phase[] => (layout.kind === 'single-phase' ? ['A'] : layout.phases);

/** The groups of a phase in the order they are joined, from its first positive group round the bore. */
export function phaseGroups(layout: Layout, phase: Phase, jumper: ConnectionChoice['jumper']): Group[] {
  const own = layout.groups.filter((g) => g.phase === phase);
  const first = Math.max(
    0,
    own.findIndex((g) => g.sign === 1),
  );
  const inOrder = [...own.slice(first), ...own.slice(0, first)];
  if (jumper === 'adjacent-pole') return inOrder;
  return [...inOrder.filter((g) => g.sign === 1), ...inOrder.filter((g) => g.sign === -1)];
}

function cut(list: Group[], circuits: number): Group[][] {
  const length = list.length / circuits;
  return Array.from({ length: circuits }, (_, j) => list.slice(j * length, (j + 1) * length));
}

/** Whether every circuit of every phase has the same phasor and turns: only then may they be paralleled. */
export function circuitsAreEqual(layout: Layout, circuits: number, jumper: ConnectionChoice['jumper']): boolean {
  return joined(layout).every((phase) => {
    const list = phaseGroups(layout, phase, jumper);
    if (list.length === 0 || list.length % circuits !== 0) return false;
    const sums = cut(list, circuits).map((groups) => ({
      emf: groups.reduce<Complex>((s, g) => add(s, groupPhasor(layout, g)), { re: 0, im: 0 }),
      turns: groups.reduce((n, g) => n + g.coils.reduce((m, c) => m + (layout.coils[c - 1]?.turns ?? 0), 0), 0),
    }));
    const head = sums[0];
    if (!head) return false;
    const tolerance = 1e-9 * Math.max(1, sizeOf(head.emf));
    return sums.every((s) => s.turns === head.turns && sizeOf(subtract(s.emf, head.emf)) <= tolerance);
  });
}

/** Every circuit count that works, with the jumper styles in which it works. */
export function possibleCircuits(layout: Layout): { circuits: number; jumpers: ConnectionChoice['jumper'][] }[] {
  const perPhase = groupsPerPhase(layout);
  const styles = ['adjacent-pole', 'skip-pole'] as const;
  return divisorsOf(perPhase)
    .map((circuits) => ({ circuits, jumpers: styles.filter((j) => circuitsAreEqual(layout, circuits, j)) }))
    .filter((x) => x.jumpers.length > 0);
}

/** Where each phase, or each half of it, begins and ends. */
interface Terminals {
  halves: boolean;
  from: (phase: Phase, half: 1 | 2) => string;
  to: (phase: Phase, half: 1 | 2) => string;
  links: readonly LinkRow[];
}

const NEXT: Readonly<Record<Phase, Phase>> = { A: 'B', B: 'C', C: 'A' };
const FIRST: Readonly<Record<Phase, number>> = { A: 1, B: 2, C: 3 };
const lead = (n: number): string => `T${n}`;

function terminalsOf(choice: ConnectionChoice): Terminals {
  const { connection, leads } = choice;
  const wye = connection === 'wye';
  if (choice.partWinding)
    return {
      halves: true,
      from: (p, h) => lead(FIRST[p] + (h === 1 ? 0 : 6)),
      to: (_, h) => `Y${h}`,
      links: LINKS['part-winding'],
    };
  if (leads === 3)
    return {
      halves: false,
      from: (p) => lead(FIRST[p]),
      to: (p) => (wye ? 'Y' : lead(FIRST[NEXT[p]])),
      links: [],
    };
  if (leads === 6)
    return { halves: false, from: (p) => lead(FIRST[p]), to: (p) => lead(FIRST[p] + 3), links: LINKS['6'] };
  if (leads === 9)
    return {
      halves: true,
      from: (p, h) => lead(FIRST[p] + (h === 1 ? 0 : 6)),
      to: (p, h) => (h === 1 ? lead(FIRST[p] + 3) : wye ? 'Y' : lead(FIRST[NEXT[p]])),
      links: wye ? LINKS['9 wye'] : LINKS['9 delta'],
    };
  return {
    halves: true,
    from: (p, h) => lead(FIRST[p] + (h === 1 ? 0 : 6)),
    to: (p, h) => lead(FIRST[p] + (h === 1 ? 3 : 9)),
    links: LINKS['12'],
  };
}

/**
 * Joins the groups of a layout: circuits with the end at which each group is entered and left, jumpers, what meets at
 * each lead and star. Ends are written group number + S (start: go side of the first coil) or F (finish: return side
 * of the last coil).
 * @throws CalculationInputError when the circuits would not have equal phasors
 */
export function connect(layout: Layout, choice: ConnectionChoice): Connection {
  if (layout.kind === 'two-speed') return connectTwoSpeed(layout, choice);
  const single = layout.kind === 'single-phase';
  if (choice.partWinding && choice.connection === 'delta')
    refuse('connection', 'A part-winding start takes two wyes, started one after the other; it is not for a delta.');
  const terminals = terminalsOf(choice);
  const inHalves = terminals.halves && !single;
  const all = choice.circuits * (inHalves ? 2 : 1);
  const possible = possibleCircuits(layout);
  const fits = possible.find((x) => x.circuits === all);
  if (!fits?.jumpers.includes(choice.jumper)) {
    const offers = possible.map((x) => `${x.circuits} (${x.jumpers.join(' or ')})`).join(', ');
    refuse(
      'circuits',
      inHalves
        ? `Two halves of ${choice.circuits} circuits joined ${choice.jumper} are ${all} circuits, and these would not be equal. Circuits that work here: ${offers || 'none'}.`
        : `${choice.circuits} circuits joined ${choice.jumper} would not be equal: their voltages differ and current would circulate. Circuits that work here: ${offers || 'none'}.`,
    );
  }
  const joints = new Joints();
  for (const phase of layout.phases) {
    const lists = cut(phaseGroups(layout, phase, choice.jumper), single && phase === 'B' ? 1 : all);
    lists.forEach((groups, j) => {
      const half = inHalves ? (j < choice.circuits ? 1 : 2) : 1;
      const [from, to] = single
        ? phase === 'A'
          ? ['U1', 'U2']
          : ['Z1', 'Z2']
        : [terminals.from(phase, half), terminals.to(phase, half)];
      joints.circuit(phase, groups, from, to, inHalves ? half : undefined);
    });
  }
  return joints.connection(choice, single ? [] : [...terminals.links]);
}

/** Two speeds from one winding: the halves of a phase in series with the mid-point brought out. */
function connectTwoSpeed(layout: Layout, choice: ConnectionChoice): Connection {
  const two = twoSpeedOf(layout);
  const duty = choice.duty ?? 'constant torque';
  const group = (n: number) => layout.groups.find((g) => g.number === n) as Group;
  const joints = new Joints();
  // high-speed line order 6, 4, 5 is an odd permutation of the phases: mid of A is T4, of B T6, of C T5
  const ends: Record<Phase, [from: string, mid: string, to: string]> =
    duty === 'constant torque'
      ? { A: ['T1', 'T4', 'T2'], B: ['T2', 'T6', 'T3'], C: ['T3', 'T5', 'T1'] }
      : duty === 'variable torque'
        ? { A: ['T1', 'T4', 'Y'], B: ['T2', 'T6', 'Y'], C: ['T3', 'T5', 'Y'] }
        : { A: ['T4', 'T1', 'T5'], B: ['T6', 'T2', 'T4'], C: ['T5', 'T3', 'T6'] };
  for (const phase of layout.phases) {
    const [from, mid, to] = ends[phase];
    const [first, second] = two.halves[phase];
    if (first.length % choice.circuits !== 0)
      refuse('circuits', `${first.length} groups in a half do not divide into ${choice.circuits} equal circuits.`);
    for (const groups of cut(first.map(group), choice.circuits)) joints.circuit(phase, groups, from, mid, 1);
    // constant power runs its halves against each other between the corners, so that the mid-fed winding has more poles
    for (const groups of cut(second.map(group), choice.circuits))
      joints.circuit(phase, duty === 'constant power' ? groups.map(turned) : groups, mid, to, 2);
  }
  return joints.connection({ ...choice, leads: 6 }, [...TWO_SPEED_LINKS[duty]]);
}

const turned = (g: Group): Group => ({ ...g, sign: -g.sign as 1 | -1 });

/** Collects circuits, jumpers and what meets where. */
class Joints {
  private readonly circuits: Circuit[] = [];
  private readonly jumpers: Jumper[] = [];
  private readonly meets = new Map<string, string[]>();

  private meet(name: string, end: string): void {
    const list = this.meets.get(name);
    if (list) list.push(end);
    else this.meets.set(name, [end]);
  }

  circuit(phase: Phase, groups: readonly Group[], from: string, to: string, half: 1 | 2 | undefined): void {
    const steps = groups.map((g) => ({
      group: g.number,
      enter: `${g.number}${g.sign === 1 ? 'S' : 'F'}`,
      leave: `${g.number}${g.sign === 1 ? 'F' : 'S'}`,
    }));
    steps.forEach((step, i) => {
      const after = steps[i + 1];
      if (after) this.jumpers.push({ phase, from: step.leave, to: after.enter });
    });
    const number = this.circuits.filter((c) => c.phase === phase).length + 1;
    this.circuits.push({ phase, number, ...(half ? { half } : {}), from, to, steps });
    this.meet(from, steps[0]?.enter ?? '');
  }

  connection(choice: ConnectionChoice, links: LinkRow[]): Connection {
    // starts first, then finishes, as the bench lays them out
    for (const c of this.circuits) this.meet(c.to, c.steps[c.steps.length - 1]?.leave ?? '');
    const rank = (name: string) =>
      name.startsWith('Y') ? 100 : Number(name.slice(1)) + (name.startsWith('Z') ? 10 : 0);
    const nodes = [...this.meets]
      .map(([name, ends]): ConnectionNode => ({ name, kind: name.startsWith('Y') ? 'star' : 'lead', ends }))
      .sort((a, b) => rank(a.name) - rank(b.name));
    return {
      connection: choice.connection,
      circuits: this.circuits,
      circuitsPerPhase: choice.circuits,
      jumper: choice.jumper,
      leads: choice.leads,
      jumpers: this.jumpers,
      nodes,
      links,
    };
  }
}

/** Groups of the phase that has fewest. */
export function groupsPerPhase(layout: Layout): number {
  return Math.min(...joined(layout).map((ph) => layout.groups.filter((g) => g.phase === ph).length));
}

/** min(groups per phase, the limit of the star of slots): the c_max that reading a connection needs. */
export function readableCircuitLimit(layout: Layout): number {
  return Math.min(groupsPerPhase(layout), layout.circuitLimit);
}

/** EMF sum round a delta, relative to one phase: 0 in a right delta, 2 with one phase reversed. */
export function deltaRingEmf(layout: Layout, reversed?: Phase): number {
  const sums = layout.phases.map((phase) => {
    const sum = layout.groups
      .filter((g) => g.phase === phase)
      .reduce<Complex>((s, g) => add(s, groupPhasor(layout, g)), { re: 0, im: 0 });
    return phase === reversed ? scale(sum, -1) : sum;
  });
  const ring = sums.reduce<Complex>((s, x) => add(s, x), { re: 0, im: 0 });
  return sizeOf(ring) / Math.max(...sums.map(sizeOf));
}

/** What must be said of a winding before it is joined: phases that are not equal carry unequal currents whatever the joints. */
export function connectionWarnings(layout: Layout): string[] {
  if (layout.kind !== 'three-phase' || layout.balance.balanced) return [];
  return [
    `The three phases are not equal with ${layout.slots} slots and ${layout.poles} poles grouped so: their currents will differ even without load, and the motor runs warm and rough.`,
  ];
}

const phaseSchema = z.enum(PHASES);

/** Calculation `winding.connection`. */
export const windingConnection = defineCalculation({
  id: 'winding.connection',
  version: 1,
  title: 'Connection of the groups: circuits, jumpers, what meets at each lead and star',
  sources: [
    'Liwschitz-Garik & Whipple, Alternating-Current Machines',
    'NEMA MG 1 and IEC 60034-8 lead marks (from memory)',
  ],
  input: layoutInputSchema.extend(connectionChoiceSchema.shape),
  output: z.object({
    connection: z.enum(['wye', 'delta']),
    circuits: z.array(
      z.object({
        phase: phaseSchema,
        number: z.number(),
        half: z.union([z.literal(1), z.literal(2)]).optional(),
        from: z.string(),
        to: z.string(),
        steps: z.array(z.object({ group: z.number(), enter: z.string(), leave: z.string() })),
      }),
    ),
    circuitsPerPhase: z.number(),
    jumper: z.enum(['adjacent-pole', 'skip-pole']),
    leads: z.number(),
    jumpers: z.array(z.object({ phase: phaseSchema, from: z.string(), to: z.string() })),
    nodes: z.array(z.object({ name: z.string(), kind: z.enum(['lead', 'star']), ends: z.array(z.string()) })),
    links: z.array(z.object({ use: z.string(), lines: z.array(z.string()), links: z.array(z.string()) })),
    possible: z.array(z.object({ circuits: z.number(), jumpers: z.array(z.enum(['adjacent-pole', 'skip-pole'])) })),
    warnings: z.array(z.string()),
  }),
  example: { slots: 36, poles: 4, layers: 2, form: 'lap', spanSlots: 8, connection: 'delta', circuits: 2 },
  compute: ({ connection, circuits, jumper, leads, partWinding, duty, ...layoutInput }, note) => {
    const layout = layoutOf(layoutInput);
    const made = connect(layout, { connection, circuits, jumper, leads, partWinding, duty });
    note?.({
      name: 'Jumpers per phase',
      symbol: '',
      formula: 'groups per phase − circuits',
      numbers: `${layout.groups.length / 3} − ${circuits}`,
      value: layout.groups.length / 3 - circuits,
      unit: '',
      source: 'counting',
    });
    for (const c of made.circuits) {
      note?.({
        name: `Phase ${c.phase}, circuit ${c.number}`,
        symbol: '',
        formula: 'enter – leave of each group in turn',
        numbers: [c.from, ...c.steps.map((s) => `${s.enter} ${s.leave}`), c.to].join(' – '),
        value: c.steps.length,
        unit: 'groups',
        source: 'Liwschitz-Garik & Whipple',
      });
    }
    return { ...made, possible: possibleCircuits(layout), warnings: connectionWarnings(layout) };
  },
});

/**
 * The same winding with its leads linked to run, as three leads: six leads by their delta or star, nine and twelve with
 * the halves in parallel (the lower voltage). Test figures of the linked motor are those of this connection.
 * @returns undefined for two speeds, single-phase and part-winding, which have no one running connection of three leads
 */
export function asLinkedToRun(layout: Layout, connection: Connection): Connection | undefined {
  if (layout.kind !== 'three-phase') return undefined;
  if (connection.leads === 3) return connection;
  const starts = connection.nodes.filter((n) => n.kind === 'star').length;
  if (connection.leads === 6 && starts === 2) return undefined;
  const halves = connection.leads === 9 || connection.leads === 12 ? 2 : 1;
  try {
    return connect(layout, {
      connection: connection.connection,
      circuits: connection.circuitsPerPhase * halves,
      jumper: connection.jumper,
      leads: 3,
    });
  } catch {
    return undefined;
  }
}
