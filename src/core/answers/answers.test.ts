import { describe, expect, it } from 'vitest';
import { prepared } from '../../testing/aloft.ts';
import { plainShape } from '../../testing/plainShape.ts';
import { avocet, dunlin, turnstone } from '../airframe/library.ts';
import { fellF7 } from '../board/fellF7.ts';
import { LowPass } from '../control/lowPass.ts';
import { Notch } from '../control/notch.ts';
import { RateLoop } from '../control/rateLoop.ts';
import { angleOf, complex, over, plus, sizeOf, times } from '../math/complex.ts';
import { DEG } from '../math/scalar.ts';
import { axisAnswer, usualSpeed } from './answers.ts';
import type { AxisModel } from './axisModel.ts';
import { axisModel, craftAt } from './axisModel.ts';
import { controllerAt, gyroFilters, holdAt, type Loop, loopOf, throughAll } from './chain.ts';
import { marginOf } from './margin.ts';
import { ringingOf } from './ringing.ts';
import { answerTo, figuresOf } from './stepAnswer.ts';

const values = prepared(turnstone);
const loopNow = (change = {}) =>
  loopOf(turnstone, { ...values, ...change }, fellF7.pads, 'roll', usualSpeed(turnstone, values))!;

/** What a filter makes of a steady swing, by its answer to one blow: the definition of a transfer function. */
function byBlow(filter: { step(x: number): number }, hz: number) {
  let [re, im] = [0, 0];
  for (let k = 0; k < 8000; k++) {
    const y = filter.step(k === 0 ? 1 : 0);
    re += y * Math.cos(2 * Math.PI * hz * k * 0.001);
    im -= y * Math.sin(2 * Math.PI * hz * k * 0.001);
  }
  return complex(re, im);
}

describe('filters', () => {
  it.each([3, 11, 40, 113, 240, 430])('are at %d Hz what their answer to one blow says', (hz) => {
    for (const make of [
      () => new LowPass(80, 0.001),
      () => new LowPass(0, 0.001),
      () => new Notch(113, 3, 0.001),
      () => new Notch(0, 3, 0.001),
    ]) {
      const [told, blown] = [make().at(hz), byBlow(make(), hz)];
      expect(told.re).toBeCloseTo(blown.re, 6);
      expect(told.im).toBeCloseTo(blown.im, 6);
    }
  });

  it('notch as the analogue one does at tan(w/2) over tan(w0/2)', () => {
    const q = 2.5;
    for (const hz of [20, 90, 112, 114, 200]) {
      const x = Math.tan(Math.PI * hz * 0.001) / Math.tan(Math.PI * 113 * 0.001);
      const real = 1 - x * x;
      const size = Math.abs(real) / Math.hypot(real, x / q);
      expect(sizeOf(new Notch(113, q, 0.001).at(hz))).toBeCloseTo(size, 6);
    }
  });

  it('that are off are none, and all together are their product', () => {
    expect(gyroFilters({ ...values, 'gyro.notch': 0, 'gyro.cutoff': 0 })).toEqual([]);
    const filters = gyroFilters({ ...values, 'gyro.notch': 113, 'gyro.cutoff': 80 });
    expect(filters.map((f) => f.id)).toEqual(['notch', 'low-pass']);
    const all = throughAll(filters, 30);
    expect(angleOf(all)).toBeCloseTo(
      filters.reduce((sum, f) => sum + angleOf(f.at(30)), 0),
      9,
    );
  });

  it('hold a value half of the wait late, and less of what is fast', () => {
    expect(-angleOf(holdAt(0.02, 10)) / (2 * Math.PI * 10)).toBeCloseTo(0.01, 9);
    expect(sizeOf(holdAt(0.02, 25))).toBeCloseTo(2 / Math.PI, 9);
    expect(sizeOf(holdAt(0.02, 50))).toBeCloseTo(0, 9);
  });
});

describe('a craft as it turns', () => {
  it('is the quotient that its states give', () => {
    // w' = -2 w + 3 x + u, x' = -4 w - 5 x + 6 u: by hand (s + 5 + 18)/((s + 2)(s + 5) + 12).
    const model: AxisModel = {
      ...{ axis: 'roll', speedMps: 0, moves: 'servos', motorPole: Number.NaN },
      states: [
        [-2, 3],
        [-4, -5],
      ],
      byCommand: [1, 6],
    };
    for (const hz of [0.1, 1, 30]) {
      const s = complex(0, 2 * Math.PI * hz);
      const by = over(
        plus(s, complex(23)),
        plus(times(plus(s, complex(2)), plus(s, complex(5))), complex(12)),
      );
      expect(craftAt(model, hz).re).toBeCloseTo(by.re, 12);
      expect(craftAt(model, hz).im).toBeCloseTo(by.im, 12);
    }
  });

  it('falls off with its inertia far above everything else, as b over s', () => {
    const model = axisModel(turnstone, values, 'roll', 15)!;
    const far = craftAt(model, 400);
    expect(sizeOf(far) * 2 * Math.PI * 400).toBeCloseTo(Math.abs(model.byCommand[0]!), 0);
    expect(angleOf(far) / DEG).toBeCloseTo(-90, 0);
  });

  it('has nothing that turns a tailless wing about yaw', () => {
    expect(axisModel(dunlin, prepared(dunlin), 'yaw', 14)).toBeNull();
  });

  it('knows that motors lag', () => {
    const model = axisModel(avocet, prepared(avocet), 'roll', 0)!;
    expect(model.moves).toBe('motors');
    // Small motors with 5 inch propellers answer within some tens of milliseconds.
    expect(-1 / model.motorPole).toBeGreaterThan(0.01);
    expect(-1 / model.motorPole).toBeLessThan(0.15);
  });
});

describe('P, I and D', () => {
  it.each([
    { dPoles: 1, everySteps: 1 },
    { dPoles: 2, everySteps: 1 },
    { dPoles: 2, everySteps: 4 },
  ])('make of a swing what the loop that flies makes of it: %o', (change) => {
    const shape = { ...plainShape, ...change };
    const gains = { feedForward: 0, proportional: 0.02, integral: 0.1, derivative: 0.0015 };
    const dt = 0.001 * shape.everySteps;
    for (const hz of [2, 8, 25]) {
      const loop = new RateLoop(gains, shape, dt);
      // By correlation over whole swings, once it has settled.
      let [re, im] = [0, 0];
      const n = Math.round(1 / dt);
      for (let k = 0; k < 3 * n; k++) {
        const turn = 2 * Math.PI * hz * k * dt;
        loop.rate = -Math.cos(turn);
        loop.step(false);
        if (k < 2 * n) continue;
        re += (2 / n) * loop.output * Math.cos(turn);
        im -= (2 / n) * loop.output * Math.sin(turn);
      }
      const said = controllerAt(gains, shape, 1, hz);
      expect(Math.hypot(re - said.re, im - said.im) / sizeOf(said), `${hz} Hz`).toBeLessThan(0.04);
    }
  });

  it('are later by half a turn of the loops where those run less often than pulses go out', () => {
    const lateAt = (rate: string) =>
      loopOf(turnstone, prepared(turnstone, { 'loop.rate': rate }), fellF7.pads, 'roll', 16)!;
    expect(lateAt('250').loopS - lateAt('1000').loopS).toBeCloseTo(0.0015, 9);
    expect(lateAt('250').waitS).toBe(lateAt('1000').waitS);
    const hovers = (rate: string) =>
      loopOf(avocet, prepared(avocet, { 'loop.rate': rate }), fellF7.pads, 'roll', 0)!.waitS;
    expect([hovers('1000'), hovers('250')]).toEqual([0.003, 0.004]);
  });
});

describe('margin', () => {
  const model: AxisModel = {
    axis: 'roll',
    speedMps: 0,
    moves: 'motors',
    states: [[0]],
    byCommand: [1],
    motorPole: -1e9,
  };
  const loop: Loop = {
    model,
    gains: { feedForward: 0, proportional: 10, integral: 0, derivative: 0 },
    shape: plainShape,
    times: { gain: 1, forward: 1 },
    filters: [],
    loopS: 0.02,
    waitS: 0.001,
    slew: Number.POSITIVE_INFINITY,
    play: 0,
    lateS: 0,
  };

  it('of an integrator with delay is 90 degrees less what the delay takes', () => {
    const m = marginOf(loop);
    const c = m.crossover!;
    expect(c.hz).toBeCloseTo(10 / (2 * Math.PI), 3);
    expect(c.degrees).toBeCloseTo(90 - (10 * 0.0205) / DEG, 1);
    // It rings where the delay alone has taken the other 90.
    expect(m.ringsHz).toBeCloseTo(1 / (4 * 0.0205), 1);
    expect(m.gainLeft).toBeCloseTo(Math.PI / 2 / (10 * 0.0205), 1);
    expect(c.shares.reduce((sum, s) => sum + s.degrees, c.degrees)).toBeCloseTo(180, 6);
  });

  it('is the delay that makes it ring', () => {
    const { delayS } = marginOf(loop).crossover!;
    const after = (more: number) => marginOf({ ...loop, loopS: loop.loopS + more }).crossover!.degrees;
    expect(after(0.9 * delayS)).toBeGreaterThan(0);
    expect(after(1.1 * delayS)).toBeLessThan(0);
  });

  it('is none of a loop that is nowhere whole', () => {
    expect(marginOf({ ...loop, model: { ...model, states: [[-100]] } }).crossover).toBeNull();
  });

  it('is spent by gains, and what rings is said', () => {
    const at = (p: number) =>
      axisAnswer(avocet, prepared(avocet, { 'rate.roll.p': p }), fellF7.pads, 'roll', 0)!;
    const p = prepared(avocet)['rate.roll.p'] as number;
    const [as, more, wild] = [at(p), at(4 * p), at(2)];
    expect(as.state).toBe('well');
    expect(more.margin.gainLeft).toBeLessThan(as.margin.gainLeft);
    expect(wild.state).toBe('rings');
    const [found] = ringingOf(avocet, prepared(avocet, { 'rate.roll.p': 2 }), fellF7.pads);
    expect(found).toMatchObject({ axis: 'roll', set: 1, state: 'rings' });
    expect(at(2 * found!.times!).state).toBe('well');
  });
});

describe('a step', () => {
  it('of a first-order lag has the figures that the formula gives', () => {
    const rates = Float64Array.from({ length: 400 }, (_, k) => 1 - Math.exp((-k * 0.005) / 0.1));
    const f = figuresOf({ rates, commands: rates, stepS: 0.005 }, 1);
    expect(f.riseS).toBeCloseTo(0.1 * Math.log(9), 2);
    expect(f.delayS).toBeCloseTo(0.1 * Math.LN2, 2);
    expect(f.overshoot).toBe(0);
    expect(f.reaches).toBeCloseTo(1, 4);
    expect(f.settlesS).toBeCloseTo(0.1 * Math.log(10), 1);
  });

  it('is as slow as the servo where more is asked than it gives at once', () => {
    const loop = loopNow();
    const rise = (asked: number) => figuresOf(answerTo(loop, asked, 0, 0.6), asked).riseS;
    expect(rise(1.5)).toBeGreaterThan(rise(0.2));
  });

  it('swings ever more where the loop rings, and dies away where it does not', () => {
    const swing = (loop: Loop) => {
      const part = answerTo(loop, 0, 0.01, 2).rates.subarray(320, 400);
      return Math.max(...part) - Math.min(...part);
    };
    const loop = { ...loopNow(), slew: Number.POSITIVE_INFINITY, play: 0 };
    const raised = (k: number): Loop => ({
      ...loop,
      gains: { ...loop.gains, proportional: k * marginOf(loop).gainLeft * loop.gains.proportional },
    });
    expect(swing(raised(0.8))).toBeLessThan(1e-3);
    expect(swing(raised(1.2))).toBeGreaterThan(0.1);
  });
});
