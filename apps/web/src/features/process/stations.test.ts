import {
  operation,
  routeFor,
  STAGES,
  viewRoute,
  type Impregnation,
  type StepState,
  type WhatCame,
} from '@norther/core';
import { describe, expect, it } from 'vitest';
import { nextWork, RANK, stationsOf, type StationStep } from './stations.ts';

function steps(
  states: Record<string, StepState>,
  came: WhatCame = 'whole motor',
  impregnation: Impregnation = 'dip',
  overridden: string[] = [],
): StationStep[] {
  return viewRoute(routeFor('ac_random_rewind', came, impregnation), states).map((v) => ({
    code: v.code,
    state: states[v.code] ?? 'open',
    status: v.status,
    why: v.why,
    overridden: overridden.includes(v.code),
    changedAt: null,
  }));
}
const upTo = (...codes: string[]): Record<string, StepState> => {
  const graph = routeFor('ac_random_rewind', 'whole motor', 'dip');
  const done: Record<string, StepState> = {};
  const walk = (c: string): void => {
    for (const b of graph[c] ?? []) walk(b);
    done[c] = 'passed';
  };
  codes.forEach(walk);
  return done;
};

describe('stations of the rails', () => {
  it('hold every operation once, whatever came and however it is impregnated', () => {
    for (const came of ['whole motor', 'stator only', 'rotor only'] as const) {
      for (const impregnation of ['dip', 'vacuum-pressure', 'trickle', 'bonded wire'] as const) {
        const all = steps({}, came, impregnation);
        const stations = stationsOf(all);
        expect(stations.flatMap((s) => s.steps.map((x) => x.code)).sort()).toEqual(all.map((s) => s.code).sort());
        expect(new Set(stations.map((s) => s.column)).size).toBeLessThanOrEqual(12);
      }
    }
  });
  it('one rail where only a stator or a rotor came', () => {
    expect(stationsOf(steps({}, 'stator only')).some((s) => s.rail === 'rotor')).toBe(false);
    expect(stationsOf(steps({}, 'rotor only')).some((s) => s.rail === 'stator')).toBe(false);
  });
  it('look done, ready, running, failed, in need of a person', () => {
    const look = (states: Record<string, StepState>, stage: string, rail: string) =>
      stationsOf(steps(states)).find((s) => s.stage === stage && s.rail === rail)?.look;
    expect(look({}, 'Intake', 'trunk')).toBe('ready');
    expect(look({}, 'Final', 'trunk')).toBe('waiting');
    expect(look({ INT: 'running' }, 'Intake', 'trunk')).toBe('running');
    expect(look(upTo('QTE'), 'Agree', 'trunk')).toBe('done');
    expect(look({ ...upTo('BOR'), PVT: 'failed' }, 'Test', 'stator')).toBe('failed');
    expect(look({ ...upTo('BOR'), PVT: 'failed' }, 'Resin', 'stator')).toBe('held');
    expect(look({ ...upTo('BOR'), PVT: 'attention' }, 'Test', 'stator')).toBe('sign');
  });
  it('signals: closed before what is held, open under override', () => {
    const find = (list: StationStep[], stage: string) =>
      stationsOf(list).find((s) => s.stage === stage && s.rail === 'stator')?.signal;
    expect(find(steps({ ...upTo('BOR'), PVT: 'failed' }), 'Resin')).toBe('closed');
    expect(find(steps(upTo('PVT')), 'Resin')).toBe('none');
    expect(find(steps({ ...upTo('BOR'), PRE: 'running' }, 'whole motor', 'dip', ['PRE']), 'Resin')).toBe('overridden');
  });
});

describe('what needs a hand next', () => {
  it('failed before sign-offs before work', () => {
    expect(nextWork(steps({ ...upTo('BOR'), PVT: 'failed' })).kind).toBe('failed');
    expect(nextWork(steps({ ...upTo('BOR'), PVT: 'attention' })).text).toBe('Tests before resin: waits for a sign-off');
    expect(nextWork(steps({ ...upTo('BOR'), PVT: 'undecided' })).text).toMatch(/cannot be judged yet/);
    expect(nextWork(steps({ INT: 'running' })).text).toBe('Intake running');
    expect(nextWork(steps({})).text).toBe('Intake');
    expect(RANK.failed).toBeLessThan(RANK.sign);
    expect(RANK.sign).toBeLessThan(RANK.ready);
  });
  it('is silent when all is done', () => {
    const all = Object.fromEntries(
      Object.keys(routeFor('ac_random_rewind', 'whole motor', 'dip')).map((c) => [c, 'passed' as StepState]),
    );
    expect(nextWork(steps(all)).kind).toBe('done');
  });
  it('speaks in titles, never in codes', () => {
    for (const stage of STAGES) expect(stage).toMatch(/^[A-Z][a-z]+$/);
    expect(nextWork(steps(upTo('QTE'))).text.split(', ')).toEqual(
      ['Machine repairs', 'Take the data'].sort((a, b) => a.localeCompare(b)),
    );
    expect(operation('DAT').title).toBe('Take the data');
  });
});
