import { z } from 'zod';
import { defineCalculation } from '../calculation.ts';
import { STEP_STATES, viewRoute } from './engine.ts';
import { operation } from './operations.ts';
import { IMPREGNATIONS } from './operation.ts';
import { ROUTE_IDS, routeFor, routeHours, WHAT_CAME } from './routes.ts';

/** Calculation `process.route`: the operations of a job, where each stands, and the hours they take. */
export const processRoute = defineCalculation({
  id: 'process.route',
  version: 1,
  title: 'Route of a job: operations, hold points, what is ready, hours by shaft height',
  sources: ['rewind and overhaul routes: common practice', 'duration model: common practice, shop-adjustable'],
  input: z.strictObject({
    route: z.enum(ROUTE_IDS),
    came: z.enum(WHAT_CAME).default('whole motor'),
    impregnation: z.enum(IMPREGNATIONS).default('dip'),
    states: z.record(z.string(), z.enum(STEP_STATES)).default({}),
    shaftHeightMm: z.number().positive().max(2000).default(132),
  }),
  output: z.object({
    operations: z.array(
      z.object({
        code: z.string(),
        title: z.string(),
        stage: z.string(),
        rail: z.string(),
        after: z.array(z.string()),
        status: z.string(),
        heldBy: z.array(z.string()),
        why: z.string(),
      }),
    ),
    edges: z.number(),
    labourH: z.number(),
    shortestElapsedH: z.number(),
  }),
  example: { route: 'ac_random_rewind', states: { INT: 'passed' } },
  compute: (x, note) => {
    const graph = routeFor(x.route, x.came, x.impregnation);
    const views = viewRoute(graph, x.states);
    const hours = routeHours(graph, x.shaftHeightMm);
    note?.({
      name: 'Labour',
      symbol: 'Σ',
      formula: 'Σ L100 (H/100)^n',
      numbers: `${views.length} operations, H ${x.shaftHeightMm} mm`,
      value: hours.labourH,
      unit: 'h',
      source: 'common practice, shop-adjustable',
    });
    note?.({
      name: 'Shortest elapsed time',
      symbol: '',
      formula: 'longest path of labour + unattended time',
      numbers: '',
      value: hours.shortestElapsedH,
      unit: 'h',
      source: 'derived',
    });
    return {
      operations: views.map((v) => {
        const op = operation(v.code);
        return {
          code: v.code,
          title: op.title,
          stage: op.stage,
          rail: op.rail,
          after: [...(graph[v.code] ?? [])],
          status: v.status,
          heldBy: v.heldBy,
          why: v.why,
        };
      }),
      edges: Object.values(graph).reduce((n, before) => n + before.length, 0),
      ...hours,
    };
  },
});
