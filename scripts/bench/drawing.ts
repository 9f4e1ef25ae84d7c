import {
  checkRecord,
  connect,
  connectionRing,
  developedWinding,
  drawingToSvg,
  harmonicBars,
  layoutOf,
  phasorStar,
  slotRing,
  type Drawing,
  type Layout,
  type WindingRecord,
} from '@norther/core';
import { type Figure, median } from './figure.ts';

function allDrawings(layout: Layout): Drawing[] {
  const made = connect(layout, { connection: 'wye', circuits: 1, jumper: 'adjacent-pole', leads: 3 });
  return [
    slotRing({ slots: layout.slots, layout }),
    connectionRing(layout, made),
    developedWinding(layout),
    phasorStar(layout),
    harmonicBars(layout),
  ];
}

/** Every drawing of a winding, and the checks that run at each key press. */
export function benchDrawing(): Figure[] {
  const at = (slots: number, poles: number) => {
    const layout = layoutOf({
      slots,
      poles,
      layers: 2,
      form: 'lap',
      poleGroups: 'every-pole',
      spanSlots: Math.floor((slots / poles) * 0.85),
      turns: [10],
    });
    const drawings = allDrawings(layout);
    return {
      shapes: median(() => allDrawings(layout), 41),
      svg: median(() => drawings.map((d) => drawingToSvg(d)), 41),
    };
  };
  const small = at(24, 4);
  const middle = at(72, 6);
  const large = at(144, 12);
  const record: WindingRecord = {
    kind: 'three-phase',
    slots: 72,
    poles: 3 * 4,
    layers: 'double',
    form: 'lap',
    spansSlots: [10],
    turns: [10],
    strands: [{ count: 4, bareM: 0.001, label: '' }],
    circuits: 3,
    connection: 'delta',
    coilCount: 72,
    groupCount: 18,
    boreM: 0.3,
    coreLengthM: 0.25,
  };
  const plate = { outputW: 75000, voltagesV: [400], currentsA: [135], frequencyHz: 50, speedRpm: 986 };
  const wrong = median(() => checkRecord(record, plate), 41);
  const sound = median(() => checkRecord({ ...record, poles: 6 }, plate), 41);
  const growth = large.shapes / small.shapes;
  return [
    {
      name: 'all five drawings of 72 slots as shapes',
      value: `${middle.shapes.toFixed(2)} ms (writing them as SVG ${middle.svg.toFixed(2)} ms)`,
      ratio: middle.shapes / middle.svg,
      must: 'at most 5 times the writing of the same shapes as SVG',
      holds: middle.shapes <= 5 * middle.svg,
    },
    {
      name: 'growth of the drawings from 24 to 144 slots',
      value: `${small.shapes.toFixed(2)} -> ${large.shapes.toFixed(2)} ms`,
      ratio: growth / 6,
      must: 'at most twice the sixfold',
      holds: growth <= 12,
    },
    {
      name: 'checks of a wrong record with the search for one mending change, against a sound record',
      value: `${wrong.toFixed(2)} ms against ${sound.toFixed(2)} ms`,
      ratio: wrong / sound,
      must: 'at most 60 times (some thirty changes are tried)',
      holds: wrong <= 60 * sound,
    },
  ];
}
