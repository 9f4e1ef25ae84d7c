import { LOAD_CHANNELS, LoadStand, type LoadOrder } from '../../packages/core/src/bench/loadStand.ts';
import { loadFrames, type LoadFrame } from '../../packages/core/src/load/loadFrames.ts';
import { plateMachine, type PlateMachine } from '../../packages/core/src/load/plateCircuit.ts';

export const LOADED_PLATE = {
  outputW: 5500,
  voltagesV: [400],
  currentsA: [11.2],
  frequencyHz: 50,
  speedRpm: 1450,
  poles: 4,
};
const machine = plateMachine(LOADED_PLATE, { line20Ohm: 1.3 }) as PlateMachine;
export const LOAD_ORDER: LoadOrder = {
  job: 'J-1',
  stream: 'J-1, load',
  circuit: machine.circuit,
  supply: machine.supply,
  ratedNm: machine.ratedNm,
  ratedA: machine.ratedA,
  mostNm: 2 * machine.ratedNm,
  line20Ohm: 1.3,
};
/** Runs a stand: seconds at each share of the rated load, 20 samples a second. */
export function loadRunOf(
  steps: readonly (readonly [number, number])[],
  meanwhile: (s: LoadStand) => void = () => undefined,
) {
  const stand = new LoadStand(LOAD_ORDER, 5);
  meanwhile(stand);
  const x: number[] = [];
  const values: number[][] = LOAD_CHANNELS.map(() => []);
  let t = 0;
  for (const [share, seconds] of steps) {
    stand.set(share * LOAD_ORDER.ratedNm);
    for (let i = 0; i < seconds * 20; i++) {
      stand.advance(0.05);
      stand.read().forEach((v, k) => values[k]?.push(v));
      x.push((t += 0.05));
    }
  }
  return loadFrames(LOAD_CHANNELS, x, values);
}
/** A sample of a motor near its rated load. */
export const loadFrame = (t: number, more: Partial<LoadFrame> = {}): LoadFrame => ({
  t,
  lineV: [400, 400, 400],
  lineA: [10, 10, 10],
  watts: 6000,
  torqueNm: 36,
  rpm: 1450,
  ...more,
});
