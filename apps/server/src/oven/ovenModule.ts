import { Module } from '@nestjs/common';
import { AuthModule } from '../auth/authModule.ts';
import { EvaluateModule } from '../evaluate/evaluateModule.ts';
import { JobModule } from '../job/jobModule.ts';
import { ProcessModule } from '../process/processModule.ts';
import { ShopModule } from '../shop/shopModule.ts';
import { ThreadModule } from '../thread/threadModule.ts';
import { LoadFollowing } from './loadFollowing.ts';
import { LoadNotes } from './loadNotes.ts';
import { LoadLogs } from './loadLogs.ts';
import { Loads } from './loads.ts';
import { OpenLoads } from './openLoads.ts';
import { OvenController } from './ovenController.ts';
import { OvenRepository } from './ovenRepository.ts';
import { Ovens } from './ovens.ts';
import { PartJudging } from './partJudging.ts';
import { PartsOut } from './partsOut.ts';
import { WallController } from './wallController.ts';
import { WallRepository } from './wallRepository.ts';

/** Chambers, loads, and what hangs on the wall. */
@Module({
  imports: [AuthModule, EvaluateModule, JobModule, ProcessModule, ShopModule, ThreadModule],
  controllers: [OvenController, WallController],
  providers: [
    LoadFollowing,
    LoadLogs,
    LoadNotes,
    Loads,
    OpenLoads,
    OvenRepository,
    Ovens,
    PartJudging,
    PartsOut,
    WallRepository,
  ],
  exports: [LoadNotes, Loads, Ovens, PartsOut],
})
export class OvenModule {}
