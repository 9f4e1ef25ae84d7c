import { describe, expect, it } from 'vitest';
import { usualLeakageMA } from './usualLeakage.ts';

const at = (figure: number, testV = 2000, voltage?: string) => ({
  figure,
  values: { testV, ...(voltage ? { voltage } : {}) },
});
const now = (testV = 2000, voltage?: string) => ({ testV, ...(voltage ? { voltage } : {}) });

describe('leakage that is usual of a kind of motor', () => {
  it('is the median of at least five others', () => {
    expect(
      usualLeakageMA(
        [9, 3, 5, 4].map((mA) => at(mA)),
        now(),
      ),
    ).toBeUndefined();
    expect(
      usualLeakageMA(
        [9, 3, 5, 4, 100].map((mA) => at(mA)),
        now(),
      ),
    ).toBe(5);
    expect(
      usualLeakageMA(
        [9, 3, 5, 4, 100, 6].map((mA) => at(mA)),
        now(),
      ),
    ).toBe(5.5);
  });
  it('alternating: each is brought to the voltage of this test, as the current of a capacitance', () => {
    const others = [1, 2, 3, 4, 5].map((mA) => at(mA, 1000));
    expect(usualLeakageMA(others, now(2000))).toBe(6);
    expect(usualLeakageMA(others, now(500, 'AC'))).toBe(1.5);
  });
  it('direct: only readings at this voltage, within a twentieth', () => {
    const five = (volts: number) => [1, 2, 3, 4, 5].map((mA) => at(mA, volts, 'DC'));
    expect(usualLeakageMA(five(2100), now(2000, 'DC'))).toBe(3);
    expect(usualLeakageMA(five(2101), now(2000, 'DC'))).toBeUndefined();
    expect(usualLeakageMA(five(1900), now(2000, 'DC'))).toBe(3);
    expect(usualLeakageMA(five(1899), now(2000, 'DC'))).toBeUndefined();
    expect(usualLeakageMA(five(2000), now(2000))).toBeUndefined();
    expect(
      usualLeakageMA(
        [1, 2, 3, 4, 5].map((mA) => at(mA)),
        now(2000, 'DC'),
      ),
    ).toBeUndefined();
  });
  it('readings without a current or voltage do not count', () => {
    const four = [1, 2, 3, 4].map((mA) => at(mA));
    expect(usualLeakageMA([...four, at(0)], now())).toBeUndefined();
    expect(usualLeakageMA([...four, at(5, 0)], now())).toBeUndefined();
    expect(usualLeakageMA([...four, { figure: 5, values: {} }], now())).toBeUndefined();
    expect(usualLeakageMA([...four, at(5)], {})).toBeUndefined();
    expect(usualLeakageMA([...four, at(5)], { testV: 0 })).toBeUndefined();
  });
});
