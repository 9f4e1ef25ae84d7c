import { Module } from '@nestjs/common';
import { AuthModule } from '../auth/authModule.ts';
import { HealthModule } from '../health/healthModule.ts';
import { Live } from './live.ts';
import { TraceModule } from '../trace/traceModule.ts';
import { TraceFeed } from './traceFeed.ts';
import { LiveController } from './liveController.ts';

/** What open screens are told. */
@Module({
  imports: [AuthModule, HealthModule, TraceModule],
  controllers: [LiveController],
  providers: [Live, TraceFeed],
  exports: [Live],
})
export class LiveModule {}
