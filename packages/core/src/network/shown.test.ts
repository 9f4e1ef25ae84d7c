import { describe, expect, it } from 'vitest';
import { checked, turn, WINDINGS } from '../../../../scripts/testing/slips.ts';
import { worked } from '../../../../scripts/testing/worked.ts';
import type { Layout } from '../winding/layoutTypes.ts';
import { usesOf, windingNetworkCheck } from './check.ts';
import { jointsOf } from './joints.ts';
import { reversed } from './mistakes.ts';
import { networkOf, signatureOf } from './network.ts';

describe('what it would show', () => {
  it('as drawn every ratio is one; with a group turned voltage falls and resistance stays', () => {
    const right = checked('star', (j) => j).signatures;
    expect(right).toHaveLength(1);
    expect(right[0]?.use).toBe('as connected');
    expect(right[0]?.pairs).toEqual([
      ['T1', 'T2'],
      ['T2', 'T3'],
      ['T3', 'T1'],
    ]);
    for (const kind of ['resistance', 'voltage', 'frequency', 'current'] as const)
      for (const x of right[0]?.[kind] ?? []) expect(x).toBeCloseTo(1, 9);
    const turned = checked('star', turn(1)).signatures[0];
    for (const x of turned?.resistance ?? []) expect(x).toBeCloseTo(1, 9);
    const { layout, connection } = WINDINGS.star;
    const [good, bad] = [jointsOf(connection), reversed(jointsOf(connection), 1)].map((j) =>
      signatureOf(networkOf(layout, j)),
    );
    turned?.voltage.forEach((x, i) => expect(x).toBeCloseTo((bad?.voltage[i] ?? 0) / (good?.voltage[i] ?? 1), 9));
    // a wave is the faster, the smaller the inductance
    turned?.frequency.forEach((x, i) =>
      expect(x).toBeCloseTo(Math.sqrt((good?.inductance[i] ?? 0) / (bad?.inductance[i] ?? 1)), 9),
    );
    turned?.current.forEach((x, i) => expect(x).toBeCloseTo((bad?.current[i] ?? 0) / (good?.current[i] ?? 1), 9));
  });
  it('nine leads come in four ways of linking, each with its own figures', () => {
    const uses = checked('nine', turn(1)).signatures.map((s) => s.use);
    expect(uses).toEqual(WINDINGS.nine.connection.links.map((l) => l.use));
    expect(uses).toContain('high voltage (series)');
    expect(new Set(uses).size).toBe(4);
  });
  it('an open phase reads −1 where nothing can be read', () => {
    const { example } = windingNetworkCheck;
    const opened = worked(windingNetworkCheck, { ...example, joints: String(example.joints).replace('T1-1S, ', '') });
    const [s] = opened.signatures;
    expect(s?.resistance.map((x) => Math.round(x * 1e9) / 1e9)).toEqual([-1, 1, -1]);
    expect(s?.current[0]).toBe(0);
    expect(s?.frequency.map((x) => Math.sign(x))).toEqual([-1, 1, -1]);
    expect(worked(windingNetworkCheck, { ...example, joints: '1F-4Q' }).problems).toHaveLength(1);
  });
});

describe('ways the leads are linked', () => {
  it('three leads: the line itself', () =>
    expect(usesOf(WINDINGS.star.layout, WINDINGS.star.connection)).toEqual([
      { row: undefined, lines: ['T1', 'T2', 'T3'], joints: [], poles: 2 },
    ]));
  it('nine leads: lines and links of each row of the table', () => {
    const { layout, connection } = WINDINGS.nine;
    usesOf(layout, connection).forEach((use, i) => {
      const row = connection.links[i];
      expect(use.row).toBe(row);
      expect(use.lines).toEqual(row?.lines.map((l) => l.split('-')[0]));
      const many = (row?.lines ?? []).filter((l) => l.includes('-')).map((l) => l.split('-'));
      expect(use.joints).toEqual([...many, ...(row?.links ?? []).map((l) => l.split('-'))]);
      expect(use.poles).toBe(4);
    });
    expect(connection.links.some((r) => r.lines.some((l) => l.includes('-')))).toBe(true);
  });
  it('two speeds: the second row has half the poles', () => {
    const two: Layout = { ...WINDINGS.nine.layout, kind: 'two-speed', poles: 8 };
    expect(usesOf(two, WINDINGS.nine.connection).map((u) => u.poles)).toEqual([8, 4, 8, 8]);
  });
  it('single-phase: main and auxiliary', () => {
    const single: Layout = { ...WINDINGS.star.layout, kind: 'single-phase' };
    expect(usesOf(single, WINDINGS.star.connection)).toEqual([
      { row: undefined, lines: ['U1', 'U2', 'Z1', 'Z2'], joints: [], poles: 2 },
    ]);
  });
});
