/** How long a wing floats from where it flares to where it touches, s: flown with the bench's wings in 0 to 11 m/s. */
export const FLARE_S = 4;

/**
 * How long the approach of a wing is over the ground, m: the slope from the height at which it begins, and room to
 * come out of the turn at its beginning.
 * @param height above home at its beginning, m
 * @param slope height lost per metre
 * @param radius of the circle at its beginning, m
 */
export const approachLength = (height: number, slope: number, radius: number): number =>
  height / slope + 2 * radius;

/**
 * Height above home that the approach is flown at, m, so far before home. It aims short of home by what the flare
 * floats, so that the touch-down and not the flare is at home.
 * @param left distance to home, m
 * @param speed over the ground, m/s
 * @param slope height lost per metre
 */
export const approachHeight = (left: number, speed: number, slope: number): number =>
  (left - speed * FLARE_S) * slope;
