import type { Connection } from '../winding/connection.ts';
import type { Layout, Phase } from '../winding/layoutTypes.ts';
import { sayJoint, type Joint } from './joints.ts';
import { nameMistake, type compareWith, type Edit } from './naming.ts';
import { circuitsAsMade, networkOf, sayPath } from './network.ts';

export const FINDING_KINDS = [
  'reversed group',
  'circuit turned',
  'phase reversed',
  'wrong rotation',
  'leads exchanged',
  'ends exchanged',
  'swapped phase',
  'end elsewhere',
  'open',
  'bypassed group',
  'phase joined to phase',
  'wrong star or delta',
  'differs',
] as const;
export interface NetworkFinding {
  kind: (typeof FINDING_KINDS)[number];
  groups: number[];
  ends: string[];
  message: string;
  /** others that would explain the joints as well; the network cannot tell them apart */
  oneOf?: { groups: number[]; ends: string[] }[];
}

/** Ties that are told; more than these say nothing. */
const MOST_TIES = 5;
/** More loose ends than these: the connection is not finished, and no single mistake is looked for. */
const MOST_LOOSE = 4;

/** What differs between the joints as made and the drawing, in words. Source: docs/derivations.md 8 (derived). */
export function findingsOf(
  layout: Layout,
  connection: Connection,
  made: readonly Joint[],
  work: ReturnType<typeof compareWith>,
): NetworkFinding[] {
  const plain = plainFindings(layout, connection, made);
  // a group whose ends lie on one joint may be passed by, or one slip elsewhere may have brought them together
  const shorted = plain.length > 0 && plain.every((f) => f.kind === 'bypassed group' && f.message.includes('bypassed'));
  if (plain.length > 0 && !shorted) return plain;
  const naming = nameMistake(work, made);
  if (shorted && naming.edits.length !== 1) return plain;
  if (naming.edits.length > 0)
    return mergePhase(
      connection,
      naming.edits.map(({ edit, ties }) => findingOf(layout, connection, edit, ties)),
    );
  const opens = openFindings(layout, connection, made);
  if (opens.length > 0) return opens;
  const { paths } = circuitsAsMade(networkOf(layout, made));
  const odd = paths.slice(0, 12).map((p) => sayPath(p, 'T'));
  return [
    {
      kind: 'differs',
      groups: [],
      ends: [],
      message: `More than two things differ from the drawing, ${naming.unmatched} circuits of it are not there. As made: ${odd.join('; ')}${paths.length > odd.length ? ' …' : ''}.`,
    },
  ];
}

/** What shows without a search: groups passed by, ends that hang free while the work goes on, leads in the star or on each other. */
function plainFindings(layout: Layout, connection: Connection, made: readonly Joint[]): NetworkFinding[] {
  const out: NetworkFinding[] = [];
  const net = networkOf(layout, made);
  const { loose } = circuitsAsMade(net);
  const node = (end: string) => net.nodeOf.get(end);
  const skipped = new Set<number>();
  for (const g of layout.groups) {
    const [s, f] = [`${g.number}S`, `${g.number}F`];
    const free = loose.includes(s) && loose.includes(f);
    if (!free && node(s) !== node(f)) continue;
    skipped.add(g.number);
    out.push({
      kind: 'bypassed group',
      groups: [g.number],
      ends: [s, f],
      message: free
        ? `Group ${g.number} is joined nowhere: both its ends are free.`
        : `Group ${g.number} is bypassed: its two ends are joined together.`,
    });
  }
  const terminals = connection.nodes.map((n) => n.name);
  for (const [i, a] of terminals.entries())
    for (const b of terminals.slice(i + 1))
      if (node(a) !== undefined && node(a) === node(b))
        out.push({
          kind: 'wrong star or delta',
          groups: [],
          ends: [a, b],
          message:
            /^Y/.test(a) || /^Y/.test(b)
              ? `Lead ${/^Y/.test(a) ? b : a} is joined to the star.`
              : `Leads ${a} and ${b} are joined together.`,
        });
  const opens = openFindings(layout, connection, made, skipped);
  return out.length === 0 && opens.length <= MOST_LOOSE ? [] : [...out, ...opens];
}

/** Ends and leads that are joined to nothing. */
function openFindings(
  layout: Layout,
  connection: Connection,
  made: readonly Joint[],
  skipped: ReadonlySet<number> = new Set(),
): NetworkFinding[] {
  const net = networkOf(layout, made);
  const phaseOf = new Map(layout.groups.map((g) => [g.number, g.phase]));
  const ends = circuitsAsMade(net).loose.filter((end) => !skipped.has(Number.parseInt(end, 10)));
  const isBare = (name: string) => (net.meets[net.nodeOf.get(name) ?? -1]?.length ?? 0) < 2;
  return [
    ...ends.map((end): NetworkFinding => {
      const group = Number.parseInt(end, 10);
      const where = wordsOf(layout, phaseOf.get(group) ?? 'A');
      return {
        kind: 'open',
        groups: [group],
        ends: [end],
        message: `Open: ${end} is joined to nothing; ${where} is interrupted there.`,
      };
    }),
    ...connection.nodes
      .filter((n) => n.kind === 'lead' && isBare(n.name))
      .map(({ name }): NetworkFinding => ({
        kind: 'open',
        groups: [],
        ends: [name],
        message: `Open: lead ${name} is joined to no group.`,
      })),
  ];
}

const wordsOf = (layout: Layout, phase: Phase): string =>
  layout.kind === 'single-phase' ? (phase === 'A' ? 'the main winding' : 'the auxiliary') : `phase ${phase}`;

const groupsOf = (ends: readonly string[]): number[] => [
  ...new Set(ends.filter((e) => /[SF]$/.test(e)).map((e) => Number.parseInt(e, 10))),
];

/** Groups and ends an edit points at. */
function pointsAt(connection: Connection, edit: Edit): { groups: number[]; ends: string[] } {
  switch (edit.what) {
    case 'group turned':
      return { groups: [edit.group], ends: edit.ends };
    case 'leads exchanged':
      return {
        // a winding that lies between these two leads is turned by it
        groups: connection.circuits
          .filter((c) => edit.leads.includes(c.from) && edit.leads.includes(c.to))
          .flatMap((c) => c.steps.map((s) => s.group)),
        ends: edit.leads,
      };
    case 'phase marks exchanged':
      return { groups: [], ends: edit.leads.flat() };
    case 'joints joined':
      return { groups: groupsOf(edit.joints.flat()), ends: edit.joints.flat() };
    case 'circuit turned':
      return { groups: edit.groups, ends: edit.ends };
    case 'ends exchanged':
      return { groups: groupsOf(edit.ends), ends: edit.ends };
    case 'groups exchanged':
      return { groups: edit.groups, ends: [] };
    case 'end elsewhere': {
      // an open joint of two lies as much at one end as at the other
      const ends = edit.from.length === 0 && edit.to.length === 1 ? [edit.end, ...edit.to] : [edit.end];
      return { groups: groupsOf(ends), ends };
    }
  }
}

/** An edit as one says it at the bench. */
function sentenceOf(edit: Edit): string {
  switch (edit.what) {
    case 'group turned':
      return `group ${edit.group} is reversed in its circuit: exchange ${edit.ends.join(' and ')}`;
    case 'leads exchanged':
      return `leads ${edit.leads.join(' and ')} are exchanged`;
    case 'phase marks exchanged':
      return `the marks ${edit.leads.map((l) => l.join(' ')).join(' and ')} are exchanged`;
    case 'joints joined':
      return `${edit.joints.map(sayJoint).join(' and ')} are joined together where no joint belongs`;
    case 'circuit turned':
      return `the circuit of groups ${edit.groups.join(', ')} is turned as a whole: exchange its outer ends ${edit.ends.join(' and ')}`;
    case 'ends exchanged':
      return `the ends ${edit.ends.join(' and ')} are exchanged`;
    case 'groups exchanged':
      return `groups ${edit.groups.join(' and ')} lie in each other's place${edit.turned ? ', turned' : ''}`;
    case 'end elsewhere':
      if (edit.from.length === 0) return `${edit.end} is joined to nothing; it belongs to ${sayJoint(edit.to)}`;
      return edit.to.length === 0
        ? `${edit.end} does not belong to ${sayJoint(edit.from)}`
        : `${edit.end} is joined to ${sayJoint(edit.from)}; it belongs to ${sayJoint(edit.to)}`;
  }
}

function kindOf(layout: Layout, connection: Connection, edit: Edit): NetworkFinding['kind'] {
  switch (edit.what) {
    case 'group turned':
      return 'reversed group';
    case 'leads exchanged':
      return 'leads exchanged';
    case 'phase marks exchanged':
      return 'wrong rotation';
    case 'joints joined':
      return 'phase joined to phase';
    case 'circuit turned':
      return connection.circuitsPerPhase === 1 ? 'phase reversed' : 'circuit turned';
    case 'ends exchanged':
      return 'ends exchanged';
    case 'groups exchanged': {
      const phaseOf = (n: number) => layout.groups.find((g) => g.number === n)?.phase;
      return phaseOf(edit.groups[0]) === phaseOf(edit.groups[1]) ? 'ends exchanged' : 'swapped phase';
    }
    case 'end elsewhere':
      return edit.from.length === 0 ? 'open' : 'end elsewhere';
  }
}

const capital = (text: string): string => `${text.charAt(0).toUpperCase()}${text.slice(1)}`;

function findingOf(layout: Layout, connection: Connection, edit: Edit, ties: readonly Edit[]): NetworkFinding {
  const all = [edit, ...ties];
  const own = pointsAt(connection, edit);
  const leads = connection.nodes.filter((n) => n.kind === 'lead').length;
  if (edit.what === 'leads exchanged' && leads === 3 && all.length === 3)
    return {
      kind: 'wrong rotation',
      groups: [],
      ends: all.flatMap((e) => pointsAt(connection, e).ends).filter((e, i, list) => list.indexOf(e) === i),
      message:
        'The phases follow each other the wrong way round: the motor would turn backwards. Exchange any two leads.',
    };
  if (edit.what === 'phase marks exchanged' && all.length === 3)
    return {
      kind: 'wrong rotation',
      groups: [],
      ends: all.flatMap((e) => pointsAt(connection, e).ends).filter((e, i, list) => list.indexOf(e) === i),
      message: `The phases follow each other the wrong way round: the motor would turn backwards. Exchange any two line leads, or the marks of any two phases: ${sentenceOf(edit).replace('the marks ', '').replace(' are exchanged', '')} for one.`,
    };
  const backwards =
    layout.kind === 'single-phase' && (edit.what === 'leads exchanged' || edit.what === 'circuit turned')
      ? ' Main and auxiliary stand the wrong way to each other: the motor would turn backwards.'
      : '';
  const whole =
    edit.what === 'circuit turned' && connection.circuitsPerPhase === 1
      ? ` ${capital(wordsOf(layout, layout.groups.find((g) => g.number === edit.groups[0])?.phase ?? 'A'))} is reversed as a whole.`
      : '';
  // the other end of the same open joint says the same
  const told = all.filter(
    (e, i) =>
      !all
        .slice(0, i)
        .some(
          (o) => o.what === 'end elsewhere' && e.what === 'end elsewhere' && o.to.length === 1 && o.to[0] === e.end,
        ),
  );
  const few = told.slice(0, MOST_TIES);
  const message =
    few.length === 1
      ? `${edit.what === 'end elsewhere' && edit.from.length === 0 ? 'Open: ' : ''}${few.map((e, i) => (i === 0 && edit.what === 'end elsewhere' && edit.from.length === 0 ? sentenceOf(e) : capital(sentenceOf(e)))).join('')}.`
      : `One of these: ${few.map(sentenceOf).join('; or ')}${told.length > few.length ? '; or others alike' : ''}. The joints alone do not tell which: look at them, or take the readings.`;
  return {
    kind: kindOf(layout, connection, edit),
    groups: own.groups,
    ends: own.ends,
    message: `${message}${whole}${backwards}`,
    ...(few.length > 1 ? { oneOf: few.map((e) => pointsAt(connection, e)) } : {}),
  };
}

/** All circuits of one phase turned are that phase reversed. */
function mergePhase(connection: Connection, findings: NetworkFinding[]): NetworkFinding[] {
  const turned = findings.filter((f) => f.kind === 'circuit turned' || f.kind === 'reversed group');
  const phases = new Set(
    turned.map((f) => connection.circuits.find((c) => c.steps.some((s) => f.groups.includes(s.group)))?.phase),
  );
  const [phase] = phases;
  const own = connection.circuits.filter((c) => c.phase === phase);
  const groups = turned.flatMap((f) => f.groups);
  if (
    turned.length < 2 ||
    turned.length !== findings.length ||
    phases.size !== 1 ||
    own.reduce((n, c) => n + c.steps.length, 0) !== groups.length
  )
    return findings;
  return [
    {
      kind: 'phase reversed',
      groups,
      ends: turned.flatMap((f) => f.ends),
      message: `Phase ${phase} is reversed as a whole: its start and finish are exchanged.`,
    },
  ];
}
