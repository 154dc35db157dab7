import { describe, expect, it } from 'vitest';
import type { Airframe } from '#core/airframe/airframe.ts';
import { avocet, dunlin, ruff, sandpiper, turnstone } from '#core/airframe/library.ts';
import { dayFromField } from '#core/flight/atmosphere.ts';
import { DEG } from '#core/math/scalar.ts';
import { aloft, run } from '../testing/aloft.ts';
import type { FlyingCraft } from './flyingCraft.ts';
import { tiltBetween } from './judge/evidence.ts';

const windy = { speedMps: 9, fromDeg: 230, gustMps: 2 };

/** Root mean square of the attitude's error, rad, and the share of moments in which it lay inside its stated bound. */
function watch(f: FlyingCraft, seconds: number, sticks: (f: FlyingCraft, t: number) => void) {
  f.radio.attitude = 1;
  run(f, 5);
  let sum = 0;
  let inside = 0;
  let n = 0;
  let k = 0;
  run(f, seconds, () => {
    if (k % 20 === 0) sticks(f, k / 1000);
    if (k++ % 100 !== 0) return;
    const { attitude } = f.pfad.controller;
    const off = tiltBetween(f.plant.attitude, attitude.attitude);
    sum += off * off;
    if (off < attitude.estimate.accuracy) inside++;
    n++;
  });
  return { rms: Math.sqrt(sum / n), inside: inside / n };
}

/** Keeps a craft with rotors near 300 m while its sticks do something else. */
function keepHeight(f: FlyingCraft): void {
  const { hover } = f.pfad.controller.config;
  const wanted = hover.throttle * 1.15 + 0.02 * (300 - f.aboveGround) + 0.03 * f.plant.velocity[2]!;
  f.radio.throttle = Math.max(0, Math.min(1, wanted));
}

const flights: readonly (readonly [string, Airframe, (f: FlyingCraft, t: number) => void])[] = [
  ...[avocet, ruff].flatMap((a) => [
    [
      `${a.name} at full tilt for a minute`,
      a,
      (f: FlyingCraft) => {
        f.radio.pitch = -1;
        keepHeight(f);
      },
    ] as const,
    [
      `${a.name} thrown about`,
      a,
      (f: FlyingCraft, t: number) => {
        f.radio.pitch = Math.sin(0.7 * t);
        f.radio.roll = Math.cos(0.5 * t);
        keepHeight(f);
      },
    ] as const,
  ]),
  ...[turnstone, dunlin, sandpiper].flatMap((a) => [
    [
      `${a.name} in a turn`,
      a,
      (f: FlyingCraft) => {
        f.radio.roll = 0.7;
        f.radio.pitch = 0.15;
      },
    ] as const,
    [
      `${a.name} in a slipping turn`,
      a,
      (f: FlyingCraft) => {
        f.radio.roll = 0.6;
        f.radio.yaw = -0.9;
        f.radio.pitch = 0.15;
      },
    ] as const,
  ]),
];

describe('the attitude the board believes', () => {
  it.each(flights)('%s is within 5 degrees, and its own bound holds', (_, airframe, sticks) => {
    const f = aloft(airframe, { wind: windy, heightM: 300 });
    const { rms, inside } = watch(f, 60, sticks);
    expect(rms / DEG).toBeLessThan(5);
    expect(inside).toBeGreaterThan(0.95);
  });

  it('is not turned by shake: four times as much unbalance tilts it by less than a degree more', () => {
    const tilt = (times: number) => {
      const f = aloft(avocet, { heightM: 300 });
      const imu = (f.devices as unknown as { imus: { unbalance: Float64Array }[] }).imus[0]!;
      for (let i = 0; i < imu.unbalance.length; i++) imu.unbalance[i]! *= times;
      return watch(f, 30, keepHeight).rms / DEG;
    };
    expect(tilt(4) - tilt(1)).toBeLessThan(1);
  });
});

describe('airspeed', () => {
  it('is indicated at the tube and true by the pressure around: thin air lets it fly faster', () => {
    const f = aloft(turnstone, { heightM: 300 });
    run(f, 20);
    const low = f.pfad.controller.sensing;
    const indicated = f.plant.airspeed * Math.sqrt(f.plant.density / 1.225);
    expect(Math.abs(low.airspeed - indicated)).toBeLessThan(0.8);
    expect(low.airspeed * low.trueRatio).toBeGreaterThan(low.airspeed);
    // A day of 870 hPa at the field is as thin as at 1300 m: the same pull at the tube is six per cent more speed.
    const thin = aloft(turnstone, { heightM: 300 });
    thin.plant.day = dayFromField(38, 87_000, 288);
    run(thin, 20);
    const ratio = thin.pfad.controller.sensing.trueRatio;
    expect(ratio).toBeGreaterThan(1.07);
    expect(ratio).toBeLessThan(1.11);
  });
});
