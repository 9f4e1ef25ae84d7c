import { CAUTIONS, formatNumber, formatQuantity, maskList, sayUse, type PartKind } from '@norther/core';
import type { LoadView, ShopSettings } from '@norther/contracts';
import { grid, paperContext, type PaperOptions, type Piece } from './paper.ts';

/** What goes with each motor of a load: the part that gets the heat, and what is fitted to it. */
export interface LoadMotor {
  job: string;
  part: PartKind;
  fitted: string[];
}

const box: Piece = {
  svg: '<svg width="10" height="10"><rect x="1" y="1" width="8" height="8" fill="none" stroke="#000000"/></svg>',
  width: 9,
};

/** The sheet that hangs on the oven door: what stands in it, its sensors, and what is masked and greased on each motor. */
export function loadSheet(load: LoadView, motors: readonly LoadMotor[], settings: ShopSettings): PaperOptions {
  const paper = paperContext(settings);
  const w = paper.words.loadSheet;
  const degrees = (c: number) => formatQuantity(c, 'temperature', settings.units.temperatureUnit, 3);
  const inside = load.parts.filter((p) => p.out === null || load.state === 'done');
  return {
    title: w.title(load.number),
    settings,
    footer: `${settings.name} · ${load.chamber.name} · ${w.load(load.number)}`,
    content: [
      {
        columns: [
          [
            { text: settings.name, bold: true, fontSize: 9 },
            { text: `${load.chamber.name}, ${w.load(load.number)}`, bold: true, fontSize: 16 },
            {
              text: `${w.to(sayUse(load.use))}${load.resin ? w.resin(load.resin.name, formatNumber(load.resin.ratedH), degrees(load.resin.ratedC), degrees(load.maxC)) : ''}${w.air(degrees(load.setPointC))}`,
              fontSize: 10,
            },
            { text: w.begun(load.begun.by, paper.time(load.begun.at)), fontSize: 8, italics: true },
          ],
        ],
      },
      { text: ' ', fontSize: 4 },
      grid(
        w.head,
        inside.map((p) => [
          p.job,
          p.what,
          formatQuantity(p.massKg, 'mass', settings.units.massUnit, 3),
          `${formatNumber(p.widthMm)} × ${formatNumber(p.heightMm)} mm`,
          p.channels.join(', ') || w.byHand,
          box,
          box,
        ]),
        [48, '*', 44, 78, '*', 20, 24],
      ),
      ...motors.flatMap((m): Piece[] => [
        { text: w.before(m.job), bold: true, margin: [0, 10, 0, 2] },
        grid(
          w.maskHead,
          maskList(m.part, m.fitted).map((line) => [line.what, line.how, box, box]),
          ['*', 60, 34, 48],
        ),
      ]),
      {
        text: paper.words.cautions([CAUTIONS.S4, CAUTIONS.S6, ...(load.use === 'burn-off' ? [CAUTIONS.S5] : [])]),
        fontSize: 8,
        margin: [0, 8, 0, 0],
      },
      {
        columns: [
          { text: w.loadedBy, margin: [0, 18, 0, 0] },
          { text: w.takenOutBy, margin: [0, 18, 0, 0] },
        ],
      },
    ],
  };
}
