import { describe, expect, it } from 'vitest';
import { avocet, turnstone } from '#core/airframe/library.ts';
import { aloft, prepared, run } from '../testing/aloft.ts';
import { compileConfig } from './config.ts';
import { Dials } from './dials.ts';

const on = { 'dial.1.channel': 11, 'dial.1.moves': 'roll', 'dial.1.span': 2 };

describe('dials on the board', () => {
  it('multiply what is written in all control sets, and nothing else', () => {
    const values = prepared(turnstone, { ...on, 'set.2.rate.roll.p': 0.2 });
    const [c, as] = [compileConfig(values), compileConfig(values)];
    const dials = new Dials(c);
    const channels = new Float64Array(16).fill(1500);
    dials.step(channels);
    expect(c).toEqual(as);
    channels[10] = 1750;
    dials.step(channels);
    const by = Math.SQRT2;
    expect(c.sets[0]!.roll.proportional).toBeCloseTo(by * as.sets[0]!.roll.proportional, 10);
    expect(c.sets[1]!.roll.proportional).toBeCloseTo(by * 0.2, 10);
    expect(c.sets[0]!.roll.feedForward).toBe(as.sets[0]!.roll.feedForward);
    expect(c.sets[0]!.pitch).toEqual(as.sets[0]!.pitch);
    expect(dials.times[0]).toBeCloseTo(by, 10);
    expect(dials.said).toBe('P, I and D of roll at 1.41 times what is written');
    // A receiver that says nothing yet moves nothing.
    channels[10] = 0;
    dials.step(channels);
    expect(dials.times[0]).toBeCloseTo(by, 10);
  });

  it('move times, heights and places as well', () => {
    for (const [airframe, key, of] of [
      [turnstone, 'level.time', (c: ReturnType<typeof compileConfig>) => c.sets[0]!.levelTime],
      [turnstone, 'nav.heightTime', (c: ReturnType<typeof compileConfig>) => c.energy.heightTime],
      [turnstone, 'nav.period', (c: ReturnType<typeof compileConfig>) => c.period],
      [avocet, 'hover.positionP', (c: ReturnType<typeof compileConfig>) => c.hover.positionP],
    ] as const) {
      const c = compileConfig(prepared(airframe, { ...on, 'dial.1.moves': key }));
      const before = of(c);
      const channels = new Float64Array(16).fill(1500);
      channels[10] = 2000;
      new Dials(c).step(channels);
      expect(of(c), key).toBeCloseTo(2 * before, 10);
    }
  });

  it('are flown by, stay where they are when the link is lost, and are told of once it is disarmed', () => {
    const f = aloft(turnstone, { change: { ...on, 'lost.action': 'glide' } });
    const { controller } = f.pfad;
    const p = controller.loops.set.roll.proportional;
    f.radio.switchChannel = 11;
    f.radio.switchUs = 2000;
    run(f, 0.5);
    expect(controller.loops.set.roll.proportional).toBeCloseTo(2 * p, 3);
    f.radio.switchUs = 1000;
    f.radio.on = false;
    run(f, 5);
    expect(controller.loops.set.roll.proportional).toBeCloseTo(2 * p, 3);
    const said: string[] = [];
    controller.journal.onDecision = (d) => said.push(d.text);
    // It is disarmed by the same frame that brings the link back.
    f.radio.switchUs = 2000;
    f.radio.on = true;
    f.radio.arm = false;
    run(f, 3);
    f.radio.switchUs = 1000;
    run(f, 1);
    expect(controller.armed).toBe(false);
    expect(said).toContainEqual(
      expect.stringMatching(/^Dials stand off their middle: P, I and D of roll at 2\.00 times/),
    );
    expect(controller.dials.times[0]).toBeCloseTo(0.5, 2);
    expect(f.pfad.values['rate.roll.p']).toBeCloseTo(p, 10);
  });
});
