import {
  changeInstrumentBody,
  newInstrumentBody,
  samplesBody,
  type BatchAnswer,
  type InstrumentView,
} from '@norther/contracts';
import { Controller, Get, HttpCode, Inject, Param, Post, Put, Req } from '@nestjs/common';
import { ApiBearerAuth, ApiTags } from '@nestjs/swagger';
import type { z } from 'zod';
import { Acting, Needs, type Request } from '../auth/guard.ts';
import type { Act } from '../database/writes.ts';
import { ByKey, MostBytes } from '../http/routeFacts.ts';
import { Read, Takes } from '../problem/body.ts';
import { Problem } from '../problem/problem.ts';
import type { InstrumentRow } from './instrumentRepository.ts';
import { Instruments } from './instruments.ts';

/** The instrument whose key came with the request; the address must be its own. */
export function sender(request: Request, id?: string): InstrumentRow {
  const { instrument } = request;
  if (!instrument || (id !== undefined && instrument.id !== id))
    throw new Problem(403, 'Not allowed', 'This key belongs to another instrument.');
  return instrument;
}

@ApiTags('instruments')
@Controller('api/instruments')
export class InstrumentController {
  readonly instruments: Instruments;
  constructor(@Inject(Instruments) instruments: Instruments) {
    this.instruments = instruments;
  }

  @Get()
  list(): Promise<InstrumentView[]> {
    return this.instruments.list();
  }

  /** Who a key belongs to: `curl -H "Authorization: Bearer $KEY" …/api/instruments/me`. */
  @ByKey()
  @ApiBearerAuth()
  @Get('me')
  me(@Req() request: Request): { id: string; name: string; kind: string; mayWrite: string[] } {
    const { id, name, kind, mayWrite } = sender(request);
    return { id, name, kind, mayWrite };
  }

  /** Makes an instrument; its key is in this answer and nowhere else. */
  @Needs('admin')
  @Post()
  @Takes(newInstrumentBody)
  add(
    @Read(newInstrumentBody) body: z.output<typeof newInstrumentBody>,
    @Acting() act: Act,
  ): Promise<{ id: string; key: string }> {
    return this.instruments.add(act, body);
  }

  @Needs('admin')
  @Put(':id')
  @Takes(changeInstrumentBody)
  change(
    @Param('id') id: string,
    @Read(changeInstrumentBody) body: z.output<typeof changeInstrumentBody>,
    @Acting() act: Act,
  ): Promise<InstrumentView> {
    return this.instruments.change(act, id, body);
  }

  /** A new key in place of the old. */
  @Needs('admin')
  @Post(':id/key')
  @HttpCode(200)
  renew(@Param('id') id: string, @Acting() act: Act): Promise<{ id: string; key: string }> {
    return this.instruments.renew(act, id);
  }

  /**
   * Takes a numbered batch of samples, by the instrument's key:
   * `curl -X POST -H "Authorization: Bearer $KEY" -H "Content-Type: application/json" …/api/instruments/$ID/samples
   * -d '{"stream":"load-1","batch":0,"what":"oven","channels":[{"name":"air","unit":"°C"}],"start":"2026-11-27T08:00:00Z","step":5,"values":[[24.1,24.6]]}'`
   */
  @ByKey()
  @ApiBearerAuth()
  @MostBytes(4 * 1024 * 1024)
  @Post(':id/samples')
  @HttpCode(202)
  @Takes(samplesBody)
  samples(
    @Param('id') id: string,
    @Read(samplesBody) body: z.output<typeof samplesBody>,
    @Req() request: Request,
  ): Promise<BatchAnswer> {
    return this.instruments.batch(sender(request, id), body);
  }
}
