import { describe, expect, it } from 'vitest';
import { worked } from '../../../../scripts/testing/worked.ts';
import { METRIC_DEFAULTS } from '../quantity/fields.ts';
import { carryOver, columnOf, readArchiveTable, similarityOf } from './archive.ts';
import { connectionOfRecord } from './connectionOfRecord.ts';
import { checkRecord } from './checks.ts';
import { windingFigures } from './figures.ts';
import { FIGURE_ROWS, sayFigure } from './figureRows.ts';
import { layoutOf } from './layout.ts';
import { inItsCore, plateOfPart, windingRotorVoltage } from './parts.ts';
import { readConnection } from './readConnection.ts';
import { windingRecordSchema, threePhaseRecord, type WindingRecord, type ThreePhaseRecord } from './record.ts';
import { coilTable, groupTable, windingFile, windingFileSchema } from './windingFile.ts';

/** docs/derivations.md 1: candidates from ends per lead, groups per phase = poles unless said. */
describe('reading a connection', () => {
  const read = (groupsPerPhase: number, endsPerLead: number, more: object = {}) =>
    readConnection({ leads: '3', endsPerLead, circuitLimit: groupsPerPhase, groupsPerPhase, ...more });
  it.each([
    [2, 1, ['1-circuit wye']],
    [2, 2, ['1-circuit delta', '2-circuit wye']],
    [2, 4, ['2-circuit delta']],
    [4, 2, ['1-circuit delta', '2-circuit wye']],
    [4, 3, []],
    [4, 4, ['2-circuit delta', '4-circuit wye']],
    [4, 8, ['4-circuit delta']],
    [6, 2, ['1-circuit delta', '2-circuit wye']],
    [6, 3, ['3-circuit wye']],
    [6, 4, ['2-circuit delta']],
    [6, 6, ['3-circuit delta', '6-circuit wye']],
    [6, 12, ['6-circuit delta']],
    [8, 4, ['2-circuit delta', '4-circuit wye']],
    [8, 6, []],
    [8, 8, ['4-circuit delta', '8-circuit wye']],
    [10, 10, ['10-circuit wye', '5-circuit delta']],
    [12, 6, ['3-circuit delta', '6-circuit wye']],
    [12, 8, ['4-circuit delta']],
  ])('%d groups a phase, %d ends: %j', (g, e, wanted) => {
    expect(
      read(g, e)
        .candidates.map((c) => c.say)
        .sort(),
    ).toEqual([...wanted].sort());
  });
  it('a star of 18 ends decides 6 poles with 6 ends for 6-circuit wye, none for 3-circuit delta', () => {
    expect(read(6, 6, { starEnds: 18 }).verdict).toBe('It is 6-circuit wye.');
    expect(read(6, 6, { starEnds: 0 }).verdict).toBe('It is 3-circuit delta.');
    expect(read(6, 6, { starEnds: 9 }).verdict).toMatch(/does not fit: look again/);
    expect(read(6, 6, { groupsInCircuit: 2 }).verdict).toBe('It is 3-circuit delta.');
    expect(read(6, 6).lookNext.join(' ')).toMatch(/18 ends in all means 6-circuit wye/);
    expect(read(6, 6).lookNext.join(' ')).toMatch(/1\.155/);
  });
  it('27 slots 6 poles: six ends leave three-circuit delta only; tips divide by strands', () => {
    expect(readConnection({ leads: '3', endsPerLead: 6, circuitLimit: 3, groupsPerPhase: 6 }).candidates).toHaveLength(
      1,
    );
    expect(
      readConnection({ leads: '3', wireTipsPerLead: 24, wiresInHand: 4, circuitLimit: 6, groupsPerPhase: 6 })
        .endsPerLead,
    ).toBe(6);
    expect(() =>
      readConnection({ leads: '3', wireTipsPerLead: 25, wiresInHand: 4, circuitLimit: 6, groupsPerPhase: 6 }),
    ).toThrow(/do not divide by 4/);
    expect(() => readConnection({ leads: '3', circuitLimit: 6, groupsPerPhase: 6 })).toThrow(/Count the group ends/);
  });
  it('nine leads: T4 tells wye from delta; part-winding has two stars', () => {
    const nine = readConnection({ leads: '9', endsPerLead: 2, circuitLimit: 4, groupsPerPhase: 4 });
    expect(nine.candidates.map((c) => c.say)).toEqual([
      'nine-lead delta, 1 circuits in each half',
      'nine-lead wye, 2 circuits in each half',
    ]);
    expect(
      readConnection({ leads: '9', endsPerLead: 2, endsAtOtherLeads: 1, circuitLimit: 4, groupsPerPhase: 4 })
        .candidates[0]?.connection,
    ).toBe('delta');
    expect(
      readConnection({ leads: '6 part-winding', endsPerLead: 1, circuitLimit: 4, groupsPerPhase: 4 }).candidates[0]
        ?.starEnds,
    ).toBe(6);
  });
});

const M1: ThreePhaseRecord = {
  kind: 'three-phase',
  slots: 36,
  poles: 4,
  layers: 'double',
  form: 'lap',
  spansSlots: [8],
  turns: [34],
  strands: [{ count: 2, bareM: 0.00085, label: '' }],
  wireGrade: '2',
  circuits: 2,
  connection: 'delta',
  leads: '3',
  boreM: 0.15,
  coreLengthM: 0.14,
  toothWidthM: 0.007,
  backIronM: 0.025,
  slotDepthM: 0.024,
  slotAreaM2: 185e-6,
  slotNetAreaM2: 158e-6,
};
const plate = { outputW: 11000, voltagesV: [400], currentsA: [22], frequencyHz: 50, speedRpm: 1455 };

describe('leads in halves', () => {
  it('twelve leads at the low voltage: the same machine as two circuits', () => {
    const twelve: WindingRecord = { ...M1, circuits: 1, leads: '12' };
    const dual = { ...plate, voltagesV: [400, 800], currentsA: [22, 11] };
    const a = worked(windingFigures, { record: M1, nameplate: plate });
    const b = worked(windingFigures, { record: twelve, nameplate: dual });
    for (const key of ['seriesTurns', 'airGapT', 'currentDensityAMm2', 'lineResistance20Ohm', 'voltsPerCoil'] as const)
      expect(b[key]).toBeCloseTo(a[key] ?? 0, 9);
    expect(checkRecord(twelve, dual).filter((f) => f.severity === 'E')).toEqual([]);
    expect(connectionOfRecord(twelve).connection?.nodes).toHaveLength(12);
  });
  it('stars by leads: nine-lead wye has three for each circuit of a half', () => {
    const nine: ThreePhaseRecord = { ...M1, circuits: 1, connection: 'wye', leads: '9', starPoints: 1, endsPerStar: 6 };
    expect(checkRecord(nine, {}).find((f) => f.check === 'star-points')?.message).toMatch(
      /6 ends lie in star points inside; .* has 3/,
    );
    const odd = checkRecord({ ...nine, slots: 45, poles: 8, spansSlots: [5] }, {});
    expect(odd.find((f) => f.check === 'circuits')?.message).toMatch(/two equal halves/);
  });
});

describe('windings beside the stator’s', () => {
  it('the rings’ voltage follows the effective turns', () => {
    const rotor: ThreePhaseRecord = { ...M1, slots: 24, spansSlots: [6], turns: [8], circuits: 1, connection: 'wye' };
    const found = windingRotorVoltage.compute({
      stator: M1,
      rotor,
      nameplate: { ...plate, rotorVoltageV: 200 },
      limits: {},
    });
    // by hand: N_r = 24·8/3 = 64, k_w 24/4 full pitch 0.9659; N_s = 204, k_w 0.9452 (docs/derivations.md 7)
    const byHand = ((400 * 64 * 0.9659258) / (204 * 0.9452142)) * Math.sqrt(3);
    expect(found.openCircuitV).toBeCloseTo(byHand, 2);
    expect(found.says).toMatch(/but the plate says 200 V/);
    expect(() =>
      windingRotorVoltage.compute({ stator: M1, rotor: { ...rotor, poles: 6 }, nameplate: plate, limits: {} }),
    ).toThrow(/6 poles and the stator 4/);
  });
  it('a rotor is judged by its own plate; a second winding takes the core of the first', () => {
    expect(plateOfPart({ ...plate, rotorVoltageV: 223, rotorCurrentA: 80 }, 'wound-rotor')).toMatchObject({
      voltagesV: [223],
      currentsA: [80],
      frequencyHz: 50,
    });
    expect(plateOfPart(plate, 'second')).not.toHaveProperty('speedRpm');
    expect(inItsCore(threePhaseRecord({ poles: 6, turns: [20] }), 'second', M1)).toMatchObject({
      slots: 36,
      boreM: 0.15,
      poles: 6,
    });
    expect(inItsCore(threePhaseRecord({ slots: 48 }), 'second', M1).slots).toBe(48);
    expect(inItsCore(threePhaseRecord({ poles: 6 }), 'wound-rotor', M1).slots).toBeUndefined();
  });
});

describe('single-phase and two-speed checks', () => {
  const one: WindingRecord = {
    kind: 'single-phase',
    slots: 24,
    poles: 4,
    spansSlots: [5, 3],
    turns: [40, 30],
    turnsSecondCount: [40, 30],
    strands: [{ count: 1, bareM: 0.001, label: '' }],
    auxSpansSlots: [5, 3],
    auxTurns: [50, 36],
    auxStrands: [{ count: 1, bareM: 0.0006, label: '' }],
    auxKind: 'split phase',
  };
  const checksOf = (r: WindingRecord) =>
    checkRecord(r, {})
      .filter((f) => f.severity !== 'I')
      .map((f) => f.check);
  it('a sound one is silent; each slip speaks', () => {
    expect(checksOf(one)).toEqual([]);
    expect(checksOf({ ...one, groupCount: 4 })).toContain('main-aux');
    expect(checksOf({ ...one, auxStrands: [{ count: 1, bareM: 0.0012, label: '' }] })).toContain('main-aux');
    expect(checksOf({ ...one, spansSlots: [7, 5] })).toContain('span');
    expect(checksOf({ ...one, turns: [30, 40], turnsSecondCount: [30, 40] })).toContain('graded-turns');
    expect(
      checksOf({ ...one, spansSlots: [6, 4], auxSpansSlots: [6, 4], turns: [20, 30], turnsSecondCount: [20, 30] }),
    ).toEqual([]);
    expect(checksOf({ ...one, auxShiftSlots: 4, auxSpansSlots: [5, 3] })).toContain('main-aux');
    expect(checksOf({ ...one, auxKind: 'capacitor run', capacitorF: 20e-6, auxTurns: [10, 8] })).toContain(
      'turns-ratio',
    );
  });
  it('a two-speed span is judged against the low pole number', () => {
    const two: WindingRecord = {
      kind: 'two-speed',
      slots: 36,
      poles: 8,
      form: 'lap',
      spansSlots: [5],
      turns: [20],
      circuits: 1,
      duty: 'constant torque',
    };
    expect(checksOf(two)).toEqual([]);
    expect(checkRecord({ ...two, spansSlots: [3] }, {}).find((f) => f.check === 'span')?.message).toMatch(
      /50 to 100 %/,
    );
    expect(checksOf({ ...two, poles: 6 })).toContain('two-speed');
    expect(checkRecord({ ...two, duty: undefined }, {}).find((f) => f.check === 'two-speed')?.message).toMatch(
      /0.8312 at 8 poles, 0.7352 at 4/,
    );
    const fast = { speedRpm: 1455, frequencyHz: 50 };
    expect(checkRecord(two, fast).some((f) => f.check === 'speed')).toBe(false);
  });
  it('rotor bars that were handbook warnings are information only', () => {
    const found = checkRecord({ ...M1, rotorBars: 36 }, plate).find((f) => f.check === 'slot-combination');
    expect(found?.severity).toBe('I');
    expect(found?.message).toMatch(/locks at standstill/);
  });
});

describe('archive', () => {
  it('likeness: itself is 1, core and rating weigh most, and what differs is said', () => {
    const a = { record: M1, nameplate: plate };
    expect(similarityOf(a, a)).toEqual({ score: 1, differs: [] });
    const near = similarityOf(a, { record: { ...M1, turns: [33], boreM: 0.148 }, nameplate: plate });
    const far = similarityOf(a, { record: { ...M1, slots: 48, boreM: 0.22 }, nameplate: { ...plate, outputW: 30000 } });
    expect(near.score).toBeGreaterThan(0.95);
    expect(far.score).toBeLessThan(0.75);
    expect(near.differs).toEqual(['bore 148 mm against 150 mm', 'turns 33 against 34']);
    expect(similarityOf(a, { record: threePhaseRecord({ slots: 36 }), nameplate: {} }).score).toBeLessThan(near.score);
    expect(similarityOf({ record: threePhaseRecord({}), nameplate: {} }, a).score).toBeLessThan(1);
  });
  it('headings are read by name or label, any case', () => {
    expect(columnOf('Turns per coil')).toBe('turns');
    expect(columnOf(' SLOTS ')).toBe('slots');
    expect(columnOf('Voltage')).toBe('plate.voltagesV');
    expect(columnOf('shelf')).toBeUndefined();
  });
  const heading = [
    'Title',
    'Output',
    'Voltage',
    'Frequency',
    'Speed',
    'Slots',
    'Poles',
    'Layers',
    'Coils',
    'Span',
    'Turns per coil',
    'Connection',
    'Circuits',
  ];
  it('marks every row that cannot be right with its reason and takes the others', () => {
    const { rows, unknown } = readArchiveTable(
      [
        [...heading, 'Shelf'],
        ['good', '11', '400', '50', '1455', '36', '4', 'double', 'lap', '1-9', '34', 'delta', '2', 'B2'],
        ['pairs for poles', '11', '400', '50', '1455', '36', '2', 'double', 'lap', '1-9', '34', 'delta', '2', ''],
        ['not a number', '11', '400', '50', '1455', 'many', '4', 'double', 'lap', '1-9', '34', 'delta', '2', ''],
        ['', '', '', '', '', '', '', '', '', '', '', '', '', ''],
        ['too long', '11', '400', '50', '1455', '36', '4', 'double', 'lap', '1-9', '34', 'delta', '2', '', 'x'],
      ],
      METRIC_DEFAULTS,
    );
    expect(unknown).toEqual(['Shelf']);
    expect(rows.map((r) => [r.line, r.problems.length > 0])).toEqual([
      [2, false],
      [3, true],
      [4, true],
      [6, true],
    ]);
    expect(rows[1]?.problems.join(' ')).toMatch(/4 poles would fit/);
    expect(rows[2]?.problems.join(' ')).toMatch(/^Slots:/);
    expect(rows[0]?.record).toMatchObject({ slots: 36, spansSlots: [8], layers: 'double' });
  });
  it('a table without slots and poles, or with a column twice, is refused whole', () => {
    expect(readArchiveTable([['Title'], ['x']], METRIC_DEFAULTS).problem).toMatch(/Slots and Poles/);
    expect(readArchiveTable([['Slots', 'Poles', 'slots']], METRIC_DEFAULTS).problem).toMatch(/stands twice/);
    expect(readArchiveTable([], METRIC_DEFAULTS).rows).toEqual([]);
  });
  it('what was typed in another shop’s units keeps its meaning', () => {
    const inch = { ...METRIC_DEFAULTS, lengthUnit: 'in' as const, wireSystem: 'awg' as const };
    const here = carryOver({ boreM: '6', strands: '2x18', turns: '34', unknown: 'x' }, inch, METRIC_DEFAULTS);
    expect(here['boreM']).toBe('6 in');
    expect(here['strands']).toBe('2x1.0237 mm');
    expect(here['turns']).toBe('34');
    expect(here).not.toHaveProperty('unknown');
    expect(carryOver({ strands: '2x0.85' }, METRIC_DEFAULTS, METRIC_DEFAULTS)['strands']).toBe('2x0.85');
  });
});

describe('open files', () => {
  it('a record goes out and reads back the same; what is unknown is refused', () => {
    const file = windingFile('x', 'stator', plate, windingRecordSchema.parse(M1));
    expect(windingFileSchema.parse(JSON.parse(JSON.stringify(file)))).toEqual(file);
    expect(windingFileSchema.safeParse({ ...file, formatVersion: 3 }).success).toBe(false);
    expect(windingFileSchema.safeParse({ ...file, record: { ...M1, color: 'red' } }).success).toBe(false);
  });
  it('coil and group tables agree with the layout and name every joint once', () => {
    const layout = layoutOf({
      slots: 36,
      poles: 4,
      layers: 2,
      form: 'lap',
      poleGroups: 'every-pole',
      spanSlots: 8,
      turns: [34],
    });
    const coils = coilTable(layout);
    expect(coils).toHaveLength(37);
    expect(coils[1]).toEqual([1, 1, 1, 'A', '+', 1, 9, 8, 34]);
    const groups = groupTable({ ...M1 });
    expect(groups).toHaveLength(13);
    expect(groups[1]?.slice(-2)).toEqual(['T1', '4F']);
    expect(groups.slice(1).every((g) => g[6] !== '' && g[7] !== '')).toBe(true);
  });
});

describe('figures as read', () => {
  it('follow the reader’s units and leave out what is not known', () => {
    const v = worked(windingFigures, { record: M1, nameplate: plate });
    expect(sayFigure('airGapT', v)).toBe('0.889 T');
    expect(sayFigure('airGapT', v, { ...METRIC_DEFAULTS, lengthUnit: 'in' })).toBe('57.4 kl/in²');
    expect(sayFigure('currentDensityAMm2', v, { ...METRIC_DEFAULTS, wireSystem: 'awg' })).toBe('353 cmil/A');
    expect(sayFigure('bareMassKg', { bareMassKg: 8.21 }, { ...METRIC_DEFAULTS, massUnit: 'lb' })).toBe('18.1 lb');
    expect(sayFigure('toothT', {})).toBeUndefined();
    expect(new Set(FIGURE_ROWS.map((r) => r.key)).size).toBe(FIGURE_ROWS.length);
  });
});
