import { guardStep, loadFrames, type GuardState } from '@norther/core';
import { Inject, Injectable } from '@nestjs/common';
import type { Transaction } from '../database/database.ts';
import { Writes } from '../database/writes.ts';
import { CommandRepository } from '../instrument/commandRepository.ts';
import type { InstrumentRow } from '../instrument/instrumentRepository.ts';
import { Instruments, type BatchCame } from '../instrument/instruments.ts';
import { LoadRepository, type LoadRunRow } from './loadRepository.ts';

/** What the guard tells counts for so long, s. */
const COUNTS_S = 10;
export const GUARD_NAME = 'Current guard';

/** Looks at every sample of a load run in the change that stores it: more load is held, or the load comes off. */
@Injectable()
export class LoadGuard {
  readonly rows: LoadRepository;
  readonly commands: CommandRepository;
  readonly writes: Writes;
  constructor(
    @Inject(LoadRepository) rows: LoadRepository,
    @Inject(CommandRepository) commands: CommandRepository,
    @Inject(Writes) writes: Writes,
    @Inject(Instruments) instruments: Instruments,
  ) {
    this.rows = rows;
    this.commands = commands;
    this.writes = writes;
    instruments.watch((tx, who, came) => this.look(tx, who, came));
  }

  private async look(tx: Transaction, who: InstrumentRow, came: BatchCame): Promise<void> {
    if (came.what !== 'load') return;
    const run = await this.rows.openOn(tx, who.id);
    // a stream of another motor, or one of before this run, is none of it
    if (!run || came.trace.jobId !== run.jobId || (run.traceId !== null && run.traceId !== came.trace.id)) return;
    const frames = loadFrames(came.channels, came.x, came.values);
    const guard = frames.reduce<GuardState>((state, f) => guardStep(state, f, run.settings), run.guard);
    await this.rows.guarded(tx, run.id, guard, came.trace.id);
    if (guard.says !== run.guard.says && guard.says !== 'ok') await this.tell(tx, who, guard, came.at);
    if (came.last) await this.rows.end(tx, run.id, came.at, endedWith(run, guard));
  }

  private async tell(tx: Transaction, who: InstrumentRow, guard: GuardState, at: Date): Promise<void> {
    await this.commands.add(tx, {
      instrumentId: who.id,
      command: guard.says === 'hold' ? 'hold' : 'unload',
      value: null,
      detail: null,
      personName: GUARD_NAME,
      at,
      expiresAt: new Date(at.getTime() + COUNTS_S * 1000),
    });
    await this.writes.tell(tx, `command:${who.id}`);
    await this.writes.tell(tx, 'instruments');
  }
}

const endedWith = (run: LoadRunRow, guard: GuardState): string =>
  guard.says === 'unload' ? `the stream ended; ${guard.why}` : `the stream of ${run.sourceName} ended`;
