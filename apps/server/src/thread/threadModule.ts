import { Module } from '@nestjs/common';
import { WorkThread } from './workThread.ts';

/** What takes processor time, off the serving thread. */
@Module({ providers: [WorkThread], exports: [WorkThread] })
export class ThreadModule {}
