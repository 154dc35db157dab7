import type { Airframe } from '#core/airframe/airframe.ts';
import { stallSpeed } from '#core/airframe/performance.ts';
import { EnergyLoop } from '#core/control/energyLoop.ts';
import { pitchOf, rollOf } from '#core/math/quaternion.ts';
import { clamp, DEG } from '#core/math/scalar.ts';
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

/**
 * A pilot who knows his craft: launches, flies to a point in sight of his instruments and circles there. He
 * moves sticks only; whether the craft follows is the configuration's affair. In Level the board holds the
 * attitude; without it he does so himself, as well as a hand can.
 */
export class ScriptedPilot {
  private readonly energy: EnergyLoop;
  private readonly aim: AimPoint = { north: 0, east: 0 };
  private readonly speed: number;
  private launched = false;
  private circling = false;

  constructor(
    airframe: Airframe,
    private readonly config: Config,
    private readonly homeHeight: number,
    private readonly targetNorth: number,
    private readonly targetEast: number,
    private readonly targetHeight: number,
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
    } else {
      const p = plant.position;
      const v = plant.velocity;
      const ground = Math.sqrt(v[0]! * v[0]! + v[1]! * v[1]!);
      const ahead = lookahead(16, 0.75, ground);
      const dn = this.targetNorth - p[0]!;
      const de = this.targetEast - p[1]!;
      const distance = Math.sqrt(dn * dn + de * de);
      const radius = Math.max(90, this.config.loiterRadius);
      if (distance < radius + 0.5 * ahead) this.circling = true;
      else if (distance > 5 * radius + 300) this.circling = false;
      if (this.circling)
        aimOnCircle(this.aim, this.targetNorth, this.targetEast, radius, 1, p[0]!, p[1]!, ahead);
      else aimOnLine(this.aim, 0, 0, this.targetNorth, this.targetEast, p[0]!, p[1]!, ahead);
      bank = bankFor(
        accelerationTowards(v[0]!, v[1]!, this.aim.north - p[0]!, this.aim.east - p[1]!),
        38 * DEG,
      );
      this.energy.step(plant.height, -v[2]!, plant.airspeed, this.homeHeight + this.targetHeight, this.speed);
      pitch = this.energy.pitch;
      throttle = this.energy.throttle;
    }
    radio.throttle = throttle;
    const c = this.config;
    if (craft.pfad.controller.mode === 'level') {
      radio.roll = clamp(bank / c.bank, -1, 1);
      const lift = pitch - c.energy.pitchTrim;
      radio.pitch = clamp(lift >= 0 ? lift / c.up : lift / c.down, -1, 1);
      radio.yaw = 0;
    } else {
      const roll = rollOf(plant.attitude);
      radio.roll = clamp(0.9 * (bank - roll) - 0.12 * plant.rates[0]!, -1, 1);
      radio.pitch = clamp(2.2 * (pitch - pitchOf(plant.attitude)) - 0.25 * plant.rates[1]!, -1, 1);
      radio.yaw = clamp(-0.2 * plant.rates[2]!, -1, 1);
    }
  }
}
