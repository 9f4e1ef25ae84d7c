import { median } from '../quantity/extent.ts';
import { num, type Readings } from './testKind.ts';

/** Motors of a kind that must have been read before their median is called usual. Source: common practice. */
export const LEAST_OF_A_KIND = 5;
/** Direct voltages within this share of one another are alike: the leakage of insulation does not follow the voltage in a straight line. */
const SAME_DIRECT_VOLTAGE = 0.05;

const voltageOf = (v: Readings): string => (typeof v['voltage'] === 'string' ? v['voltage'] : 'AC');

/**
 * The current that is usual at a test voltage for motors of a kind: the median of the others, each brought to this voltage (alternating:
 * the current is that of a capacitance and follows the voltage; direct: only readings at the same voltage).
 * @param others a reading of each other motor: current in mA, with what was typed
 * @returns mA; undefined with fewer than five motors
 */
export function usualLeakageMA(
  others: readonly { figure: number; values: Readings }[],
  now: Readings,
): number | undefined {
  const volts = num(now, 'testV');
  if (volts === undefined || !(volts > 0)) return undefined;
  const alike = others.flatMap(({ figure, values }) => {
    const at = num(values, 'testV');
    if (at === undefined || !(at > 0) || !(figure > 0) || voltageOf(values) !== voltageOf(now)) return [];
    if (voltageOf(now) === 'AC') return [(figure * volts) / at];
    return Math.abs(at - volts) <= SAME_DIRECT_VOLTAGE * volts ? [figure] : [];
  });
  return alike.length < LEAST_OF_A_KIND ? undefined : median(alike);
}
