import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { draws } from '../../../../scripts/testing/draws.ts';
import type { StepState } from './engine.ts';
import { MOST_RUNS, OPERATIONS } from './operations.ts';
import { REMOVALS } from './removal.ts';
import { editedRoute, holdsOf, routeEditRefusal, type RouteEdit } from './routeEdit.ts';
import { ancestorsOf, inOrder, ROUTE_IDS, routeFor, ROUTES, type RouteGraph } from './routes.ts';

const open = { states: {}, came: 'whole motor', impregnation: 'dip' } as const;
const graph = routeFor('ac_random_rewind', 'whole motor', 'dip');
const refused = (edit: RouteEdit, of: object = {}, from: RouteGraph = graph) =>
  routeEditRefusal(from, edit, { ...open, ...of });

describe('a route that a foreman edits', () => {
  it('takes an operation in between two others', () => {
    const edit: RouteEdit = { do: 'add', code: 'OWS', after: ['STR'], before: ['TT1'] };
    expect(refused(edit)).toBeUndefined();
    const next = editedRoute(graph, edit);
    expect(ancestorsOf(next, 'TT1').has('OWS')).toBe(true);
    expect(ancestorsOf(next, 'OWS').has('STR')).toBe(true);
    expect(Object.keys(next)).toHaveLength(Object.keys(graph).length + 1);
  });
  it.each<[string, RouteEdit, object, RegExp]>([
    ['an unknown one', { do: 'add', code: 'XYZ', after: ['STR'], before: [] }, {}, /no operation XYZ/],
    ['one that is in it', { do: 'add', code: 'STR', after: ['CUT'], before: [] }, {}, /in the route already/],
    ['after one that is not', { do: 'add', code: 'OWS', after: ['FT1'], before: [] }, {}, /FT1 is not in this route/],
    ['after nothing', { do: 'add', code: 'OWS', after: [], before: [] }, {}, /Say after which/],
    ['in a circle', { do: 'add', code: 'OWS', after: ['TT1'], before: ['STR'] }, {}, /circle/],
    [
      'one for the rotor that did not come',
      { do: 'add', code: 'RBT', after: ['DIS'], before: [] },
      { came: 'stator only' },
      /needs the rotor|in the route/,
    ],
    ['another way of impregnating', { do: 'add', code: 'IMPV', after: ['PRE'], before: [] }, {}, /another way/],
    [
      'before what was done',
      { do: 'add', code: 'OWS', after: ['STR'], before: ['TT1'] },
      { states: { TT1: 'passed' } },
      /was begun already/,
    ],
    ['out, though it guards', { do: 'take out', code: 'PVT' }, {}, /stays in every route/],
    ['out, though it was begun', { do: 'take out', code: 'BLS' }, { states: { BLS: 'running' } }, /was begun/],
    ['out, though it is not in it', { do: 'take out', code: 'OWS' }, {}, /not in this route/],
    [
      'the test before varnish no longer held by the bore',
      { do: 'wait', code: 'PVT', after: ['INS'] },
      {},
      /no longer wait/,
    ],
    ['wait for what comes later', { do: 'wait', code: 'STR', after: ['COL', 'BLS'] }, {}, /circle/],
    ['wait for nothing', { do: 'wait', code: 'STR', after: [] }, {}, /Say what/],
    [
      'what it waited for changed, though begun',
      { do: 'wait', code: 'STR', after: ['COL', 'RBT'] },
      { states: { STR: 'running' } },
      /settled/,
    ],
  ])('refuses %s', (_, edit, of, why) => {
    const from = (of as { came?: string }).came ? routeFor('ac_random_rewind', 'stator only', 'dip') : graph;
    expect(refused(edit, of, from)).toMatch(why);
  });
  it('lets one wait for another rail too, and leave out what a shop may leave out', () => {
    expect(refused({ do: 'wait', code: 'STR', after: ['COL', 'RBT'] })).toBeUndefined();
    expect(refused({ do: 'take out', code: 'BLS' })).toBeUndefined();
    const without = editedRoute(graph, { do: 'take out', code: 'BLS' });
    expect(without['WSH']).toEqual(['TT1']);
  });
  it.each(ROUTE_IDS)('%s as published breaks no hold of itself', (id) => {
    const own = ROUTES[id].graph;
    const broken = Object.entries(own).filter(([code, before]) => before.some((b) => !ancestorsOf(own, code).has(b)));
    expect(broken).toEqual([]);
  });
  it('stays without a circle and with every hold, however it is edited', () => {
    const codes = fc.constantFrom(...OPERATIONS.keys(), 'IMPD.2', 'DRN.2', 'CUR.2', 'CUR.3');
    const some = fc.array(codes, { maxLength: 3 });
    const edit: fc.Arbitrary<RouteEdit> = fc.oneof(
      fc.record({ do: fc.constant('add' as const), code: codes, after: some, before: some }),
      fc.record({ do: fc.constant('take out' as const), code: codes }),
      fc.record({ do: fc.constant('wait' as const), code: codes, after: some }),
      fc.record({ do: fc.constant('coats' as const), coats: fc.integer({ min: 0, max: MOST_RUNS + 1 }) }),
      fc.record({ do: fc.constant('removal' as const), way: fc.constantFrom(...REMOVALS) }),
    );
    const state = fc.constantFrom<StepState>('open', 'open', 'open', 'passed', 'running', 'failed');
    fc.assert(
      fc.property(
        fc.constantFrom(...ROUTE_IDS),
        fc.array(edit, { minLength: 1, maxLength: 25 }),
        fc.dictionary(codes, state, { maxKeys: 10 }),
        (id, edits, states) => {
          let now: RouteGraph = routeFor(id, 'whole motor', 'dip');
          for (const one of edits) {
            if (routeEditRefusal(now, one, { states, came: 'whole motor', impregnation: 'dip' }) !== undefined)
              continue;
            now = editedRoute(now, one);
            expect(() => inOrder(now)).not.toThrow();
            for (const [code, before] of holdsOf(now)) expect(ancestorsOf(now, code).has(before)).toBe(true);
          }
        },
      ),
      { numRuns: draws(150) },
    );
  });
});
