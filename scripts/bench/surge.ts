import { judgeSurge, surgeWave } from '@norther/core';
import { median, type Figure } from './figure.ts';

const SAMPLES = 10_000;
const NAMES = ['UV', 'VW', 'WU'];
const waves = NAMES.map((name, i) => ({
  name,
  pulses: [surgeWave({ ohm: 180, henry: 12e-3 * (1 + 0.05 * i), farad: 0.1e-6 }, 1800, 1e-7, SAMPLES)],
}));

/** One reading of every sample of three waves: its size, and its difference to the next wave. */
function onePass(): number {
  let sum = 0;
  for (let w = 0; w < 3; w++) {
    const [a, b] = [waves[w]?.pulses[0]?.v as Float64Array, waves[(w + 1) % 3]?.pulses[0]?.v as Float64Array];
    for (let i = 0; i < SAMPLES; i++) sum += Math.abs(a[i] as number) + Math.abs((a[i] as number) - (b[i] as number));
  }
  return sum;
}

/** Three waves of 10,000 samples compared, judged and told. */
export function benchSurge(): Figure[] {
  let kept = 0;
  const pass = median(() => (kept += onePass()));
  const whole = median(
    () =>
      (kept += judgeSurge({
        waves,
        mode: 'lead to lead',
        connection: 'wye',
        winding: 'random-wound',
        windings: 'alike',
        rotor: 'out',
        phasesOhm: [1, 1, 1],
        limits: {},
      }).diagnosis.length),
  );
  return [
    {
      name: 'three waves of 10,000 samples with diagnosis, against one pass over the samples',
      value: `${whole.toFixed(3)} ms (one pass ${pass.toFixed(3)} ms)${kept > 0 ? '' : ' nothing'}`,
      ratio: whole / pass,
      must: 'at most 5 passes',
      holds: whole <= 5 * pass,
    },
  ];
}
