import { describe, expect, it } from 'vitest';
import { turnstone } from '#core/airframe/library.ts';
import { gyroFilters, throughAll } from '#core/answers/chain.ts';
import { fellF7 } from '#core/board/fellF7.ts';
import { angleOf, complex, over, sizeOf } from '#core/math/complex.ts';
import { wrapPi } from '#core/math/scalar.ts';
import { prepared } from '../testing/aloft.ts';
import { compileConfig } from './config.ts';
import { Readings } from './readings.ts';
import { Sensing } from './sensing.ts';

/** Speeds that motor controllers tell, rpm; none where empty. */
const silent: readonly number[] = [];

/** Swings the gyro that the board reads, and compares what reaches its loops once it has settled, by correlation over whole swings. */
function injected(change: object, hz: number, rpm = silent) {
  const values = prepared(turnstone, { 'gyro.notchFollows': false, ...change });
  const config = compileConfig(values, fellF7.pads);
  const sensing = new Sensing(config, 0.001);
  const readings = new Readings();
  const motors = config.outputs.flatMap((o, i) => (o.isMotor ? [i + 1] : []));
  readings.controllers = rpm.map((speed, i) => controller(motors[i]!, speed));
  let [re, im, inRe, inIm] = [0, 0, 0, 0];
  for (let k = 0; k < 3000; k++) {
    const turn = 2 * Math.PI * hz * k * 0.001;
    readings.imus[0].gyro[0] = Math.sin(turn);
    readings.imus[0].accel[2] = -9.81;
    readings.imus[0].samples++;
    sensing.step(readings);
    if (k < 1000) continue;
    const came = sensing.attitude.rates[0]!;
    re += came * Math.cos(turn);
    im -= came * Math.sin(turn);
    inRe += Math.sin(turn) * Math.cos(turn);
    inIm -= Math.sin(turn) ** 2;
  }
  return { measured: over(complex(re, im), complex(inRe, inIm)), told: throughAll(gyroFilters(values), hz) };
}

const controller = (output: number, rpm: number) =>
  ({ output, tells: true, told: { rpm, degC: 20, amps: 1 } }) as unknown as Readings['controllers'][number];

describe('notches that go by what motor controllers tell', () => {
  const told = { 'gyro.notch': 60, 'gyro.notchTold': true, 'gyro.notchQ': 2, 'timer.1.sends': 'dshot600' };
  const taken = (hz: number, change: object, rpm: readonly number[]) =>
    20 * Math.log10(sizeOf(injected(change, hz, rpm).measured));

  it('are where the motors turn, the mean of them, and at its multiples', () => {
    expect(taken(150, told, [9600, 8400])).toBeLessThan(-30);
    expect(taken(60, told, [9600, 8400])).toBeGreaterThan(-6);
    expect(taken(300, { ...told, 'gyro.notchHarmonics': 2 }, [9600, 8400])).toBeLessThan(-25);
  });

  it('are where they would be without, where nothing is told or the motors stand', () => {
    for (const rpm of [[], [0, 300]]) expect(taken(60, told, rpm)).toBeLessThan(-30);
    // Pulses bring nothing back.
    expect(taken(60, { ...told, 'timer.1.sends': 'pulses' }, [9600, 8400])).toBeLessThan(-30);
  });
});

describe('notches that look for lines themselves', () => {
  it('take what shakes, wherever it is, and nothing where nothing does', () => {
    const track = { 'gyro.notch': 0, 'gyro.track': 2 };
    for (const hz of [90, 170, 290])
      expect(
        sizeOf(injected(track, hz).measured) / sizeOf(injected({ 'gyro.notch': 0 }, hz).measured),
      ).toBeLessThan(0.12);
    // A craft that swings ten times a second is no shake.
    expect(
      sizeOf(injected(track, 10).measured) / sizeOf(injected({ 'gyro.notch': 0 }, 10).measured),
    ).toBeGreaterThan(0.97);
    // Beyond its span it takes nothing.
    const low = { ...track, 'gyro.trackTo': 150 };
    expect(
      sizeOf(injected(low, 290).measured) / sizeOf(injected({ 'gyro.notch': 0 }, 290).measured),
    ).toBeGreaterThan(0.7);
  });
});

describe('the gyro chain of the board', () => {
  it.each([
    ['both filters', {}, 5],
    ['both filters', {}, 40],
    ['both filters', {}, 90],
    ['both filters', {}, 200],
    ['the low-pass alone', { 'gyro.notch': 0 }, 60],
    ['three poles', { 'gyro.poles': 3, 'gyro.notch': 0 }, 60],
    ['notches at multiples', { 'gyro.notch': 60, 'gyro.notchHarmonics': 3 }, 100],
    ['notches at multiples', { 'gyro.notch': 60, 'gyro.notchHarmonics': 3 }, 170],
    ['one of the second order', { 'gyro.kind': 'biquad', 'gyro.notch': 0 }, 60],
    ['one of the second order', { 'gyro.kind': 'biquad', 'gyro.notch': 0 }, 170],
    ['a second low-pass behind it', { 'gyro.cutoff2': 120, 'gyro.notch': 0 }, 100],
    ['a narrow notch', { 'gyro.notch': 113, 'gyro.notchQ': 4 }, 100],
  ])('measured by swinging its gyro is what is told, with %s (%j) at %d Hz', (_name, change, hz) => {
    const { measured, told } = injected(change, hz);
    expect(Math.abs(sizeOf(measured) / sizeOf(told) - 1)).toBeLessThan(0.01);
    expect(Math.abs(wrapPi(angleOf(measured) - angleOf(told)))).toBeLessThan(0.01);
  });
});
