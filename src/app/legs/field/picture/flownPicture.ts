import type { OverlayConfig } from '#core/overlay/config.ts';
import { type AlarmStates, newAlarms, stepAlarms } from '#core/overlay/draw.ts';
import { indexAt, type PackedViews, POSE_NUMBERS, viewAt } from '#core/overlay/view.ts';
import type { OverlayFlown } from '../../../workers/overlayFlown.ts';
import type { Pose } from './pilotsEye.ts';

export const endOf = ({ poses }: OverlayFlown): number => poses[poses.length - POSE_NUMBERS] ?? 0;

/** Where the camera is at a time, between the two moments about it. */
export function poseAt({ poses }: OverlayFlown, atS: number): Pose {
  const last = poses.length / POSE_NUMBERS - 1;
  let [low, high] = [0, last];
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (poses[middle * POSE_NUMBERS]! <= atS) low = middle;
    else high = middle;
  }
  const [a, b] = [low * POSE_NUMBERS, Math.min(high, last) * POSE_NUMBERS];
  const span = poses[b]! - poses[a]!;
  const share = span > 0 ? Math.min(1, Math.max(0, (atS - poses[a]!) / span)) : 0;
  const at = (i: number) => poses[a + i]! + share * (poses[b + i]! - poses[a + i]!);
  const angle = (i: number) => {
    const by = poses[b + i]! - poses[a + i]!;
    return poses[a + i]! + share * Math.atan2(Math.sin(by), Math.cos(by));
  };
  return { north: at(1), east: at(2), height: at(3), roll: angle(4), pitch: angle(5), yaw: angle(6) };
}

/** Which view of the tape was the newest at a time since the launch; the tape goes by the board's own clock. */
export function viewIndexAt({ tape, poses }: OverlayFlown, atS: number): number {
  const first = viewAt(tape, 0).atS - poses[0]!;
  return indexAt(tape, atS + first);
}

/** Alarms at every view of a flight: where they end depends on what came before. */
export function alarmsOver(tape: PackedViews, c: OverlayConfig): readonly AlarmStates[] {
  const states = newAlarms();
  return Array.from({ length: tape.count }, (_, i) => {
    stepAlarms(states, viewAt(tape, i), c);
    return [...states];
  });
}
