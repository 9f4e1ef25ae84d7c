import { z } from 'zod';
import { defineCalculation, refuse } from '../calculation.ts';
import { connect, connectionChoiceSchema, type Connection } from '../winding/connection.ts';
import { layoutInputSchema, type Layout } from '../winding/layoutTypes.ts';
import { layoutOf } from '../winding/layout.ts';
import { usesOf } from './check.ts';
import { jointsOf, type Joint } from './joints.ts';
import { networkOf, signatureOf, type Signature } from './network.ts';

export const LINK_VERDICTS = ['fits', 'backwards', 'no listed use', 'wrong'] as const;
export interface LinkCheck {
  verdict: (typeof LINK_VERDICTS)[number];
  /** the use of the link table that it comes to */
  use?: string;
  messages: string[];
}

/** Relative difference below which two networks are one. */
const SAME = 1e-6;
const alike = (a: readonly number[], b: readonly number[]): boolean =>
  a.length === b.length && a.every((x, i) => Math.abs(x - (b[i] ?? NaN)) <= SAME * Math.max(Math.abs(x), SAME));

const apart = (text: string): Joint[] =>
  text
    .toUpperCase()
    .replaceAll('–', '-')
    .replaceAll(/\s*-\s*/g, '-')
    .split(/[\s,;]+/)
    .filter(Boolean)
    .map((part) => part.split('-').filter(Boolean));

/**
 * A link as typed: what lies on each line (`T1-T7`, or `T1 T7`), and what is joined with each other (`T4-T5-T6`, several apart by
 * spaces or commas). A sentence for a line left bare, for what is no lead of the motor and for what stands twice.
 */
export function readLink(
  onLines: readonly string[],
  joined: string,
  leads: readonly string[],
): { lines: Joint[]; links: Joint[]; problem?: { field: 'lines' | 'joined'; sentence: string } } {
  const lines = onLines.map((text) => apart(text).flat());
  const links = apart(joined);
  const wrong = (field: 'lines' | 'joined', sentence: string) => ({ lines, links, problem: { field, sentence } });
  if (lines.length !== 3 || lines.some((l) => l.length === 0))
    return wrong('lines', 'Give what lies on each of the three lines, apart by spaces: T1-T7 T2-T8 T3-T9.');
  const strange = (joints: readonly Joint[]) => joints.flat().find((l) => !leads.includes(l));
  for (const [field, joints] of [
    ['lines', lines],
    ['joined', links],
  ] as const) {
    const name = strange(joints);
    if (name !== undefined) return wrong(field, `${name} is no lead here; the leads are ${leads.join(', ')}.`);
  }
  const all = [...lines, ...links].flat();
  const second = all.findIndex((l, i) => all.indexOf(l) !== i);
  if (second >= 0)
    return wrong(
      second < lines.flat().length ? 'lines' : 'joined',
      `${all[second] ?? ''} stands twice; each lead goes to one place.`,
    );
  return { lines, links };
}

/**
 * A link of the leads as somebody made it, against the link table: which use it comes to, or what is wrong with it.
 * @param lines what lies on L1, L2, L3, each one or more leads
 * @param links leads joined with each other and to no line
 * Source: nodal solution of the network (derived).
 */
export function checkLink(
  layout: Layout,
  connection: Connection,
  lines: readonly Joint[],
  links: readonly Joint[],
): LinkCheck {
  const planned = jointsOf(connection);
  const at = (joints: readonly Joint[], first: readonly string[], poles: number): Signature =>
    signatureOf(networkOf({ ...layout, poles }, [...planned, ...joints]), first);
  const own = [...lines, ...links].filter((j) => j.length > 1);
  const first = lines.map((l) => l[0] ?? '');
  const used = new Set([...lines, ...links].flat());
  const left = connection.nodes.filter((n) => n.kind === 'lead' && !used.has(n.name)).map((n) => n.name);
  const usual = connection.links.some((row) =>
    left.every((l) => ![...row.lines, ...row.links].join('-').split('-').includes(l)),
  );
  const open =
    left.length > 0 ? [`Left open: ${left.join(', ')}${usual ? '' : '; no use of the table leaves these so'}.`] : [];
  const messages: string[] = [];
  let backwards: string | undefined;
  for (const { row, lines: wantedLines, joints, poles } of usesOf(layout, connection)) {
    if (!row) continue;
    const wanted = at(joints, wantedLines, poles);
    const made = at(own, first, poles);
    if (made.circulating > SAME || !alike(made.resistance, wanted.resistance) || !alike(made.voltage, wanted.voltage))
      continue;
    if (made.rotation === wanted.rotation)
      return usual
        ? { verdict: 'fits', use: row.use, messages: open }
        : {
            verdict: 'no listed use',
            messages: [
              `The lines see the same winding as for "${row.use}", but leads hang open that it joins.`,
              ...open,
            ],
          };
    backwards ??= row.use;
  }
  if (backwards !== undefined)
    return {
      verdict: 'backwards',
      use: backwards,
      messages: [
        'The phases follow each other the wrong way round: the motor turns backwards. Exchange any two lines.',
      ],
    };
  const made = at(own, first, layout.poles);
  made.resistance.forEach((r, i) => {
    const pair = `L${i + 1} and L${((i + 1) % 3) + 1}`;
    if (r === Infinity) messages.push(`Nothing leads from ${pair.replace(' and ', ' to ')}: open.`);
    else if (Math.abs(r) < SAME) messages.push(`${pair} are joined to each other: a dead short between lines.`);
  });
  if (made.circulating > SAME)
    messages.push(
      `A closed loop inside the winding drives ${made.circulating.toFixed(2)} of a group's voltage round itself: it burns even without load.`,
    );
  const spread = (list: readonly number[]) => Math.max(...list) - Math.min(...list) > SAME * Math.max(...list, SAME);
  if (messages.length === 0 && spread(made.voltage))
    messages.push(
      `The three lines do not see the same winding: voltages as ${made.voltage.map((v) => (v / Math.max(...made.voltage)).toFixed(2)).join(' : ')}.`,
    );
  if (messages.length > 0) return { verdict: 'wrong', messages };
  return {
    verdict: 'no listed use',
    messages: [
      'The three lines see equal windings, but it is no use of the link table: compare the voltage before it is switched on.',
      ...open,
    ],
  };
}

/** Calculation `winding.linkCheck`. */
export const windingLinkCheck = defineCalculation({
  id: 'winding.linkCheck',
  version: 1,
  title: 'A link of the leads as made: the use it comes to, which way it turns, or what is wrong with it',
  sources: ['nodal solution of the network (derived)', 'NEMA MG 1 link table (from memory)'],
  input: layoutInputSchema.extend(connectionChoiceSchema.shape).extend({
    lines: z.string().max(200).describe('leads on L1, L2, L3: T1-T7 T2-T8 T3-T9'),
    joined: z.string().max(200).optional().describe('leads joined with each other: T4-T5-T6'),
  }),
  output: z.object({
    verdict: z.enum(LINK_VERDICTS),
    use: z.string().optional(),
    messages: z.array(z.string()),
  }),
  example: {
    slots: 36,
    poles: 4,
    layers: 2,
    form: 'lap',
    spanSlots: 8,
    connection: 'wye',
    circuits: 1,
    leads: 9,
    lines: 'T1-T7 T2-T8 T3-T9',
    joined: 'T4-T5-T6',
  },
  compute: ({ connection, circuits, jumper, leads, partWinding, duty, lines, joined, ...input }) => {
    const layout = layoutOf(input);
    const drawn = connect(layout, { connection, circuits, jumper, leads, partWinding, ...(duty ? { duty } : {}) });
    if (drawn.links.length === 0)
      refuse(
        'leads',
        'Three leads go to three lines; there is nothing to link. Links are checked for six leads and more.',
      );
    const names = drawn.nodes.filter((n) => n.kind === 'lead').map((n) => n.name);
    const link = readLink(
      apart(lines).map((l) => l.join('-')),
      joined ?? '',
      names,
    );
    if (link.problem) refuse(link.problem.field, link.problem.sentence);
    return checkLink(layout, drawn, link.lines, link.links);
  },
});
