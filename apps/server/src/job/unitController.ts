import { newUnitsBody, unitBody, unitsQuery, type UnitDetail, type UnitsView } from '@norther/contracts';
import { Controller, Get, Inject, Param, ParseIntPipe, Post, Put, Query } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { z } from 'zod';
import { Acting, Needs } from '../auth/guard.ts';
import type { Act } from '../database/writes.ts';
import { read, Read, Takes } from '../problem/body.ts';
import { Units } from './units.ts';

/** Pieces of a job of many alike. */
@ApiTags('jobs')
@Controller('api/jobs/:number/units')
export class UnitController {
  readonly units: Units;
  constructor(@Inject(Units) units: Units) {
    this.units = units;
  }

  @Get()
  list(@Param('number') number: string, @Query() query: Record<string, unknown>): Promise<UnitsView> {
    return this.units.list(number, read(unitsQuery, query));
  }

  @Get(':ordinal')
  one(@Param('number') number: string, @Param('ordinal', ParseIntPipe) ordinal: number): Promise<UnitDetail> {
    return this.units.one(number, ordinal);
  }

  @Needs('winder')
  @Post()
  @Takes(newUnitsBody)
  add(
    @Param('number') number: string,
    @Read(newUnitsBody) body: z.output<typeof newUnitsBody>,
    @Acting() act: Act,
  ): Promise<UnitsView> {
    return this.units.add(act, number, body);
  }

  @Needs('winder')
  @Put(':ordinal')
  @Takes(unitBody)
  name(
    @Param('number') number: string,
    @Param('ordinal', ParseIntPipe) ordinal: number,
    @Read(unitBody) body: z.output<typeof unitBody>,
    @Acting() act: Act,
  ): Promise<null> {
    return this.units.name(act, number, ordinal, body.serial);
  }
}
