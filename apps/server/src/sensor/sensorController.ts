import { fitSensorBody, readSensorBody, removeSensorBody, type SensorView } from '@norther/contracts';
import type { Judged } from '@norther/core';
import { Controller, Get, HttpCode, Inject, Param, ParseUUIDPipe, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { z } from 'zod';
import { Acting, Needs } from '../auth/guard.ts';
import type { Act } from '../database/writes.ts';
import { Read, Takes } from '../problem/body.ts';
import { Sensors } from './sensors.ts';

@ApiTags('sensors')
@Controller('api/jobs/:number/sensors')
export class SensorController {
  readonly sensors: Sensors;
  constructor(@Inject(Sensors) sensors: Sensors) {
    this.sensors = sensors;
  }

  /** Sensors and heaters of a motor, with what was read of them. */
  @Get()
  list(@Param('number') number: string): Promise<SensorView[]> {
    return this.sensors.list(number);
  }

  @Needs('winder')
  @Post()
  @Takes(fitSensorBody)
  fit(
    @Param('number') number: string,
    @Read(fitSensorBody) body: z.output<typeof fitSensorBody>,
    @Acting() act: Act,
  ): Promise<{ id: string }> {
    return this.sensors.fit(act, number, body);
  }

  @Needs('winder')
  @Post(':id/readings')
  @Takes(readSensorBody)
  measure(
    @Param('number') number: string,
    @Param('id', ParseUUIDPipe) id: string,
    @Read(readSensorBody) body: z.output<typeof readSensorBody>,
    @Acting() act: Act,
  ): Promise<Judged> {
    return this.sensors.measure(act, number, id, body);
  }

  @Needs('foreman')
  @Post(':id/removal')
  @HttpCode(200)
  @Takes(removeSensorBody)
  async remove(
    @Param('number') number: string,
    @Param('id', ParseUUIDPipe) id: string,
    @Read(removeSensorBody) body: z.output<typeof removeSensorBody>,
    @Acting() act: Act,
  ): Promise<{ done: true }> {
    await this.sensors.remove(act, number, id, body.reason);
    return { done: true };
  }
}
