import { Matrix3 } from '../math/matrix3.ts';
import { type Quat, quat, setEuler, turnBetween } from '../math/quaternion.ts';
import { DEG } from '../math/scalar.ts';
import { angleDeg, cross, dot, type Triple, unit, without } from '../math/triple.ts';

/** How a board is turned in its craft, as settings have it: yaw, then pitch, then roll, degrees. */
export interface MountAngles {
  readonly rollDeg: number;
  readonly pitchDeg: number;
  readonly yawDeg: number;
}

const quarters = [0, 90, 180, -90] as const;

/** The 24 right-angle mountings: those that are flat or rolled in four directions, and those on their nose or tail. */
export const squareMountings: readonly MountAngles[] = [
  ...quarters.flatMap((rollDeg) => quarters.map((yawDeg) => ({ rollDeg, pitchDeg: 0, yawDeg }))),
  ...([90, -90] as const).flatMap((pitchDeg) => quarters.map((yawDeg) => ({ rollDeg: 0, pitchDeg, yawDeg }))),
];

/** The attitude of a mounting: scalar-first, board to craft. */
export const attitudeOfMount = ({ rollDeg, pitchDeg, yawDeg }: MountAngles): Quat =>
  setEuler(quat(), rollDeg * DEG, pitchDeg * DEG, yawDeg * DEG);

/** Angle of the shortest turn from one attitude to another, degrees. */
export function angleBetweenDeg(a: Quat, b: Quat): number {
  const turn = turnBetween(new Float64Array(3), a, b);
  return Math.hypot(turn[0]!, turn[1]!, turn[2]!) / DEG;
}

/** What two gestures show. */
export interface FoundMounting {
  /** Board to craft, just as shown. */
  readonly attitude: Quat;
  /** The nearest of the 24. */
  readonly square: MountAngles;
  /** Between the two, degrees. */
  readonly fineDeg: number;
  /** To the next nearest of the 24, degrees. */
  readonly nextDeg: number;
  /** By how much the nose was lifted, degrees. */
  readonly liftDeg: number;
}

/** The nose is lifted by at least this, and by no more than leaves the two gestures apart, degrees. */
const LIFT_DEG = [12, 150] as const;

/**
 * How the board sits, from the specific force felt with the craft laid as it stands, and with its nose lifted: two directions
 * fix an attitude (TRIAD, Black 1964). Down is against the first; right is square to both; forward completes them.
 * @param flat @param noseUp specific force in board axes, any one unit
 * @returns null when the nose was lifted by too little, or by too much, to tell
 */
export function mountingFrom(flat: Triple, noseUp: Triple): FoundMounting | null {
  const liftDeg = angleDeg(flat, noseUp);
  if (liftDeg < LIFT_DEG[0] || liftDeg > LIFT_DEG[1]) return null;
  const down = unit([-flat[0], -flat[1], -flat[2]]);
  const right = unit(cross(noseUp, flat));
  const forward = cross(right, down);
  const attitude = Matrix3.fromRows(forward, right, down).toQuaternion();
  return { attitude, liftDeg, ...nearestSquare(attitude) };
}

/** The right-angle mounting that is nearest to an attitude, how far it is, and how far the next one. */
function nearestSquare(attitude: Quat): Pick<FoundMounting, 'square' | 'fineDeg' | 'nextDeg'> {
  const byAngle = squareMountings
    .map((square) => ({ square, away: angleBetweenDeg(attitude, attitudeOfMount(square)) }))
    .sort((a, b) => a.away - b.away);
  return { square: byAngle[0]!.square, fineDeg: byAngle[0]!.away, nextDeg: byAngle[1]!.away };
}

/** What a further gesture says of a mounting that was found. */
export type Confirmation =
  /** As asked; `offDeg` is by how much it leant out of the direction that was asked for. */
  | { readonly kind: 'fits'; readonly offDeg: number }
  /** The opposite of what was found: one of the gestures went the other way than asked. */
  | { readonly kind: 'opposite' }
  /** About another axis than asked. */
  | { readonly kind: 'other-axis' }
  | { readonly kind: 'too-little' };

/** A gesture leans out of its direction by up to this, degrees. */
const ASTRAY_DEG = 35;

/**
 * Whether the right wing went down, by a mounting that was found.
 * @param force specific force in board axes in the third gesture
 */
export function confirmWing(attitude: Quat, force: Triple): Confirmation {
  // Of a right wing that is down gravity points to the right, and specific force to the left.
  return leanOf(attitude, force, [0, -1]);
}

/** Whether the nose went up, by a mounting that was found. */
export function confirmNose(attitude: Quat, force: Triple): Confirmation {
  return leanOf(attitude, force, [1, 0]);
}

function leanOf(attitude: Quat, force: Triple, towards: readonly [x: number, y: number]): Confirmation {
  const [x, y, z] = unit(Matrix3.fromQuaternion(attitude).times(force));
  const lean = Math.hypot(x, y);
  if (Math.atan2(lean, -z) < LIFT_DEG[0] * DEG) return { kind: 'too-little' };
  const along = (x * towards[0] + y * towards[1]) / lean;
  const offDeg = Math.acos(Math.min(1, Math.abs(along))) / DEG;
  if (offDeg > ASTRAY_DEG) return { kind: 'other-axis' };
  return along > 0 ? { kind: 'fits', offDeg } : { kind: 'opposite' };
}

/** What became of the gestures, when the wing did not fit and the nose was lifted once more. */
export type Muddle = 'nose-was-lowered' | 'left-wing-went-down' | 'nose-and-wing-changed-places' | 'unclear';

/**
 * Which gesture went wrong, by lifting the nose once more: what is done the same way twice is taken for what was asked.
 * @param flat @param first the nose as lifted at first @param wing the third gesture @param again specific force, board axes
 */
export function whichWentWrong(flat: Triple, first: Triple, wing: Triple, again: Triple): Muddle {
  const lean = (force: Triple) => unit(without(force, unit(flat)));
  const now = lean(again);
  const limit = Math.cos(ASTRAY_DEG * DEG);
  if (dot(now, lean(first)) > limit) return 'left-wing-went-down';
  if (dot(now, lean(first)) < -limit) return 'nose-was-lowered';
  return Math.abs(dot(now, lean(wing))) > limit ? 'nose-and-wing-changed-places' : 'unclear';
}

/** Where a direction of the craft points, in words. */
const ways: readonly (readonly [Triple, string])[] = [
  [[1, 0, 0], 'to the nose'],
  [[-1, 0, 0], 'to the tail'],
  [[0, 1, 0], 'to the right wing'],
  [[0, -1, 0], 'to the left wing'],
  [[0, 0, 1], 'down'],
  [[0, 0, -1], 'up'],
];

/** How a right-angle mounting looks: how the board lies, and where its arrow (its own x) points. */
export function mountingWords(mount: MountAngles): { readonly lies: string; readonly arrow: string } {
  const turned = Matrix3.fromQuaternion(attitudeOfMount(mount));
  const nearest = (v: Triple) =>
    ways.reduce((best, way) => (dot(way[0], v) > dot(best[0], v) ? way : best))[1];
  const arrow = nearest(turned.times([1, 0, 0]));
  const chips = nearest(turned.times([0, 0, -1]));
  const lies = chips === 'up' ? 'flat' : chips === 'down' ? 'flat, chips down' : `on edge, chips ${chips}`;
  return { lies, arrow: `arrow ${arrow}` };
}
