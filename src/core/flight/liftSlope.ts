/**
 * Lift slope of a straight finite wing, per rad (Helmbold 1942): 2 pi A/(2 + sqrt(A^2 + 4)).
 * @param aspectRatio b^2/S
 */
export function helmboldLiftSlope(aspectRatio: number): number {
  return (2 * Math.PI * aspectRatio) / (2 + Math.sqrt(aspectRatio * aspectRatio + 4));
}

/**
 * Effectiveness of a plain flap: change of angle of attack per rad of deflection (Glauert 1926, thin aerofoil).
 * @param chordShare flap chord over chord, 0 to 1
 */
export function flapEffectiveness(chordShare: number): number {
  const theta = Math.acos(2 * chordShare - 1);
  return 1 - (theta - Math.sin(theta)) / Math.PI;
}

/** Pitching moment about the quarter chord per rad of flap, -(1/2) sin t (1 - cos t) (Glauert 1926). */
export function flapMoment(chordShare: number): number {
  const theta = Math.acos(2 * chordShare - 1);
  return -0.5 * Math.sin(theta) * (1 - Math.cos(theta));
}
