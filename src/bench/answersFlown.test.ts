import { describe, expect, it } from 'vitest';
import type { Airframe } from '#core/airframe/airframe.ts';
import { flock } from '#core/airframe/library.ts';
import { loopOf } from '#core/answers/chain.ts';
import { answerTo, figuresOf, type StepAnswer } from '#core/answers/stepAnswer.ts';
import { fellF7 } from '#core/board/fellF7.ts';
import { aloft, prepared, run } from '../testing/aloft.ts';

const STEP_S = 0.005;
const LASTS_S = 0.45;

/** Half a stick about an axis in Rate, flown to both sides; the mean of the two, so that what drifts cancels. */
function flown(airframe: Airframe, axis: 'roll' | 'pitch') {
  const i = axis === 'roll' ? 0 : 1;
  let speed = 0;
  const sides = [1, -1].map((side) => {
    const f = aloft(airframe, { heightM: 200 });
    run(f, 6);
    f.radio.attitude = 2;
    run(f, 0.3);
    const before = f.plant.rates[i]!;
    speed = f.pfad.controller.airspeed;
    f.radio[axis] = 0.5 * side;
    // The log's wishes tell when the sticks have arrived.
    const wanted = () => f.pfad.controller.loops.wanted[i]!;
    for (let k = 0; k < 100 && Math.abs(wanted()) < 0.1; k++) f.step();
    const rates: number[] = [];
    let k = 0;
    run(f, LASTS_S + STEP_S, () => {
      if (k++ % 5 === 0) rates.push((f.plant.rates[i]! - before) * side);
    });
    return { rates, asked: wanted() * side };
  });
  const rates = Float64Array.from(sides[0]!.rates, (r, k) => (r + sides[1]!.rates[k]!) / 2);
  const step: StepAnswer = { stepS: STEP_S, rates, commands: rates };
  return { step, asked: sides[0]!.asked, speed };
}

describe('an answer as the model promises it', () => {
  it.each(
    flock.flatMap((airframe) =>
      (['roll', 'pitch'] as const).map((axis) => [airframe.name, axis, airframe] as const),
    ),
  )('is the one that %s flies about %s', (_name, axis, airframe) => {
    const { step, asked, speed } = flown(airframe, axis);
    const loop = loopOf(airframe, prepared(airframe), fellF7.pads, axis, speed)!;
    // Receiver and pulses of the bench keep step, so that the wish meets a pulse at once.
    const said = figuresOf(answerTo(loop, asked, 0, LASTS_S, 0), asked);
    const real = figuresOf(step, asked);
    expect(Math.abs(said.riseS / real.riseS - 1)).toBeLessThan(0.15);
    expect(Math.abs(said.delayS - real.delayS)).toBeLessThan(0.012);
    expect(Math.abs(said.overshoot - real.overshoot)).toBeLessThan(0.15);
    expect(Math.abs(said.reaches / real.reaches - 1)).toBeLessThan(0.1);
  });
});
