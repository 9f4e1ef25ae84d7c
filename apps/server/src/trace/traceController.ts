import type { TraceListed, TraceView } from '@norther/contracts';
import { Controller, Get, Inject, Param, Query } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { badField } from '../problem/problem.ts';
import { Traces } from './traces.ts';

function numberOf(name: string, text: string | undefined): number | undefined {
  if (text === undefined || text === '') return undefined;
  const value = Number(text);
  if (!Number.isFinite(value)) throw badField(name, `"${text.slice(0, 40)}" is no number.`);
  return value;
}

@ApiTags('traces')
@Controller('api/traces')
export class TraceController {
  readonly traces: Traces;
  constructor(@Inject(Traces) traces: Traces) {
    this.traces = traces;
  }

  /** The newest traces of a kind that instruments have sent, of one job where it is named: ?what=oven&job=26-0012. */
  @Get()
  sent(@Query('what') what?: string, @Query('job') job?: string): Promise<TraceListed[]> {
    if (!what) throw badField('what', 'Say of what, for example ?what=oven.');
    return this.traces.sent(what, job);
  }

  /** A window of a trace, as fine as asked: ?from=10&to=90&points=800, in the unit of its x. */
  @Get(':id')
  async window(
    @Param('id') id: string,
    @Query('from') from?: string,
    @Query('to') to?: string,
    @Query('points') points?: string,
  ): Promise<TraceView> {
    return this.traces.window(id, {
      from: numberOf('from', from),
      to: numberOf('to', to),
      points: numberOf('points', points),
    });
  }
}
