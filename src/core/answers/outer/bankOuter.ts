import type { Airframe } from '../../airframe/airframe.ts';
import type { BoardDescription } from '../../board/description.ts';
import { inSet } from '../../control/controlSet.ts';
import { clamp, DEG, GRAVITY } from '../../math/scalar.ts';
import type { Values } from '../../settings/catalogue.ts';
import { settingsOf } from '../../settings/typed.ts';
import type { AxisModel } from '../axisModel.ts';
import { LOOP_S, loopOf } from '../chain.ts';
import { LoopRun } from '../stepAnswer.ts';
import type { Asked } from './manoeuvres.ts';
import { newTrace, TRACE_S, type Trace } from './trace.ts';

/** Level turns the nose with the bank: then it does not slip down by it. */
const turning = (model: AxisModel): AxisModel => ({
  ...model,
  states: model.states.map((row, i) => (i === SLIP ? row.map((x, j) => (j === BANK ? 0 : x)) : row)),
});
/** Where the yaw rate, slip and bank stand among the states about roll. */
const OTHER = 1;
const SLIP = 2;
const BANK = 3;

/** A bank asked for in Level: the level loop around the rate loop as it is, its servos among it. */
export function predictBank(
  airframe: Airframe,
  values: Values,
  pads: BoardDescription['pads'],
  asked: Asked,
  speedMps: number,
): Trace | null {
  const s = settingsOf(values);
  const set = Number(s.choice('set.active'));
  const loop = loopOf(airframe, values, pads, 'roll', speedMps, set);
  if (!loop) return null;
  const time = s.number(inSet('level.time', set));
  const most = s.number(inSet('rate.roll.max', set)) * DEG;
  const run = new LoopRun({ ...loop, model: turning(loop.model) });
  const trace = newTrace(asked.seconds);
  const every = Math.round(TRACE_S / LOOP_S);
  // In a turn the outer wing is the faster one, and lifts more: it rolls further in by the rate at which the nose goes round.
  const byTurn = speedMps > 0 ? (loop.model.states[0]![OTHER]! * GRAVITY) / speedMps : 0;
  let bank = 0;
  for (let k = 0; k < trace.bank.length; k++) {
    trace.bank[k] = bank;
    for (let i = 0; i < every; i++) {
      run.step(clamp((asked.bank - bank) / time, -most, most), byTurn * Math.sin(bank));
      bank += LOOP_S * run.rate;
    }
  }
  return trace;
}
