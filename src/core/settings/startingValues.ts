import { kindNames } from '../airframe/actuators.ts';
import { type Airframe, isRotorcraft } from '../airframe/airframe.ts';
import { FlightPower } from '../airframe/flightPower.ts';
import { inertiaOf } from '../airframe/massModel.ts';
import {
  dutyFor,
  hoverOf,
  motorLag,
  precessionRate,
  stallSpeed,
  supplyUnderLoad,
  thrustAt,
  trimLevel,
  turnRadius,
} from '../airframe/performance.ts';
import { shaftHz } from '../airframe/shaftSpeed.ts';
import { type Answer, answerOf } from '../airframe/turning.ts';
import { boardOffset } from '../airframe/weights.ts';
import { SEA_LEVEL_DENSITY } from '../flight/atmosphere.ts';
import { MotorUnit } from '../flight/propulsion.ts';
import type { HomeGround } from '../flight/terrain.ts';
import { clamp, DEG, GRAVITY } from '../math/scalar.ts';
import { roleMix } from '../mixer/roles.ts';
import { GROUND_MARGIN_M, groundInReach, HOME_REACH_M } from '../navigation/returnPlan.ts';
import type { SettingValue, Values } from './catalogue.ts';
import { settingOf } from './typed.ts';

/** A value computed for this craft, and the reason in a sentence. */
export interface StartingValue {
  readonly key: string;
  readonly value: SettingValue;
  readonly why: string;
}

type Put = (key: string, value: SettingValue, why: string) => void;
const round = (value: number, step: number) => Number((Math.round(value / step) * step).toFixed(5));
const RHO = SEA_LEVEL_DENSITY;
/** Return heights proposed, m above home. */
const RETURN_LEAST_M = 60;
const RETURN_MOST_M = 1000;

/** Starting values for a craft, each with its reason. SI but for the keys' own units. */
export function startingValues(airframe: Airframe, ground?: HomeGround): StartingValue[] {
  const out: StartingValue[] = [];
  const put: Put = (key, value, why) => {
    out.push({ key, value, why });
  };
  put('craft.kind', airframe.kind, `The craft is a ${kindNames[airframe.kind]}.`);
  if (isRotorcraft(airframe)) rotorValues(airframe, put);
  else wingValues(airframe, put);
  commonValues(airframe, put);
  if (ground) {
    put(
      'return.height',
      clamp(groundInReach(ground).needM, RETURN_LEAST_M, RETURN_MOST_M),
      `Clears the highest ground within ${HOME_REACH_M / 1000} km of home by ${GROUND_MARGIN_M} m.`,
    );
  }
  homeCharges(airframe, out, put);
  otherSets(out, put);
  return out;
}

/** Whether the values look as if they were computed for this craft, or tuned on it. */
export function startedFor(airframe: Airframe, values: Values): boolean {
  const near = (key: string, wanted: number) => Math.abs((values[key] as number) / wanted - 1) < 0.15;
  if (settingOf(values, 'craft.kind') !== airframe.kind) return false;
  return isRotorcraft(airframe)
    ? near('hover.throttle', hoverOf(airframe).throttle)
    : near('rate.reference', 1.8 * stallSpeed(airframe));
}

/** What the way home takes of the battery, by the panel model or the rotors, for a board that reckons with it. */
function homeCharges(airframe: Airframe, known: readonly StartingValue[], put: Put): void {
  const number = (key: string, otherwise: number) => {
    const value = known.find((s) => s.key === key)?.value;
    return typeof value === 'number' ? value : otherwise;
  };
  const power = new FlightPower(airframe, { rho: RHO, maxDuty: number('motor.max', 1) });
  const rotors = isRotorcraft(airframe);
  const speedMps = number('return.speed', 0);
  const climbMps = number('nav.climb', 2);
  const supply = supplyUnderLoad(airframe);
  const level = power.watts({ speedMps, climbMps: 0, load: 1 }) / supply;
  const load = rotors ? 1 : Math.hypot(1, speedMps ** 2 / (GRAVITY * number('loiter.radius', 60)));
  const climb = power.watts({ speedMps: rotors ? 0 : speedMps, climbMps, load }) / supply;
  if (!Number.isFinite(level) || !Number.isFinite(climb)) return;
  put(
    'battery.homeCurrent',
    clamp(round(level, 0.1), 0.1, 400),
    `Level at the return speed it takes ${level.toFixed(1)} A, with everything on it.`,
  );
  put(
    'battery.climbCharge',
    clamp(round((climb * 100) / climbMps / 3.6, 1), 1, 5000),
    `A hundred metres take ${Math.round(100 / climbMps)} s of climbing at ${climb.toFixed(1)} A.`,
  );
}

function commonValues(airframe: Airframe, put: Put): void {
  const board = boardOffset(airframe);
  if (board) {
    const why = 'Where the board lies from the centre of gravity, by the weights of the parts.';
    put('mount.forward', round(1000 * board.forwardM, 1), why);
    put('mount.right', round(1000 * board.rightM, 1), why);
    put('mount.up', round(1000 * board.upM, 1), why);
  }
  const cell = airframe.battery.chemistry === 'lipo';
  put('battery.cells', airframe.battery.cells, `The battery has ${airframe.battery.cells} cells.`);
  put('battery.capacity', airframe.battery.capacityMah, 'Capacity of the battery described.');
  put('battery.chemistry', airframe.battery.chemistry, 'Chemistry of the battery described.');
  if (!cell) {
    put('battery.low', 3.1, 'Li-ion cells may go lower than LiPo.');
    put('battery.empty', 2.7, 'Li-ion cells may go lower than LiPo.');
  }
  put('arm.channel', 5, 'A two-position switch on channel 5.');
  put('mode.level.channel', 6, 'The middle of the three-position switch on channel 6.');
  put('mode.level.from', 1300, 'The middle position of the switch.');
  put('mode.level.to', 1700, 'The middle position of the switch.');
  put('mode.rate.channel', 6, 'The far end of the switch on channel 6.');
  put('mode.return.channel', 7, 'A two-position switch on channel 7.');
  put('lost.action', 'return', 'A craft that comes home beats one that falls.');
  put('return.climb', 'climb-first', 'A hill between here and home is cleared before the turn.');
  const speed = propellerSpeed(airframe);
  if (speed > 0) {
    put(
      'gyro.notch',
      clamp(round(speed, 1), 0, 450),
      `The propellers turn ${Math.round(speed)} times a second when flying level.`,
    );
    put('gyro.notchFollows', true, 'Propellers turn faster with more throttle.');
    const power = shaftPower(airframe);
    if (power !== null)
      put(
        'gyro.notchPower',
        power,
        'By this power of the throttle the propellers turn faster, by their motors’ model.',
      );
  }
}

/** Turns a second of the propellers in level flight or hover; 0 where nobody knows. */
function propellerSpeed(airframe: Airframe): number {
  if (airframe.motors.length === 0) return 0;
  if (isRotorcraft(airframe)) return shaftHz(airframe, hoverOf(airframe).throttle, 0);
  const speed = 1.8 * stallSpeed(airframe);
  const trim = trimLevel(airframe, speed);
  return trim ? shaftHz(airframe, dutyFor(airframe, trim.thrust, speed), speed) : 0;
}

/** Power of the throttle by which propellers turn faster, between half throttle and all of it; null without motors. */
function shaftPower(airframe: Airframe): number | null {
  if (airframe.motors.length === 0) return null;
  const speed = isRotorcraft(airframe) ? 0 : 1.8 * stallSpeed(airframe);
  const times = shaftHz(airframe, 1, speed) / shaftHz(airframe, 0.5, speed);
  return clamp(round(Math.log2(times), 0.05), 0.3, 1.5);
}

/** The other two control sets: a calmer and a livelier one about the first. */
function otherSets(first: readonly StartingValue[], put: Put): void {
  for (const { key, value } of [...first]) {
    const rate = /^rate\.(roll|pitch|yaw)\.(max|forward|p|i|d)$/.exec(key);
    const level = /^level\.(time|bank|up|down)$/.exec(key);
    if (typeof value !== 'number' || (!rate && !level)) continue;
    const part = rate?.[2] ?? level![1]!;
    const [calm, lively] = {
      max: [0.7, 1.3],
      time: [1.3, 1],
      bank: [0.8, 1.1],
      up: [0.8, 1],
      down: [0.8, 1],
    }[part] ?? [0.8, 1];
    const step = part === 'bank' || part === 'up' || part === 'down' ? 1 : part === 'max' ? 5 : 0.0001;
    const scaled = (k: number) =>
      clamp(round(value * k, step), part === 'max' ? 10 : 0, part === 'bank' ? 75 : 720);
    // A reason that fits the value that came out, bounds and rounding among it.
    const reason = (v: number, words: string) => (v === value ? 'As in the first set.' : words);
    const [second, third] = [scaled(calm!), scaled(lively!)];
    put(`set.2.${key}`, second, reason(second, 'Calmer than the first set, for a first flight.'));
    put(`set.3.${key}`, third, reason(third, 'Livelier than the first set.'));
  }
}

// ---- wings ----

function wingValues(airframe: Airframe, put: Put): void {
  const stall = stallSpeed(airframe, RHO);
  const cruise = round(1.8 * stall, 0.5);
  const home = round(2.4 * stall, 0.5);
  const trim = trimLevel(airframe, cruise, RHO);
  const stallText = `stall speed ${stall.toFixed(1)} m/s`;
  put('nav.speed', cruise, `1.8 times the ${stallText}.`);
  put('rate.reference', cruise, 'Gains are written for the cruise speed.');
  put(
    'return.speed',
    home,
    `2.4 times the ${stallText}: makes way against wind and stays far from the stall.`,
  );
  put('nav.speedFloor', round(1.25 * stall, 0.5), `1.25 times the ${stallText}.`);
  put('land.speed', round(1.35 * stall, 0.5), `1.35 times the ${stallText}.`);
  put('level.bank', 45, 'Raises the stall speed by a fifth; cruise stays well above that.');
  put('level.up', 22, 'Steep enough to climb, shallow enough to keep its speed.');
  put('level.down', 18, 'Steep enough to come down, shallow enough not to dive.');
  put('level.time', 0.35, 'Levels within about a second.');
  const radius = turnRadius(home, 30 * DEG);
  put(
    'loiter.radius',
    Math.max(30, round(1.4 * radius, 5)),
    'Flown with about 25° of bank at return speed, with room for wind.',
  );
  if (trim) powerValues(airframe, cruise, trim.alpha, trim.thrust, put);
  for (const [axis, name] of [
    [0, 'roll'],
    [1, 'pitch'],
    [2, 'yaw'],
  ] as const)
    axisValues(answerOf(airframe, axis, cruise), name, put);
  const slowest = slowestServo(airframe);
  if (slowest !== null)
    put(
      'tune.servo',
      clamp(round(slowest, 0.005), 0.02, 0.5),
      'The slowest of the servos described, from its middle to its end.',
    );
  if (airframe.motors.length === 2) put('mix.differential', 0.25, 'Two motors help the rudder at low speed.');
  if (airframe.surfaces.some((s) => s.id.endsWith('aileron'))) {
    put('mix.aileronUp', 0.3, 'The up-going aileron moves further, against adverse yaw.');
    put('mix.turnRudder', 0.1, 'A little rudder with aileron, against adverse yaw.');
  }
  if (airframe.surfaces.some((s) => s.id.endsWith('flap'))) {
    put('flap.pitch', -0.1, 'Flaps down raise the nose; a little down elevator meets that.');
  }
  put('return.arrival', 'circle-low', 'Comes down to where the pilot can see it.');
}

/** From its middle to its end, s, the slowest of the servos that turn a wing; null where none is described. */
function slowestServo(airframe: Airframe): number | null {
  const each = airframe.surfaces.flatMap(({ linkage }) =>
    linkage ? [linkage.servoTravelDeg / linkage.servoSpeedDegPerS] : [],
  );
  return each.length > 0 ? Math.max(...each) : null;
}

function powerValues(airframe: Airframe, cruise: number, alpha: number, thrust: number, put: Put): void {
  const weight = airframe.massKg * GRAVITY;
  put(
    'level.pitch',
    clamp(round(alpha / DEG, 0.1), -10, 15),
    'Angle of attack in level flight at cruise speed, from the panel model.',
  );
  const throttle = dutyFor(airframe, thrust, cruise);
  put(
    'motor.cruise',
    clamp(round(throttle, 0.01), 0.1, 0.9),
    `Gives the ${thrust.toFixed(1)} N of thrust that cruise needs.`,
  );
  const more = dutyFor(airframe, thrust + weight / cruise, cruise) - throttle;
  put(
    'motor.perClimb',
    clamp(round(more, 0.005), 0.01, 0.5),
    'Thrust that carries the weight up at 1 m/s, from the propeller model.',
  );
  const climb = ((thrustAt(airframe, 1, cruise).thrust - thrust) * cruise) / weight;
  put('nav.climb', clamp(round(0.5 * climb, 0.1), 0.8, 4), 'Half of what full throttle could climb.');
}

const MAX_RATE = { roll: 150, pitch: 90, yaw: 60 } as const;

function axisValues(a: Answer, name: 'roll' | 'pitch' | 'yaw', put: Put): void {
  if (!(a.rate > 0.05) || !(a.accel > 0)) {
    // Nothing answers this axis: a wing without a rudder.
    for (const part of ['forward', 'p', 'i'])
      put(`rate.${name}.${part}`, 0, 'No surface turns this craft so.');
    return;
  }
  const forward = 1 / a.rate;
  // Crossover of the loop stays under about 9 rad/s, well inside servo and filter delay.
  const p = Math.min(0.6 * forward, (name === 'yaw' ? 3 : 9) / a.accel);
  const rate = `${(a.rate / DEG).toFixed(0)} °/s at full command`;
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
    clamp(round(p, 0.001), 0.002, 2),
    p < 0.6 * forward
      ? 'As much as servo and filter delay allow; the feed-forward does the rest.'
      : 'Six tenths of what a full rate asks of the surface.',
  );
  put(
    `rate.${name}.i`,
    clamp(round(1.5 * p, 0.001), 0.002, 4),
    'Takes out a lasting error within about a second.',
  );
  put(
    `rate.${name}.max`,
    clamp(round((0.6 * a.rate) / DEG, 5), 20, MAX_RATE[name]),
    'Well within what the surface can do.',
  );
}

// ---- rotors ----

/** Delay of gyro filter, loop and pulses together, s. */
const LOOP_DELAY_S = 0.008;

function rotorValues(airframe: Airframe, put: Put): void {
  const hover = hoverOf(airframe);
  const inertia = inertiaOf(airframe);
  const n = airframe.motors.length;
  // Thrust of one motor per share of duty about the hover, N.
  const slope =
    (thrustAt(airframe, hover.throttle + 0.05, 0).thrust -
      thrustAt(airframe, hover.throttle - 0.05, 0).thrust) /
    0.1 /
    n;
  const lag = motorLag(airframe, hover.throttle);
  const axis = (name: 'roll' | 'pitch' | 'yaw', accel: number, cross: number, why: string) => {
    const p = cross / accel;
    put(`rate.${name}.forward`, 0, 'A rotor needs no surface held over to keep turning.');
    put(`rate.${name}.p`, clamp(round(p, 0.0001), 0.0005, 2), why);
    put(
      `rate.${name}.i`,
      clamp(round(p * cross * lasting, 0.0001), 0.0005, 4),
      `P times ${(cross * lasting).toFixed(1)} a second: slower than the crossover by so much.`,
    );
    put(
      `rate.${name}.d`,
      name === 'yaw' ? 0 : clamp(round(0.35 * p * lag, 0.00001), 0, 0.2),
      'Makes up for part of the lag of the motors.',
    );
  };
  let roll = 0;
  let pitch = 0;
  let yaw = 0;
  for (const m of airframe.motors) {
    const role = roleMix(m.id, airframe.kind);
    roll += -m.rightM * slope * role.roll;
    pitch += (airframe.cgAftM - m.aftM) * slope * role.pitch;
    yaw += Math.abs(role.yaw) * reactionPerDuty(airframe, hover.throttle);
    if (m.tiltedBy) {
      const servo = airframe.surfaces.find((s) => s.id === m.tiltedBy);
      const tilt = (servo?.throwDeg ?? 30) * DEG;
      yaw += Math.abs(airframe.cgAftM - m.aftM) * ((airframe.massKg * GRAVITY) / n) * Math.sin(tilt);
    }
  }
  // Magnitude optimum of an integrating plant with one lag: half the inverse of all lags together. Slower than
  // this, the tilting moment of rotors in fast air, which the loop must hold, begins to swing the craft.
  // Momentum that does not cancel turns roll into pitch; a loop has to be faster than that.
  const turns = precessionRate(airframe);
  const cross = clamp(1 / (2 * (lag + LOOP_DELAY_S)) + 0.35 * turns, 6, 22);
  const lasting = 0.3 / (1 + turns / cross);
  const why = (what: string) =>
    `Crossover at ${cross.toFixed(0)} rad/s, as the ${Math.round(1000 * lag)} ms of motor lag allow; ${what}.`;
  axis('roll', roll / inertia.xx, cross, why('torque of the rotors over the inertia in roll'));
  axis('pitch', pitch / inertia.yy, cross, why('torque of the rotors over the inertia in pitch'));
  axis('yaw', yaw / inertia.zz, Math.min(5, 0.4 * cross), 'Yaw answers more slowly than roll and pitch.');
  put('rate.roll.max', 220, 'Lively enough, and far from what the rotors can do.');
  put('rate.pitch.max', 220, 'Lively enough, and far from what the rotors can do.');
  put('rate.yaw.max', 90, 'Rotors yaw slowly.');
  const time = round(3.2 / cross, 0.01);
  put('level.time', time, 'A third of the rate loop’s crossover.');
  for (const key of ['bank', 'up', 'down'])
    put(`level.${key}`, 38, 'Keeps three quarters of the thrust upward.');
  const hz = cross / (2 * Math.PI);
  put(
    'gyro.cutoff',
    clamp(round(60 * hz, 5), 60, 110),
    'Sixty times the crossover: less delay than the loops notice, and as little shake as may be.',
  );
  put(
    'rate.dCutoff',
    clamp(round(20 * hz, 1), 15, 60),
    'Twenty times the crossover: D acts against the lag of the motors and not on their shake.',
  );
  put('rate.sumLimit', 0.3, 'Room against wind and an uneven load.');
  hoverValues(airframe, hover, time, put);
}

function hoverValues(airframe: Airframe, hover: ReturnType<typeof hoverOf>, time: number, put: Put): void {
  put('hover.throttle', round(hover.throttle, 0.01), 'Carries the weight, from the propeller model.');
  const tilt = clamp(Math.acos(1 / Math.min(hover.thrustToWeight * 0.75, 1.25)) / DEG, 20, 36);
  put('hover.tilt', Math.round(tilt), 'Leaves a quarter of the thrust to climb with.');
  const top = hover.topSpeedMps(tilt * DEG);
  const cruise = round(clamp(0.6 * top, 4, 12), 0.5);
  put('nav.speed', cruise, `Well below the ${top.toFixed(0)} m/s that the tilt limit gives.`);
  put('return.speed', round(clamp(0.6 * top, 4, 13), 0.5), 'Over ground; wind takes the rest of the tilt.');
  put('nav.speedFloor', 4, 'Means nothing for rotors.');
  put('nav.climb', 3, 'Far from the limit of the rotors.');
  put('nav.sink', 2, 'Slower than a rotor’s own wake.');
  put('motor.cruise', clamp(round(hover.throttle, 0.01), 0.1, 0.9), 'Same as hover.');
  put('motor.idle', 0.06, 'Rotors keep turning, so that they can always answer.');
  put('motor.ramp', 0, 'A ramp would lag in the loop.');
  const velocityP = round(clamp(1 / (3.5 * time), 0.5, 1.4), 0.05);
  put('hover.velocityP', velocityP, 'Three and a half times slower than levelling.');
  put('hover.velocityI', round(0.25 * velocityP, 0.05), 'Leans into a steady wind within some seconds.');
  put('hover.positionP', round(velocityP / 3, 0.05), 'Three times slower than the velocity loop.');
  const perMps = hover.throttle / 9.81;
  put('hover.climbP', clamp(round(2.2 * perMps, 0.005), 0.01, 1), 'About 4 m/s² per m/s of climb error.');
  put(
    'hover.climbI',
    clamp(round(0.8 * perMps, 0.005), 0.005, 1),
    'Finds the hover throttle within some seconds.',
  );
  const drag = airframe.massKg * GRAVITY;
  const unit = new MotorUnit(airframe.motors[0]!);
  unit.settle(hover.throttle, supplyUnderLoad(airframe), 0, RHO);
  const rotor = drag / (unit.omega * 0.5 * unit.motor.propDiameterM) / airframe.massKg;
  const body = (0.5 * RHO * airframe.bodyDragM2 * 10) / airframe.massKg;
  put('hover.drag', round(rotor + body, 0.01), 'Rotors and body at 10 m/s, from their sizes.');
  put('compass.fitted', true, 'Without a heading a rotorcraft cannot navigate.');
  put('pitot.fitted', false, 'Wind is told by how far it has to lean.');
  put('arm.tilt', 25, 'A rotorcraft stands level to take off.');
  put('loiter.radius', 15, 'Rotors stay where they are; this is the room for it.');
  put('return.arrival', 'land', 'Lands where it took off.');
}

/** Torque that one motor puts on the body per share of duty about the hover, N m. */
function reactionPerDuty(airframe: Airframe, duty: number): number {
  const torque = (d: number) => {
    const unit = new MotorUnit(airframe.motors[0]!);
    unit.settle(d, supplyUnderLoad(airframe), 0, RHO);
    return unit.torque;
  };
  return (torque(duty + 0.05) - torque(duty - 0.05)) / 0.1;
}
