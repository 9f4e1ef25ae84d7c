/** The equivalent circuit of one phase of a star, reactances at the rated frequency. Ohm and watt. */
export interface Circuit {
  r1: number;
  x1: number;
  r2: number;
  x2: number;
  xm: number;
  /** resistance of the core loss, across the gap */
  rfe: number;
  /** friction and windage */
  frictionW: number;
}

/** What a circuit is run with: lead to lead volts, frequency, poles. */
export interface Supply {
  lineV: number;
  frequencyHz: number;
  poles: number;
}

export interface AtSlip {
  slip: number;
  /** torque in the gap */
  gapNm: number;
  amps: number;
  powerFactor: number;
  inW: number;
  shaftW: number;
  /** at the shaft; undefined at rest */
  shaftNm: number | undefined;
  /** share; undefined where nothing comes out */
  efficiency: number | undefined;
  rpm: number;
}

type Complex = readonly [number, number];
const add = (a: Complex, b: Complex): Complex => [a[0] + b[0], a[1] + b[1]];
const invert = ([re, im]: Complex): Complex => {
  const square = re * re + im * im;
  return [re / square, -im / square];
};
const times = (a: Complex, b: Complex): Complex => [a[0] * b[0] - a[1] * b[1], a[0] * b[1] + a[1] * b[0]];
const size = ([re, im]: Complex): number => Math.hypot(re, im);

/** Impedance of a phase seen from the terminals, and the admittance behind the stator's own impedance. */
export function seen(c: Circuit, slip: number, share = 1): { z: Complex; inner: Complex; rotor: Complex } {
  // at no slip the rotor takes nothing
  const rotor: Complex = slip === 0 ? [Infinity, 0] : [c.r2 / slip, share * c.x2];
  const branches: Complex[] = [[1 / c.rfe, 0], invert([0, share * c.xm]), slip === 0 ? [0, 0] : invert(rotor)];
  const inner = branches.reduce(add);
  return { z: add([c.r1, share * c.x1], invert(inner)), inner, rotor };
}

/** The machine at a slip. Source: equivalent circuit (derived). */
export function atSlip(c: Circuit, supply: Supply, slip: number): AtSlip {
  const phaseV = supply.lineV / Math.sqrt(3);
  const { z, inner, rotor } = seen(c, slip);
  const current = times([phaseV, 0], invert(z));
  const gapV = times(current, invert(inner));
  const synchronous = (4 * Math.PI * supply.frequencyHz) / supply.poles;
  const i2 = slip === 0 ? 0 : size(times(gapV, invert(rotor)));
  const gapW = slip === 0 ? 0 : (3 * i2 ** 2 * c.r2) / slip;
  const inW = 3 * phaseV * current[0];
  const shaftW = gapW * (1 - slip) - c.frictionW;
  const speed = synchronous * (1 - slip);
  const out = slip < 1 && shaftW > 0;
  return {
    slip,
    gapNm: gapW / synchronous,
    amps: size(current),
    powerFactor: current[0] / size(current),
    inW,
    shaftW: slip < 1 ? shaftW : 0,
    shaftNm: slip < 1 ? shaftW / speed : undefined,
    efficiency: out && inW > 0 ? shaftW / inW : undefined,
    rpm: (speed * 30) / Math.PI,
  };
}

/** The slip at which the torque is largest, and that torque: by the circuit seen from the rotor. Source: derived. */
export function breakdown(c: Circuit, supply: Supply): { slip: number; gapNm: number } {
  // what the rotor sees: the stator behind the cross branch, all in one impedance
  const cross = invert(add([1 / c.rfe, 0], invert([0, c.xm])));
  const behind = invert(add(invert([c.r1, c.x1]), invert(cross)));
  const slip = c.r2 / Math.hypot(behind[0], behind[1] + c.x2);
  return { slip, gapNm: atSlip(c, supply, slip).gapNm };
}

/**
 * The slip at which a power comes out at the shaft, on the side of small slips; undefined where the machine does not reach it.
 */
export function slipAtOutput(c: Circuit, supply: Supply, outW: number): number | undefined {
  let [low, high] = [0, Math.min(1, breakdown(c, supply).slip)];
  // the largest output lies before the breakdown torque
  const golden = (Math.sqrt(5) - 1) / 2;
  for (let i = 0; i < 80 && high - low > 1e-12; i++) {
    const [a, b] = [high - golden * (high - low), low + golden * (high - low)];
    if (atSlip(c, supply, a).shaftW < atSlip(c, supply, b).shaftW) low = a;
    else high = b;
  }
  const most = (low + high) / 2;
  if (atSlip(c, supply, most).shaftW < outW) return undefined;
  [low, high] = [0, most];
  for (let i = 0; i < 80 && high - low > 1e-15; i++) {
    const middle = (low + high) / 2;
    if (atSlip(c, supply, middle).shaftW < outW) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}
