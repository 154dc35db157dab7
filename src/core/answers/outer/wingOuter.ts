import type { Airframe } from '../../airframe/airframe.ts';
import { trimLevel } from '../../airframe/performance.ts';
import { rememberedOf } from '../../airframe/remembered.ts';
import type { BoardDescription } from '../../board/description.ts';
import { inSet } from '../../control/controlSet.ts';
import { EnergyLoop, type EnergySettings, energySettingsOf } from '../../control/energyLoop.ts';
import { clamp, DEG, GRAVITY } from '../../math/scalar.ts';
import {
  type AimPoint,
  accelerationTowards,
  aimOnCircle,
  aimOnLine,
  bankFor,
  lookahead,
} from '../../navigation/pathGuidance.ts';
import type { Values } from '../../settings/catalogue.ts';
import { settingsOf } from '../../settings/typed.ts';
import { predictBank } from './bankOuter.ts';
import { askedOf, type WingManoeuvre } from './manoeuvres.ts';
import { type ThrustTable, thrustTable } from './thrustTable.ts';
import { newTrace, TRACE_S, type Trace } from './trace.ts';
import { turnLag } from './turnLag.ts';

/** Lift and drag of a wing about a speed, as a point feels them. */
interface PointForces {
  readonly speedMps: number;
  readonly alpha: number;
  /** N per rad at that speed, trimmed. */
  readonly liftPerRad: number;
  /** Drag = a V^2 + b L^2/V^2. */
  readonly a: number;
  readonly b: number;
}

/** A second load by which the slope of lift and the drag of lift are told. */
const HEAVIER = 1.3;
const forcesKnown = rememberedOf<PointForces | null>();

const forcesOf = (airframe: Airframe, speedMps: number): PointForces | null =>
  forcesKnown(airframe, String(speedMps), () => {
    const trim = trimLevel(airframe, speedMps);
    const heavy = trimLevel({ ...airframe, massKg: HEAVIER * airframe.massKg }, speedMps);
    if (!trim || !heavy) return null;
    const weight = airframe.massKg * GRAVITY;
    const squared = speedMps ** 2;
    const b = ((heavy.thrust - trim.thrust) * squared) / ((HEAVIER ** 2 - 1) * weight ** 2);
    return {
      speedMps,
      alpha: trim.alpha,
      liftPerRad: ((HEAVIER - 1) * weight) / (heavy.alpha - trim.alpha),
      a: trim.thrust / squared - (b * weight ** 2) / squared ** 2,
      b,
    };
  });

/** The autopilot's step. */
const STEP_S = 0.02;
/** Flies steadily for so long before something is asked, s. */
const SETTLES_S = 30;
/** An airspeed follows so late, s. */
const SPEED_LAG_S = 0.1;

/** A wing as a point with a nose and a bank, flown by the firmware's own outer loops. */
class WingPoint {
  north = 0;
  east = 0;
  height = 0;
  /** Through the air. */
  speed: number;
  bank = 0;
  course = 0;
  windNorth = 0;
  heightAsked = 0;
  speedAsked: number;
  bankAsked = 0;
  private pitch: number;
  private path = 0;
  private throttle: number;
  private rollRate = 0;
  private pitchRate = 0;
  private told: number;
  private readonly energy: EnergyLoop;

  constructor(
    private readonly massKg: number,
    private readonly forces: PointForces,
    private readonly thrust: ThrustTable,
    settings: EnergySettings,
    private readonly set: {
      readonly levelTime: number;
      readonly rollMax: number;
      readonly pitchMax: number;
      readonly rollLag: number;
      readonly pitchLag: number;
      readonly ramp: number;
    },
  ) {
    this.speed = forces.speedMps;
    this.speedAsked = this.speed;
    this.told = this.speed;
    this.pitch = forces.alpha;
    this.throttle = settings.cruiseThrottle;
    this.energy = new EnergyLoop(settings, STEP_S);
    this.energy.reset(this.speed);
  }

  get northward(): number {
    return this.speed * Math.cos(this.course) * Math.cos(this.path) + this.windNorth;
  }

  get eastward(): number {
    return this.speed * Math.sin(this.course) * Math.cos(this.path);
  }

  step(): void {
    const { energy, set, forces: f } = this;
    const climb = this.speed * Math.sin(this.path);
    this.told += (STEP_S / SPEED_LAG_S) * (this.speed - this.told);
    energy.step(this.height, climb, this.told, this.heightAsked, this.speedAsked);
    const most = set.ramp > 0 ? this.throttle + STEP_S / set.ramp : 1;
    this.throttle = Math.min(most, energy.throttle);
    const p = clamp((this.bankAsked - this.bank) / set.levelTime, -set.rollMax, set.rollMax);
    const q = clamp((energy.pitch - this.pitch) / set.levelTime, -set.pitchMax, set.pitchMax);
    this.rollRate += Math.min(1, STEP_S / set.rollLag) * (p - this.rollRate);
    this.pitchRate += Math.min(1, STEP_S / set.pitchLag) * (q - this.pitchRate);
    this.bank += STEP_S * this.rollRate;
    this.pitch += STEP_S * this.pitchRate;
    // The nose stands over the path by the angle of attack, as far as that is upright.
    const alpha = (this.pitch - this.path) / Math.max(0.3, Math.cos(this.bank));
    const weight = this.massKg * GRAVITY;
    const lift = (this.speed / f.speedMps) ** 2 * (weight + f.liftPerRad * (alpha - f.alpha));
    const drag = f.a * this.speed ** 2 + (f.b * lift ** 2) / this.speed ** 2;
    const thrust = this.thrust.at(this.throttle, this.speed);
    this.speed += STEP_S * ((thrust - drag) / this.massKg - GRAVITY * Math.sin(this.path));
    this.path +=
      (STEP_S * (lift * Math.cos(this.bank) - weight * Math.cos(this.path))) / (this.massKg * this.speed);
    this.course += (STEP_S * lift * Math.sin(this.bank)) / (this.massKg * this.speed * Math.cos(this.path));
    this.north += STEP_S * this.northward;
    this.east += STEP_S * this.eastward;
    this.height += STEP_S * this.speed * Math.sin(this.path);
  }
}

/** Where the path leads, m: farther than it is followed. */
const FAR_M = 4000;

/**
 * What is asked of the outer loops of a wing, as the craft's own model says that it will go through it.
 * @returns null where it does not fly at its cruise speed, or nothing turns it
 */
export function predictWing(
  airframe: Airframe,
  values: Values,
  pads: BoardDescription['pads'],
  id: WingManoeuvre,
): Trace | null {
  const s = settingsOf(values);
  const asked = askedOf(airframe, values, id);
  const cruise = s.number('nav.speed');
  if (id === 'bank') return predictBank(airframe, values, pads, asked, cruise);
  const forces = forcesOf(airframe, cruise);
  if (!forces) return null;
  const set = Number(s.choice('set.active'));
  const point = new WingPoint(
    airframe.massKg,
    forces,
    thrustTable(airframe, 0, 2 * cruise),
    energySettingsOf(values),
    {
      levelTime: s.number(inSet('level.time', set)),
      rollMax: s.number(inSet('rate.roll.max', set)) * DEG,
      pitchMax: s.number(inSet('rate.pitch.max', set)) * DEG,
      rollLag: turnLag(airframe, values, pads, 'roll', cruise),
      pitchLag: turnLag(airframe, values, pads, 'pitch', cruise),
      ramp: s.number('motor.ramp'),
    },
  );
  for (let k = 0; k < SETTLES_S / STEP_S; k++) point.step();
  const from = { height: point.height, speed: id === 'speed' ? point.speed : 0 };
  point.north = 0;
  point.east = 0;
  point.course = asked.off;
  point.windNorth = -asked.windMps;
  point.heightAsked += asked.height;
  point.speedAsked += asked.speed;
  const guide = guidance(values, set);
  const trace = newTrace(asked.seconds);
  const every = Math.round(TRACE_S / STEP_S);
  for (let k = 0; k < trace.bank.length; k++) {
    trace.bank[k] = point.bank;
    trace.height[k] = point.height - from.height;
    trace.speed[k] = point.speed - from.speed;
    trace.north[k] = point.north;
    trace.east[k] = point.east;
    for (let i = 0; i < every; i++) {
      if (id === 'path') point.bankAsked = guide.onLine(point);
      else if (id === 'circle') point.bankAsked = guide.onCircle(point);
      point.step();
    }
  }
  return trace;
}

/** The firmware's law of the path, for a point. */
function guidance(values: Values, set: number) {
  const s = settingsOf(values);
  const [period, damping, radius] = [
    s.number('nav.period'),
    s.number('nav.damping'),
    s.number('loiter.radius'),
  ];
  const limit = s.number(inSet('level.bank', set)) * DEG;
  const sense = s.choice('loiter.sense') === 'clockwise' ? 1 : -1;
  const aim: AimPoint = { north: 0, east: 0 };
  const towards = (p: WingPoint, ahead: number) =>
    bankFor(
      accelerationTowards(p.northward, p.eastward, aim.north - p.north, aim.east - p.east, ahead),
      limit,
    );
  const aheadOf = (p: WingPoint) => lookahead(period, damping, Math.hypot(p.northward, p.eastward));
  return {
    onLine: (p: WingPoint) => {
      const ahead = aheadOf(p);
      aimOnLine(aim, 0, 0, FAR_M, 0, p.north, p.east, ahead);
      return towards(p, ahead);
    },
    onCircle: (p: WingPoint) => {
      const ahead = aheadOf(p);
      aimOnCircle(aim, 0, 0, radius, sense, p.north, p.east, ahead);
      return towards(p, ahead);
    },
  };
}
