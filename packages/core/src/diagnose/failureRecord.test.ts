import { describe, expect, it } from 'vitest';
import { worked } from '../../../../scripts/testing/worked.ts';
import { connect } from '../winding/connection.ts';
import { layoutOf } from '../winding/layout.ts';
import { CAUSES, failureAnalysis } from './failure.ts';
import { causeTitle, FAILURE_FIELDS, failureFacts, failureInput, lacksFailure } from './failureRecord.ts';

describe('the record of a failure analysis', () => {
  const layout = layoutOf({
    slots: 36,
    poles: 4,
    layers: 2,
    form: 'lap',
    poleGroups: 'every-pole',
    spanSlots: 7,
    turns: [1],
    kind: 'three-phase',
  });
  const connection = connect(layout, { connection: 'delta', circuits: 2, jumper: 'adjacent-pole', leads: 6 });
  it('offers every cause by name, and two open ones', () => {
    const options = FAILURE_FIELDS.find((f) => f.name === 'cause')?.read;
    if (options?.kind !== 'choice') throw new Error('no choice');
    expect(options.options.map((o) => o.value)).toEqual([...Object.keys(CAUSES), 'unknown', 'other']);
    expect(causeTitle('overload')).toMatch(/^Overload/);
    expect(causeTitle('unknown')).toBe('Unknown');
    expect(causeTitle('what')).toBe('what');
  });
  it.each([
    [{ marks: '4 charred' }, 'marks', /not understood/],
    [{ marks: '37 burnt' }, 'marks', /no coil 37: the winding has 36/],
    [{ looked: [1, 13] }, 'looked', /no group 13: the winding has 12 groups/],
    [{ marks: '1 burnt', looked: [2] }, 'looked', /Coil 1 is marked, but its group 1/],
    [{ pins: 'here' }, 'pins', /Each place is a line/],
    [{ pins: Array.from({ length: 41 }, () => 'slot 1 at 1 %: x').join('\n') }, 'pins', /At most 40/],
    [{ cause: 'unknown' }, 'missing', /say what is missing/],
    [{ cause: 'other' }, 'causeSays', /own words/],
    [{ advice: 'x' }, 'cause', /Choose a cause/],
    [{ contributing: 'x' }, 'cause', /Choose a cause/],
  ])('%j is refused at %s', (values, field, says) => {
    const lacks = lacksFailure(values as Record<string, string>, layout);
    expect(lacks?.field).toBe(field);
    expect(lacks?.message).toMatch(says);
  });
  it.each([
    {},
    { marks: '36 burnt' },
    { marks: '1 burnt', looked: [1] },
    { cause: 'unknown', missing: 'the map' },
    { cause: 'other', causeSays: 'lightning' },
    { cause: 'overload', advice: 'x', contributing: 'y' },
    { pins: Array.from({ length: 40 }, () => 'slot 1 at 1 %: x').join('\n\n') },
  ])('%j stands', (values) => {
    expect(lacksFailure(values as Record<string, string>, layout)).toBeUndefined();
  });
  it('without a layout coils to 500 are taken', () => {
    expect(lacksFailure({ marks: '500 burnt' }, undefined)).toBeUndefined();
    expect(lacksFailure({ marks: '501 burnt' }, undefined)?.field).toBe('marks');
  });

  const test = (kind: string, verdict: string, more: object = {}) => ({
    id: `${kind}${verdict}`,
    kind,
    verdict,
    stage: 'IN',
    part: 'stator',
    supersedes: null,
    ...more,
  });
  it('takes what the tests as found say: the newest that stands, of this part, of before the strip-down', () => {
    expect(
      failureFacts(
        [
          test('insulationResistance', 'fail'),
          test('surge', 'fail'),
          test('rotorSwing', 'fail'),
          test('windingResistance', 'attention', { result: { values: { unbalancePercent: 5.01 } } }),
        ],
        'stator',
      ),
    ).toEqual({ insulation: 'low', surge: 'turn fault', cage: 'broken bars', resistance: 'unequal' });
    expect(
      failureFacts(
        [
          test('insulationResistance', 'pass'),
          test('surge', 'attention'),
          test('growler', 'pass'),
          test('windingResistance', 'fail', { result: { values: { unbalancePercent: 5 } } }),
        ],
        'stator',
      ),
    ).toEqual({ insulation: 'sound', surge: 'sound', cage: 'sound', resistance: 'equal' });
    expect(failureFacts([test('windingResistance', 'fail')], 'stator')).toEqual({ resistance: 'open' });
    expect(failureFacts([test('windingResistance', 'pass')], 'stator')).toEqual({ resistance: 'equal' });
    expect(failureFacts([test('surge', 'cannot judge')], 'stator')).toEqual({});
    expect(failureFacts([test('surge', 'fail', { stage: 'AC' })], 'stator')).toEqual({});
    expect(failureFacts([test('surge', 'fail', { stage: 'BS' })], 'stator')).toEqual({ surge: 'turn fault' });
    expect(failureFacts([test('surge', 'fail')], 'second')).toEqual({});
    expect(
      failureFacts([test('surge', 'fail', { id: 'a' }), test('surge', 'pass', { id: 'b', supersedes: 'a' })], 'stator'),
    ).toEqual({ surge: 'sound' });
    expect(
      failureFacts([test('growler', 'pass'), test('rotorSwing', 'fail')], 'stator').cage,
      'the swing tells before the growler',
    ).toBe('broken bars');
  });
  it('becomes the input of the calculation: map, facts of person before those of tests, signs of the complaint', () => {
    const input = failureInput({
      values: { marks: '1-3 burnt', bearings: 'worn', rotorRub: true, contamination: false },
      layout,
      connection,
      complaint: 'Trips.',
      tests: [test('insulationResistance', 'fail')],
      part: 'stator',
      core: 'hot spots',
    });
    expect(input).toMatchObject({
      connection: 'delta',
      circuits: 2,
      rotorRub: true,
      rotorBlued: false,
      contamination: false,
      steepSupply: false,
      facts: { insulation: 'low', core: 'hot spots', bearings: 'worn' },
      complaint: ['trips'],
      singlePhase: false,
    });
    expect((input['coils'] as unknown[]).length).toBe(36);
    expect(worked(failureAnalysis, input).phases).toHaveLength(3);
  });
  it('nothing marked and no group named is no map; a group named is one, all sound', () => {
    const of = (values: Record<string, unknown>) =>
      failureInput({
        values: values as never,
        layout,
        connection: undefined,
        complaint: '',
        tests: [],
        part: 'stator',
      });
    expect(of({})['coils']).toEqual([]);
    expect(of({})).not.toHaveProperty('connection');
    expect(of({})['circuits']).toBe(1);
    expect((of({ looked: [1] })['coils'] as unknown[]).length).toBe(3);
    expect(
      failureInput({
        values: { marks: '1 burnt' },
        layout: undefined,
        connection: undefined,
        complaint: '',
        tests: [],
        part: 'stator',
      })['coils'],
    ).toEqual([]);
  });
});
