import { isFitting, isMotor } from '../airframe/actuators.ts';
import { type Airframe, isRotorcraft } from '../airframe/airframe.ts';
import { inertiaOf } from '../airframe/massModel.ts';
import { deflectionsFor, dutyFor, hoverOf, supplyUnderLoad, trimLevel } from '../airframe/performance.ts';
import { rememberedOf } from '../airframe/remembered.ts';
import { gainsOf } from '../control/controlSet.ts';
import { type GainTimes, gainLawOf, gainTimes } from '../control/gainLaw.ts';
import { SEA_LEVEL_DENSITY } from '../flight/atmosphere.ts';
import { PanelModel } from '../flight/panels.ts';
import { MotorUnit } from '../flight/propulsion.ts';
import { type Complex, complex, over, polynomialAt } from '../math/complex.ts';
import { GRAVITY } from '../math/scalar.ts';
import { type Axis, mixRows, smallTurns } from '../mixer/authority.ts';
import { RotorShare } from '../mixer/rotorShare.ts';
import type { Values } from '../settings/catalogue.ts';
import { settingOf, settingsOf } from '../settings/typed.ts';

/**
 * How a craft turns about one axis, linear about steady flight: x' = A x + b u, where u is the command as surfaces and motors
 * stand, -1..1, and the first of x the rate, rad/s. Behind it stands what turns along: of wings the angle that the air comes at
 * and, about roll and yaw, the other of the two, held by its own loop; of rotors what their shafts have gained, their lag.
 */
export interface AxisModel {
  readonly axis: Axis;
  /** 0 for a hover. */
  readonly speedMps: number;
  readonly moves: 'servos' | 'motors';
  /** A, row by row. */
  readonly states: readonly (readonly number[])[];
  /** b */
  readonly byCommand: readonly number[];
  /** How fast motors follow, 1/s, below zero; NaN for servos. */
  readonly motorPole: number;
}

/** Step of the derivatives: rad/s, rad and share of a command. */
const STEP = 1e-4;

/**
 * @param speedMps of wings; rotors hover
 * @param set control set, 1 to 3: the loop of the axis that turns along is its
 * @param flown where it is not level, or not in a hover, or its battery not half empty
 * @returns null where nothing turns this craft so
 */
export function axisModel(
  airframe: Airframe,
  values: Values,
  axis: Axis,
  speedMps: number,
  set = 1,
  flown: FlownOtherwise = {},
): AxisModel | null {
  return isRotorcraft(airframe)
    ? rotorModel(airframe, values, axis, flown)
    : wingModel(airframe, values, axis, speedMps, set, flown);
}

const indexOf = { roll: 0, pitch: 1, yaw: 2 } as const;
/** Less than this by a full command turns nothing, rad/s^2. */
const LEAST_TURN = 0.05;

/** Accelerations of a wing in level flight: about its axes, rad/s^2, and across, m/s^2, by a little of each. */
interface WingSlopes {
  readonly alpha: number;
  /** Per rad/s about an axis: about roll, pitch and yaw, then forward, right and down. */
  readonly byRate: readonly (readonly number[])[];
  /** Per rad of slip and of angle of attack. */
  readonly bySlip: readonly number[];
  readonly byAlpha: readonly number[];
  /** Per share of a plain command with all of the throw. */
  readonly byPlain: readonly (readonly number[])[];
}

/** Where accelerations across stand among the six. */
const RIGHT = 4;
const DOWN = 5;

const slopesKnown = rememberedOf<WingSlopes>();
const turnsKnown = rememberedOf<ReturnType<typeof smallTurns>>();

const wingSlopes = (airframe: Airframe, speedMps: number): WingSlopes =>
  slopesKnown(airframe, String(speedMps), () => findSlopes(airframe, speedMps));

/** What the turns of a command rest on, besides craft and speed: how commands are mixed, and what idles. */
const MIXED_BY = /^(out|mix|row|rotor|craft|motor)\./;

/** As `smallTurns`; gains change often, and the mix seldom. */
function turnsBy(airframe: Airframe, values: Values, speedMps: number) {
  const mixed = Object.entries(values).filter(([key]) => MIXED_BY.test(key));
  return turnsKnown(airframe, JSON.stringify([speedMps, mixed]), () =>
    smallTurns(airframe, values, speedMps),
  );
}

function findSlopes(airframe: Airframe, speedMps: number): WingSlopes {
  const panels = new PanelModel(airframe);
  const trim = trimLevel(airframe, speedMps);
  const alpha = trim?.alpha ?? 0.05;
  const duty = trim ? dutyFor(airframe, trim.thrust, speedMps) : 0;
  airframe.motors.forEach((motor, k) => {
    const unit = new MotorUnit(motor);
    unit.settle(duty, supplyUnderLoad(airframe), speedMps, SEA_LEVEL_DENSITY);
    panels.wake[k] = unit.wake;
  });
  const w = new Float64Array(3);
  const held = new Float64Array(panels.surfaceIds.length);
  deflectionsFor(airframe, 'pitch', trim?.pitch ?? 0, held);
  const d = Float64Array.from(held);
  const { xx, yy, zz } = inertiaOf(airframe);
  const over = [xx, yy, zz, airframe.massKg, airframe.massKg, airframe.massKg];
  const v = Float64Array.of(speedMps * Math.cos(alpha), 0, speedMps * Math.sin(alpha));
  const evaluate = () => {
    panels.evaluate(v, w, d);
    return [...panels.moment, ...panels.force].map((x, i) => x / over[i]!);
  };
  const base = evaluate();
  const slope = (change: () => void, undo: () => void) => {
    change();
    const now = evaluate();
    undo();
    return now.map((x, i) => (x - base[i]!) / STEP);
  };
  const nudged = (a: Float64Array, i: number, by: number) => () => {
    a[i]! += by;
  };
  const byHand = (a: Float64Array, i: number, by: number) => slope(nudged(a, i, by), nudged(a, i, -by));
  const more = new Float64Array(d.length);
  return {
    alpha,
    byRate: [0, 1, 2].map((i) => byHand(w, i, STEP)),
    bySlip: byHand(v, 1, speedMps * STEP),
    byAlpha: byHand(v, 2, speedMps * STEP),
    byPlain: (['roll', 'pitch', 'yaw'] as const).map((axis) => {
      deflectionsFor(airframe, axis, STEP, more);
      return slope(
        () =>
          d.forEach((_, i) => {
            d[i]! += more[i]!;
          }),
        () => d.set(held),
      );
    }),
  };
}

function wingModel(
  airframe: Airframe,
  values: Values,
  axis: Axis,
  speedMps: number,
  set: number,
  flown: FlownOtherwise,
): AxisModel | null {
  const turns = turnsBy(airframe, values, speedMps);
  /** What a whole command about one axis turns another one by, rad/s^2, within the ends of its pulses. */
  const turned = (about: Axis, by: Axis) =>
    turns[indexOf[about]]![indexOf[by]]! * endsOf(airframe, values, by);
  const own = turned(axis, axis);
  if (!(Math.abs(own) > LEAST_TURN)) return null;
  const { byRate, byAlpha, bySlip, byPlain, alpha } = wingSlopes(airframe, speedMps);
  const base = { axis, speedMps, moves: 'servos', motorPole: Number.NaN } as const;
  const i = indexOf[axis];
  const plain = byPlain[i]![i]!;
  // What a command pushes across, 1/s, goes with what it turns.
  const across = plain === 0 ? 0 : (byPlain[i]![axis === 'pitch' ? DOWN : RIGHT]! * own) / plain / speedMps;
  if (axis === 'pitch')
    return {
      ...base,
      // Pitch rate, angle of attack.
      states: [
        [byRate[1]![1]!, byAlpha[1]!],
        [1 + byRate[1]![DOWN]! / speedMps, byAlpha[DOWN]! / speedMps],
      ],
      byCommand: [own, across],
    };
  const other = axis === 'roll' ? 'yaw' : 'roll';
  const o = indexOf[other];
  // The other one's loop holds its rate at none: a command of -P times it, and of -I times its sum.
  const gains = gainsOf(values, other, set);
  const { gain } = gainTimesOf(airframe, values, speedMps, flown);
  const [p, sum] = [gain * gains.proportional, gain * gains.integral];
  const slipByRoll = Math.sin(alpha) + byRate[0]![RIGHT]! / speedMps;
  const slipByYaw = -Math.cos(alpha) + byRate[2]![RIGHT]! / speedMps;
  const [slipByOwn, slipByOther] = axis === 'roll' ? [slipByRoll, slipByYaw] : [slipByYaw, slipByRoll];
  return {
    ...base,
    // Its rate, the other one's, slip, bank, and the sum of the other one's loop.
    states: [
      [byRate[i]![i]!, byRate[o]![i]! - p * turned(axis, other), bySlip[i]!, 0, -sum * turned(axis, other)],
      [byRate[i]![o]!, byRate[o]![o]! - p * turned(other, other), bySlip[o]!, 0, -sum * turned(other, other)],
      [slipByOwn, slipByOther, bySlip[RIGHT]! / speedMps, GRAVITY / speedMps, 0],
      axis === 'roll' ? [1, 0, 0, 0, 0] : [0, 1, 0, 0, 0],
      [0, 1, 0, 0, 0],
    ],
    byCommand: [own, turned(other, axis), across, 0, 0],
  };
}

/** Where a flight is not as it usually is: level, or in a hover, by a battery that is half empty. */
export interface FlownOtherwise {
  /** Of all motors, 0 to 1. */
  readonly throttle?: number;
  /** Of the battery under load, V. */
  readonly supplyV?: number;
}

/** Rotors in a hover by a battery of this voltage under load, V: the fuller it is, the less throttle that takes. */
export const hoverBy = (airframe: Airframe, supplyV: number): FlownOtherwise => ({
  supplyV,
  throttle: (hoverOf(airframe).throttle * supplyUnderLoad(airframe)) / supplyV,
});

const throttlesKnown = rememberedOf<number>();

/** The throttle that keeps a wing level at a speed, or rotors in a hover; all of it where none does. @param speedMps 0 for rotors */
export const levelThrottle = (airframe: Airframe, speedMps: number): number =>
  throttlesKnown(airframe, String(speedMps), () => {
    if (isRotorcraft(airframe)) return hoverOf(airframe).throttle;
    const trim = trimLevel(airframe, speedMps);
    return trim ? dutyFor(airframe, trim.thrust, speedMps) : 1;
  });

/** What the firmware multiplies gains by in such a flight. */
export function gainTimesOf(
  airframe: Airframe,
  values: Values,
  speedMps: number,
  { throttle, supplyV }: FlownOtherwise = {},
): GainTimes {
  const rotors = isRotorcraft(airframe);
  const law = gainLawOf(values, rotors);
  const at = law.by === 'throttle' ? (throttle ?? levelThrottle(airframe, speedMps)) : speedMps;
  return gainTimes(law, rotors, { gain: 1, forward: 1, at, supplyV: supplyV ?? supplyUnderLoad(airframe) });
}

/** Pulses of a servo may end short of its travel: what is left of a command, the mean of what moves for this axis. */
function endsOf(airframe: Airframe, values: Values, axis: Axis): number {
  const rows = mixRows(airframe, values).filter(
    (r) => !isMotor(r.drives) && !isFitting(r.drives) && r.mix[axis] !== 0,
  );
  const shares = rows.map(({ output }) => {
    const [low, high] = [settingOf(values, `out.${output}.low`), settingOf(values, `out.${output}.high`)];
    return ((high ?? 2000) - (low ?? 1000)) / 1000;
  });
  return shares.length === 0 ? 1 : shares.reduce((sum, s) => sum + s, 0) / shares.length;
}

/** One motor about its hover: what a little more of each does. */
interface MotorSlopes {
  /** Of the shaft's acceleration, 1/s, rad/s^2 per share, rad/s^2 per m/s. */
  readonly bySpeed: number;
  readonly byDuty: number;
  readonly byFlow: number;
  /** Of thrust, N per rad/s and N per m/s; of the torque that the craft feels, N m per rad/s and per share. */
  readonly thrustBySpeed: number;
  readonly thrustByFlow: number;
  readonly driveBySpeed: number;
  readonly driveByDuty: number;
}

function motorSlopes(airframe: Airframe, duty: number, supply: number): MotorSlopes {
  const unit = new MotorUnit(airframe.motors[0]!);
  unit.settle(duty, supply, 0, SEA_LEVEL_DENSITY);
  const omega = unit.omega;
  const dt = 1e-5;
  const at = (o: number, u: number, flow: number) => {
    unit.omega = o;
    unit.meet(u, supply, flow, SEA_LEVEL_DENSITY);
    unit.step(dt);
    return { gain: (unit.omega - o) / dt, thrust: unit.thrust, drive: unit.drive };
  };
  const h = 1e-3;
  const [faster, slower] = [at(omega * (1 + h), duty, 0), at(omega * (1 - h), duty, 0)];
  const [more, less] = [at(omega, duty + h, 0), at(omega, duty - h, 0)];
  const [blown, base] = [at(omega, duty, h), at(omega, duty, 0)];
  const bySpeed = (key: 'gain' | 'thrust' | 'drive') => (faster[key] - slower[key]) / (2 * h * omega);
  return {
    bySpeed: bySpeed('gain'),
    byDuty: (more.gain - less.gain) / (2 * h),
    byFlow: (blown.gain - base.gain) / h,
    thrustBySpeed: bySpeed('thrust'),
    thrustByFlow: (blown.thrust - base.thrust) / h,
    driveBySpeed: bySpeed('drive'),
    driveByDuty: (more.drive - less.drive) / (2 * h),
  };
}

/** More than this leaves no room to steer by, whatever the throttle. */
const MOST_THROTTLE = 0.9;

function rotorModel(
  airframe: Airframe,
  values: Values,
  axis: Axis,
  { throttle: flown, supplyV }: FlownOtherwise,
): AxisModel | null {
  const i = indexOf[axis];
  const throttle = Math.min(MOST_THROTTLE, flown ?? hoverOf(airframe).throttle);
  const inertia = inertiaOf(airframe);
  const about = [inertia.xx, inertia.yy, inertia.zz][i]!;
  const base = { axis, speedMps: 0 } as const;
  const byServo = axis === 'yaw' && airframe.motors.some((m) => m.tiltedBy);
  if (byServo) {
    const b = turnsBy(airframe, values, 0)[i]![i]! * endsOf(airframe, values, axis);
    return Math.abs(b) > LEAST_TURN
      ? { ...base, moves: 'servos', states: [[0]], byCommand: [b], motorPole: Number.NaN }
      : null;
  }
  const rows = mixRows(airframe, values).filter((r) => isMotor(r.drives));
  const share = new RotorShare(
    rows.map((r) => r.mix),
    settingsOf(values).number('motor.idle'),
  );
  const dutiesAt = (by: number) => {
    share.share({ roll: 0, pitch: 0, yaw: 0, throttle, [axis]: by });
    return Float64Array.from(share.duties);
  };
  const h = 0.01;
  const [up, down] = [dutiesAt(h), dutiesAt(-h)];
  const m = motorSlopes(airframe, throttle, supplyV ?? supplyUnderLoad(airframe));
  const model = { a: 0, b: 0, f: 0, e: 0 };
  rows.forEach((row, k) => {
    const motor = airframe.motors.find((x) => x.id === row.drives)!;
    const byCommand = (up[k]! - down[k]!) / (2 * h);
    // Moment of a newton upwards; the disc meets the air as much faster as the craft turns, m.
    const arm = [-motor.rightM, airframe.cgAftM - motor.aftM, 0][i]!;
    if (axis === 'yaw') {
      const sense = motor.spin === 'clockwise' ? -1 : 1;
      model.b += (sense * m.driveByDuty * byCommand) / about;
      model.f += (sense * m.driveBySpeed * m.byDuty * byCommand) / about;
    } else {
      model.a += (arm * arm * m.thrustByFlow) / about;
      model.e += (arm * arm * m.byFlow * m.thrustBySpeed) / about;
      model.f += (arm * m.thrustBySpeed * m.byDuty * byCommand) / about;
    }
  });
  const full = Math.abs(model.b) + Math.abs(model.f / m.bySpeed);
  if (!(full > LEAST_TURN)) return null;
  return {
    ...base,
    moves: 'motors',
    // The second state is what the shafts have gained, as turning acceleration.
    states: [
      [model.a, 1],
      [model.e, m.bySpeed],
    ],
    byCommand: [model.b, model.f],
    motorPole: m.bySpeed,
  };
}

/** Numerator and denominator of the rate over the command, highest power of s first. */
interface Transfer {
  readonly over: readonly number[];
  readonly under: readonly number[];
}

const transfers = new WeakMap<AxisModel, Transfer>();

/** The first of (s - A)^-1 b as a quotient of polynomials (Faddeev and LeVerrier, as in Kailath 1980, A.11). */
function transferOf(model: AxisModel): Transfer {
  const known = transfers.get(model);
  if (known) return known;
  const { states: a, byCommand: b } = model;
  const n = a.length;
  const under = [1];
  const over: number[] = [];
  // m goes through the matrices of the adjugate, the one of the highest power first.
  let m: readonly (readonly number[])[] = a.map((_, i) => a.map((__, j) => (i === j ? 1 : 0)));
  for (let k = 1; k <= n; k++) {
    over.push(m[0]!.reduce((sum, x, j) => sum + x * b[j]!, 0));
    const am = a.map((row) => m.map((_, j) => row.reduce((sum, x, i) => sum + x * m[i]![j]!, 0)));
    const c = -am.reduce((sum, row, i) => sum + row[i]!, 0) / k;
    under.push(c);
    m = am.map((row, i) => row.map((x, j) => (i === j ? x + c : x)));
  }
  const transfer = { over, under };
  transfers.set(model, transfer);
  return transfer;
}

/** Rate over command at a frequency, rad/s. @param hz above 0 */
export function craftAt(model: AxisModel, hz: number): Complex {
  const s = complex(0, 2 * Math.PI * hz);
  const { over: top, under } = transferOf(model);
  return over(polynomialAt(top, s), polynomialAt(under, s));
}
