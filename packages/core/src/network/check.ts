import { z } from 'zod';
import { defineCalculation } from '../calculation.ts';
import { add, scale, sizeOf, subtract, type Complex } from '../winding/complex.ts';
import { connect, connectionChoiceSchema, type Connection } from '../winding/connection.ts';
import { type LinkRow } from '../winding/leadMarks.ts';
import { layoutInputSchema, layoutOf, type Layout, type Phase } from '../winding/layout.ts';
import { groupEmf } from '../winding/phaseBalance.ts';
import { jointsOf, nodesOf, parseJoints, sayJoint, type Joint } from './joints.ts';
import { circuitsAsMade, networkOf, signatureOf, type Path, type Signature } from './network.ts';

export type NetworkVerdict = 'as drawn' | 'electrically the same' | 'not finished' | 'wrong';
export interface NetworkFinding {
  kind:
    | 'reversed group'
    | 'swapped phase'
    | 'unequal circuits'
    | 'open'
    | 'phase joined to phase'
    | 'bypassed group'
    | 'wrong star or delta'
    | 'phase reversed'
    | 'wrong rotation'
    | 'differs';
  groups: number[];
  ends: string[];
  message: string;
}
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

const same = (a: readonly number[], b: readonly number[]): boolean =>
  a.length === b.length &&
  a.every((x, i) => {
    const y = b[i] ?? 0;
    return x === y || Math.abs(x - y) <= 1e-6 * Math.max(1e-9, Math.abs(x), Math.abs(y));
  });

interface Use {
  row: LinkRow | undefined;
  lines: string[];
  joints: Joint[];
  poles: number;
}

/** The ways the leads are linked: each must come out as drawn. */
function usesOf(layout: Layout, connection: Connection): Use[] {
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
 * what differs. Source: derived; every finding's signature by solving the network (winding reference 8.4 to 8.6).
 */
export function checkConnection(layout: Layout, connection: Connection, made: readonly Joint[]): NetworkCheck {
  const ends = layout.groups.flatMap((g) => [`${g.number}S`, `${g.number}F`]);
  const planned = jointsOf(connection);
  const uses = usesOf(layout, connection);
  const compared = uses.map((use) => {
    const at = { ...layout, poles: use.poles };
    const good = signatureOf(networkOf(at, [...planned, ...use.joints]), use.lines);
    const bad = signatureOf(networkOf(at, [...made, ...use.joints]), use.lines);
    return { use, good, bad };
  });
  const signatures = compared.map(({ use, good, bad }) => ({
    use: use.row?.use ?? 'as connected',
    pairs: good.pairs,
    resistance: ratios(bad.resistance, good.resistance),
    voltage: ratios(bad.voltage, good.voltage),
    frequency: ratios(good.inductance, bad.inductance).map(Math.sqrt),
    current: ratios(bad.current, good.current),
    circulating: bad.circulating,
  }));
  if (partition(ends, planned) === partition(ends, made)) return { verdict: 'as drawn', findings: [], signatures };
  const leads = connection.nodes.filter((n) => n.kind === 'lead').map((n) => n.name);
  const net = networkOf(layout, made);
  const walked = circuitsAsMade(net);
  const alike =
    leads.every((l) => net.nodeOf.has(l)) &&
    walked.loose.length === 0 &&
    compared.every(({ good, bad }) => equalSignatures(good, bad));
  if (alike) return { verdict: 'electrically the same', findings: [], signatures };
  const findings = nameFindings(layout, connection, made, compared[0]?.bad, compared[0]?.good);
  const touched = new Set(made.flat());
  const missing = leads.filter((l) => !touched.has(l));
  const free = (f: NetworkFinding) => f.kind === 'bypassed group' && f.ends.every((e) => walked.loose.includes(e));
  const onlyOpen = findings.length > 0 && findings.every((f) => f.kind === 'open' || free(f));
  const unfinished = onlyOpen && (missing.length > 0 || walked.loose.length > layout.groups.length / 4);
  return { verdict: unfinished ? 'not finished' : 'wrong', findings, signatures };
}

const ratios = (a: readonly number[], b: readonly number[]): number[] => a.map((x, i) => x / (b[i] ?? 1));

function equalSignatures(a: Signature, b: Signature): boolean {
  return (
    same(a.resistance, b.resistance) &&
    same(a.voltage, b.voltage) &&
    same(a.inductance, b.inductance) &&
    same(a.current, b.current) &&
    b.circulating <= a.circulating + 1e-6 &&
    a.rotation === b.rotation
  );
}

function nameFindings(
  layout: Layout,
  connection: Connection,
  made: readonly Joint[],
  bad: Signature | undefined,
  good: Signature | undefined,
): NetworkFinding[] {
  const out: NetworkFinding[] = [];
  const put = (kind: NetworkFinding['kind'], groups: number[], ends: string[], message: string) =>
    out.push({ kind, groups, ends, message });
  const net = networkOf(layout, made);
  const { paths, loose } = circuitsAsMade(net);
  const phaseOf = new Map(layout.groups.map((g) => [g.number, g.phase]));
  const node = (end: string) => net.nodeOf.get(end);
  const letter = (phase: Phase) =>
    layout.kind === 'single-phase' ? (phase === 'A' ? 'the main winding' : 'the auxiliary') : `phase ${phase}`;
  // bypassed: both ends on one node, or both free
  const skipped = new Set<number>();
  for (const g of layout.groups) {
    const [s, f] = [`${g.number}S`, `${g.number}F`];
    const free = loose.includes(s) && loose.includes(f);
    if (free || node(s) === node(f)) {
      skipped.add(g.number);
      put(
        'bypassed group',
        [g.number],
        [s, f],
        free
          ? `Group ${g.number} is joined nowhere: both its ends are free.`
          : `Group ${g.number} is bypassed: its two ends are joined together.`,
      );
    }
  }
  for (const end of loose) {
    const group = Number.parseInt(end, 10);
    if (!skipped.has(group))
      put(
        'open',
        [group],
        [end],
        `Open: ${end} is joined to nothing; ${letter(phaseOf.get(group) ?? 'A')} is interrupted there.`,
      );
  }
  for (const n of connection.nodes)
    if (n.kind === 'lead' && (node(n.name) === undefined || (net.meets[node(n.name) ?? -1]?.length ?? 0) < 2))
      put('open', [], [n.name], `Open: lead ${n.name} is joined to no group.`);
  // leads or star and lead on one node
  const terminals = connection.nodes.map((n) => n.name);
  for (const [i, a] of terminals.entries())
    for (const b of terminals.slice(i + 1))
      if (node(a) !== undefined && node(a) === node(b))
        put(
          'wrong star or delta',
          [],
          [a, b],
          /^Y/.test(a) || /^Y/.test(b)
            ? `Lead ${/^Y/.test(a) ? b : a} is joined to the star.`
            : `Leads ${a} and ${b} are joined together.`,
        );
  // polarity and phase of every path
  const expectedFrom = new Map<string, Map<Phase, number>>();
  for (const c of connection.circuits) {
    const count = (name: string) => {
      const m = expectedFrom.get(name) ?? new Map<Phase, number>();
      m.set(c.phase, (m.get(c.phase) ?? 0) + 1);
      expectedFrom.set(name, m);
    };
    count(c.from);
    count(c.to);
  }
  const emfs = new Map(layout.groups.map((g) => [g.number, groupEmf(layout, g)]));
  const sumOf = (p: Path): Complex =>
    p.groups.reduce<Complex>((s, x) => add(s, scale(emfs.get(x.group) ?? { re: 0, im: 0 }, x.along)), { re: 0, im: 0 });
  const joined = (p: Path) => terminals.includes(p.from) || terminals.includes(p.to);
  const byPhase = new Map<Phase, { path: Path; sum: Complex; size: number }[]>();
  for (const path of paths.filter(joined)) {
    const counts = new Map<Phase, number>();
    for (const x of path.groups) counts.set(x.phase, (counts.get(x.phase) ?? 0) + 1);
    const [main] = [...counts].sort((a, b) => b[1] - a[1]);
    const phase = main?.[0] ?? 'A';
    const strangers = path.groups.filter((x) => x.phase !== phase).map((x) => x.group);
    if (strangers.length > 0 && (main?.[1] ?? 0) > strangers.length)
      put(
        'swapped phase',
        strangers,
        [],
        `Group ${strangers.join(', ')} of another phase lies in a circuit of ${letter(phase)} (${path.groups.map((x) => x.group).join(', ')}).`,
      );
    else if (strangers.length > 0)
      put(
        'phase joined to phase',
        path.groups.map((x) => x.group),
        [],
        `The path ${path.from} – ${path.groups.map((x) => x.group).join(' – ')} – ${path.to} runs through more than one phase: two phases are joined where no joint belongs.`,
      );
    // a group against the others of its path: turning it round makes the sum larger
    const own = path.groups.filter((x) => x.phase === phase);
    if (own.length > 2) {
      const axis = own.map((x) => scale(emfs.get(x.group) ?? { re: 0, im: 0 }, x.along));
      const total = axis.reduce((a, b) => add(a, b), { re: 0, im: 0 });
      const against = own.filter((_, i) => {
        const e = axis[i] as Complex;
        return sizeOf(subtract(total, scale(e, 2))) > sizeOf(total) + 1e-6 * sizeOf(e);
      });
      if (against.length > 0 && against.length < own.length / 2 + 0.01)
        for (const x of against)
          put(
            'reversed group',
            [x.group],
            [`${x.group}S`, `${x.group}F`],
            `Group ${x.group} is reversed in its circuit: exchange ${x.group}S and ${x.group}F.`,
          );
    }
    const list = byPhase.get(phase) ?? [];
    list.push({ path, sum: sumOf(path), size: own.length });
    byPhase.set(phase, list);
  }
  // two-group and one-group circuits: compared with the polarity of the drawing
  const plannedWay = new Map(
    connection.circuits.flatMap((c) => c.steps.map((s) => [s.group, s.enter.endsWith('S') ? 1 : -1] as const)),
  );
  for (const [phase, list] of byPhase) {
    const ways = list.flatMap(({ path }) => path.groups.filter((x) => x.phase === phase).map((x) => ({ ...x, path })));
    const forward = (x: { group: number; along: 1 | -1 }, flip: 1 | -1) => x.along * flip === plannedWay.get(x.group);
    const named = new Set(out.flatMap((f) => (f.kind === 'reversed group' ? f.groups : [])));
    for (const { path } of list) {
      const own = path.groups.filter((x) => x.phase === phase);
      if (own.length === 0 || own.length > 2 || own.some((x) => named.has(x.group))) continue;
      // walked from the side where the drawing starts it
      const flip: 1 | -1 = startsHere(connection, phase, path) ? 1 : -1;
      const wrong = own.filter((x) => !forward(x, flip));
      if (wrong.length === 1 && own.length === 2)
        put(
          'reversed group',
          [wrong[0]?.group ?? 0],
          [],
          `Group ${wrong[0]?.group} is reversed in its circuit: exchange ${wrong[0]?.group}S and ${wrong[0]?.group}F.`,
        );
    }
    const reversedPaths = list.filter(({ path }) => {
      const own = path.groups.filter((x) => x.phase === phase && !named.has(x.group));
      const flip: 1 | -1 = startsHere(connection, phase, path) ? 1 : -1;
      return own.length > 0 && own.every((x) => !forward(x, flip));
    });
    if (reversedPaths.length > 0 && ways.length > 0) {
      const groups = reversedPaths.flatMap((r) => r.path.groups.map((g) => g.group));
      if (reversedPaths.length === list.length)
        put(
          'phase reversed',
          groups,
          [],
          `${letter(phase).replace(/^./, (x) => x.toUpperCase())} is reversed as a whole: its start and finish are exchanged.`,
        );
      else
        for (const r of reversedPaths)
          if (r.path.groups.length === 1)
            put(
              'reversed group',
              r.path.groups.map((g) => g.group),
              [],
              `Group ${r.path.groups[0]?.group} is reversed in its circuit: exchange its two ends.`,
            );
          else
            put(
              'reversed group',
              r.path.groups.map((g) => g.group),
              [],
              `The circuit of groups ${r.path.groups.map((g) => g.group).join(', ')} is reversed against the others of its phase.`,
            );
    }
    const sizes = list.map((l) => l.size);
    const wanted = connection.circuits.filter((c) => c.phase === phase).map((c) => c.steps.length);
    if (
      sizes.length > 0 &&
      [...sizes].sort().join() !== [...wanted].sort().join() &&
      skipped.size === 0 &&
      loose.length === 0
    )
      put(
        'unequal circuits',
        list.flatMap((l) => l.path.groups.map((g) => g.group)),
        [],
        `${letter(phase).replace(/^./, (x) => x.toUpperCase())} has circuits of ${sizes.join(' and ')} groups; the drawing has ${wanted.join(' and ')}.`,
      );
  }
  if (
    bad &&
    good &&
    bad.rotation !== 0 &&
    good.rotation !== 0 &&
    bad.rotation !== good.rotation &&
    !out.some((f) => f.kind !== 'unequal circuits')
  )
    put(
      'wrong rotation',
      [],
      [],
      'The phases follow each other the wrong way round: the motor would turn backwards. Two leads or two phases are exchanged.',
    );
  if (out.length === 0) {
    const planned = jointsOf(connection).map((j) => [...j].sort().join('-'));
    const odd = made.filter((j) => !planned.includes([...j].sort().join('-')));
    put(
      'differs',
      [],
      odd.flat() as string[],
      `The network is not that of the drawing; look at ${odd.slice(0, 4).map(sayJoint).join(', ') || 'the missing joints'}.`,
    );
  }
  return out;
}

/** Whether a walked path begins where the drawing begins the circuits of its phase. */
function startsHere(connection: Connection, phase: Phase, path: Path): boolean {
  const own = connection.circuits.filter((c) => c.phase === phase);
  if (own.some((c) => c.from === path.from)) {
    // in a delta a lead is the start of one phase and the end of another
    return true;
  }
  return !own.some((c) => c.to === path.from);
}

/** Calculation `winding.networkCheck`. */
export const windingNetworkCheck = defineCalculation({
  id: 'winding.networkCheck',
  version: 1,
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
      z.object({ kind: z.string(), groups: z.array(z.number()), ends: z.array(z.string()), message: z.string() }),
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
