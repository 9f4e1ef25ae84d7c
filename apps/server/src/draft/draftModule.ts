import { Module } from '@nestjs/common';
import { DraftController } from './draftController.ts';
import { DraftRepository } from './draftRepository.ts';
import { Drafts } from './drafts.ts';

/** What was typed and not yet recorded. */
@Module({ controllers: [DraftController], providers: [DraftRepository, Drafts], exports: [DraftRepository, Drafts] })
export class DraftModule {}
