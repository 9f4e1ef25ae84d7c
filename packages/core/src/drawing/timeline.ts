import { formatNumber } from '../quantity/format.ts';
import type { Verdict } from '../verdict.ts';
import type { Drawing, Role, Shape } from './shapes.ts';

/** One bar of a visit: an operation from its beginning to its end. */
export interface TimelineBar {
  title: string;
  rail: 'trunk' | 'stator' | 'rotor';
  from: number;
  to: number;
  verdict?: Verdict | null | undefined;
  /** it was passed with a name and a reason */
  override?: boolean;
}
/** A moment: a hold, a test, a photograph, a paper. */
export interface TimelineMark {
  at: number;
  what: 'hold' | 'test' | 'photograph' | 'paper';
  says: string;
  verdict?: Verdict | undefined;
}

const WIDTH = 960;
const LEFT = 118;
const RIGHT = 16;
const LANE = 20;
const TOP = 26;
const HOUR_MS = 3_600_000;
const DAY_MS = 24 * HOUR_MS;
const SMALL = 11;
/** Half of what a day takes when it is written. */
const HALF_DAY_WIDE = 32;
/** Bars shorter than this are drawn as wide, so that they are seen. */
const LEAST = 3;
/** A title stands in its bar where it has this much room for a letter. */
const LETTER = 5.6;

const ROLE: Record<Verdict, Role> = { pass: 'good', attention: 'limit', fail: 'bad', 'cannot judge': 'faint' };
const SIGN: Record<Verdict, string> = { pass: '', attention: '!', fail: '×', 'cannot judge': '?' };

/**
 * One visit from intake to dispatch: operations as bars on their rail, tests and photographs as marks under them, days along the foot.
 * @param day how a day is written
 */
export function timeline(
  visit: { from: number; to: number; bars: readonly TimelineBar[]; marks: readonly TimelineMark[] },
  day: (ms: number) => string,
): Drawing {
  const { from } = visit;
  const to = Math.max(visit.to, from + HOUR_MS);
  const x = (ms: number) => LEFT + ((Math.min(to, Math.max(from, ms)) - from) / (to - from)) * (WIDTH - LEFT - RIGHT);
  const shapes: Shape[] = [];
  let y = TOP;
  for (const rail of ['trunk', 'stator', 'rotor'] as const) {
    const bars = visit.bars.filter((b) => b.rail === rail).sort((a, b) => a.from - b.from);
    if (bars.length === 0) continue;
    // bars that overlap stand under each other
    const lanes: number[] = [];
    const begin = y;
    for (const b of bars) {
      const [x1, x2] = [x(b.from), Math.max(x(b.to), x(b.from) + LEAST)];
      let lane = lanes.findIndex((end) => end <= x1);
      if (lane < 0) lane = lanes.push(0) - 1;
      lanes[lane] = x2;
      const top = begin + lane * LANE;
      const role = b.verdict ? ROLE[b.verdict] : 'faint';
      shapes.push({
        kind: 'path',
        role,
        of: [`${b.title}, ${formatNumber((b.to - b.from) / HOUR_MS, 2)} h`],
        fill: b.verdict === 'fail' ? 'tint' : 'paper',
        d: `M${x1} ${top}H${x2}V${top + LANE - 5}H${x1}Z`,
      });
      const title = `${b.verdict ? SIGN[b.verdict] : ''}${b.override ? '◊' : ''}${b.title}`;
      const fits = (text: string) => x2 - x1 > text.length * LETTER + 4;
      const timed = `${title}, ${formatNumber((b.to - b.from) / HOUR_MS, 2)} h`;
      const label = fits(timed) ? timed : title;
      if (fits(label))
        shapes.push({
          kind: 'text',
          role: 'text',
          x: x1 + 3,
          y: top + LANE - 12,
          text: label,
          size: SMALL,
          anchor: 'start',
        });
    }
    const height = Math.max(1, lanes.length) * LANE;
    shapes.push({
      kind: 'text',
      role: 'label',
      x: 6,
      y: begin + 12,
      text: rail,
      size: SMALL,
      anchor: 'start',
      bold: true,
    });
    y = begin + height + 6;
    shapes.push({ kind: 'line', role: 'faint', x1: LEFT, y1: y - 3, x2: WIDTH - RIGHT, y2: y - 3 });
  }
  for (const what of ['hold', 'test', 'photograph', 'paper'] as const) {
    const marks = visit.marks.filter((m) => m.what === what);
    if (marks.length === 0) continue;
    shapes.push({
      kind: 'text',
      role: 'label',
      x: 6,
      y: y + 11,
      text: `${what}s`,
      size: SMALL,
      anchor: 'start',
      bold: true,
    });
    for (const m of marks) {
      const at = x(m.at);
      shapes.push({
        kind: 'circle',
        role: m.verdict ? ROLE[m.verdict] : 'frame',
        of: [m.says],
        x: at,
        y: y + 7,
        r: 4,
        fill: m.verdict === 'fail' ? 'solid' : 'paper',
      });
      const sign = m.verdict ? SIGN[m.verdict] : '';
      if (sign !== '')
        shapes.push({ kind: 'text', role: 'text', x: at, y: y + 11, text: sign, size: SMALL, anchor: 'middle' });
    }
    y += LANE;
  }
  const days = Math.ceil((to - from) / DAY_MS);
  const every = Math.max(1, Math.ceil(days / 10));
  shapes.push({ kind: 'line', role: 'frame', x1: LEFT, y1: y, x2: WIDTH - RIGHT, y2: y });
  for (let d = 0; d <= days; d += every) {
    const at = from + d * DAY_MS;
    if (at > to) break;
    shapes.push(
      { kind: 'line', role: 'frame', x1: x(at), y1: y, x2: x(at), y2: y + 4 },
      {
        kind: 'text',
        role: 'label',
        x: x(at),
        y: y + 16,
        text: day(at),
        size: SMALL,
        // the outermost days stay on the sheet
        anchor: d === 0 ? 'start' : x(at) > WIDTH - RIGHT - HALF_DAY_WIDE ? 'end' : 'middle',
      },
    );
  }
  return { title: 'The visit, day by day', width: WIDTH, height: y + 22, shapes };
}
