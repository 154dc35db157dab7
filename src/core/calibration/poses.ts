import { quat, setEuler } from '../math/quaternion.ts';
import { DEG } from '../math/scalar.ts';

/** Attitudes by their names: roll and pitch in degrees, whichever way the nose points. */
export const poses = {
  flat: { name: 'flat', rollDeg: 0, pitchDeg: 0 },
  'right-down': { name: 'right side down', rollDeg: 90, pitchDeg: 0 },
  'left-down': { name: 'left side down', rollDeg: -90, pitchDeg: 0 },
  'nose-up': { name: 'nose up', rollDeg: 0, pitchDeg: 90 },
  'nose-down': { name: 'nose down', rollDeg: 0, pitchDeg: -90 },
  back: { name: 'on its back', rollDeg: 180, pitchDeg: 0 },
} as const;
export type PoseId = keyof typeof poses;
export const poseIds = Object.keys(poses) as readonly PoseId[];

/** An attitude as plain numbers: scalar-first unit quaternion, body to earth (north-east-down). */
export type Attitude = readonly [w: number, x: number, y: number, z: number];

/** The attitude of angles in degrees. */
export function attitudeOf(rollDeg: number, pitchDeg: number, headingDeg: number): Attitude {
  const q = setEuler(quat(), rollDeg * DEG, pitchDeg * DEG, headingDeg * DEG);
  return [q[0]!, q[1]!, q[2]!, q[3]!];
}
