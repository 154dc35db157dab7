import { CHANNEL_COUNT } from './catalogue/counts.ts';

/** Everything the board's chips and ports tell it, refilled in place each step. */
export class Readings {
  /** rad/s, board axes */
  readonly gyro = new Float64Array(3);
  /** specific force, m/s^2, board axes */
  readonly accel = new Float64Array(3);
  pressurePa = 101325;
  airspeedMps = 0;
  /** True in the step in which a new GNSS solution arrived. */
  gnssFresh = false;
  satellites = 0;
  lat = 0;
  lon = 0;
  gnssHeightM = 0;
  velocityNorth = 0;
  velocityEast = 0;
  /** True in the step in which a receiver frame arrived. */
  receiverFresh = false;
  readonly channels = new Float64Array(CHANNEL_COUNT).fill(1500);
  linkQuality = 0;
  supplyV = 0;
  currentA = 0;
  servoRailV = 0;
}
