import { describe, expect, it } from 'vitest';
import { LAP, lapRecord as record, saidOfRecord as said } from '../../../../scripts/testing/recordChecks.ts';
import { neededToVerify, windingChecks } from './checks.ts';

const CONCENTRIC = {
  slots: 24,
  poles: 4,
  layers: 'single',
  form: 'concentric',
  spansSlots: [7, 5],
  circuits: 1,
  poleGroups: 'consequent',
};

describe('circuits, ends, stars, leads', () => {
  it.each([
    [{ circuits: 1 }, undefined],
    [{ circuits: 4 }, undefined],
    [{ circuits: 3 }, /^E circuits: 3 circuits would not be equal in this winding; 1, 2, 4 would\.$/],
    [{ circuits: undefined }, undefined],
    [{ leads: '9', circuits: 2 }, undefined],
    [
      { leads: '9', circuits: 4 },
      /^E circuits: 4 circuits in each half would not be equal in this winding; 1, 2 would\.$/,
    ],
    [
      { ...CONCENTRIC, poles: 2, slots: 12, leads: '9', spansSlots: [5, 3] },
      /cannot be brought out in two equal halves/,
    ],
  ] as const)('circuits, %j', (more, wanted) => {
    const got = said('circuits', more);
    if (wanted) expect(got[0]).toMatch(wanted);
    else expect(got).toEqual([]);
  });
  it('jumpers that make no equal circuits', () => {
    const three = { slots: 27, poles: 6, spansSlots: [4], circuits: 3 };
    expect(said('circuits', { ...three, jumper: 'adjacent-pole' })).toEqual([]);
    expect(said('circuits', { ...three, jumper: 'skip-pole' })).toEqual([
      'E circuits,jumper: 3 circuits work here only with adjacent-pole jumpers.',
    ]);
    expect(said('circuits', { circuits: 1, jumper: 'adjacent-pole' })).toEqual([]);
  });
  it.each([
    [{ wireTipsPerLead: 4, endsPerLead: 2 }, undefined],
    [
      { wireTipsPerLead: 5, endsPerLead: 2 },
      /^E wireTipsPerLead,endsPerLead,strands: 5 wire tips at a lead, but 2 ends of 2 wires in hand make 4\.$/,
    ],
    [{ wireTipsPerLead: 4, endsPerLead: 4 }, /make 8\. Were wires counted instead of ends\?$/],
    [{ wireTipsPerLead: 4 }, undefined],
    [{ endsPerLead: 4 }, undefined],
    [{ wireTipsPerLead: 5, endsPerLead: 2, strands: undefined }, undefined],
  ] as const)('wire tips, %j', (more, wanted) => {
    const got = said('wires-ends', more);
    if (wanted) expect(got[0]).toMatch(wanted);
    else expect(got).toEqual([]);
  });
  it.each([
    [{ endsPerLead: 2 }, undefined],
    [
      { endsPerLead: 4 },
      /^E endsPerLead,connection,circuits: 4 ends at a lead do not make 2-circuit wye; they make 2-circuit delta or 4-circuit wye\.$/,
    ],
    [{ endsPerLead: 4, connection: 'delta' }, undefined],
    [{ endsPerLead: 4, circuits: 4 }, undefined],
    [
      { endsPerLead: 5 },
      /^E endsPerLead: 5 ends at a lead fit no connection of this winding\. Recount: were wires counted instead of ends\?$/,
    ],
    [{ endsPerLead: 5, strands: [{ count: 1, bareM: 0.001, label: '' }] }, /Recount\.$/],
    [{ endsPerLead: 4, connection: undefined }, /^I endsPerLead: 4 ends at a lead mean /],
    [{ endsPerLead: 4, circuits: undefined }, /^I endsPerLead: 4 ends at a lead mean /],
    [{ endsPerLead: 2, leads: '6', connection: undefined }, undefined],
    [{ endsPerLead: 1, leads: '6' }, /^E .*do not make 2-circuit phases; they make /],
    [{}, undefined],
  ] as const)('ends at a lead, %j', (more, wanted) => {
    const got = said('ends-connection', more);
    if (wanted) expect(got[0]).toMatch(wanted);
    else expect(got).toEqual([]);
  });
  it.each([
    [{ starPoints: 1, endsPerStar: 6 }, undefined],
    [{ starPoints: 2, endsPerStar: 3 }, undefined],
    [
      { starPoints: 1, endsPerStar: 3 },
      /^E starPoints,endsPerStar: 3 ends lie in star points inside; 2-circuit wye with 3 leads has 6\.$/,
    ],
    [{ starPoints: 0 }, /^E .*0 ends lie in star points inside/],
    [{ starPoints: 0, connection: 'delta' }, undefined],
    [{ starPoints: 1, endsPerStar: 3, connection: 'delta' }, /2-circuit delta with 3 leads has 0/],
    [{ starPoints: 0, leads: '6' }, undefined],
    [{ starPoints: 1, endsPerStar: 6, leads: '6' }, /with 6 leads has 0/],
    [{ starPoints: 0, leads: '12' }, undefined],
    [{ starPoints: 1, endsPerStar: 6, leads: '9' }, undefined],
    [{ starPoints: 2, endsPerStar: 6, leads: '6 part-winding', connection: undefined }, undefined],
    [
      { starPoints: 1, endsPerStar: 6, leads: '6 part-winding', connection: undefined },
      /with 6 part-winding leads has 12/,
    ],
    [{ starPoints: 1 }, undefined],
    [{ starPoints: 1, endsPerStar: 5, circuits: undefined }, undefined],
    [{ starPoints: 1, endsPerStar: 5, connection: undefined }, undefined],
  ] as const)('stars, %j', (more, wanted) => {
    const got = said('star-points', more);
    if (wanted) expect(got[0]).toMatch(wanted);
    else expect(got).toEqual([]);
  });
  it.each([
    [[230, 460], '9', true],
    [[230, 460], '12', true],
    [[230, 460], '6', false],
    [[230, 400], '6', true],
    [[230, 400], '12', true],
    [[230, 400], '9', false],
    [[400], '9', true],
    [[400, 500], '3', true],
    [[100, 205.9], '3', false],
    [[100, 206.1], '3', true],
    [[100, 165.3], '3', false],
    [[100, 165.1], '3', true],
  ] as const)('%j V with %s leads: fits %s', (voltagesV, leads, fits) => {
    const got = said('leads', { leads, circuits: 1 }, { voltagesV: [...voltagesV] });
    expect(got.length === 0).toBe(fits);
    if (!fits)
      expect(got[0]).toMatch(/^W leads: .* V \(1 : [\d.]+\) is made with (9 or 12|6 or 12) leads; .* were counted\.$/);
  });
});

describe('single phase, two speeds, bars', () => {
  const single = {
    kind: 'single-phase',
    slots: 24,
    poles: 4,
    spansSlots: [5, 3],
    turns: [30, 20],
    strands: LAP.strands,
    auxSpansSlots: [5, 3],
    auxTurns: [40, 30],
    auxStrands: [{ count: 1, bareM: 0.0008, label: '' }],
  };
  it.each([
    [{ groupCount: 8 }, ''],
    [{ groupCount: 4 }, 'E'],
    [{ auxShiftSlots: 3 }, ''],
    [{ auxShiftSlots: 4 }, 'E'],
    [{ auxKind: 'split phase' }, ''],
    [{ auxKind: 'split phase', auxStrands: [{ count: 2, bareM: 0.001, label: '' }] }, 'W'],
    [{ auxKind: 'split phase', auxStrands: [{ count: 3, bareM: 0.001, label: '' }] }, 'W'],
    [{ auxKind: 'capacitor run' }, 'I'],
    [{ auxKind: 'capacitor run', capacitorF: 2e-5 }, ''],
    [{ poles: undefined, groupCount: 3 }, ''],
  ] as const)('main and auxiliary, %j: %s', (more, wanted) => {
    expect(
      said('main-aux', {
        ...LAP,
        layers: undefined,
        form: undefined,
        connection: undefined,
        circuits: undefined,
        leads: undefined,
        ...single,
        ...more,
      })
        .map((l) => l[0])
        .join(''),
    ).toBe(wanted);
  });
  it('their sentences', () => {
    const of = (more: object) =>
      said('main-aux', {
        ...LAP,
        layers: undefined,
        form: undefined,
        connection: undefined,
        circuits: undefined,
        leads: undefined,
        ...single,
        ...more,
      })[0];
    expect(of({ groupCount: 4 })).toBe(
      'E groupCount,poles: 4 groups counted; main and auxiliary have 8 with 4 poles. Is it consequent pole?',
    );
    expect(of({ auxShiftSlots: 4 })).toMatch(/stand 120° electrical apart \(4 slots\); 90° is 3 slots\./);
  });
  it.each([
    [8, undefined, 'I'],
    [8, 'constant torque', ''],
    [6, 'constant torque', 'E'],
  ] as const)('two speeds with %i poles for %s: %s', (poles, duty, wanted) => {
    const got = said('two-speed', {
      kind: 'two-speed',
      slots: 36,
      poles,
      spansSlots: [5],
      duty,
      connection: undefined,
    });
    expect(got.map((l) => l[0]).join('')).toBe(wanted);
    if (wanted === 'E')
      expect(got[0]).toMatch(/6 poles at the low speed would be 3 at the high speed; enter the larger pole number/);
  });
  it('bars that make no wave', () => {
    const bars = (more: object) =>
      said('bar-wave', {
        ...Object.fromEntries(Object.keys(LAP).map((k) => [k, undefined])),
        kind: 'bar-rotor',
        slots: 48,
        poles: 4,
        barsPerSlot: 2,
        ...more,
      });
    expect(bars({})).toEqual([]);
    expect(bars({ slots: 47 })[0]).toMatch(/^E farPitchSlots,slots,poles: /);
    expect(bars({ slots: 47, barsPerSlot: 4 })).toEqual([]);
    expect(bars({ poles: undefined })).toEqual([]);
  });
  it('rotor bars beside stator slots', () => {
    expect(said('slot-combination', { rotorBars: 36 })[0]).toMatch(
      /^I rotorBars: 36 slots with 36 bars: .*An existing motor is not refused for it/,
    );
    expect(said('slot-combination', { rotorBars: 36 }, { machine: 'permanent magnet' })).toEqual([]);
    expect(said('slot-combination', { rotorBars: 9 })).toEqual([]);
    expect(said('slot-combination', {})).toEqual([]);
  });
});

describe('what a record needs before it can be agreed', () => {
  const needs = (more: object) => windingChecks.compute({ record: record(more), nameplate: {}, limits: {} });
  const whole = { boreM: 0.15, coreLengthM: 0.12, leadExit: "3 o'clock", connectionSide: 'opposite end' };
  it('a whole one may be; each missing field is named; an error forbids it', () => {
    expect(needs(whole)).toMatchObject({ missing: [], verifiable: true });
    for (const field of [
      'slots',
      'poles',
      'spansSlots',
      'turns',
      'turnsSecondCount',
      'strands',
      'layers',
      'form',
      'connection',
      'circuits',
      'leads',
      'boreM',
      'coreLengthM',
      'leadExit',
      'connectionSide',
    ])
      expect(needs({ ...whole, [field]: undefined }), field).toMatchObject({ missing: [field], verifiable: false });
    expect(needs({ ...whole, turnsSecondCount: [19] })).toMatchObject({ missing: [], verifiable: false });
    expect(needs({ ...whole, leads: '6 part-winding', connection: undefined, circuits: 1 }).missing).toEqual([]);
  });
  it.each([
    ['two-speed', ['form', 'duty'], ['connection', 'leads']],
    ['bar-rotor', ['barsPerSlot', 'barWidthM', 'barHeightM'], ['spansSlots', 'turns', 'boreM']],
    ['form-wound', ['stripThicknessM', 'groundWallM', 'slotWidthM', 'slotDepthM'], ['strands']],
    ['tooth-coil', ['turns', 'layers'], ['spansSlots', 'form']],
    ['single-phase', ['spansSlots'], ['connection', 'circuits', 'auxTurns', 'layers']],
  ] as const)('%s needs %j, not %j', (kind, wanted, not) => {
    const names = neededToVerify({ kind } as never);
    for (const name of wanted) expect(names).toContain(name);
    for (const name of not) expect(names).not.toContain(name);
  });
  it('an auxiliary that is spoken of is needed whole; a list of coils instead of spans', () => {
    expect(neededToVerify({ kind: 'single-phase', auxKind: 'capacitor run' } as never)).toEqual(
      expect.arrayContaining(['auxSpansSlots', 'auxTurns', 'auxStrands', 'auxKind']),
    );
    expect(neededToVerify({ kind: 'single-phase', auxSpansSlots: [5] } as never)).toContain('auxTurns');
    expect(neededToVerify({ kind: 'three-phase', coilList: '1-9' } as never)).not.toContain('spansSlots');
    expect(neededToVerify({ kind: 'three-phase', layers: 'mixed' } as never)).toContain('sideKinds');
  });
  it('what cannot be right stands before what should be looked at, before what is for information', () => {
    const order = needs({ ...whole, coilCount: 30, turnsSecondCount: undefined, spansSlots: [10] }).findings.map(
      (finding) => finding.severity,
    );
    expect(order).toEqual([...order].sort((a, b) => 'EWI'.indexOf(a) - 'EWI'.indexOf(b)));
    expect(new Set(order).size).toBe(3);
  });
});
