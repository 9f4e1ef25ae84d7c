import { describe, expect, it } from 'vitest';
import { aidsOf } from './aids.ts';
import { cureRate, GAS_CONSTANT } from './cure.ts';
import { bakeInTurn, coatHolds, coatsOf, withCoats } from './coats.ts';
import { coatsLived, type CoatBake } from './coatHistory.ts';
import { judgeRecord } from './judgeRecord.ts';
import { baseOf, MOST_RUNS, operation, operationIf, runCode, runOf } from './operations.ts';
import { ovenUseOf } from './ovenLoad.ts';
import { removalOf, REMOVALS, removalSteps, withRemoval } from './removal.ts';
import { editedRoute, routeEditRefusal } from './routeEdit.ts';
import { ancestorsOf, inOrder, laidOut, routeFor, routeHours, withoutOperations, type RouteGraph } from './routes.ts';

const dip = routeFor('ac_random_rewind', 'whole motor', 'dip');
const open = { states: {}, came: 'whole motor', impregnation: 'dip' } as const;

describe('coats of resin', () => {
  it.each([
    ['CUR', 'CUR', 1],
    ['CUR.2', 'CUR', 2],
    ['IMPD.5', 'IMPD', 5],
    ['CUR.1', 'CUR.1', 1],
    ['cur.2', 'cur.2', 1],
    ['CUR.22', 'CUR.22', 1],
  ])('%s is run %s %d', (code, base, run) => {
    expect([baseOf(code), runOf(code)]).toEqual([base, run]);
    if (baseOf(code) !== code) expect(runCode(base, run)).toBe(code);
  });
  it.each([
    ['CUR.2', true],
    [`DRN.${MOST_RUNS}`, true],
    [`CUR.${MOST_RUNS + 1}`, false],
    ['WND.2', false],
    ['XYZ.2', false],
    ['PRE.2', false],
  ])('is there an operation %s: %s', (code, is) => {
    expect(operationIf(code) !== undefined).toBe(is);
    if (!is) expect(() => operation(code)).toThrow(RangeError);
  });
  it('a further run has the same record, its own title, and asks whether the part was turned end for end', () => {
    expect(operation('CUR.2').title).toBe('Cure, coat 2');
    expect(operation('CUR.2').fields).toEqual(operation('CUR').fields);
    expect(ovenUseOf('CUR.3')).toBe('bake');
    const of = (turned: boolean) =>
      judgeRecord(
        operation('IMPD.2'),
        { lot: 'A', part: 50, minutes: 20, bubbles: true, turned },
        { limits: {}, earlier: {}, person: { name: 'Ada' } },
      ).verdict;
    expect([of(true), of(false)]).toEqual(['pass', 'attention']);
  });
  it('a second coat adds 0.458 h labour and 10.468 h at a shaft height of 132 mm (process reference, 1.9)', () => {
    const [one, two] = [routeHours(dip, 132), routeHours(withCoats(dip, 2), 132)];
    expect(two.labourH - one.labourH).toBeCloseTo(0.458, 3);
    expect(two.shortestElapsedH - one.shortestElapsedH).toBeCloseTo(10.468, 3);
  });
  it('each waits for the one before it; what followed the cure follows the last', () => {
    const three = withCoats(dip, 3);
    expect(coatsOf(three)).toBe(3);
    expect(three['IMPD.2']).toEqual(['CUR']);
    expect(three['DRN.2']).toEqual(['IMPD.2']);
    expect(three['CUR.2']).toEqual(['DRN.2']);
    expect(three['IMPD.3']).toEqual(['CUR.2']);
    expect(three['CLN']).toEqual(['CUR.3']);
    expect(withCoats(three, 1)).toEqual(dip);
    expect(withCoats(three, 2)).toEqual(withCoats(dip, 2));
    expect(coatHolds(dip)).toEqual([]);
    expect(coatHolds(three)).toContainEqual(['CLN', 'CUR.3']);
    expect(() => inOrder(three)).not.toThrow();
  });
  it('without a step to drain, in a vessel, by trickle; not where the wire is bonded or nothing is impregnated', () => {
    const undrained = withCoats(withoutOperations(dip, new Set(['DRN'])), 2);
    expect(undrained['CUR.2']).toEqual(['IMPD.2']);
    const vessel = withCoats(routeFor('ac_form_rewind', 'whole motor', 'vacuum-pressure'), 2);
    expect(vessel['IMPV.2']).toEqual(['CUR']);
    const trickle = withCoats(routeFor('ac_random_rewind', 'stator only', 'trickle'), 2);
    expect(trickle['CUR.2']).toEqual(['IMPT.2']);
    for (const none of [
      routeFor('ac_random_rewind', 'whole motor', 'bonded wire'),
      routeFor('overhaul', 'whole motor', 'dip'),
    ]) {
      expect(coatsOf(none)).toBe(0);
      expect(withCoats(none, 2)).toBe(none);
      expect(routeEditRefusal(none, { do: 'coats', coats: 2 }, open)).toMatch(/no coat/);
    }
  });
  it.each([
    [0, {}, /1 to 5/],
    [6, {}, /1 to 5/],
    [1.5, {}, /1 to 5/],
    [2, { CLN: 'passed' }, /Clean bore and fits was begun already/],
    [2, { CUR: 'passed' }, undefined],
    [2, { CUR: 'failed' }, undefined],
  ] as const)('%d coats, with %o', (coats, states, why) => {
    const refusal = routeEditRefusal(dip, { do: 'coats', coats }, { ...open, states });
    if (why) expect(refusal).toMatch(why);
    else expect(refusal).toBeUndefined();
  });
  it('a coat that was begun is not taken away, and its order is a hold', () => {
    const two = withCoats(dip, 2);
    const of = { ...open, states: { 'IMPD.2': 'running' } } as const;
    expect(routeEditRefusal(two, { do: 'coats', coats: 1 }, of)).toMatch(/Dip, coat 2 was begun/);
    expect(routeEditRefusal(two, { do: 'wait', code: 'CLN', after: ['CUR'] }, open)).toMatch(/that hold stays/);
    expect(routeEditRefusal(two, { do: 'wait', code: 'IMPD.2', after: ['PRE'] }, open)).toMatch(/that hold stays/);
    expect(routeEditRefusal(dip, { do: 'add', code: 'CUR.2', after: ['CUR'], before: ['CLN'] }, open)).toMatch(
      /coats of resin/i,
    );
  });
  it.each([
    [{ CUR: 'running', 'CUR.2': 'open' }, 'CUR'],
    [{ CUR: 'passed', 'CUR.2': 'open' }, 'CUR.2'],
    [{ CUR: 'attention', 'CUR.2': 'open' }, 'CUR.2'],
    [{ CUR: 'failed', 'CUR.2': 'open' }, 'CUR'],
    [{ CUR: 'passed', 'CUR.2': 'passed' }, 'CUR.2'],
    [{ CUR: 'waived', 'CUR.2': 'running' }, 'CUR.2'],
    [{ DRN: 'running' }, undefined],
  ])('with %o a log is of %s', (states, code) =>
    expect(bakeInTurn(Object.entries(states).map(([c, state]) => ({ code: c, state })))).toBe(code),
  );
});

describe('C42 the activation that doubles the rate in 10 K', () => {
  it.each([
    [135, 145, 98.36],
    [150, 160, 105.63],
  ])('from %d to %d °C: %d kJ/mol (process reference, 4.2)', (from, to, activationKJMol) => {
    const rate = cureRate(to, from, { law: 'arrhenius', activationKJMol }, null, 300);
    expect(rate).toBeCloseTo(2, 3);
    // solved for: Ea = R ln 2 / (1/T1 − 1/T2)
    const exact = (GAS_CONSTANT * Math.LN2) / (1 / (from + 273.15) - 1 / (to + 273.15)) / 1000;
    expect(Math.abs(exact - activationKJMol)).toBeLessThanOrEqual(0.05);
  });
});

describe('what the last coat left', () => {
  it('the aid at the cleaning begins with the mass of the last coat that was drained', () => {
    const aid = aidsOf('CLN').find((a) => a.id === 'pick-up');
    const start = (earlier: Record<string, Record<string, number>>) =>
      aid?.start({ nameplate: {}, earlier, limits: {} }).drained;
    expect(start({ DRN: { wet: 40 } })).toBe('40 kg');
    expect(start({ DRN: { wet: 40 }, 'DRN.2': { wet: 41.5 } })).toBe('41.5 kg');
    expect(start({ DRN: { wet: 40 }, 'DRN.2': {} })).toBe('40 kg');
    expect(start({})).toBeUndefined();
  });
});

describe('what a coat lived through', () => {
  const resin = { name: 'polyester', ratedC: 130, ratedH: 7, maxC: 150 };
  const bake = (code: string, more: Partial<CoatBake> = {}): CoatBake => ({
    code,
    resin,
    degree: 1.1,
    largest: 1.3,
    hottestC: 138,
    ...more,
  });
  const limits = { overBakeDegree: 3, aboveRatedK: 20 };
  const of = (...bakes: CoatBake[]) => coatsLived(bakes, limits);
  it('its own bake, and the later ones with it', () => {
    const [one, two] = of(bake('CUR'), bake('CUR.2', { largest: 1.2, hottestC: 141 }));
    expect(one).toMatchObject({ coat: 1, ownDegree: 1.1, hottestC: 141, otherResin: false });
    expect(one?.livedDegree).toBeCloseTo(2.5, 12);
    expect(one?.judged.verdict).toBe('pass');
    expect(two).toMatchObject({ coat: 2, livedDegree: 1.2, hottestC: 141 });
  });
  it.each([
    [1.7, 'pass'],
    [1.7001, 'attention'],
  ])('over-bake counts over both: %d more', (largest, verdict) =>
    expect(of(bake('CUR'), bake('CUR.2', { largest }))[0]?.judged.verdict).toBe(verdict),
  );
  it.each([
    [150, 'pass'],
    [150.1, 'attention'],
  ])('the highest temperature too: %d °C in the later bake', (hottestC, verdict) => {
    const [one, two] = of(bake('CUR'), bake('CUR.2', { hottestC }));
    expect(one?.judged.verdict).toBe(verdict);
    if (verdict === 'attention') expect(one?.judged.reason).toMatch(/Coat 1 came to 150\.1 °C in a later bake/);
    // its own bake is judged by its own log
    expect(two?.judged.verdict).toBe('pass');
  });
  it('a later bake of another resin heats it and adds no degree; the last log of a bake counts', () => {
    const [one] = of(
      bake('CUR'),
      bake('CUR.2', { resin: { ...resin, ratedC: 150, maxC: 170 }, hottestC: 155, largest: 9 }),
    );
    expect(one).toMatchObject({ otherResin: true, livedDegree: 1.3 });
    expect(one?.judged.reason).toMatch(/155 °C in a later bake, above its highest 150 °C/);
    expect(of(bake('CUR', { largest: 9 }), bake('CUR', { largest: 1 }))).toMatchObject([{ livedDegree: 1 }]);
    expect(of()).toEqual([]);
    expect(of({ code: 'CUR', resin })[0]).toEqual({
      coat: 1,
      otherResin: false,
      judged: { verdict: 'pass', reason: '' },
    });
  });
  it('without a highest temperature of its own it is so far above the rated one', () => {
    const free = { name: 'x', ratedC: 130, ratedH: 7 };
    const at = (hottestC: number) =>
      of(bake('CUR', { resin: free }), bake('CUR.2', { resin: free, hottestC }))[0]?.judged.verdict;
    expect([at(150), at(150.5)]).toEqual(['pass', 'attention']);
  });
});

describe('the order of a route that was kept', () => {
  const shuffled = (graph: RouteGraph): RouteGraph => Object.fromEntries(Object.entries(graph).sort());
  it.each([
    ['as published', dip],
    ['three coats', withCoats(dip, 3)],
    ['cold pull', withRemoval(dip, 'cold pull')],
    ['one more, washed before blasting', editedRoute(dip, { do: 'add', code: 'OWS', after: ['STR'], before: ['BLS'] })],
  ])('%s: as it was published, what came in behind what it waits for', (_, graph) => {
    const order = Object.keys(laidOut(shuffled(graph), dip));
    expect(order.filter((c) => Object.hasOwn(dip, c))).toEqual(Object.keys(dip).filter((c) => order.includes(c)));
    expect([...order].sort()).toEqual(Object.keys(graph).sort());
    order.forEach((c, i) => {
      for (const b of graph[c] ?? []) expect(order.indexOf(b), `${b} before ${c}`).toBeLessThan(i);
    });
    expect(laidOut(shuffled(graph), dip)).toEqual(graph);
  });
  it('coat after coat, between the first cure and the cleaning', () => {
    const order = Object.keys(laidOut(shuffled(withCoats(dip, 2)), dip));
    const from = order.indexOf('CUR');
    expect(order.slice(from, from + 5)).toEqual(['CUR', 'IMPD.2', 'DRN.2', 'CUR.2', 'CLN']);
  });
});

describe('a whole route in the place of another', () => {
  const take = (graph: RouteGraph, states = {}) => routeEditRefusal(dip, { do: 'take', graph }, { ...open, states });
  it.each<[string, RouteGraph, RegExp | undefined]>([
    ['the same', dip, undefined],
    ['one with two coats', withCoats(dip, 2), undefined],
    ['one with what there is not', { ...dip, XYZ: ['INT'] }, /no operation XYZ/],
    ['one that waits for what is not in it', { ...dip, CLN: ['CUR.2'] }, /CUR\.2 is not in this route/],
    ['one without a test', withoutOperations(dip, new Set(['PVT'])), /Tests before resin is not in that route/],
    ['one with a hold broken', { ...dip, PVT: ['INS'] }, /that hold stays/],
    ['one in a circle', { ...dip, CUT: [...(dip['CUT'] ?? []), 'STR'] }, /circle/],
  ])('%s', (_, graph, why) => {
    if (why) expect(take(graph)).toMatch(why);
    else expect(take(graph)).toBeUndefined();
  });
  it('nothing that was begun goes, and nothing comes before it', () => {
    expect(take(withoutOperations(dip, new Set(['BLS'])), { BLS: 'passed' })).toMatch(/was begun; it stays on record/);
    expect(take(withCoats(dip, 2), { CLN: 'running' })).toMatch(/was begun already/);
    expect(take(withCoats(dip, 2), { CUR: 'passed' })).toBeUndefined();
  });
});

describe('how a winding comes out', () => {
  it.each(REMOVALS)('%s: its own steps between cut and stripping, the core tests stay', (way) => {
    const route = withRemoval(dip, way);
    expect(removalOf(route)).toBe(way);
    const before = ancestorsOf(route, 'STR');
    for (const code of [...removalSteps(way), 'CUT', 'CT1']) expect(before.has(code), code).toBe(true);
    for (const other of REMOVALS.filter((w) => w !== way))
      for (const code of removalSteps(other)) expect(Object.hasOwn(route, code), code).toBe(false);
    expect(ancestorsOf(route, 'DSG').has('CT2')).toBe(true);
    expect(withRemoval(route, 'burn-off')['STR']).toEqual(dip['STR']);
  });
  it('what else the stripping waits for stays', () => {
    const waits: RouteGraph = { ...dip, STR: ['COL', 'RBT'] };
    expect([...(withRemoval(waits, 'cold pull')['STR'] ?? [])].sort()).toEqual(['RBT', 'WPL']);
  });
  it.each([
    ['burn-off', {}, /burn-off already/],
    ['cold pull', { BRN: 'passed' }, /Burn off was begun/],
    ['cold pull', { CUT: 'passed' }, undefined],
    ['chemical', { STR: 'passed' }, /Strip, weigh the copper was begun already/],
  ] as const)('to %s with %o', (way, states, why) => {
    const refusal = routeEditRefusal(dip, { do: 'removal', way }, { ...open, states });
    if (why) expect(refusal).toMatch(why);
    else expect(refusal).toBeUndefined();
  });
  it('nothing is stripped in an overhaul', () =>
    expect(
      routeEditRefusal(routeFor('overhaul', 'whole motor', 'dip'), { do: 'removal', way: 'chemical' }, open),
    ).toMatch(/No winding is stripped/));
  it('a route whose winding is pulled as it is names no way', () => {
    const bare = withoutOperations(dip, new Set(['BRN', 'COL']));
    expect(removalOf(bare)).toBeUndefined();
    expect(editedRoute(bare, { do: 'removal', way: 'burn-off' })['STR']).toEqual(['COL']);
  });
});
