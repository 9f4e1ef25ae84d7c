import fc from 'fast-check';
import { draws } from '../../../../scripts/testing/draws.ts';
import { describe, expect, it } from 'vitest';
import { soundMachine, type Sound } from '../../../../scripts/testing/soundMachine.ts';
import type { Nameplate } from '../machine/nameplate.ts';
import { checkRecord } from './checks.ts';
import type { ThreePhaseRecord } from './record.ts';

const sound = fc
  .record({
    poles: fc.constantFrom(2, 4, 6, 8, 10, 12),
    slots: fc.constantFrom(24, 27, 30, 36, 42, 45, 48, 54, 60, 72, 84, 90, 96),
    kilowatt: fc.constantFrom(0.75, 1.5, 3, 5.5, 11, 22, 45, 90),
    wye: fc.boolean(),
    circuitPick: fc.nat(20),
    gap: fc.double({ min: 0.7, max: 0.88, noNaN: true }),
    skip: fc.boolean(),
  })
  .map(soundMachine)
  .filter((m): m is Sound => m !== undefined);
const against = (record: ThreePhaseRecord, nameplate: Nameplate) =>
  checkRecord(record, nameplate).filter((f) => f.severity !== 'I');
const say = (list: { check: string; message: string }[]) => list.map((f) => `${f.check}: ${f.message}`);

describe('checks on sound machines', () => {
  it('never fire', () => {
    fc.assert(
      fc.property(sound, ({ record, nameplate }) => {
        expect(say(against(record, nameplate))).toEqual([]);
      }),
      { numRuns: draws(300) },
    );
  });
});

const INCH = 25.4;
/** One slip each, as it happens at the bench, and what must notice it. */
const SLIPS: [string, (r: ThreePhaseRecord) => ThreePhaseRecord | undefined, string[]][] = [
  [
    'poles for pairs',
    (r) => (r.poles && r.poles >= 4 && r.poles % 4 === 0 ? { ...r, poles: r.poles / 2 } : undefined),
    ['speed', 'nameplate-poles', 'groups-poles'],
  ],
  [
    'wires for ends',
    (r) => ((r.strands?.[0]?.count ?? 1) > 1 ? { ...r, endsPerLead: r.wireTipsPerLead } : undefined),
    ['wires-ends', 'ends-connection'],
  ],
  [
    'inch for millimetre, bore and length',
    (r) => ({ ...r, boreM: (r.boreM ?? 0) / INCH, coreLengthM: (r.coreLengthM ?? 0) / INCH }),
    ['unit-length', 'flux-density'],
  ],
  [
    'inch for millimetre, tooth',
    (r) => ({ ...r, toothWidthM: (r.toothWidthM ?? 0) / INCH }),
    ['unit-length', 'flux-density'],
  ],
  [
    'one group uneven',
    (r) => ({ ...r, grouping: r.grouping?.map((n, i) => (i === 0 ? n + 1 : i === 1 ? n - 1 : n)) }),
    ['phase-sum', 'grouping'],
  ],
  [
    'turns halved',
    (r) =>
      (r.turns?.[0] ?? 1) % 2 === 0
        ? { ...r, turns: [(r.turns?.[0] ?? 2) / 2], turnsSecondCount: [(r.turns?.[0] ?? 2) / 2] }
        : undefined,
    ['flux-density', 'copper-mass', 'resistance'],
  ],
  ['coils miscounted', (r) => ({ ...r, coilCount: (r.coilCount ?? 0) - 1 }), ['coils-slots', 'group-sum']],
  ['groups halved', (r) => ({ ...r, groupCount: (r.groupCount ?? 2) / 2 }), ['groups-poles']],
  ['circuits that do not divide', (r) => ({ ...r, circuits: 7, endsPerLead: undefined }), ['circuits']],
  [
    'delta read for wye',
    (r) => (r.connection === 'wye' ? { ...r, connection: 'delta' } : undefined),
    ['ends-connection', 'star-points'],
  ],
  ['second count differs', (r) => ({ ...r, turnsSecondCount: [(r.turns?.[0] ?? 0) + 1] }), ['second-count']],
  ['core length in half', (r) => ({ ...r, copperKg: (r.copperKg ?? 0) * 0.7 }), ['copper-mass']],
];

describe('one planted slip', () => {
  it.each(SLIPS)('%s is noticed', (_, slip, checks) => {
    let tried = 0;
    fc.assert(
      fc.property(sound, ({ record, nameplate }) => {
        const wrong = slip(record);
        fc.pre(wrong !== undefined);
        tried += 1;
        const found = against(wrong as ThreePhaseRecord, nameplate).map((f) => f.check);
        expect(
          found.some((c) => checks.includes(c)),
          say(against(wrong as ThreePhaseRecord, nameplate)).join(' | '),
        ).toBe(true);
      }),
      { numRuns: draws(60) },
    );
    expect(tried).toBeGreaterThan(20);
  });
  it('a span one off the pole pitch is noticed, and what was meant is said', () => {
    fc.assert(
      fc.property(sound, ({ record, nameplate }) => {
        // full pitch: "1-N" typed for a span of N makes it one too long
        const pitch = Math.floor((record.slots ?? 0) / (record.poles ?? 1));
        const wrong = { ...record, spansSlots: [pitch + 1], copperKg: undefined, resistanceOhm: undefined };
        const found = checkRecord(wrong, nameplate).find((f) => f.check === 'span');
        expect(found?.message).toMatch(new RegExp(`Was 1-${pitch + 1} meant`));
      }),
      { numRuns: draws(100) },
    );
  });
  it('a span one off within the usual range shows only in copper and resistance, when it shows', () => {
    let noticed = 0;
    let all = 0;
    fc.assert(
      fc.property(sound, ({ record, nameplate }) => {
        fc.pre((record.slots ?? 0) / (record.poles ?? 1) <= 6);
        const wrong = { ...record, spansSlots: [(record.spansSlots?.[0] ?? 1) - 1] };
        all += 1;
        if (checkRecord(wrong, nameplate).some((f) => ['span', 'copper-mass', 'resistance'].includes(f.check)))
          noticed += 1;
      }),
      { numRuns: draws(100) },
    );
    expect(noticed / all).toBeGreaterThan(0.8);
  });
  it('several errors of one slip are traced to the one change that mends them', () => {
    let proposed = 0;
    let all = 0;
    fc.assert(
      fc.property(sound, ({ record, nameplate }) => {
        fc.pre((record.poles ?? 0) % 4 === 0);
        const wrong = { ...record, poles: (record.poles ?? 4) / 2 };
        const found = checkRecord(wrong, nameplate).filter((f) => f.check === 'as-found-odd');
        all += 1;
        if (found.some((f) => f.proposal?.changes['poles'] === String(record.poles))) proposed += 1;
      }),
      { numRuns: draws(60) },
    );
    expect(proposed / all).toBeGreaterThan(0.95);
  });
  it('a sound record gets no proposal', () => {
    fc.assert(
      fc.property(sound, ({ record, nameplate }) => {
        expect(checkRecord(record, nameplate).some((f) => f.check === 'as-found-odd')).toBe(false);
      }),
      { numRuns: draws(60) },
    );
  });
  it('a slip in a record at the edge of what a record may hold raises no exception', () => {
    // 1200 turns: doubled they would pass the largest count a record holds, so that change is no proposal
    fc.assert(
      fc.property(sound, fc.constantFrom(1200, 2000), ({ record, nameplate }, turns) => {
        const wrong = { ...record, turns: [turns], turnsSecondCount: [turns], poles: (record.poles ?? 4) / 2 };
        fc.pre(wrong.poles % 2 === 0);
        expect(checkRecord(wrong, nameplate).length).toBeGreaterThan(0);
      }),
      { numRuns: draws(60) },
    );
  });
});
