import fc from 'fast-check';
import { draws, some } from '../../../../scripts/testing/draws.ts';
import { describe, expect, it } from 'vitest';
import { sizeOf } from '../winding/complex.ts';
import { connect, possibleCircuits, type Connection } from '../winding/connection.ts';
import type { Group, Layout, Phase } from '../winding/layoutTypes.ts';
import { layoutOf } from '../winding/layout.ts';
import { groupEmf } from '../winding/phaseBalance.ts';
import { checkConnection } from './check.ts';
import { coilMistakes, explainReadings, singleMistakes } from './explain.ts';
import { jointClassWarning, jointList } from './jointList.ts';
import { networkOf, signatureOf } from './network.ts';
import { jointsOf, parseJoints, type Joint } from './joints.ts';
import { bypassed, exchanged, openedCircuit, phaseReversed, reversed } from './mistakes.ts';

interface Made {
  layout: Layout;
  connection: Connection;
  joints: Joint[];
}
/** A right connection of some winding, its joints made in any order and split or merged as hands do it. */
const right = fc
  .record({
    core: fc.constantFrom(
      [24, 4, 5],
      [36, 4, 8],
      [36, 6, 5],
      [48, 8, 5],
      [54, 6, 8],
      [48, 4, 10],
      [27, 6, 4],
      [12, 10, 1],
    ),
    connection: fc.constantFrom('wye', 'delta') as fc.Arbitrary<'wye' | 'delta'>,
    pick: fc.nat(20),
    style: fc.nat(1),
    leads: fc.constantFrom(3, 6, 9, 12) as fc.Arbitrary<3 | 6 | 9 | 12>,
    seed: fc.array(fc.nat(1_000_000), { minLength: 60, maxLength: 60 }),
  })
  .map((x): Made | undefined => {
    const [slots, poles, span] = x.core as [number, number, number];
    const layout = layoutOf({
      slots,
      poles,
      layers: 2,
      form: 'lap',
      poleGroups: 'every-pole',
      spanSlots: span,
      turns: [10],
    });
    const halves = x.leads > 6;
    const possible = possibleCircuits(layout).filter((p) => !halves || p.circuits % 2 === 0);
    const hit = possible[x.pick % Math.max(1, possible.length)];
    if (!hit) return undefined;
    const jumper = hit.jumpers[x.style % hit.jumpers.length] ?? 'adjacent-pole';
    const connection = connect(layout, {
      connection: x.connection,
      circuits: halves ? hit.circuits / 2 : hit.circuits,
      jumper,
      leads: x.leads,
    });
    const shuffled = jointsOf(connection)
      .map((j, i) => ({ j: (x.seed[i] ?? 0) % 2 ? [...j].reverse() : j, at: x.seed[(i * 7) % 60] ?? 0 }))
      .sort((a, b) => a.at - b.at)
      // a joint of many ends is often made in two steps
      .flatMap(({ j, at }) => (j.length > 3 && at % 3 === 0 ? [j.slice(0, 2), j.slice(1)] : [j]));
    return { layout, connection, joints: shuffled };
  })
  .filter((m): m is Made => m !== undefined);

describe('joints as typed', () => {
  it('are read with dashes, commas and lines; what is no end is named', () => {
    expect(parseJoints('1f-4f, T1-1S-7S\nY-10S–12s')).toEqual({
      joints: [
        ['1F', '4F'],
        ['T1', '1S', '7S'],
        ['Y', '10S', '12S'],
      ],
      problems: [],
    });
    const bad = parseJoints('1F, 2X-3S');
    expect(bad.problems[0]).toMatch(/"1F" joins nothing/);
    expect(bad.problems[1]).toMatch(/"2X" in "2X-3S" is no end/);
  });
});

describe('the check of an as-made connection', () => {
  it('never alarms on a right one, whatever the order of the joints', () => {
    fc.assert(
      fc.property(right, ({ layout, connection, joints }) => {
        const found = checkConnection(layout, connection, joints);
        expect(found.findings.map((f) => f.message)).toEqual([]);
        expect(found.verdict).toBe('as drawn');
      }),
      { numRuns: draws(150) },
    );
  });
  it('says of the other jumper style that it is electrically the same', () => {
    for (const [slots, poles, span, circuits] of [
      [36, 4, 8, 1],
      [36, 4, 8, 2],
      [54, 6, 8, 3],
      [48, 8, 5, 4],
    ] as const) {
      const layout = layoutOf({
        slots,
        poles,
        layers: 2,
        form: 'lap',
        poleGroups: 'every-pole',
        spanSlots: span,
        turns: [8],
      });
      for (const connection of ['wye', 'delta'] as const) {
        const short = connect(layout, { connection, circuits, jumper: 'adjacent-pole', leads: 3 });
        const long = connect(layout, { connection, circuits, jumper: 'skip-pole', leads: 3 });
        expect(
          checkConnection(layout, short, jointsOf(long)).verdict,
          `${slots}/${poles} ${connection} ${circuits}`,
        ).toBe('electrically the same');
      }
    }
  });
  it('finds every planted mistake, and names the group', () => {
    fc.assert(
      fc.property(
        right,
        fc.constantFrom('reversed', 'bypassed', 'exchanged', 'open', 'phase', 'leads', 'shorted'),
        fc.nat(1000),
        fc.nat(1000),
        ({ layout, connection, joints }, mistake, a, b) => {
          const groups = layout.groups.map((g) => g.number);
          const g = groups[a % groups.length] as number;
          const h = groups[b % groups.length] as number;
          const phase = (['A', 'B', 'C'] as Phase[])[a % 3] as Phase;
          const spoilt: Joint[] | undefined =
            mistake === 'reversed'
              ? reversed(joints, g)
              : mistake === 'bypassed'
                ? bypassed(joints, g)
                : mistake === 'exchanged'
                  ? layout.groups.find((x) => x.number === g)?.phase ===
                    layout.groups.find((x) => x.number === h)?.phase
                    ? undefined
                    : exchanged(joints, g, h)
                  : mistake === 'open'
                    ? joints.map((j) => j.filter((e) => e !== `${g}S`))
                    : mistake === 'phase'
                      ? phaseReversed(joints, connection, phase)
                      : mistake === 'leads'
                        ? joints.map((j) => j.map((e) => (e === 'T2' ? 'T3' : e === 'T3' ? 'T2' : e)))
                        : [...joints, [`${g}S`, `${h}F`]];
          fc.pre(spoilt !== undefined);
          // a joint that was there already, or between ends of one node, changes nothing
          const found = checkConnection(layout, connection, spoilt as Joint[]);
          if (mistake === 'shorted') {
            // points of equal potential in parallel circuits of one phase may be joined without any effect
            const of = (n: number) => layout.groups.find((x) => x.number === n)?.phase;
            fc.pre(of(g) !== of(h));
            fc.pre(found.verdict !== 'as drawn');
            expect(found.verdict).not.toBe('electrically the same');
            return;
          }
          // one group of its own circuit exchanged with another phase's is still another machine
          expect(['wrong', 'not finished'], `${mistake} ${g} ${h} ${phase}`).toContain(found.verdict);
          expect(found.findings.length).toBeGreaterThan(0);
          if (mistake === 'bypassed')
            expect(found.findings.some((f) => f.kind === 'bypassed group' && f.groups.includes(g))).toBe(true);
          if (mistake === 'open')
            expect(found.findings.some((f) => f.ends.includes(`${g}S`) || f.groups.includes(g))).toBe(true);
        },
      ),
      { numRuns: draws(400) },
    );
  });
  it('names a reversed group in a circuit of three or more, and its mates in shorter ones', () => {
    fc.assert(
      fc.property(right, fc.nat(1000), ({ layout, connection, joints }, a) => {
        const g = layout.groups[a % layout.groups.length]?.number as number;
        const found = checkConnection(layout, connection, reversed(joints, g));
        const circuit = connection.circuits.find((c) => c.steps.some((s) => s.group === g));
        const named = found.findings.filter((f) => f.kind === 'reversed group' || f.kind === 'phase reversed');
        expect(named.length, found.findings.map((f) => f.message).join(' | ')).toBeGreaterThan(0);
        if ((circuit?.steps.length ?? 0) > 2) expect(named.some((f) => f.groups.includes(g))).toBe(true);
      }),
      { numRuns: draws(150) },
    );
  });
  const layout = layoutOf({
    slots: 36,
    poles: 4,
    layers: 2,
    form: 'lap',
    poleGroups: 'every-pole',
    spanSlots: 8,
    turns: [10],
  });
  const two = connect(layout, { connection: 'wye', circuits: 2, jumper: 'adjacent-pole', leads: 3 });
  it('gives the signature to expect with the finding (docs/derivations.md 8)', () => {
    const found = checkConnection(layout, two, openedCircuit(jointsOf(two), two, 'A', 1));
    expect(found.findings[0]?.kind).toBe('open');
    expect(found.signatures[0]?.resistance.map((x) => x.toFixed(3))).toEqual(['1.500', '1.000', '1.500']);
  });
  it('an unfinished connection is not called wrong', () => {
    const found = checkConnection(layout, two, jointsOf(two).slice(0, 5));
    expect(found.verdict).toBe('not finished');
    expect(checkConnection(layout, two, []).verdict).toBe('not finished');
  });
  it('a lead in the star, and two leads joined, are named', () => {
    const star = jointsOf(two).map((j) => (j[0] === 'Y' ? [...j, 'T1'] : j));
    expect(
      checkConnection(layout, two, star).findings.some((f) => f.message === 'Lead T1 is joined to the star.'),
    ).toBe(true);
  });
  it('exchanged leads turn it backwards', () => {
    const turned = jointsOf(two).map((j) => j.map((e) => (e === 'T2' ? 'T3' : e === 'T3' ? 'T2' : e)));
    expect(checkConnection(layout, two, turned).findings.map((f) => f.kind)).toEqual(['wrong rotation']);
  });
});

describe('marks on the leads', () => {
  const layout = layoutOf({
    slots: 24,
    poles: 4,
    layers: 2,
    form: 'lap',
    poleGroups: 'every-pole',
    spanSlots: 5,
    turns: [10],
  });
  const remarked = (joints: readonly Joint[], marks: Readonly<Record<string, string>>) =>
    joints.map((j) => j.map((e) => marks[e] ?? e));
  const orders = (list: string[]): string[][] =>
    list.length < 2
      ? [list]
      : list.flatMap((x, i) => orders([...list.slice(0, i), ...list.slice(i + 1)]).map((rest) => [x, ...rest]));

  it('of the 48 ways that keep each phase between its two marks 6 are right, 6 run backwards, 36 turn one phase (docs/derivations.md 8)', () => {
    const six = connect(layout, { connection: 'wye', circuits: 2, jumper: 'adjacent-pole', leads: 6 });
    const planned = jointsOf(six);
    const count = { right: 0, backwards: 0, turned: 0 };
    for (const phases of orders(['1', '2', '3']))
      for (let flips = 0; flips < 8; flips++) {
        const marks = Object.fromEntries(
          phases.flatMap((to, i) => {
            const [a, b] = flips & (1 << i) ? [Number(to) + 3, Number(to)] : [Number(to), Number(to) + 3];
            return [
              [`T${i + 1}`, `T${a}`],
              [`T${i + 4}`, `T${b}`],
            ];
          }),
        );
        const { verdict, findings } = checkConnection(layout, six, remarked(planned, marks));
        if (verdict !== 'wrong') count.right += 1;
        else if (findings.length === 1 && findings[0]?.kind === 'wrong rotation') count.backwards += 1;
        else {
          expect(
            findings.some((f) => f.kind === 'leads exchanged'),
            JSON.stringify(marks),
          ).toBe(true);
          count.turned += 1;
        }
      }
    expect(count).toEqual({ right: 6, backwards: 6, turned: 36 });
  }, 120_000);
  it('a phase between marks of two phases is never right: leads of different windings are on it', () => {
    const six = connect(layout, { connection: 'delta', circuits: 1, jumper: 'adjacent-pole', leads: 6 });
    for (const marks of [
      { T4: 'T5', T5: 'T4' },
      { T1: 'T5', T5: 'T1' },
      { T2: 'T3', T3: 'T2' },
    ] as Record<string, string>[])
      expect(checkConnection(layout, six, remarked(jointsOf(six), marks)).verdict).toBe('wrong');
  });
  it('nine leads with their marks cycled are right; with two phases exchanged they run backwards; two alone are named', () => {
    const cycled = { T1: 'T2', T2: 'T3', T3: 'T1', T4: 'T5', T5: 'T6', T6: 'T4', T7: 'T8', T8: 'T9', T9: 'T7' };
    const exchangedTwo = { T1: 'T2', T2: 'T1', T4: 'T5', T5: 'T4', T7: 'T8', T8: 'T7' };
    for (const connection of ['wye', 'delta'] as const) {
      const nine = connect(layout, { connection, circuits: 1, jumper: 'adjacent-pole', leads: 9 });
      const of = (marks: Readonly<Record<string, string>>) =>
        checkConnection(layout, nine, remarked(jointsOf(nine), marks));
      expect(of(cycled).verdict).toBe('electrically the same');
      expect(of(exchangedTwo).findings.map((f) => f.kind)).toEqual(['wrong rotation']);
      expect(of({ T4: 'T7', T7: 'T4' }).findings.map((f) => f.ends)).toEqual([['T4', 'T7']]);
    }
  });
});

describe('odd readings', () => {
  const layout = layoutOf({
    slots: 36,
    poles: 4,
    layers: 2,
    form: 'lap',
    poleGroups: 'every-pole',
    spanSlots: 8,
    turns: [10],
  });
  it('the mistake that made them is among the best, for every single mistake', () => {
    for (const connection of ['wye', 'delta'] as const)
      for (const circuits of [1, 2]) {
        const drawn = connect(layout, { connection, circuits, jumper: 'adjacent-pole', leads: 3 });
        for (const mistake of some([...singleMistakes(layout, drawn), ...coilMistakes(layout, drawn)], 5)) {
          const s = signatureOf(networkOf(mistake.layout ?? layout, mistake.joints));
          const readings = {
            resistance: s.resistance,
            current: s.current,
            frequency: s.inductance.map((l) => 1 / Math.sqrt(l)),
          };
          const best = explainReadings(layout, drawn, readings).filter((e) => e.misfitPercent < 0.01);
          expect(
            best.some((e) => e.says.includes(mistake.say)),
            `${connection} ${circuits} ${mistake.say}`,
          ).toBe(true);
        }
      }
  });
  it('an open pair is explained by what opens that pair and no other', () => {
    const drawn = connect(layout, { connection: 'wye', circuits: 1, jumper: 'adjacent-pole', leads: 3 });
    const found = explainReadings(layout, drawn, { resistance: [Infinity, 2, Infinity] });
    expect(found.map((e) => e.kind)).toEqual(['open circuit']);
    expect(found[0]?.groups).toEqual(layout.groups.filter((g) => g.phase === 'A').map((g) => g.number));
    expect(explainReadings(layout, drawn, { current: [0, 1, 1] })[0]?.kind).toBe('open circuit');
    expect(explainReadings(layout, drawn, { resistance: [Infinity, Infinity, Infinity] })).toEqual([]);
  });
  it('group EMF with a coil turned, and left out, by position in the group (docs/derivations.md 8)', () => {
    const table: [number, number, number, number[], number[]][] = [
      [24, 4, 2, [0.2679, 0.2679], [0.5176, 0.5176]],
      [36, 4, 3, [0.4208, 0.3054, 0.4208], [0.684, 0.6527, 0.684]],
      [48, 4, 4, [0.5549, 0.4872, 0.4872, 0.5549], [0.7654, 0.742, 0.742, 0.7654]],
    ];
    for (const [slots, poles, q, turned, out] of table) {
      const own = layoutOf({
        slots,
        poles,
        layers: 2,
        form: 'lap',
        poleGroups: 'every-pole',
        spanSlots: slots / poles - 1,
        turns: [9],
      });
      const drawn = connect(own, { connection: 'wye', circuits: 1, jumper: 'adjacent-pole', leads: 3 });
      const first = own.groups[0] as Group;
      const whole = sizeOf(groupEmf(own, first));
      const inGroup = coilMistakes(own, drawn).filter((m) => m.groups[0] === first.number);
      expect(inGroup).toHaveLength(2 * q);
      const ratios = (kind: string) =>
        inGroup
          .filter((m) => m.kind === kind)
          .map((m) => Number((sizeOf(groupEmf(m.layout ?? own, first)) / whole).toFixed(4)));
      expect(ratios('coil turned')).toEqual(turned);
      expect(ratios('coil left out')).toEqual(out);
      const good = signatureOf(networkOf(own, jointsOf(drawn))).resistance[0] as number;
      const R = (m: (typeof inGroup)[number]) =>
        (signatureOf(networkOf(m.layout ?? own, m.joints)).resistance[0] as number) / good;
      // two phases of four groups in series between the leads
      for (const m of inGroup) expect(R(m)).toBeCloseTo(m.kind === 'coil turned' ? 1 : 1 - 1 / (2 * poles * q), 9);
    }
  });
  it('even readings point to nothing', () => {
    const drawn = connect(layout, { connection: 'wye', circuits: 2, jumper: 'adjacent-pole', leads: 3 });
    expect(explainReadings(layout, drawn, { resistance: [1, 1, 1], current: [1, 1, 1] })[0]?.kind).toBe('none');
  });
});

describe('the list of joints', () => {
  const layout = layoutOf({
    slots: 36,
    poles: 4,
    layers: 2,
    form: 'lap',
    poleGroups: 'every-pole',
    spanSlots: 8,
    turns: [10],
  });
  it('12 groups, one circuit, three leads, star inside: 9 series joints, 13 in all (docs/derivations.md 8)', () => {
    const drawn = connect(layout, { connection: 'wye', circuits: 1, jumper: 'adjacent-pole', leads: 3 });
    const list = jointList(drawn, 'jumpers first');
    expect(list.filter((j) => j.what === 'jumper')).toHaveLength(9);
    expect(list).toHaveLength(13);
    expect(list.at(-1)?.what).toBe('star');
    expect(jointList(drawn, 'leads first')[0]?.ends[0]).toBe('T1');
    expect(new Set(list.map((j) => j.key)).size).toBe(13);
  });
  it('solder warns where the class is high', () => {
    expect(jointClassWarning('solder', 'F')).toMatch(/class F/);
    expect(jointClassWarning('braze', 'H')).toBeUndefined();
  });
});
