import { describe, expect, it } from 'vitest';
import { connect, possibleCircuits, type Connection } from '../winding/connection.ts';
import type { Layout } from '../winding/layoutTypes.ts';
import { layoutOf } from '../winding/layout.ts';
import { checkConnection, type NetworkCheck } from './check.ts';
import { jointsOf, type Joint } from './joints.ts';

/** Seeded numbers, so that the planted set is the same every time. */
function seeded(seed: number): () => number {
  let a = seed >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) >>> 0;
    let t = Math.imul(a ^ (a >>> 15), a | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

interface Machine {
  name: string;
  layout: Layout;
  connection: Connection;
}
const base = { layers: 2 as const, form: 'lap' as const, poleGroups: 'every-pole' as const, turns: [10] };

/** Six cores in wye and delta with 1 to 4 circuits, two two-speed windings, two single-phase motors. */
function machines(): Machine[] {
  const out: Machine[] = [];
  for (const [slots, poles, spanSlots] of [
    [24, 4, 5],
    [36, 4, 8],
    [36, 6, 5],
    [48, 4, 10],
    [48, 8, 5],
    [54, 6, 8],
  ] as const) {
    const layout = layoutOf({ slots, poles, spanSlots, ...base });
    for (const connection of ['wye', 'delta'] as const)
      for (const { circuits, jumpers } of possibleCircuits(layout).filter((p) => p.circuits <= 4))
        out.push({
          name: `${slots}/${poles} ${connection} ${circuits}`,
          layout,
          connection: connect(layout, { connection, circuits, jumper: jumpers[0] ?? 'adjacent-pole', leads: 3 }),
        });
  }
  for (const [slots, poles, spanSlots, duty] of [
    [36, 8, 4, 'constant torque'],
    [48, 8, 6, 'variable torque'],
  ] as const) {
    const layout = layoutOf({
      kind: 'two-speed',
      slots,
      poles,
      spanSlots,
      layers: 2,
      form: 'lap',
      turns: [10],
    } as never);
    out.push({
      name: `${slots}/${poles} two-speed`,
      layout,
      connection: connect(layout, {
        connection: 'delta',
        circuits: 1,
        jumper: 'adjacent-pole',
        leads: 6,
        duty,
      } as never),
    });
  }
  for (const [slots, poles] of [
    [24, 4],
    [36, 4],
  ] as const) {
    const layout = layoutOf(singlePhase(slots, poles));
    out.push({
      name: `${slots}/${poles} single-phase`,
      layout,
      connection: connect(layout, { connection: 'wye', circuits: 1, jumper: 'adjacent-pole', leads: 3 }),
    });
  }
  return out;
}
const singlePhase = (slots: number, poles: number) => ({
  kind: 'single-phase' as const,
  slots,
  poles,
  layers: 1 as const,
  form: 'concentric' as const,
  poleGroups: 'every-pole' as const,
  ...(slots === 24
    ? { spansSlots: [5, 3], turns: [50, 30], auxiliary: { spansSlots: [5, 3], turns: [40, 25] } }
    : { spansSlots: [8, 6, 4], turns: [40, 35, 26], auxiliary: { spansSlots: [7, 5], turns: [44, 40] } }),
});

const swap = (joints: readonly Joint[], map: Record<string, string>): Joint[] =>
  joints.map((j) => j.map((e) => map[e] ?? e));
const at = (joints: readonly Joint[], end: string): number => joints.findIndex((j) => j.includes(end));

interface Planted {
  joints: Joint[];
  /** what must be pointed at: these groups, or these ends */
  groups?: number[];
  ends?: string[];
  kinds: string[];
}
type Plant = (m: Machine, random: () => number) => Planted | undefined;

/** Every kind of one edit of docs/derivations.md 8. */
const PLANTS: Record<string, Plant> = {
  'group turned': ({ layout, connection }, random) => {
    const g = layout.groups[Math.floor(random() * layout.groups.length)]?.number ?? 1;
    return {
      joints: swap(jointsOf(connection), { [`${g}S`]: `${g}F`, [`${g}F`]: `${g}S` }),
      groups: [g],
      kinds: ['reversed group', 'phase reversed', 'circuit turned'],
    };
  },
  'leads exchanged': ({ layout, connection }, random) => {
    const leads = connection.nodes.filter((n) => n.kind === 'lead').map((n) => n.name);
    const a = Math.floor(random() * leads.length);
    const b = (a + 1 + Math.floor(random() * (leads.length - 1))) % leads.length;
    // main and auxiliary exchanged both ways turn nothing: only one of the windings is turned
    if (layout.kind === 'single-phase' && leads[a]?.[0] !== leads[b]?.[0]) return undefined;
    const [x, y] = [leads[a] as string, leads[b] as string];
    return {
      joints: swap(jointsOf(connection), { [x]: y, [y]: x }),
      ends: [x, y],
      kinds: ['wrong rotation', 'leads exchanged'],
    };
  },
  'circuit turned': ({ connection }, random) => {
    const long = connection.circuits.filter((c) => c.steps.length > 1);
    const c = long[Math.floor(random() * long.length)];
    if (!c) return undefined;
    const [first, last] = [c.steps[0]?.enter ?? '', c.steps.at(-1)?.leave ?? ''];
    return {
      joints: swap(jointsOf(connection), { [first]: last, [last]: first }),
      groups: c.steps.map((s) => s.group),
      kinds: ['circuit turned', 'phase reversed', 'reversed group', 'leads exchanged', 'wrong rotation'],
    };
  },
  'ends exchanged': ({ layout, connection }, random) => {
    const joints = jointsOf(connection);
    const ends = layout.groups.flatMap((g) => [`${g.number}S`, `${g.number}F`]);
    const a = ends[Math.floor(random() * ends.length)] as string;
    const others = ends.filter(
      (e) => at(joints, e) !== at(joints, a) && Number.parseInt(e, 10) !== Number.parseInt(a, 10),
    );
    const b = others[Math.floor(random() * others.length)] as string;
    return {
      joints: swap(joints, { [a]: b, [b]: a }),
      ends: [a, b],
      kinds: [
        'ends exchanged',
        'reversed group',
        'swapped phase',
        'leads exchanged',
        'wrong rotation',
        'circuit turned',
        'phase reversed',
        'end elsewhere',
        'differs',
      ],
    };
  },
  'circuit start on another lead': ({ connection }, random) => {
    const joints = jointsOf(connection);
    const leads = connection.nodes.filter((n) => n.kind === 'lead');
    const from = leads[Math.floor(random() * leads.length)];
    const to = leads.filter((l) => l !== from)[Math.floor(random() * (leads.length - 1))];
    if (!from || !to || from.ends.length < 2) return undefined;
    const end = from.ends[Math.floor(random() * from.ends.length)] as string;
    return {
      joints: joints.map((j) => (j[0] === from.name ? j.filter((e) => e !== end) : j[0] === to.name ? [...j, end] : j)),
      ends: [end],
      kinds: ['end elsewhere', 'ends exchanged'],
    };
  },
  'groups swapped between phases': ({ layout, connection }, random) => {
    const g = layout.groups[Math.floor(random() * layout.groups.length)];
    const others = layout.groups.filter((h) => h.phase !== g?.phase);
    const h = others[Math.floor(random() * others.length)];
    if (!g || !h) return undefined;
    const [a, b] = [g.number, h.number];
    return {
      joints: swap(jointsOf(connection), {
        [`${a}S`]: `${b}S`,
        [`${a}F`]: `${b}F`,
        [`${b}S`]: `${a}S`,
        [`${b}F`]: `${a}F`,
      }),
      groups: [a, b],
      kinds: [
        'swapped phase',
        'ends exchanged',
        'reversed group',
        'end elsewhere',
        'leads exchanged',
        'wrong rotation',
        'circuit turned',
        'phase reversed',
      ],
    };
  },
  'joint left open': ({ connection }, random) => {
    const joints = jointsOf(connection);
    const j = joints[Math.floor(random() * joints.length)] as Joint;
    const ends = j.filter((e) => /[SF]$/.test(e));
    const end = ends[Math.floor(random() * ends.length)] as string;
    return { joints: joints.map((x) => x.filter((e) => e !== end)), ends: [end], kinds: ['open'] };
  },
  'two joints on each other': ({ connection }, random) => {
    const joints = jointsOf(connection).filter((j) => j.every((e) => /[SF]$/.test(e)));
    if (joints.length < 2) return undefined;
    const a = Math.floor(random() * joints.length);
    const b = (a + 1 + Math.floor(random() * (joints.length - 1))) % joints.length;
    const [x, y] = [joints[a] as Joint, joints[b] as Joint];
    // the two ends of one group on each other pass it by: that is another mistake
    const groups = [...x, ...y].map((e) => Number.parseInt(e, 10));
    if (new Set(groups).size < groups.length) return undefined;
    return {
      joints: jointsOf(connection)
        .filter((j) => j !== x)
        .map((j) => (j.join() === y.join() ? [...y, ...x] : j))
        .filter((j) => j.join() !== x.join()),
      ends: [...x, ...y],
      kinds: ['phase joined to phase'],
    };
  },
};

/** Whether the check points at what was planted: first named, or among a tie of at most five. */
function pointsAt(check: NetworkCheck, planted: Planted): boolean {
  const hits = check.findings.flatMap((f) => [{ groups: f.groups, ends: f.ends }, ...(f.oneOf ?? [])]);
  if (check.findings.length > 2 || check.findings.some((f) => (f.oneOf?.length ?? 0) > 5)) return false;
  const has = (x: { groups: number[]; ends: string[] }): boolean =>
    (planted.groups?.some((g) => x.groups.includes(g)) ?? false) ||
    (planted.ends?.some((e) => x.ends.includes(e) || x.groups.includes(Number.parseInt(e, 10))) ?? false);
  return hits.some(has) || (check.findings.every((f) => f.kind === 'wrong rotation') && check.findings.length > 0);
}

const EACH = process.env['NORTHER_LONG'] === 'yes' ? 25 : 3;

describe('a planted set of mistakes (docs/derivations.md 8)', () => {
  const all = machines();
  it('holds six cores in wye and delta, two-speed and single-phase windings', () => {
    expect(all.length).toBeGreaterThan(30);
  });
  it('right joints are never accused, in any order, split or merged', () => {
    const random = seeded(5);
    for (const m of all)
      for (let i = 0; i < EACH; i++) {
        const joints = jointsOf(m.connection)
          .map((j) => (random() < 0.5 ? [...j].reverse() : [...j]))
          .sort(() => random() - 0.5)
          .flatMap((j) => (j.length > 3 && random() < 0.4 ? [j.slice(0, 2), j.slice(1)] : [j]));
        const check = checkConnection(m.layout, m.connection, joints);
        expect([m.name, check.verdict, check.findings], m.name).toEqual([m.name, 'as drawn', []]);
      }
  });
  it.each(Object.entries(PLANTS))(
    '%s: named in at least 95 of 100',
    (kind, plant) => {
      const random = seeded(8);
      let planted = 0;
      let named = 0;
      const missed: string[] = [];
      for (const m of all)
        for (let i = 0; i < EACH; i++) {
          const made = plant(m, random);
          if (!made) continue;
          const check = checkConnection(m.layout, m.connection, made.joints);
          // some changes change nothing: groups of one class stand for each other
          if (check.verdict === 'electrically the same' || check.verdict === 'as drawn') continue;
          planted += 1;
          if (pointsAt(check, made) && check.findings.every((f) => made.kinds.includes(f.kind))) named += 1;
          else
            missed.push(
              `${m.name}: ${JSON.stringify(made.groups ?? made.ends)} -> ${check.findings.map((f) => `${f.kind}: ${f.message}`).join(' | ')}`,
            );
        }
      if (process.env['NORTHER_TELL'])
        process.stderr.write(`${kind}: ${named} of ${planted}\n${missed.slice(0, 6).join('\n')}\n`);
      expect(planted, kind).toBeGreaterThan(20);
      expect(named / planted, missed.slice(0, 5).join('\n')).toBeGreaterThanOrEqual(0.95);
    },
    120_000,
  );
});
