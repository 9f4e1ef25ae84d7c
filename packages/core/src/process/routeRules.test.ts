import { describe, expect, it } from 'vitest';
import { worked } from '../../../../scripts/testing/worked.ts';
import {
  afterFinish,
  afterReopen,
  failedBefore,
  holdForLists,
  LISTS_MISSING,
  startRefusal,
  stateFor,
  viewRoute,
  type StepState,
} from './engine.ts';
import { operation, OPERATIONS } from './operations.ts';
import { processRoute } from './routeCalculation.ts';
import {
  ancestorsOf,
  descendantsOf,
  inOrder,
  leaveOutRefusal,
  MAY_BE_LEFT_OUT,
  onlyOperations,
  operationHours,
  ROUTES,
  routeFor,
  routeHours,
  shaftHeightMm,
  withoutOperations,
} from './routes.ts';

/** a before b and c, both before d; e stands alone. */
const graph = { a: [], b: ['a'], c: ['a'], d: ['b', 'c'], e: [] };
const view = (states: Record<string, StepState>) =>
  Object.fromEntries(viewRoute(graph, states).map((v) => [v.code, v]));

describe('where every operation stands', () => {
  it('ready when all before it passed or were waived, waiting otherwise', () => {
    expect(Object.values(view({})).map((v) => v.status)).toEqual(['ready', 'waiting', 'waiting', 'waiting', 'ready']);
    expect(view({})['b']).toEqual({ code: 'b', status: 'waiting', heldBy: ['a'], why: 'after a' });
    expect(view({})['d']).toEqual({ code: 'd', status: 'waiting', heldBy: ['b', 'c'], why: 'after b, c' });
    expect(view({ a: 'passed' })['b']).toEqual({ code: 'b', status: 'ready', heldBy: [], why: '' });
    expect(view({ a: 'waived', b: 'waived' })['d']).toMatchObject({ status: 'waiting', heldBy: ['c'] });
    expect(view({ a: 'running' })['b']).toMatchObject({ status: 'waiting' });
  });
  it('blocked by what failed before it, however far', () => {
    expect(view({ a: 'failed' })['d']).toEqual({ code: 'd', status: 'blocked', heldBy: ['a'], why: 'a failed' });
    expect(view({ a: 'passed', b: 'failed', c: 'failed' })['d']).toMatchObject({
      heldBy: ['b', 'c'],
      why: 'b, c failed',
    });
    expect(view({ a: 'passed', b: 'failed' })['c']).toMatchObject({ status: 'ready' });
    expect(view({ b: 'failed' })['e']).toMatchObject({ status: 'ready' });
  });
  it.each([
    ['attention', 'needs a sign-off'],
    ['undecided', 'cannot be judged yet'],
    ['recheck', 'must be looked at again'],
  ] as const)('blocked by %s before it, with the reason', (state, words) => {
    expect(view({ a: state })['b']).toEqual({ code: 'b', status: 'blocked', heldBy: ['a'], why: `a ${words}` });
    expect(view({ a: 'passed', b: state, c: 'open' })['d']).toMatchObject({ heldBy: ['b'], why: `b ${words}` });
  });
  it('what is decided says so itself', () => {
    for (const state of ['running', 'passed', 'attention', 'undecided', 'failed', 'waived', 'recheck'] as const)
      expect(view({ b: state })['b']).toEqual({ code: 'b', status: state, heldBy: ['a'], why: '' });
  });
});

describe('whether an operation may start', () => {
  it.each([
    [{}, 'a', undefined],
    [{}, 'b', { heldBy: ['a'], why: 'after a' }],
    [{ a: 'failed' }, 'b', { heldBy: ['a'], why: 'a failed' }],
    [{ a: 'passed', b: 'running' }, 'b', { heldBy: [], why: 'it is running already' }],
    [{ a: 'passed', b: 'passed' }, 'b', { heldBy: [], why: 'it is passed already' }],
    [{ a: 'passed', b: 'recheck' }, 'b', undefined],
    [{ a: 'recheck', b: 'recheck' }, 'b', { heldBy: ['a'], why: 'after a' }],
    [{}, 'z', { heldBy: [], why: 'z is not in this route' }],
  ] as const)('%j, %s: %j', (states, code, refusal) => expect(startRefusal(graph, states, code)).toEqual(refusal));
});

describe('what an outcome makes of the route', () => {
  it('the state of each verdict', () => {
    expect((['pass', 'attention', 'fail', 'cannot judge'] as const).map(stateFor)).toEqual([
      'passed',
      'attention',
      'failed',
      'undecided',
    ]);
  });
  it('a failure sends what had passed after it to recheck, and nothing else', () => {
    const states = { a: 'passed', b: 'passed', c: 'passed', d: 'passed', e: 'passed' } as const;
    expect(afterFinish(graph, states, 'b', 'fail')).toEqual({ ...states, b: 'failed', d: 'recheck' });
    expect(afterFinish(graph, { ...states, d: 'waived' }, 'b', 'fail')).toMatchObject({ d: 'waived' });
    expect(afterFinish(graph, states, 'b', 'attention')).toEqual({ ...states, b: 'attention' });
    expect(afterFinish(graph, { a: 'passed' }, 'b', 'pass')).toEqual({ a: 'passed', b: 'passed' });
  });
  it('work that ran while something before it failed goes to recheck, a failure stays one', () => {
    expect(afterFinish(graph, { a: 'failed' }, 'b', 'pass')['b']).toBe('recheck');
    expect(afterFinish(graph, { a: 'failed' }, 'b', 'fail')['b']).toBe('failed');
    expect(afterFinish(graph, { a: 'open' }, 'b', 'pass', ['a'])['b']).toBe('recheck');
    expect(afterFinish(graph, { a: 'open' }, 'b', 'pass', ['c'])['b']).toBe('passed');
    expect(failedBefore(graph, { a: 'failed', b: 'failed', c: 'passed' }, 'd')).toEqual(['a', 'b']);
    expect(failedBefore(graph, { c: 'failed' }, 'b')).toEqual([]);
    expect(failedBefore(graph, {}, 'd', ['c', 'e'])).toEqual(['c']);
  });
  it('reopening: what passed is looked at again, what failed or hung is done again', () => {
    const states = { a: 'failed', b: 'passed', c: 'attention', d: 'failed', e: 'failed' } as const;
    expect(afterReopen(graph, states, 'a')).toEqual({ a: 'open', b: 'recheck', c: 'open', d: 'open', e: 'failed' });
    expect(afterReopen(graph, { ...states, b: 'undecided', c: 'waived', d: 'running' }, 'a')).toMatchObject({
      b: 'open',
      c: 'waived',
      d: 'running',
    });
  });
  it('ready work that takes cut material is held until the lists are made', () => {
    const waits = [...OPERATIONS.values()].find((o) => o.waitsForLists)?.code ?? '';
    const views = viewRoute({ [waits]: [], INT: [] }, {});
    expect(holdForLists(views, false).map((v) => [v.code, v.status, v.why])).toEqual([
      [waits, 'blocked', LISTS_MISSING],
      ['INT', 'ready', ''],
    ]);
    expect(holdForLists(views, true)).toBe(views);
    const running = viewRoute({ [waits]: [] }, { [waits]: 'running' });
    expect(holdForLists(running, false)).toBe(running);
  });
});

describe('routes as graphs', () => {
  it('taking operations out ties what follows to what came before', () => {
    expect(withoutOperations(graph, new Set(['b']))).toEqual({ a: [], c: ['a'], d: ['a', 'c'], e: [] });
    expect(withoutOperations(graph, new Set(['b', 'c']))).toEqual({ a: [], d: ['a'], e: [] });
    expect(withoutOperations(graph, new Set(['a', 'b', 'c']))).toEqual({ d: [], e: [] });
    expect(onlyOperations(graph, ['a', 'b', 'c', 'd', 'e'])).toBe(graph);
    expect(onlyOperations(graph, ['a', 'd'])).toEqual({ a: [], d: ['a'] });
    expect(onlyOperations(graph, ['d', 'a'])).toBe(onlyOperations(graph, ['a', 'd']));
    expect(onlyOperations(graph, ['a', 'b'])).toEqual({ a: [], b: ['a'] });
  });
  it('before and after, in order, no circle', () => {
    expect([...ancestorsOf(graph, 'd')].sort()).toEqual(['a', 'b', 'c']);
    expect([...ancestorsOf(graph, 'a')]).toEqual([]);
    expect([...descendantsOf(graph, 'a')]).toEqual(['b', 'c', 'd']);
    expect([...descendantsOf(graph, 'd')]).toEqual([]);
    expect(ancestorsOf(graph, 'd')).toBe(ancestorsOf(graph, 'd'));
    expect(inOrder({ z: ['y'], y: ['x'], x: [] })).toEqual(['x', 'y', 'z']);
    expect(() => inOrder({ x: ['y'], y: ['x'] })).toThrow(/runs in a circle through [xy]\./);
  });
  it('what may be left out, and what goes together', () => {
    expect(leaveOutRefusal([])).toBeUndefined();
    expect(leaveOutRefusal(['__proto__'])).toBe('There is no operation __proto__ in a route.');
    expect(leaveOutRefusal(['ZZZ'])).toBe('There is no operation ZZZ in a route.');
    expect(leaveOutRefusal(['DSG'])).toBe(`${operation('DSG').title} stays in every route: what follows relies on it.`);
    expect(leaveOutRefusal(['BRN'])).toMatch(/Burn-off and slow cooling go together/);
    expect(leaveOutRefusal(['COL'])).toMatch(/Burn-off and slow cooling go together/);
    expect(leaveOutRefusal(['BRN', 'COL'])).toBeUndefined();
    expect(leaveOutRefusal(['CT1'])).toMatch(/second core test is judged against the first/);
    expect(leaveOutRefusal(['CT1', 'CT2'])).toBeUndefined();
    expect(leaveOutRefusal(['CT2'])).toBeUndefined();
    expect(MAY_BE_LEFT_OUT.every((code) => operation(code).mayBeLeftOut)).toBe(true);
    for (const code of ['TAF', 'DSG', 'CUR', 'RBL', 'CON', 'PVT', 'PCT', 'DSP'])
      expect(MAY_BE_LEFT_OUT).not.toContain(code);
  });
  it('a route is cut to what came, and names the way of impregnating that was agreed', () => {
    const codes = (...x: Parameters<typeof routeFor>) => Object.keys(routeFor(...x));
    expect(codes('ac_random_rewind', 'whole motor', 'dip')).toContain('IMPD');
    expect(codes('ac_random_rewind', 'whole motor', 'vacuum-pressure')).toContain('IMPV');
    expect(codes('ac_random_rewind', 'whole motor', 'vacuum-pressure')).not.toContain('IMPD');
    const stator = codes('ac_random_rewind', 'stator only', 'dip');
    for (const code of ['RBL', 'RIN', 'ASM', 'RUN']) expect(stator).not.toContain(code);
    for (const code of ['WND', 'CON', 'CUR']) expect(stator).toContain(code);
    const rotor = codes('overhaul', 'rotor only', 'dip');
    expect(rotor).toContain('RBL');
    for (const code of ['OWS', 'ODR', 'ASM']) expect(rotor).not.toContain(code);
    expect(routeFor('overhaul', 'rotor only', 'dip')).toBe(routeFor('overhaul', 'rotor only', 'dip'));
    // what bonded wire does without is gone, its neighbours are tied
    const bonded = routeFor('ac_random_rewind', 'whole motor', 'bonded wire');
    for (const code of Object.keys(bonded)) expect(operation(code).notWith ?? []).not.toContain('bonded wire');
    for (const before of Object.values(bonded)) for (const b of before) expect(bonded).toHaveProperty(b);
  });
  it('hours: labour by size, the longest path', () => {
    const op = { hours: { labour100: 2, labourPower: 1, wait100: 8, waitPower: 0.5 } } as never;
    expect(operationHours(op, 100)).toEqual({ labourH: 2, elapsedH: 10 });
    expect(operationHours(op, 400)).toEqual({ labourH: 8, elapsedH: 8 + 16 });
    const [a, b, c] = ['INT', 'TAF', 'DIS'].map((code) => operationHours(operation(code), 132)) as {
      labourH: number;
      elapsedH: number;
    }[];
    const two = routeHours({ INT: [], TAF: ['INT'], DIS: ['INT'] }, 132);
    expect(two.labourH).toBeCloseTo((a?.labourH ?? 0) + (b?.labourH ?? 0) + (c?.labourH ?? 0), 12);
    expect(two.shortestElapsedH).toBeCloseTo((a?.elapsedH ?? 0) + Math.max(b?.elapsedH ?? 0, c?.elapsedH ?? 0), 12);
    expect(routeHours({}, 132)).toEqual({ labourH: 0, shortestElapsedH: 0 });
  });
  it.each([
    ['132M', 'IEC', 132],
    ['IEC 90S', 'IEC', 90],
    ['254T', 'NEMA', 158.75],
    ['56', 'NEMA', 88.9],
    ['4', 'NEMA', undefined],
    ['', 'IEC', undefined],
  ] as const)('frame %s, %s: %s mm', (frame, school, mm) =>
    expect(shaftHeightMm(frame, school)?.toFixed(6)).toBe(mm?.toFixed(6)),
  );
  it('the calculation shows every operation with what it waits for', () => {
    const x = worked(processRoute, {
      route: 'overhaul',
      came: 'stator only',
      states: { INT: 'passed', TAF: 'failed' },
      shaftHeightMm: 160,
    });
    const cut = routeFor('overhaul', 'stator only', 'dip');
    expect(x.operations.map((o) => o.code)).toEqual(Object.keys(cut));
    expect(x.operations.find((o) => o.code === 'TAF')).toMatchObject({
      status: 'failed',
      after: ['INT'],
      title: operation('TAF').title,
    });
    expect(x.operations.find((o) => o.code === 'DSP')).toMatchObject({
      status: 'blocked',
      heldBy: ['TAF'],
      why: 'TAF failed',
    });
    expect(x.edges).toBe(Object.values(cut).flat().length);
    expect(x.labourH).toBeCloseTo(routeHours(cut, 160).labourH, 12);
    expect(x.shortestElapsedH).toBeCloseTo(routeHours(cut, 160).shortestElapsedH, 12);
    expect(worked(processRoute, { route: 'overhaul' }).operations).toHaveLength(
      Object.keys(ROUTES.overhaul.graph).length,
    );
  });
});
