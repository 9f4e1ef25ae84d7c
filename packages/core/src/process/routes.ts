import type { PartKind } from '../machine/parts.ts';
import { STAGES, TEST_STAGE_TITLES, type Impregnation, type Rail, type Stage, type TestStage } from './operation.ts';
import { needsRotor, needsStator, operation, OPERATIONS, type Operation, type OperationCode } from './operations.ts';

/** Prerequisites by operation: all of them must have passed first. */
export type RouteGraph = Readonly<Record<string, readonly string[]>>;

export const ROUTE_IDS = ['ac_random_rewind', 'ac_form_rewind', 'overhaul'] as const;
export type RouteId = (typeof ROUTE_IDS)[number];

/** A route as data: what it is called, the parts it is for and those it winds anew, its rails, stages and operations. */
export interface Route {
  title: string;
  parts: readonly PartKind[];
  rewinds: readonly PartKind[];
  rails: readonly Rail[];
  stages: readonly Stage[];
  graph: RouteGraph;
}

/** From the desk to the released winding data: every rewind begins so. */
const TO_WINDING = {
  INT: [],
  TAF: ['INT'],
  DIS: ['TAF'],
  MEC: ['DIS'],
  RIN: ['DIS'],
  RBT: ['RIN'],
  RJR: ['RIN'],
  RCA: ['TAF', 'DIS'],
  CT1: ['DIS'],
  QTE: ['MEC', 'RCA', 'RBT', 'RJR', 'CT1'],
  MRP: ['QTE'],
  DAT: ['QTE'],
  CUT: ['DAT', 'CT1'],
  BRN: ['CUT'],
  COL: ['BRN'],
  STR: ['COL'],
  DA2: ['STR'],
  TT1: ['STR'],
  BLS: ['TT1'],
  WSH: ['BLS'],
  TT2: ['WSH'],
  CT2: ['TT2'],
  DSG: ['DAT', 'DA2', 'CT2'],
} as const;

/** Routes as data. */
export const ROUTES: Readonly<Record<RouteId, Route>> = {
  ac_random_rewind: {
    title: 'Rewind (random-wound stator)',
    parts: ['stator', 'second', 'cage-rotor', 'wound-rotor'],
    rewinds: ['stator', 'second'],
    rails: ['trunk', 'stator', 'rotor'],
    stages: STAGES,
    graph: {
      ...TO_WINDING,
      SLP: ['CT2'],
      LIN: ['DSG', 'SLP'],
      WND: ['DSG'],
      INS: ['LIN', 'WND'],
      SEP: ['INS'],
      WDG: ['SEP'],
      PHI: ['INS'],
      CON: ['WDG', 'PHI'],
      SLV: ['CON'],
      LDS: ['CON'],
      LAC: ['SLV', 'LDS'],
      BOR: ['LAC'],
      PVT: ['BOR'],
      PRE: ['PVT'],
      IMPD: ['PRE'],
      DRN: ['IMPD'],
      CUR: ['DRN'],
      CLN: ['CUR'],
      PCT: ['CLN'],
      RGP: ['CLN', 'RJR'],
      RBL: ['RJR', 'RBT', 'MRP'],
      BRG: ['RBL'],
      ASM: ['PCT', 'BRG', 'RGP'],
      RUN: ['ASM'],
      LDT: ['RUN'],
      PNT: ['LDT'],
      DSP: ['PNT'],
    },
  },
  ac_form_rewind: {
    title: 'Rewind (form-wound stator)',
    parts: ['stator', 'cage-rotor', 'wound-rotor'],
    rewinds: ['stator'],
    rails: ['trunk', 'stator', 'rotor'],
    stages: STAGES,
    graph: {
      ...TO_WINDING,
      FLP: ['DSG'],
      FSP: ['FLP'],
      FTP: ['FSP'],
      FCT: ['FTP'],
      FIN: ['FCT', 'CT2'],
      FWG: ['FIN'],
      FBR: ['FIN'],
      FT1: ['FWG'],
      FCN: ['FT1', 'FBR'],
      LDS: ['FCN'],
      BOR: ['LDS'],
      PVT: ['BOR'],
      PRE: ['PVT'],
      IMPV: ['PRE'],
      DRN: ['IMPV'],
      CUR: ['DRN'],
      CLN: ['CUR'],
      PCT: ['CLN'],
      RGP: ['CLN', 'RJR'],
      RBL: ['RJR', 'RBT', 'MRP'],
      BRG: ['RBL'],
      ASM: ['PCT', 'BRG', 'RGP'],
      RUN: ['ASM'],
      LDT: ['RUN'],
      PNT: ['LDT'],
      DSP: ['PNT'],
    },
  },
  overhaul: {
    title: 'Overhaul (wash, dry, bearings)',
    parts: ['stator', 'second', 'cage-rotor', 'wound-rotor'],
    rewinds: [],
    rails: ['trunk', 'stator', 'rotor'],
    stages: STAGES.filter((s) => !['Wind', 'Test', 'Resin'].includes(s)),
    graph: {
      INT: [],
      TAF: ['INT'],
      DIS: ['TAF'],
      MEC: ['DIS'],
      RIN: ['DIS'],
      RBT: ['RIN'],
      RJR: ['RIN'],
      RCA: ['TAF', 'DIS'],
      QTE: ['MEC', 'RCA', 'RBT', 'RJR'],
      OWS: ['QTE'],
      ODR: ['OWS'],
      OTT: ['ODR'],
      MRP: ['QTE'],
      RBL: ['RJR', 'RBT', 'MRP'],
      BRG: ['RBL'],
      ASM: ['OTT', 'BRG'],
      RUN: ['ASM'],
      PNT: ['RUN'],
      DSP: ['PNT'],
    },
  },
} satisfies Record<RouteId, { graph: Partial<Record<OperationCode, readonly OperationCode[]>> } & Omit<Route, 'graph'>>;

export const WHAT_CAME = ['whole motor', 'stator only', 'rotor only'] as const;
export type WhatCame = (typeof WHAT_CAME)[number];

/** Takes operations out of a route; what followed them now follows what they followed. */
export function withoutOperations(graph: RouteGraph, remove: ReadonlySet<string>): RouteGraph {
  const behind = (code: string): string[] => (remove.has(code) ? (graph[code] ?? []).flatMap(behind) : [code]);
  const out: Record<string, string[]> = {};
  for (const [code, before] of Object.entries(graph)) {
    if (!remove.has(code)) out[code] = [...new Set(before.flatMap(behind))];
  }
  return out;
}

/**
 * Operations a shop may leave out of its routes. Everything that guards a motor or a person (data, release, tests, cure, balance,
 * joints) stays. Common practice.
 */
export const MAY_BE_LEFT_OUT: readonly OperationCode[] = [...OPERATIONS.values()]
  .filter((o) => o.mayBeLeftOut && Object.values(ROUTES).some(({ graph }) => Object.hasOwn(graph, o.code)))
  .map((o) => o.code);

/** Why a shop may not leave these operations out together, or undefined when it may. */
export function leaveOutRefusal(codes: readonly string[]): string | undefined {
  const left = new Set(codes);
  for (const code of left) {
    const known = Object.values(ROUTES).some(({ graph }) => Object.hasOwn(graph, code));
    if (!known) return `There is no operation ${code} in a route.`;
    if (!operation(code).mayBeLeftOut)
      return `${operation(code).title} stays in every route: what follows relies on it.`;
  }
  if (left.has('COL') !== left.has('BRN'))
    return 'Burn-off and slow cooling go together: leave out both (coils pulled cold or with a solvent) or neither.';
  if (left.has('CT1') && !left.has('CT2'))
    return 'The second core test is judged against the first: keep both, or leave out both.';
  return undefined;
}

const kept = new WeakMap<RouteGraph, Map<string, RouteGraph>>();

/** The route cut to the operations a job has; what followed a missing one follows what came before it. Shared by content. */
export function onlyOperations(graph: RouteGraph, codes: Iterable<string>): RouteGraph {
  const have = new Set(codes);
  const missing = Object.keys(graph).filter((c) => !have.has(c));
  if (missing.length === 0) return graph;
  let known = kept.get(graph);
  if (!known) kept.set(graph, (known = new Map()));
  const key = missing.join(' ');
  let cut = known.get(key);
  if (!cut) known.set(key, (cut = withoutOperations(graph, new Set(missing))));
  return cut;
}

const made = new Map<string, RouteGraph>();

/** The route of one job: its template, cut to what came in and to how it is impregnated. Made once and shared. */
export function routeFor(id: RouteId, came: WhatCame, impregnation: Impregnation): RouteGraph {
  const key = `${id}|${came}|${impregnation}`;
  const known = made.get(key);
  if (known) return known;
  const graph = makeRoute(id, came, impregnation);
  made.set(key, graph);
  return graph;
}

function makeRoute(id: RouteId, came: WhatCame, impregnation: Impregnation): RouteGraph {
  const without = (graph: RouteGraph, missing: (op: Operation) => boolean): RouteGraph =>
    withoutOperations(graph, new Set(Object.keys(graph).filter((code) => missing(operation(code)))));
  let graph: RouteGraph = ROUTES[id].graph;
  if (came === 'stator only') graph = without(graph, needsRotor);
  if (came === 'rotor only') graph = without(graph, needsStator);
  graph = without(graph, (op) => op.notWith?.includes(impregnation) === true);
  const agreed = [...OPERATIONS.values()].find((op) => op.impregnatesBy === impregnation)?.code;
  const named = (code: string) => (agreed !== undefined && operation(code).impregnatesBy ? agreed : code);
  return Object.fromEntries(Object.entries(graph).map(([code, before]) => [named(code), before.map(named)]));
}

/** Operations of a graph so that each comes after its prerequisites; throws when the graph has a circle. */
export function inOrder(graph: RouteGraph): string[] {
  const out: string[] = [];
  const state = new Map<string, 'open' | 'done'>();
  const visit = (code: string): void => {
    if (state.get(code) === 'done') return;
    if (state.get(code) === 'open') throw new RangeError(`The route runs in a circle through ${code}.`);
    state.set(code, 'open');
    for (const before of graph[code] ?? []) visit(before);
    state.set(code, 'done');
    out.push(code);
  };
  for (const code of Object.keys(graph)) visit(code);
  return out;
}

/**
 * A route in the order of another one that it was made from: what the other has stands as it does there, what came in stands behind what it
 * waits for. A database that keeps a route forgets the order of its operations.
 */
export function laidOut(graph: RouteGraph, like: RouteGraph): RouteGraph {
  const place = new Map(Object.keys(like).map((code, i): [string, number] => [code, i]));
  const rank = (code: string): number => {
    const known = place.get(code);
    if (known !== undefined) return known;
    const behind = Math.max(-1, ...(graph[code] ?? []).map(rank)) + 1e-3;
    place.set(code, behind);
    return behind;
  };
  const left = new Set(inOrder(graph));
  const sorted = [...left].sort((a, b) => rank(a) - rank(b) || a.localeCompare(b));
  const out: Record<string, readonly string[]> = {};
  // the first of them that waits for nothing that is still to come
  while (left.size > 0) {
    const next = sorted.find((c) => left.has(c) && !(graph[c] ?? []).some((b) => left.has(b)));
    if (next === undefined) break;
    left.delete(next);
    out[next] = graph[next] ?? [];
  }
  return out;
}

const ancestors = new WeakMap<RouteGraph, Map<string, ReadonlySet<string>>>();

/** All operations that must come before `code`; worked out once for each graph. */
export function ancestorsOf(graph: RouteGraph, code: string): ReadonlySet<string> {
  let known = ancestors.get(graph);
  if (!known) {
    known = new Map();
    ancestors.set(graph, known);
  }
  const before = known.get(code);
  if (before) return before;
  const out = new Set<string>();
  const walk = (c: string): void => {
    for (const earlier of graph[c] ?? []) {
      if (!out.has(earlier)) {
        out.add(earlier);
        walk(earlier);
      }
    }
  };
  walk(code);
  known.set(code, out);
  return out;
}

/** All operations that come after `code`. */
export function descendantsOf(graph: RouteGraph, code: string): Set<string> {
  return new Set(Object.keys(graph).filter((c) => ancestorsOf(graph, c).has(code)));
}

/** Elapsed and labour hours of one operation at shaft height H mm. */
export function operationHours(op: Operation, shaftHeightMm: number): { labourH: number; elapsedH: number } {
  const h = shaftHeightMm / 100;
  const labourH = op.hours.labour100 * h ** op.hours.labourPower;
  return { labourH, elapsedH: labourH + op.hours.wait100 * h ** op.hours.waitPower };
}

/** Total labour and the longest path through the route, hours (queues left out). */
export function routeHours(graph: RouteGraph, shaftHeightMm: number): { labourH: number; shortestElapsedH: number } {
  const end = new Map<string, number>();
  let labourH = 0;
  for (const code of inOrder(graph)) {
    const own = operationHours(operation(code), shaftHeightMm);
    labourH += own.labourH;
    const start = Math.max(0, ...(graph[code] ?? []).map((b) => end.get(b) ?? 0));
    end.set(code, start + own.elapsedH);
  }
  return { labourH, shortestElapsedH: Math.max(0, ...end.values()) };
}

/** Shaft height in mm from a frame designation: IEC number, NEMA three-digit (first two / 4 inch) or two-digit (/ 16 inch). */
export function shaftHeightMm(frame: string, school: 'IEC' | 'NEMA'): number | undefined {
  const digits = /(\d{2,4})/.exec(frame)?.[1];
  if (!digits) return undefined;
  if (school === 'IEC') return Number(digits);
  return digits.length === 2 ? (Number(digits) / 16) * 25.4 : (Number(digits.slice(0, 2)) / 4) * 25.4;
}

/** What a stage is called on a route: a winding that is kept has no cure, its service values stand there. */
export const stageTitle = (stage: TestStage, route: RouteId | undefined): string =>
  stage === 'VC' && route !== undefined && ROUTES[route].rewinds.length === 0
    ? 'in service, overhauled'
    : TEST_STAGE_TITLES[stage];
