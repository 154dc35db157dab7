import type { Airframe } from '../airframe/airframe.ts';
import { inertiaOf } from '../airframe/massModel.ts';
import { stallSpeed, trimLevel, turnRadius } from '../airframe/performance.ts';
import { SEA_LEVEL_DENSITY } from '../flight/atmosphere.ts';
import { PanelModel } from '../flight/panels.ts';
import { MotorUnit } from '../flight/propulsion.ts';
import { clamp, DEG, GRAVITY } from '../math/scalar.ts';
import type { SettingValue } from './catalogue.ts';

/** A value computed for this craft, and the reason in a sentence. */
export interface StartingValue {
  readonly key: string;
  readonly value: SettingValue;
  readonly why: string;
}

interface Axis {
  /** Steady rate per share of full surface, rad/s. */
  readonly rate: number;
  /** Time constant, s. */
  readonly time: number;
  /** Acceleration per share of full surface, rad/s^2. */
  readonly accel: number;
}

/**
 * How the craft answers full surface about one axis at a speed, from numerical derivatives of the panel
 * model: roll as one degree of freedom, pitch and yaw with the angle of attack or slip left to settle.
 */
function answerOf(airframe: Airframe, axis: 0 | 1 | 2, speed: number, rho: number): Axis {
  const panels = new PanelModel(airframe);
  const trim = trimLevel(airframe, speed, rho);
  const alpha = trim?.alpha ?? 0.05;
  const v = Float64Array.of(speed * Math.cos(alpha), 0, speed * Math.sin(alpha));
  const w = new Float64Array(3);
  const d = new Float64Array(panels.surfaceIds.length);
  const inertia = inertiaOf(airframe);
  const i = [inertia.xx, inertia.yy, inertia.zz][axis]!;
  const evaluate = (): [moment: number, side: number] => {
    panels.evaluate(v, w, d, rho);
    return [panels.moment[axis]! / i, panels.force[axis === 1 ? 2 : 1]! / airframe.massKg];
  };
  const [m0, f0] = evaluate();
  const h = 1e-4;
  w[axis] = h;
  const damping = (evaluate()[0] - m0) / h;
  w[axis] = 0;
  const share = [rollShare, pitchShare, yawShare][axis]!;
  airframe.surfaces.forEach((s, k) => {
    d[k] = share(s.id) * s.throwDeg * DEG * h;
  });
  const accel = (evaluate()[0] - m0) / h;
  d.fill(0);
  if (axis === 0) return { rate: -accel / damping, time: -1 / damping, accel };
  const cross = axis === 1 ? 2 : 1;
  v[cross]! += speed * h;
  const [m1, f1] = evaluate();
  const stiff = (m1 - m0) / h;
  const lift = (f1 - f0) / h;
  // Steady: M_alpha a + M_q q + M_delta = 0 and q V = -Z_alpha a (for yaw: r V = Y_beta b).
  const perRate = axis === 1 ? -speed / lift : speed / lift;
  return { rate: -accel / (damping + stiff * perRate), time: -1 / damping, accel };
}

const rollShare = (id: string) => (id === 'left-aileron' ? 1 : id === 'right-aileron' ? -1 : 0);
const pitchShare = (id: string) => (id === 'elevator' ? -1 : 0);
const yawShare = (id: string) => (id === 'rudder' ? -1 : 0);

/** Throttle that gives a thrust at a speed, all motors alike, by bisection on the settled motor model. */
function throttleFor(airframe: Airframe, thrust: number, speed: number, rho: number): number {
  const supply = airframe.battery.cells * 3.8;
  const give = (duty: number) => {
    let sum = 0;
    for (const m of airframe.motors) {
      const unit = new MotorUnit(m);
      for (let k = 0; k < 1500; k++) unit.step(duty, supply, speed, rho, 0.001);
      sum += unit.thrust;
    }
    return sum;
  };
  let low = 0;
  let high = 1;
  for (let k = 0; k < 14; k++) {
    const mid = (low + high) / 2;
    if (give(mid) < thrust) low = mid;
    else high = mid;
  }
  return high;
}

const round = (value: number, step: number) => Number((Math.round(value / step) * step).toFixed(4));

/** Starting values for a fixed-wing craft, each with its reason. SI but for the keys' own units. */
export function startingValues(airframe: Airframe): StartingValue[] {
  const out: StartingValue[] = [];
  const put = (key: string, value: SettingValue, why: string) => {
    out.push({ key, value, why });
  };
  const rho = SEA_LEVEL_DENSITY;
  const stall = stallSpeed(airframe, rho);
  const cruise = round(1.8 * stall, 0.5);
  const home = round(2.4 * stall, 0.5);
  const trim = trimLevel(airframe, cruise, rho);
  const stallText = `stall speed ${stall.toFixed(1)} m/s`;
  put('nav.speed', cruise, `1.8 times the ${stallText}.`);
  put('rate.reference', cruise, 'Gains are written for the cruise speed.');
  put(
    'return.speed',
    home,
    `2.4 times the ${stallText}: makes way against wind and stays far from the stall.`,
  );
  put('nav.speedFloor', round(1.25 * stall, 0.5), `1.25 times the ${stallText}.`);
  const bank = 45;
  put('level.bank', bank, 'Raises the stall speed by a fifth; cruise stays well above that.');
  const radius = turnRadius(home, 30 * DEG);
  put(
    'loiter.radius',
    Math.max(30, round(1.4 * radius, 5)),
    'Flown with about 25° of bank at return speed, with room for wind.',
  );
  if (trim) {
    put(
      'level.pitch',
      round(trim.alpha / DEG, 0.1),
      'Angle of attack in level flight at cruise speed, from the panel model.',
    );
    const throttle = throttleFor(airframe, trim.thrust, cruise, rho);
    put(
      'motor.cruise',
      round(throttle, 0.01),
      `Gives the ${trim.thrust.toFixed(1)} N of thrust that cruise needs.`,
    );
    const climbThrust = trim.thrust + (airframe.massKg * GRAVITY) / cruise;
    const more = throttleFor(airframe, climbThrust, cruise, rho) - throttle;
    put(
      'motor.perClimb',
      clamp(round(more, 0.005), 0.01, 0.5),
      'Thrust that carries the weight up at 1 m/s, from the propeller model.',
    );
    let spare = 0;
    for (const m of airframe.motors) {
      const unit = new MotorUnit(m);
      for (let k = 0; k < 1500; k++) unit.step(1, airframe.battery.cells * 3.6, cruise, rho, 0.001);
      spare += unit.thrust;
    }
    const climb = ((spare - trim.thrust) * cruise) / (airframe.massKg * GRAVITY);
    put('nav.climb', clamp(round(0.5 * climb, 0.1), 0.8, 4), 'Half of what full throttle could climb.');
  }
  const axes: readonly (readonly [0 | 1 | 2, string])[] = [
    [0, 'roll'],
    [1, 'pitch'],
    [2, 'yaw'],
  ]; // prettier-ignore
  for (const [axis, name] of axes) {
    const a = answerOf(airframe, axis, cruise, rho);
    if (!(a.rate > 0.05) || !(a.accel > 0)) continue;
    const forward = 1 / a.rate;
    // Crossover of the loop stays under about 7 rad/s, well inside servo and filter delay.
    const p = Math.min(0.5 * forward, (name === 'yaw' ? 3 : 7) / a.accel);
    const rate = `${(a.rate / DEG).toFixed(0)} °/s at full surface`;
    if (name !== 'yaw')
      put(`rate.${name}.forward`, clamp(round(forward, 0.005), 0.005, 2), `The panel model turns ${rate}.`);
    else
      put(
        'rate.yaw.forward',
        Math.min(0.4, round(0.3 * forward, 0.005)),
        `The panel model yaws ${rate}; the fin does the rest.`,
      );
    put(
      `rate.${name}.p`,
      clamp(round(p, 0.005), 0.005, 2),
      'Half the feed-forward, bounded by servo and filter delay.',
    );
    put(
      `rate.${name}.i`,
      clamp(round(1.5 * p, 0.005), 0.005, 4),
      'Takes out a lasting error within about a second.',
    );
    const max = { roll: 150, pitch: 90, yaw: 60 }[name]!;
    put(
      `rate.${name}.max`,
      clamp(round((0.6 * a.rate) / DEG, 5), 20, max),
      'Well within what the surface can do.',
    );
  }
  if (airframe.motors.length === 2) put('mix.differential', 0.25, 'Two motors help the rudder at low speed.');
  put('mix.aileronUp', 0.3, 'The up-going aileron moves further, against adverse yaw.');
  put('mix.turnRudder', 0.1, 'A little rudder with aileron, against adverse yaw.');
  put('battery.cells', airframe.battery.cells, `The battery has ${airframe.battery.cells} cells.`);
  put('battery.capacity', airframe.battery.capacityMah, 'Capacity of the battery described.');
  put('arm.channel', 5, 'A two-position switch on channel 5.');
  put('mode.level.channel', 6, 'The middle of the three-position switch on channel 6.');
  put('mode.level.from', 1300, 'The middle position of the switch.');
  put('mode.level.to', 1700, 'The middle position of the switch.');
  put('mode.rate.channel', 6, 'The far end of the switch on channel 6.');
  put('mode.return.channel', 7, 'A two-position switch on channel 7.');
  put('lost.action', 'return', 'A craft that comes home beats one that falls.');
  put('return.climb', 'climb-first', 'A hill between here and home is cleared before the turn.');
  put('return.arrival', 'circle-low', 'Comes down to where the pilot can see it.');
  return out;
}
