import { changeLotBody, lotBody, stockEntryBody, type StockEntryView, type StockLotView } from '@norther/contracts';
import { Controller, Get, HttpCode, Inject, Param, ParseUUIDPipe, Post, Put } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { z } from 'zod';
import { Acting, Needs } from '../auth/guard.ts';
import type { Act } from '../database/writes.ts';
import { Read, Takes } from '../problem/body.ts';
import { Stock } from './stock.ts';

@ApiTags('stock')
@Controller('api/stock')
export class StockController {
  readonly stock: Stock;
  constructor(@Inject(Stock) stock: Stock) {
    this.stock = stock;
  }

  @Get()
  list(): Promise<StockLotView[]> {
    return this.stock.list();
  }

  @Get(':id/entries')
  entries(@Param('id', ParseUUIDPipe) id: string): Promise<StockEntryView[]> {
    return this.stock.entries(id);
  }

  @Needs('winder')
  @Post()
  @Takes(lotBody)
  receive(@Read(lotBody) body: z.output<typeof lotBody>, @Acting() act: Act): Promise<StockLotView> {
    return this.stock.receive(act, body);
  }

  @Needs('foreman')
  @Put(':id')
  @Takes(changeLotBody)
  change(
    @Param('id', ParseUUIDPipe) id: string,
    @Read(changeLotBody) body: z.output<typeof changeLotBody>,
    @Acting() act: Act,
  ): Promise<StockLotView> {
    return this.stock.change(act, id, body);
  }

  @Needs('winder')
  @Post(':id/entries')
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
