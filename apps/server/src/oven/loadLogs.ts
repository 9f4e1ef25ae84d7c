import { chunksOf, formatNumber, isAirByName, readTraceCsv } from '@norther/core';
import type { OvenLogAnswer, ovenLogBody } from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import type { z } from 'zod';
import type { Act } from '../database/writes.ts';
import { badField, Problem } from '../problem/problem.ts';
import { column } from '../trace/packing.ts';
import { addTrace } from '../trace/traceStatements.ts';
import { OpenLoads } from './openLoads.ts';

/** Rows of a file that are said to be bad. */
const MOST_SAID = 50;
/** A file's clock and ours may stray by this. */
const AHEAD_MS = 5 * 60_000;

/** Logs of a load that come as files. */
@Injectable()
export class LoadLogs {
  readonly open: OpenLoads;
  constructor(@Inject(OpenLoads) open: OpenLoads) {
    this.open = open;
  }

  async add(act: Act, id: string, body: z.output<typeof ovenLogBody>): Promise<OvenLogAnswer> {
    const { trace, badRows, unit } = readTraceCsv(body.csv, body.unit ? { unit: body.unit } : {});
    const lastMin = trace.timesMin.at(-1) ?? 0;
    if (trace.timesMin.length < 2)
      throw badField(
        'csv',
        `Fewer than two rows of this file can be read: each needs a time and a temperature.${badRows[0] ? ` Line ${badRows[0].line}: ${badRows[0].reason}` : ''}`,
      );
    return this.open.change(act, id, async (unitOfWork, all) => {
      const { startedAt, number } = all.load;
      if (!startedAt) throw new Problem(409, 'Not started', 'Start the load first; then its log counts.');
      const firstAt = body.firstAt === undefined ? startedAt : new Date(body.firstAt);
      const lastAt = firstAt.getTime() + lastMin * 60_000;
      if (lastAt < startedAt.getTime())
        throw badField('firstAt', `Then the file ends before load ${number} was started. When was its first row read?`);
      if (lastAt > act.at.getTime() + AHEAD_MS)
        throw badField(
          'firstAt',
          `Then the file ends ${formatNumber((lastAt - act.at.getTime()) / 60_000, 3)} min from now: it holds ${formatNumber(lastMin, 4)} min. When was its first row read?`,
        );
      const traceId = await addTrace(
        unitOfWork.tx,
        {
          what: 'oven',
          channels: trace.channels.map((c) => ({
            name: c.name,
            unit: '°C',
            role: isAirByName(c.name) ? 'oven air' : 'not used',
          })),
          xUnit: 'min',
          source: 'file',
          sourceName: body.fileName,
          startAt: firstAt,
          at: act.at,
          endedAt: act.at,
        },
        chunksOf({
          x: Float64Array.from(trace.timesMin),
          values: trace.channels.map((c) => column([...c.valuesC])),
        }),
      );
      await this.open.rows.addLog(unitOfWork.tx, {
        loadId: id,
        traceId,
        personName: act.actor.name,
        at: act.at,
      });
      await this.open.event(
        unitOfWork,
        act,
        id,
        'note',
        `Log read in from ${body.fileName}, ${trace.timesMin.length} rows`,
      );
      await unitOfWork.audit({
        action: 'oven.log',
        summary: `Log of load ${number} read in from ${body.fileName}: ${trace.timesMin.length} rows, ${unit}`,
        after: { fileName: body.fileName, firstAt: firstAt.toISOString(), traceId },
      });
      return {
        rows: trace.timesMin.length,
        channels: trace.channels.map((c) => c.name),
        badRows: badRows.slice(0, MOST_SAID),
      };
    });
  }
}
