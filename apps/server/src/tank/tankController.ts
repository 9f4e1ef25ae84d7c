import { changeTankBody, fillTankBody, tankBody, tankTestBody, type TankView } from '@norther/contracts';
import { Controller, Get, Inject, Param, ParseUUIDPipe, Post, Put } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { z } from 'zod';
import { Acting, Needs } from '../auth/guard.ts';
import type { Act } from '../database/writes.ts';
import { Read, Takes } from '../problem/body.ts';
import { Tanks } from './tanks.ts';

@ApiTags('tanks')
@Controller('api/tanks')
export class TankController {
  readonly tanks: Tanks;
  constructor(@Inject(Tanks) tanks: Tanks) {
    this.tanks = tanks;
  }

  /** Resin tanks: what each holds, its tests, whether it may be used today. */
  @Get()
  list(): Promise<TankView[]> {
    return this.tanks.list();
  }

  @Needs('foreman')
  @Post()
  @Takes(tankBody)
  add(@Read(tankBody) body: z.output<typeof tankBody>, @Acting() act: Act): Promise<{ id: string }> {
    return this.tanks.add(act, body);
  }

  @Needs('foreman')
  @Put(':id')
  @Takes(changeTankBody)
  change(
    @Param('id', ParseUUIDPipe) id: string,
    @Read(changeTankBody) body: z.output<typeof changeTankBody>,
    @Acting() act: Act,
  ): Promise<{ id: string }> {
    return this.tanks.change(act, id, body);
  }

  /** A shelf test. */
  @Needs('winder')
  @Post(':id/tests')
  @Takes(tankTestBody)
  test(
    @Param('id', ParseUUIDPipe) id: string,
    @Read(tankTestBody) body: z.output<typeof tankTestBody>,
    @Acting() act: Act,
  ): Promise<{ verdict: string; reason: string }> {
    return this.tanks.test(act, id, body.typed);
  }

  /** Filled or topped up: a new lot, with its parents. */
  @Needs('winder')
  @Post(':id/fill')
  @Takes(fillTankBody)
  fill(
    @Param('id', ParseUUIDPipe) id: string,
    @Read(fillTankBody) body: z.output<typeof fillTankBody>,
    @Acting() act: Act,
  ): Promise<{ lot: string }> {
    return this.tanks.fill(act, id, body);
  }
}
