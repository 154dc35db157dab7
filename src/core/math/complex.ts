/** A complex number. For frequency responses, not for hot loops: each operation makes a new one. */
export interface Complex {
  readonly re: number;
  readonly im: number;
}

export const ONE: Complex = { re: 1, im: 0 };
export const complex = (re: number, im = 0): Complex => ({ re, im });
/** @param angle rad */
export const polar = (size: number, angle: number): Complex => ({
  re: size * Math.cos(angle),
  im: size * Math.sin(angle),
});
export const plus = (a: Complex, b: Complex): Complex => ({ re: a.re + b.re, im: a.im + b.im });
export const times = (a: Complex, b: Complex): Complex => ({
  re: a.re * b.re - a.im * b.im,
  im: a.re * b.im + a.im * b.re,
});
export const scaled = (a: Complex, k: number): Complex => ({ re: k * a.re, im: k * a.im });
export function over(a: Complex, b: Complex): Complex {
  const d = b.re * b.re + b.im * b.im;
  return { re: (a.re * b.re + a.im * b.im) / d, im: (a.im * b.re - a.re * b.im) / d };
}
export const sizeOf = (a: Complex): number => Math.hypot(a.re, a.im);
/** rad, -pi..pi */
export const angleOf = (a: Complex): number => Math.atan2(a.im, a.re);

/** A polynomial at a point, by Horner's rule. @param coefficients of the highest power first */
export function polynomialAt(coefficients: readonly number[], s: Complex): Complex {
  let [re, im] = [0, 0];
  for (const c of coefficients) [re, im] = [re * s.re - im * s.im + c, re * s.im + im * s.re];
  return { re, im };
}
