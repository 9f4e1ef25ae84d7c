import { Inject, Injectable } from '@nestjs/common';
import type { Effect, WorkHandler } from '../queue/kinds.ts';
import { PruneRepository } from './pruneRepository.ts';

/** Lets go what has served: keys of repeated requests, ended sessions, failed sign-ins, drafts nobody took up, ended work. */
@Injectable()
export class Pruning implements WorkHandler<'prune'> {
  readonly kind = 'prune';
  readonly repository: PruneRepository;
  constructor(@Inject(PruneRepository) repository: PruneRepository) {
    this.repository = repository;
  }

  prepare(): Promise<Effect> {
    return Promise.resolve(async (tx) => ({ result: await this.repository.prune(tx) }));
  }
}
