import { describe, expect, it } from 'vitest';
import type { Airframe } from '#core/airframe/airframe.ts';
import { avocet, turnstone } from '#core/airframe/library.ts';
import { shaftHz } from '#core/airframe/shaftSpeed.ts';
import { linesOf, rmsWithin } from '#core/analysis/spectrum.ts';
import { middleOf, throttleSpectra } from '#core/analysis/throttleSpectra.ts';
import { loopOf } from '#core/answers/chain.ts';
import { commandShake, SHAKE_FROM_HZ } from '#core/answers/filterChoice.ts';
import { fellF7Model } from '#core/board/boards.ts';
import { fellF7 } from '#core/board/fellF7.ts';
import { type FilterSet, filtersOf, GyroFilter } from '#core/control/gyroFilter.ts';
import { truthFromSettings } from '#core/formats/benchTruth.ts';
import { aloft, prepared, run } from '../testing/aloft.ts';
import { torvholm } from '../testing/demoCraft.ts';
import { overHome } from '../testing/overHome.ts';
import { flyThrottles } from './shakeFlown.ts';

const scenario = overHome(2, 230, 0.5);
const input = (airframe: Airframe, change = {}) => {
  const values = { ...prepared(airframe), ...change };
  const truth = truthFromSettings(airframe, values);
  return { airframe, board: fellF7Model, values, truth, site: torvholm, scenario: scenario };
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

  it.each([
    ['as it is prepared', {}],
    [
      'two notches in step with its propellers, and two poles',
      { 'gyro.notchHarmonics': 2, 'gyro.notchPower': 0.8, 'gyro.poles': 2 },
    ],
    ['no notch', { 'gyro.notch': 0 }],
  ] as const)('moves the motors by what is worked out from its gyro, with %s', (_name, change) => {
    const f = aloft(avocet, { change, heightM: 200 });
    const values = prepared(avocet, change);
    const middle = Number(values['hover.throttle']);
    run(f, 4);
    const steps = 40_000;
    const [gyro, moved, throttle] = [0, 1, 2].map(() => new Float64Array(steps)) as [
      Float64Array,
      Float64Array,
      Float64Array,
    ];
    let k = 0;
    run(f, steps / 1000, () => {
      f.radio.throttle = middle + 0.25 * Math.sin((2 * Math.PI * k) / 6000);
      gyro[k] = f.devices.readings.imus[0].gyro[0]!;
      moved[k] = f.pfad.controller.command.roll;
      throttle[k++] = f.pfad.controller.command.throttle;
    });
    const spectra = throttleSpectra([{ signal: gyro, throttle }], 1000, 20);
    const loop = loopOf(avocet, values, fellF7.pads, 'roll', 0)!;
    const said = commandShake(spectra, filtersOf(values), middle, loop);
    const real = throttleSpectra([{ signal: moved, throttle }], 1000, 20).bands;
    const compared = real.flatMap((band, b) =>
      band && band.windows > 12 ? [said[b]! / rmsWithin(band, SHAKE_FROM_HZ, 500)] : [],
    );
    expect(compared.length).toBeGreaterThan(5);
    for (const ratio of compared) {
      expect(ratio).toBeGreaterThan(0.75);
      // Within a band of throttle a notch goes along with its line; worked out it stands at the middle, and rather too much is said.
      expect(ratio).toBeLessThan('gyro.poles' in change ? 1.45 : 1.25);
    }
  });

  it('is refused of a craft that does not arm, with the reason', () => {
    expect(flyThrottles(input(turnstone, { 'arm.channel': 0 }))).toEqual({
      refused: expect.stringMatching(/refuses to arm/),
    });
  });
});

describe('notches that look for lines themselves', () => {
  it.each([
    ['Avocet', avocet],
    ['Turnstone', turnstone],
  ] as const)('take most of what propellers shake, over all throttles: %s', (_name, airframe) => {
    const flown = flyThrottles(input(airframe));
    if ('refused' in flown) throw new Error(flown.refused);
    const { gyro, throttle, rateHz } = flown;
    /** What is left beyond 60 Hz behind these filters, root mean square. */
    const left = (change: Partial<FilterSet>) => {
      const filter = new GyroFilter(
        { ...filtersOf(prepared(airframe)), notchHz: 0, ...change },
        0,
        1 / rateHz,
      );
      const passed = gyro[0].map((w, k) => {
        if (k % 20 === 0) filter.follow();
        return filter.step(w);
      });
      const spectra = throttleSpectra([{ signal: passed, throttle }], rateHz, 10);
      const powers = spectra.bands.flatMap((b) => (b ? [rmsWithin(b, 60, 400) ** 2] : []));
      return Math.sqrt(powers.reduce((sum, p) => sum + p, 0) / powers.length);
    };
    const [none, one, two] = [0, 1, 2].map((track) => left({ track }));
    expect(one! / none!).toBeLessThan(0.75);
    expect(two! / none!).toBeLessThan(0.6);
  });
});
