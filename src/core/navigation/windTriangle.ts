/**
 * Ground speed along a track: sqrt(V_a^2 - W_cross^2) + W_along (HANDBOOK, section 3).
 * @param windAlong wind's share along the track, tail wind positive, m/s
 * @param windCross wind's share across it, m/s
 * @returns m/s; negative is backwards, NaN where the cross wind alone is more than the airspeed
 */
export function groundSpeedAlong(airspeed: number, windAlong: number, windCross: number): number {
  return Math.sqrt(airspeed * airspeed - windCross * windCross) + windAlong;
}
