/** The model against second opinions: closed forms, tables, a lattice written apart. Seconds, no flights. */

import { tiltBetween } from '../../src/bench/judge/evidence.ts';
import { kinds } from '../../src/core/airframe/actuators.ts';
import { type Airframe, isRotorcraft, planformOf } from '../../src/core/airframe/airframe.ts';
import { unfitness } from '../../src/core/airframe/fitness.ts';
import { avocet, dunlin, flock, ruff, sandpiper, turnstone } from '../../src/core/airframe/library.ts';
import { inertiaOf } from '../../src/core/airframe/massModel.ts';
import { stallSpeed, trimLevel, turnRadius } from '../../src/core/airframe/performance.ts';
import { densityOn, STANDARD_DAY } from '../../src/core/flight/atmosphere.ts';
import { latticeOf } from '../../src/core/flight/lattice.ts';
import { pairLiftSlope, planformArea } from '../../src/core/flight/panels.ts';
import { HOUSE_CURRENT_A, Plant } from '../../src/core/flight/plant.ts';
import { MotorUnit } from '../../src/core/flight/propulsion.ts';
import { gustLaw, Wind, windAtHeight } from '../../src/core/flight/wind.ts';
import { DEG } from '../../src/core/math/scalar.ts';
import { aloft, run } from '../../src/testing/aloft.ts';
import { anyCraft } from '../../src/testing/anyCraft.ts';
import { steadiness } from '../../src/testing/steadiness.ts';
import { weissinger } from '../../src/testing/weissinger.ts';

export interface Check {
  readonly name: string;
  /** What it is held against. */
  readonly source: string;
  readonly independent: number;
  readonly ours: number;
  readonly unit: string;
  /** Between both, percent of the independent value unless said otherwise. */
  readonly error: number;
  readonly bound: number;
  readonly holds: boolean;
}

function check(
  name: string,
  source: string,
  unit: string,
  independent: number,
  ours: number,
  bound: number,
): Check {
  const error = 100 * Math.abs(ours / independent - 1);
  return {
    name,
    source,
    unit,
    independent: tidy(independent),
    ours: tidy(ours),
    error: tidy(error),
    bound,
    holds: error <= bound,
  };
}

/** A share or size that has to stay under a bound of its own. */
function under(name: string, source: string, unit: string, ours: number, bound: number): Check {
  return {
    name,
    source,
    unit,
    independent: 0,
    ours: tidy(ours),
    error: tidy(ours),
    bound,
    holds: ours <= bound,
  };
}

const tidy = (x: number) => Number(x.toPrecision(4));
const still = new Float64Array(3);

export function modelChecks(full: boolean): Check[] {
  return [
    check(
      'density at 1000 m',
      'U.S. Standard Atmosphere 1976, table I',
      'kg/m^3',
      1.1117,
      densityOn(STANDARD_DAY, 1000),
      0.05,
    ),
    check(
      'wind at 150 m over that at 10 m',
      'ln(150/0.03)/ln(10/0.03)',
      '',
      8.5172 / 5.8091,
      windAtHeight(1, 150),
      0.1,
    ),
    check(
      'gust length at 100 ft',
      'MIL-F-8785C, 3.7.3.4, by hand',
      'm',
      153.9,
      gustLaw({ along: 0, upright: 0, uprightShare: 0 }, 30.48).along,
      0.5,
    ),
    ...wings(),
    ...gusts(full ? 6 : 2),
    ...energies(),
    tumble(),
    efficiency(),
    ...stalls(),
    turn(),
    ...beliefs(),
    steady(full ? 25 : 4),
  ];
}

function wings(): Check[] {
  const out: Check[] = [];
  for (const a of flock.filter((x) => !isRotorcraft(x))) {
    const plan = planformOf(a, 'wing')!;
    const flat = { ...plan, upM: 0 };
    const second = weissinger(flat);
    const area = planformArea(plan);
    const level = Math.cos(plan.dihedralDeg * DEG);
    out.push(
      check(
        `${a.name}: lift slope`,
        'a second lattice',
        '1/rad',
        second.liftSlope / level ** 2,
        pairLiftSlope(plan),
        7,
      ),
      check(
        `${a.name}: roll damping`,
        'a second lattice',
        '',
        second.rollDamping,
        -latticeOf(plan).rollByRoll / (area * plan.spanM) / (plan.spanM / 2),
        10,
      ),
      check(
        `${a.name}: roll by slip at C_L 0.5, sweep and dihedral`,
        'a second lattice',
        '',
        0.5 * second.rollBySlipPerLift + second.rollByDihedral,
        (0.5 * latticeOf(plan).rollBySlip) / plan.spanM -
          (latticeOf(plan).rollByTwist * Math.sin(plan.dihedralDeg * DEG)) / (area * plan.spanM),
        10,
      ),
    );
  }
  const tail = planformOf(sandpiper, 'tail')!;
  out.push(
    check(
      'V-tail: force by unlike halves',
      'a second lattice',
      '1/rad',
      weissinger(tail).sideByTwist,
      latticeOf(tail).sideByTwist / planformArea(tail),
      10,
    ),
  );
  return out;
}

function gusts(seeds: number): Check[] {
  const sums = [0, 0, 0];
  const h = 40;
  for (let seed = 1; seed <= seeds; seed++) {
    const wind = new Wind({ speedMps: 0, fromDeg: 180, gustMps: 1 }, seed);
    const n = 400_000;
    for (let k = 0; k < n; k++) {
      // Crossed fast, so that more of them are met.
      wind.step(h, 50, 0.01);
      for (let i = 0; i < 3; i++) sums[i]! += wind.velocity[i]! ** 2 / n / seeds;
    }
  }
  const share = (0.177 + 0.000823 * (h / 0.3048)) ** 0.8;
  return [
    check('gusts: variance along', 'the law', '', 1, sums[0]!, 5),
    check('gusts: variance across', 'the law', '', 1, sums[1]!, 5),
    check('gusts: variance upright', 'the law', '', share, sums[2]!, 5),
  ];
}

function energies(): Check[] {
  return flock.map((a) => {
    const plant = new Plant({ ...a, battery: { ...a.battery, cellResistanceOhm: 0.05 } });
    plant.position[2] = -500;
    const b = plant.battery;
    let drawn = 0;
    let counted = 0;
    for (let k = 0; k < 10_000; k++) {
      plant.duties.fill(0.45 + 0.3 * Math.sin(k / 500));
      plant.velocity.fill(0);
      plant.rates.fill(0);
      const open = b.openV;
      plant.step(still, 0.001);
      drawn += open * b.currentA;
      counted += b.currentA ** 2 * b.resistanceOhm + b.voltage * HOUSE_CURRENT_A;
      for (const m of plant.motors)
        counted += m.windingA ** 2 * m.resistanceOhm + m.windingA * m.torqueConstant * m.omega;
    }
    return check(
      `${a.name}: cells against shaft work and losses`,
      'conservation of energy',
      'W s',
      drawn / 1000,
      counted / 1000,
      0.5,
    );
  });
}

function tumble(): Check {
  const plant = new Plant(avocet);
  plant.day = { pressurePa: 0, temperatureK: 288 };
  plant.rates.set([6, -4, 5]);
  const energy = () => {
    const i = inertiaOf(avocet);
    const w = plant.rates;
    return 0.5 * (i.xx * w[0]! ** 2 + i.yy * w[1]! ** 2 + i.zz * w[2]! ** 2);
  };
  const before = energy();
  for (let k = 0; k < 20_000; k++) plant.step(still, 0.001);
  return check(
    'energy of a tumble of 20 s without air',
    'conservation of energy',
    'J',
    before,
    energy(),
    0.1,
  );
}

function efficiency(): Check {
  let most = 0;
  for (const ratio of [0.3, 0.6, 0.9, 1.2, 1.4])
    for (const speed of [0, 6, 12, 20, 30, 45]) {
      const unit = new MotorUnit({ ...turnstone.motors[0]!, propPitchM: ratio * 0.229, maxCurrentA: 300 });
      unit.settle(0.8, 15, speed, 1.225);
      if (unit.thrust <= 0) continue;
      const disc = (Math.PI * 0.229 ** 2) / 4;
      const v = -speed / 2 + Math.sqrt((speed / 2) ** 2 + unit.thrust / (2 * 1.225 * disc));
      most = Math.max(most, (unit.thrust * (speed + v)) / (unit.torque * unit.omega));
    }
  return under('propellers: best over momentum theory', 'Glauert 1935', 'share', most, 1);
}

function stalls(): Check[] {
  return flock
    .filter((a) => !isRotorcraft(a))
    .map((a) => {
      const stall = stallSpeed(a);
      let least = 2 * stall;
      for (let v = 1.3 * stall; v > 0.8 * stall && trimLevel({ ...a, motors: [] }, v); v -= 0.005 * stall)
        least = v;
      return check(
        `${a.name}: stall speed`,
        'least speed that Newton’s method trims',
        'm/s',
        least,
        stall,
        5,
      );
    });
}

function turn(): Check {
  const f = aloft(turnstone, { heightM: 300 });
  f.radio.roll = 0.5;
  run(f, 15);
  let way = 0;
  let turned = 0;
  let bank = 0;
  let speed = 0;
  let last = Math.atan2(f.plant.velocity[1]!, f.plant.velocity[0]!);
  let [n, e] = [f.plant.position[0]!, f.plant.position[1]!];
  run(f, 20, () => {
    const p = f.plant;
    const course = Math.atan2(p.velocity[1]!, p.velocity[0]!);
    turned += Math.atan2(Math.sin(course - last), Math.cos(course - last));
    last = course;
    way += Math.hypot(p.position[0]! - n, p.position[1]! - e);
    [n, e] = [p.position[0]!, p.position[1]!];
    const q = p.attitude;
    bank += Math.atan2(2 * (q[0]! * q[1]! + q[2]! * q[3]!), 1 - 2 * (q[1]! ** 2 + q[2]! ** 2)) / 20_000;
    speed += p.airspeed / 20_000;
  });
  return check(
    'Turnstone 1600: radius of a turn in Level',
    'V^2/(g tan bank)',
    'm',
    turnRadius(speed, bank),
    way / turned,
    10,
  );
}

function believed(a: Airframe, sticks: (f: ReturnType<typeof aloft>) => void): number {
  const f = aloft(a, { wind: { speedMps: 9, fromDeg: 230, gustMps: 2 }, heightM: 300 });
  f.radio.attitude = 1;
  run(f, 5);
  let sum = 0;
  let n = 0;
  let k = 0;
  run(f, 60, () => {
    if (k++ % 20 !== 0) return;
    sticks(f);
    sum += tiltBetween(f.plant.attitude, f.pfad.controller.attitude.attitude) ** 2;
    n++;
  });
  return Math.sqrt(sum / n) / DEG;
}

function beliefs(): Check[] {
  const tilted = (f: ReturnType<typeof aloft>) => {
    f.radio.pitch = -1;
    const { hover } = f.pfad.controller.config;
    f.radio.throttle = Math.max(
      0,
      Math.min(1, 1.15 * hover.throttle + 0.02 * (300 - f.aboveGround) + 0.03 * f.plant.velocity[2]!),
    );
  };
  const slips = (f: ReturnType<typeof aloft>) => {
    f.radio.roll = 0.6;
    f.radio.yaw = -0.9;
    f.radio.pitch = 0.15;
  };
  return [
    ...[avocet, ruff].map((a) =>
      under(
        `${a.name}: attitude at full tilt for a minute`,
        'the true one',
        'degrees rms',
        believed(a, tilted),
        5,
      ),
    ),
    ...[turnstone, dunlin, sandpiper].map((a) =>
      under(`${a.name}: attitude in a slipping turn`, 'the true one', 'degrees rms', believed(a, slips), 5),
    ),
  ];
}

/** Craft by chance on their starting values: share that swings, overshoots or falls. */
function steady(each: number): Check {
  let bad = 0;
  let flown = 0;
  let refused = 0;
  for (const kind of kinds)
    for (let seed = 0; seed < each; seed++) {
      const a = anyCraft(kind, seed);
      if (unfitness(a).some((u) => u.grade === 'cannot')) {
        refused++;
        continue;
      }
      flown++;
      const usual = steadiness(a);
      const hot = steadiness(a, 1.5);
      const ok =
        usual.finite &&
        hot.finite &&
        !usual.upset &&
        !hot.upset &&
        usual.overshoot < 0.25 &&
        usual.unrest < 0.15 &&
        hot.unrest < 0.25;
      if (!ok) bad++;
    }
  return under(
    `craft by chance that do not rest: ${flown} flown, ${refused} refused`,
    'a step of bank, at once and one and a half times the gains',
    'of them',
    bad,
    0,
  );
}
