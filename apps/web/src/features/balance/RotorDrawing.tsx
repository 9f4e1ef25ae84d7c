import { rotorAlong, type BalanceSetUp } from '@norther/core';
import { DrawingView } from '../../drawing/DrawingView.tsx';

/** The rotor along its shaft, to scale as it was typed. */
export function RotorDrawing({ setUp }: { setUp: BalanceSetUp }) {
  return <DrawingView drawing={rotorAlong(setUp)} className="max-w-[720px]" />;
}
