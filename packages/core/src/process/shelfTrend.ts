import { z } from 'zod';
import { defineCalculation, refuse } from '../calculation.ts';
import { formatNumber } from '../quantity/format.ts';

/** Calculation `process.shelfTrend`: viscosity of a stored resin over days, and the day it reaches its limit. */
export const processShelfTrend = defineCalculation({
  id: 'process.shelfTrend',
  version: 1,
  title: 'Trend of a resin in its tank: straight line of ln(viscosity) over days, day of the limit',
  sources: ['viscosity of a resin that ages grows exponentially: common practice', 'least squares'],
  input: z.strictObject({
    readings: z
      .array(z.strictObject({ day: z.number().min(0).max(20000), viscosity: z.number().positive().max(1e7) }))
      .min(2)
      .max(2000),
    limit: z.number().positive().max(1e7),
  }),
  output: z.object({
    perDay: z.number().describe('relative growth a day'),
    limitDay: z.number().optional().describe('absent where it does not grow'),
    says: z.string(),
  }),
  example: {
    readings: [
      { day: 0, viscosity: 540 },
      { day: 28, viscosity: 571 },
      { day: 61, viscosity: 612 },
    ],
    limit: 900,
  },
  compute: ({ readings, limit }, note) => {
    const n = readings.length;
    const meanDay = readings.reduce((sum, r) => sum + r.day, 0) / n;
    const meanLog = readings.reduce((sum, r) => sum + Math.log(r.viscosity), 0) / n;
    const spread = readings.reduce((sum, r) => sum + (r.day - meanDay) ** 2, 0);
    if (spread === 0) refuse('readings', 'All readings are of one day: a trend wants two days at least.');
    const perDay = readings.reduce((sum, r) => sum + (r.day - meanDay) * (Math.log(r.viscosity) - meanLog), 0) / spread;
    const start = meanLog - perDay * meanDay;
    const limitDay = perDay > 0 ? (Math.log(limit) - start) / perDay : undefined;
    note?.({
      name: 'Growth',
      symbol: 'b',
      formula: 'slope of ln(viscosity) over days, least squares',
      numbers: `${n} readings over ${formatNumber(Math.max(...readings.map((r) => r.day)) - Math.min(...readings.map((r) => r.day)))} days`,
      value: perDay,
      unit: '1/d',
      source: 'common practice',
    });
    return {
      perDay,
      ...(limitDay === undefined ? {} : { limitDay }),
      says:
        limitDay === undefined
          ? 'It does not thicken.'
          : `It grows by ${formatNumber(100 * (Math.exp(30 * perDay) - 1))} % in 30 days and reaches ${formatNumber(limit)} on day ${formatNumber(Math.floor(limitDay))}.`,
    };
  },
});
