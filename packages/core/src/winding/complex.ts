/** A complex number as plain data. */
export interface Complex {
  re: number;
  im: number;
}

export const complex = (re: number, im = 0): Complex => ({ re, im });
/** size∠angle, degrees */
export const polar = (size: number, angleDeg: number): Complex => ({
  re: size * Math.cos((angleDeg * Math.PI) / 180),
  im: size * Math.sin((angleDeg * Math.PI) / 180),
});
export const add = (a: Complex, b: Complex): Complex => ({ re: a.re + b.re, im: a.im + b.im });
export const subtract = (a: Complex, b: Complex): Complex => ({ re: a.re - b.re, im: a.im - b.im });
export const multiply = (a: Complex, b: Complex): Complex => ({
  re: a.re * b.re - a.im * b.im,
  im: a.re * b.im + a.im * b.re,
});
export const scale = (a: Complex, k: number): Complex => ({ re: a.re * k, im: a.im * k });
export const divide = (a: Complex, b: Complex): Complex => {
  const d = b.re * b.re + b.im * b.im;
  return { re: (a.re * b.re + a.im * b.im) / d, im: (a.im * b.re - a.re * b.im) / d };
};
export const sizeOf = (a: Complex): number => Math.hypot(a.re, a.im);
/** Angle in degrees, 0 <= angle < 360. */
export const angleDegOf = (a: Complex): number => {
  const angle = (Math.atan2(a.im, a.re) * 180) / Math.PI;
  const positive = angle < 0 ? angle + 360 : angle;
  return positive >= 360 ? 0 : positive;
};
