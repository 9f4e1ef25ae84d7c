import { describe, expect, it } from 'vitest';
import { PART_KINDS, partOnRail, PARTS, partsTakenIn, WINDING_PARTS, windingPartSchema } from '../machine/parts.ts';
import { operation } from './operations.ts';
import { ROUTE_IDS, ROUTES } from './routes.ts';

describe('a route', () => {
  it.each(ROUTE_IDS)('%s declares the rails and stages of its operations, and no others', (id) => {
    const { graph, rails, stages } = ROUTES[id];
    const operations = Object.keys(graph).map((code) => operation(code));
    expect([...new Set(operations.map((o) => o.rail))].sort()).toEqual([...rails].sort());
    expect([...new Set(operations.map((o) => o.stage))].sort()).toEqual([...stages].sort());
  });
  it.each(ROUTE_IDS)('%s rewinds parts it is for, which have a winding', (id) => {
    const { parts, rewinds } = ROUTES[id];
    for (const part of rewinds) expect([parts.includes(part), PARTS[part].winding]).toEqual([true, true]);
  });
});

describe('parts', () => {
  it('that have a winding are those whose windings are recorded', () => {
    expect(PART_KINDS.filter((k) => PARTS[k].winding)).toEqual([...WINDING_PARTS]);
  });
  it('of a visit follow from what came and from the rotor its plate speaks of', () => {
    const of = (came: 'whole motor' | 'stator only' | 'rotor only', plate = {}) =>
      partsTakenIn(ROUTES.ac_random_rewind.parts, came, plate);
    expect(of('whole motor')).toEqual(['stator', 'cage-rotor']);
    expect(of('whole motor', { rotorVoltageV: 223 })).toEqual(['stator', 'wound-rotor']);
    expect(of('rotor only', { rotorCurrentA: 80 })).toEqual(['wound-rotor']);
    expect(of('stator only', { rotorVoltageV: 223 })).toEqual(['stator']);
  });
  it('work of a rail is done on its first part; a second winding lies in the core of the first', () => {
    expect(partOnRail(['stator', 'second', 'wound-rotor'], 'stator')).toBe('stator');
    expect(partOnRail(['stator', 'second', 'wound-rotor'], 'rotor')).toBe('wound-rotor');
    expect(partOnRail(['stator'], 'rotor')).toBeUndefined();
  });
  it('are understood by their names of before', () => {
    expect(windingPartSchema.parse('rotor')).toBe('wound-rotor');
    expect(windingPartSchema.parse('second')).toBe('second');
    expect(windingPartSchema.safeParse('cage-rotor').success).toBe(false);
  });
});
