import { z } from 'zod';
import { defineCalculation, type Calculation } from '../calculation.ts';
import { limit, quoteLimit } from '../limits/limits.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { jointsOf } from '../network/joints.ts';
import { networkOf } from '../network/network.ts';
import { solvedByResistance } from '../network/solvedNetwork.ts';
import { celsius, need, notes, text } from '../process/fieldKinds.ts';
import { formatNumber } from '../quantity/format.ts';
import { parseQuantity } from '../quantity/parse.ts';
import { judgedTogether, notAbove, outOfCalibration, type Judged } from '../verdict.ts';
import { connectionOfRecord } from '../winding/connectionOfRecord.ts';
import { CONDUCTORS, temperatureFactor } from '../winding/copper.ts';
import { fromLeadMarks } from '../winding/leadMarks.ts';
import { isFormWound, type WindingRecord } from '../winding/record.ts';
import { runningCircuits } from '../winding/recordLayout.ts';
import { EARTH, num, type TestKind } from './testKind.ts';

const lead = z.string().regex(/^[TUZ]\d{1,2}$/);
const MOST_PAIRS = 66;
/** Pairs whose expected resistances differ by no more are siblings. */
const ALIKE = 1e-3;

const REFERENCE_C = 20;

/** Two leads and what was read between them, Ω; open where nothing flowed. */
interface PairRead {
  a: string;
  b: string;
  ohm?: number | undefined;
}

/** Calculation `evaluate.leadResistances`. */
export const leadResistances = defineCalculation({
  id: 'evaluate.leadResistances',
  version: 1,
  title: 'Resistance of every pair of leads: what belongs together, siblings, what is open',
  sources: ['common practice', 'expected resistances: network of the recorded connection (derived)'],
  input: z.strictObject({
    pairs: z
      .array(
        z.strictObject({
          a: lead,
          b: lead,
          ohm: z.number().positive().max(1e9).optional().describe('Ω; left out: open'),
        }),
      )
      .max(MOST_PAIRS),
    expected: z
      .array(
        z.strictObject({
          a: lead,
          b: lead,
          ohm20: z.number().positive().optional().describe('Ω at 20 °C; left out: open'),
        }),
      )
      .max(MOST_PAIRS)
      .default([])
      .describe('of the recorded connection; a pair that is not named is not judged'),
    expectedIsShare: z
      .boolean()
      .default(false)
      .describe(
        'only the shares of the expected values are known, not their size: siblings are told by them, nothing else',
      ),
    windingC: z.number().min(-40).max(250),
    material: z.enum(['copper', 'aluminium']).default('copper'),
    windingKind: z.enum(['random-wound', 'form-wound']).default('random-wound'),
    calibrationExpired: z.boolean().default(false),
    limits: shopLimitsSchema.default({}),
  }),
  output: z.object({
    verdict: z.enum(['pass', 'attention', 'fail', 'cannot judge']),
    reason: z.string(),
    pairs: z.array(
      z.object({
        a: z.string(),
        b: z.string(),
        correctedOhm: z.number().optional(),
        expectedOhm: z.number().optional(),
        offPercent: z.number().optional(),
      }),
    ),
    largestUnbalancePercent: z.number().optional(),
    correctedMeanOhm: z.number().optional(),
  }),
  example: {
    pairs: [
      { a: 'T1', b: 'T4', ohm: 0.512 },
      { a: 'T2', b: 'T5', ohm: 0.515 },
      { a: 'T3', b: 'T6', ohm: 0.51 },
    ],
    expected: [
      { a: 'T1', b: 'T4', ohm20: 0.51 },
      { a: 'T2', b: 'T5', ohm20: 0.51 },
      { a: 'T3', b: 'T6', ohm20: 0.51 },
    ],
    windingC: 20,
  },
  compute: (x, note) => {
    const of = (p: { a: string; b: string }) =>
      x.expected.find((e) => (e.a === p.a && e.b === p.b) || (e.a === p.b && e.b === p.a));
    const factor = temperatureFactor(x.windingC, REFERENCE_C, CONDUCTORS[x.material].temperatureConstantC);
    const name = (p: { a: string; b: string }) => `${p.a}–${p.b}`;
    const rows = x.pairs.map((p) => {
      const expected = of(p);
      const corrected = p.ohm === undefined ? undefined : p.ohm * factor;
      return { ...p, corrected, expected, known: expected !== undefined };
    });
    const twice = rows.find((r, i) => rows.findIndex((s) => sameEnds(s, r)) !== i);
    if (twice)
      return {
        verdict: 'cannot judge' as const,
        reason: `${name(twice)} was read twice: keep the one that counts.`,
        pairs: [],
      };
    const wrongOpen = rows.filter((r) => r.corrected === undefined && r.expected?.ohm20 !== undefined);
    const joined = rows.filter((r) => r.corrected !== undefined && r.known && r.expected?.ohm20 === undefined);
    const parts: Judged[] = [
      ...(wrongOpen.length === 0
        ? []
        : [
            {
              verdict: 'fail' as const,
              reason: `Open: ${wrongOpen.map(name).join(', ')}. Find the open joint before anything else.`,
            },
          ]),
      ...(joined.length === 0
        ? []
        : [
            {
              verdict: 'fail' as const,
              reason: `${joined.map(name).join(', ')} should be open but read through: marks wrong, or links left on. Sort the leads by continuity.`,
            },
          ]),
    ];
    const kind = x.windingKind === 'form-wound' ? 'form' : 'random';
    const pass = limit(`resistance.${kind}PassPercent`, x.limits);
    const most = limit(`resistance.${kind}FailPercent`, x.limits);
    let largest: number | undefined;
    const alone: string[] = [];
    const left = rows.filter((r) => r.corrected !== undefined && r.expected?.ohm20 !== undefined);
    while (left.length > 0) {
      const [head] = left;
      const ohm20 = head?.expected?.ohm20 ?? 0;
      const siblings = left.filter((r) => Math.abs((r.expected?.ohm20 ?? 0) / ohm20 - 1) <= ALIKE);
      for (const s of siblings) left.splice(left.indexOf(s), 1);
      if (siblings.length < 2) {
        alone.push(...siblings.map(name));
        continue;
      }
      const values = siblings.map((s) => s.corrected ?? 0);
      const mean = values.reduce((n, v) => n + v, 0) / values.length;
      const off = (100 * Math.max(...values.map((v) => Math.abs(v - mean)))) / mean;
      largest = Math.max(largest ?? 0, off);
      note?.({
        name: `siblings ${siblings.map(name).join(', ')}`,
        symbol: 'unbalance',
        formula: '100 max|R − mean| / mean',
        numbers: `100 · ${formatNumber(Math.max(...values.map((v) => Math.abs(v - mean))), 6)} / ${formatNumber(mean, 6)}`,
        value: off,
        unit: '%',
        source: 'common practice',
      });
      const worst = siblings.reduce((w, s) =>
        Math.abs((s.corrected ?? 0) - mean) > Math.abs((w.corrected ?? 0) - mean) ? s : w,
      );
      const verdict = notAbove(off, pass) ? 'pass' : notAbove(off, most) ? 'attention' : 'fail';
      parts.push({
        verdict,
        reason: `${siblings.map(name).join(', ')}: ${formatNumber(off, 3)} % off their mean of ${formatNumber(mean, 4)} Ω at 20 °C${verdict === 'pass' ? '' : `, ${name(worst)} most`}; ${quoteLimit(`resistance.${kind}${verdict === 'fail' ? 'Fail' : 'Pass'}Percent`, x.limits)}.`,
      });
    }
    const unknown = rows.filter((r) => r.corrected !== undefined && !r.known).map(name);
    const kept = [...alone, ...unknown];
    const keptSays = kept.length === 0 ? '' : ` Kept for the trend, without a limit of its own: ${kept.join(', ')}.`;
    if (parts.length === 0)
      return {
        verdict: 'cannot judge' as const,
        reason: `No two pairs that should read alike were read.${keptSays}`,
        pairs: rows.map((r) => rowSays(r, x.expectedIsShare)),
      };
    const judged = judgedTogether([...parts, ...outOfCalibration(x.calibrationExpired)]);
    const read = rows.flatMap((r) => (r.corrected === undefined ? [] : [r.corrected]));
    return {
      verdict: judged.verdict,
      reason: judged.reason + keptSays,
      pairs: rows.map((r) => rowSays(r, x.expectedIsShare)),
      ...(largest === undefined ? {} : { largestUnbalancePercent: largest }),
      ...(read.length === 0 ? {} : { correctedMeanOhm: read.reduce((n, v) => n + v, 0) / read.length }),
    };
  },
});

const sameEnds = (p: PairRead, q: PairRead): boolean => (p.a === q.a && p.b === q.b) || (p.a === q.b && p.b === q.a);

const rowSays = (
  r: PairRead & { corrected: number | undefined; expected: { ohm20?: number | undefined } | undefined },
  isShare: boolean,
) => ({
  a: r.a,
  b: r.b,
  ...(r.corrected === undefined ? {} : { correctedOhm: r.corrected }),
  ...(r.expected?.ohm20 === undefined || isShare ? {} : { expectedOhm: r.expected.ohm20 }),
  ...(r.corrected === undefined || r.expected?.ohm20 === undefined || isShare
    ? {}
    : { offPercent: 100 * (r.corrected / r.expected.ohm20 - 1) }),
});

/** Pairs of the leads of a record with every link off, and what each should read as a share of one phase; none where it is not known far enough. */
export function pairsOfLeads(record: WindingRecord): { a: string; b: string; ofPhase?: number }[] {
  const { layout, connection } = connectionOfRecord(record);
  if (!layout || !connection || layout.kind === 'single-phase') return [];
  const net = networkOf(layout, jointsOf(connection));
  const partOfNode = partsOf(net.branches, net.meets.length);
  const part = (l: string) => partOfNode[net.nodeOf.get(l) ?? 0];
  const all = net.leads.flatMap((a, i) => net.leads.slice(i + 1).map((b) => [a, b] as const));
  // of a part with many leads those of one use belong together: T1 to T3, and T4 to T6 of two speeds
  const together = (a: string, b: string): boolean =>
    net.leads.filter((l) => part(l) === part(a)).length <= 3 ||
    Math.ceil(Number(a.slice(1)) / 3) === Math.ceil(Number(b.slice(1)) / 3);
  const closed = all.filter(([a, b]) => part(a) === part(b) && together(a, b));
  const solved = solvedByResistance(net, closed);
  const phase = phaseAlone(layout.groups, net.branches, runningCircuits(record) ?? 1);
  return closed.map(([a, b], i) => ({ a, b, ofPhase: (solved.values[i] ?? 0) / phase }));
}

/** Of a phase as it runs, its circuits in parallel, in the measure of the network. */
function phaseAlone(
  groups: readonly { phase: string }[],
  branches: readonly { ohm: number; phase: string }[],
  circuits: number,
): number {
  const phase = groups[0]?.phase;
  return branches.filter((b) => b.phase === phase).reduce((n, b) => n + b.ohm, 0) / (circuits * circuits);
}

/** Which nodes hang together. */
function partsOf(branches: readonly { from: number; to: number }[], nodes: number): number[] {
  const part = Array.from({ length: nodes }, (_, i) => i);
  const find = (i: number): number => {
    let at = i;
    while (part[at] !== at) at = part[at] as number;
    return at;
  };
  for (const b of branches) part[find(b.from)] = find(b.to);
  return part.map((_, i) => find(i));
}

/** The pairs that a text names, one a line: two leads and what was read. A line without a reading is passed over. */
export function readPairs(typed: string): { pairs: PairRead[]; problems: string[] } {
  const pairs: PairRead[] = [];
  const problems: string[] = [];
  for (const line of typed
    .split(/[\n;]/)
    .map((l) => l.trim())
    .filter((l) => l !== '')) {
    const is = /^([A-Za-z0-9]+)\s*[-–\s]\s*([A-Za-z0-9]+)\s*[:=]?\s*(.*)$/.exec(line);
    const [a = '', b = ''] = [is?.[1], is?.[2]].map((m) => marked(m ?? ''));
    const read = (is?.[3] ?? '').trim();
    if (!lead.safeParse(a).success || !lead.safeParse(b).success || a === b) {
      problems.push(`"${line}" names no two leads. Write one pair a line: U1-U2 0.512.`);
      continue;
    }
    if (read === '') continue;
    if (/^(open|ol|o\.l\.|∞|inf|[>≥].*)$/i.test(read)) pairs.push({ a, b });
    else {
      const q = parseQuantity(read, 'resistance', 'Ω');
      if (!q.ok) problems.push(`${line}: ${q.message}`);
      else if (!(q.value.base > 0)) problems.push(`${line}: a resistance is more than zero; an open pair is "open".`);
      else pairs.push({ a, b, ohm: q.value.base });
    }
  }
  if (problems.length === 0 && pairs.length === 0) problems.push('No pair has a reading yet: U1-U2 0.512, or open.');
  if (pairs.length > MOST_PAIRS) problems.push(`At most ${MOST_PAIRS} pairs can be read.`);
  return { pairs, problems };
}

/** A lead mark in either school, as it is named inside. */
const marked = (mark: string): string => {
  const upper = mark.toUpperCase();
  return /^\d/.test(upper) ? fromLeadMarks(upper, 'U', 'two-speed') : fromLeadMarks(upper, 'U');
};

/** Machines whose leads are more than one plain set of three, or the two ends of three phases. */
const manyLeads = (record: WindingRecord | undefined): boolean =>
  record !== undefined &&
  (record.leads === '9' || record.leads === '12' || record.leads === '6 part-winding' || record.duty !== undefined);

/** Every pair of leads in the test matrix. */
export const leadResistancesTest: TestKind = {
  id: 'leadResistances',
  title: 'Resistance of every pair of leads',
  calculation: leadResistances as unknown as Calculation,
  derived: [
    { name: 'correctedMeanOhm', title: 'Mean at 20 °C', unit: 'Ω' },
    { name: 'largestUnbalancePercent', title: 'Largest deviation of siblings', unit: '%' },
  ],
  caution: EARTH,
  stages: { IN: 'optional', BS: 'optional', AC: 'optional', VC: 'optional', FI: 'optional' },
  fields: [
    {
      ...notes('pairs', 'Pairs, every link off'),
      required: true,
      hint: 'one pair a line: U1-U2 0.512; open where nothing flows',
    },
    celsius('windingC', 'Winding temperature', need),
    text('instrument', 'Instrument', need),
  ],
  for: ({ machine, record }) => machine !== 'single-phase' && manyLeads(record),
  leadMarked: ['pairs'],
  usual: ({ record }): Readonly<Record<string, string>> => {
    const pairs = record ? pairsOfLeads(record) : [];
    return pairs.length === 0 ? {} : { pairs: pairs.map((p) => `${p.a}-${p.b} `).join('\n') };
  },
  lacks: (values) => {
    const { problems } = readPairs(typeof values['pairs'] === 'string' ? values['pairs'] : '');
    return problems[0] === undefined ? undefined : { field: 'pairs', message: problems[0] };
  },
  due: (c) => {
    const phase = c.figures?.phaseResistance20Ohm;
    const pairs = c.record ? pairsOfLeads(c.record) : [];
    const kind = isFormWound(c.record) ? 'form' : 'random';
    return {
      says: [
        pairs.length === 0
          ? 'The connection is not recorded far enough to tell what each pair should read.'
          : `Every link off. At 20 °C: ${pairs.map((p) => `${p.a}–${p.b} ${phase === undefined || p.ofPhase === undefined ? '?' : formatNumber(phase * p.ofPhase, 4)}`).join(', ')} Ω; every other pair open.`,
        `Pairs that should read alike: largest deviation from their mean ${quoteLimit(`resistance.${kind}PassPercent`, c.limits)}.`,
      ],
    };
  },
  input: (v, c) => {
    const { pairs } = readPairs(typeof v['pairs'] === 'string' ? v['pairs'] : '');
    const phase = c.figures?.phaseResistance20Ohm;
    const known = c.record ? pairsOfLeads(c.record) : [];
    const expected = known.flatMap(({ a, b, ofPhase }) =>
      ofPhase === undefined ? [] : [{ a, b, ohm20: (phase ?? 1) * ofPhase }],
    );
    // what hangs together is known, so is what does not
    const leads = [...new Set(known.flatMap((p) => [p.a, p.b]))];
    const apart = leads.flatMap((a, i) =>
      leads.slice(i + 1).flatMap((b) => (connected(a, b, known) ? [] : [{ a, b }])),
    );
    return {
      pairs,
      expected: [...expected, ...apart].slice(0, MOST_PAIRS),
      expectedIsShare: phase === undefined,
      windingC: num(v, 'windingC'),
      material: c.record?.material ?? 'copper',
      windingKind: isFormWound(c.record) ? 'form-wound' : 'random-wound',
    };
  },
};

/** Whether a chain of known pairs leads from one to the other. */
function connected(a: string, b: string, known: readonly { a: string; b: string }[]): boolean {
  const seen = new Set([a]);
  for (let grew = true; grew;) {
    grew = false;
    for (const p of known)
      if (seen.has(p.a) !== seen.has(p.b)) {
        seen.add(p.a).add(p.b);
        grew = true;
      }
  }
  return seen.has(b);
}
