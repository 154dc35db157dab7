import { describe, expect, it } from 'vitest';
import { wingOf } from '../airframe/airframe.ts';
import { turnstone } from '../airframe/library.ts';
import { inertiaOf } from '../airframe/massModel.ts';
import { performanceOf, stallSpeed, trimLevel, turnRadius } from '../airframe/performance.ts';
import { pitchOf, rollOf, setEuler } from '../math/quaternion.ts';
import { DEG, GRAVITY } from '../math/scalar.ts';
import { SEA_LEVEL_DENSITY } from './atmosphere.ts';
import { Battery, openCircuitV } from './battery.ts';
import { flapEffectiveness, helmboldLiftSlope } from './liftSlope.ts';
import { PanelModel } from './panels.ts';
import { Plant } from './plant.ts';
import { MotorUnit } from './propulsion.ts';
import { Wind, windAtHeight } from './wind.ts';

const still = new Float64Array(3);

describe('lift', () => {
  it('tends to the thin-aerofoil slope 2 pi for an endless wing, and to pi A/2 for a very short one', () => {
    expect(helmboldLiftSlope(1e6)).toBeCloseTo(2 * Math.PI, 4);
    expect(helmboldLiftSlope(0.01) / ((Math.PI * 0.01) / 2)).toBeCloseTo(1, 2);
  });

  it('gives a flap of the whole chord full effect and half of it the textbook 0.82', () => {
    expect(flapEffectiveness(1)).toBeCloseTo(1, 9);
    // Glauert: c_f/c = 0.5 has theta = pi/2, tau = 1 - (pi/2 - 1)/pi.
    expect(flapEffectiveness(0.5)).toBeCloseTo(0.8183, 4);
  });

  it('is the same on both sides of a craft that slips neither way', () => {
    const panels = new PanelModel(turnstone);
    panels.evaluate(Float64Array.of(15, 0, 0.8), still, new Float64Array(4));
    expect(panels.force[1]).toBeCloseTo(0, 10);
    expect(panels.moment[0]).toBeCloseTo(0, 10);
    expect(panels.moment[2]).toBeCloseTo(0, 10);
  });

  it('answers each surface about the right axis', () => {
    const panels = new PanelModel(turnstone);
    const v = Float64Array.of(15, 0, 0.6);
    const moments = (id: string, deflection: number) => {
      const d = new Float64Array(4);
      const base = new PanelModel(turnstone);
      base.evaluate(v, still, d);
      d[panels.surfaceIds.indexOf(id as 'rudder')] = deflection;
      panels.evaluate(v, still, d);
      return panels.moment.map((m, i) => m - base.moment[i]!);
    };
    expect(moments('left-aileron', 0.1)[0]).toBeGreaterThan(0.05);
    expect(moments('right-aileron', 0.1)[0]).toBeLessThan(-0.05);
    expect(moments('elevator', -0.1)[1]).toBeGreaterThan(0.05);
    expect(moments('rudder', -0.1)[2]).toBeGreaterThan(0.02);
  });

  it('rolls steadily at the rate of strip theory for its ailerons, within a fifth', () => {
    // p b/2V = (tau delta int c y dy) / (int c y^2 dy) * 2/b over the half span, one slope for the whole wing.
    const { surfaces } = turnstone;
    const wing = wingOf(turnstone);
    const b = wing.spanM;
    const chord = (y: number) => wing.rootChordM + ((wing.tipChordM - wing.rootChordM) * y) / (b / 2);
    let driving = 0;
    let damping = 0;
    const a = surfaces[0]!;
    for (let k = 0; k < 1000; k++) {
      const y = ((k + 0.5) / 1000) * (b / 2);
      const dy = b / 2 / 1000;
      if (y > (a.from * b) / 2 && y < (a.to * b) / 2) driving += chord(y) * y * dy;
      damping += chord(y) * y * y * dy;
    }
    const delta = 10 * DEG;
    const expected = (0.8 * flapEffectiveness(a.chordShare) * delta * driving * 15) / damping;
    const plant = new Plant(turnstone);
    plant.deflections[0] = delta;
    plant.deflections[1] = -delta;
    plant.velocity[0] = 15;
    let p = 0;
    for (let k = 0; k < 400; k++) {
      plant.step(still, 0.001);
      plant.velocity.fill(0);
      plant.velocity[0] = 15;
      plant.attitude.set([1, 0, 0, 0]);
      plant.rates[1] = 0;
      plant.rates[2] = 0;
      p = plant.rates[0]!;
    }
    expect(p / expected).toBeGreaterThan(0.8);
    expect(p / expected).toBeLessThan(1.2);
  });
});

describe('performance', () => {
  it('follows the closed forms', () => {
    const p = performanceOf(turnstone);
    expect(p.wingAreaM2).toBeCloseTo(1.6 * 0.22, 9);
    const lift = 0.5 * SEA_LEVEL_DENSITY * p.stallMps ** 2 * p.wingAreaM2 * wingOf(turnstone).liftMax;
    expect(lift).toBeCloseTo(turnstone.massKg * GRAVITY, 6);
    expect(turnRadius(20, 45 * DEG)).toBeCloseTo(400 / GRAVITY, 9);
    expect(p.cgForwardM).toBeLessThan(p.cgAftLimitM);
  });

  it('has its neutral point where the panel model feels no moment from a change of attack', () => {
    const p = performanceOf(turnstone);
    const at = (cgAftM: number) => {
      const panels = new PanelModel({ ...turnstone, cgAftM });
      const moment = (alpha: number) => {
        panels.evaluate(
          Float64Array.of(15 * Math.cos(alpha), 0, 15 * Math.sin(alpha)),
          still,
          new Float64Array(4),
        );
        return panels.moment[1]!;
      };
      return moment(0.03) - moment(0.01);
    };
    expect(at(p.neutralPointAftM - 0.03)).toBeLessThan(0);
    expect(at(p.neutralPointAftM + 0.03)).toBeGreaterThan(0);
  });

  it('stalls faster with more mass, by the square root', () => {
    expect(stallSpeed({ ...turnstone, massKg: 8.4 }) / stallSpeed(turnstone)).toBeCloseTo(2, 9);
  });
});

describe('trim', () => {
  it('holds height, speed and attitude for ten seconds from its own trim', () => {
    const trim = trimLevel(turnstone, 16)!;
    const plant = new Plant(turnstone);
    setEuler(plant.attitude, 0, trim.alpha, 0);
    plant.velocity[0] = 16;
    plant.deflections[2] = -trim.pitch * 24 * DEG;
    // Motors are left out: the thrust that the trim asks for is added by hand along the flight path.
    for (let k = 0; k < 10_000; k++) {
      plant.velocity[0]! += (trim.thrust / turnstone.massKg) * 0.001 * Math.cos(trim.alpha);
      plant.velocity[2]! -= (trim.thrust / turnstone.massKg) * 0.001 * Math.sin(trim.alpha);
      plant.step(still, 0.001);
      // Windmilling propellers drag; trim knows none of it.
      for (const m of plant.motors) m.propellerFitted = false;
    }
    expect(Math.abs(plant.height)).toBeLessThan(2.5);
    expect(Math.abs(plant.airspeed - 16)).toBeLessThan(0.5);
    expect(Math.abs(pitchOf(plant.attitude) - trim.alpha)).toBeLessThan(2 * DEG);
    expect(Math.abs(rollOf(plant.attitude))).toBeLessThan(0.1 * DEG);
  });

  it('is not found below the stall', () => {
    expect(trimLevel(turnstone, 6)).toBeNull();
  });
});

describe('rigid body', () => {
  it('falls as a stone without air, and keeps its angular momentum', () => {
    const plant = new Plant({ ...turnstone, bodyDragM2: 0 });
    // High above any air the density is next to nothing.
    plant.position[2] = -43_000;
    plant.rates.set([3, 0.5, -1]);
    const i = inertiaOf(turnstone);
    const momentum = () => Math.hypot(i.xx * plant.rates[0]!, i.yy * plant.rates[1]!, i.zz * plant.rates[2]!);
    const before = momentum();
    for (let k = 0; k < 2000; k++) plant.step(still, 0.001);
    expect(plant.velocity[2]).toBeCloseTo(2 * GRAVITY, 1);
    expect(momentum() / before).toBeGreaterThan(0.99);
    expect(momentum() / before).toBeLessThan(1.01);
  });

  it('drifts with the wind: in moving air it flies as in still air, carried along', () => {
    const fly = (wind: Float64Array) => {
      const plant = new Plant(turnstone);
      plant.velocity[0] = 16 + wind[0]!;
      plant.velocity[1] = wind[1]!;
      for (let k = 0; k < 5000; k++) plant.step(wind, 0.001);
      return plant.position;
    };
    const a = fly(still);
    const b = fly(Float64Array.of(3, -4, 0));
    expect(b[0]! - a[0]!).toBeCloseTo(15, 6);
    expect(b[1]! - a[1]!).toBeCloseTo(-20, 6);
  });

  it('hardly changes with half the time step over a glide of 20 s', () => {
    const fly = (dt: number) => {
      const plant = new Plant(turnstone);
      plant.velocity[0] = 15;
      plant.position[2] = -300;
      for (let k = 0; k < 20 / dt; k++) plant.step(still, dt);
      return plant.position;
    };
    const a = fly(0.001);
    const b = fly(0.0005);
    expect(Math.hypot(a[0]! - b[0]!, a[2]! - b[2]!) / Math.hypot(b[0]!, 300)).toBeLessThan(0.01);
  });
});

describe('propulsion and battery', () => {
  it('settles where motor and propeller torque are equal', () => {
    const unit = new MotorUnit(turnstone.motors[0]!);
    unit.meet(0.7, 15, 0, 1.2);
    for (let k = 0; k < 4000; k++) unit.step(0.001);
    const torqueConstant = 60 / (2 * Math.PI * 900);
    const current = (0.7 * 15 - unit.omega * torqueConstant) / 0.06;
    expect((current - 0.7) * torqueConstant).toBeCloseTo(unit.torque, 3);
    expect(unit.thrust).toBeGreaterThan(4);
  });

  it('pulls less at speed, and never more than the battery gives', () => {
    const still = new MotorUnit(turnstone.motors[0]!);
    const fast = new MotorUnit(turnstone.motors[0]!);
    still.meet(1, 15, 0, 1.2);
    fast.meet(1, 15, 20, 1.2);
    for (let k = 0; k < 3000; k++) {
      still.step(0.001);
      fast.step(0.001);
    }
    expect(fast.thrust).toBeLessThan(0.6 * still.thrust);
    expect(fast.thrust * 20).toBeLessThan(fast.currentA * 15);
  });

  it('sags by current times resistance and counts what was drawn', () => {
    const b = new Battery('lipo', 4, 5 * 3600, 0.014);
    b.currentA = 20;
    b.step(0.001);
    expect(b.voltage).toBeCloseTo(4 * openCircuitV('lipo', 1) - 0.28, 3);
    b.currentA = 5;
    for (let k = 0; k < 3600; k++) b.step(1);
    expect(b.empty).toBe(true);
    expect(openCircuitV('lipo', 0.5)).toBeGreaterThan(openCircuitV('lipo', 0.2));
  });
});

describe('wind', () => {
  it('is as given at 10 m and grows with the logarithm of height', () => {
    expect(windAtHeight(8, 10)).toBeCloseTo(8, 9);
    expect(windAtHeight(8, 100) - windAtHeight(8, 10)).toBeCloseTo((8 * Math.LN10) / Math.log(10 / 0.03), 6);
  });

  it('blows from where it is said to', () => {
    const wind = new Wind({ speedMps: 5, fromDeg: 230, gustMps: 0 }, 1);
    wind.step(10, 15, 0.01);
    expect(wind.velocity[0]).toBeGreaterThan(0);
    expect(wind.velocity[1]).toBeGreaterThan(0);
  });

  it('gusts with the spread asked for, and the same for the same seed', () => {
    const run = (seed: number) => {
      const wind = new Wind({ speedMps: 8, fromDeg: 0, gustMps: 2 }, seed);
      let sum = 0;
      let squares = 0;
      const mean = windAtHeight(8, 100);
      for (let k = 0; k < 200_000; k++) {
        wind.step(100, 16, 0.05);
        const u = -wind.velocity[0]! - mean;
        sum += u;
        squares += u * u;
      }
      return Math.sqrt(squares / 200_000 - (sum / 200_000) ** 2);
    };
    expect(run(4)).toBe(run(4));
    expect(run(4)).toBeGreaterThan(1.8);
    expect(run(4)).toBeLessThan(2.2);
  });
});
