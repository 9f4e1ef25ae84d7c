import { changeShopBody, type ShopView } from '@norther/contracts';
import { Controller, Get, Inject, Put } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { z } from 'zod';
import { Acting, Needs } from '../auth/guard.ts';
import type { Act } from '../database/writes.ts';
import { Read, Takes } from '../problem/body.ts';
import { Shop } from './shop.ts';

@ApiTags('shop')
@Controller('api/shop')
export class ShopController {
  readonly shop: Shop;
  constructor(@Inject(Shop) shop: Shop) {
    this.shop = shop;
  }

  @Get()
  view(): Promise<ShopView> {
    return this.shop.view(this.shop.database.tables);
  }

  @Needs('admin')
  @Put()
  @Takes(changeShopBody)
  change(@Read(changeShopBody) body: z.output<typeof changeShopBody>, @Acting() act: Act): Promise<ShopView> {
    return this.shop.change(act, body);
  }
}
