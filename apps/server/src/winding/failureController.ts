import { failureBody, type FailureView } from '@norther/contracts';
import { Controller, Inject, Param, Put } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { z } from 'zod';
import { Acting, Needs } from '../auth/guard.ts';
import type { Act } from '../database/writes.ts';
import { Read, Takes } from '../problem/body.ts';
import { Failures } from './failures.ts';

@ApiTags('winding')
@Controller('api/jobs/:number/failure')
export class FailureController {
  readonly failures: Failures;
  constructor(@Inject(Failures) failures: Failures) {
    this.failures = failures;
  }

  @Needs('winder')
  @Put()
  @Takes(failureBody)
  save(
    @Param('number') number: string,
    @Read(failureBody) body: z.output<typeof failureBody>,
    @Acting() act: Act,
  ): Promise<FailureView> {
    return this.failures.save(act, number, body);
  }
}
