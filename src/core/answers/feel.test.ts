import { describe, expect, it } from 'vitest';
import { pfadCatalogue } from '#firmware/catalogue.ts';
import { aloft, prepared, run } from '../../testing/aloft.ts';
import { avocet, flock, turnstone } from '../airframe/library.ts';
import { stallSpeed } from '../airframe/performance.ts';
import { GRAVITY } from '../math/scalar.ts';
import { carriedSet, type FeelId, feelEdits, feelOf, mostRates } from './feel.ts';

describe('how a craft feels', () => {
  it('of a wing in a turn is what the turn takes', () => {
    const values = prepared(turnstone, { 'level.bank': 60, 'rate.roll.max': 90, 'nav.speed': 18 });
    const feel = feelOf(turnstone, values, 1);
    expect(feel.rollTurnS).toBe(4);
    // Sixty degrees: twice the weight, stalls the root of two faster.
    expect(feel.load).toBeCloseTo(2, 9);
    expect(feel.wing!.stallMps / stallSpeed(turnstone)).toBeCloseTo(Math.SQRT2, 9);
    expect(feel.wing!.radiusM).toBeCloseTo(18 ** 2 / GRAVITY / Math.sqrt(3), 6);
    expect(feel.wing!.circleS * 18).toBeCloseTo(2 * Math.PI * feel.wing!.radiusM, 6);
  });

  it('of rotors: at the lean that holds, full thrust but for what steers carries the weight', () => {
    const f = feelOf(avocet, prepared(avocet), 1).rotors!;
    expect(f.holdsDeg).toBeGreaterThan(40);
    expect(f.holdsDeg).toBeLessThan(80);
    expect(f.fast!.brakesM).toBeGreaterThan(1);
    expect(feelOf(avocet, prepared(avocet, { 'level.bank': 70 }), 1).rotors!.fast).toBeNull();
  });

  it.each(flock.map((a) => [a.name, a] as const))(
    '%s: every feel is within what a board takes and the craft gives',
    (_name, airframe) => {
      const values = prepared(airframe);
      const can = mostRates(airframe);
      for (const id of ['calm', 'learner', 'brisk'] as const)
        for (const set of [1, 2, 3]) {
          const edits = feelEdits(airframe, values, id, set);
          expect(pfadCatalogue.check({ ...values, ...edits })).toEqual([]);
          const feel = feelOf(airframe, { ...values, ...edits }, set);
          if (feel.wing && feel.bankDeg > 10) expect(feel.wing.margin).toBeGreaterThanOrEqual(1.19);
          if (feel.rotors) expect(feel.bankDeg).toBeLessThan(feel.rotors.holdsDeg);
          if (set === 1 && can.roll > 25) expect(edits['rate.roll.max']).toBeLessThanOrEqual(can.roll);
        }
    },
  );

  it('goes from calm to brisk', () => {
    const roll = (id: FeelId) => Number(feelEdits(turnstone, prepared(turnstone), id, 1)['rate.roll.max']);
    expect(roll('calm')).toBeLessThan(roll('learner'));
    expect(roll('learner')).toBeLessThan(roll('brisk'));
  });

  it('is what is flown: a wing at its greatest bank turns in the circle that is said', () => {
    const change = feelEdits(turnstone, prepared(turnstone), 'learner', 1);
    const values = prepared(turnstone, change);
    const f = aloft(turnstone, { change, heightM: 200 });
    run(f, 6);
    f.radio.roll = 1;
    run(f, 3);
    const from = f.pfad.controller.attitude.yaw;
    let [turned, was, seconds, speed] = [0, from, 0, 0];
    while (turned < 2 * Math.PI && seconds < 60) {
      run(f, 0.02);
      seconds += 0.02;
      speed += 0.02 * f.pfad.controller.airspeed;
      const now = f.pfad.controller.attitude.yaw;
      turned += ((now - was + 3 * Math.PI) % (2 * Math.PI)) - Math.PI;
      was = now;
    }
    // As fast as it flew, not as fast as it would cruise.
    const said = feelOf(turnstone, { ...values, 'nav.speed': speed / seconds }, 1).wing!;
    expect(Math.abs(seconds / said.circleS - 1)).toBeLessThan(0.12);
  });

  it('is carried from one set to another whole', () => {
    const values = prepared(turnstone);
    const carried = { ...values, ...carriedSet(values, 3, 1) };
    expect(feelOf(turnstone, carried, 1)).toEqual(feelOf(turnstone, values, 3));
    expect(carried['rate.roll.p']).toBe(values['set.3.rate.roll.p']);
  });
});
