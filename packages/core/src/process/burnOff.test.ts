import { describe, expect, it } from 'vitest';
import { worked } from '../../../../scripts/testing/worked.ts';
import { processBurnOff } from './burnOff.ts';

/** Trace C of the process reference: minutes and °C. */
const TRACE_C =
  '0,25 60,160 120,270 180,330 240,352 300,360 360,363 420,362 480,358 540,312 600,272 660,238 720,208 780,182 840,160 900,141 960,125 1020,111'
    .split(' ')
    .map((p) => p.split(',').map(Number) as [number, number]);
const log = (points: readonly (readonly [number, number | null])[], more: object = {}) =>
  worked(processBurnOff, {
    timesMin: points.map(([t]) => t),
    channels: [{ name: 'teeth', role: 'part', valuesC: points.map(([, c]) => c) }],
    corePlate: 'organic',
    ...more,
  });
/** Rises to a plateau and falls by `fallKH` an hour: hourly readings. */
const burn = (o: { top?: number; hours?: number; fallKH?: number } = {}): [number, number][] => {
  const { top = 355, hours = 4, fallKH = 50 } = o;
  const out: [number, number][] = [
    [0, 25],
    [60, 200],
  ];
  for (let h = 0; h <= hours; h++) out.push([120 + 60 * h, top]);
  let c = top;
  for (let t = out.length * 60; c > 110; t += 60) out.push([t, (c -= fallKH)]);
  return out;
};

describe('burn-off judged by the part', () => {
  it('C48: trace C, door at 900 min: 276.05 min burning, 46 K/h, opened hot and over the limit', () => {
    const judged = log(TRACE_C, { doorMin: 900 });
    expect(judged.burningMin).toBeCloseTo(276.05, 2);
    expect(judged.coolingKH).toBeCloseTo(46, 2);
    expect([...judged.flags].sort()).toEqual(['opened_hot', 'over_limit']);
    expect(judged.verdict).toBe('fail');
    expect(judged.atOpeningC).toBeCloseTo(141, 9);
  });
  it('the same core with inorganic plate was not too hot', () =>
    expect(log(TRACE_C, { doorMin: 1000, corePlate: 'inorganic' }).flags).toEqual([]));
  it('an unknown core plate counts as organic', () => expect(log(TRACE_C, { corePlate: 'unknown' }).limitC).toBe(360));

  it.each([
    ['hottest just inside', { top: 359.9 }, 'organic', []],
    ['hottest at the limit', { top: 360 }, 'organic', []],
    ['hottest just above', { top: 360.1 }, 'organic', ['over_limit']],
    ['inorganic at its limit', { top: 400 }, 'inorganic', []],
    ['inorganic just above', { top: 400.1 }, 'inorganic', ['over_limit']],
    ['just at burning temperature', { top: 345, hours: 3 }, 'organic', []],
    ['burned just too cool', { top: 344.9, hours: 6 }, 'organic', ['incomplete']],
    ['cooled at the limit', { fallKH: 60 }, 'organic', []],
    ['cooled just too fast', { fallKH: 60.5 }, 'organic', ['cooled_too_fast']],
  ] as const)('%s', (_, shape, corePlate, flags) => expect(log(burn(shape), { corePlate }).flags).toEqual(flags));

  it.each([
    [179.9, ['incomplete']],
    [180, []],
    [180.1, []],
  ])('%d min at burning temperature', (minutes, flags) =>
    expect(
      log(
        [
          [0, 345],
          [minutes / 2, 350],
          [minutes, 345],
          [minutes + 60, 300],
          [minutes + 120, 255],
        ],
        { maxGapMin: 200 },
      ).flags,
    ).toEqual(flags),
  );
  it.each([
    [119.9, []],
    [120, []],
    [120.1, ['opened_hot']],
  ])('opened with the part at %d °C', (c, flags) =>
    expect(log([...burn({ fallKH: 40 }), [1200, c]], { doorMin: 1200, maxGapMin: 900 }).flags).toEqual(flags),
  );
  it('falls below 200 °C are nobody’s business', () =>
    expect(
      log([...burn({ fallKH: 50 }).filter(([, c]) => c >= 150), [900, 190], [960, 60]], { maxGapMin: 600 }).flags,
    ).toEqual([]));
  it('a door outside the log, and one inside a gap: not known, cannot judge', () => {
    const end = burn().at(-1)?.[0] ?? 0;
    expect(log(burn(), { doorMin: end + 1 })).toMatchObject({ flags: ['unknown_at_open'], verdict: 'cannot judge' });
    const gap = burn().filter(([t]) => t < 480 || t > 600);
    expect(log(gap, { doorMin: 540, maxGapMin: 90 }).flags).toContain('unknown_at_open');
  });
  it('a gap earns nothing, breaks windows and is told', () => {
    const judged = log(
      burn({ hours: 4 }).filter(([t]) => t !== 240),
      { maxGapMin: 90 },
    );
    expect(judged.flags).toEqual(['incomplete', 'log_gap']);
    expect(judged.burningMin).toBeLessThan(180);
  });
  it('of several parts the hottest may not pass the limit, the coldest must have burned', () => {
    const times = burn().map(([t]) => t);
    const part = (name: string, top: number, role = 'part') => ({
      name,
      role,
      valuesC: burn({ top })
        .map(([, c]) => c)
        .slice(0, times.length),
    });
    const judged = worked(processBurnOff, {
      timesMin: times,
      channels: [part('teeth', 361), part('back', 340), part('air', 380, 'oven air')].map((c) => ({
        ...c,
        valuesC: times.map((_, i) => c.valuesC[i] ?? null),
      })),
      corePlate: 'organic',
      maxGapMin: 600,
    });
    expect(judged.flags).toEqual(['over_limit', 'incomplete']);
    expect(judged.channels.map((c) => c.name)).toEqual(['teeth', 'back']);
  });
  it('no channel on a part, or one that is nearly empty: cannot judge', () => {
    expect(
      worked(processBurnOff, {
        timesMin: [0, 1],
        channels: [{ name: 'air', role: 'oven air', valuesC: [1, 2] }],
        corePlate: 'organic',
      }),
    ).toMatchObject({ verdict: 'cannot judge', flags: [] });
    expect(
      log([
        [0, 20],
        [60, null],
      ]),
    ).toMatchObject({ verdict: 'cannot judge' });
  });
  it('a shop’s own limit decides', () =>
    expect(log(burn({ top: 352 }), { limits: { 'route.burnOffOrganicC': 350 } }).flags).toEqual(['over_limit']));
});
