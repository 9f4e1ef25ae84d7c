import { changeJobBody, newJobBody, type JobDetail, type JobSummary, type Visit } from '@norther/contracts';
import { Controller, Get, Inject, Param, Post, Put, Query, Res } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { FastifyReply } from 'fastify';
import type { z } from 'zod';
import { Acting, Needs } from '../auth/guard.ts';
import type { Act } from '../database/writes.ts';
import { Read, Takes } from '../problem/body.ts';
import { Jobs } from './jobs.ts';
import { ReadJob } from './readJob.ts';

@ApiTags('jobs')
@Controller('api')
export class JobController {
  readonly jobs: Jobs;
  readonly read: ReadJob;
  constructor(@Inject(Jobs) jobs: Jobs, @Inject(ReadJob) read: ReadJob) {
    this.jobs = jobs;
    this.read = read;
  }

  @Get('jobs')
  async floor(
    @Query('closed') closed: string | undefined,
    @Res({ passthrough: true }) reply: FastifyReply,
  ): Promise<JobSummary[]> {
    // every motor in the house is listed; of those that left the newest, and how many there are
    if (closed !== 'yes') return this.read.floor({ closed: false });
    void reply.header('X-Total-Count', String(await this.read.closedCount()));
    return this.read.floor({ closed: true });
  }

  @Needs('winder')
  @Post('jobs')
  @Takes(newJobBody)
  take(@Read(newJobBody) body: z.output<typeof newJobBody>, @Acting() act: Act): Promise<{ number: string }> {
    return this.jobs.take(act, body);
  }

  /** One motor as the floor shows it. */
  @Get('jobs/:number/summary')
  summary(@Param('number') number: string): Promise<JobSummary> {
    return this.read.onFloor(number);
  }

  @Get('jobs/:number')
  detail(@Param('number') number: string): Promise<JobDetail> {
    return this.read.detail(number);
  }

  @Needs('winder')
  @Put('jobs/:number')
  @Takes(changeJobBody)
  change(
    @Param('number') number: string,
    @Read(changeJobBody) body: z.output<typeof changeJobBody>,
    @Acting() act: Act,
  ): Promise<JobDetail> {
    return this.jobs.change(act, number, body);
  }

  @Get('visits')
  visits(@Query('serial') serial?: string): Promise<Visit[]> {
    return serial ? this.jobs.visits(serial) : Promise.resolve([]);
  }

  @Get('customers')
  customers(@Query('q') q?: string): Promise<{ id: string; name: string }[]> {
    return this.jobs.customers(q ?? '');
  }
}
