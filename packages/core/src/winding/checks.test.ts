import { describe, expect, it } from 'vitest';
import { lapRecord } from '../../../../scripts/testing/recordChecks.ts';
import { worked } from '../../../../scripts/testing/worked.ts';
import { layoutOfRecord } from './recordLayout.ts';
import { checkRecord, neededToVerify, windingChecks } from './checks.ts';
import { windingRecordSchema, type WindingRecord } from './record.ts';

const kind = (more: object): WindingRecord => windingRecordSchema.parse({ slots: 36, poles: 4, ...more });
const COUNTED = ['slots', 'poles', 'spansSlots', 'turns', 'turnsSecondCount', 'strands'];
const PLACE = ['boreM', 'coreLengthM', 'leadExit', 'connectionSide'];

describe('what a record needs before it can be verified', () => {
  it.each([
    ['three phases', lapRecord(), [...COUNTED, 'layers', 'form', 'connection', 'circuits', 'leads', ...PLACE]],
    [
      'part-winding leads need no connection',
      lapRecord({ leads: '6 part-winding' }),
      [...COUNTED, 'layers', 'form', 'circuits', 'leads', ...PLACE],
    ],
    [
      'a list of coils for the span',
      lapRecord({ coilList: [[1, 9]], layers: 'single' }),
      [
        'slots',
        'poles',
        'turns',
        'turnsSecondCount',
        'strands',
        'coilList',
        'connection',
        'circuits',
        'leads',
        ...PLACE,
      ],
    ],
    [
      'mixed layers',
      lapRecord({ layers: 'mixed' }),
      [...COUNTED, 'layers', 'sideKinds', 'connection', 'circuits', 'leads', ...PLACE],
    ],
    ['two speeds', kind({ kind: 'two-speed' }), [...COUNTED, 'form', 'circuits', 'duty', ...PLACE]],
    ['one phase', kind({ kind: 'single-phase' }), [...COUNTED, ...PLACE]],
    [
      'one phase with an auxiliary by its span',
      kind({ kind: 'single-phase', auxSpansSlots: [8] }),
      [...COUNTED, 'auxSpansSlots', 'auxTurns', 'auxStrands', 'auxKind', ...PLACE],
    ],
    [
      'one phase with an auxiliary by its kind',
      kind({ kind: 'single-phase', auxKind: 'split phase' }),
      [...COUNTED, 'auxSpansSlots', 'auxTurns', 'auxStrands', 'auxKind', ...PLACE],
    ],
    [
      'tooth coils',
      kind({ kind: 'tooth-coil' }),
      ['slots', 'poles', 'turns', 'turnsSecondCount', 'strands', 'layers', 'connection', 'circuits', 'leads', ...PLACE],
    ],
    [
      'strip coils',
      kind({ kind: 'form-wound' }),
      [
        'slots',
        'poles',
        'spansSlots',
        'turns',
        'turnsSecondCount',
        'stripThicknessM',
        'stripWidthM',
        'groundWallM',
        'slotWidthM',
        'slotDepthM',
        'connection',
        'circuits',
        'leads',
        ...PLACE,
      ],
    ],
    [
      'bars',
      kind({ kind: 'bar-rotor' }),
      ['slots', 'poles', 'barsPerSlot', 'barWidthM', 'barHeightM', 'connection', 'circuits', 'coreLengthM'],
    ],
  ])('%s', (_, record, wanted) => expect([...neededToVerify(record)]).toEqual(wanted));
});

describe('all checks of a record', () => {
  const WRONG = {
    coilCount: 35,
    groupCount: 11,
    spansSlots: [9],
    boreM: 0.15,
    coreLengthM: 0.14,
    slotDepthM: 0.02,
    turns: [300],
  };
  it('errors come first, then warnings, then notes', () => {
    const order = checkRecord(lapRecord(WRONG), { frequencyHz: 50, speedRpm: 1455, voltagesV: [400] }).map((f) =>
      'EWI'.indexOf(f.severity),
    );
    const own = order.slice(0, order.findLastIndex((x) => x === 2) + 1);
    expect(own.length).toBeGreaterThan(3);
    expect([...own].sort((a, b) => a - b)).toEqual(own);
    expect(new Set(own).size).toBeGreaterThan(1);
  });
  it('a winding that cannot be laid is told once all that it needs is there', () => {
    // 36 slots in a single layer with an even span: go and return sides meet
    const none = { layers: 'single', spansSlots: [8] };
    const told = (more: object) => {
      const record = lapRecord({ ...none, ...more });
      const why = layoutOfRecord(record);
      return {
        laid: why.layout !== undefined,
        errors: checkRecord(record, {}).filter((f) => f.check === 'layout').length,
      };
    };
    expect(told({})).toEqual({ laid: false, errors: 1 });
    for (const gone of ['slots', 'poles', 'spansSlots'] as const)
      expect(told({ [gone]: undefined })).toEqual({ laid: false, errors: 0 });
    expect(told({ layers: 'double' })).toEqual({ laid: true, errors: 0 });
  });
  it('what is missing is listed, and nothing with an error or a gap is verifiable', () => {
    const full = { boreM: 0.15, coreLengthM: 0.14, leadExit: 'right', connectionSide: 'drive end' };
    const of = (more: object) => worked(windingChecks, { record: lapRecord({ ...full, ...more }), nameplate: {} });
    expect(of({})).toMatchObject({ missing: [], verifiable: true });
    expect(of({ boreM: undefined, leads: undefined })).toMatchObject({
      missing: ['leads', 'boreM'],
      verifiable: false,
    });
    expect(of({ coilCount: 35 })).toMatchObject({ missing: [], verifiable: false });
    expect(of({ coilCount: 35 }).findings.some((f) => f.severity === 'E')).toBe(true);
  });
  it('a shop’s limits are used', () => {
    const record = lapRecord({ boreM: 0.15, coreLengthM: 0.14, slotDepthM: 0.02, copperKg: 9 });
    const warned = (limits: Record<string, number>) =>
      checkRecord(record, {}, limits)
        .filter((f) => f.check === 'copper-mass')
        .map((f) => f.severity);
    expect(warned({ 'winding.copperAskPercent': 900 })).toEqual([]);
    expect(warned({ 'winding.copperErrorPercent': 1 })).toEqual(['E']);
  });
});
