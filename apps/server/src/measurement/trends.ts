import { MEASURABLES } from '@norther/core';
import type { Trend, TrendColumns, TrendPoint } from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import { badField, notFound } from '../problem/problem.ts';
import { MeasurementRepository, type TrendRow } from './measurementRepository.ts';

const point = ({ at, ...rest }: TrendRow): TrendPoint => ({ ...rest, at: at.toISOString() }) as TrendPoint;

const NONE: TrendColumns = { numbers: [], visit: [], atMs: [], value: [], stage: [], above: [], below: [] };

/** A measured quantity of a motor over its visits, and beside it that of motors like it. */
@Injectable()
export class Trends {
  readonly repository: MeasurementRepository;
  constructor(@Inject(MeasurementRepository) repository: MeasurementRepository) {
    this.repository = repository;
  }

  async of(number: string, what: string): Promise<Trend> {
    const measurable = MEASURABLES.get(what);
    if (!measurable)
      throw badField(
        'what',
        `Nothing is measured under "${what.slice(0, 60)}"; name a test and its field, for example windingResistance.ab.`,
      );
    const visit = await this.repository.visit(number);
    if (!visit) throw notFound(`job ${number}`);
    const own = await this.repository.ofMotor(visit.motorId, what);
    const others = visit.family === null ? NONE : await this.repository.ofFamily(visit.family, visit.motorId, what);
    return { ...measurable, own: own.map(point), family: visit.family, others };
  }
}
