import { type Airframe, isRotorcraft } from '#core/airframe/airframe.ts';
import { stallSpeed } from '#core/airframe/performance.ts';
import { EnergyLoop } from '#core/control/energyLoop.ts';
import { HoverLoops } from '#core/control/hoverLoops.ts';
import { pitchOf, rollOf, yawOf } from '#core/math/quaternion.ts';
import { clamp, DEG, wrapPi } from '#core/math/scalar.ts';
import {
  type AimPoint,
  accelerationTowards,
  aimOnCircle,
  aimOnLine,
  bankFor,
  lookahead,
} from '#core/navigation/pathGuidance.ts';
import type { Config } from '#firmware/config.ts';
import type { FlyingCraft } from './flyingCraft.ts';

export const PILOT_STEP_S = 0.02;
/** Height above home below which the pilot only climbs straight ahead, m. */
const LAUNCH_HEIGHT_M = 20;

/** Where the pilot wants to be: m north and east of home, and above it. */
export interface PilotTarget {
  readonly north: number;
  readonly east: number;
  readonly height: number;
}

/**
 * A pilot who knows his craft: launches, flies to a point in sight of his instruments and stays there. He
 * moves sticks only; whether the craft follows is the configuration's affair. In Level the board holds the
 * attitude; without it he does so himself, as well as a hand can.
 */
export interface ScriptedPilot {
  step(craft: FlyingCraft): void;
}

export function scriptedPilot(
  airframe: Airframe,
  config: Config,
  homeHeight: number,
  target: PilotTarget,
): ScriptedPilot {
  return isRotorcraft(airframe)
    ? new RotorPilot(config, homeHeight, target)
    : new WingPilot(airframe, config, homeHeight, target);
}

class WingPilot implements ScriptedPilot {
  private readonly energy: EnergyLoop;
  private readonly aim: AimPoint = { north: 0, east: 0 };
  private readonly speed: number;
  private launched = false;
  private circling = false;

  constructor(
    airframe: Airframe,
    private readonly config: Config,
    private readonly homeHeight: number,
    private readonly target: PilotTarget,
  ) {
    const stall = stallSpeed(airframe);
    this.speed = Math.max(2 * stall, config.navSpeed);
    this.energy = new EnergyLoop(
      {
        ...config.energy,
        climbMps: Math.max(2, config.energy.climbMps),
        speedFloor: 1.2 * stall,
        pitchUp: 18 * DEG,
        pitchDown: 15 * DEG,
      },
      PILOT_STEP_S,
    );
  }

  step(craft: FlyingCraft): void {
    const plant = craft.plant;
    const above = plant.height - this.homeHeight;
    const radio = craft.radio;
    let bank = 0;
    let pitch = 10 * DEG;
    let throttle = 1;
    if (!this.launched) {
      if (above > LAUNCH_HEIGHT_M) {
        this.launched = true;
        this.energy.reset(plant.airspeed);
      }
      // On its wheels it first needs its speed.
      if (plant.contact.touching && plant.airspeed < this.config.energy.speedFloor) pitch = 2 * DEG;
    } else {
      const p = plant.position;
      const v = plant.velocity;
      const t = this.target;
      const ground = Math.sqrt(v[0]! * v[0]! + v[1]! * v[1]!);
      const ahead = lookahead(16, 0.75, ground);
      const dn = t.north - p[0]!;
      const de = t.east - p[1]!;
      const distance = Math.sqrt(dn * dn + de * de);
      const radius = Math.max(90, this.config.loiterRadius);
      if (distance < radius + 0.5 * ahead) this.circling = true;
      else if (distance > 5 * radius + 300) this.circling = false;
      if (this.circling) aimOnCircle(this.aim, t.north, t.east, radius, 1, p[0]!, p[1]!, ahead);
      else aimOnLine(this.aim, 0, 0, t.north, t.east, p[0]!, p[1]!, ahead);
      bank = bankFor(
        accelerationTowards(v[0]!, v[1]!, this.aim.north - p[0]!, this.aim.east - p[1]!, ahead),
        38 * DEG,
      );
      this.energy.step(plant.height, -v[2]!, plant.airspeed, this.homeHeight + t.height, this.speed);
      pitch = this.energy.pitch;
      throttle = this.energy.throttle;
    }
    radio.throttle = throttle;
    const set = this.config.sets[this.config.setActive]!;
    if (craft.pfad.controller.mode === 'level') {
      radio.roll = clamp(bank / set.bank, -1, 1);
      const lift = pitch - this.config.energy.pitchTrim;
      radio.pitch = clamp(lift >= 0 ? lift / set.up : lift / set.down, -1, 1);
      radio.yaw = 0;
    } else {
      const roll = rollOf(plant.attitude);
      radio.roll = clamp(0.9 * (bank - roll) - 0.12 * plant.rates[0]!, -1, 1);
      radio.pitch = clamp(2.2 * (pitch - pitchOf(plant.attitude)) - 0.25 * plant.rates[1]!, -1, 1);
      radio.yaw = clamp(-0.2 * plant.rates[2]!, -1, 1);
    }
  }
}

/** Speed and height gained on the way out, m/s. */
const ROTOR_SPEED_MPS = 11;
const ROTOR_TILT = 32 * DEG;

class RotorPilot implements ScriptedPilot {
  private readonly loops: HoverLoops;
  private readonly speed: number;

  constructor(
    private readonly config: Config,
    private readonly homeHeight: number,
    private readonly target: PilotTarget,
  ) {
    this.loops = new HoverLoops({ ...config.hover, climbMps: 4, sinkMps: 2 }, PILOT_STEP_S);
    this.speed = Math.max(ROTOR_SPEED_MPS, config.navSpeed);
  }

  step(craft: FlyingCraft): void {
    const { plant, radio } = craft;
    const p = plant.position;
    const v = plant.velocity;
    const above = plant.height - this.homeHeight;
    const away = above > 10;
    const dn = away ? this.target.north - p[0]! : 0;
    const de = away ? this.target.east - p[1]! : 0;
    const distance = Math.sqrt(dn * dn + de * de);
    const wanted = Math.min(this.speed, 0.3 * distance);
    const k = distance > 0.1 ? wanted / distance : 0;
    const yaw = yawOf(plant.attitude);
    const tilt = Math.min(ROTOR_TILT, this.config.hover.tilt * 1.1);
    this.loops.move(k * dn, k * de, v[0]!, v[1]!, yaw, tilt);
    const climb = clamp(0.4 * (this.homeHeight + this.target.height - plant.height), -2, 4);
    const roll = rollOf(plant.attitude);
    const pitch = pitchOf(plant.attitude);
    const lean = Math.acos(clamp(Math.cos(roll) * Math.cos(pitch), -1, 1));
    this.loops.climb(climb, -v[2]!, lean, 0.05, 1);
    radio.throttle = this.loops.throttle;
    const set = this.config.sets[this.config.setActive]!;
    const c = craft.pfad.controller;
    if (c.mode === 'rate') {
      radio.roll = clamp((4 * (this.loops.roll - roll)) / set.rollMax, -1, 1);
      radio.pitch = clamp((4 * (this.loops.pitch - pitch)) / set.pitchMax, -1, 1);
    } else {
      radio.roll = clamp(this.loops.roll / set.bank, -1, 1);
      radio.pitch = clamp(
        this.loops.pitch >= 0 ? this.loops.pitch / set.up : this.loops.pitch / set.down,
        -1,
        1,
      );
    }
    const turn = distance > 40 ? wrapPi(Math.atan2(de, dn) - yaw) : 0;
    radio.yaw = clamp((0.8 * turn) / set.yawMax, -0.5, 0.5);
  }
}
