import { describe, expect, it } from 'vitest';
import { pfadCatalogue } from '#firmware/catalogue.ts';
import { CONTROL_SETS } from '../../firmware/catalogue/counts.ts';
import { mossvikGround } from '../../testing/aloft.ts';
import { kinds } from '../airframe/actuators.ts';
import { isRotorcraft } from '../airframe/airframe.ts';
import { avocet, flock, knot, plainCraft, ruff, turnstone } from '../airframe/library.ts';
import { inertiaOf } from '../airframe/massModel.ts';
import { hoverOf, stallSpeed, supplyUnderLoad, thrustAt, trimLevel } from '../airframe/performance.ts';
import { SEA_LEVEL_DENSITY } from '../flight/atmosphere.ts';
import { MotorUnit } from '../flight/propulsion.ts';
import { groundHeight } from '../flight/terrain.ts';
import { DEG, GRAVITY } from '../math/scalar.ts';
import { startingValues } from './startingValues.ts';

const everyCraft = [...flock, ...kinds.map((kind) => ({ ...plainCraft(kind), name: `plain ${kind}` }))];
const valuesOf = (airframe: (typeof everyCraft)[number]) =>
  Object.fromEntries(startingValues(airframe).map((v) => [v.key, v.value])) as Record<string, number>;

describe.each(everyCraft.map((a) => [a.name, a] as const))('starting values of %s', (_name, airframe) => {
  const list = startingValues(airframe, mossvikGround);
  const v = valuesOf(airframe);

  it('are accepted by the board, alone and together', () => {
    for (const { key, value } of list) expect(pfadCatalogue.checkValue(key, value)).toBeNull();
    const all = Object.fromEntries(list.map((x) => [x.key, x.value]));
    expect(pfadCatalogue.check({ ...pfadCatalogue.defaults(), ...all })).toEqual([]);
  });

  it('have each a reason, and say nothing twice but what ground changes', () => {
    for (const { why } of list) expect(why).toMatch(/^[A-Z0-9].{8,}\.$/);
    const keys = list.map((x) => x.key).filter((k) => k !== 'return.height');
    expect(new Set(keys).size).toBe(keys.length);
  });

  it('come in three sets, a calm, a usual and a lively one', () => {
    expect(CONTROL_SETS).toBe(3);
    for (const axis of ['roll', 'pitch', 'yaw'].filter((a) => v[`rate.${a}.max`] !== undefined)) {
      const [one, two, three] = ['', 'set.2.', 'set.3.'].map((p) => v[`${p}rate.${axis}.max`]!);
      expect(two!).toBeLessThan(one!);
      expect(three!).toBeGreaterThan(one!);
    }
    expect(v['set.2.level.bank']!).toBeLessThan(v['level.bank']!);
  });

  it('put the notch where the propellers hum in level flight', () => {
    const unit = new MotorUnit(airframe.motors[0]!);
    const speed = isRotorcraft(airframe) ? 0 : v['nav.speed']!;
    unit.settle(v['motor.cruise']!, supplyUnderLoad(airframe), speed, SEA_LEVEL_DENSITY);
    const hum = unit.omega / (2 * Math.PI);
    expect(v['gyro.notch']! / Math.min(450, hum)).toBeGreaterThan(0.93);
    expect(v['gyro.notch']! / Math.min(450, hum)).toBeLessThan(1.07);
  });
});

const wings = everyCraft.filter((a) => !isRotorcraft(a));
const rotors = everyCraft.filter(isRotorcraft);

describe.each(wings.map((a) => [a.name, a] as const))('wings: %s', (_name, airframe) => {
  const v = valuesOf(airframe);
  const stall = stallSpeed(airframe);

  it('keep their speeds in order and off the stall', () => {
    const order = ['nav.speedFloor', 'land.speed', 'nav.speed', 'return.speed'].map((k) => v[k]!);
    expect([...order].sort((a, b) => a - b)).toEqual(order);
    expect(order[0]!).toBeGreaterThan(1.15 * stall);
  });

  it('fly level at the trim that is set: lift carries the weight', () => {
    const trim = trimLevel(airframe, v['nav.speed']!)!;
    expect(v['level.pitch']! * DEG).toBeCloseTo(trim.alpha, 2);
    const got = thrustAt(airframe, v['motor.cruise']!, v['nav.speed']!).thrust;
    // The throttle is rounded to a hundredth; thrust goes about with its square.
    expect(Math.abs(got - trim.thrust)).toBeLessThan(0.12 * trim.thrust + 0.05);
  });

  it('climb at the rate that is asked with throttle to spare', () => {
    const weight = airframe.massKg * GRAVITY;
    const trim = trimLevel(airframe, v['nav.speed']!)!;
    const most = ((thrustAt(airframe, 1, v['nav.speed']!).thrust - trim.thrust) * v['nav.speed']!) / weight;
    expect(v['nav.climb']!).toBeLessThan(Math.max(0.81, 0.6 * most));
  });

  it('circle at their return speed with less bank than the limit, in a quarter of it as wind', () => {
    const speed = 1.25 * v['return.speed']!;
    const bank = Math.atan(speed ** 2 / (GRAVITY * v['loiter.radius']!)) / DEG;
    expect(bank).toBeLessThan(v['level.bank']!);
  });

  it('ask for no rate that the surfaces cannot give', () => {
    for (const axis of ['roll', 'pitch']) {
      const full = 1 / v[`rate.${axis}.forward`]! / DEG;
      expect(v[`rate.${axis}.max`]!).toBeLessThanOrEqual(Math.max(20, 0.65 * full));
    }
  });
});

describe.each(rotors.map((a) => [a.name, a] as const))('rotors: %s', (_name, airframe) => {
  const v = valuesOf(airframe);

  it('hover at the throttle that is set', () => {
    const lift = thrustAt(airframe, v['hover.throttle']!, 0).thrust;
    expect(lift / (airframe.massKg * GRAVITY)).toBeCloseTo(1, 1);
    expect(v['hover.throttle']!).toBeCloseTo(hoverOf(airframe).throttle, 2);
  });

  it('keep most of their thrust upward when they lean as far as they may', () => {
    expect(Math.cos(v['hover.tilt']! * DEG) * hoverOf(airframe).thrustToWeight).toBeGreaterThan(1.1);
    expect(v['hover.tilt']!).toBeLessThanOrEqual(v['level.bank']!);
  });

  it('have each outer loop slower than the one inside it', () => {
    const levelling = 1 / v['level.time']!;
    expect(v['hover.velocityP']!).toBeLessThan(levelling / 2);
    expect(v['hover.positionP']!).toBeLessThan(v['hover.velocityP']! / 2);
  });
});

describe('rate loops of rotors', () => {
  /**
   * Magnitude optimum (Betragsoptimum) of an integrator with one lag T: crossover 1/(2T), which gives a phase
   * margin of about 63 degrees. Astrom and Hagglund, Advanced PID Control, section 6.2.
   */
  it('cross over at half the inverse of motor lag and delay, by the torque the rotors have', () => {
    const airframe = avocet;
    const v = valuesOf(airframe);
    const hover = hoverOf(airframe).throttle;
    const each = (d: number) => thrustAt(airframe, d, 0).thrust / airframe.motors.length;
    const slope = (each(hover + 0.02) - each(hover - 0.02)) / 0.04;
    const arm = Math.abs(airframe.motors[0]!.rightM);
    // Four rotors, each answering a full roll command with its full share.
    const accel = (4 * arm * slope) / inertiaOf(airframe).xx;
    const crossover = v['rate.roll.p']! * accel;
    const unit = new MotorUnit(airframe.motors[0]!);
    const supply = supplyUnderLoad(airframe);
    unit.settle(hover, supply, 0, SEA_LEVEL_DENSITY);
    const from = unit.omega;
    const end = new MotorUnit(airframe.motors[0]!);
    end.settle(hover + 0.01, supply, 0, SEA_LEVEL_DENSITY);
    let lag = 0;
    while (unit.omega < from + (1 - Math.exp(-1)) * (end.omega - from)) {
      unit.meet(hover + 0.01, supply, 0, SEA_LEVEL_DENSITY);
      unit.step(1e-4);
      lag += 1e-4;
    }
    const optimum = Math.min(22, 1 / (2 * (lag + 0.008)));
    expect(crossover / optimum).toBeGreaterThan(0.9);
    expect(crossover / optimum).toBeLessThan(1.1);
    const margin = 90 - (Math.atan(crossover * lag) + crossover * 0.008) / DEG;
    expect(margin).toBeGreaterThan(50);
  });

  it('of motors that answer more slowly are slower', () => {
    const heavy = { ...ruff, motors: ruff.motors.map((m) => ({ ...m, resistanceOhm: 4 * m.resistanceOhm })) };
    expect(valuesOf(heavy)['level.time']!).toBeGreaterThanOrEqual(valuesOf(ruff)['level.time']!);
  });
});

describe('what follows from the craft', () => {
  it('a heavier craft flies faster by the root of its mass', () => {
    const heavy = valuesOf({ ...turnstone, massKg: 4 * turnstone.massKg });
    expect(heavy['return.speed']! / valuesOf(turnstone)['return.speed']!).toBeCloseTo(2, 1);
  });

  it('a wing without a rudder has no yaw loop', () => {
    const v = valuesOf(knot);
    if (knot.surfaces.some((s) => s.id.endsWith('rudder'))) return;
    expect([v['rate.yaw.p'], v['rate.yaw.i'], v['rate.yaw.forward']]).toEqual([0, 0, 0]);
  });

  it('Li-ion cells may go lower than LiPo', () => {
    const lion = { ...turnstone, battery: { ...turnstone.battery, chemistry: 'li-ion' as const } };
    const lipo = { ...turnstone, battery: { ...turnstone.battery, chemistry: 'lipo' as const } };
    expect(valuesOf(lion)['battery.empty']!).toBeLessThan(valuesOf(lipo)['battery.empty'] ?? 3.3);
  });

  it('the return height clears all ground in reach by its margin', () => {
    const height = startingValues(turnstone, mossvikGround).findLast((v) => v.key === 'return.height')!
      .value as number;
    const { terrain, homeEastM, homeNorthM } = mossvikGround;
    const home = groundHeight(terrain, homeEastM, homeNorthM);
    let least = Number.POSITIVE_INFINITY;
    for (let bearing = 0; bearing < 360; bearing += 1) {
      for (let d = 0; d < 6000; d += 25) {
        const east = homeEastM + d * Math.sin(bearing * DEG);
        const north = homeNorthM + d * Math.cos(bearing * DEG);
        least = Math.min(least, home + height - groundHeight(terrain, east, north));
      }
    }
    expect(least).toBeGreaterThanOrEqual(30);
    expect(least).toBeLessThan(45);
  });
});
