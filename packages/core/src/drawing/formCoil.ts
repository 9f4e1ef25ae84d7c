import { formCoil, type FormCoilInput } from '../winding/formCoil.ts';
import type { Drawing, Shape } from './shapes.ts';

const HIGH = 430;
const TOP = 24;
const LEFT = 30;

/** Slot and both coils of strip to scale: wedge at the top, every strip, tape and wall, with what is left over. */
export function formCoilDrawing(x: FormCoilInput): Drawing {
  const made = formCoil(x);
  const scale = Math.min(HIGH / x.slotHeightM, 260 / x.slotWidthM);
  const shapes: Shape[] = [];
  const box = (
    x0: number,
    y0: number,
    w: number,
    h: number,
    role: Shape['role'],
    fill?: 'tint' | 'paper',
    weight = 1,
  ): void => {
    shapes.push({
      kind: 'path',
      role,
      d: `M${r(LEFT + x0 * scale)} ${r(TOP + y0 * scale)}h${r(w * scale)}v${r(h * scale)}h${r(-w * scale)}Z`,
      weight,
      ...(fill ? { fill } : {}),
    });
  };
  box(0, 0, x.slotWidthM, x.slotHeightM, 'frame', 'paper', 1.6);
  let y = 0;
  let noteAt = TOP;
  const layer = (height: number, text: string, role: Shape['role']): void => {
    if (height > 0) {
      box(0, y, x.slotWidthM, height, role, 'paper', 0.8);
      note(y + height / 2, text);
    }
    y += height;
  };
  const note = (at: number, text: string): void => {
    // notes stand below each other however thin what they speak of is
    const wanted = TOP + at * scale;
    noteAt = Math.max(noteAt + 15, wanted);
    const from = LEFT + x.slotWidthM * scale;
    shapes.push(
      { kind: 'line', role: 'faint', x1: from, y1: wanted, x2: from + 22, y2: noteAt, weight: 0.6 },
      { kind: 'text', role: 'label', x: from + 26, y: noteAt, text, size: 11, anchor: 'start' },
    );
  };
  const mm = (metres: number) => `${Number((metres * 1000).toFixed(2))}`;
  const coil = (name: string): void => {
    const x0 = (x.slotWidthM - made.coilWidthM) / 2;
    box(x0, y, made.coilWidthM, made.coilHeightM, 'accent', 'paper', 1);
    for (let t = 0; t < x.turns; t++) {
      const ty = y + x.wallM + t * made.turnHeightM;
      box(x0 + x.wallM, ty, made.turnWidthM, made.turnHeightM, 'label', 'paper', 0.6);
      for (let i = 0; i < x.wide; i++)
        for (let j = 0; j < x.high; j++)
          box(
            x0 + x.wallM + x.turnTapeM + i * (x.widthM + x.strandBuildM) + x.strandBuildM / 2,
            ty + x.turnTapeM + j * (x.thicknessM + x.strandBuildM) + x.strandBuildM / 2,
            x.widthM,
            x.thicknessM,
            'phaseA',
            'tint',
            0.6,
          );
    }
    note(
      y + made.coilHeightM / 2,
      `${name}: ${x.turns} turns of ${x.wide} × ${x.high} strips ${mm(x.thicknessM)} × ${mm(x.widthM)}, wall ${mm(x.wallM)}; ${mm(made.coilWidthM)} × ${mm(made.coilHeightM)} mm`,
    );
    y += made.coilHeightM;
  };
  layer(x.wedgeM, `wedge ${mm(x.wedgeM)}`, 'good');
  layer(x.topStripM, `top strip ${mm(x.topStripM)}`, 'faint');
  coil('top coil');
  layer(x.separatorM, `separator ${mm(x.separatorM)}`, 'good');
  coil('bottom coil');
  layer(x.bottomStripM, `bottom strip ${mm(x.bottomStripM)}`, 'faint');
  shapes.push({
    kind: 'text',
    role: 'text',
    x: LEFT,
    y: TOP + x.slotHeightM * scale + 22,
    text: `slot ${mm(x.slotWidthM)} × ${mm(x.slotHeightM)} mm; over: ${mm(made.widthRestM)} mm across, ${mm(made.depthRestM)} mm deep`,
    size: 12,
    anchor: 'start',
    bold: true,
  });
  return {
    title: 'Strip coils in their slot, to scale',
    width: LEFT + x.slotWidthM * scale + 430,
    height: TOP + x.slotHeightM * scale + 44,
    shapes,
  };
}

const r = (v: number) => Math.round(v * 100) / 100;
