import { describe, expect, it } from 'vitest';
import type { Airframe } from '#core/airframe/airframe.ts';
import { avocet, turnstone } from '#core/airframe/library.ts';
import { shaftHz } from '#core/airframe/shaftSpeed.ts';
import { linesOf } from '#core/analysis/spectrum.ts';
import { middleOf, throttleSpectra } from '#core/analysis/throttleSpectra.ts';
import { fellF7Model } from '#core/board/boards.ts';
import { truthFromSettings } from '#core/formats/benchTruth.ts';
import { parseScenario } from '#core/formats/scenario.ts';
import { prepared } from '../testing/aloft.ts';
import { torvholm } from '../testing/demoCraft.ts';
import { flyThrottles } from './shakeFlown.ts';

const scenario = parseScenario(
  {
    seed: 4,
    home: torvholm.home,
    wind: { speedMps: 2, fromDeg: 230, gustMps: 0.5 },
    outbound: { bearingDeg: 50, distanceM: 500, heightM: 120 },
    limitS: 600,
  },
  torvholm,
);
if (!scenario.ok) throw new Error(scenario.why);
const input = (airframe: Airframe, change = {}) => {
  const values = { ...prepared(airframe), ...change };
  const truth = truthFromSettings(airframe, values);
  return { airframe, board: fellF7Model, values, truth, site: torvholm, scenario: scenario.scenario };
};

describe('a flight over all throttles', () => {
  it.each([
    ['Turnstone', turnstone, 15.5, 12],
    ['Avocet', avocet, 0, 7],
  ] as const)(
    'shakes as often as its propellers turn, at each of them: %s',
    (_name, airframe, speedMps, least) => {
      const flown = flyThrottles(input(airframe));
      if ('refused' in flown) throw new Error(flown.refused);
      const { gyro, throttle, rateHz } = flown;
      expect(throttle.length / rateHz).toBeGreaterThan(60);
      const { bands } = throttleSpectra([{ signal: gyro[0], throttle }], rateHz, 20);
      let compared = 0;
      bands.forEach((band, k) => {
        const at = middleOf(k, bands.length);
        if (!band || at < 0.35) return;
        const [line] = linesOf(band, 1, 25);
        // The pack is fuller than half way, and faster air turns a propeller faster.
        expect(Math.abs(line!.hz / shaftHz(airframe, at, speedMps) - 1), `${at}`).toBeLessThan(0.2);
        compared++;
      });
      expect(compared).toBeGreaterThanOrEqual(least);
    },
  );

  it('is refused of a craft that does not arm, with the reason', () => {
    expect(flyThrottles(input(turnstone, { 'arm.channel': 0 }))).toEqual({
      refused: expect.stringMatching(/refuses to arm/),
    });
  });
});
