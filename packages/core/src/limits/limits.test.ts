import { describe, expect, it } from 'vitest';
import { EXAMPLE_PLATE, EXAMPLE_RECORD } from '../winding/exampleRecord.ts';
import { checkRecord } from '../winding/checks.ts';
import { ALL_LIMITS, limit, quoteLimit } from './limits.ts';
import { SIZE_RANGES, sizeRange } from './sizeRanges.ts';

describe('limits as data', () => {
  it('every limit has a name of its own, a value, a source', () => {
    expect(new Set(ALL_LIMITS.map((l) => l.id)).size).toBe(ALL_LIMITS.length);
    for (const l of ALL_LIMITS) {
      expect(l.published, l.id).toBeGreaterThan(0);
      expect(l.title.length, l.id).toBeGreaterThan(3);
      expect(l.source.length, l.id).toBeGreaterThan(3);
    }
  });
  it('the shop’s value comes first and is said to be the shop’s', () => {
    expect(limit('redesign.fluxWarnPercent')).toBe(2.5);
    expect(limit('redesign.fluxWarnPercent', { 'redesign.fluxWarnPercent': 2 })).toBe(2);
    expect(quoteLimit('redesign.fluxWarnPercent')).toBe('2.5 % (common practice)');
    expect(quoteLimit('redesign.fluxWarnPercent', { 'redesign.fluxWarnPercent': 2 })).toBe(
      '2 % (this shop; published 2.5, common practice)',
    );
    expect(() => limit('no.such' as never)).toThrow(/unknown limit/);
  });
});

describe('usual sizes', () => {
  it('are ranges, each end a limit of the shop', () => {
    for (const r of SIZE_RANGES) {
      expect(r.low).toBeLessThan(r.high);
      expect(limit(`range.${r.key}.low`)).toBe(r.low);
      expect(limit(`range.${r.key}.high`)).toBe(r.high);
    }
    expect(sizeRange('bore', { 'range.bore.high': 300 })).toMatchObject({ low: 25, high: 300 });
    expect(() => sizeRange('moon' as never, {})).toThrow(/unknown size/);
  });
  it('a shop that winds larger machines is not asked about them', () => {
    const large = { ...EXAMPLE_RECORD, boreM: 1.6 };
    const asked = (limits: Record<string, number>) =>
      checkRecord(large, EXAMPLE_PLATE, limits).some((f) => f.check === 'range' && f.message.startsWith('Bore'));
    expect(asked({})).toBe(true);
    expect(asked({ 'range.bore.high': 2000 })).toBe(false);
  });
  it('output over volts and amperes goes by the shop’s range too', () => {
    const poor = { ...EXAMPLE_PLATE, currentsA: [60] };
    const said = (limits: Record<string, number>) =>
      checkRecord(EXAMPLE_RECORD, poor, limits).some((f) => f.check === 'current');
    expect(said({})).toBe(true);
    expect(said({ 'range.product.low': 0.2 })).toBe(false);
  });
});
