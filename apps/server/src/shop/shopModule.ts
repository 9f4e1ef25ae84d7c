import { Module } from '@nestjs/common';
import { Shop } from './shop.ts';
import { ShopController } from './shopController.ts';
import { ShopRepository } from './shopRepository.ts';

/** The shop's settings. */
@Module({ controllers: [ShopController], providers: [Shop, ShopRepository], exports: [Shop, ShopRepository] })
export class ShopModule {}
