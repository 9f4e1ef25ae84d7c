import { releasePlanBody, windingBody, type WindingView } from '@norther/contracts';
import { Controller, Inject, Param, Post, Put } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { z } from 'zod';
import { Acting, Needs } from '../auth/guard.ts';
import type { Act } from '../database/writes.ts';
import { Read, Takes } from '../problem/body.ts';
import { Windings } from './windings.ts';

@ApiTags('winding')
@Controller('api/jobs/:number/winding')
export class WindingController {
  readonly windings: Windings;
  constructor(@Inject(Windings) windings: Windings) {
    this.windings = windings;
  }

  @Needs('winder')
  @Put()
  @Takes(windingBody)
  save(
    @Param('number') number: string,
    @Read(windingBody) body: z.output<typeof windingBody>,
    @Acting() act: Act,
  ): Promise<WindingView> {
    return this.windings.save(act, number, body);
  }

  @Needs('foreman')
  @Post('release')
  @Takes(releasePlanBody)
  release(
    @Param('number') number: string,
    @Read(releasePlanBody) body: z.output<typeof releasePlanBody>,
    @Acting() act: Act,
  ): Promise<WindingView> {
    return this.windings.release(act, number, body);
  }
}
