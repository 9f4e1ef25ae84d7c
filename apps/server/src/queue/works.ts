import type { BackgroundView, WorkView } from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import { NightBackup } from '../backup/nightBackup.ts';
import { nowMs } from '../clock/clock.ts';
import { type Act, Writes } from '../database/writes.ts';
import { notFound, Problem } from '../problem/problem.ts';
import { Queue } from './queue.ts';
import { QueueRepository, type WorkRow } from './queueRepository.ts';

/** A backup older than this is a warning. */
export const BACKUP_LATE_DAYS = 2;
const DAY = 86_400_000;
const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i;

export const workView = (w: WorkRow): WorkView => ({
  id: w.id,
  kind: w.kind,
  state: w.state as WorkView['state'],
  progress: w.progress,
  person: w.personName,
  at: w.at.toISOString(),
  endedAt: w.endedAt?.toISOString() ?? null,
  problem: w.problem,
  attempt: w.attempt,
  cancelAsked: w.cancelAsked,
  result: w.result as Record<string, unknown> | null,
});

/** What runs in the background, for the people who look after it. */
@Injectable()
export class Works {
  readonly writes: Writes;
  readonly queue: Queue;
  readonly repository: QueueRepository;
  constructor(
    @Inject(Writes) writes: Writes,
    @Inject(Queue) queue: Queue,
    @Inject(QueueRepository) repository: QueueRepository,
  ) {
    this.writes = writes;
    this.queue = queue;
    this.repository = repository;
  }

  async view(): Promise<BackgroundView> {
    const depth = await this.repository.depth();
    const last = await this.repository.lastDone('backup');
    const at = last?.endedAt ?? null;
    return {
      ...depth,
      work: (await this.repository.newest()).map(workView),
      backup: {
        kept: NightBackup.folder() !== undefined,
        at: at?.toISOString() ?? null,
        file: (last?.result as { file?: string } | null)?.file ?? null,
        bytes: (last?.result as { bytes?: number } | null)?.bytes ?? null,
        late: at === null || nowMs() - at.getTime() > BACKUP_LATE_DAYS * DAY,
      },
    };
  }

  /** A backup at once, beside that of the night. */
  async backUp(act: Act): Promise<{ id: string }> {
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const id = await this.queue.enqueue(tx, { kind: 'backup', data: {}, personName: act.actor.name });
      await audit({ action: 'backup.ask', summary: 'A backup was asked for' });
      await tell(`work:${id}`);
      return { id };
    });
  }

  async one(id: string): Promise<WorkView> {
    const row = UUID.test(id) ? await this.repository.one(id) : undefined;
    if (!row) throw notFound('such work');
    return workView(row);
  }

  async cancel(act: Act, id: string): Promise<WorkView> {
    await this.one(id);
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const row = await this.repository.askCancel(tx, id);
      if (!row) throw new Problem(409, 'Ended', 'This work has ended already; there is nothing to cancel.');
      await audit({ action: 'work.cancel', summary: `Work in the background (${row.kind}) was cancelled` });
      await tell(`work:${id}`);
      return workView(row);
    });
  }
}
