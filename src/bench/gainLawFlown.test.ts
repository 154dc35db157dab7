import { describe, expect, it } from 'vitest';
import type { Airframe } from '#core/airframe/airframe.ts';
import { avocet, turnstone } from '#core/airframe/library.ts';
import { solveGainLaw } from '#core/answers/gainSchedule.ts';
import { figuresOf } from '#core/answers/stepAnswer.ts';
import { fellF7Model } from '#core/board/boards.ts';
import { fellF7 } from '#core/board/fellF7.ts';
import { truthFromSettings } from '#core/formats/benchTruth.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { aloft, prepared, run } from '../testing/aloft.ts';
import { torvholm } from '../testing/demoCraft.ts';
import { overHome } from '../testing/overHome.ts';
import { flyStep } from './stepFlown.ts';

const scenario = overHome(0, 230, 0);

/** How it answered in the bench. */
function flown(airframe: Airframe, values: Values, batteryShare?: number) {
  const truth = truthFromSettings(airframe, values);
  const at = { ...scenario, ...(batteryShare === undefined ? {} : { batteryShare }) };
  const told = flyStep({ airframe, board: fellF7Model, values, truth, site: torvholm, scenario: at }, 'roll');
  if ('refused' in told) throw new Error(told.refused);
  const { mean, stepS } = told.step;
  const half = mean.subarray(0, Math.round(0.5 / stepS));
  return { ...figuresOf({ rates: half, commands: half, stepS }, 1), agrees: told.why?.agrees };
}

describe('gains that go by the voltage', () => {
  it('answer by a battery that is nearly empty as they did by a full one', () => {
    const plain = prepared(avocet, { 'battery.emptyAction': 'say', 'battery.lowAction': 'say' });
    const law = { ...plain, ...solveGainLaw(avocet, plain, fellF7.pads, 'throttle'), 'rate.by': 'nothing' };
    const delay = (values: Values, share: number) => flown(avocet, values, share).delayS;
    const later = (values: Values) => delay(values, 0.12) / delay(values, 1);
    // Without it a fifth later.
    expect(later(plain)).toBeGreaterThan(1.15);
    expect(Math.abs(later(law) - 1)).toBeLessThan(0.1);
  });
});

describe('gains that go by the throttle', () => {
  it('answer in level flight as the model says', () => {
    const plain = prepared(turnstone);
    const values = { ...plain, ...solveGainLaw(turnstone, plain, fellF7.pads, 'throttle') };
    expect(flown(turnstone, values)).toMatchObject({ agrees: true });
  });

  it('follow it late, as the speed does, and stand as written on the ground', () => {
    const change = { 'rate.by': 'throttle', 'rate.power': 2, 'rate.throttleLag': 4, 'rate.lowest': 0.3 };
    const f = aloft(turnstone, { change });
    const gain = () => f.pfad.controller.loops.gainBy;
    f.radio.throttle = f.pfad.controller.config.energy.cruiseThrottle;
    run(f, 20);
    expect(gain()).toBeCloseTo(1, 1);
    f.radio.throttle = 1;
    const full = f.pfad.controller.config.energy.cruiseThrottle ** 2;
    run(f, 4.3);
    const after = gain();
    expect(after).toBeLessThan(0.7);
    expect(after).toBeGreaterThan(1.2 * full);
    run(f, 16);
    expect(gain()).toBeCloseTo(full, 1);
  });
});
