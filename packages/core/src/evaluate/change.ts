import { limit, quoteLimit, type LimitId, type ShopLimits } from '../limits/limits.ts';
import { TEST_STAGES, type TestStage } from '../process/operation.ts';
import { stageTitle, type RouteId } from '../process/routes.ts';
import { sameVoltage } from '../surge/levels.ts';
import { notAbove } from '../verdict.ts';
import type { JudgingContext, ReadFigure, Readings, TestKind } from './testKind.ts';

/** How far a figure may move before it is looked at; up, down, or either way. Source: common practice. */
const FLAGS: Readonly<Record<string, { id: LimitId; way: 'down' | 'up' | 'either' }>> = {
  insulationResistance: { id: 'change.insulationPercent', way: 'down' },
  windingResistance: { id: 'change.resistancePercent', way: 'either' },
  singlePhaseResistance: { id: 'change.resistancePercent', way: 'either' },
  leadResistances: { id: 'change.resistancePercent', way: 'either' },
  rotorResistance: { id: 'change.resistancePercent', way: 'either' },
  noLoadRun: { id: 'change.noLoadPercent', way: 'either' },
  noLoadLow: { id: 'change.noLoadPercent', way: 'either' },
  noLoadHigh: { id: 'change.noLoadPercent', way: 'either' },
  noLoadSingle: { id: 'change.noLoadPercent', way: 'either' },
  assembledVibration: { id: 'change.vibrationPercent', way: 'up' },
};

export interface FigureChange {
  /** of the earlier value; undefined where the two are not to be compared */
  percent?: number;
  /** it moved further than it should */
  flagged: boolean;
  says: string;
}

const isOld = (stage: TestStage): boolean => stage === 'IN' || stage === 'BS' || stage === 'AB';

/** Whether two readings are of the same winding: a rewind parts as-found readings and those of earlier visits from later ones. */
const sameWinding = (was: ReadFigure, now: Pick<ReadFigure, 'stage'>, rewound: boolean): boolean =>
  !rewound || isOld(now.stage) === (was.visit !== undefined || isOld(was.stage));

type Compared = Pick<TestKind, 'alike' | 'boundOf'>;
type Now = Pick<ReadFigure, 'kind' | 'part' | 'stage' | 'values'>;

/**
 * The reading that a new one is set against: the newest of the same test and part that is of the same winding and read the same way,
 * of this visit, else of an earlier one at the same stage. Where there is none, the newest that is not to be compared.
 * @param past the oldest first, without what a correction replaced
 */
export function figureBefore(
  kind: Compared,
  past: readonly ReadFigure[],
  now: Now,
  rewound: boolean,
): ReadFigure | undefined {
  const at = TEST_STAGES.indexOf(now.stage);
  const own = past.filter(
    (p) =>
      p.kind === now.kind &&
      p.part === now.part &&
      (p.visit === undefined ? TEST_STAGES.indexOf(p.stage) <= at : p.stage === now.stage),
  );
  const newestFirst = [
    ...own.filter((p) => p.visit === undefined).toReversed(),
    ...own.filter((p) => p.visit !== undefined).toReversed(),
  ];
  return (
    newestFirst.find((p) => sameWinding(p, now, rewound) && kind.alike?.(p.values, now.values) === undefined) ??
    newestFirst[0]
  );
}

/**
 * A figure against an earlier one of the same test. Like with like only: the same winding, read the same way. A figure over the range of
 * the instrument is a bound: a fall to it is no fall, a fall from it is at least so much.
 */
export function changeOf(
  kind: Compared,
  was: ReadFigure,
  now: ReadFigure,
  of: { rewound: boolean; limits?: ShopLimits },
): FigureChange {
  if (!sameWinding(was, now, of.rewound)) return { flagged: false, says: 'another winding: not compared' };
  const unlike = kind.alike?.(was.values, now.values);
  if (unlike !== undefined) return { flagged: false, says: `${unlike}: not compared` };
  if (!(was.figure > 0)) return { flagged: false, says: '' };
  const overRange = [was, now].map((r) => kind.boundOf?.(r.values) === 'at least');
  const percent = 100 * (now.figure / was.figure - 1);
  if (overRange[1] || (overRange[0] && percent > 0))
    return { flagged: false, says: 'over the range of the instrument: not compared' };
  const flag = FLAGS[now.kind];
  if (!flag) return { percent, flagged: false, says: '' };
  const moved = flag.way === 'down' ? -percent : flag.way === 'up' ? percent : Math.abs(percent);
  const flagged = !notAbove(moved, limit(flag.id, of.limits));
  return { percent, flagged, says: flagged ? `more than ${quoteLimit(flag.id, of.limits)}` : '' };
}

/** Where a reading was read, in words. @example 'cured', 'Cured of 26-0007' */
export const saidOf = (was: Pick<ReadFigure, 'stage' | 'visit'>, route?: RouteId): string =>
  was.visit === undefined ? stageTitle(was.stage, route) : `${stageTitle(was.stage, undefined)} of ${was.visit}`;

/** The reading that one which is judged now is to be compared with; undefined where none is like it. */
export function changeBase(kind: TestKind, values: Readings, c: JudgingContext): ReadFigure | undefined {
  const now = { kind: kind.id, part: c.part, stage: c.stage, values };
  const was = figureBefore(kind, c.past ?? [], now, c.rewound);
  return was && sameWinding(was, now, c.rewound) && kind.alike?.(was.values, values) === undefined ? was : undefined;
}

/** A choice of its form that decides how a reading is read: two that differ are not compared. */
export const sameWay =
  (...names: readonly string[]): NonNullable<TestKind['alike']> =>
  (was, now) => {
    const other = names.find((n) => was[n] !== undefined && now[n] !== undefined && was[n] !== now[n]);
    return other === undefined ? undefined : `read otherwise (${String(was[other])})`;
  };

/** Runs at another voltage or frequency are not compared. @param volts names of the fields that hold the voltages of one run */
export const sameSupply =
  (...volts: readonly string[]): NonNullable<TestKind['alike']> =>
  (was, now) => {
    const [a, b] = [was, now].map((v) => {
      const read = volts.flatMap((n) => (typeof v[n] === 'number' ? [v[n]] : []));
      return read.length === 0 ? undefined : read.reduce((sum, u) => sum + u, 0) / read.length;
    });
    if (a === undefined || b === undefined || sameVoltage(a, b)) return undefined;
    return `run at ${Math.round(a)} V`;
  };
