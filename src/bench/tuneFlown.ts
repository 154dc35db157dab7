import { isRotorcraft } from '#core/airframe/airframe.ts';
import { askedOf } from '#core/answers/answers.ts';
import { hoverBy } from '#core/answers/axisModel.ts';
import { type Loop, loopOf } from '#core/answers/chain.ts';
import { mostProportional } from '#core/answers/solveGains.ts';
import { describeBoard } from '#core/board/describe.ts';
import { aloftOverHome } from '#core/formats/scenario.ts';
import { pitchOf, rollOf } from '#core/math/quaternion.ts';
import { settingsOf } from '#core/settings/typed.ts';
import type { FoundGains } from '#firmware/autoTune.ts';
import { onlyMode } from './outerFlown.ts';
import { Rehearsal, type RehearsalInput } from './rehearsal.ts';
import type { Refused } from './stepFlown.ts';

/** How often the flight is told, s. */
export const TUNE_TRACE_S = 0.1;

/** A flight in which the board found gains by itself. */
export interface TuneFlown {
  readonly found: { readonly roll: FoundGains | null; readonly pitch: FoundGains | null };
  readonly seconds: number;
  /** Mean, through the air. */
  readonly speedMps: number;
  /** Mean, of the battery under load, V. */
  readonly supplyV: number;
  /** Every `TUNE_TRACE_S` from when it was asked: rad, rad, m from where it began. */
  readonly bank: Float64Array;
  readonly pitch: Float64Array;
  readonly height: Float64Array;
  /** Over ground, m. */
  readonly away: number;
  /** What the board said. */
  readonly said: readonly string[];
}

const HEIGHT_M = 120;
const SETTLES_S = 8;
const LONGEST_S = 40;
const STEPS = 1000;
/** A channel that every receiver carries. */
const CHANNEL = 8;

/** Flown over home in the wind of the scenario, held at its height by the board, its switch put on. */
export function flyTune(input: RehearsalInput): TuneFlown | Refused {
  const { scenario: s, truth, airframe } = input;
  const rotors = isRotorcraft(airframe);
  const { craft, result } = new Rehearsal({
    ...input,
    values: {
      ...onlyMode(input.values, truth.channels.attitude, rotors ? 'position' : 'height'),
      'tune.channel': CHANNEL,
    },
    scenario: aloftOverHome(s, HEIGHT_M),
  });
  if (result) return { refused: result.reason };
  const { radio, plant, pfad } = craft;
  const { controller } = pfad;
  radio.switchChannel = CHANNEL;
  radio.switchUs = 1000;
  radio.attitude = 2;
  for (let k = 0; k < SETTLES_S * STEPS; k++) craft.step();
  const said: string[] = [];
  const before = controller.journal.onDecision;
  controller.journal.onDecision = (d) => {
    before?.(d);
    if (/gains/.test(d.text)) said.push(d.text);
  };
  radio.switchUs = 2000;
  const most = Math.round(LONGEST_S / TUNE_TRACE_S);
  const [bank, pitch, height] = [0, 0, 0].map(() => new Float64Array(most)) as [
    Float64Array,
    Float64Array,
    Float64Array,
  ];
  const from = [...plant.position];
  let [n, speed, supply] = [0, 0, 0];
  for (; n < most && controller.tune.state !== 'done' && craft.aboveGround > 10; n++) {
    bank[n] = rollOf(plant.attitude);
    pitch[n] = pitchOf(plant.attitude);
    height[n] = from[2]! - plant.position[2]!;
    speed += controller.airspeed;
    supply += controller.supplyV;
    for (let k = 0; k < TUNE_TRACE_S * STEPS; k++) craft.step();
  }
  const { roll, pitch: nose } = controller.tune.found;
  return {
    found: { roll, pitch: nose },
    seconds: n * TUNE_TRACE_S,
    speedMps: n > 0 ? speed / n : 0,
    supplyV: n > 0 ? supply / n : 0,
    bank: bank.subarray(0, n),
    pitch: pitch.subarray(0, n),
    height: height.subarray(0, n),
    away: Math.hypot(plant.position[0]! - from[0]!, plant.position[1]! - from[1]!),
    said,
  };
}

/**
 * What the craft's model says of an axis as it was flown: a wing at its speed, rotors by the battery of then, whose hover takes less of the
 * throttle the fuller it is.
 * @returns the loop, and P as the board's share of the most; null where nothing turns the craft so, or no P leaves enough
 */
export function modelOfFlown(
  { airframe, board, values }: RehearsalInput,
  { speedMps, supplyV }: TuneFlown,
  axis: 'roll' | 'pitch',
): { readonly loop: Loop; readonly p: number } | null {
  const s = settingsOf(values);
  const set = Number(s.choice('set.active'));
  const rotors = isRotorcraft(airframe);
  const flown = rotors && supplyV > 0 ? hoverBy(airframe, supplyV) : {};
  const { pads } = describeBoard(board);
  const loop = loopOf(airframe, values, pads, axis, rotors ? 0 : speedMps, set, flown);
  const most = loop && mostProportional(loop, askedOf(values, axis, set));
  return most ? { loop, p: s.number('tune.share') * most.p } : null;
}
