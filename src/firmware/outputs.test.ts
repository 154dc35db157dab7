import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Airframe } from '#core/airframe/airframe.ts';
import { avocet, knot, plainCraft, ruff, turnstone } from '#core/airframe/library.ts';
import { fellF7 } from '#core/board/fellF7.ts';
import { deflectionOfPulse } from '#core/mixer/pulse.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { prepared } from '../testing/aloft.ts';
import { BenchMoves } from './benchMoves.ts';
import { compileConfig } from './config.ts';
import { type Command, Outputs } from './outputs.ts';

/** Duties 0..1 or deflections -1..1 by role, after one step with one command. */
function answer(airframe: Airframe, command: Partial<Command>, change: Values = {}, armed = true) {
  const c = compileConfig(prepared(airframe, change));
  const outputs = new Outputs(c, 0.001);
  outputs.step({ roll: 0, pitch: 0, yaw: 0, throttle: 0, flap: 0, ...command }, new BenchMoves(), armed);
  const by: Record<string, number> = {};
  c.outputs.forEach((o, i) => {
    if (o.role === 'nothing') return;
    const us = outputs.pulses[i]!;
    by[o.role] = o.isMotor ? (us - o.lowUs) / (o.highUs - o.lowUs) : deflectionOfPulse(o, us);
  });
  return { by, c, saturated: outputs.saturated };
}

const share = fc.double({ min: -1, max: 1, noNaN: true });
const commands = fc.record({
  roll: share,
  pitch: share,
  yaw: share,
  throttle: fc.double({ min: 0, max: 1, noNaN: true }),
});
const rotorcraft = [avocet, ruff, plainCraft('quad-plus'), plainCraft('hex'), plainCraft('y6')];

describe('rotors sharing one battery of commands', () => {
  it.each(rotorcraft.map((a) => [a.name, a] as const))('%s: keep between idle and full', (_n, a) => {
    fc.assert(
      fc.property(commands, (k) => {
        const { by, c } = answer(a, k);
        for (const m of a.motors) {
          expect(by[m.id]).toBeGreaterThanOrEqual(c.idle - 1e-9);
          expect(by[m.id]).toBeLessThanOrEqual(1 + 1e-9);
        }
      }),
      { numRuns: 60 },
    );
  });

  it.each(rotorcraft.map((a) => [a.name, a] as const))(
    '%s: give exactly what is asked wherever there is room',
    (_n, a) => {
      fc.assert(
        fc.property(commands, (k) => {
          const { by, c, saturated } = answer(a, k);
          if (saturated) return;
          const motors = c.outputs.filter((o) => o.isMotor);
          const [first, ...others] = motors;
          const turning = (o: (typeof motors)[number]) =>
            o.mix.roll * k.roll + o.mix.pitch * k.pitch + o.mix.yaw * k.yaw;
          for (const o of others)
            expect(by[o.role]! - by[first!.role]!).toBeCloseTo(turning(o) - turning(first!), 9);
        }),
        { numRuns: 60 },
      );
    },
  );

  it('give up just as much yaw as roll and pitch need', () => {
    const roll = 0.3;
    const { by, c, saturated } = answer(avocet, { roll, yaw: 0.6, throttle: 0.5 });
    expect(saturated).toBe(true);
    // Left minus right is what rolls, whichever way the rotors turn.
    const left = by['front-left-motor']! + by['rear-left-motor']!;
    const right = by['front-right-motor']! + by['rear-right-motor']!;
    expect((left - right) / 4).toBeCloseTo(roll, 6);
    // One side asks for roll and yaw at once: all the room is used.
    const duties = avocet.motors.map((m) => by[m.id]!);
    expect(Math.max(...duties)).toBeCloseTo(1, 9);
    expect(Math.min(...duties)).toBeCloseTo(c.idle, 9);
  });

  it('keep some yaw however much roll is asked for', () => {
    const { by } = answer(avocet, { roll: 0.8, yaw: 0.5, throttle: 0.5 });
    const yaw =
      by['front-right-motor']! + by['rear-left-motor']! - by['front-left-motor']! - by['rear-right-motor']!;
    expect(yaw).toBeGreaterThan(0.1);
  });

  it('keep the proportion of roll to pitch when even they do not fit', () => {
    const { by } = answer(avocet, { roll: 0.9, pitch: 0.45, throttle: 0.5 });
    const roll =
      by['front-left-motor']! + by['rear-left-motor']! - by['front-right-motor']! - by['rear-right-motor']!;
    const pitch =
      by['front-left-motor']! + by['front-right-motor']! - by['rear-left-motor']! - by['rear-right-motor']!;
    expect(roll / pitch).toBeCloseTo(2, 6);
  });

  it('raise or lower the throttle rather than lose roll', () => {
    for (const throttle of [0, 1]) {
      const { by, saturated } = answer(avocet, { roll: 0.3, throttle });
      expect(saturated).toBe(false);
      expect(by['front-left-motor']! - by['front-right-motor']!).toBeCloseTo(0.6, 6);
    }
  });

  it('stand still while disarmed, whatever is asked', () => {
    const { by } = answer(avocet, { roll: 1, throttle: 1 }, {}, false);
    for (const m of avocet.motors) expect(by[m.id]).toBe(0);
  });

  it('of a tricopter leave yaw to the tail servo', () => {
    const still = answer(ruff, { throttle: 0.5 }).by;
    const { by } = answer(ruff, { throttle: 0.5, yaw: 0.5 });
    for (const m of ruff.motors) expect(by[m.id]).toBeCloseTo(still[m.id]!, 9);
    expect(by['tail-servo']! - still['tail-servo']!).toBeCloseTo(0.5, 6);
  });

  it('turn the other way round when they spin the other way', () => {
    const usual = answer(avocet, { throttle: 0.5, yaw: 0.2 }).by;
    const flipped = answer(avocet, { throttle: 0.5, yaw: 0.2 }, { 'mix.spinFlipped': true }).by;
    expect(usual['front-left-motor']! - usual['front-right-motor']!).toBeCloseTo(
      flipped['front-right-motor']! - flipped['front-left-motor']!,
      9,
    );
  });
});

describe('surfaces', () => {
  it('of an elevon wing take their share of roll and pitch', () => {
    const { by } = answer(
      knot,
      { roll: 0.5, pitch: 0.5 },
      {
        'mix.elevonRoll': 0.6,
        'mix.elevonPitch': 0.4,
      },
    );
    // Pulling moves both up, rolling right the left one down.
    expect(by['left-elevon']).toBeCloseTo(0.3 - 0.2, 6);
    expect(by['right-elevon']).toBeCloseTo(-0.3 - 0.2, 6);
  });

  it('the down-going aileron moves less, by the share that is set', () => {
    const { by } = answer(turnstone, { roll: 0.5 }, { 'mix.aileronUp': 0.4, 'mix.turnRudder': 0 });
    expect(by['left-aileron']).toBeCloseTo(0.5 * 0.6, 6);
    expect(by['right-aileron']).toBeCloseTo(-0.5, 6);
  });

  it('the rudder goes with the ailerons by its share', () => {
    const { by } = answer(turnstone, { roll: 0.5 }, { 'mix.turnRudder': 0.2 });
    expect(by.rudder).toBeCloseTo(-0.1, 6);
  });

  it('never pass their ends', () => {
    fc.assert(
      fc.property(commands, (k) => {
        const c = compileConfig(prepared(turnstone));
        const o = new Outputs(c, 0.001);
        o.step({ ...k, flap: 1, roll: 3 * k.roll }, new BenchMoves(), true);
        c.outputs.forEach((shape, i) => {
          if (shape.role === 'nothing') return;
          expect(o.pulses[i]).toBeGreaterThanOrEqual(shape.lowUs);
          expect(o.pulses[i]).toBeLessThanOrEqual(shape.highUs);
        });
      }),
      { numRuns: 60 },
    );
  });

  it('go slowly where a speed is set, and get there', () => {
    const output = [...Array(9).keys()]
      .map((i) => i + 1)
      .find((n) => prepared(turnstone)[`out.${n}.drives`] === 'elevator')!;
    const c = compileConfig(prepared(turnstone, { [`out.${output}.speed`]: 500 }));
    const o = new Outputs(c, 0.001);
    const k: Command = { roll: 0, pitch: 0, yaw: 0, throttle: 0, flap: 0 };
    const us = () => o.pulses[output - 1]!;
    o.step(k, new BenchMoves(), false);
    const rest = us();
    k.pitch = 1;
    for (let ms = 1; ms <= 200; ms++) {
      o.step(k, new BenchMoves(), false);
      expect(Math.abs(us() - rest)).toBeLessThanOrEqual(0.5 * ms + 1e-6);
    }
    expect(Math.abs(us() - rest)).toBeCloseTo(100, 6);
    for (let ms = 0; ms < 2000; ms++) o.step(k, new BenchMoves(), false);
    const end = c.outputs[output - 1]!;
    expect([end.lowUs, end.highUs]).toContain(us());
  });
});

describe('motors of a twin', () => {
  it('differ with yaw in proportion to the throttle when slow, and never run backwards', () => {
    const at = (throttle: number) => {
      const { by } = answer(turnstone, { throttle, yaw: 1 }, { 'mix.differential': 0.25 });
      return by['left-motor']! - by['right-motor']!;
    };
    expect(at(0)).toBe(0);
    // The left motor gets 0.1 + 0.25 * 0.3, the right one as much less.
    expect(at(0.1)).toBeCloseTo(2 * 0.25 * 0.3, 6);
    expect(at(0.5)).toBeCloseTo(0.5, 6);
    for (const throttle of [0, 0.05, 0.5, 1]) {
      const { by } = answer(turnstone, { throttle, yaw: -1 }, { 'mix.differential': 0.5 });
      expect(Math.min(by['left-motor']!, by['right-motor']!)).toBeGreaterThanOrEqual(0);
      expect(Math.max(by['left-motor']!, by['right-motor']!)).toBeLessThanOrEqual(1);
    }
  });
});

describe('pulses', () => {
  it('change only when their own timer sends, each at its own rate', () => {
    const c = compileConfig(
      prepared(turnstone, { 'timer.2.rate': '200', 'timer.3.rate': '50' }),
      fellF7.pads,
    );
    const o = new Outputs(c, 0.001);
    const changed = c.outputs.map((): number[] => []);
    let before = [...o.pulses];
    for (let step = 0; step < 100; step++) {
      // Other commands in every step, so that each pulse that is sent differs from the one before.
      const turn = 0.005 * step - 0.25;
      o.step({ roll: turn, pitch: turn, yaw: turn, throttle: 0.5, flap: 0 }, new BenchMoves(), true);
      o.pulses.forEach((us, i) => {
        if (us !== before[i]) changed[i]!.push(step);
      });
      before = [...o.pulses];
    }
    const every = (n: number) => Array.from({ length: 100 / n }, (_, k) => k * n);
    const servos = c.outputs.flatMap((x, i) => (x.role === 'nothing' || x.isMotor ? [] : [i]));
    for (const i of servos) expect(changed[i], `output ${i + 1}`).toEqual(every(c.outputs[i]!.everySteps));
    expect(new Set(servos.map((i) => c.outputs[i]!.everySteps))).toEqual(new Set([5, 20]));
  });
});

describe('one output moved on the bench', () => {
  it('moves alone: all other surfaces rest, all other motors stand', () => {
    const c = compileConfig(prepared(turnstone));
    const o = new Outputs(c, 0.001);
    const bench = new BenchMoves();
    bench.allow();
    const output = c.outputs.findIndex((x) => x.role === 'rudder') + 1;
    expect(bench.request(output, 1)).toBe(true);
    o.step({ roll: 1, pitch: 1, yaw: 1, throttle: 1, flap: 1 }, bench, false);
    c.outputs.forEach((shape, i) => {
      if (shape.role === 'nothing') expect(o.pulses[i]).toBe(0);
      else if (shape.isMotor) expect(o.pulses[i]).toBe(shape.lowUs);
      else if (i + 1 === output) expect(o.pulses[i]).toBeGreaterThan(shape.centreUs);
      else expect(o.pulses[i]).toBe(shape.centreUs);
    });
  });
});
