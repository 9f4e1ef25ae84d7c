import { describe, expect, it } from 'vitest';
import { LAP, saidOfRecord as said } from '../../../../scripts/testing/recordChecks.ts';

const SINGLE = { layers: 'single', form: 'lap', spansSlots: [9], circuits: 1 };
const CONCENTRIC = {
  slots: 24,
  poles: 4,
  layers: 'single',
  form: 'concentric',
  spansSlots: [7, 5],
  circuits: 1,
  poleGroups: 'consequent',
};

describe('what was counted', () => {
  it('a sound record says nothing of it', () => {
    for (const name of [
      'layout',
      'coils-slots',
      'groups-poles',
      'group-sum',
      'phase-sum',
      'grouping',
      'feasible',
      'speed',
      'nameplate-poles',
      'span',
      'span-count',
      'graded-turns',
      'second-count',
      'circuits',
      'wires-ends',
      'ends-connection',
      'star-points',
      'leads',
    ])
      expect(
        said(
          name,
          {
            coilCount: 36,
            groupCount: 12,
            grouping: Array.from({ length: 12 }, () => 3),
            endsPerLead: 2,
            wireTipsPerLead: 4,
            starPoints: 1,
            endsPerStar: 6,
          },
          { speedRpm: 1455, frequencyHz: 50, poles: 4, voltagesV: [400] },
        ),
        name,
      ).toEqual([]);
  });
  it.each([
    [{ coilCount: 36 }, undefined],
    [
      { coilCount: 35 },
      /^E coilCount,slots,layers: 35 coils counted; 36 slots with two coil sides in a slot hold 36\. 2 coil sides would be missing/,
    ],
    [{ coilCount: 37 }, /37 coils counted.*Recount coils, slots and layers\.$/],
    [{ ...SINGLE, coilCount: 18 }, undefined],
    [{ ...SINGLE, coilCount: 36 }, /one coil side in a slot hold 18\. Recount/],
  ] as const)('coils, %j', (more, wanted) => {
    const got = said('coils-slots', more);
    if (wanted) expect(got[0]).toMatch(wanted);
    else expect(got).toEqual([]);
  });
  it.each([
    [{ groupCount: 12 }, undefined],
    [
      { groupCount: 6 },
      /^E groupCount,poles: 6 groups counted; this winding with 4 poles has 12\. Half as many groups: is it consequent pole/,
    ],
    [{ groupCount: 18 }, /18 groups would fit 6 poles\.$/],
    [{ groupCount: 9 }, /the number must be a multiple of three\.$/],
    [{ groupCount: 13 }, /multiple of three/],
    [{ groupCount: 6, poleGroups: 'consequent' }, undefined],
  ] as const)('groups, %j', (more, wanted) => {
    const got = said('groups-poles', more);
    if (wanted) expect(got[0]).toMatch(wanted);
    else expect(got).toEqual([]);
  });
  const g = (...list: number[]) => ({ grouping: list });
  it.each([
    [g(3, 3, 3, 3, 3, 3, 3, 3, 3, 3, 3, 3), undefined],
    [
      g(3, 3, 3, 3, 3, 3, 3, 3, 3, 3, 3, 4),
      /^E grouping,coilCount: The groups 3-3-3-3-3-3-3-3-3-3-3-4 add up to 37 coils, but there are 36\.$/,
    ],
    [g(37), undefined],
    [{ ...g(3, 3, 3), coilCount: 9 }, undefined],
    [{ ...g(3, 3, 3), coilCount: 10 }, /add up to 9 coils, but there are 10/],
  ] as const)('groups add up, %j', (more, wanted) => {
    const got = said('group-sum', more);
    if (wanted) expect(got[0]).toMatch(wanted);
    else expect(got).toEqual([]);
  });
  it('every phase owns the same coils', () => {
    expect(said('phase-sum', g(3, 3, 3, 3, 3, 3))).toEqual([]);
    expect(said('phase-sum', g(4, 3, 2, 3, 3, 3))[0]).toMatch(
      /^E grouping,slots,poles: The phases own 7, 6, 5 coils; they must be equal\.$/,
    );
    // four in a row are no groups of three phases: the layout speaks
    expect(said('phase-sum', g(4, 3, 2, 3))).toEqual([]);
    expect(said('phase-sum', { slots: 30, poles: 4, spansSlots: [6], grouping: undefined })).toEqual([]);
  });
  it('the sequence of unequal groups may begin anywhere and run either way', () => {
    const thirty = { slots: 30, poles: 4, spansSlots: [6], circuits: 1 };
    const regular = [3, 2, 3, 2, 3, 2, 3, 2, 3, 2, 3, 2];
    expect(said('grouping', { ...thirty, grouping: regular })).toEqual([]);
    expect(said('grouping', { ...thirty, grouping: [...regular.slice(1), 3] })).toEqual([]);
    expect(said('grouping', { ...thirty, grouping: [3, 3, 2, 2, 3, 2, 3, 2, 3, 2, 3, 2] })[0]).toMatch(
      /^W grouping: The sequence .* nor a rotation or mirror image of it: the phases would differ by [\d.]+ % and [\d.]+° \(negative sequence [\d.]+ %\)\.$/,
    );
    expect(said('grouping', { ...thirty, grouping: [3, 2] })).toEqual([]);
  });
  it('slots that cannot make three equal phases', () => {
    expect(said('feasible', { slots: 36, poles: 4 })).toEqual([]);
    expect(said('feasible', { slots: 32, poles: 4, spansSlots: [7] })[0]).toMatch(
      /^W slots,poles: 32 slots cannot make three equal phases with 4 poles \(slots must divide by \d+\)\. These can: .*30.* slots with 4 poles.*Recount slots and poles\.$/,
    );
    expect(said('feasible', { slots: undefined })).toEqual([]);
    expect(said('feasible', { poles: undefined })).toEqual([]);
    expect(said('feasible', { kind: 'single-phase', slots: 32, poles: 4 })).toEqual([]);
  });
  it.each([
    [1500, 50, {}, undefined],
    [1305, 50, {}, undefined],
    [1304, 50, {}, /^E poles: 4 poles at 50 Hz turn at 1500 r\/min without load, the plate says 1304 \(slip 13\.1 %\)/],
    [1501, 50, {}, /^E poles/],
    [2900, 50, { poles: 4 }, /2 poles would fit \(slip 3\.33 %\)\.$/],
    [1455, 50, { poles: 2 }, /4 poles would fit \(slip 3 %\): were pole pairs counted\?$/],
    // two speeds: the plate may say either
    [1455, 50, { kind: 'two-speed', poles: 8 }, undefined],
    [720, 50, { kind: 'two-speed', poles: 8 }, undefined],
    [1306, 50, { kind: 'two-speed', poles: 8 }, undefined],
    [1304, 50, { kind: 'two-speed', poles: 8 }, /^E poles/],
    [1501, 50, { kind: 'two-speed', poles: 8 }, /^E poles/],
    [undefined, 50, { poles: 2 }, undefined],
    [1455, undefined, { poles: 2 }, undefined],
    [2900, 50, { poles: undefined }, undefined],
  ] as const)('%s r/min at %s Hz, %j', (speedRpm, frequencyHz, more, wanted) => {
    const got = said('speed', more, { ...(speedRpm ? { speedRpm } : {}), ...(frequencyHz ? { frequencyHz } : {}) });
    if (wanted) expect(got[0]).toMatch(wanted);
    else expect(got).toEqual([]);
  });
  it('a magnet machine turns exactly with its supply', () => {
    const of = (speedRpm: number) =>
      said('speed', { poles: 4 }, { speedRpm, frequencyHz: 50, machine: 'permanent magnet' });
    expect([of(1500), of(1507.5), of(1492.5)]).toEqual([[], [], []]);
    expect(of(1508)[0]).toMatch(
      /^W poles: 4 poles at 50 Hz turn at exactly 1500 r\/min, the plate says 1508: not synchronous\. Wrong poles or frequency\? 50\.27 Hz would agree\.$/,
    );
    expect(of(1492)).toHaveLength(1);
  });
  it('poles of winding and plate', () => {
    expect(said('nameplate-poles', {}, { poles: 6 })[0]).toBe(
      'W poles: 4 poles in the winding, 6 on the nameplate sheet.',
    );
    expect(said('nameplate-poles', {}, { poles: 4 })).toEqual([]);
    expect(said('nameplate-poles', { kind: 'two-speed', poles: 8 }, { poles: 4 })).toEqual([]);
    expect(said('nameplate-poles', { kind: 'two-speed', poles: 8 }, { poles: 8 })).toEqual([]);
    expect(said('nameplate-poles', { kind: 'two-speed', poles: 8 }, { poles: 6 })).toHaveLength(1);
    expect(said('nameplate-poles', { poles: undefined }, { poles: 6 })).toEqual([]);
    expect(said('nameplate-poles', {}, {})).toEqual([]);
  });
  it('second count: missing, differing, one for all', () => {
    expect(said('second-count', { turnsSecondCount: undefined })[0]).toMatch(
      /^I turnsSecondCount: Count the turns of another coil/,
    );
    expect(said('second-count', { turnsSecondCount: [21] })[0]).toMatch(
      /^E turns,turnsSecondCount: First count 20, second count 21: they differ/,
    );
    const three = { ...CONCENTRIC, turns: [30, 28] };
    expect(said('second-count', { ...three, turnsSecondCount: [30, 28] })).toEqual([]);
    expect(said('second-count', { ...three, turnsSecondCount: [30, 27] })).toHaveLength(1);
    expect(said('second-count', { ...three, turnsSecondCount: [30] })).toHaveLength(1);
    expect(said('second-count', { ...three, turns: [30], turnsSecondCount: [30, 30] })).toEqual([]);
    expect(said('second-count', { turns: undefined })).toEqual([]);
  });
});

describe('spans', () => {
  it.each([
    [{ spansSlots: [9] }, undefined],
    [{ spansSlots: [6] }, undefined],
    // 60 and 66.67 % of nine slots
    [{ slots: 60, spansSlots: [10] }, undefined],
    [
      { slots: 60, spansSlots: [9] },
      /^W spansSlots: Mean span 9 slots is 60 % of the pole pitch 15 \(k_p 0\.809\); 67 to 100 % is usual\.$/,
    ],
    [
      { slots: 60, spansSlots: [8] },
      /^W spansSlots: Mean span 8 slots is only 53\.3 % of the pole pitch 15 .*below 60 % is used only for two speeds\.$/,
    ],
    [
      { spansSlots: [10] },
      /^W spansSlots: Mean span 10 slots is longer than the pole pitch of 9 \(k_p 0\.9848\)\. Was 1-10 meant\? That spans 9\.$/,
    ],
    [{ spansSlots: [11] }, /longer than the pole pitch of 9 \(k_p 0\.9397\)\.$/],
    [{ ...SINGLE, spansSlots: [9] }, undefined],
    [
      { ...SINGLE, spansSlots: [8] },
      /^E spansSlots: A span of 8 slots \(1-9\) is even: a single-layer lap coil needs an odd span, 1-8 or 1-10\.$/,
    ],
    [{ ...SINGLE, spansSlots: [8], poleGroups: 'consequent' }, undefined],
    [{ slots: 12, poles: 10, spansSlots: [1] }, undefined],
    [CONCENTRIC, undefined],
    [
      { ...CONCENTRIC, spansSlots: [9, 7] },
      /^W spansSlots: The spans 1-10, 2-9 do not fill the belts of this core; 1-8, 2-7 would\.$/,
    ],
    [{ ...CONCENTRIC, spansSlots: [5, 7] }, undefined],
    [{ kind: 'single-phase', slots: 24, poles: 4, spansSlots: [6, 4, 2] }, undefined],
    [
      { kind: 'single-phase', slots: 24, poles: 4, spansSlots: [7, 5] },
      /^W spansSlots: The outer coil 1-8 is longer than the pole pitch of 6 slots; 1-7 is the longest/,
    ],
    // two speeds: half to all of the pitch at the low pole number
    [{ kind: 'two-speed', slots: 36, poles: 8, spansSlots: [5] }, undefined],
    [{ kind: 'two-speed', slots: 36, poles: 8, spansSlots: [9] }, undefined],
    [
      { kind: 'two-speed', slots: 36, poles: 8, spansSlots: [4] },
      /^W spansSlots: Span 4 slots; a two-speed winding takes 50 to 100 % of the pole pitch at the low pole number, 4\.5 to 9 slots\. Winding factors here: 0\.\d+ at 8 poles, 0\.\d+ at 4\.$/,
    ],
    [{ kind: 'two-speed', slots: 36, poles: 8, spansSlots: [10] }, /takes 50 to 100 %/],
    [{ poles: undefined }, undefined],
    [{ slots: undefined, spansSlots: [30] }, undefined],
    [{ spansSlots: undefined }, undefined],
  ] as const)('%j', (more, wanted) => {
    const got = said('span', more);
    if (wanted) expect(got[0]).toMatch(wanted);
    else expect(got).toEqual([]);
  });
  it('the usual and the least span are the shop’s', () => {
    const nine = { slots: 60, spansSlots: [9] };
    expect(said('span', nine, {}, { 'winding.spanUsualPercent': 60 })).toEqual([]);
    expect(said('span', nine, {}, { 'winding.spanLowPercent': 61 })[0]).toMatch(/below 61 %/);
  });
  it('as many spans as coils, turns not rising inwards', () => {
    expect(said('span-count', CONCENTRIC)).toEqual([]);
    expect(said('span-count', { ...CONCENTRIC, spansSlots: [9, 7, 5] })[0]).toMatch(
      /^W spansSlots: 3 spans were typed; a group of this winding has 2 coils\.$/,
    );
    expect(said('span-count', { ...CONCENTRIC, spansSlots: [7] })).toEqual([]);
    expect(said('graded-turns', { ...CONCENTRIC, turns: [30, 28] })).toEqual([]);
    expect(said('graded-turns', { ...CONCENTRIC, turns: [28, 30] })[0]).toMatch(
      /^W turns: Turns 28, 30 from the outer coil in: coil 2 has more/,
    );
    expect(said('graded-turns', { ...CONCENTRIC, turns: [30] })).toEqual([]);
    const single = { kind: 'single-phase', slots: 24, poles: 4, strands: LAP.strands };
    // an outer coil of full pitch shares its slots with the neighbour pole
    expect(said('graded-turns', { ...single, spansSlots: [6, 4, 2], turns: [20, 35, 30] })).toEqual([]);
    expect(said('graded-turns', { ...single, spansSlots: [6, 4, 2], turns: [20, 30, 35] })).toHaveLength(1);
    expect(said('graded-turns', { ...single, spansSlots: [5, 3], turns: [20, 35] })).toHaveLength(1);
  });
});
