import {
  changeOf,
  figureBefore,
  figureOf,
  formatNumber,
  pastOf,
  saidOf,
  type ReadFigure,
  type RouteId,
  type ShopLimits,
  type TestKind,
  type TestStage,
} from '@norther/core';
import type { EarlierTestView, TestView } from '@norther/contracts';

/** The figure of a test that is worth a glance: the first that its calculation derived. */
export const mainFigure = (kind: TestKind, run: TestView): number | undefined => figureOf(kind.id, run.result);
export const sayFigure = (kind: TestKind, figure: number): string =>
  `${formatNumber(figure, 3)}${kind.derived?.[0]?.unit ? ` ${kind.derived[0].unit}` : ''}`;

/** How a figure stands to the one before it: of this visit, else of an earlier one at the same stage. */
export interface CellTrend {
  short: string;
  says: string;
  flagged: boolean;
}

export function cellTrend(
  kind: TestKind,
  run: TestView,
  own: readonly TestView[],
  earlier: readonly EarlierTestView[],
  of: { rewound: boolean; route: RouteId; limits: ShopLimits },
): CellTrend | undefined {
  const figure = mainFigure(kind, run);
  if (figure === undefined) return undefined;
  const now: ReadFigure = { ...run, stage: run.stage as TestStage, figure };
  const past = pastOf(
    own.filter((t) => t.takenAt < run.takenAt),
    earlier,
    run.part,
  );
  const was = figureBefore(kind, past, now, of.rewound);
  if (!was) return undefined;
  const change = changeOf(kind, was, now, of);
  const { percent } = change;
  const short =
    percent === undefined
      ? ''
      : `${percent > 0 ? '+' : percent < 0 ? '−' : '±'}${formatNumber(Math.abs(percent), Math.abs(percent) < 1 ? 1 : 2)} %`;
  return {
    short,
    says: [`${sayFigure(kind, was.figure)} ${saidOf(was, of.route)}`, short === '' ? '' : `now ${short}`, change.says]
      .filter(Boolean)
      .join(', '),
    flagged: change.flagged,
  };
}
