import type { ModeId } from '#core/modes/modes.ts';
import type { HomeFlight } from './homeFlight.ts';
import type { Sensing } from './sensing.ts';

/** So near to home no direction is away from it, m. */
const HOME_NEAR_M = 12;

/** Steering by the map, for rotors: the sticks' forward is away from home, or where the nose pointed at arming. */
export class MapSteering {
  /** Where the nose pointed at arming, and the direction away from home as it was last told apart, rad. */
  private armYaw = 0;
  private awayYaw = 0;

  /** @param yaw where the nose points, rad */
  armed(yaw: number): void {
    this.armYaw = yaw;
    this.awayYaw = yaw;
  }

  /** How far the sticks' forward is turned from the nose in a mode, rad to the right. */
  angle(mode: ModeId, { attitude, position: p }: Sensing, home: HomeFlight): number {
    if (mode === 'as-armed') return this.armYaw - attitude.yaw;
    if (mode !== 'from-home') return 0;
    const north = p.north - home.homeNorth;
    const east = p.east - home.homeEast;
    // Straight above home nothing is away from it: the last way round is kept.
    if (Math.hypot(north, east) > HOME_NEAR_M) this.awayYaw = Math.atan2(east, north);
    return this.awayYaw - attitude.yaw;
  }
}
