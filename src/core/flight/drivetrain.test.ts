import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Airframe } from '../airframe/airframe.ts';
import { avocet, flock, turnstone } from '../airframe/library.ts';
import { SEA_LEVEL_DENSITY } from './atmosphere.ts';
import { HOUSE_CURRENT_A, Plant } from './plant.ts';
import {
  bellInertia,
  MotorUnit,
  motorMassKg,
  powerCoefficient,
  propellerCurve,
  propellerInertia,
  propellerMassKg,
  thrustCoefficient,
} from './propulsion.ts';

const still = new Float64Array(3);

/** Holds a craft in place with its motors at some duties and counts where its electricity goes, W s. */
function account(airframe: Airframe, duty: (t: number) => number, seconds: number) {
  const plant = new Plant(airframe);
  plant.position[2] = -500;
  const b = plant.battery;
  let drawn = 0;
  let shaft = 0;
  let lost = 0;
  for (let k = 0; k < seconds * 1000; k++) {
    plant.duties.fill(duty(k / 1000));
    plant.velocity.fill(0);
    plant.rates.fill(0);
    const open = b.openV;
    plant.step(still, 0.001);
    drawn += open * b.currentA * 0.001;
    lost += b.currentA ** 2 * b.resistanceOhm * 0.001 + b.voltage * HOUSE_CURRENT_A * 0.001;
    for (const m of plant.motors) {
      lost += m.windingA ** 2 * m.resistanceOhm * 0.001;
      // What turns the shaft, friction and all: current times back-EMF.
      shaft += m.windingA * m.torqueConstant * m.omega * 0.001;
    }
  }
  return { drawn, shaft, lost, plant };
}

describe('electrical energy', () => {
  it.each(flock.map((a) => ({ name: a.name, a })))(
    '$name: what leaves the cells is shaft work and losses, within half a hundredth',
    ({ a }) => {
      for (const cellResistanceOhm of [0.003, 0.05, 0.2]) {
        const tired = { ...a, battery: { ...a.battery, cellResistanceOhm } };
        const { drawn, shaft, lost } = account(tired, (t) => 0.45 + 0.3 * Math.sin(2 * t), 12);
        expect((shaft + lost) / drawn).toBeGreaterThan(0.995);
        expect((shaft + lost) / drawn).toBeLessThan(1.005);
      }
    },
  );

  it('sags by the current that makes it sag, at any resistance, and never rings', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.0003, max: 0.2, noNaN: true }),
        fc.double({ min: 0.1, max: 1, noNaN: true }),
        (r, duty) => {
          const tired = { ...avocet, battery: { ...avocet.battery, cellResistanceOhm: r } };
          const plant = new Plant(tired);
          plant.position[2] = -500;
          let last = 0;
          let turns = 0;
          for (let k = 0; k < 1200; k++) {
            plant.duties.fill(duty);
            plant.velocity.fill(0);
            plant.rates.fill(0);
            const before = plant.battery.voltage;
            plant.step(still, 0.001);
            const step = plant.battery.voltage - before;
            if (k > 50 && Math.abs(step) > 1e-4 && Math.sign(step) !== Math.sign(last)) turns++;
            if (Math.abs(step) > 1e-4) last = step;
            // Terminals are the cells less R I, of the very current that was drawn.
            const expected = plant.battery.openV - plant.battery.currentA * plant.battery.resistanceOhm;
            expect(Math.abs(plant.battery.voltage - expected)).toBeLessThan(0.06);
          }
          expect(turns).toBeLessThan(4);
        },
      ),
      { numRuns: 25 },
    );
  });
});

describe('a controller', () => {
  const big = {
    ...turnstone.motors[0]!,
    propDiameterM: 0.254,
    propPitchM: 0.14,
    kvRpmPerV: 2100,
    maxCurrentA: 30,
  };

  it('gives no more than its current, and takes only what that needs from the battery', () => {
    const unit = new MotorUnit(big);
    for (let k = 0; k < 300; k++) {
      unit.meet(1, 15, 0, SEA_LEVEL_DENSITY);
      unit.step(0.001);
    }
    expect(unit.limited).toBe(true);
    expect(unit.windingA).toBe(30);
    const power = 30 * (unit.omega * unit.torqueConstant + 30 * unit.resistanceOhm);
    expect(unit.currentA * 15).toBeCloseTo(power, 0);
  });

  it('at its limit for a minute or two burns its motor, within its lasting current never', () => {
    const burnsAfter = (amps: number) => {
      const unit = new MotorUnit({ ...big, maxCurrentA: 30 });
      unit.maxCurrentA = amps;
      let seconds = 0;
      while (!unit.burnt && seconds < 900) {
        // As much duty as asks for half as much again.
        const back = unit.omega * unit.torqueConstant;
        unit.meet((back + 1.5 * amps * unit.resistanceOhm) / 15, 15, 0, SEA_LEVEL_DENSITY);
        unit.step(0.001);
        seconds += 0.001;
      }
      return seconds;
    };
    expect(burnsAfter(30)).toBeGreaterThan(25);
    expect(burnsAfter(30)).toBeLessThan(200);
    expect(burnsAfter(0.78 * 30)).toBeGreaterThan(899);
  });

  it('asked for twice its current for longer than a propeller spins up burns at once', () => {
    const spinsUp = new MotorUnit({ ...turnstone.motors[0]! });
    for (let k = 0; k < 3000; k++) {
      spinsUp.meet(1, 15, 0, SEA_LEVEL_DENSITY);
      spinsUp.step(0.001);
    }
    expect(spinsUp.burnt).toBe(false);
    const wild = new MotorUnit({ ...big, propDiameterM: 0.3 });
    let seconds = 0;
    while (!wild.burnt && seconds < 10) {
      wild.meet(1, 15, 0, SEA_LEVEL_DENSITY);
      wild.step(0.001);
      seconds += 0.001;
    }
    expect(seconds).toBeLessThan(1.2);
  });

  it('keeps a very small motor steady at a step of a millisecond', () => {
    const tiny = new MotorUnit({
      ...big,
      propDiameterM: 0.03,
      propPitchM: 0.02,
      kvRpmPerV: 900,
      resistanceOhm: 0.01,
      maxCurrentA: 20,
    });
    const ends: number[] = [];
    for (let k = 0; k < 1500; k++) {
      tiny.meet(0.5, 8, 0, SEA_LEVEL_DENSITY);
      tiny.step(0.001);
      if (k >= 1000) ends.push(tiny.omega);
    }
    expect(Math.max(...ends) / Math.min(...ends)).toBeLessThan(1.001);
  });
});

describe('a propeller', () => {
  it('is never better than momentum theory, at any pitch, speed and advance', () => {
    for (const ratio of [0.3, 0.5, 0.7, 0.9, 1.1, 1.4])
      for (const speed of [0, 5, 12, 20, 30, 45]) {
        const unit = new MotorUnit({ ...turnstone.motors[0]!, propPitchM: ratio * 0.229, maxCurrentA: 300 });
        for (let k = 0; k < 1500; k++) {
          unit.meet(0.8, 15, speed, SEA_LEVEL_DENSITY);
          unit.step(0.001);
        }
        if (unit.thrust <= 0) continue;
        // Ideal: T (V + v), v of the disc from T = 2 rho A (V + v) v.
        const disc = (Math.PI * 0.229 ** 2) / 4;
        const v = -speed / 2 + Math.sqrt((speed / 2) ** 2 + unit.thrust / (2 * SEA_LEVEL_DENSITY * disc));
        expect(unit.thrust * (speed + v)).toBeLessThan(unit.torque * unit.omega);
      }
  });

  it('follows its coefficients where they are what bounds it', () => {
    const curve = propellerCurve(0.2, 0.1);
    expect(thrustCoefficient(curve, 0)).toBeCloseTo(curve.thrust0, 12);
    expect(powerCoefficient(curve, 0)).toBeCloseTo(curve.power0, 12);
  });

  it('has the mass and inertia of what is sold, from three to sixteen inches', () => {
    // Grams of common two-blade propellers, rounded.
    for (const [inches, grams] of [
      [3, 2],
      [5, 4.7],
      [7, 8.5],
      [10, 17],
      [16, 38],
    ] as const) {
      const kg = propellerMassKg(inches * 0.0254);
      expect((1000 * kg) / grams).toBeGreaterThan(0.75);
      expect((1000 * kg) / grams).toBeLessThan(1.3);
      const rod = (kg * (inches * 0.0254) ** 2) / 12;
      expect(propellerInertia(inches * 0.0254) / rod).toBeCloseTo(0.75, 6);
    }
    // A motor of 45 g has a bell of some 20 g at 15 mm: m r^2.
    expect(bellInertia(0.045) / (0.02 * 0.015 ** 2)).toBeGreaterThan(0.7);
    expect(bellInertia(0.045) / (0.02 * 0.015 ** 2)).toBeLessThan(1.4);
    expect(motorMassKg(30)).toBeCloseTo(0.041, 3);
  });

  it('loses thrust in its own ring when it comes straight down, and not when it flies out of it', () => {
    const thrust = (down: number, across: number) => {
      const unit = new MotorUnit(avocet.motors[0]!);
      unit.omega = 700;
      unit.meet(0, 20, -down, SEA_LEVEL_DENSITY, across);
      unit.step(1e-9);
      return { thrust: unit.thrust, ring: unit.ring };
    };
    const hover = thrust(0, 0).thrust;
    const induced = Math.sqrt(hover / (2 * SEA_LEVEL_DENSITY * ((Math.PI * 0.178 ** 2) / 4)));
    expect(thrust(1.1 * induced, 0).ring).toBeGreaterThan(0.25);
    expect(thrust(1.1 * induced, 0).thrust).toBeLessThan(0.85 * hover);
    expect(thrust(1.1 * induced, 1.2 * induced).ring).toBe(0);
    expect(thrust(0.3 * induced, 0).ring).toBe(0);
    expect(thrust(0.3 * induced, 0).thrust).toBeGreaterThan(hover);
  });
});
