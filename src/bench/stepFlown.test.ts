import { describe, expect, it } from 'vitest';
import type { Airframe } from '#core/airframe/airframe.ts';
import { avocet, knot, sandpiper, turnstone } from '#core/airframe/library.ts';
import { describedPlay, loopOf } from '#core/answers/chain.ts';
import { whyRatesOther } from '#core/answers/loggedAnswer.ts';
import { answerTo, figuresOf } from '#core/answers/stepAnswer.ts';
import { fellF7Model } from '#core/board/boards.ts';
import { fellF7 } from '#core/board/fellF7.ts';
import { type BenchTruth, truthFromSettings } from '#core/formats/benchTruth.ts';
import { DEG } from '#core/math/scalar.ts';
import { builtAs } from '#core/mixer/throws.ts';
import { prepared } from '../testing/aloft.ts';
import { torvholm } from '../testing/demoCraft.ts';
import { overHome } from '../testing/overHome.ts';
import { flyStep, THROWN_HZ, throwAbout } from './stepFlown.ts';

type BuiltLinkage = ReturnType<typeof builtAs>;

const scenario = overHome(6, 230, 1);

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
      scenario: scenario,
    };
    const flown = flyStep(input, axis);
    if ('refused' in flown) throw new Error(flown.refused);
    expect(flown.why).toMatchObject({ agrees: true });
    const { mean, stepS, windows } = flown.step;
    expect(windows).toBeGreaterThan(15);
    const loop = loopOf(airframe, values, fellF7.pads, axis, flown.speedMps)!;
    const asked = flown.askedSize;
    const said = answerTo(loop, asked, 0, 0.5, 0);
    const promised = figuresOf(said, asked);
    const half = mean.subarray(0, Math.round(0.5 / stepS));
    const logged = figuresOf({ rates: half, commands: half, stepS }, 1);
    // Between two pulses of a servo lie 20 ms, somewhere in which the wish comes.
    expect(Math.abs(logged.delayS - promised.delayS)).toBeLessThan(0.02);
    expect(Math.abs(logged.overshoot - promised.overshoot)).toBeLessThan(0.15);
    // What is loose takes more of its small moves.
    expect(Math.abs(logged.reaches - promised.reaches)).toBeLessThan(0.2);
  });

  it.each([
    ['Avocet about roll', avocet, 'roll', 2.65],
    ['Avocet about pitch', avocet, 'pitch', 0.5],
    ['Sandpiper about roll', sandpiper, 'roll', 2],
    ['Knot about pitch', knot, 'pitch', 2],
  ] as const)('is taken for the promised one at other gains too: %s', (_name, airframe, axis, times) => {
    const plain = prepared(airframe);
    const gains = ['p', 'i', 'd'].map((part) => `rate.${axis}.${part}`);
    const values = { ...plain, ...Object.fromEntries(gains.map((key) => [key, times * Number(plain[key])])) };
    const truth = truthFromSettings(airframe, values);
    const flown = flyStep({ airframe, board: fellF7Model, values, truth, site: torvholm, scenario }, axis);
    if ('refused' in flown) throw new Error(flown.refused);
    expect(flown.why).toMatchObject({ agrees: true });
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
      scenario: scenario,
    };
    expect(flyStep(input, 'roll')).toEqual({ refused: expect.stringMatching(/refuses to arm/) });
  });
});

describe('a craft that is not as it is described', () => {
  const linkages = (airframe: Airframe, change: (l: BuiltLinkage) => Partial<BuiltLinkage>) =>
    airframe.surfaces.map((s) => ({ ...builtAs(s), ...change(builtAs(s)) }));
  const servos = (airframe: Airframe, degPerS: number): Airframe => ({
    ...airframe,
    surfaces: airframe.surfaces.map((s) => {
      const horn = Math.sin(45 * DEG) / Math.sin(s.throwDeg * DEG);
      const usual = {
        servoSpeedDegPerS: 500,
        servoTravelDeg: 45,
        slopDeg: 0.3,
        armMm: 10,
        hornMm: 10 * horn,
      };
      return { ...s, linkage: { ...usual, ...s.linkage, servoSpeedDegPerS: degPerS } };
    }),
  });
  /** Flown as `built`, by the settings of `airframe` as it is described, and compared with that. */
  function flownAs(airframe: Airframe, axis: 'roll' | 'pitch', built: Partial<BenchTruth>, real = airframe) {
    const values = prepared(airframe);
    const input = {
      airframe: real,
      board: fellF7Model,
      values,
      truth: { ...truthFromSettings(airframe, values), ...built },
      site: torvholm,
      scenario,
    };
    const flown = throwAbout(input, axis);
    if ('refused' in flown) throw new Error(flown.refused);
    const rates = { stretches: [flown], rateHz: THROWN_HZ };
    return whyRatesOther({ airframe, values, pads: fellF7.pads }, axis, flown.speedMps, rates)!;
  }

  it.each([
    ['Turnstone', turnstone, 'pitch'],
    ['Knot', knot, 'roll'],
  ] as const)('shows three degrees of play: %s', (_name, airframe, axis) => {
    const why = flownAs(airframe, axis, { linkages: linkages(airframe, () => ({ playDeg: 3 })) });
    expect(why.agrees).toBe(false);
    expect(why.causes.map((c) => c.kind)).toEqual(['play']);
    // As an angle, beside what is described.
    const { deg, share } = describedPlay(airframe, prepared(airframe), axis)!;
    expect(Math.abs((deg * (share + why.causes[0]!.size)) / share - 3)).toBeLessThan(0.9);
  });

  it.each([
    ['Turnstone', turnstone, 'roll'],
    ['Sandpiper', sandpiper, 'pitch'],
  ] as const)('shows servos at a fifth of their speed: %s', (_name, airframe, axis) => {
    const usual = servos(airframe, 500);
    const why = flownAs(usual, axis, {}, servos(airframe, 100));
    expect(why.causes.map((c) => c.kind)).toEqual(['servo']);
    expect(Math.abs(why.causes[0]!.size / 0.2 - 1)).toBeLessThan(0.25);
  });

  it.each([
    ['Turnstone', turnstone, 'roll'],
    ['Sandpiper', sandpiper, 'roll'],
    ['Knot', knot, 'pitch'],
  ] as const)('shows rods that move its surfaces six tenths as far: %s', (_name, airframe, axis) => {
    const short = linkages(airframe, (l) => ({ hornMm: l.hornMm / 0.6, rodMm: l.rodMm }));
    const why = flownAs(airframe, axis, { linkages: short });
    expect(why.causes.map((c) => c.kind)).toEqual(['throw']);
    expect(Math.abs(why.causes[0]!.size / 0.6 - 1)).toBeLessThan(0.2);
  });
});
