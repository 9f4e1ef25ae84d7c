import { z } from 'zod';
import { defineCalculation, refuse } from '../calculation.ts';
import { add, scale, sizeOf, subtract, type Complex } from './complex.ts';
import { divisorsOf } from './integers.ts';
import { coilPhasor, layoutInputSchema, layoutOf, PHASES, type Group, type Layout, type Phase } from './layout.ts';

export const connectionChoiceSchema = z.strictObject({
  connection: z.enum(['wye', 'delta']),
  circuits: z.int().min(1).describe('parallel circuits per phase'),
  jumper: z
    .enum(['adjacent-pole', 'skip-pole'])
    .default('adjacent-pole')
    .describe('short jumpers (1-4) or long jumpers (1-7)'),
  leads: z.union([z.literal(3), z.literal(6)]).default(3),
});
export type ConnectionChoice = z.output<typeof connectionChoiceSchema>;

/** One group in a circuit with the ends at which current enters and leaves. */
export interface CircuitStep {
  group: number;
  enter: string;
  leave: string;
}
export interface Circuit {
  phase: Phase;
  number: number;
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
export interface LinkRow {
  use: string;
  lines: string[];
  links: string[];
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
function groupPhasor(layout: Layout, group: Group): Complex {
  return group.coils.reduce<Complex>(
    (sum, number) => {
      const coil = layout.coils[number - 1];
      return coil ? add(sum, coilPhasor(coil, layout.slots, layout.poles)) : sum;
    },
    { re: 0, im: 0 },
  );
}

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
  return PHASES.every((phase) => {
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
  const perPhase = Math.min(...PHASES.map((ph) => layout.groups.filter((g) => g.phase === ph).length));
  const styles = ['adjacent-pole', 'skip-pole'] as const;
  return divisorsOf(perPhase)
    .map((circuits) => ({ circuits, jumpers: styles.filter((j) => circuitsAreEqual(layout, circuits, j)) }))
    .filter((x) => x.jumpers.length > 0);
}

const LEAD_OF: Readonly<Record<Phase, [string, string]>> = { A: ['T1', 'T4'], B: ['T2', 'T5'], C: ['T3', 'T6'] };

/**
 * Joins the groups of a layout: circuits with the end at which each group is entered and left, jumpers, what meets at
 * each lead and star. Ends are written group number + S (start: go side of the first coil) or F (finish: return side
 * of the last coil).
 * @throws CalculationInputError when the circuits would not have equal phasors
 */
export function connect(layout: Layout, choice: ConnectionChoice): Connection {
  const possible = possibleCircuits(layout);
  const fits = possible.find((x) => x.circuits === choice.circuits);
  if (!fits?.jumpers.includes(choice.jumper)) {
    const offers = possible.map((x) => `${x.circuits} (${x.jumpers.join(' or ')})`).join(', ');
    refuse(
      'circuits',
      `${choice.circuits} circuits joined ${choice.jumper} would not be equal: their voltages differ and current would circulate. Circuits that work here: ${offers || 'none'}.`,
    );
  }
  const circuits: Circuit[] = [];
  const jumpers: Jumper[] = [];
  const enters: Record<Phase, string[]> = { A: [], B: [], C: [] };
  const leaves: Record<Phase, string[]> = { A: [], B: [], C: [] };
  const next: Record<Phase, Phase> = { A: 'B', B: 'C', C: 'A' };
  for (const phase of PHASES) {
    cut(phaseGroups(layout, phase, choice.jumper), choice.circuits).forEach((groups, j) => {
      const steps = groups.map((g) => ({
        group: g.number,
        enter: `${g.number}${g.sign === 1 ? 'S' : 'F'}`,
        leave: `${g.number}${g.sign === 1 ? 'F' : 'S'}`,
      }));
      steps.forEach((step, i) => {
        const after = steps[i + 1];
        if (after) jumpers.push({ phase, from: step.leave, to: after.enter });
      });
      const to = choice.leads === 6 ? LEAD_OF[phase][1] : choice.connection === 'wye' ? 'Y' : LEAD_OF[next[phase]][0];
      circuits.push({ phase, number: j + 1, from: LEAD_OF[phase][0], to, steps });
      enters[phase].push(steps[0]?.enter ?? '');
      leaves[phase].push(steps[steps.length - 1]?.leave ?? '');
    });
  }
  const nodes: ConnectionNode[] = [];
  if (choice.leads === 6) {
    for (const phase of PHASES) nodes.push({ name: LEAD_OF[phase][0], kind: 'lead', ends: enters[phase] });
    for (const phase of PHASES) nodes.push({ name: LEAD_OF[phase][1], kind: 'lead', ends: leaves[phase] });
  } else if (choice.connection === 'wye') {
    for (const phase of PHASES) nodes.push({ name: LEAD_OF[phase][0], kind: 'lead', ends: enters[phase] });
    nodes.push({ name: 'Y', kind: 'star', ends: PHASES.flatMap((phase) => leaves[phase]) });
  } else {
    nodes.push({ name: 'T1', kind: 'lead', ends: [...enters.A, ...leaves.C] });
    nodes.push({ name: 'T2', kind: 'lead', ends: [...enters.B, ...leaves.A] });
    nodes.push({ name: 'T3', kind: 'lead', ends: [...enters.C, ...leaves.B] });
  }
  return {
    connection: choice.connection,
    circuits,
    circuitsPerPhase: choice.circuits,
    jumper: choice.jumper,
    leads: choice.leads,
    jumpers,
    nodes,
    links: choice.leads === 6 ? SIX_LEAD_LINKS : [],
  };
}

/** NEMA MG 1 (from memory): how six leads are linked; checked as graphs. */
export const SIX_LEAD_LINKS: LinkRow[] = [
  { use: 'wye (start, or √3 times the voltage)', lines: ['T1', 'T2', 'T3'], links: ['T4-T5-T6'] },
  { use: 'delta (run, lower voltage)', lines: ['T1-T6', 'T2-T4', 'T3-T5'], links: [] },
];

/** NEMA number -> IEC letters for three and six leads (from memory of NEMA MG 1 and IEC 60034-8). */
const IEC_OF: Readonly<Record<string, string>> = { T1: 'U1', T2: 'V1', T3: 'W1', T4: 'U2', T5: 'V2', T6: 'W2' };

/** A lead mark in the reader's school; other text (Y for the star) stays. */
export function leadMark(name: string, school: 'T' | 'U'): string {
  return school === 'T' ? name : name.replaceAll(/T[1-6]/g, (t) => IEC_OF[t] ?? t);
}

export interface ConnectionCandidate {
  connection: 'wye' | 'delta';
  circuits: number;
  starEnds: number;
}

/**
 * Three leads, one voltage: which connections fit the ends counted at a lead.
 * Wye c: c ends at each lead, 3c in stars. Delta c: 2c ends at each lead, no star.
 */
export function connectionCandidates(endsPerLead: number, circuitLimit: number): ConnectionCandidate[] {
  const out: ConnectionCandidate[] = [];
  const fits = (c: number) => Number.isInteger(c) && c >= 1 && circuitLimit % c === 0;
  if (fits(endsPerLead)) out.push({ connection: 'wye', circuits: endsPerLead, starEnds: 3 * endsPerLead });
  if (fits(endsPerLead / 2)) out.push({ connection: 'delta', circuits: endsPerLead / 2, starEnds: 0 });
  return out;
}

/** min(groups per phase, the limit of the star of slots): the c_max that reading a connection needs. */
export function readableCircuitLimit(layout: Layout): number {
  const groups = Math.min(...PHASES.map((ph) => layout.groups.filter((g) => g.phase === ph).length));
  return Math.min(groups, layout.circuitLimit);
}

/** EMF sum round a delta, relative to one phase: 0 in a right delta, 2 with one phase reversed. */
export function deltaRingEmf(layout: Layout, reversed?: Phase): number {
  const sums = PHASES.map((phase) => {
    const sum = layout.groups
      .filter((g) => g.phase === phase)
      .reduce<Complex>((s, g) => add(s, groupPhasor(layout, g)), { re: 0, im: 0 });
    return phase === reversed ? scale(sum, -1) : sum;
  });
  const ring = sums.reduce<Complex>((s, x) => add(s, x), { re: 0, im: 0 });
  return sizeOf(ring) / Math.max(...sums.map(sizeOf));
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
  }),
  example: { slots: 36, poles: 4, layers: 2, form: 'lap', spanSlots: 8, connection: 'delta', circuits: 2 },
  compute: ({ connection, circuits, jumper, leads, ...layoutInput }, note) => {
    const layout = layoutOf(layoutInput);
    const made = connect(layout, { connection, circuits, jumper, leads });
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
    return { ...made, possible: possibleCircuits(layout) };
  },
});

/** Calculation `winding.connectionCandidates`. */
export const windingConnectionCandidates = defineCalculation({
  id: 'winding.connectionCandidates',
  version: 1,
  title: 'Which connections fit the group ends counted at a lead (three leads, one voltage)',
  sources: ['counting of ends; common practice of reading a connection'],
  input: z.strictObject({
    endsPerLead: z.int().min(1).max(96).optional().describe('group ends at one line lead'),
    wireTipsPerLead: z.int().min(1).max(960).optional().describe('wire tips at one lead, if the ends were not counted'),
    wiresInHand: z.int().min(1).max(40).optional(),
    circuitLimit: z.int().min(1).max(48),
  }),
  output: z.object({
    endsPerLead: z.number(),
    candidates: z.array(z.object({ connection: z.enum(['wye', 'delta']), circuits: z.number(), starEnds: z.number() })),
    decide: z.string(),
  }),
  example: { endsPerLead: 6, circuitLimit: 6 },
  compute: (input, note) => {
    const ends = input.endsPerLead ?? (input.wireTipsPerLead ?? 0) / (input.wiresInHand ?? 1);
    if (ends === 0) refuse('endsPerLead', 'Count the group ends at one lead, or the wire tips and the wires in hand.');
    if (!Number.isInteger(ends)) {
      refuse(
        'wireTipsPerLead',
        `${input.wireTipsPerLead} wire tips do not divide by ${input.wiresInHand} wires in hand.`,
      );
    }
    const candidates = connectionCandidates(ends, input.circuitLimit);
    note?.({
      name: 'Ends per lead',
      symbol: 'e',
      formula: 'wire tips / wires in hand',
      numbers: input.endsPerLead === undefined ? `${input.wireTipsPerLead} / ${input.wiresInHand}` : `${ends} counted`,
      value: ends,
      unit: '',
      source: 'definition',
    });
    return {
      endsPerLead: ends,
      candidates,
      decide:
        candidates.length === 0
          ? 'No connection fits: count the ends again, and check that all leads are of one kind.'
          : candidates.length === 1
            ? 'Only one connection fits.'
            : `Look for a joint of ends without a lead: a star with ${candidates[0]?.starEnds} ends in all means wye, no star means delta.`,
    };
  },
});
