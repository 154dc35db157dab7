import { describe, expect, it } from 'vitest';
import { prepared } from '../../testing/aloft.ts';
import { flock } from '../airframe/library.ts';
import { fellF7 } from '../board/fellF7.ts';
import { RateLoop } from '../control/rateLoop.ts';
import { clamp } from '../math/scalar.ts';
import { stateOf, usualSpeed } from './answers.ts';
import { loopOf } from './chain.ts';
import { marginOf } from './margin.ts';
import { solveGains } from './solveGains.ts';
import { answerTo, figuresOf } from './stepAnswer.ts';

const all = flock.flatMap((airframe) =>
  (['roll', 'pitch'] as const).flatMap((axis) =>
    [0.1, 0.2].map((overshoot) => [airframe.name, axis, overshoot, airframe] as const),
  ),
);

describe('gains for a wanted answer', () => {
  it.each(all)(
    'of %s about %s go no higher than %d over, and leave enough',
    (_name, axis, overshoot, airframe) => {
      const values = prepared(airframe);
      const loop = loopOf(airframe, values, fellF7.pads, axis, usualSpeed(airframe, values))!;
      const gains = solveGains(loop, 1, overshoot);
      expect(gains).not.toBeNull();
      const found = { ...loop, gains: gains! };
      const f = figuresOf(answerTo(found, 1, 0, 0.6), 1);
      expect(f.overshoot).toBeLessThanOrEqual(overshoot);
      expect(f.reaches).toBeGreaterThan(0.8);
      const margin = marginOf(found);
      expect(stateOf(margin)).toBe('well');
      expect(margin.crossover?.degrees ?? 180).toBeGreaterThan(54);
      expect(margin.crossover?.delayS ?? 1).toBeGreaterThan(0.0399);
      // Servos are quick enough for a swing of what is asked: it is sent through one, limited by its speed, and comes out whole.
      if (!margin.crossover || !Number.isFinite(loop.slew)) return;
      const { hz } = margin.crossover;
      const loopOnly = new RateLoop({ ...gains!, feedForward: 0, integral: 0 }, loop.shape, 0.001);
      let [servo, came, sent] = [0, 0, 0];
      for (let k = 0; k < 3000; k++) {
        loopOnly.rate = Math.sin(0.002 * Math.PI * hz * k);
        loopOnly.step(false);
        servo += clamp(loopOnly.output - servo, -0.001 * loop.slew, 0.001 * loop.slew);
        if (k < 1500) continue;
        came = Math.max(came, Math.abs(servo));
        sent = Math.max(sent, Math.abs(loopOnly.output));
      }
      expect(came / sent).toBeGreaterThan(0.97);
    },
  );

  it('hold better against pushes the more over is allowed', () => {
    const [airframe] = flock;
    const values = prepared(airframe);
    const loop = loopOf(airframe, values, fellF7.pads, 'roll', usualSpeed(airframe, values))!;
    const [calm, brisk] = [0.02, 0.4].map((o) => solveGains(loop, 1, o)!);
    expect(brisk!.proportional).toBeGreaterThanOrEqual(calm!.proportional);
  });

  it('are none where nothing leaves enough', () => {
    const [airframe] = flock;
    const values = prepared(airframe);
    const loop = loopOf(airframe, values, fellF7.pads, 'roll', usualSpeed(airframe, values))!;
    // A second of delay, and a craft that turns a thousand times as willingly.
    const wild = { ...loop.model, byCommand: loop.model.byCommand.map((b) => 1000 * b) };
    expect(solveGains({ ...loop, model: wild, loopS: 1 }, 1, 0.2)).toBeNull();
  });
});
