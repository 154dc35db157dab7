import type { Airframe } from '../../airframe/airframe.ts';
import { hoverOf, motorLag } from '../../airframe/performance.ts';
import { rememberedOf } from '../../airframe/remembered.ts';
import type { BoardDescription } from '../../board/description.ts';
import { inSet } from '../../control/controlSet.ts';
import { HoverLoops, hoverSettingsOf } from '../../control/hoverLoops.ts';
import { SEA_LEVEL_DENSITY } from '../../flight/atmosphere.ts';
import { Wind } from '../../flight/wind.ts';
import { clamp, DEG, GRAVITY } from '../../math/scalar.ts';
import { approachSpeed } from '../../navigation/pathGuidance.ts';
import type { Values } from '../../settings/catalogue.ts';
import { settingsOf } from '../../settings/typed.ts';
import { predictBank } from './bankOuter.ts';
import { askedOf, type RotorManoeuvre } from './manoeuvres.ts';
import { type ThrustTable, thrustTable } from './thrustTable.ts';
import { aboutItsMiddle, newTrace, TRACE_S, type Trace } from './trace.ts';
import { turnLag } from './turnLag.ts';

const STEP_S = 0.02;
const SETTLES_S = 15;
/** Held positions are come back to no faster, m/s; and what is let go of is held so long ahead, s. */
const STAY_MPS = 6;
const STAY_AHEAD_S = 0.8;
/** Climb along the shafts that thrust is known between, m/s. */
const CLIMBS = 8;
/** Height of the gusts' law, m above ground. */
const HEIGHT_M = 30;

const lagKnown = rememberedOf<number>();

/** Rotors as a point that leans, flown by the firmware's own outer loops: nose to the north. */
class RotorPoint {
  north = 0;
  east = 0;
  height = 0;
  northward = 0;
  eastward = 0;
  climb = 0;
  roll = 0;
  pitch = 0;
  wantNorth = 0;
  wantEast = 0;
  heightAsked = 0;
  windNorth = 0;
  windEast = 0;
  windDown = 0;
  private rollRate = 0;
  private pitchRate = 0;
  private push: number;
  private readonly loops: HoverLoops;
  private readonly bodyDrag: number;

  constructor(
    private readonly airframe: Airframe,
    private readonly thrust: ThrustTable,
    private readonly set: {
      readonly tilt: number;
      readonly levelTime: number;
      readonly rollMax: number;
      readonly pitchMax: number;
      readonly rollLag: number;
      readonly pitchLag: number;
      readonly motorLag: number;
      readonly idle: number;
      readonly most: number;
    },
    values: Values,
  ) {
    this.loops = new HoverLoops(hoverSettingsOf(values), STEP_S);
    this.push = airframe.massKg * GRAVITY;
    this.bodyDrag = 0.5 * SEA_LEVEL_DENSITY * airframe.bodyDragM2;
  }

  step(): void {
    const { set, loops, airframe } = this;
    loops.move(this.wantNorth, this.wantEast, this.northward, this.eastward, 0, set.tilt);
    const p = clamp((loops.roll - this.roll) / set.levelTime, -set.rollMax, set.rollMax);
    const q = clamp((loops.pitch - this.pitch) / set.levelTime, -set.pitchMax, set.pitchMax);
    this.rollRate += Math.min(1, STEP_S / set.rollLag) * (p - this.rollRate);
    this.pitchRate += Math.min(1, STEP_S / set.pitchLag) * (q - this.pitchRate);
    this.roll += STEP_S * this.rollRate;
    this.pitch += STEP_S * this.pitchRate;
    const upright = Math.cos(this.roll) * Math.cos(this.pitch);
    loops.climb(
      loops.climbFor(this.heightAsked - this.height),
      this.climb,
      Math.acos(upright),
      set.idle,
      set.most,
    );
    const [north, east] = [this.northward - this.windNorth, this.eastward - this.windEast];
    // Climb along the shafts, and what flow through leaning discs adds to it.
    const along =
      (this.climb + this.windDown) * upright - north * Math.sin(this.pitch) + east * Math.sin(this.roll);
    this.push += Math.min(1, STEP_S / set.motorLag) * (this.thrust.at(loops.throttle, along) - this.push);
    const drag = (hoverOf(airframe).rotorDrag + this.bodyDrag * Math.hypot(north, east)) / airframe.massKg;
    const lift = this.push / airframe.massKg;
    this.northward += STEP_S * (-lift * Math.sin(this.pitch) * Math.cos(this.roll) - drag * north);
    this.eastward += STEP_S * (lift * Math.sin(this.roll) - drag * east);
    this.climb += STEP_S * (lift * upright - GRAVITY);
    this.north += STEP_S * this.northward;
    this.east += STEP_S * this.eastward;
    this.height += STEP_S * this.climb;
  }
}

/**
 * What is asked of the outer loops of a craft with rotors, as its own model says that it will go through it. Gusts are of a seed of their
 * own: what is held against a flight is how far they carry it, not when.
 * @returns null where nothing turns it
 */
export function predictRotors(
  airframe: Airframe,
  values: Values,
  pads: BoardDescription['pads'],
  id: RotorManoeuvre,
  seed = 1,
): Trace | null {
  const s = settingsOf(values);
  const asked = askedOf(airframe, values, id);
  if (id === 'bank') return predictBank(airframe, values, pads, asked, 0);
  const set = Number(s.choice('set.active'));
  const { throttle } = hoverOf(airframe);
  const positionP = s.number('hover.positionP');
  const point = new RotorPoint(
    airframe,
    thrustTable(airframe, -CLIMBS, CLIMBS),
    {
      tilt: s.number('hover.tilt') * DEG,
      levelTime: s.number(inSet('level.time', set)),
      rollMax: s.number(inSet('rate.roll.max', set)) * DEG,
      pitchMax: s.number(inSet('rate.pitch.max', set)) * DEG,
      rollLag: turnLag(airframe, values, pads, 'roll', 0),
      pitchLag: turnLag(airframe, values, pads, 'pitch', 0),
      motorLag: lagKnown(airframe, String(throttle), () => motorLag(airframe, throttle)),
      idle: s.number('motor.idle'),
      most: s.number('motor.max'),
    },
    values,
  );
  const wind = new Wind({ speedMps: 0, fromDeg: 0, gustMps: asked.gustMps }, seed);
  /** Stays where it is to be held. */
  const hold = { north: 0, east: 0 };
  const stay = () => {
    const [n, e] = [hold.north - point.north, hold.east - point.east];
    const away = Math.hypot(n, e);
    const k = away > 0.01 ? approachSpeed(away, STAY_MPS, positionP) / away : 0;
    point.wantNorth = k * n;
    point.wantEast = k * e;
  };
  const blow = () => {
    if (asked.gustMps > 0)
      wind.step(HEIGHT_M, Math.hypot(point.northward, point.eastward) + asked.windMps, STEP_S);
    point.windNorth = wind.velocity[0]! - asked.windMps;
    point.windEast = wind.velocity[1]!;
    point.windDown = wind.velocity[2]!;
  };
  const step = () => {
    blow();
    point.step();
  };
  for (let k = 0; k < SETTLES_S / STEP_S; k++) {
    stay();
    step();
  }
  const from = { north: point.north, east: point.east, height: point.height };
  point.heightAsked += asked.height;
  const trace = newTrace(asked.seconds);
  const every = Math.round(TRACE_S / STEP_S);
  let held = true;
  for (let k = 0; k < trace.bank.length; k++) {
    trace.bank[k] = point.roll;
    trace.height[k] = point.height - from.height;
    trace.speed[k] = Math.hypot(point.northward, point.eastward);
    trace.north[k] = point.north - from.north;
    trace.east[k] = point.east - from.east;
    const goes = k * TRACE_S < asked.letGoS;
    for (let i = 0; i < every; i++) {
      if (goes) {
        held = false;
        point.wantNorth = asked.speed;
        point.wantEast = 0;
      } else {
        if (!held) {
          held = true;
          hold.north = point.north + STAY_AHEAD_S * point.northward;
          hold.east = point.east + STAY_AHEAD_S * point.eastward;
        }
        stay();
      }
      step();
    }
  }
  return id === 'gusts' ? aboutItsMiddle(trace) : trace;
}
