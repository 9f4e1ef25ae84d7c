import {
  editedRoute,
  operation,
  operationIf,
  routeEditRefusal,
  routeFor,
  ROUTES,
  type RouteEdit,
  type RouteGraph,
} from '@norther/core';
import type { routeEditBody, RouteTemplateView } from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import type { z } from 'zod';
import { type Act, type WriteUnit, Writes } from '../database/writes.ts';
import { JobRepository, type JobRow } from '../job/jobRepository.ts';
import { graphOf, refuseClosed, statesOf } from '../job/jobViews.ts';
import { ReadJob } from '../job/readJob.ts';
import { badField, notFound, Problem } from '../problem/problem.ts';
import { StepRepository } from './stepRepository.ts';
import { TemplateRepository } from './templateRepository.ts';

const OVERHAUL = 'overhaul';
const REWIND = 'ac_random_rewind';
/** The test that decides between the two, and the step at which the new scope is agreed. */
const DECIDES = 'OTT';
const AGREES = 'QTE';

/** Changes of one job's route: an edit that breaks no hold, an overhaul that becomes a rewind. */
@Injectable()
export class RouteChanges {
  readonly writes: Writes;
  readonly read: ReadJob;
  readonly jobs: JobRepository;
  readonly steps: StepRepository;
  readonly templates: TemplateRepository;
  constructor(
    @Inject(Writes) writes: Writes,
    @Inject(ReadJob) read: ReadJob,
    @Inject(JobRepository) jobs: JobRepository,
    @Inject(StepRepository) steps: StepRepository,
    @Inject(TemplateRepository) templates: TemplateRepository,
  ) {
    this.templates = templates;
    this.writes = writes;
    this.read = read;
    this.jobs = jobs;
    this.steps = steps;
  }

  async edit(act: Act, number: string, asked: z.output<typeof routeEditBody>['edit'], reason: string): Promise<null> {
    return this.writes.run(act, async (unit) => {
      const { tx } = unit;
      const row = await this.read.row(number, tx, 'lock');
      refuseClosed(row);
      const kept = asked.do === 'take' ? await this.templates.standing(tx, asked.template) : undefined;
      if (asked.do === 'take' && !kept) throw badField('edit.template', 'This route is not kept any more.');
      if (kept && (kept.route !== row.route || kept.came !== row.came || kept.impregnation !== row.impregnation))
        throw badField(
          'edit.template',
          `${kept.name} is a route of another kind: ${ROUTES[kept.route].title}, ${kept.came}, ${kept.impregnation}.`,
        );
      const edit: RouteEdit = asked.do === 'take' ? { do: 'take', graph: kept?.graph ?? {} } : asked;
      const steps = await this.read.steps(row, tx);
      const graph = graphOf(row, steps);
      const refusal = routeEditRefusal(graph, edit, {
        states: statesOf(steps),
        came: row.came,
        impregnation: row.impregnation,
      });
      if (refusal) throw badField('edit', refusal);
      await this.apply(unit, row, { steps, graph }, edit, kept ? `${kept.name}: ${reason}` : reason);
      await unit.tell(`job:${number}`);
      return null;
    });
  }

  /** An edit that nothing stands against becomes the job's own route. */
  async apply(
    { tx, audit }: WriteUnit,
    row: JobRow,
    now: { steps: readonly { code: string }[]; graph: RouteGraph },
    edit: RouteEdit,
    reason: string,
  ): Promise<void> {
    const next = Object.fromEntries(
      Object.entries(editedRoute(now.graph, edit)).map(([c, before]) => [c, [...before]]),
    );
    await this.jobs.setRoute(tx, row, { ownRoute: next });
    const had = new Set(now.steps.map((s) => s.code));
    const added = Object.keys(next).filter((c) => !had.has(c));
    if (added.length > 0) await this.jobs.addSteps(tx, row, added);
    await audit({
      action: 'route.edit',
      jobId: row.id,
      summary: `Route of ${row.number}: ${sayEdit(edit)}. ${reason}`,
      before: now.graph,
      after: next,
    });
  }

  /** Routes that the shop keeps. */
  async kept(): Promise<RouteTemplateView[]> {
    return this.read.database.reading(async (reader) =>
      (await this.templates.all(reader)).map(({ personName, at, retired: _, ...t }) => ({
        ...t,
        person: personName,
        at: at.toISOString(),
      })),
    );
  }

  /** A job's route is kept under a name, for the jobs to come. */
  async keep(act: Act, number: string, name: string): Promise<{ id: string }> {
    return this.writes.run(act, async ({ tx, audit }) => {
      const row = await this.read.row(number, tx);
      const graph = graphOf(row, await this.read.steps(row, tx));
      const id = await this.templates.add(tx, {
        name,
        route: row.route,
        came: row.came,
        impregnation: row.impregnation,
        graph: Object.fromEntries(Object.entries(graph).map(([c, before]) => [c, [...before]])),
        fromJob: number,
        personName: act.actor.name,
        at: act.at,
      });
      if (id === undefined) throw badField('name', `There is a route named ${name} already.`);
      await audit({ action: 'route.keep', jobId: row.id, summary: `Route of ${number} kept as ${name}` });
      return { id };
    });
  }

  async retire(act: Act, id: string, reason: string): Promise<null> {
    return this.writes.run(act, async ({ tx, audit }) => {
      const kept = await this.templates.standing(tx, id);
      if (!kept) throw notFound('such kept route');
      const { name, role } = act.actor;
      await this.templates.retire(tx, id, { by: name, role, at: act.at.toISOString(), meaning: 'retired', reason });
      await audit({ action: 'route.retire', summary: `Route ${kept.name} is not kept any more: ${reason}` });
      return null;
    });
  }

  /** The tests after drying failed: the job goes on as a rewind. What passed stays; the scope is agreed anew. */
  async toRewind(act: Act, number: string, reason: string): Promise<null> {
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const row = await this.read.row(number, tx, 'lock');
      refuseClosed(row);
      if (row.route !== OVERHAUL)
        throw new Problem(409, 'No overhaul', `${number} is no overhaul; its route stays as it is.`);
      const steps = await this.read.steps(row, tx);
      const states = statesOf(steps);
      if (states[DECIDES] !== 'failed')
        throw new Problem(
          409,
          'Not failed',
          `${operation(DECIDES).title} has not failed; an overhaul becomes a rewind when it does.`,
        );
      const graph = routeFor(REWIND, row.came, row.impregnation);
      await this.jobs.setRoute(tx, row, { route: REWIND, ownRoute: null });
      const had = new Set(steps.map((s) => s.code));
      await this.jobs.addSteps(
        tx,
        row,
        Object.keys(graph).filter((code) => !had.has(code)),
      );
      await this.steps.addNote(tx, row, AGREES, {
        by: act.actor.name,
        role: act.actor.role,
        at: act.at.toISOString(),
        meaning: 'reopened',
        reason: `Becomes a rewind: ${reason}`,
      });
      await this.steps.setState(tx, row, AGREES, 'open', act.at);
      await audit({
        action: 'route.convert',
        jobId: row.id,
        summary: `${number} becomes a rewind: ${reason}`,
        before: { route: row.route },
        after: { route: REWIND },
      });
      await tell(`job:${number}`);
      return null;
    });
  }
}

const title = (code: string): string => operationIf(code)?.title ?? code;
function sayEdit(edit: RouteEdit): string {
  switch (edit.do) {
    case 'add':
      return `${title(edit.code)} comes in after ${edit.after.map(title).join(', ')}${edit.before.length > 0 ? `, before ${edit.before.map(title).join(', ')}` : ''}`;
    case 'take':
      return 'a route that was kept';
    case 'coats':
      return edit.coats === 1 ? 'one coat of resin' : `${edit.coats} coats of resin`;
    case 'removal':
      return `the winding comes out by ${edit.way}`;
    case 'take out':
      return `${title(edit.code)} goes out`;
    case 'wait':
      return `${title(edit.code)} waits for ${edit.after.map(title).join(', ')}`;
  }
}
