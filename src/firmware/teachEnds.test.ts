import { describe, expect, it } from 'vitest';
import { BenchBoard, shelfFor } from '#bench/benchBoard.ts';
import { BenchWorld } from '#bench/benchWorld.ts';
import { controllerAsItComes } from '#bench/devices/controllers.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { Refused } from '#core/wire/refusals.ts';
import { demoCraft, demoValues, torvholm } from '../testing/demoCraft.ts';

const craft = demoCraft('turnstone');

/** A bench whose left motor's controller was taught other ends elsewhere; driven by pulses, on USB, with leave. */
function bench(change: Values = {}) {
  const settings = { ...demoValues('turnstone'), 'timer.1.sends': 'pulses', 'out.1.high': 1950, ...change };
  const board = BenchBoard.fresh(shelfFor('fell-f7')[0]!, settings);
  const controllers = [{ ...controllerAsItComes('left-motor'), ends: { lowUs: 1150, highUs: 1850 } }];
  const world = new BenchWorld(craft.airframe, { ...craft.bench!, controllers }, board, 3, torvholm);
  world.controls.usb = true;
  let fastest = 0;
  const step = (seconds: number) => {
    for (let k = 0; k < 1000 * seconds; k++) {
      world.step();
      fastest = Math.max(fastest, ...world.plant.motors.map((m) => m.omega));
    }
  };
  step(0.5);
  const { pfad } = world;
  pfad!.controller.bench.allow();
  const start = () => pfad!.procedures.start(1, 'teach-ends', pfad!.controller, world.readings!, {});
  return { world, step, start, report: () => pfad!.procedures.report(1), fastest: () => fastest };
}

const outputs = Object.fromEntries(craft.bench!.pads.map((p) => [p.actuator, p.output]));

describe('ends taught to controllers by pulses', () => {
  it('are taken by each as its output has them, and nothing turns', () => {
    const { world, step, start, report, fastest } = bench();
    expect(start()).toEqual({ run: 1 });
    step(2);
    expect(report().says).toContain('Put the battery in now');
    world.controls.battery = true;
    step(2);
    expect(world.wiring.tones).toBe('one');
    step(2.9);
    expect(world.wiring.tones).toBe('three');
    step(2);
    expect(report()).toMatchObject({ state: 'done', result: { motors: 2 } });
    expect(fastest()).toBeLessThan(1);
    const ends = Object.fromEntries(world.controllers.map((c) => [c.motor, c.ends]));
    const highOf = (motor: string) => (outputs[motor] === 1 ? 1950 : 2000);
    for (const motor of ['left-motor', 'right-motor'])
      expect(ends[motor]).toEqual({ lowUs: 1000, highUs: highOf(motor) });
    // Told to go a little they turn alike now.
    world.pfad!.controller.bench.allow();
    for (const n of [1, 2]) {
      for (let k = 0; k < 10; k++) {
        world.pfad!.controller.bench.request(n, 100 + n);
        step(0.1);
      }
      world.pfad!.controller.bench.stop();
      step(0.3);
    }
    const duty = fastest();
    expect(duty).toBeGreaterThan(50);
  });

  it('are not begun with the battery in, without leave, or where every motor is driven by frames', () => {
    const { world, step, start } = bench();
    world.controls.battery = true;
    step(1);
    world.pfad!.controller.bench.allow();
    expect(start()).toBeInstanceOf(Refused);
    expect(start()).toMatchObject({ code: 'silent' });
    world.controls.battery = false;
    step(1);
    expect(start()).toMatchObject({ code: 'propellers' });
    const framed = bench({ 'timer.1.sends': 'dshot600' });
    expect(framed.start()).toMatchObject({ code: 'no-output' });
  });

  it('leave everything still where the battery comes out in the middle, or never goes in', () => {
    const { world, step, start, report, fastest } = bench();
    start();
    world.controls.battery = true;
    step(1.5);
    world.controls.battery = false;
    step(1);
    expect(report()).toMatchObject({ state: 'failed', code: 'silent' });
    expect(world.pfad!.controller.pulses[0]).toBe(1000);
    world.controls.battery = true;
    step(2);
    expect(fastest()).toBeLessThan(1);
    // What was not taken stands as it did.
    expect(world.controllers.find((c) => c.motor === 'left-motor')?.ends).toEqual({
      lowUs: 1150,
      highUs: 1850,
    });
    const other = bench();
    other.start();
    other.step(61);
    expect(other.report()).toMatchObject({ state: 'failed', code: 'silent' });
    expect(other.world.pfad!.controller.pulses[0]).toBe(1000);
  });

  it('bend what a pulse means: untaught, one motor starts later than the other', () => {
    const { world, step } = bench();
    world.controls.battery = true;
    step(1);
    world.pfad!.controller.bench.allow();
    const reached = [1, 2].map((n) => {
      let most = 0;
      for (let k = 0; k < 12; k++) {
        world.pfad!.controller.bench.request(n, 10 + n);
        step(0.1);
        most = Math.max(most, ...world.plant.motors.map((m) => m.omega));
      }
      world.pfad!.controller.bench.stop();
      step(6);
      return most;
    });
    const [left, right] = outputs['left-motor'] === 1 ? reached : [...reached].reverse();
    expect(left).toBeLessThan(0.2 * right!);
  });
});
