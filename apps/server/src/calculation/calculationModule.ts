import { Module } from '@nestjs/common';
import { ThreadModule } from '../thread/threadModule.ts';
import { CalculationController } from './calculationController.ts';

/** Every calculation by its name. */
@Module({ imports: [ThreadModule], controllers: [CalculationController] })
export class CalculationModule {}
