import { describe, expect, it } from 'vitest';
import { type Airframe, isRotorcraft } from '#core/airframe/airframe.ts';
import { flock } from '#core/airframe/library.ts';
import { stallSpeed } from '#core/airframe/performance.ts';
import { loopOf } from '#core/answers/chain.ts';
import { answerTo, figuresOf, type StepAnswer } from '#core/answers/stepAnswer.ts';
import { fellF7 } from '#core/board/fellF7.ts';
import { aloft, prepared, run } from '../testing/aloft.ts';
import { heldSpeed, steadied } from '../testing/heldSpeed.ts';

const STEP_S = 0.005;
const LASTS_S = 0.45;

/** A stick about an axis in Rate, flown to both sides; the mean of the two, so that what drifts cancels. */
function flown(airframe: Airframe, axis: 'roll' | 'pitch', stick: number, speedMps: number) {
  const i = axis === 'roll' ? 0 : 1;
  let speed = 0;
  const sides = [1, -1].map((side) => {
    const f = aloft(airframe, { heightM: 200, change: speedMps > 0 ? heldSpeed(speedMps) : {} });
    speed = steadied(airframe, f);
    f.radio.attitude = 2;
    run(f, 0.3);
    const before = f.plant.rates[i]!;
    f.radio[axis] = stick * side;
    // The log's wishes tell when the sticks have arrived.
    const wanted = () => f.pfad.controller.loops.wanted[i]!;
    for (let k = 0; k < 100 && Math.abs(wanted()) < 0.1; k++) f.step();
    const rates: number[] = [];
    let k = 0;
    run(f, LASTS_S, () => {
      if (k++ % 5 === 0) rates.push((f.plant.rates[i]! - before) * side);
    });
    return { rates, asked: wanted() * side };
  });
  const rates = Float64Array.from(sides[0]!.rates, (r, k) => (r + sides[1]!.rates[k]!) / 2);
  const step: StepAnswer = { stepS: STEP_S, rates, commands: rates };
  return { step, asked: sides[0]!.asked, speed };
}

/** Little above the stall, at cruise and fast, as multiples of the stall speed; rotors hover. */
const SPEEDS = [1.3, 1.6, 2.1];

describe('an answer as the model promises it', () => {
  it.each(
    flock.flatMap((airframe) =>
      (['roll', 'pitch'] as const).flatMap((axis) =>
        (isRotorcraft(airframe) ? [0] : SPEEDS).flatMap((stalls) =>
          (isRotorcraft(airframe) ? [0.5, 0.7] : [0.25, 0.5]).map(
            (stick) => [airframe.name, axis, stalls, stick, airframe] as const,
          ),
        ),
      ),
    ),
  )('is the one that %s flies about %s, %f times as fast as its stall, for %f of the stick', (...of) => {
    const [, axis, stalls, stick, airframe] = of;
    const speedMps = isRotorcraft(airframe) ? 0 : stalls * stallSpeed(airframe);
    const { step, asked, speed } = flown(airframe, axis, stick, speedMps);
    const values = { ...prepared(airframe), ...(stalls > 0 ? heldSpeed(speedMps) : {}) };
    const loop = loopOf(airframe, values, fellF7.pads, axis, speed)!;
    // Receiver and pulses of the bench keep step, so that the wish meets a pulse at once.
    const said = figuresOf(answerTo(loop, asked, 0, LASTS_S - STEP_S, 0), asked);
    const real = figuresOf(step, asked);
    expect(Math.abs(said.riseS / real.riseS - 1)).toBeLessThan(0.15);
    expect(Math.abs(said.delayS - real.delayS)).toBeLessThan(0.008);
    expect(Math.abs(said.overshoot - real.overshoot)).toBeLessThan(0.05);
    expect(Math.abs(said.reaches / real.reaches - 1)).toBeLessThan(0.15);
  });
});
