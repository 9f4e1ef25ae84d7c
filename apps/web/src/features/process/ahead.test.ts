import { METRIC_DEFAULTS, routeFor, viewRoute, type StepState } from '@norther/core';
import type { JobDetail } from '@norther/contracts';
import { describe, expect, it } from 'vitest';
import type { Waiting } from '../../app/outbox/outbox.ts';
import { judgedHere, minutesByPerson, withWaiting } from './ahead.ts';

const graph = routeFor('ac_random_rewind', 'stator only', 'dip');
const job = (states: Record<string, StepState>): JobDetail =>
  ({
    number: 'JOB-1',
    closedAt: null,
    nameplate: {},
    parts: [],
    detailSteps: viewRoute(graph, states).map((v) => ({
      code: v.code,
      state: states[v.code] ?? 'open',
      status: v.status,
      heldBy: v.heldBy,
      why: v.why,
      after: [...(graph[v.code] ?? [])],
      changedAt: null,
      waived: null,
      notes: [],
      attempts: [],
      pieces: null,
    })),
  }) as unknown as JobDetail;
const SHOP = { limits: {}, defaults: METRIC_DEFAULTS, names: { liv: 'Liv Solberg' } };
let last = 0;
const waits = (code: string, what: Waiting['what'], body: object = {}, more: Partial<Waiting> = {}): Waiting => ({
  id: (last += 1),
  person: 'liv',
  number: 'JOB-1',
  code,
  what,
  body,
  key: 'k',
  at: Date.parse('2026-11-28T09:00:00Z') + last * 60_000,
  refused: '',
  ...more,
});
const passed = (...codes: string[]): Record<string, StepState> => Object.fromEntries(codes.map((c) => [c, 'passed']));
const UP_TO_TEETH = passed('INT', 'TAF', 'DIS', 'MEC', 'RCA', 'CT1', 'QTE', 'DAT', 'CUT', 'BRN', 'COL', 'STR', 'DA2');
const step = (j: JobDetail, code: string) => j.detailSteps.find((s) => s.code === code);

describe('a job as it stands with what waits on this device', () => {
  const before = job(UP_TO_TEETH);
  const teeth = { typed: { bent: '3', closed: 'yes' } };
  it('nothing waits, or only of another job: as the server says', () => {
    expect(withWaiting(before, [], SHOP)).toBe(before);
    expect(withWaiting(before, [waits('TT1', 'start', {}, { number: 'JOB-2' })], SHOP)).toBe(before);
  });
  it('two steps one after the other without network', () => {
    const began = withWaiting(before, [waits('TT1', 'start')], SHOP);
    expect(step(began, 'TT1')).toMatchObject({ state: 'running', status: 'running' });
    expect(step(began, 'TT1')?.attempts[0]).toMatchObject({ startedBy: 'Liv Solberg', spells: [{ to: null }] });
    expect(step(began, 'BLS')?.status).toBe('waiting');
    const list = [waits('TT1', 'start'), waits('TT1', 'photograph'), waits('TT1', 'finish', teeth)];
    const ended = withWaiting(before, list, SHOP);
    expect(step(ended, 'TT1')).toMatchObject({ state: 'passed' });
    expect(step(ended, 'TT1')?.attempts[0]).toMatchObject({
      verdict: 'pass',
      typed: teeth.typed,
      values: { bent: 3, closed: true },
      spells: [{ ended: 'finish' }],
    });
    expect(step(ended, 'BLS')?.status).toBe('ready');
    const next = withWaiting(
      before,
      [...list, waits('BLS', 'start'), waits('BLS', 'finish', { typed: { media: 'cob', clean: 'yes' } })],
      SHOP,
    );
    expect(step(next, 'WSH')?.status).toBe('ready');
  });
  it('a record that fails holds what follows, here as there', () => {
    const failed = withWaiting(
      before,
      [waits('TT1', 'start'), waits('TT1', 'finish', { typed: { bent: '3', closed: 'no' } })],
      SHOP,
    );
    expect(step(failed, 'TT1')?.state).toBe('failed');
    expect(step(failed, 'BLS')?.status).toBe('blocked');
  });
  it('what others decide waits for the server', () => {
    const tested = withWaiting(
      job(passed('INT')),
      [waits('TAF', 'start'), waits('TAF', 'finish', { typed: {} })],
      SHOP,
    );
    expect(step(tested, 'TAF')).toMatchObject({ state: 'undecided' });
    expect(step(tested, 'DIS')?.status).toBe('blocked');
  });
  it('behind a refusal nothing counts', () => {
    const stuck = withWaiting(
      before,
      [waits('TT1', 'start', {}, { refused: 'No.' }), waits('TT1', 'finish', teeth)],
      SHOP,
    );
    expect(step(stuck, 'TT1')?.state).toBe('open');
  });
  it('what the server has taken already is not done twice', () => {
    const running = job({ ...UP_TO_TEETH, TT1: 'running' });
    expect(step(withWaiting(running, [waits('TT1', 'start')], SHOP), 'TT1')?.attempts).toEqual([]);
    const ended = job({ ...UP_TO_TEETH, TT1: 'passed' });
    const again = withWaiting(ended, [waits('TT1', 'finish', { typed: { bent: '3', closed: 'no' } })], SHOP);
    expect(step(again, 'TT1')?.state).toBe('passed');
  });
  it('pausing and going on', () => {
    const list = [waits('TT1', 'start'), waits('TT1', 'pause', { what: 'pause' })];
    expect(step(withWaiting(before, list, SHOP), 'TT1')?.attempts[0]?.spells).toMatchObject([{ ended: 'pause' }]);
    list.push(waits('TT1', 'join', { what: 'join' }));
    list.push(waits('TT1', 'join', { what: 'join' }));
    expect(step(withWaiting(before, list, SHOP), 'TT1')?.attempts[0]?.spells.map((s) => s.ended)).toEqual([
      'pause',
      null,
    ]);
    list.push(waits('TT1', 'hand over', { what: 'hand over', to: 'x' }));
    expect(step(withWaiting(before, list, SHOP), 'TT1')?.attempts[0]?.spells.map((s) => s.ended)).toEqual([
      'pause',
      'hand over',
    ]);
  });
  it('a step held for its lists stays held', () => {
    const held = job(UP_TO_TEETH);
    const tt1 = step(held, 'TT1');
    if (tt1) Object.assign(tt1, { status: 'blocked', why: 'the lists are not made yet' });
    const other = withWaiting(held, [waits('DA2', 'photograph')], SHOP);
    expect(step(other, 'TT1')).toMatchObject({ status: 'blocked', why: 'the lists are not made yet' });
  });
});

describe('judged while it is typed', () => {
  it('by the shop’s limits and the steps before', () => {
    const at = (typed: Record<string, string>, limits = {}) =>
      judgedHere(job({}), 'COL', typed, { limits, defaults: METRIC_DEFAULTS, person: 'Liv' }).verdict;
    expect(at({ atOpening: '110', rate: '50' })).toBe('pass');
    expect(at({ atOpening: '130', rate: '50' })).toBe('attention');
    expect(at({ atOpening: '130', rate: '50' }, { 'route.openingC': 140 })).toBe('pass');
  });
  it('what tests or an oven decide is said to be decided there', () =>
    expect(judgedHere(job({}), 'CUR', {}, { limits: {}, defaults: METRIC_DEFAULTS, person: 'Liv' })).toEqual({
      verdict: 'cannot judge',
      reason: 'Decided when it is sent.',
    }));
});

describe('time of each person', () => {
  const spell = (personId: string, from: number, to: number | null) => ({
    person: personId.toUpperCase(),
    personId,
    from: new Date(from * 60_000).toISOString(),
    to: to === null ? null : new Date(to * 60_000).toISOString(),
    ended: to === null ? null : ('pause' as const),
    handedTo: null,
  });
  it('two at one step are counted apart, pauses left out', () =>
    expect(minutesByPerson([spell('liv', 0, 30), spell('per', 10, null), spell('liv', 40, 55)], 60 * 60_000)).toEqual([
      { person: 'LIV', minutes: 45, there: false },
      { person: 'PER', minutes: 50, there: true },
    ]));
});
