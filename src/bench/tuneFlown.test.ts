import { describe, expect, it } from 'vitest';
import { type Airframe, isRotorcraft } from '#core/airframe/airframe.ts';
import { flock, turnstone } from '#core/airframe/library.ts';
import { stateOf } from '#core/answers/answers.ts';
import { marginOf } from '#core/answers/margin.ts';
import { fellF7Model } from '#core/board/boards.ts';
import { truthFromSettings } from '#core/formats/benchTruth.ts';
import { DEG } from '#core/math/scalar.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { FlightController } from '#firmware/flightController.ts';
import { aloft, prepared, run } from '../testing/aloft.ts';
import { torvholm } from '../testing/demoCraft.ts';
import { overHome } from '../testing/overHome.ts';
import { flyTune, modelOfFlown } from './tuneFlown.ts';

const scenario = overHome(3, 0, 0.5);

function flown(airframe: Airframe, values: Values) {
  const truth = truthFromSettings(airframe, values);
  const input = { airframe, board: fellF7Model, values, truth, site: torvholm, scenario };
  const told = flyTune(input);
  if ('refused' in told) throw new Error(told.refused);
  return { ...told, model: (axis: 'roll' | 'pitch') => modelOfFlown(input, told, axis)! };
}

describe('gains found in flight', () => {
  it.each(flock.map((a) => [a.name, a] as const))(
    'are near those of the model, and hold: %s',
    (_name, airframe) => {
      const values = prepared(airframe);
      const rotors = isRotorcraft(airframe);
      const f = flown(airframe, values);
      expect(f.seconds).toBeLessThan(26);
      expect(Math.max(...f.bank.map(Math.abs))).toBeLessThan(30 * DEG);
      expect(Math.min(...f.height)).toBeGreaterThan(-12);
      for (const axis of ['roll', 'pitch'] as const) {
        const g = f.found[axis]!;
        const { loop, p } = f.model(axis);
        expect(g.of.explained, axis).toBeGreaterThan(0.97);
        // What a command turns, by the model: of rotors once their shafts have followed.
        const [own, behind] = loop.model.byCommand;
        const turns = rotors ? own! - behind! / loop.model.motorPole : own!;
        expect(Math.abs(g.of.turns / turns - 1), axis).toBeLessThan(0.15);
        expect(Math.abs(g.gains.proportional / p - 1), axis).toBeLessThan(0.2);
        expect(stateOf(marginOf({ ...loop, gains: g.gains })), axis).toBe('well');
        // Of rotors nothing is told of the feed-forward.
        if (rotors) expect(g.gains.feedForward).toBe(values[`rate.${axis}.forward`]);
      }
    },
  );

  it('come to the same from gains that are half and twice as large', () => {
    const of = (times: number) => {
      const plain = prepared(turnstone);
      const keys = ['p', 'i', 'd'].map((part) => `rate.roll.${part}`);
      const set = Object.fromEntries(keys.map((k) => [k, times * (plain[k] as number)]));
      return flown(turnstone, { ...plain, ...set }).found.roll!.gains.proportional;
    };
    expect(Math.abs(of(0.5) / of(2) - 1)).toBeLessThan(0.25);
  });
});

describe('the switch', () => {
  const change = { 'tune.channel': 8, 'tune.axes': 'roll' };

  it('is waited with where it may not turn, and stops at once where it goes back', () => {
    const f = aloft(turnstone, { change, heightM: 20 });
    const { controller } = f.pfad;
    f.radio.switchChannel = 8;
    f.radio.switchUs = 2000;
    run(f, 1);
    expect(controller.tune.state).toBe('waits');
    const g = aloft(turnstone, { change, heightM: 150 });
    g.radio.switchChannel = 8;
    g.radio.switchUs = 2000;
    g.radio.throttle = 0.5;
    run(g, 3);
    expect(g.pfad.controller.tune.state).toBe('roll');
    g.radio.switchUs = 1000;
    run(g, 0.1);
    expect(g.pfad.controller.tune.state).toBe('off');
    expect(g.pfad.controller.demand.addRoll).toBe(0);
    expect(g.pfad.controller.tune.found.roll).toBeNull();
  });

  it('flies what was found until it is disarmed, and writes nothing', () => {
    const f = aloft(turnstone, { change, heightM: 250 });
    const { controller } = f.pfad;
    const was = controller.loops.set.roll.proportional;
    f.radio.switchChannel = 8;
    f.radio.switchUs = 2000;
    f.radio.throttle = 0.55;
    run(f, 15);
    const found = controller.tune.found.roll!.gains.proportional;
    expect(controller.tune.state).toBe('done');
    expect(controller.loops.set.roll.proportional).toBe(found);
    expect(found).not.toBe(was);
    expect(f.pfad.values['rate.roll.p']).toBe(was);
    f.radio.arm = false;
    run(f, 1);
    expect(controller.loops.set.roll.proportional).toBe(was);
    expect(controller.tune.found.roll!.gains.proportional).toBe(found);
    // Another setting is written: what was found is still told.
    const next = new FlightController(controller.config, 0.001, controller);
    expect(next.tune.found.roll!.gains.proportional).toBe(found);
  });
});
