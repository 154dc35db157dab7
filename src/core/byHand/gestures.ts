import type { SettingValue, Values } from '../settings/catalogue.ts';
import { settingsOf } from '../settings/typed.ts';

/** What can be changed at the strip with the sticks alone: the left one into a lower corner, the right one to a side, held. */

export type GestureId =
  | 'next-set'
  | 'last-set'
  | 'call'
  | 'menu'
  | 'nose-down'
  | 'nose-up'
  | 'left-down'
  | 'right-down';

type Side = 'up' | 'down' | 'left' | 'right';

export interface Gesture {
  readonly id: GestureId;
  readonly name: string;
  /** What it does, and how one sees that it did. */
  readonly does: string;
  /** Lower corner that the left stick is in. */
  readonly left: 'left' | 'right';
  /** Side that the right stick is at. */
  readonly right: Side;
}

export const gestures: readonly Gesture[] = [
  {
    id: 'next-set',
    name: 'Next control set',
    does: 'Set 1, 2, 3 and round again; kept on the board.',
    left: 'left',
    right: 'up',
  },
  {
    id: 'last-set',
    name: 'Control set before',
    does: 'The other way round; kept on the board.',
    left: 'left',
    right: 'down',
  },
  {
    id: 'call',
    name: 'Call',
    does: 'It calls for ten seconds as when it wants to be found, and says so with its lamps.',
    left: 'left',
    right: 'right',
  },
  {
    id: 'menu',
    name: 'Menu over the picture',
    does: 'A few settings to be changed where they are read; it goes away by itself, and when it is armed.',
    left: 'left',
    right: 'left',
  },
  {
    id: 'nose-down',
    name: 'Level: nose lower',
    does: 'What counts as level has the nose half a degree lower; kept on the board.',
    left: 'right',
    right: 'up',
  },
  {
    id: 'nose-up',
    name: 'Level: nose higher',
    does: 'Half a degree higher; kept on the board.',
    left: 'right',
    right: 'down',
  },
  {
    id: 'left-down',
    name: 'Level: left wing lower',
    does: 'What counts as level has the left wing half a degree lower; kept on the board.',
    left: 'right',
    right: 'left',
  },
  {
    id: 'right-down',
    name: 'Level: right wing lower',
    does: 'The right wing half a degree lower; kept on the board.',
    left: 'right',
    right: 'right',
  },
];

/** Sticks count as in a corner beyond this, and as centred within that, share of their travel. */
const OUT = 0.85;
const CENTRED = 0.3;
const LOW_THROTTLE = 0.06;
/** How long a gesture is held, s. */
export const HOLD_S = 1.2;
export interface StickPlaces {
  /** 0..1 */
  readonly throttle: number;
  /** -1..1: yaw and roll to the right, pitch pulled. */
  readonly yaw: number;
  readonly roll: number;
  readonly pitch: number;
}

/** Which gesture the sticks stand in; null for none. */
export function gestureIn({ throttle, yaw, roll, pitch }: StickPlaces): GestureId | null {
  if (throttle > LOW_THROTTLE || Math.abs(yaw) < OUT) return null;
  const left = yaw < 0 ? 'left' : 'right';
  let right: Side;
  if (Math.abs(pitch) > OUT && Math.abs(roll) < CENTRED) right = pitch > 0 ? 'down' : 'up';
  else if (Math.abs(roll) > OUT && Math.abs(pitch) < CENTRED) right = roll < 0 ? 'left' : 'right';
  else return null;
  return gestures.find((g) => g.left === left && g.right === right)?.id ?? null;
}

/** Watches the sticks: a gesture counts once it was held, and again only after it was let go. */
export class GestureWatch {
  /** In which the sticks are, and for how long, s. */
  held: GestureId | null = null;
  heldS = 0;
  private done = false;

  /** @returns the gesture that was held long enough just now; else null */
  step(at: StickPlaces, dt: number): GestureId | null {
    const now = gestureIn(at);
    if (now !== this.held) {
      this.held = now;
      this.heldS = 0;
      this.done = false;
      return null;
    }
    if (now === null) return null;
    this.heldS += dt;
    if (this.done || this.heldS < HOLD_S) return null;
    this.done = true;
    return now;
  }
}

/** Half a degree at a time; no more than this altogether, degrees: what is farther off is taught at Level. */
const TRIM_STEP_DEG = 0.5;
const TRIM_MOST_DEG = 10;
const SETS = 3;

/** Settings that a gesture changes; empty where it changes none. */
export function gestureEdits(id: GestureId, values: Values): Readonly<Record<string, SettingValue>> {
  const s = settingsOf(values);
  const set = (by: number) => ({
    'set.active': String(((Number(s.choice('set.active')) - 1 + by + SETS) % SETS) + 1),
  });
  const trim = (key: 'mount.levelPitch' | 'mount.levelRoll', by: number) => ({
    [key]: Math.max(-TRIM_MOST_DEG, Math.min(TRIM_MOST_DEG, s.number(key) + by)),
  });
  switch (id) {
    case 'next-set':
      return set(1);
    case 'last-set':
      return set(-1);
    case 'nose-down':
      return trim('mount.levelPitch', -TRIM_STEP_DEG);
    case 'nose-up':
      return trim('mount.levelPitch', TRIM_STEP_DEG);
    case 'left-down':
      return trim('mount.levelRoll', -TRIM_STEP_DEG);
    case 'right-down':
      return trim('mount.levelRoll', TRIM_STEP_DEG);
    case 'call':
    case 'menu':
      return {};
  }
}
