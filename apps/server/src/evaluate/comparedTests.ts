import type { EarlierTestView, KindReading } from '@norther/contracts';
import { figureOf, testKind, type TestKind } from '@norther/core';
import { Inject, Injectable } from '@nestjs/common';
import type { Reader } from '../database/database.ts';
import { JobRepository, type JobRow } from '../job/jobRepository.ts';
import { badField } from '../problem/problem.ts';
import { EvaluationRepository } from './evaluationRepository.ts';

type OfMotor = Pick<JobRow, 'id' | 'motorId' | 'takenInAt' | 'family'>;

/** Readings that a new one is set against: of the motor's earlier visits, of other motors of its kind. */
@Injectable()
export class ComparedTests {
  readonly runs: EvaluationRepository;
  readonly jobs: JobRepository;
  constructor(@Inject(EvaluationRepository) runs: EvaluationRepository, @Inject(JobRepository) jobs: JobRepository) {
    this.runs = runs;
    this.jobs = jobs;
  }

  async visits(reader: Reader, row: OfMotor): Promise<EarlierTestView[]> {
    const rows = await this.runs.ofEarlierVisits(reader, row);
    return rows.map(({ result, takenAt, traces, ...r }) => ({
      ...r,
      takenAt: takenAt.toISOString(),
      figure: figureOf(r.kind, { values: result }) ?? null,
      traces: traces ?? [],
    }));
  }

  async ofItsKind(reader: Reader, row: OfMotor, kind: Pick<TestKind, 'id'>): Promise<KindReading[]> {
    if (row.family === null) return [];
    const rows = await this.runs.ofFamily(reader, row.family, row.motorId, kind.id);
    return rows.flatMap(({ values, result }) => {
      const figure = figureOf(kind.id, { values: result });
      return figure === undefined ? [] : [{ figure, values }];
    });
  }

  async visitsOf(number: string): Promise<EarlierTestView[]> {
    const { tables } = this.jobs.database;
    return this.visits(tables, await this.jobs.row(number, tables));
  }

  async ofItsKindOf(number: string, kindId: string | undefined): Promise<KindReading[]> {
    const kind = testKind(kindId ?? '');
    if (!kind) throw badField('kind', `There is no test named ${kindId ?? '(none)'}.`);
    const { tables } = this.jobs.database;
    return this.ofItsKind(tables, await this.jobs.row(number, tables), kind);
  }
}
