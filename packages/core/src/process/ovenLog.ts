import { z } from 'zod';
import { defineCalculation } from '../calculation.ts';
import { MOST_CSV, readTraceCsv } from './trace.ts';

/** Calculation `process.ovenLog`: an oven log as text read into channels, with every row that could not be read. */
export const processOvenLog = defineCalculation({
  id: 'process.ovenLog',
  version: 1,
  heavy: true,
  title: 'Oven log read from text: times, channels in °C, rows that cannot be read',
  sources: ['reading rules of thermocouple logs: common practice'],
  input: z.strictObject({
    csv: z.string().max(MOST_CSV),
    unit: z.enum(['°C', '°F']).optional().describe('default: as the header says, else °C'),
  }),
  output: z.object({
    trace: z.object({
      timesMin: z.array(z.number()),
      channels: z.array(z.object({ name: z.string(), valuesC: z.array(z.number().nullable()) })),
    }),
    badRows: z.array(z.object({ line: z.number(), text: z.string(), reason: z.string() })),
    separator: z.string(),
    unit: z.enum(['°C', '°F']),
    timeKind: z.enum(['minutes', 'clock', 'date and clock']),
  }),
  example: { csv: 'time;part °C;air °C\n23:50;24,5;80\n00:20;60,1;140,5\n00:50;fault;141\n' },
  compute: ({ csv, unit }, note) => {
    const read = readTraceCsv(csv, unit ? { unit } : {});
    note?.({
      name: 'Rows that count',
      symbol: '',
      formula: 'rows with a time and at least one temperature, in order of time; of equal times the last received',
      numbers: `${read.trace.timesMin.length} read, ${read.badRows.length} with a problem`,
      value: read.trace.timesMin.length,
      unit: 'rows',
      source: 'common practice',
    });
    return read;
  },
});
