import { readForm, type FieldSpec, type Typed } from '@norther/core';
import { defaultsOf, type OvenEventKind } from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import type { Reader, Transaction } from '../database/tables.ts';
import { type Act, type WriteUnit, Writes } from '../database/writes.ts';
import { badField, badForm, notFound, Problem } from '../problem/problem.ts';
import { Shop } from '../shop/shop.ts';
import { OvenRepository, type LoadAll, type LoadRow, type PartRow } from './ovenRepository.ts';

/** Changes of a load that is open: one at a time, with everything that stands with it. */
@Injectable()
export class OpenLoads {
  readonly writes: Writes;
  readonly shop: Shop;
  readonly rows: OvenRepository;
  constructor(@Inject(Writes) writes: Writes, @Inject(Shop) shop: Shop, @Inject(OvenRepository) rows: OvenRepository) {
    this.writes = writes;
    this.shop = shop;
    this.rows = rows;
  }

  /** One change of an open load, which nobody else changes meanwhile. */
  async change<T>(act: Act, id: string, change: (unit: WriteUnit, all: LoadAll) => Promise<T>): Promise<T> {
    return this.writes.run(act, async (unit) => {
      const load = await this.locked(unit.tx, id);
      const [all] = await this.rows.all(unit.tx, [load]);
      if (!all) throw notFound('such oven load');
      const answer = await change(unit, all);
      await unit.tell('ovens');
      return answer;
    });
  }

  private async locked(tx: Transaction, id: string): Promise<LoadRow> {
    const load = await this.rows.load(tx, id, 'lock');
    if (!load) throw notFound('such oven load');
    if (load.endedAt) throw new Problem(409, 'Ended', `Load ${load.number} has ended; it is kept as it is.`);
    return load;
  }

  inside(all: LoadAll, partId: string): PartRow {
    const part = all.parts.find((p) => p.id === partId);
    if (!part) throw notFound('such part in this load');
    if (part.outAt) throw new Problem(409, 'Out already', `${part.job} is out of load ${all.load.number} already.`);
    return part;
  }

  /** Puts sensors where they are said to be; what they were before stays readable. */
  async sit(
    unit: WriteUnit,
    act: Act,
    all: LoadAll,
    probes: readonly { channel: string; role: 'part' | 'oven air' | 'not used'; part: string | null }[],
    reason: string,
  ): Promise<void> {
    for (const p of probes)
      if (p.part !== null && p.role !== 'part')
        throw badField('probes', `${p.channel} cannot be ${p.role} and sit on a part.`);
    const taken = probes.find((p) => {
      const now = all.probes.find((b) => b.channel === p.channel);
      return !all.load.startedAt && p.part !== null && now?.partId && now.partId !== p.part && reason === '';
    });
    if (taken) {
      const on = all.parts.find((p) => p.id === all.probes.find((b) => b.channel === taken.channel)?.partId);
      if (on && on.outAt === null)
        throw badField('channels', `${taken.channel} sits on ${on.job} already; take another, or move it first.`);
    }
    await this.rows.supersedeProbes(
      unit.tx,
      all.load.id,
      probes.map((p) => p.channel),
      act.at,
    );
    await this.rows.addProbes(
      unit.tx,
      probes.map((p) => ({
        loadId: all.load.id,
        channel: p.channel,
        role: p.role,
        partId: p.part,
        personName: act.actor.name,
        at: act.at,
        reason,
      })),
    );
  }

  async event(unit: WriteUnit, act: Act, loadId: string, kind: OvenEventKind, note: string): Promise<void> {
    await this.rows.addEvent(unit.tx, { loadId, kind, note, personName: act.actor.name, at: act.at });
  }

  async valuesOf(reader: Reader, specs: readonly FieldSpec[], typed: Typed) {
    const { settings } = await this.shop.view(reader);
    const reading = readForm(specs, typed, defaultsOf(settings), 'complete');
    if (reading.problems.length > 0) throw badForm(reading.problems);
    return reading.values;
  }
}
