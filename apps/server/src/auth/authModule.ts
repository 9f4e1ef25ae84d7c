import { Module } from '@nestjs/common';
import { ShopModule } from '../shop/shopModule.ts';
import { Attempts } from './attempts.ts';
import { AuthController } from './authController.ts';
import { People } from './people.ts';
import { PeopleRepository } from './peopleRepository.ts';
import { Sessions } from './sessions.ts';

/** People, sessions, PINs. */
@Module({
  imports: [ShopModule],
  controllers: [AuthController],
  providers: [Attempts, People, PeopleRepository, Sessions],
  exports: [Attempts, People, PeopleRepository, Sessions],
})
export class AuthModule {}
