import { filtersOf } from '../control/gyroFilter.ts';
import { loopShapeOf } from '../control/rateLoop.ts';
import type { Values } from '../settings/catalogue.ts';
import { settingsOf } from '../settings/typed.ts';
import { LOOP_S } from './chain.ts';

/** Multiplications and divisions of one step of each, as they stand in the code that flies. */
const BIQUAD = 5;
const POLE = 1;
const TRACKER = 17;
/** Both low-passes that keep the craft's own turning from the trackers. */
const TRACKERS_BEGIN = 2;
/** Feed-forward, P and I with what the gain law makes of them; D and its low-pass come to that. */
const LOOP = 9;
const SLOPE = 2;
const AXES = 3;

/** What a processor multiplies a second between gyro and commands. */
export interface LoopWork {
  readonly filters: number;
  readonly loops: number;
}

/** Counted: the load that filters and loops are, as a board is set. Filters run in every step, loops as often as they are set to. */
export function loopWork(values: Values): LoopWork {
  const set = filtersOf(values);
  const shape = loopShapeOf(values);
  const s = settingsOf(values);
  const notches = set.notchHz > 0 ? set.harmonics : 0;
  const lows =
    (set.lowPassHz > 0 ? (set.biquad ? BIQUAD : POLE * set.poles) : 0) + (set.secondHz > 0 ? POLE : 0);
  const tracked = set.track > 0 ? TRACKERS_BEGIN + set.track * (BIQUAD + TRACKER) : 0;
  const filters = AXES * (BIQUAD * notches + lows + tracked) + (set.yawHz > 0 ? POLE : 0);
  const loops = (['roll', 'pitch', 'yaw'] as const).reduce((sum, axis) => {
    const slope = s.number(`rate.${axis}.d`) === 0 ? 0 : SLOPE + POLE * shape.dPoles;
    const shaped = (shape.forwardLagS > 0 ? 1 : 0) + (shape.forwardLeadS > 0 ? 2 : 0);
    return sum + LOOP + slope + shaped;
  }, 0);
  return { filters: filters / LOOP_S, loops: loops / (shape.everySteps * LOOP_S) };
}
