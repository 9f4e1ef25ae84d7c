import { z } from 'zod';
import { defineCalculation } from '../calculation.ts';
import { connect, connectionChoiceSchema, type Connection } from '../winding/connection.ts';
import { type LinkRow } from '../winding/leadMarks.ts';
import { layoutInputSchema, type Layout } from '../winding/layoutTypes.ts';
import { layoutOf } from '../winding/layout.ts';
import { FINDING_KINDS, findingsOf, type NetworkFinding } from './findings.ts';
import { jointsOf, nodesOf, parseJoints, type Joint } from './joints.ts';
import { compareWith, isAsDrawn } from './naming.ts';
import { circuitsAsMade, networkOf, signatureOf } from './network.ts';

export type NetworkVerdict = 'as drawn' | 'electrically the same' | 'not finished' | 'wrong';
export interface NetworkCheck {
  verdict: NetworkVerdict;
  findings: NetworkFinding[];
  /** ratios to the drawing, by pair or lead, for each way of linking the leads */
  signatures: {
    use: string;
    pairs: [string, string][];
    resistance: number[];
    voltage: number[];
    frequency: number[];
    current: number[];
    circulating: number;
  }[];
}

interface Use {
  row: LinkRow | undefined;
  lines: string[];
  joints: Joint[];
  poles: number;
}

/** The ways the leads are linked: each must come out as drawn. */
export function usesOf(layout: Layout, connection: Connection): Use[] {
  if (layout.kind === 'single-phase')
    return [{ row: undefined, lines: ['U1', 'U2', 'Z1', 'Z2'], joints: [], poles: layout.poles }];
  if (connection.links.length === 0)
    return [{ row: undefined, lines: ['T1', 'T2', 'T3'], joints: [], poles: layout.poles }];
  return connection.links.map((row, i) => {
    const lines = row.lines.map((l) => l.split('-'));
    return {
      row,
      lines: lines.map((l) => l[0] ?? ''),
      joints: [...lines.filter((l) => l.length > 1), ...row.links.map((l) => l.split('-'))],
      poles: layout.kind === 'two-speed' && i === 1 ? layout.poles / 2 : layout.poles,
    };
  });
}

function partition(ends: readonly string[], joints: readonly Joint[]): string {
  const sets = new Map<string, string[]>();
  for (const [end, root] of nodesOf(ends, joints)) sets.set(root, [...(sets.get(root) ?? []), end]);
  return [...sets.values()]
    .map((s) => s.sort().join('-'))
    .sort()
    .join(' ');
}

/**
 * Compares joints as they really are with the drawing: electrically, whatever the order they were made in, and names
 * what differs. Source: derived; every finding's signature by solving the network (docs/derivations.md 8).
 */
export function checkConnection(layout: Layout, connection: Connection, made: readonly Joint[]): NetworkCheck {
  const ends = layout.groups.flatMap((g) => [`${g.number}S`, `${g.number}F`]);
  const planned = jointsOf(connection);
  const uses = usesOf(layout, connection);
  const compared = uses.map((use) => {
    const at = { ...layout, poles: use.poles };
    // a lead that is joined to nothing yet stands there all the same: its pairs read open
    const shown = (joints: readonly Joint[]) =>
      signatureOf(networkOf(at, [...joints, ...use.joints, ...use.lines.map((l) => [l])]), use.lines);
    const [good, bad] = [shown(planned), shown(made)];
    return { use, good, bad };
  });
  const signatures = compared.map(({ use, good, bad }) => ({
    use: use.row?.use ?? 'as connected',
    pairs: good.pairs,
    resistance: ratios(bad.resistance, good.resistance),
    voltage: ratios(bad.voltage, good.voltage),
    // an open pair of leads shows no wave to compare
    frequency: ratios(good.inductance, bad.inductance).map((x, i) =>
      Number.isFinite(bad.inductance[i]) ? Math.sqrt(x) : Number.NaN,
    ),
    current: ratios(bad.current, good.current),
    circulating: bad.circulating,
  }));
  if (partition(ends, planned) === partition(ends, made)) return { verdict: 'as drawn', findings: [], signatures };
  const work = compareWith(layout, connection);
  if (isAsDrawn(work, made)) return { verdict: 'electrically the same', findings: [], signatures };
  const findings = findingsOf(layout, connection, made, work);
  const leads = connection.nodes.filter((n) => n.kind === 'lead').map((n) => n.name);
  const { loose } = circuitsAsMade(networkOf(layout, made));
  const touched = new Set(made.flat());
  const missing = leads.filter((l) => !touched.has(l));
  const free = (f: NetworkFinding) => f.kind === 'bypassed group' && f.ends.every((e) => loose.includes(e));
  // a group that is passed by while all else is joined is no work that waits
  const onlyOpen = findings.some((f) => f.kind === 'open') && findings.every((f) => f.kind === 'open' || free(f));
  const unfinished = onlyOpen && (missing.length > 0 || loose.length > layout.groups.length / 4);
  return { verdict: unfinished ? 'not finished' : 'wrong', findings, signatures };
}

const ratios = (a: readonly number[], b: readonly number[]): number[] => a.map((x, i) => x / (b[i] ?? 1));

/** Calculation `winding.networkCheck`. */
export const windingNetworkCheck = defineCalculation({
  id: 'winding.networkCheck',
  version: 2,
  title:
    'Joints as made against the drawing: what differs, what it would show in resistance, voltage, surge and current',
  sources: [
    'nodal solution of the network (derived)',
    'ideal gap, 15 % own leakage, no cage: signs and order, not the third digit',
  ],
  input: layoutInputSchema
    .extend(connectionChoiceSchema.shape)
    .extend({ joints: z.string().max(20_000).describe('one joint a line: 1F-4F, T1-1S-7S') }),
  output: z.object({
    verdict: z.enum(['as drawn', 'electrically the same', 'not finished', 'wrong']),
    problems: z.array(z.string()),
    findings: z.array(
      z.object({
        kind: z.enum(FINDING_KINDS),
        groups: z.array(z.number()),
        ends: z.array(z.string()),
        message: z.string(),
        oneOf: z.array(z.object({ groups: z.array(z.number()), ends: z.array(z.string()) })).optional(),
      }),
    ),
    signatures: z.array(
      z.object({
        use: z.string(),
        pairs: z.array(z.tuple([z.string(), z.string()])),
        resistance: z.array(z.number()),
        voltage: z.array(z.number()),
        frequency: z.array(z.number()),
        current: z.array(z.number()),
        circulating: z.number(),
      }),
    ),
  }),
  example: {
    slots: 24,
    poles: 4,
    layers: 2,
    form: 'lap',
    spanSlots: 5,
    connection: 'wye',
    circuits: 1,
    joints: 'T1-1S, 1F-4F, 4S-7S, 7F-10F, T2-3S, 3F-6F, 6S-9S, 9F-12F, T3-5S, 5F-8F, 8S-11S, 11F-2F, Y-10S-12S-2S',
  },
  compute: ({ connection, circuits, jumper, leads, partWinding, duty, joints: text, ...input }) => {
    const layout = layoutOf(input);
    const drawn = connect(layout, { connection, circuits, jumper, leads, partWinding, ...(duty ? { duty } : {}) });
    const { joints, problems } = parseJoints(text);
    const made = checkConnection(layout, drawn, joints);
    const finite = (list: number[]) => list.map((x) => (Number.isFinite(x) ? x : -1));
    return {
      ...made,
      problems,
      signatures: made.signatures.map((s) => ({
        ...s,
        resistance: finite(s.resistance),
        voltage: finite(s.voltage),
        frequency: finite(s.frequency),
        current: finite(s.current),
      })),
    };
  },
});
