import {
  burnNow,
  cureNow,
  cureNowOf,
  defaultMaxGapMin,
  followCure,
  limit,
  liveBegun,
  mostC,
  targetOf,
  toBase,
  type Alarm,
  type LiveNow,
  type LiveSetUp,
  type LiveState,
} from '@norther/core';
import { Inject, Injectable } from '@nestjs/common';
import { nowMs } from '../clock/clock.ts';
import type { Reader } from '../database/tables.ts';
import { unpack } from '../trace/packing.ts';
import { OvenRepository, type LoadAll, type LoadTrace } from './ovenRepository.ts';

/** One row of a load on its own time axis, min from its begin. */
interface Row {
  t: number;
  values: (number | null)[];
  typed: boolean;
  /** it came with a file */
  file?: true;
}
/** Readings of the logger that its own pace is taken from. */
const PACE_ROWS = 64;
/** A typed reading at the very time of a logged one comes just after it. */
const JUST_AFTER_MIN = 1e-6;
const KEPT_LOADS = 64;

/** How sensors and parts hang together: one row of names for all runs of the logger, then one for each part without a sensor. */
interface Wiring {
  names: string[];
  roles: LiveSetUp['channels'][number]['role'][];
  channelsOf: Map<string, number[]>;
}
interface Kept {
  key: string;
  setUp: LiveSetUp;
  state: LiveState;
  wiring: Wiring;
  zeroMs: number;
  counts: Map<string, { chunks: number; lastFirst: number }>;
}
/** Every row of a load. */
export interface WholeLoad {
  timesMin: number[];
  names: string[];
  values: (number | null)[][];
  typedAtMin: number[];
  wiring: Wiring;
  zeroMs: number;
  maxGapMin: number;
  simulated: boolean;
}
export interface Followed extends Pick<Kept, 'setUp' | 'state' | 'wiring' | 'zeroMs'> {
  traces: LoadTrace[];
  simulated: boolean;
  /** minutes on the load's own axis that it is now; undefined when nothing runs */
  nowMin: number | undefined;
}

/**
 * Follows open loads: what is kept of a load does not grow with it, and new samples are taken as they come. Nothing rests on it: another
 * server, or this one after a restart, reads the load anew from its samples.
 */
@Injectable()
export class LoadFollowing {
  readonly rows: OvenRepository;
  private readonly kept = new Map<string, Kept>();
  private readonly turns = new Map<string, Promise<unknown>>();
  constructor(@Inject(OvenRepository) rows: OvenRepository) {
    this.rows = rows;
  }

  /** How a load stands now. Who asks while it is read waits for that: what came is taken once. */
  async follow(reader: Reader, all: LoadAll): Promise<Followed> {
    const { id } = all.load;
    const before = this.turns.get(id);
    const turn = (async () => {
      await before?.catch(() => undefined);
      return this.inTurn(reader, all);
    })();
    this.turns.set(id, turn);
    try {
      return await turn;
    } finally {
      if (this.turns.get(id) === turn) this.turns.delete(id);
    }
  }

  private async inTurn(reader: Reader, all: LoadAll): Promise<Followed> {
    const traces = await this.rows.tracesOf(reader, all.load, all.chamber.instrumentId);
    const wiring = wired(all, traces);
    const key = JSON.stringify([traces.map((t) => t.id), wiring.names, wiring.roles, all.readings.length]);
    let kept = this.kept.get(all.load.id);
    if (kept?.key !== key || !(await this.takeNew(reader, all, traces, kept))) {
      kept = await this.anew(reader, all, traces, wiring, key);
      this.kept.delete(all.load.id);
      this.kept.set(all.load.id, kept);
      if (this.kept.size > KEPT_LOADS) this.kept.delete(this.kept.keys().next().value as string);
    }
    const { setUp, state, zeroMs } = kept;
    const running = all.load.startedAt !== null && all.load.endedAt === null;
    const last = traces.findLast((t) => !t.file) ?? traces.at(-1);
    return {
      setUp,
      state,
      // names and roles are those that were kept; which part a sensor is on may have been put right
      wiring,
      zeroMs,
      traces,
      simulated: traces.some((t) => t.simulated),
      nowMin: running ? nowOnAxis(all, last, state.t, zeroMs) : undefined,
    };
  }

  /** Every row of a load, for what judges it whole. */
  async whole(reader: Reader, all: LoadAll): Promise<WholeLoad> {
    const traces = await this.rows.tracesOf(reader, all.load, all.chamber.instrumentId);
    const wiring = wired(all, traces);
    const zeroMs = zeroOf(all, traces);
    const { rows } = await this.rowsOf(reader, all, traces, wiring, zeroMs);
    return {
      timesMin: rows.map((r) => r.t),
      names: wiring.names,
      values: wiring.names.map((_, c) => rows.map((r) => r.values[c] ?? null)),
      typedAtMin: rows.filter((r) => r.typed).map((r) => r.t),
      wiring,
      zeroMs,
      maxGapMin: paceOf(rows, all),
      simulated: traces.some((t) => t.simulated),
    };
  }

  /** Takes what came since; false where it must be read anew: something came late, or out of order. */
  private async takeNew(reader: Reader, all: LoadAll, traces: readonly LoadTrace[], kept: Kept): Promise<boolean> {
    for (const trace of traces) {
      const had = kept.counts.get(trace.id);
      if (!had) return false;
      if (had.chunks === trace.chunks) continue;
      if (trace !== traces.findLast((t) => !t.file)) return false;
      const chunks = await this.rows.chunksAfter(reader, trace.id, had.lastFirst);
      if (had.chunks + chunks.length < trace.chunks) return false;
      const rows = rowsIn(all, trace, chunks, kept.wiring, kept.zeroMs);
      const first = rows[0];
      if (first && kept.state.t !== undefined && first.t <= kept.state.t) return false;
      if (kept.state.rows < PACE_ROWS) return false;
      for (const r of rows) followCure(kept.state, kept.setUp, r.t, r.values, r.typed);
      kept.counts.set(trace.id, {
        chunks: had.chunks + chunks.length,
        lastFirst: chunks.reduce((m, c) => Math.max(m, c.first), had.lastFirst),
      });
    }
    return true;
  }

  private async anew(
    reader: Reader,
    all: LoadAll,
    traces: readonly LoadTrace[],
    wiring: Wiring,
    key: string,
  ): Promise<Kept> {
    const zeroMs = zeroOf(all, traces);
    const { rows, late } = await this.rowsOf(reader, all, traces, wiring, zeroMs);
    const setUp = setUpOf(all, wiring, paceOf(rows, all));
    const state = liveBegun(setUp);
    for (const r of rows) followCure(state, setUp, r.t, r.values, r.typed);
    state.late += late;
    return {
      key,
      setUp,
      state,
      wiring,
      zeroMs,
      counts: new Map(traces.map((t) => [t.id, { chunks: t.chunks, lastFirst: t.lastFirst ?? -1 }])),
    };
  }

  private async rowsOf(
    reader: Reader,
    all: LoadAll,
    traces: readonly LoadTrace[],
    wiring: Wiring,
    zeroMs: number,
  ): Promise<{ rows: Row[]; late: number }> {
    const logged: Row[] = [];
    const files: Row[] = [];
    let late = 0;
    for (const trace of traces)
      for (const row of rowsIn(all, trace, await this.rows.chunksAfter(reader, trace.id, -1), wiring, zeroMs))
        // a clock that goes back tells nothing of the load; a file stands beside what was sent
        if (trace.file) files.push(row);
        else if (row.t > (logged.at(-1)?.t ?? -Infinity)) logged.push(row);
        else late += 1;
    whole(files, logged.length > 0);
    const typed = all.readings.flatMap((r): Row[] => {
      const channel = wiring.channelsOf.get(r.partId)?.[0];
      if (channel === undefined) return [];
      const values: (number | null)[] = wiring.names.map(() => null);
      values[channel] = r.c;
      return [{ t: (r.readAt.getTime() - zeroMs) / 60_000, values, typed: true }];
    });
    if (typed.length + files.length === 0) return { rows: logged, late };
    const rows = [...logged, ...files, ...typed].filter((r) => r.t >= 0).sort((a, b) => a.t - b.t);
    rows.forEach((r, i) => {
      const before = rows[i - 1];
      if (before && r.t <= before.t) r.t = before.t + JUST_AFTER_MIN;
    });
    return { rows, late };
  }
}

/** How one part stands. Its own limit follows its core plate. */
export function partNow(f: Followed, all: LoadAll, partId: string): LiveNow {
  const part = all.parts.find((p) => p.id === partId);
  const target = targetOf(all.load.use, all.load.resin ?? undefined, all.load.setPointC, all.load.limits);
  const setUp = { ...f.setUp, maxC: mostC(all.load.use, target, part?.corePlate ?? undefined, all.load.limits) };
  return cureNowOf(f.state, setUp, f.wiring.channelsOf.get(partId) ?? [], f.nowMin);
}

/** What is to be seen to at a load, each said once. */
export function loadAlarms(f: Followed, all: LoadAll, parts: readonly LiveNow[]): Alarm[] {
  if (f.nowMin === undefined) return [];
  const own = (is: LiveNow): Alarm[] => {
    const burn = all.load.use === 'burn-off' ? burnNow(is.parts, is.coldest?.degree ?? 0, all.load.limits) : undefined;
    // a burn-off that is done cools in its oven: an air that falls is as it should be
    const kept = burn && burn.state !== 'heating' ? is.alarms.filter((a) => a.code !== 'door_opened') : is.alarms;
    return [...kept, ...(burn?.alarm ? [burn.alarm] : [])];
  };
  const said = parts.length > 0 ? parts.flatMap(own) : cureNow(f.state, f.setUp, f.nowMin).alarms;
  return said.filter((a, i) => said.findIndex((b) => b.code === a.code && b.says === a.says) === i);
}

/** Time of now on a load's axis. A logger's clock may run otherwise than ours: what counts is how long nothing has come. */
function nowOnAxis(all: LoadAll, last: LoadTrace | undefined, t: number | undefined, zeroMs: number): number {
  const here = (nowMs() - (all.load.startedAt?.getTime() ?? nowMs())) / 60_000;
  if (t === undefined) return Math.max(0, here);
  const typed = all.readings.at(-1);
  const lastTyped = typed ? (typed.readAt.getTime() - zeroMs) / 60_000 : -Infinity;
  // a file says nothing of now: since its last reading it has gone on
  if (last?.file && lastTyped < t - 0.001) return Math.max(t, (nowMs() - zeroMs) / 60_000);
  const since = lastTyped >= t - 0.001 ? typed?.at.getTime() : last?.seenAt?.getTime();
  return t + Math.max(0, nowMs() - (since ?? nowMs())) / 60_000;
}

const setUpOf = (all: LoadAll, wiring: Wiring, maxGapMin: number): LiveSetUp => {
  const { load } = all;
  const target = targetOf(load.use, load.resin ?? undefined, load.setPointC, load.limits);
  return {
    channels: wiring.names.map((name, i) => ({ name, role: wiring.roles[i] ?? 'not used' })),
    resin: target,
    maxC: mostC(load.use, target, undefined, load.limits),
    maxGapMin,
    typedGapMin: limit('cure.typedGapMin', load.limits),
    overBakeDegree: load.use === 'bake' ? limit('cure.overBakeDegree', load.limits) : Infinity,
    school: load.use === 'bake' ? load.school : 'equivalent time',
    holdToleranceK: 0,
  };
};

/**
 * Rows of files beside those of a logger: a file may be slower than the logger, so its own step counts, and a hole in it is one. Where
 * nothing was sent the files set the pace themselves.
 */
function whole(files: Row[], besideLogger: boolean): void {
  files.sort((a, b) => a.t - b.t);
  if (!besideLogger || files.length < 2) return;
  const own = defaultMaxGapMin(files.map((r) => r.t));
  const near = (a: Row | undefined, b: Row | undefined) => a !== undefined && b !== undefined && b.t - a.t <= own;
  const marks = files.map(
    (r, i) => (i === 0 || near(files[i - 1], r)) && (i === files.length - 1 || near(r, files[i + 1])),
  );
  files.forEach((r, i) => {
    r.typed = marks[i] === true;
    r.file = true;
  });
}

/** Three times the logger's own step; of typed readings alone, what may lie between two of them. */
function paceOf(rows: readonly Row[], all: LoadAll): number {
  const logged = rows.filter((r) => !r.typed && !r.file).slice(0, PACE_ROWS);
  return logged.length >= 2 ? defaultMaxGapMin(logged.map((r) => r.t)) : limit('cure.typedGapMin', all.load.limits);
}

function zeroOf(all: LoadAll, traces: readonly LoadTrace[]): number {
  const first = traces.find((t) => !t.file);
  const from = first && first.id === all.load.traceId ? (all.load.traceFrom ?? 0) : 0;
  const scale = first?.xUnit === 'min' ? 60_000 : 1000;
  return first?.startAt ? first.startAt.getTime() + from * scale : (all.load.startedAt ?? all.load.begunAt).getTime();
}

/** Sensors that send and sit nowhere: nobody has said yet what they are for. */
export const leftOver = (all: LoadAll, f: Pick<Followed, 'traces'>): string[] =>
  [...new Set(f.traces.flatMap((t) => t.channels.filter((c) => c.role !== 'oven air').map((c) => c.name)))].filter(
    (name) => {
      const probe = all.probes.find((p) => p.channel === name);
      return probe === undefined || (probe.role === 'part' && probe.partId === null);
    },
  );

function wired(all: LoadAll, traces: readonly LoadTrace[]): Wiring {
  const names = [...new Set(traces.flatMap((t) => t.channels.map((c) => c.name)))];
  const says = (name: string) => traces.flatMap((t) => t.channels).find((c) => c.name === name)?.role;
  const roles = names.map((name) => {
    const probe = all.probes.find((p) => p.channel === name);
    if (probe) return probe.role === 'part' && probe.partId === null ? ('not used' as const) : probe.role;
    return says(name) === 'oven air' ? ('oven air' as const) : ('not used' as const);
  });
  const channelsOf = new Map<string, number[]>();
  for (const part of all.parts) {
    const own = names.flatMap((name, i) =>
      roles[i] === 'part' && all.probes.some((p) => p.channel === name && p.partId === part.id) ? [i] : [],
    );
    if (own.length > 0) channelsOf.set(part.id, own);
    else if (all.readings.some((r) => r.partId === part.id)) {
      names.push(`${part.job}, by hand`);
      roles.push('part');
      channelsOf.set(part.id, [names.length - 1]);
    }
  }
  return { names, roles, channelsOf };
}

/** Rows of some chunks of a run, in the load's channels; what lies before its begin or after its end is left out. */
function rowsIn(
  all: LoadAll,
  trace: LoadTrace,
  chunks: readonly { packed: Buffer; count: number }[],
  wiring: Wiring,
  zeroMs: number,
): Row[] {
  const { x, values } = unpack(chunks, trace.channels.length);
  const scale = trace.xUnit === 'min' ? 60_000 : 1000;
  const offMs = (trace.startAt?.getTime() ?? zeroMs) - zeroMs;
  const from = trace.id === all.load.traceId ? (all.load.traceFrom ?? -Infinity) : -Infinity;
  const to = all.load.tracesTo?.[trace.id] ?? Infinity;
  const at = trace.channels.map((c) => wiring.names.indexOf(c.name));
  const beganMin = ((all.load.startedAt?.getTime() ?? zeroMs) - zeroMs) / 60_000;
  const out: Row[] = [];
  x.forEach((place, i) => {
    const t = (offMs + place * scale) / 60_000;
    // a file may hold more than this load
    if (place < from || place > to || (trace.file && t < beganMin)) return;
    const row: (number | null)[] = wiring.names.map(() => null);
    trace.channels.forEach((c, k) => {
      const v = values[k]?.[i] ?? NaN;
      const here = at[k] ?? -1;
      if (here >= 0 && !Number.isNaN(v)) row[here] = c.unit === '°F' ? toBase(v, 'temperature', '°F') : v;
    });
    out.push({ t, values: row, typed: false });
  });
  return out;
}
