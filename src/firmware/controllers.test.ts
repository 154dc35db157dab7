import { beforeEach, describe, expect, it } from 'vitest';
import { BenchBoard, shelfFor } from '#bench/benchBoard.ts';
import { BenchWorld } from '#bench/benchWorld.ts';
import { controllerAsItComes } from '#bench/devices/controllers.ts';
import { kolkDefaults } from '#core/controllers/kolk.ts';
import type { BenchTruth } from '#core/formats/benchTruth.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { demoCraft, demoValues, torvholm } from '../testing/demoCraft.ts';

const craft = demoCraft('turnstone');
let world: BenchWorld;
let run = 0;

function begin(
  change: Values = { 'timer.1.sends': 'dshot300' },
  controllers: BenchTruth['controllers'] = [],
) {
  const board = BenchBoard.fresh(shelfFor('fell-f7')[0]!, { ...demoValues('turnstone'), ...change });
  world = new BenchWorld(craft.airframe, { ...craft.bench!, controllers }, board, 11, torvholm);
  Object.assign(world.controls, { usb: true, battery: true });
  step(1.5);
  world.pfad!.controller.bench.allow();
}
const step = (seconds: number, each = () => {}) => {
  for (let k = 0; k < seconds * 1000; k++) {
    each();
    world.step();
    if (world.pfad && k % 1000 === 0) world.pfad.controller.bench.allow();
  }
};
const start = (kind: string, asked: Values = {}) =>
  world.pfad!.procedures.start(++run, kind, world.pfad!.controller, world.readings!, asked);
const report = () => world.pfad!.procedures.report(run);
beforeEach(() => begin());

describe('motor controllers through the board', () => {
  it('are read, each with all that stands in it', () => {
    start('controllers-read');
    step(1);
    const { state, result } = report();
    expect(state).toBe('done');
    expect(result).toMatchObject({ '1.state': 'answers', '2.state': 'answers', '1.product': 'Kolk' });
    for (const [key, v] of Object.entries(kolkDefaults)) expect(result[`1.${key}`]).toBe(v);
  });

  it('are written, read back, and keep it over a power cut; what they do not take stays', () => {
    start('controller-write', { output: 1, brake: true, timing: 22, cutoff: 99 });
    step(2);
    expect(report()).toMatchObject({ state: 'done', result: { brake: true, timing: 22, cutoff: 3.2 } });
    world.controls.battery = false;
    step(0.5);
    world.controls.battery = true;
    step(0.5);
    world.pfad!.controller.bench.allow();
    start('controllers-read');
    step(1);
    expect(report().result).toMatchObject({ '1.brake': true, '1.timing': 22, '2.brake': false });
    expect(world.controllers.find((c) => c.settings.brake === true)?.motor).toBe('right-motor');
  });

  it('of which the battery is pulled in the middle: it says that what they hold is not known', () => {
    start('controller-write', { output: 1, brake: true });
    step(0.1);
    world.controls.battery = false;
    step(2);
    expect(report()).toMatchObject({ state: 'failed', says: expect.stringContaining('read it again') });
  });

  it('are not asked without leave, without the battery, or by pulses', () => {
    world.pfad!.controller.bench.withdraw();
    expect(start('controllers-read')).toMatchObject({ code: 'propellers' });
    begin({ 'timer.1.sends': 'pulses' });
    start('controllers-read');
    step(1);
    expect(report().result).toMatchObject({ '1.state': 'pulses', '2.state': 'pulses' });
    expect(start('controller-write', { output: 1, brake: true })).toMatchObject({ code: 'silent' });
    expect(start('controller-write', { output: 5, brake: true })).toMatchObject({ code: 'no-output' });
    begin({ 'timer.1.sends': 'dshot300' }, [{ ...controllerAsItComes('left-motor'), pulsesOnly: true }]);
    start('controllers-read');
    step(1);
    expect(report().result).toMatchObject({ '1.state': 'answers', '2.state': 'silent' });
  });

  it('that brake stop their motor sooner, and those that are reversed push the other way', () => {
    const rundown = (controllers: BenchTruth['controllers']) => {
      begin({}, controllers);
      const unit = world.plant.motors[0]!;
      const id = unit.motor.id;
      unit.omega = 500;
      let s = 0;
      while (unit.omega > 5 && s < 10) {
        world.step();
        s += 0.001;
      }
      return { s, id, sense: world.plant.senses[0]! };
    };
    const free = rundown([]);
    const motor = free.id as BenchTruth['controllers'][number]['motor'];
    const braked = rundown([
      { ...controllerAsItComes(motor), settings: { brake: true, direction: 'reversed' } },
    ]);
    expect(braked.s).toBeLessThan(0.3 * free.s);
    expect(braked.sense).toBe(-free.sense);
  });
});
