import { multiply, type Quat, quat, setTurn } from '../math/quaternion.ts';
import { DEG } from '../math/scalar.ts';
import { norm, type Triple } from '../math/triple.ts';

/**
 * What level means: a turn of the craft's own axes about a level line, composed in front of the mounting. Its two numbers are
 * the parts of one turn about the craft's length and its span, degrees; so small a turn has no order.
 */
export interface LevelTrim {
  readonly rollDeg: number;
  readonly pitchDeg: number;
}

/** A craft is not propped up farther than this to say what level means, degrees. */
export const LEVEL_MOST_DEG = 20;

/**
 * The smallest turn that takes what is felt in the attitude that is to be level to straight up. Its axis lies level and square
 * to both, so that nothing of it is yaw.
 * @param force mean specific force, craft axes as mounted, any unit
 * @returns null beyond what anybody flies level in
 */
export function levelTrimFrom(force: Triple): LevelTrim | null {
  const n = norm(force);
  const [x, y, z] = [force[0] / n, force[1] / n, force[2] / n];
  const angle = Math.atan2(Math.hypot(x, y), -z);
  if (!(angle <= LEVEL_MOST_DEG * DEG)) return null;
  const sine = Math.hypot(x, y);
  if (sine < 1e-12) return { rollDeg: 0, pitchDeg: 0 };
  // f x up, with up = (0, 0, -1): the axis about which f has to turn.
  const k = angle / sine / DEG;
  return { rollDeg: -y * k, pitchDeg: x * k };
}

/** The turn of a trim: craft as mounted to craft as levelled. */
const attitudeOfTrim = ({ rollDeg, pitchDeg }: LevelTrim): Quat =>
  setTurn(quat(), rollDeg * DEG, pitchDeg * DEG, 0);

/** Board to craft: the mounting, and in front of it what level means. */
export const mountedAndLevelled = (mount: Quat, trim: LevelTrim): Quat =>
  multiply(quat(), attitudeOfTrim(trim), mount);
