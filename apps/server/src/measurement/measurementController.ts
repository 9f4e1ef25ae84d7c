import type { Trend } from '@norther/contracts';
import { Controller, Get, Inject, Param, Query } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { badField } from '../problem/problem.ts';
import { Trends } from './trends.ts';

@ApiTags('measurements')
@Controller('api')
export class MeasurementController {
  readonly trends: Trends;
  constructor(@Inject(Trends) trends: Trends) {
    this.trends = trends;
  }

  /** One quantity over the visits of a motor, with motors of its kind beside it. */
  @Get('jobs/:number/trend')
  async trend(@Param('number') number: string, @Query('what') what?: string): Promise<Trend> {
    if (!what) throw badField('what', 'Say which quantity, for example ?what=windingResistance.unbalancePercent.');
    return this.trends.of(number, what);
  }
}
