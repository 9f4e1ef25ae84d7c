import { METRIC_DEFAULTS, operationIf, familyOf, type Nameplate, type PartKind, type Verdict } from '@norther/core';
import type pg from 'pg';
import { measuredByBalance, measuredByStep, measuredByTest, partOfStep } from '../../measurement/measured.ts';
import { addMeasurements, type MeasurementOf } from '../../measurement/measurementStatements.ts';
import { onceByOwner } from './onceByOwner.ts';

const NAME = 'measurements of readings recorded before';
const AT_ONCE = 500;

interface Old {
  id: string;
  jobId: string;
  typed: unknown;
  values: unknown;
  verdict: Verdict | null;
  person: string | null;
  at: Date;
  kind?: string;
  code?: string;
  stage?: string;
  result?: unknown;
}
const SOURCES = [
  {
    source: 'test' as const,
    text: `select id, job_id as "jobId", typed, values, verdict, person_name as person, taken_at as at, kind, stage, result
      from test_run where id > $1 order by id limit ${AT_ONCE}`,
    measured: (o: Old) => measuredByTest({ ...o, kind: o.kind ?? '' }, METRIC_DEFAULTS),
  },
  {
    source: 'step' as const,
    text: `select id, job_id as "jobId", typed, values, verdict, finished_by as person, finished_at as at, code
      from step_attempt where finished_at is not null and id > $1 order by id limit ${AT_ONCE}`,
    measured: (o: Old) =>
      operationIf(o.code ?? '') ? measuredByStep({ ...o, code: o.code ?? '' }, METRIC_DEFAULTS) : [],
  },
  {
    source: 'balance' as const,
    text: `select id, job_id as "jobId", typed, values, verdict, person_name as person, at
      from balance_run where id > $1 order by id limit ${AT_ONCE}`,
    measured: (o: Old) => measuredByBalance(o, METRIC_DEFAULTS),
  },
];

/** Once: measured quantities of readings of before, and the family of every visit. By the owner, after the migrations. */
export async function backfillMeasurements(owner: pg.Client): Promise<void> {
  await onceByOwner(owner, NAME, async (tables) => {
    const { rows: known } = await owner.query<{ id: string; kinds: PartKind[] }>(
      'select job_id as id, array_agg(kind) as kinds from part group by job_id',
    );
    const parts = new Map(known.map((p) => [p.id, p.kinds]));
    for (const { source, text, measured } of SOURCES)
      for (let last = '00000000-0000-0000-0000-000000000000'; ;) {
        const { rows } = await owner.query<Old>(text, [last]);
        for (const o of rows) {
          const of: MeasurementOf = {
            jobId: o.jobId,
            source,
            sourceId: o.id,
            stage: o.stage,
            part:
              o.code !== undefined && operationIf(o.code) ? partOfStep(o.code, parts.get(o.jobId) ?? []) : undefined,
            at: o.at,
            personName: o.person,
            verdict: o.verdict,
          };
          await addMeasurements(tables, of, measured(o));
        }
        const end = rows.at(-1);
        if (!end || rows.length < AT_ONCE) break;
        last = end.id;
      }
    // a closed visit is kept as it is by its triggers; what it is compared with is no change of it
    await owner.query('alter table job disable trigger user');
    const { rows: jobs } = await owner.query<{ id: string; nameplate: Nameplate }>('select id, nameplate from job');
    for (const j of jobs)
      await owner.query('update job set family = $2 where id = $1', [j.id, familyOf(j.nameplate) ?? null]);
    await owner.query('alter table job enable trigger user');
  });
}
