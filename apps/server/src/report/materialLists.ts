import {
  CAUTIONS,
  drawingToSvg,
  formatNumber,
  formatQuantity,
  nestingDrawing,
  sayPart,
  sayAmount,
  sayClass,
  type BillLine,
  type StockBill,
  type WindingPart,
} from '@norther/core';
import type { JobDetail, MaterialLists, ShopSettings } from '@norther/contracts';
import { grid, paperContext, type PaperOptions, type Piece } from './paper.ts';
import type { PaperWords } from './words.ts';

/** Size of a piece as it is cut. */
function saySize(line: BillLine, settings: ShopSettings): string {
  const w = paperContext(settings).words.lists;
  const length = (m: number) => formatQuantity(m, 'length', settings.units.lengthUnit, m < 0.1 ? 3 : 4);
  return [
    line.lengthM === undefined
      ? ''
      : line.widthM === undefined
        ? length(line.lengthM)
        : `${length(line.lengthM)} × ${length(line.widthM)}`,
    line.boreM === undefined ? '' : w.bore(length(line.boreM)),
    line.areaMm2 === undefined ? '' : `${formatNumber(line.areaMm2)} mm²`,
  ]
    .filter(Boolean)
    .join(', ');
}

function head(job: JobDetail, part: WindingPart, title: string, lists: MaterialLists, settings: ShopSettings): Piece[] {
  const paper = paperContext(settings);
  return [
    {
      columns: [
        [
          { text: settings.name, bold: true, fontSize: 9 },
          {
            text: `${title}  ${job.number}${sayPart(part) === '' ? '' : `  ${sayPart(part)}`}`,
            bold: true,
            fontSize: 16,
          },
          { text: `${job.what} · ${job.customer}`, fontSize: 10 },
        ],
        { qr: `norther:job:${job.number}`, fit: 62, width: 70, alignment: 'right' },
      ],
    },
    {
      text: paper.words.lists.from(lists.planRevision, lists.by, paper.time(lists.at)),
      fontSize: 8,
      italics: true,
      margin: [0, 3, 0, 4],
    },
  ];
}

/** A square to tick by hand; drawn, as the paper's font has none. */
const box: Piece = {
  svg: '<svg width="10" height="10"><rect x="1" y="1" width="8" height="8" fill="none" stroke="#000000"/></svg>',
  width: 9,
};

const sign = (w: PaperWords['lists']): Piece => ({
  columns: [
    { text: w.doneBy, margin: [0, 18, 0, 0] },
    { text: w.date, margin: [0, 18, 0, 0] },
  ],
});

const inThrees = <T>(list: readonly T[]): T[][] =>
  list.reduce<T[][]>(
    (rows, x, i) => (i % 3 === 0 ? [...rows, [x]] : [...rows.slice(0, -1), [...(rows.at(-1) ?? []), x]]),
    [],
  );

/** What is cut, how many, how large, how it lies on sheet or roll. */
export function cuttingList(
  job: JobDetail,
  part: WindingPart,
  lists: MaterialLists,
  settings: ShopSettings,
): PaperOptions {
  const { words } = paperContext(settings);
  const w = words.lists;
  const cut = lists.bill.lines.filter((l) => l.pieces > 0);
  const drawn = cut.flatMap((line) => {
    const drawing = nestingDrawing(
      line,
      settings.materials.find((m) => m.name === line.material),
    );
    return drawing ? [{ line, drawing }] : [];
  });
  return {
    title: `${w.cutting} ${job.number}`,
    settings,
    footer: `${settings.name} · ${job.number} · ${job.what}`,
    content: [
      ...head(job, part, w.cutting, lists, settings),
      grid(
        w.cuttingHead,
        cut.map((l) => [
          l.use,
          l.material,
          String(l.pieces),
          saySize(l, settings),
          sayAmount(l.quantity, l.unit, settings.units.massUnit),
          l.nesting,
          box,
        ]),
        [60, '*', 36, 96, 56, '*', 22],
      ),
      {
        text: w.cuttingHow,
        fontSize: 8,
        margin: [0, 6, 0, 0],
      },
      // three small drawings side by side, so that the list stays one page
      ...inThrees(drawn).map((three): Piece => ({
        columns: three.map(({ drawing, line }) => ({
          stack: [
            { text: `${line.use}: ${drawing.title}`, bold: true, fontSize: 8, margin: [0, 8, 0, 3] },
            { svg: drawingToSvg(drawing), fit: [165, 120] },
          ],
        })),
        columnGap: 10,
        unbreakable: true,
      })),
      { text: words.caution(CAUTIONS.S12), fontSize: 8, margin: [0, 8, 0, 0] },
      sign(w),
    ],
  };
}

/** What is fetched from the store, by lot. */
export function pickingList(
  job: JobDetail,
  part: WindingPart,
  lists: MaterialLists,
  settings: ShopSettings,
): PaperOptions {
  const { bill } = lists;
  const w = paperContext(settings).words.lists;
  const rows = bill.lines.flatMap((line, i): (string | Piece)[][] => {
    const { picks, short } = lists.lines[i] ?? { picks: [], short: line.quantity };
    const wanted = sayAmount(line.quantity, line.unit, settings.units.massUnit);
    const own = [
      ...picks.map((p) => [p.lot, sayAmount(p.quantity, line.unit, settings.units.massUnit)] as const),
      ...(short > 1e-9 ? ([[w.notInStock, sayAmount(short, line.unit, settings.units.massUnit)]] as const) : []),
    ];
    return own.map(([lot, quantity], k) => [
      k === 0 ? line.use : '',
      k === 0 ? [line.material, saySize(line, settings)].filter(Boolean).join('; ') : '',
      k === 0 ? (line.spools === undefined ? wanted : `${wanted}, ${w.spools(line.spools)}`) : '',
      lot === w.notInStock ? { text: lot, bold: true, fontSize: 8 } : lot,
      quantity,
      box,
    ]);
  });
  return {
    title: `${w.picking} ${job.number}`,
    settings,
    footer: `${settings.name} · ${job.number} · ${job.what}`,
    content: [
      ...head(job, part, w.picking, lists, settings),
      grid(w.pickingHead, rows, [70, '*', 90, 80, 60, 26]),
      {
        text: w.system(
          bill.system.classC === undefined ? w.notVerified : `${sayClass(bill.system.classC)} °C`,
          bill.system.weakest,
          bill.wantedClassC === undefined ? w.none : sayClass(bill.wantedClassC),
        ),
        margin: [0, 8, 0, 0],
      },
      ...bill.warnings.map((text): Piece => ({ text: w.attention(text), bold: true, margin: [0, 3, 0, 0] })),
      sign(w),
    ],
  };
}

/** The bill as a table, in the units its columns name. */
export function billTable(bill: StockBill): (string | number)[][] {
  const round = (x: number | undefined, digits = 4) => (x === undefined ? '' : Number(x.toFixed(digits)));
  return [
    [
      'use',
      'material',
      'class_c',
      'pieces',
      'length_mm',
      'width_mm',
      'bore_mm',
      'cable_mm2',
      'bare_mm',
      'quantity',
      'unit',
      'spools',
      'nesting',
      'cost',
    ],
    ...bill.lines.map((l) => [
      l.use,
      l.material,
      l.classC ?? '',
      l.pieces,
      round(l.lengthM === undefined ? undefined : l.lengthM * 1000, 2),
      round(l.widthM === undefined ? undefined : l.widthM * 1000, 2),
      round(l.boreM === undefined ? undefined : l.boreM * 1000, 2),
      l.areaMm2 ?? '',
      round(l.bareM === undefined ? undefined : l.bareM * 1000),
      round(l.quantity),
      l.unit,
      l.spools ?? '',
      l.nesting,
      round(l.cost, 2),
    ]),
  ];
}
