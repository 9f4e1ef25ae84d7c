import { describe, expect, it } from 'vitest';
import { holdForLists, LISTS_MISSING, viewRoute, type StepState } from './engine.ts';
import { OPERATIONS } from './operations.ts';
import { ancestorsOf, inOrder, routeFor } from './routes.ts';

const graph = routeFor('ac_random_rewind', 'whole motor', 'dip');
const passedUpTo = (...codes: string[]): Record<string, StepState> =>
  Object.fromEntries(codes.flatMap((c) => [...ancestorsOf(graph, c), c]).map((c) => [c, 'passed' as const]));

const NEED_LISTS: readonly string[] = [...OPERATIONS.values()].filter((o) => o.waitsForLists).map((o) => o.code);

describe('what waits for the cutting and picking lists', () => {
  it('liner and winding are held when they would be ready, with the reason', () => {
    const views = viewRoute(graph, passedUpTo('DSG', 'SLP'));
    expect(NEED_LISTS.map((c) => views.find((v) => v.code === c)?.status)).toEqual(['ready', 'ready']);
    const held = holdForLists(views, false);
    for (const code of NEED_LISTS)
      expect(held.find((v) => v.code === code)).toMatchObject({ status: 'blocked', why: LISTS_MISSING });
    expect(held.filter((v) => !NEED_LISTS.includes(v.code))).toEqual(views.filter((v) => !NEED_LISTS.includes(v.code)));
  });
  it('nothing is held once they are made, nor what waits or is done anyway', () => {
    const ready = viewRoute(graph, passedUpTo('DSG', 'SLP'));
    expect(holdForLists(ready, true)).toEqual(ready);
    const early = viewRoute(graph, passedUpTo('DAT'));
    expect(holdForLists(early, false)).toEqual(early);
    const done = viewRoute(graph, passedUpTo('INS'));
    expect(holdForLists(done, false)).toEqual(done);
  });
  it('every operation that needs them stands in the rewind route before the coils go in', () => {
    const order = inOrder(graph);
    for (const code of NEED_LISTS) {
      expect(order).toContain(code);
      expect(ancestorsOf(graph, 'INS').has(code)).toBe(true);
    }
    expect(NEED_LISTS.some((c) => inOrder(routeFor('overhaul', 'whole motor', 'dip')).includes(c))).toBe(false);
  });
});
