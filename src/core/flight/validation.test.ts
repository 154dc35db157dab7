import { describe, expect, it } from 'vitest';
import type { Airframe } from '../airframe/airframe.ts';
import { avocet, dunlin, flock, knot, plainCraft, ruff, sandpiper, turnstone } from '../airframe/library.ts';
import { inertiaOf } from '../airframe/massModel.ts';
import {
  deflectionsFor,
  hoverOf,
  performanceOf,
  stallSpeed,
  supplyUnderLoad,
  trimLevel,
  turnRadius,
} from '../airframe/performance.ts';
import { pitchOf, setEuler, toEarth } from '../math/quaternion.ts';
import { DEG, GRAVITY } from '../math/scalar.ts';
import { SEA_LEVEL_DENSITY } from './atmosphere.ts';
import { PanelModel } from './panels.ts';
import { Plant } from './plant.ts';
import { MotorUnit, powerCoefficient, thrustCoefficient } from './propulsion.ts';

/** The table in docs/flight.md: numbers of the plant against closed forms and other sources. */

const still = new Float64Array(3);
const wings = flock.filter((a) => a.planforms.length > 0);
const named = (list: readonly Airframe[]) => list.map((a) => ({ name: a.name, a }));

/** A craft without propellers (they would drag), in the air at a speed, trimmed by its own surfaces. */
function glider(a: Airframe, speed: number): { plant: Plant; alpha: number } {
  const bare = { ...a, motors: [] };
  const plant = new Plant(bare);
  plant.position[2] = 0;
  const trim = trimLevel(bare, speed);
  if (!trim) throw new Error(`${a.name} has no trim at ${speed} m/s`);
  deflectionsFor(bare, 'pitch', trim.pitch, plant.deflections);
  return { plant, alpha: trim.alpha };
}

describe('a clean glide', () => {
  it.each(named(wings))('$name: best glide lies where zero-lift drag equals induced drag', ({ a }) => {
    const p = performanceOf(a);
    const ratioAt = (speed: number) => {
      const trim = trimLevel({ ...a, motors: [] }, speed);
      // In a shallow glide thrust needed over weight is the slope.
      return trim ? (a.massKg * GRAVITY) / trim.thrust : 0;
    };
    let best = 0;
    let at = 0;
    for (let v = 1.05 * p.stallMps; v < 2.6 * p.stallMps; v += 0.1) {
      const r = ratioAt(v);
      if (r > best) {
        best = r;
        at = v;
      }
    }
    // Closed form: C_D0 = C_L^2/(pi e A). Tails and washout carry some lift of their own, which it leaves out.
    expect(Math.abs(at / p.bestGlideMps - 1)).toBeLessThan(0.14);
    expect(best / p.bestGlideRatio).toBeGreaterThan(0.72);
    expect(best / p.bestGlideRatio).toBeLessThan(1.12);
  });

  /** Period of the slow swing of speed, and the mean speed, after a small upset. */
  const phugoid = (a: Airframe, speed: number) => {
    const { plant, alpha } = glider(a, speed);
    setEuler(plant.attitude, 0, alpha - 0.05, 0);
    plant.velocity[0] = speed + 1;
    plant.velocity[2] = 0.05 * speed;
    const slowest: number[] = [];
    let last = speed;
    let falling = false;
    let mean = 0;
    for (let k = 0; k < 60_000; k++) {
      plant.step(still, 0.001);
      const v = Math.hypot(...plant.velocity);
      if (falling && v > last && k > 2000) slowest.push(k / 1000);
      falling = v < last;
      last = v;
      mean += v / 60_000;
    }
    return { period: (slowest.at(-1)! - slowest[0]!) / (slowest.length - 1), mean };
  };
  const lanchester = (speed: number) => (Math.SQRT2 * Math.PI * speed) / GRAVITY;

  it('swings with Lanchester’s phugoid period sqrt(2) pi V/g, within a tenth, where attack stays as he held it', () => {
    // Lanchester 1908 holds the angle of attack constant: far forward balance makes the nose follow the flow.
    const firm: Airframe = { ...turnstone, bodyDragM2: 0, cgAftM: 0.27 };
    for (const k of [1.5, 2.1]) {
      const { period, mean } = phugoid(firm, k * stallSpeed(firm));
      expect(period / lanchester(mean)).toBeGreaterThan(0.9);
      expect(period / lanchester(mean)).toBeLessThan(1.1);
    }
  });

  it.each(named([turnstone, sandpiper]))(
    '$name as balanced: the period is longer by what pitch damping takes from the attack, within a twentieth',
    ({ a: base }) => {
      const a = { ...base, bodyDragM2: 0, motors: [] };
      const { period, mean } = phugoid(a, 1.8 * stallSpeed(a));
      // Etkin and Reid 1996, 6.3: omega^2 = (2 g^2/V^2) M_a/(M_a - M_q Z_a/V) from the panel model's own derivatives.
      const trim = trimLevel(a, mean)!;
      const panels = new PanelModel(a);
      const d = new Float64Array(panels.surfaceIds.length);
      deflectionsFor(a, 'pitch', trim.pitch, d);
      const at = (alpha: number, q: number) => {
        const v = Float64Array.of(mean * Math.cos(alpha), 0, mean * Math.sin(alpha));
        panels.evaluate(v, Float64Array.of(0, q, 0), d);
        return [panels.moment[1]! / inertiaOf(a).yy, panels.force[2]! / a.massKg] as const;
      };
      const [m0, z0] = at(trim.alpha, 0);
      const [m1, z1] = at(trim.alpha + 1e-4, 0);
      const damping = (at(trim.alpha, 1e-3)[0] - m0) / 1e-3;
      const stiffness = (m1 - m0) / 1e-4;
      const lift = (z1 - z0) / 1e-4;
      const longer = Math.sqrt(1 - (damping * lift) / mean / stiffness);
      expect(longer).toBeGreaterThan(1.2);
      expect(period / (lanchester(mean) * longer)).toBeGreaterThan(0.95);
      expect(period / (lanchester(mean) * longer)).toBeLessThan(1.05);
    },
  );
});

describe('stall', () => {
  it.each(named(wings))('$name can be trimmed level just above its stall speed and not below', ({ a }) => {
    const glider = { ...a, motors: [] };
    const stall = stallSpeed(a);
    // Found by another way than the stall speed itself: Newton steps towards level flight with a thrust along the nose.
    let least = 0;
    for (let speed = 1.3 * stall; speed > 0.8 * stall; speed -= 0.005 * stall)
      if (trimLevel(glider, speed)) least = speed;
      else break;
    expect(least / stall).toBeGreaterThan(0.95);
    expect(least / stall).toBeLessThan(1.05);
  });

  it('drops the nose behind the stall, on every craft', () => {
    for (const a of wings) {
      const panels = new PanelModel({ ...a, motors: [] });
      const d = new Float64Array(panels.surfaceIds.length);
      const v = 1.3 * stallSpeed(a);
      panels.evaluate(Float64Array.of(v * Math.cos(0.6), 0, v * Math.sin(0.6)), still, d);
      expect(panels.moment[1]).toBeLessThan(0);
    }
  });
});

describe('a coordinated turn of thirty degrees', () => {
  it.each(named(wings))(
    '$name: forces balance at radius V^2/(g tan bank) within three hundredths',
    ({ a }) => {
      const bank = 30 * DEG;
      const speed = 1.9 * stallSpeed(a);
      const rate = (GRAVITY * Math.tan(bank)) / speed;
      // Lift for 1/cos(bank) of the weight, at the body rates of a level turn.
      const heavy = { ...a, motors: [], massKg: a.massKg / Math.cos(bank) };
      const trim = trimLevel(heavy, speed)!;
      const panels = new PanelModel({ ...a, motors: [] });
      const d = new Float64Array(panels.surfaceIds.length);
      deflectionsFor(a, 'pitch', trim.pitch, d);
      const q = setEuler(new Float64Array(4), bank, trim.alpha * Math.cos(bank), 0);
      const w = Float64Array.of(0, rate * Math.sin(bank), rate * Math.cos(bank));
      const v = Float64Array.of(speed * Math.cos(trim.alpha), 0, speed * Math.sin(trim.alpha));
      // Coordinated: the slip at which no side force is felt.
      for (let k = 0; k < 12; k++) {
        panels.evaluate(v, w, d);
        const f0 = panels.force[1]!;
        v[1]! += 0.01;
        panels.evaluate(v, w, d);
        v[1]! += -0.01 - (f0 * 0.01) / (panels.force[1]! - f0);
      }
      panels.evaluate(v, w, d);
      const f = toEarth(new Float64Array(3), q, panels.force);
      // The level part of the force across the path is m V^2/R.
      const radius = (a.massKg * speed * speed) / Math.abs(f[1]!);
      expect(radius / turnRadius(speed, bank)).toBeGreaterThan(0.97);
      expect(radius / turnRadius(speed, bank)).toBeLessThan(1.03);
    },
  );
});

describe('each craft answers the right way', () => {
  it.each(named([...wings, plainCraft('conventional')]))('$name', ({ a }) => {
    const speed = 1.8 * stallSpeed(a);
    const trim = trimLevel({ ...a, motors: [] }, speed)!;
    const panels = new PanelModel({ ...a, motors: [] });
    const d = new Float64Array(panels.surfaceIds.length);
    const v = Float64Array.of(speed * Math.cos(trim.alpha), 0, speed * Math.sin(trim.alpha));
    const moment = (axis: 'roll' | 'pitch' | 'yaw', command: number) => {
      deflectionsFor(a, axis, command, d);
      panels.evaluate(v, still, d);
      return panels.moment[{ roll: 0, pitch: 1, yaw: 2 }[axis]]!;
    };
    expect(moment('roll', 0.5)).toBeGreaterThan(0.05);
    expect(moment('pitch', 0.5)).toBeGreaterThan(moment('pitch', 0) + 0.02);
    const yaws = a.surfaces.some((s) => s.id.includes('rudder'));
    if (yaws) expect(moment('yaw', 0.5)).toBeGreaterThan(0.01);
    // Weathercock: slipping to the right turns the nose to the right.
    d.fill(0);
    panels.evaluate(Float64Array.of(v[0]!, 0.1 * speed, v[2]!), still, d);
    expect(panels.moment[2]).toBeGreaterThan(0);
  });

  it('flaps lift, and flaperons would: more lift at the same attack', () => {
    const panels = new PanelModel({ ...sandpiper, motors: [] });
    const d = new Float64Array(panels.surfaceIds.length);
    const v = Float64Array.of(12, 0, 0.5);
    panels.evaluate(v, still, d);
    const clean = -panels.force[2]!;
    for (const [i, id] of panels.surfaceIds.entries()) if (id.endsWith('flap')) d[i] = 20 * DEG;
    panels.evaluate(v, still, d);
    expect(-panels.force[2]!).toBeGreaterThan(1.2 * clean);
  });

  it('a propeller’s wake makes the surfaces behind it stronger', () => {
    // A single puller ahead of the tail, on the axis.
    const a = plainCraft('conventional');
    const panels = new PanelModel(a);
    const d = new Float64Array(panels.surfaceIds.length);
    const v = Float64Array.of(8, 0, 0.2);
    const yaw = (wake: number) => {
      panels.wake.fill(wake);
      d[panels.surfaceIds.indexOf('rudder')] = -0.2;
      panels.evaluate(v, still, d);
      return panels.moment[2]!;
    };
    expect(yaw(8)).toBeGreaterThan(1.15 * yaw(0));
  });
});

describe('propulsion', () => {
  it.each(named(flock))(
    '$name: static thrust and current are those of its own C_T, C_P and motor',
    ({ a }) => {
      const m = a.motors[0]!;
      const unit = new MotorUnit(m);
      const supply = supplyUnderLoad(a);
      unit.meet(0.6, supply, 0, SEA_LEVEL_DENSITY);
      for (let k = 0; k < 4000; k++) unit.step(0.001);
      const n = unit.omega / (2 * Math.PI);
      const d = m.propDiameterM;
      expect(unit.thrust).toBeCloseTo(
        thrustCoefficient(unit.curve, 0) * SEA_LEVEL_DENSITY * n * n * d ** 4,
        6,
      );
      // P = 2 pi n Q: shaft power from C_P equals the motor's (I - I_0)/K_v times its speed.
      const power = powerCoefficient(unit.curve, 0) * SEA_LEVEL_DENSITY * n ** 3 * d ** 5;
      const current = unit.currentA / 0.6;
      const shaft = (current - m.idleCurrentA) * unit.torqueConstant * unit.omega;
      expect(shaft / power).toBeCloseTo(1, 2);
      // Momentum theory bounds the figure of merit of a real propeller: T^1.5/sqrt(2 rho A) below the shaft power.
      const ideal = unit.thrust ** 1.5 / Math.sqrt((2 * SEA_LEVEL_DENSITY * Math.PI * d * d) / 4);
      expect(ideal / power).toBeGreaterThan(0.35);
      expect(ideal / power).toBeLessThan(0.9);
    },
  );

  it.each(named([avocet, ruff, plainCraft('hex'), plainCraft('y6'), plainCraft('quad-plus')]))(
    '$name hovers at its hover throttle: thrust equals weight within two hundredths',
    ({ a }) => {
      const { throttle } = hoverOf(a);
      const plant = new Plant(a);
      let force = 0;
      for (let k = 0; k < 1500; k++) {
        plant.duties.fill((throttle * supplyUnderLoad(a)) / plant.battery.voltage);
        plant.velocity.fill(0);
        plant.rates.fill(0);
        plant.attitude.set([1, 0, 0, 0]);
        plant.step(still, 0.001);
        force = -plant.specificForce[2]!;
      }
      expect(force / GRAVITY).toBeGreaterThan(0.98);
      expect(force / GRAVITY).toBeLessThan(1.02);
    },
  );

  it('rotors of a quad cancel their torque; a tricopter’s tail servo turns it', () => {
    const settle = (a: Airframe, servo: number) => {
      const plant = new Plant(a);
      for (let k = 0; k < 800; k++) {
        plant.duties.fill(hoverOf(a).throttle);
        plant.deflections.fill(servo);
        plant.velocity.fill(0);
        plant.rates.fill(0);
        plant.attitude.set([1, 0, 0, 0]);
        plant.step(still, 0.001);
      }
      return plant.rates[2]! / 0.001;
    };
    expect(Math.abs(settle(avocet, 0))).toBeLessThan(0.3);
    expect(settle(ruff, 0.3) - settle(ruff, 0)).toBeGreaterThan(2);
  });
});

describe('conservation', () => {
  it('keeps angular momentum of body and rotors together without air, while motors speed up', () => {
    const plant = new Plant(avocet);
    plant.position[2] = -43_000;
    plant.rates.set([0.4, -0.3, 0.2]);
    for (const m of plant.motors) m.omega = 0;
    const momentum = () => {
      const l = Float64Array.of(
        plant.ix * plant.rates[0]!,
        plant.iy * plant.rates[1]!,
        plant.iz * plant.rates[2]!,
      );
      plant.motors.forEach((m, i) => {
        const h = plant.senses[i]! * m.inertia * m.omega;
        for (let k = 0; k < 3; k++) l[k]! += h * plant.axes[3 * i + k]!;
      });
      return toEarth(new Float64Array(3), plant.attitude, l);
    };
    const before = momentum();
    plant.duties.set([0.5, 0.2, 0.35, 0.1]);
    for (let k = 0; k < 1500; k++) plant.step(still, 0.0005);
    const after = momentum();
    expect(plant.motors[0]!.omega).toBeGreaterThan(200);
    for (let i = 0; i < 3; i++) expect(Math.abs(after[i]! - before[i]!)).toBeLessThan(2.5e-5);
  });

  it.each(named([avocet, ruff, turnstone]))(
    '$name: keeps energy and momentum through a tumble of 20 s without air, to a thousandth',
    ({ a }) => {
      const plant = new Plant(a);
      plant.day = { pressurePa: 0, temperatureK: 288 };
      plant.rates.set([6, -4, 5]);
      const spin = () => {
        const l = [plant.ix * plant.rates[0]!, plant.iy * plant.rates[1]!, plant.iz * plant.rates[2]!];
        const energy = 0.5 * l.reduce((sum, x, i) => sum + x * plant.rates[i]!, 0);
        return { energy, momentum: toEarth(new Float64Array(3), plant.attitude, Float64Array.from(l)) };
      };
      const before = spin();
      for (let k = 0; k < 20_000; k++) {
        plant.step(still, 0.001);
      }
      const after = spin();
      expect(after.energy / before.energy).toBeCloseTo(1, 3);
      const size = Math.hypot(...before.momentum);
      const apart = Math.hypot(...before.momentum.map((x, i) => x - after.momentum[i]!));
      expect(apart / size).toBeLessThan(1e-3);
    },
  );

  it.each(named([turnstone, knot, dunlin]))(
    '$name: half the time step changes a flight of 60 s by less than a hundredth',
    ({ a }) => {
      const fly = (dt: number) => {
        const speed = 1.8 * stallSpeed(a);
        const plant = new Plant(a);
        const trim = trimLevel(a, speed)!;
        deflectionsFor(a, 'pitch', trim.pitch, plant.deflections);
        setEuler(plant.attitude, 0, trim.alpha, 0);
        plant.velocity[0] = speed;
        plant.position[2] = -400;
        plant.duties.fill(0.5);
        let way = 0;
        for (let k = 0; k < 60 / dt; k++) {
          plant.step(still, dt);
          way += Math.hypot(...plant.velocity) * dt;
        }
        return { north: plant.position[0]!, east: plant.position[1]!, height: plant.height, way };
      };
      const [a1, b1] = [fly(0.001), fly(0.0005)];
      const apart = Math.hypot(a1.north - b1.north, a1.east - b1.east, a1.height - b1.height);
      expect(apart / b1.way).toBeLessThan(0.01);
    },
  );
});

describe('the ground', () => {
  it('carries a standing rotorcraft at rest on its feet', () => {
    const plant = new Plant(avocet);
    plant.ground = 38;
    plant.position[2] = -(38 + plant.contact.depth + 0.05);
    for (let k = 0; k < 3000; k++) plant.step(still, 0.001);
    expect(plant.contact.touching).toBe(true);
    expect(Math.hypot(...plant.velocity)).toBeLessThan(0.01);
    expect(plant.height - 38 - plant.contact.depth).toBeGreaterThan(-0.04);
    // At rest an accelerometer feels the ground push up with one g.
    expect(plant.specificForce[2]).toBeCloseTo(-GRAVITY, 1);
  });

  it('stops a sliding craft by friction, and lets wheels roll much farther', () => {
    const slide = (launch: 'hand' | 'wheels') => {
      const plant = new Plant({ ...turnstone, launch });
      plant.ground = 0;
      plant.position[2] = -plant.contact.depth;
      plant.velocity[0] = 4;
      for (let k = 0; k < 4000; k++) plant.step(still, 0.001);
      return { way: plant.position[0]!, upright: Math.abs(pitchOf(plant.attitude)) };
    };
    const belly = slide('hand');
    // v^2/(2 mu g) with mu = 0.5.
    expect(belly.way).toBeGreaterThan(0.9);
    expect(belly.way).toBeLessThan(2.6);
    expect(slide('wheels').way).toBeGreaterThan(2 * belly.way);
  });

  it('remembers how hard it was hit', () => {
    const plant = new Plant(avocet);
    plant.ground = 0;
    plant.position[2] = -3;
    for (let k = 0; k < 1500; k++) plant.step(still, 0.001);
    // Free fall through 3 m less the feet: sqrt(2 g h) = 7.5 m/s, a little less for the drag.
    expect(plant.contact.impactMps).toBeGreaterThan(6.8);
    expect(plant.contact.impactMps).toBeLessThan(7.7);
  });
});
