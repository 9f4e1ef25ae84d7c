import type { WindingPart } from '@norther/core';
import { jointPart, jointSheetBody, tickBody, type JointSheet } from '@norther/contracts';
import { Controller, Get, HttpCode, Inject, Param, Post, Put } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { z } from 'zod';
import { Acting, Needs } from '../auth/guard.ts';
import type { Act } from '../database/writes.ts';
import { Read, Takes } from '../problem/body.ts';
import { notFound } from '../problem/problem.ts';
import { Joints } from './joints.ts';

/** The winding that an address names. */
export function partOf(text: string): WindingPart {
  const read = jointPart.safeParse(text);
  if (!read.success) throw notFound(`winding ${text}`);
  return read.data;
}

@ApiTags('winding')
@Controller('api/jobs/:number/joints/:part')
export class JointsController {
  readonly joints: Joints;
  constructor(@Inject(Joints) joints: Joints) {
    this.joints = joints;
  }

  @Get()
  sheet(@Param('number') number: string, @Param('part') part: string): Promise<JointSheet> {
    return this.joints.sheet(number, partOf(part));
  }

  @Needs('winder')
  @Post('ticks')
  @HttpCode(200)
  @Takes(tickBody)
  tick(
    @Param('number') number: string,
    @Param('part') part: string,
    @Read(tickBody) body: z.output<typeof tickBody>,
    @Acting() act: Act,
  ): Promise<JointSheet> {
    return this.joints.tick(act, number, partOf(part), body);
  }

  @Needs('winder')
  @Put()
  @Takes(jointSheetBody)
  save(
    @Param('number') number: string,
    @Param('part') part: string,
    @Read(jointSheetBody) body: z.output<typeof jointSheetBody>,
    @Acting() act: Act,
  ): Promise<JointSheet> {
    return this.joints.save(act, number, partOf(part), body);
  }
}
