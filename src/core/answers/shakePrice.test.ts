import { describe, expect, it } from 'vitest';
import { prepared } from '../../testing/aloft.ts';
import { avocet, turnstone } from '../airframe/library.ts';
import { hoverOf, supplyUnderLoad } from '../airframe/performance.ts';
import { welch } from '../analysis/spectrum.ts';
import { SEA_LEVEL_DENSITY } from '../flight/atmosphere.ts';
import { MotorUnit } from '../flight/propulsion.ts';
import { Random } from '../math/random.ts';
import { mixRows } from '../mixer/authority.ts';
import { priceOfShake, servoTravel } from './shakePrice.ts';

const RATE = 1000;

/** Noise of a share of full command, through a pole. */
function noise(share: number, cutoffHz: number, seconds: number): Float64Array {
  const random = new Random(5);
  const k = 1 - Math.exp((-2 * Math.PI * cutoffHz) / RATE);
  let y = 0;
  const signal = Float64Array.from({ length: seconds * RATE }, () => {
    y += k * (random.normal() - y);
    return y;
  });
  const rms = Math.sqrt(signal.reduce((sum, x) => sum + x * x, 0) / signal.length);
  return signal.map((x) => (share * x) / rms);
}

const powersOf = (signal: Float64Array) => {
  const { density, stepHz } = welch(signal, RATE, 1024)!;
  return { powers: density.map((d) => d * stepHz), stepHz };
};

describe('what shake wears servos by', () => {
  it.each([
    [5, 0.02],
    [30, 0.02],
    [30, 0.005],
    [200, 0.02],
  ])('is the way that their pulses go: noise up to %d Hz, a pulse every %d s', (cutoffHz, pulseS) => {
    const signal = noise(0.01, cutoffHz, 120);
    const every = Math.round(pulseS * RATE);
    let way = 0;
    for (let k = every; k < signal.length; k += every) way += Math.abs(signal[k]! - signal[k - every]!);
    const { powers, stepHz } = powersOf(signal);
    const said = servoTravel(powers, stepHz, pulseS);
    expect(said / ((way / 2) * (3600 / 120))).toBeCloseTo(1, 1);
  });
});

describe('what shake heats motors by', () => {
  it('is what the winding of the bench’s motor loses more', () => {
    // A line of blades: a shaft is much too heavy for it, and it is small enough that the current never stops.
    const signal = Float64Array.from({ length: 10_000 }, (_, k) => 0.002 * Math.SQRT2 * Math.sin(0.94 * k));
    const values = prepared(avocet);
    const { powers, stepHz } = powersOf(signal);
    const price = priceOfShake(avocet, values, 'roll', powers, stepHz, 0.003);
    if (price.kind !== 'heat') throw new Error('motors are heated');
    const supply = supplyUnderLoad(avocet);
    const duty = hoverOf(avocet).throttle;
    const mix = Math.max(...mixRows(avocet, values).map((r) => Math.abs(r.mix.roll)));
    const lost = (shaken: boolean) => {
      const unit = new MotorUnit(avocet.motors[0]!);
      unit.settle(duty, supply, 0, SEA_LEVEL_DENSITY);
      let sum = 0;
      for (const x of signal) {
        unit.meet(duty + (shaken ? mix * x : 0), supply, 0, SEA_LEVEL_DENSITY);
        unit.step(0.001);
        sum += unit.windingA ** 2 * unit.resistanceOhm;
      }
      return sum / signal.length;
    };
    expect(lost(false) / price.hoverWatts).toBeCloseTo(1, 1);
    expect(price.watts / (lost(true) - lost(false))).toBeCloseTo(1, 1);
  });

  it('is told of rotors only; wings are worn', () => {
    const { powers, stepHz } = powersOf(noise(0.01, 30, 10));
    expect(priceOfShake(turnstone, prepared(turnstone), 'roll', powers, stepHz, 0.02).kind).toBe('wear');
  });
});
