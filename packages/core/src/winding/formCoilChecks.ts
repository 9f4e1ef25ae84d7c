import { E, I, W, f, type Checks, type Finding } from './checkTypes.ts';
import { leastStraightM, wallStressKVmm } from './formCoil.ts';
import { formCoilInputOf, formCoilOf } from './formCoilOf.ts';
import { limit } from '../limits/limits.ts';
import { notAbove, notBelow } from '../verdict.ts';

const mm = (metres: number) => f(metres * 1000);
/** Above this sine the coils of the end turns cannot pass each other. */
const STEEPEST_SINE = 0.9;

/** Checks of form-wound coils: room in the slot, ground wall, ends. */
export const FORM_COIL_CHECKS: Checks = {
  'form-room': {
    title: 'Strip coils in their slot',
    run: ({ record, limits }) => {
      const made = formCoilOf(record);
      if (!made) return undefined;
      const out: Finding[] = [];
      const low = limit('form.widthRestLowMm', limits);
      const high = limit('form.widthRestHighMm', limits);
      const rest = made.widthRestM * 1000;
      const across = `The coil is ${mm(made.coilWidthM)} mm wide, the slot ${mm(record.slotWidthM ?? 0)} mm`;
      const fields = ['stripWidthM', 'turnTapeM', 'groundWallM', 'slotWidthM'];
      // met by equality also where the difference of two sizes was rounded
      const holds = (slotM: number | undefined, restM: number) => notBelow(slotM ?? 0, (slotM ?? 0) - restM);
      if (!holds(record.slotWidthM, made.widthRestM))
        out.push(E('form-room', fields, `${across}: it does not go in. Measure strip, wall and slot again.`));
      else if (!notBelow(rest, low) || !notAbove(rest, high))
        out.push(W('form-room', fields, `${across}, ${f(rest)} mm over; ${low} to ${high} mm is usual.`));
      const depth = made.depthRestM * 1000;
      const high2 = limit('form.depthRestMm', limits);
      const down = `Two coils of ${mm(made.coilHeightM)} mm with separator, strips and wedge leave ${f(depth)} mm of the slot's ${mm(record.slotDepthM ?? 0)} mm`;
      const deep = ['turns', 'stripThicknessM', 'groundWallM', 'slotDepthM', 'separatorM'];
      if (!holds(record.slotDepthM, made.depthRestM))
        out.push(E('form-room', deep, `${down}: they do not go in. Count the turns again.`));
      else if (!notAbove(depth, high2))
        out.push(W('form-room', deep, `${down}, more than ${high2} mm: pack the slot.`));
      if (!notAbove(made.sinSlant, STEEPEST_SINE))
        out.push(
          E(
            'form-room',
            ['groundWallM', 'coilGapM', 'boreM'],
            `Coils of ${mm(made.coilWidthM)} mm with their gap take ${f(100 * made.sinSlant)} % of the slot pitch in the end turns; above ${100 * STEEPEST_SINE} % they cannot pass each other.`,
          ),
        );
      return out;
    },
  },
  'ground-wall': {
    title: 'Ground wall and straight part for the voltage',
    run: ({ record, nameplate, limits }) => {
      const x = formCoilInputOf(record);
      const volts = nameplate.voltagesV ? Math.max(...nameplate.voltagesV) : undefined;
      if (!x || volts === undefined) return undefined;
      const out: Finding[] = [];
      const stress = wallStressKVmm(volts, x.wallM);
      const most = limit('form.wallStressKVmm', limits);
      if (!notAbove(stress, most))
        out.push(
          W(
            'ground-wall',
            ['groundWallM'],
            `${f(volts / 1000)} kV on a wall of ${mm(x.wallM)} mm is ${f(stress)} kV/mm; up to ${most} is usual.`,
          ),
        );
      if (record.coilStraightM === undefined)
        out.push(
          I('ground-wall', ['coilStraightM'], `The straight part was not measured; ${mm(x.straightM)} mm is taken.`),
        );
      else if (!notBelow(x.straightM, leastStraightM(volts)))
        out.push(
          W(
            'ground-wall',
            ['coilStraightM'],
            `Coils leave the core ${mm(x.straightM)} mm straight; for ${f(volts / 1000)} kV at least ${mm(leastStraightM(volts))} mm is usual.`,
          ),
        );
      return out;
    },
  },
};
