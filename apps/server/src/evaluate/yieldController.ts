import { yieldQuery, type YieldGroup } from '@norther/contracts';
import { Controller, Get, Inject, Query } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { read } from '../problem/body.ts';
import { Shop } from '../shop/shop.ts';
import { YieldRepository } from './yieldRepository.ts';

@ApiTags('tests')
@Controller('api/tests')
export class YieldController {
  readonly rows: YieldRepository;
  readonly shop: Shop;
  constructor(@Inject(YieldRepository) rows: YieldRepository, @Inject(Shop) shop: Shop) {
    this.rows = rows;
    this.shop = shop;
  }

  /** How often the first reading passed: by test and stage, month, poles, customer, or lot; with the motors of the others. */
  @Get('yield')
  async yield(@Query() query: Record<string, unknown>): Promise<YieldGroup[]> {
    const { by, from, to } = read(yieldQuery, query);
    const { timeZone } = await this.shop.settings();
    return this.rows.groups(by, from ?? '2000-01-01', to ?? (await this.shop.today()), timeZone);
  }
}
