import { describe, expect, it } from 'vitest';
import { avocet, turnstone } from '#core/airframe/library.ts';
import { loopOf } from '#core/answers/chain.ts';
import { answerTo, figuresOf } from '#core/answers/stepAnswer.ts';
import { fellF7Model } from '#core/board/boards.ts';
import { fellF7 } from '#core/board/fellF7.ts';
import { truthFromSettings } from '#core/formats/benchTruth.ts';
import { parseScenario } from '#core/formats/scenario.ts';
import { prepared } from '../testing/aloft.ts';
import { torvholm } from '../testing/demoCraft.ts';
import { flyStep } from './stepFlown.ts';

const scenario = parseScenario(
  {
    seed: 4,
    home: torvholm.home,
    wind: { speedMps: 6, fromDeg: 230, gustMps: 1 },
    outbound: { bearingDeg: 50, distanceM: 500, heightM: 120 },
    limitS: 600,
  },
  torvholm,
);
if (!scenario.ok) throw new Error(scenario.why);

describe('a step out of a flight with a stick that is thrown about', () => {
  it.each([
    ['Turnstone about roll', turnstone, 'roll'],
    ['Turnstone about pitch', turnstone, 'pitch'],
    ['Avocet about roll', avocet, 'roll'],
    ['Avocet about pitch', avocet, 'pitch'],
  ] as const)('is the promised one: %s', (_name, airframe, axis) => {
    const values = prepared(airframe);
    const truth = truthFromSettings(airframe, values);
    const input = {
      airframe,
      board: fellF7Model,
      values,
      truth,
      site: torvholm,
      scenario: scenario.scenario,
    };
    const flown = flyStep(input, axis);
    if (flown.kind === 'refused') throw new Error(flown.why);
    const { mean, stepS, windows } = flown.step;
    expect(windows).toBeGreaterThan(15);
    const loop = loopOf(airframe, values, fellF7.pads, axis, flown.speedMps)!;
    const asked = 1.4 * flown.askedRms;
    const said = answerTo(loop, asked, 0, 0.5, 0);
    const promised = figuresOf(said, asked);
    const half = mean.subarray(0, Math.round(0.5 / stepS));
    const logged = figuresOf({ rates: half, commands: half, stepS }, 1);
    // Between two pulses of a servo lie 20 ms, somewhere in which the wish comes.
    expect(Math.abs(logged.delayS - promised.delayS)).toBeLessThan(0.02);
    expect(Math.abs(logged.overshoot - promised.overshoot)).toBeLessThan(0.15);
    expect(Math.abs(logged.reaches - promised.reaches)).toBeLessThan(0.15);
  });

  it('is refused of a craft that does not arm, with the reason', () => {
    const values = { ...prepared(turnstone), 'arm.channel': 0 };
    const truth = truthFromSettings(turnstone, values);
    const input = {
      airframe: turnstone,
      board: fellF7Model,
      values,
      truth,
      site: torvholm,
      scenario: scenario.scenario,
    };
    expect(flyStep(input, 'roll')).toMatchObject({
      kind: 'refused',
      why: expect.stringMatching(/refuses to arm/),
    });
  });
});
