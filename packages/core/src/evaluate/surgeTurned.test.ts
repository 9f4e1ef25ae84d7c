import { describe, expect, it } from 'vitest';
import { worked } from '../../../../scripts/testing/worked.ts';
import { bestPlaces, MOST_PLACES } from '../surge/turned.ts';
import { surgeWave, withShort } from '../surge/simulatedWave.ts';
import { earlierSurges, earlierWavesOf, rotorState } from './earlierSurges.ts';
import { surge, surgeTest } from './surge.ts';
import type { JudgingContext } from './testKind.ts';

const SOUND = { ohm: 180, henry: 12e-3, farad: 1e-7 };
const SHORT = withShort(SOUND, { turnsShare: 0.1, couplingSquared: 0.5, loopOhm: 0.01 });
const pulse = (circuit: typeof SOUND, appliedV: number) => ({
  appliedV,
  dtUs: 5,
  v: Array.from(surgeWave(circuit, appliedV, 5e-6, 120).v),
});
/** Inductance as the rotor teeth pass: each phase sees them a third of a slot pitch later. */
const at = (place: number, phase: number, circuit = SOUND, depth = 0.1) => ({
  ...circuit,
  henry: circuit.henry * (1 + depth * Math.cos((2 * Math.PI * place) / 6 + (2 * Math.PI * phase) / 3)),
});
const NAMES = ['UV', 'VW', 'WU'];
const turned = (circuits: readonly (typeof SOUND)[], places = 6, depth = 0.1) =>
  NAMES.map((name, phase) => ({
    name,
    pulses: Array.from({ length: places }, (_, place) => pulse(at(place, phase, circuits[phase], depth), 800)),
  }));
const asRecords = (waves: ReturnType<typeof turned>) =>
  waves.map((w) => ({ name: w.name, pulses: w.pulses.map((p) => ({ v: p.v, dtS: 5e-6, appliedV: p.appliedV })) }));
const judged = (waves: ReturnType<typeof turned>, more: object = {}) =>
  worked(surge, { waves, connection: 'wye', rotor: 'in', turned: true, ...more });

describe('each wave at its own best place of the rotor', () => {
  it('places are found at which sound waves are alike, however far they drift', () => {
    const best = bestPlaces(asRecords(turned([SOUND, SOUND, SOUND])));
    expect(best?.places).toBe(6);
    expect(best?.appliedV).toBe(800);
    expect(best?.driftPercent).toBeGreaterThan(20);
    const [uv, vw] = best?.waves.map((w) => Array.from(w.pulses[0]?.v ?? [])) ?? [];
    // a third of a pitch is two of six places: the same inductance comes round again exactly
    expect(uv?.every((v, i) => Math.abs(v - (vw?.[i] ?? NaN)) < 1e-6)).toBe(true);
    expect(best?.waves.every((w) => w.pulses.length === 1)).toBe(true);
  });
  it('is the least of the worst over every choice', () => {
    const records = asRecords(turned([SOUND, SHORT, SOUND], 3, 0.07));
    const best = bestPlaces(records);
    const area = (a: ArrayLike<number>, b: ArrayLike<number>) => {
      let [off, all] = [0, 0];
      for (let i = 0; i < a.length; i++) {
        off += Math.abs((a[i] ?? 0) - (b[i] ?? 0));
        all += Math.abs(a[i] ?? 0);
      }
      return off / all;
    };
    const worst = (w: ArrayLike<number>[]) => Math.max(...w.map((a, i) => area(a, w[(i + 1) % w.length] ?? [])));
    let least = Infinity;
    for (const a of records[0]?.pulses ?? [])
      for (const b of records[1]?.pulses ?? [])
        for (const c of records[2]?.pulses ?? []) least = Math.min(least, worst([a.v, b.v, c.v]));
    expect(worst(best?.waves.map((w) => w.pulses[0]?.v ?? []) ?? [])).toBeCloseTo(least, 12);
  });
  it('needs two places of every wave, at one voltage; more than enough are not looked at', () => {
    expect(bestPlaces(asRecords(turned([SOUND, SOUND, SOUND], 1)))).toBeUndefined();
    const [uv, vw, wu] = asRecords(turned([SOUND, SOUND, SOUND], 2));
    if (!uv || !vw || !wu) throw new Error('no waves');
    expect(bestPlaces([uv, vw, { ...wu, pulses: wu.pulses.slice(0, 1) }])).toBeUndefined();
    expect(bestPlaces([uv])).toBeUndefined();
    expect(bestPlaces([])).toBeUndefined();
    expect(bestPlaces([uv, vw])?.places).toBe(2);
    const many = bestPlaces(asRecords(turned([SOUND, SOUND, SOUND], MOST_PLACES + 2)).slice(0, 2));
    expect(many?.places).toBe(MOST_PLACES + 2);
  });
  it('the rising voltages stay, one record each', () => {
    const waves = turned([SOUND, SOUND, SOUND], 2).map((w) => ({
      ...w,
      pulses: [...w.pulses, pulse(SOUND, 1900), pulse(SOUND, 1900)],
    }));
    const best = bestPlaces(asRecords(waves.map((w) => ({ ...w, pulses: w.pulses.slice(0, 3) }))));
    expect(bestPlaces(asRecords(turned([SOUND, SOUND, SOUND])))?.rising.map((w) => w.pulses)).toEqual([[], [], []]);
    expect(best?.rising.map((w) => w.pulses.map((p) => p.appliedV))).toEqual([
      [800, 1900],
      [800, 1900],
      [800, 1900],
    ]);
  });
});

describe('a comparison with the rotor in, turned', () => {
  it('the rotor alone passes; without turning it could not be judged', () => {
    const waves = turned([SOUND, SOUND, SOUND]);
    const out = judged(waves);
    expect(out.verdict).toBe('pass');
    expect(out.reason).toMatch(
      /^Rotor turned to 6 places at 800 V; a wave drifts by up to \d+(\.\d+)? %, each is taken at its best place\. At 800 V, rotor in, best places: largest area/,
    );
    // between two places all three are unlike
    const still = worked(surge, {
      waves: NAMES.map((name, i) => ({ name, pulses: [pulse(at(0.5, i), 800)] })),
      rotor: 'in',
    });
    expect(still.verdict).toBe('cannot judge');
  });
  it('a turn fault stays at every place', () => {
    // phase U shorted: UV and WU ring higher
    const out = judged(turned([SHORT, SOUND, SHORT], 6, 0.03));
    expect(out.verdict).toBe('fail');
    expect(out.reason).toMatch(/It stays at every place: it is not the rotor\./);
    expect(out.suspectPhase).toBe('U');
  });
  it('turn insulation that gives way as the voltage rises is found beside the turning', () => {
    const waves = turned([SOUND, SOUND, SOUND], 3).map((w, i) => ({
      ...w,
      pulses: [...w.pulses, pulse(at(2, i, i === 1 ? SOUND : SHORT), 1900)],
    }));
    const out = judged(waves);
    expect(out.verdict).toBe('fail');
    expect(out.reason).toMatch(/Rotor turned to 3 places.*between 800 and 1900 V/);
  });
  it('full voltage must be reached beside it, else nothing is proved', () => {
    const waves = turned([SOUND, SOUND, SOUND]);
    const short = judged(waves, { requiredV: 1900 });
    expect([short.verdict, short.reachedV, short.requiredV]).toEqual(['cannot judge', 800, 1900]);
    expect(short.reason).toMatch(/Reached 800 V, 97 % .*of 1900 V are needed: not proved/);
    const full = waves.map((w, i) => ({ ...w, pulses: [...w.pulses, pulse(at(5, i), 1843)] }));
    expect(judged(full, { requiredV: 1900 })).toMatchObject({ verdict: 'pass', reachedV: 1843 });
    expect(
      judged(
        waves.map((w, i) => ({ ...w, pulses: [...w.pulses, pulse(at(5, i), 1842.9)] })),
        { requiredV: 1900 },
      ).verdict,
    ).toBe('cannot judge');
    // a fault is one at any voltage
    expect(judged(turned([SHORT, SOUND, SHORT], 6, 0.03), { requiredV: 1900 }).verdict).toBe('fail');
  });
  it('said to be turned but taken at one place: says so, and judges no better than it can', () => {
    const once = turned([SOUND, SOUND, SOUND], 1, 0);
    expect(judged(once)).toMatchObject({
      verdict: 'cannot judge',
      reason: expect.stringMatching(/^The rotor was not turned: take every wave/),
    });
    expect(judged(turned([SHORT, SOUND, SHORT], 1, 0)).verdict).toBe('fail');
    // rotor out: turned says nothing
    expect(worked(surge, { waves: once, rotor: 'out', turned: true }).reason).not.toMatch(/turned/);
  });
  it('is chosen in the form as one of three', () => {
    const input = (rotor: string | undefined) =>
      surgeTest.input?.({ ...(rotor === undefined ? {} : { rotor }) }, {
        waves: turned([SOUND, SOUND, SOUND]),
        limits: {},
        nameplate: {},
        stage: 'AA',
      } as unknown as JudgingContext);
    expect(input('in, turned')).toMatchObject({ rotor: 'in', turned: true });
    expect(input('in')).toMatchObject({ rotor: 'in', turned: false });
    expect(input(undefined)).toMatchObject({ rotor: undefined, turned: false });
  });
});

describe('waves of the comparison before', () => {
  const test = (id: string, more: object = {}) => ({
    id,
    kind: 'surge',
    stage: 'AC',
    part: 'stator',
    verdict: 'pass',
    supersedes: null as string | null,
    values: {},
    ...more,
  });
  const ids = (tests: ReturnType<typeof test>[], at: object, rewound = true) =>
    earlierSurges(tests, { stage: 'VC', rotor: 'out', ...at }, rewound).map((t) => t.id);
  it('are of the same winding, the newest first, and stand', () => {
    const all = [test('found', { stage: 'IN' }), test('a'), test('b'), test('other', { kind: 'polarity' })];
    expect(ids(all, {})).toEqual(['b', 'a']);
    expect(ids(all, { stage: 'IN' })).toEqual(['found']);
    expect(ids(all, {}, false)).toEqual(['b', 'a', 'found']);
    expect(ids([...all, test('c', { supersedes: 'b' })], {})).toEqual(['c', 'a']);
    // a correction is not set against what it corrects; a kept test only against those before it
    expect(ids(all, { supersedes: 'b' })).toEqual(['a']);
    expect(ids(all, { id: 'b' })).toEqual(['a']);
  });
  it('one that failed is no measure: the winding was mended since', () => {
    expect(ids([test('a'), test('b', { verdict: 'fail' }), test('c', { verdict: 'attention' })], {})).toEqual([
      'c',
      'a',
    ]);
  });
  it('are of the same state of the rotor', () => {
    const all = [test('out'), test('in', { values: { rotor: 'in' } }), test('blank', { values: { rotor: '' } })];
    expect(ids(all, {})).toEqual(['blank', 'out']);
    expect(ids(all, { rotor: 'in' })).toEqual(['in']);
    expect([rotorState(undefined), rotorState({}), rotorState({ rotor: 'in, turned' })]).toEqual([
      'out',
      'out',
      'in, turned',
    ]);
  });
  it('across the cure is said; waves without a name are none', () => {
    const waves = [{ name: 'UV', pulses: [] }, { pulses: [] }];
    expect(earlierWavesOf({ stage: 'AC' }, 'VC', waves)).toEqual({
      said: 'before varnish',
      acrossCure: true,
      waves: [{ name: 'UV', pulses: [] }],
    });
    expect(earlierWavesOf({ stage: 'AC' }, 'AC', waves)?.acrossCure).toBe(false);
    expect(earlierWavesOf({ stage: 'VC' }, 'FI', waves)?.acrossCure).toBe(false);
    expect(earlierWavesOf({ stage: 'AC' }, 'VC', [{ pulses: [] }])).toBeUndefined();
  });
});
