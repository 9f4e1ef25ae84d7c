import { keepFamilyBody, retireFamilyBody, type RotorFamilyView } from '@norther/contracts';
import { Controller, Get, HttpCode, Inject, Param, ParseUUIDPipe, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { z } from 'zod';
import { Acting, Needs } from '../auth/guard.ts';
import type { Act } from '../database/writes.ts';
import { Read, Takes } from '../problem/body.ts';
import { Families } from './families.ts';

@ApiTags('balance')
@Controller('api/rotor-families')
export class FamilyController {
  readonly families: Families;
  constructor(@Inject(Families) families: Families) {
    this.families = families;
  }

  /** Rotors of one kind as the shop keeps them: set-up, places, influence set. */
  @Get()
  list(): Promise<RotorFamilyView[]> {
    return this.families.list();
  }

  /** The set-up of a balance, kept for the rotors to come. */
  @Needs('winder')
  @Post()
  @Takes(keepFamilyBody)
  keep(@Read(keepFamilyBody) body: z.output<typeof keepFamilyBody>, @Acting() act: Act): Promise<{ id: string }> {
    return this.families.keep(act, body);
  }

  /** It is not offered any more; balances that took it keep it. */
  @Needs('foreman')
  @Post(':id/retirement')
  @HttpCode(200)
  @Takes(retireFamilyBody)
  async retire(
    @Param('id', ParseUUIDPipe) id: string,
    @Read(retireFamilyBody) body: z.output<typeof retireFamilyBody>,
    @Acting() act: Act,
  ): Promise<{ done: true }> {
    await this.families.retire(act, id, body.reason);
    return { done: true };
  }
}
