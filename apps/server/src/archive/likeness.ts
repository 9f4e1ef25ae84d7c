import { nameplateSchema, PARTS, plateOfPart, similarityOf } from '@norther/core';
import { Inject, Injectable } from '@nestjs/common';
import type { Control, Effect, WorkData, WorkHandler } from '../queue/kinds.ts';
import { ArchiveRepository, type ComparedRow } from './archiveRepository.ts';

/** A record of the archive beside another: 0…1 and what differs. */
export interface Ranked {
  key: string;
  score: number;
  differs: string[];
}
/** The most alike that are shown. */
export const MOST_RANKED = 60;
/** Records compared between two words of progress. */
const AT_ONCE = 1000;

/** The records most like one, most alike first. A rotor is compared with rotors only. */
export function rank(to: WorkData['likeness'], rows: readonly ComparedRow[]): Ranked[] {
  const own = { record: to.record, nameplate: to.nameplate };
  return rows
    .filter((e) => e.key !== to.without && PARTS[e.part].rail === to.rail)
    .map((e) => {
      const nameplate = plateOfPart(nameplateSchema.parse(e.nameplate), e.part);
      return { key: e.key, ...similarityOf(own, { record: e.record, nameplate }) };
    })
    .sort((a, b) => b.score - a.score)
    .slice(0, MOST_RANKED);
}

/** Compares a winding with every record of a large archive, in the background. */
@Injectable()
export class Likeness implements WorkHandler<'likeness'> {
  readonly kind = 'likeness';
  readonly records: ArchiveRepository;
  constructor(@Inject(ArchiveRepository) records: ArchiveRepository) {
    this.records = records;
  }

  async prepare(to: WorkData['likeness'], control: Control): Promise<Effect> {
    const rows = await this.records.compared();
    let best: Ranked[] = [];
    for (let i = 0; i < rows.length; i += AT_ONCE) {
      best = [...best, ...rank(to, rows.slice(i, i + AT_ONCE))].sort((a, b) => b.score - a.score).slice(0, MOST_RANKED);
      await control.progress(Math.min(1, (i + AT_ONCE) / rows.length));
    }
    return () => Promise.resolve({ result: { compared: rows.length, ranked: best } });
  }
}
