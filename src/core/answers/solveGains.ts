import type { RateGains } from '../control/rateLoop.ts';
import { MARGIN_LEAST_DEG } from './answers.ts';
import type { Loop } from './chain.ts';
import { marginOf } from './margin.ts';
import { answerTo, figuresOf } from './stepAnswer.ts';

/**
 * Found gains leave more than what is wanting: degrees, and times. Where gain falls off as slowly as phase, as that of rotors with D does,
 * degrees alone change little over half an octave and say hardly where to stop: so much delay, s, is to be left as well.
 */
const LEFT_DEG = MARGIN_LEAST_DEG + 10;
const LEFT_TIMES = 3;
const LEFT_DELAY_S = 0.04;
/** I over P where the board has none, 1/s. */
export const USUAL_SETTLING = 1.3;
/** Shares of the feed-forward that brings it to what is asked, the best first: less of it where the craft itself swings over. */
const FORWARDS = [1, 0.9, 0.8, 0.7, 0.6, 0.5];
/** Shares of the I that goes with P: less of it where it swings. */
const SETTLINGS = [1, 0.5, 0.25];
/** Shares of the most P that leaves enough. */
const SHARES = [1, 0.75, 0.55, 0.4, 0.3, 0.2, 0.1, 0.05];
const MOST_P = 2;
const LEAST_P = 5e-4;
const STEP_S = 0.6;
/** Of a charged cell under load over one that is half empty: 4.15 of 3.7 V. */
const FULL_BATTERY = 1.12;

/** The same loop with another P and feed-forward, its other gains in their ratios to P. */
function gainsAt(loop: Loop) {
  const had = loop.gains;
  const settling =
    had.proportional > 0 && had.integral > 0 ? had.integral / had.proportional : USUAL_SETTLING;
  const braking = had.proportional > 0 ? had.derivative / had.proportional : 0;
  return (proportional: number, feedForward: number, share = 1): Loop => ({
    ...loop,
    gains: {
      feedForward,
      proportional,
      integral: share * settling * proportional,
      derivative: braking * proportional,
    },
  });
}

/**
 * The most P that leaves what found gains are to leave, with as much of the I that goes with it as can be; null where none does.
 * @param asked swings of so much are followed by servos at the crossover, rad/s
 */
export function mostProportional(
  loop: Loop,
  asked: number,
): { readonly p: number; readonly settles: number } | null {
  const withP = gainsAt(loop);
  for (const settles of SETTLINGS) {
    const p = mostThatLeaves((x) => withP(x, 0, settles), asked);
    if (p !== null) return { p, settles };
  }
  return null;
}

/**
 * The gains that hold best against pushes of those that leave enough until it rings and answer what is asked no higher than wanted.
 * @param asked rad/s @param overshoot most over what is asked, share
 * @returns null where there are none
 */
export function solveGains(loop: Loop, asked: number, overshoot: number): RateGains | null {
  const withP = gainsAt(loop);
  const most = mostThatLeaves((p) => withP(p, 0), asked);
  if (most === null) return null;
  const forward = forwardThatReaches(loop, asked);
  for (const share of SHARES)
    for (const part of forward === 0 ? [1] : FORWARDS)
      for (const settles of SETTLINGS) {
        const tried = withP(share * most, part * forward, settles);
        const f = figuresOf(answerTo(tried, asked, 0, STEP_S), asked);
        // What is left below is caught up by the sum within the next second; farther below it is not what was asked for.
        if (!(f.overshoot <= overshoot && f.reaches > 0.8 && leavesEnough(tried, asked))) continue;
        const full = withFullBattery(tried);
        if (!full || figuresOf(answerTo(full, asked, 0, STEP_S), asked).overshoot <= overshoot)
          return tried.gains;
      }
  return null;
}

/** Rotors turn a craft the more the fuller their battery is: a loop is told by one that is half empty. Null of wings. */
function withFullBattery(loop: Loop): Loop | null {
  if (loop.model.moves !== 'motors') return null;
  return { ...loop, times: { ...loop.times, gain: FULL_BATTERY * loop.times.gain } };
}

function leavesEnough(loop: Loop, asked: number): boolean {
  const { crossover, gainLeft } = marginOf(loop);
  if (gainLeft < LEFT_TIMES) return false;
  if (!crossover) return true;
  const { degrees, delayS, follows } = crossover;
  return degrees >= LEFT_DEG && delayS >= LEFT_DELAY_S && follows >= asked;
}

/** P is looked for from the most downwards, in so many steps: too little of it may leave too little as well, where the sum then leads. */
const TRIED = 40;

/** The most P that leaves what found gains are to leave; null where none does. */
function mostThatLeaves(at: (p: number) => Loop, asked: number): number | null {
  const leaves = (p: number) => leavesEnough(at(p), asked);
  const step = (MOST_P / LEAST_P) ** (1 / TRIED);
  let low = MOST_P;
  while (!leaves(low)) {
    low /= step;
    if (low < LEAST_P / 1.001) return null;
  }
  if (low === MOST_P) return low;
  let high = low * step;
  for (let k = 0; k < 6; k++) {
    const mid = Math.sqrt(low * high);
    if (leaves(mid)) low = mid;
    else high = mid;
  }
  return low;
}

/** The feed-forward that alone brings a wing to what is asked; that of the board where nothing slows a turn, as in a hover. */
function forwardThatReaches(loop: Loop, asked: number): number {
  if (loop.model.speedMps === 0) return loop.gains.feedForward;
  const small = 0.2 * asked;
  const alone = { feedForward: 0.1, proportional: 0, integral: 0, derivative: 0 };
  // What is loose takes a part of it that does not grow with what is asked.
  const { reaches } = figuresOf(answerTo({ ...loop, play: 0, gains: alone }, small, 0, STEP_S), small);
  return reaches > 0.02 ? 0.1 / reaches : loop.gains.feedForward;
}
