import { Module } from '@nestjs/common';
import { QueueModule } from '../queue/queueModule.ts';
import { HealthController } from './healthController.ts';
import { Metrics } from './metrics.ts';
import { Readiness } from './readiness.ts';

/** Whether it runs, and how. */
@Module({
  imports: [QueueModule],
  controllers: [HealthController],
  providers: [Metrics, Readiness],
  exports: [Metrics, Readiness],
})
export class HealthModule {}
