import { afterAll, describe, expect, it } from 'vitest';
import { type Airframe, isRotorcraft } from '#core/airframe/airframe.ts';
import { avocet, dunlin, knot, sandpiper, turnstone } from '#core/airframe/library.ts';
import { stallSpeed } from '#core/airframe/performance.ts';
import { type FlownOtherwise, hoverBy } from '#core/answers/axisModel.ts';
import { loopOf } from '#core/answers/chain.ts';
import { marginOf } from '#core/answers/margin.ts';
import { fellF7 } from '#core/board/fellF7.ts';
import { builtAs } from '#core/mixer/throws.ts';
import type { Values } from '#core/settings/catalogue.ts';
import type { Readings } from '#firmware/readings.ts';
import { aloft, prepared, run } from '../testing/aloft.ts';
import { heldSpeed, steadied } from '../testing/heldSpeed.ts';

/** Gains are raised until so many times more would make it ring, so that a delay can: less for rotors, whose swing is soon no small one. */
const LEFT_TIMES = { servos: 3.5, motors: 9 };
/** Wings fly so many times as fast as their stall: far from where lift bends. */
const STALLS = 2.1;
const AFTER_MS = 2600;
const FROM_MS = 300;
/** What a steady flight has of it anyway, rad/s root mean square. */
const NOISE = 0.02;
/** Swings beyond this are slower than small ones: servos come to their speed, motors to their idle. */
const SMALL = 0.25;
/** The longest of its turns over the shortest. */
const REGULAR = 1.4;
const indexOf = { roll: 0, pitch: 1 } as const;
type Turned = keyof typeof indexOf;

/** After a nudge, its gyro about one axis told so much later, ms: how a swing goes on, and how fast it swings while it is small. */
function nudged(airframe: Airframe, axis: Turned, change: Values, lateMs: number) {
  const i = indexOf[axis];
  const linkages = airframe.surfaces.map((s) => ({ ...builtAs(s), playDeg: 0 }));
  const f = aloft(airframe, { heightM: 300, change, truth: { linkages } });
  const speed = steadied(airframe, f);
  const supplyV = f.plant.battery.voltage;
  const way = f.devices.readings.imus.map(() => new Float64Array(lateMs + 1));
  const step = f.pfad.step.bind(f.pfad);
  let n = 0;
  f.pfad.step = (readings: Readings) => {
    const now = readings.imus.map((imu) => imu.gyro[i]!);
    readings.imus.forEach((imu, k) => {
      way[k]![n % (lateMs + 1)] = now[k]!;
      imu.gyro[i] = way[k]![(n + 1) % (lateMs + 1)]!;
    });
    n++;
    step(readings);
    readings.imus.forEach((imu, k) => {
      imu.gyro[i] = now[k]!;
    });
  };
  f.radio.attitude = 2;
  run(f, 0.1);
  f.radio[axis] = 0.05;
  run(f, 0.06);
  f.radio[axis] = 0;
  const rates: number[] = [];
  run(f, AFTER_MS / 1000, () => rates.push(f.plant.rates[i]!));
  // What is slow, as the craft's own turning, is no ringing.
  const quick = rates.map((x, k) => {
    const around = rates.slice(Math.max(0, k - 200), k + 200);
    return x - around.reduce((sum, y) => sum + y, 0) / around.length;
  });
  const large = quick.findIndex((x, k) => k > FROM_MS && Math.abs(x) > SMALL);
  const until = large < 0 ? quick.length : large;
  const rms = (from: number, to: number) =>
    Math.sqrt(quick.slice(from, to).reduce((sum, x) => sum + x * x, 0) / (to - from));
  // Through nought upwards, out of a swing that is more than noise.
  let low = false;
  const ups = quick.flatMap((x, k) => {
    if (k <= FROM_MS || k >= until) return [];
    if (x < -NOISE) low = true;
    if (!low || x < 0) return [];
    low = false;
    return [k];
  });
  const spaces = ups.slice(1).map((up, k) => up - ups[k]!);
  // What comes at any time is no swing yet.
  const regular = Math.max(...spaces) < REGULAR * Math.min(...spaces);
  const hz = ups.length > 4 && regular ? (1000 * spaces.length) / (ups.at(-1)! - ups[0]!) : Number.NaN;
  // What becomes large, and what is more at last than in the middle, and no mere noise.
  const late = rms(AFTER_MS - 700, AFTER_MS);
  return { grows: late > 2 * SMALL || (late > NOISE && late > rms(700, 1400)), hz, speed, supplyV };
}

const offs: number[] = [];

describe('the delay that makes it ring in the bench', () => {
  it.each([
    ...[turnstone, sandpiper, dunlin, knot].flatMap((airframe) =>
      (['roll', 'pitch'] as const).map((axis) => [airframe.name, axis, '1000', airframe] as const),
    ),
    [avocet.name, 'pitch', '1000', avocet] as const,
    // Loops that run less often are later, and D of two poles as well.
    [turnstone.name, 'roll', '250', turnstone] as const,
    [avocet.name, 'pitch', '250', avocet] as const,
  ])(
    'is the one that the model leaves %s about %s, loops run %s times a second',
    (_name, axis, rate, airframe) => {
      const speedMps = isRotorcraft(airframe) ? 0 : STALLS * stallSpeed(airframe);
      // What follows the throttle is as it is in the middle.
      const slow: Values = rate === '250' ? { 'loop.rate': rate, 'rate.dPoles': 2 } : {};
      const held = { ...(speedMps > 0 ? heldSpeed(speedMps) : { 'gyro.notchFollows': false }), ...slow };
      const base = { ...prepared(airframe), ...held };
      const loopAt = (values: Values, mps: number, by: FlownOtherwise = {}) =>
        loopOf(airframe, values, fellF7.pads, axis, mps, 1, by)!;
      const marginAt = (values: Values, mps: number, by: FlownOtherwise = {}) =>
        marginOf(loopAt(values, mps, by));
      const times = marginAt(base, speedMps).gainLeft / LEFT_TIMES[loopAt(base, speedMps).model.moves];
      const raised = Object.fromEntries(
        ['p', 'i', 'd'].map((part) => [`rate.${axis}.${part}`, Number(base[`rate.${axis}.${part}`]) * times]),
      );
      const change = { ...held, ...raised };
      const promised = marginAt({ ...base, ...change }, speedMps).crossover!;
      let [quiet, rings] = [0, Math.ceil(2200 * promised.delayS)];
      let found = nudged(airframe, axis, change, rings);
      while (rings - quiet > 1) {
        const mid = (quiet + rings) >> 1;
        const now = nudged(airframe, axis, change, mid);
        if (now.grows) [rings, found] = [mid, now];
        else quiet = mid;
      }
      const by = speedMps > 0 ? {} : hoverBy(airframe, found.supplyV);
      const said = marginAt({ ...base, ...change }, found.speed, by).crossover!;
      const off = 360 * said.hz * (said.delayS - (rings - 0.5) / 1000);
      offs.push(Math.abs(off));
      expect(Math.abs(off)).toBeLessThan(10);
      // One that grows at once is never small for long enough to tell.
      if (!Number.isNaN(found.hz)) expect(Math.abs(said.hz / found.hz - 1)).toBeLessThan(0.1);
    },
  );

  afterAll(() => {
    if (offs.length > 5) expect(offs.reduce((sum, x) => sum + x, 0) / offs.length).toBeLessThan(6);
  });
});
