import { foundTests, visitDrawing, type JobDetail, type LotUsed, type ShopSettings } from '@norther/contracts';
import { againstPlate, drawingToSvg, formatNumber, gaugeNamed, testKind, type AgainstPlate } from '@norther/core';
import { isSimulated } from './certificatePage.ts';
import { chartSvg, type PaperCurve } from './paperChart.ts';
import { grid, heading, type PaperContext, type Piece } from './paper.ts';
import type { PaperWords } from './words.ts';

/** Tables up to this many rows stay on one page. */
const MOST_WHOLE = 46;
/** Width of a page between its margins, pt. */
const WIDE = 515;

/** A table with its heading: whole on one page where it fits on one; else its head comes again. */
export const kept = (title: string, rows: number, table: Piece): Piece =>
  rows <= MOST_WHOLE ? { unbreakable: true, stack: [heading(title), table] } : { stack: [heading(title), table] };

/** Instruments that standing tests were read with, and until when each is calibrated. */
export function instrumentsInReport(job: JobDetail, settings: ShopSettings, words: PaperWords): Piece[] {
  const uses = new Map<string, Set<string>>();
  for (const t of job.tests) {
    const name = (t.typed['instrument'] ?? '').trim();
    if (name === '' || t.supersededBy !== null || testKind(t.kind)?.signs) continue;
    const shown = isSimulated(t) ? `${name} ${words.simulatedMark}` : name;
    uses.set(shown, (uses.get(shown) ?? new Set()).add(testKind(t.kind)?.title ?? t.kind));
  }
  if (uses.size === 0) return [];
  const w = words.inside;
  return [
    kept(
      w.instruments,
      uses.size,
      grid(
        [w.instrument, w.calibrated, w.usedFor],
        [...uses].map(([name, tests]) => [
          name,
          gaugeNamed(settings.gauges, name.replace(` ${words.simulatedMark}`, ''))?.calibratedUntil ?? w.notKept,
          [...tests].join(', '),
        ]),
        [130, 90, '*'],
      ),
    ),
  ];
}

/** Material that went into the motor, by lot. */
export function lotsInReport(lots: readonly LotUsed[], words: PaperWords): Piece[] {
  const w = words.inside;
  return lots.length === 0
    ? []
    : [
        kept(
          w.material,
          lots.length,
          grid(
            [w.what, w.lot, w.quantity],
            lots.map((l) => [l.what, l.lot, `${formatNumber(l.quantity, 4)} ${l.unit}`]),
            ['*', 120, 80],
          ),
        ),
      ];
}

export function timelineInReport(job: JobDetail, paper: PaperContext, at: string, words: PaperWords): Piece[] {
  const drawing = visitDrawing(job, Date.parse(at), (ms) => paper.day(new Date(ms).toISOString()));
  return [
    {
      unbreakable: true,
      stack: [heading(words.inside.timeline), { svg: drawingToSvg(drawing), width: WIDE }],
    },
  ];
}

/** Declared, measured and allowed, quantity by quantity. */
export function plateInReport(job: JobDetail, words: PaperWords): Piece[] {
  const { tests, poles } = foundTests(job);
  const rows = againstPlate(tests, job.nameplate, poles);
  const w = words.inside;
  const said = (r: AgainstPlate, v: number | undefined) =>
    v === undefined ? '–' : `${formatNumber(r.unit === '%' ? 100 * v : v, 4)} ${r.unit}`.trim();
  return rows.length === 0
    ? []
    : [
        kept(
          w.plate,
          rows.length,
          grid(
            ['', w.declared, w.measured, w.allowed, words.verdict],
            rows.map((r) => [
              r.what,
              said(r, r.declared),
              said(r, r.measured),
              r.says,
              { text: r.verdict, bold: true, fontSize: 8 },
            ]),
            [110, 80, 80, '*', 60],
          ),
        ),
      ];
}

type Values = Record<string, unknown>;
const valuesOf = (t: JobDetail['tests'][number]): Values => (t.result as { values?: Values } | null)?.values ?? {};

/** Curves of the tests of the loaded motor. */
export function curvesInReport(job: JobDetail, words: PaperWords): Piece[] {
  const last = (kind: string) => job.tests.filter((t) => t.kind === kind && t.supersededBy === null).at(-1);
  const w = words.inside;
  const curves: PaperCurve[] = [];
  const load = last('loadTest');
  const methods = load
    ? ((valuesOf(load)['methods'] ?? []) as {
        method: string;
        rows: { outCorrectedW: number; efficiency: number; torqueNm: number; rawStrayW: number; dropped: boolean }[];
        slope: number;
        intercept: number;
      }[])
    : [];
  if (load && methods.length > 0)
    curves.push({
      title: `${w.efficiency}${isSimulated(load) ? ` ${words.simulatedMark}` : ''}`,
      x: 'kW',
      y: '%',
      lines: methods.map((m, i) => ({
        name: w.method(m.method),
        dash: i > 0,
        points: [...m.rows]
          .sort((a, b) => a.outCorrectedW - b.outCorrectedW)
          .map((r) => [r.outCorrectedW / 1000, 100 * r.efficiency] as const),
      })),
    });
  const rise = last('temperatureRise');
  const rises = rise ? ((valuesOf(rise)['rises'] ?? []) as { seconds: number; riseK: number }[]) : [];
  const [tau, start] = rise ? [valuesOf(rise)['timeConstantS'], valuesOf(rise)['riseK']] : [];
  if (rise && rises.length > 1)
    curves.push({
      title: `${w.rise}${isSimulated(rise) ? ` ${words.simulatedMark}` : ''}`,
      x: 's',
      y: 'K',
      lines: [
        { name: w.asRead, marks: true, points: rises.map((r) => [r.seconds, r.riseK] as const) },
        ...(typeof tau === 'number' && typeof start === 'number'
          ? [
              {
                name: w.drawnBack,
                dash: true,
                points: [0, 0.25, 0.5, 0.75, 1].map((k) => {
                  const t = k * Math.max(...rises.map((r) => r.seconds));
                  return [t, start * Math.exp(-t / tau)] as const;
                }),
              },
            ]
          : []),
      ],
    });
  if (curves.length === 0) return [];
  return [
    {
      unbreakable: true,
      stack: [
        heading(words.inside.curves),
        { columns: curves.map((c) => ({ svg: chartSvg(c), width: 250 })), columnGap: 12 },
      ],
    },
  ];
}
