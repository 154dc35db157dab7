import { type Airframe, isRotorcraft } from '../airframe/airframe.ts';
import { stallSpeed } from '../airframe/performance.ts';
import type { BoardDescription } from '../board/description.ts';
import { inSet } from '../control/controlSet.ts';
import { DEG } from '../math/scalar.ts';
import type { Axis } from '../mixer/authority.ts';
import type { Values } from '../settings/catalogue.ts';
import { settingsOf } from '../settings/typed.ts';
import type { FlownOtherwise } from './axisModel.ts';
import { type Loop, loopOf } from './chain.ts';
import { type Margin, marginOf } from './margin.ts';
import { answerTo, figuresOf, type StepAnswer, type StepFigures } from './stepAnswer.ts';

/** Less than this is wanting, degrees and times: 45 degrees and 6 dB, as MIL-F-9490D asks of flight control. */
export const MARGIN_LEAST_DEG = 45;
export const GAIN_LEAST = 2;

/** It rings by itself; it has little left until it does; or neither. */
export type LoopState = 'rings' | 'little-margin' | 'well';

export function stateOf({ crossover, gainLeft }: Margin): LoopState {
  const degrees = crossover?.degrees ?? 180;
  if (degrees <= 0 || gainLeft <= 1) return 'rings';
  return degrees < MARGIN_LEAST_DEG || gainLeft < GAIN_LEAST ? 'little-margin' : 'well';
}

/** How one axis answers as it is set. */
export interface AxisAnswer {
  readonly axis: Axis;
  /** 0 for a hover. */
  readonly speedMps: number;
  readonly loop: Loop;
  readonly margin: Margin;
  /** What is asked for, rad/s: half of the most that the sticks ask for. */
  readonly asked: number;
  readonly step: StepAnswer;
  readonly figures: StepFigures;
  /** After a push of a tenth of what a full command turns: the greatest rate, rad/s, and that of the craft without its loop. */
  readonly pushed: number;
  readonly pushedAlone: number;
  readonly state: LoopState;
}

/** Where a wing is asked how it answers when nobody says: its cruise speed; rotors hover. */
export function usualSpeed(airframe: Airframe, values: Values): number {
  if (isRotorcraft(airframe)) return 0;
  return Math.max(1.2 * stallSpeed(airframe), settingsOf(values).number('nav.speed'));
}

/** What is asked for where nobody says: half of the most that the sticks ask for, rad/s. */
export const askedOf = (values: Values, axis: Axis, set = 1): number =>
  0.5 * settingsOf(values).number(inSet(`rate.${axis}.max`, set)) * DEG;

const STEP_S = 1;
const PUSH_S = 1;

/**
 * @param speedMps through the air, of wings. @param set control set, 1 to 3
 * @param flown where it is not level, or not in a hover, or its battery not half empty
 * @returns null where nothing turns the craft so
 */
export function axisAnswer(
  airframe: Airframe,
  values: Values,
  pads: BoardDescription['pads'],
  axis: Axis,
  speedMps: number,
  set = 1,
  flown: FlownOtherwise = {},
): AxisAnswer | null {
  const loop = loopOf(airframe, values, pads, axis, speedMps, set, flown);
  if (!loop) return null;
  const margin = marginOf(loop);
  const asked = askedOf(values, axis, set);
  const step = answerTo(loop, asked, 0, STEP_S);
  const size = 0.1 * Math.max(...loop.model.byCommand.map(Math.abs));
  const push = answerTo(loop, 0, size, PUSH_S);
  const none = { feedForward: 0, proportional: 0, integral: 0, derivative: 0 };
  const alone = answerTo({ ...loop, gains: none }, 0, size, PUSH_S);
  return {
    axis,
    speedMps,
    loop,
    margin,
    asked,
    step,
    figures: figuresOf(step, asked),
    pushed: greatest(push.rates),
    pushedAlone: greatest(alone.rates),
    state: stateOf(margin),
  };
}

const greatest = (rates: Float64Array): number => rates.reduce((m, r) => Math.max(m, Math.abs(r)), 0);
