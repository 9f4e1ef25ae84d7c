import { beforeAll, describe, expect, it } from 'vitest';
import { draws } from '../../../../scripts/testing/draws.ts';
import { soundMachine, type Sound } from '../../../../scripts/testing/soundMachine.ts';
import { checkRecord } from './checks.ts';
import { copperTogether, usualProduct } from './jointChecks.ts';
import type { ThreePhaseRecord } from './record.ts';

/** A stream of numbers in 0…1 that is the same every time (mulberry32). */
function stream(seed: number): () => number {
  let a = seed;
  return () => {
    a = (a + 0x6d2b79f5) | 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** Measured as at a bench: a balance good to 0.8 %, a bridge with its temperature to 0.6 %, a plate's amperes to 5 %. */
function asMeasured({ record, nameplate }: Sound, next: () => number): Sound {
  const about = (share: number) => 1 + share * (2 * next() - 1);
  return {
    record: {
      ...record,
      copperKg: (record.copperKg ?? 0) * about(0.008),
      resistanceOhm: (record.resistanceOhm ?? 0) * about(0.006),
    },
    nameplate: { ...nameplate, currentsA: [(nameplate.currentsA?.[0] ?? 0) * about(0.05)] },
  };
}

const machines: Sound[] = [];
beforeAll(() => {
  const next = stream(20261128);
  const of = <T>(list: readonly T[]): T => list[Math.floor(next() * list.length)] as T;
  while (machines.length < 200) {
    const made = soundMachine({
      poles: of([2, 4, 6, 8, 10]),
      slots: of([24, 27, 36, 45, 48, 54, 60, 72, 84]),
      kilowatt: of([0.75, 1.5, 3, 5.5, 11, 22, 45, 90]),
      wye: next() < 0.5,
      circuitPick: Math.floor(next() * 20),
      gap: 0.7 + 0.18 * next(),
      skip: next() < 0.5,
    });
    if (made) machines.push(asMeasured(made, next));
  }
});

type Slip = (x: Sound) => Sound | undefined;
const ofRecord =
  (change: (r: ThreePhaseRecord) => Partial<ThreePhaseRecord> | undefined): Slip =>
  ({ record, nameplate }) => {
    const changed = change(record);
    return changed && { record: { ...record, ...changed }, nameplate };
  };
const turns = (by: number): Slip =>
  ofRecord((r) => {
    const t = Math.round((r.turns?.[0] ?? 0) * by);
    return t === r.turns?.[0] ? undefined : { turns: [t], turnsSecondCount: [t] };
  });
const wire = (by: number): Slip =>
  ofRecord((r) => ({ strands: (r.strands ?? []).map((s) => ({ ...s, bareM: s.bareM * by })) }));
const output =
  (by: number): Slip =>
  ({ record, nameplate }) => ({
    record,
    nameplate: { ...nameplate, outputW: (nameplate.outputW ?? 0) * by },
  });

const SLIPS: readonly (readonly [string, Slip])[] = [
  [
    'span one short',
    ofRecord((r) => ((r.spansSlots?.[0] ?? 0) > 2 ? { spansSlots: [(r.spansSlots?.[0] ?? 0) - 1] } : undefined)),
  ],
  ['span one long', ofRecord((r) => ({ spansSlots: [(r.spansSlots?.[0] ?? 0) + 1] }))],
  ['turns −10 %', turns(0.9)],
  ['turns +10 %', turns(1.1)],
  ['turns halved', turns(0.5)],
  ['wire −15 %', wire(0.85)],
  ['wire one size off (−6 %)', wire(0.94)],
  ['kW typed for hp', output(1 / 0.7457)],
  ['hp typed for kW', output(0.7457)],
  [
    'circuits doubled',
    ofRecord((r) => ({
      circuits: 2 * (r.circuits ?? 1),
      endsPerLead: undefined,
      endsPerStar: undefined,
      wireTipsPerLead: undefined,
    })),
  ],
  ['poles for pairs', ofRecord((r) => ((r.poles ?? 0) % 4 === 0 ? { poles: (r.poles ?? 4) / 2 } : undefined))],
  [
    'wye for delta',
    ofRecord((r) => ({
      connection: r.connection === 'wye' ? 'delta' : 'wye',
      endsPerLead: undefined,
      endsPerStar: undefined,
      starPoints: undefined,
      wireTipsPerLead: undefined,
    })),
  ],
  [
    'one wire in hand too few',
    ofRecord((r) =>
      (r.strands?.[0]?.count ?? 1) > 1
        ? { strands: (r.strands ?? []).map((s) => ({ ...s, count: s.count - 1 })), wireTipsPerLead: undefined }
        : undefined,
    ),
  ],
  ['core length in inch', ofRecord((r) => ({ coreLengthM: (r.coreLengthM ?? 0) / 25.4 }))],
  ['coils miscounted', ofRecord((r) => ({ coilCount: (r.coilCount ?? 0) - 1 }))],
];

/** Checks that speak of a wrong record and were silent of the sound one. */
const speaks = (x: Sound): string[] => checkRecord(x.record, x.nameplate).map((f) => `${f.check} ${f.message}`);
const checksOf = (x: Sound): Set<string> => new Set(checkRecord(x.record, x.nameplate).map((f) => f.check));

describe('slips among 200 sound machines, measured as at a bench', () => {
  it('sound records are silent: at least 19 of 20 without a warning, hardly any asked about', () => {
    const warned = machines.filter((m) => checkRecord(m.record, m.nameplate).some((f) => f.severity !== 'I'));
    expect(warned.map(speaks)).toHaveLength(0);
    const asked = machines.filter((m) => [...checksOf(m)].some((c) => c !== 'slot-combination'));
    expect(asked.length / machines.length, JSON.stringify(asked.slice(0, 3).map(speaks))).toBeLessThanOrEqual(0.05);
  });
  it('of all slips at least 95 % are caught, and of each kind at least 85 %', () => {
    // a share of the machines by the way, all of them in test:long
    const some = machines.slice(0, draws(40)).map((m) => ({ m, before: checksOf(m) }));
    const rates = SLIPS.map(([name, slip]) => {
      let tried = 0;
      let caught = 0;
      for (const { m, before } of some) {
        const wrong = slip(m);
        if (!wrong) continue;
        tried += 1;
        if ([...checksOf(wrong)].some((c) => !before.has(c))) caught += 1;
      }
      return { name, tried, rate: caught / tried };
    });
    const all = rates.reduce((n, r) => n + r.rate * r.tried, 0) / rates.reduce((n, r) => n + r.tried, 0);
    const table = rates.map((r) => `${r.name}: ${(100 * r.rate).toFixed(1)} % of ${r.tried}`).join('; ');
    for (const r of rates) expect(r.rate, table).toBeGreaterThanOrEqual(0.85);
    expect(all, table).toBeGreaterThanOrEqual(0.95);
    if (process.env['NORTHER_TELL']) process.stdout.write(`${table}; all ${(100 * all).toFixed(2)} %\n`);
  }, 300_000);
});

describe('mass and resistance together', () => {
  it('give area and length back, each without the other', () => {
    const areaM2 = 1.2e-6;
    const lengthM = 760;
    const [rho, density] = [1e-6 / 58, 8890];
    for (const [phases, circuits] of [
      [3, 1],
      [3, 2],
      [3, 4],
      [1, 1],
    ] as const) {
      const made = copperTogether({
        massKg: density * areaM2 * lengthM,
        phaseOhm20: (rho * lengthM) / (phases * circuits ** 2 * areaM2),
        circuits,
        phases,
        densityKgM3: density,
        resistivityOhmM: rho,
      });
      expect(made.areaM2).toBeCloseTo(areaM2, 12);
      expect(made.lengthM).toBeCloseTo(lengthM, 9);
    }
  });
  it.each([
    [0.1, 4, 0.4],
    [0.75, 4, 0.57],
    [7.5, 4, 0.75],
    [200, 4, 0.85],
    [400, 2, 0.88],
    [7.5, 2, 0.78],
    [7.5, 6, 0.7],
    [7.5, 8, 0.66],
    [7.5, 12, 0.62],
  ])('%d kW with %i poles usually has %d', (kW, poles, product) =>
    expect(usualProduct(kW, poles)).toBeCloseTo(product, 9),
  );
});

describe('limits of what is known together', () => {
  const first = () => machines[0] as Sound;
  const off = (more: Partial<ThreePhaseRecord>, limits = {}) =>
    checkRecord({ ...first().record, ...more }, first().nameplate, limits)
      .filter((f) => f.check === 'copper-together')
      .map((f) => f.severity)
      .join('');
  it('asks above 3 %, warns above 6 %, of the wire and of the length', () => {
    // area goes with √(m/R), length with √(m R): one of them is moved by moving both
    const { copperKg = 1, resistanceOhm = 1 } = first().record;
    const area = (by: number) => off({ copperKg: copperKg * by, resistanceOhm: resistanceOhm / by });
    const length = (by: number) => off({ copperKg: copperKg * by, resistanceOhm: resistanceOhm * by });
    expect([area(1.045), area(1.08), length(1.045), length(1.08)]).toEqual(['I', 'W', 'I', 'W']);
    expect([area(1), length(1)]).toEqual(['', '']);
    expect(
      off({ copperKg: copperKg * 1.05, resistanceOhm: resistanceOhm * 1.05 }, { 'winding.togetherAskPercent': 9 }),
    ).toBe('');
  });
  const product = (by: number, plate = {}) =>
    checkRecord(first().record, {
      ...first().nameplate,
      currentsA: [(first().nameplate.outputW ?? 0) / (Math.sqrt(3) * 400 * by)],
      ...plate,
    }).some((f) => f.check === 'output-together');
  it('output beyond 22 % of what such motors have, beyond 12 % of the plate’s own figures', () => {
    const usual = usualProduct((first().nameplate.outputW ?? 0) / 1000, first().record.poles ?? 4);
    expect([usual * 1.219, usual / 1.219, usual * 1.221, usual / 1.221].map((p) => product(p))).toEqual([
      false,
      false,
      true,
      true,
    ]);
    const plate = { efficiencyPercent: 90, powerFactor: 0.8 };
    expect([0.72 * 1.119, 0.72 * 1.121, 0.72 / 1.119, 0.72 / 1.121].map((p) => product(p, plate))).toEqual([
      false,
      true,
      false,
      true,
    ]);
  });
  it('full pitch in two layers asks for a recount; a tooth coil, a single layer and a shorter span do not', () => {
    const said = (more: object) =>
      checkRecord(
        {
          kind: 'three-phase',
          slots: 36,
          poles: 4,
          layers: 'double',
          form: 'lap',
          spansSlots: [9],
          ...more,
        } as ThreePhaseRecord,
        {},
      ).some((f) => f.check === 'full-pitch');
    expect([said({}), said({ spansSlots: [8] }), said({ layers: 'single' }), said({ form: 'concentric' })]).toEqual([
      true,
      false,
      false,
      false,
    ]);
  });
});
