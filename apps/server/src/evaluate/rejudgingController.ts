import type { Rejudged } from '@norther/core';
import { Controller, Get, Inject } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { Needs } from '../auth/guard.ts';
import { Rejudging } from './rejudging.ts';

@ApiTags('tests')
@Controller('api/tests')
export class RejudgingController {
  readonly rejudging: Rejudging;
  constructor(@Inject(Rejudging) rejudging: Rejudging) {
    this.rejudging = rejudging;
  }

  /** Tests of the motors in the house that would come out otherwise by the limits of today; nothing that is recorded changes. */
  @Needs('tester')
  @Get('otherwise')
  list(): Promise<Rejudged> {
    return this.rejudging.list();
  }
}
