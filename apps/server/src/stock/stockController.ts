import {
  changeLotBody,
  lotBody,
  stockEntryBody,
  type LotTrace,
  type MotorLot,
  type OrderAgain,
  type StockEntryView,
  type StockLotView,
} from '@norther/contracts';
import { Controller, Get, HttpCode, Inject, Param, ParseUUIDPipe, Post, Put } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { z } from 'zod';
import { Acting, Needs } from '../auth/guard.ts';
import type { Act } from '../database/writes.ts';
import { Read, Takes } from '../problem/body.ts';
import { LotTracing } from './lotTracing.ts';
import { Stock } from './stock.ts';

@ApiTags('stock')
@Controller('api')
export class StockController {
  readonly stock: Stock;
  readonly tracing: LotTracing;
  constructor(@Inject(Stock) stock: Stock, @Inject(LotTracing) tracing: LotTracing) {
    this.stock = stock;
    this.tracing = tracing;
  }

  @Get('stock')
  list(): Promise<StockLotView[]> {
    return this.stock.list();
  }

  /** What is to be ordered again, from its use. */
  @Get('stock/order-again')
  reorder(): Promise<OrderAgain[]> {
    return this.tracing.reorder();
  }

  /** A lot traced both ways: what is in it, what it went into, which motors have it. */
  @Get('stock/:id/trace')
  trace(@Param('id', ParseUUIDPipe) id: string): Promise<LotTrace> {
    return this.tracing.of(id);
  }

  /** The lots in a motor, with what is in them. */
  @Get('jobs/:number/lots')
  inMotor(@Param('number') number: string): Promise<MotorLot[]> {
    return this.tracing.inMotor(number);
  }

  @Get('stock/:id/entries')
  entries(@Param('id', ParseUUIDPipe) id: string): Promise<StockEntryView[]> {
    return this.stock.entries(id);
  }

  @Needs('winder')
  @Post('stock')
  @Takes(lotBody)
  receive(@Read(lotBody) body: z.output<typeof lotBody>, @Acting() act: Act): Promise<StockLotView> {
    return this.stock.receive(act, body);
  }

  @Needs('foreman')
  @Put('stock/:id')
  @Takes(changeLotBody)
  change(
    @Param('id', ParseUUIDPipe) id: string,
    @Read(changeLotBody) body: z.output<typeof changeLotBody>,
    @Acting() act: Act,
  ): Promise<StockLotView> {
    return this.stock.change(act, id, body);
  }

  @Needs('winder')
  @Post('stock/:id/entries')
  @HttpCode(200)
  @Takes(stockEntryBody)
  enter(
    @Param('id', ParseUUIDPipe) id: string,
    @Read(stockEntryBody) body: z.output<typeof stockEntryBody>,
    @Acting() act: Act,
  ): Promise<StockLotView> {
    return this.stock.enter(act, id, body);
  }
}
