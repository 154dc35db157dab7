import { clamp, DEG, GRAVITY } from '../math/scalar.ts';
import type { Values } from '../settings/catalogue.ts';
import { settingsOf } from '../settings/typed.ts';
import { inSet } from './controlSet.ts';

/** What the energy loop needs to know of a craft. Speeds m/s, angles rad, throttle 0..1. */
export interface EnergySettings {
  readonly climbMps: number;
  readonly sinkMps: number;
  readonly cruiseThrottle: number;
  readonly maxThrottle: number;
  /** Throttle per m/s of climb. */
  readonly throttlePerClimb: number;
  readonly heightTime: number;
  readonly speedTime: number;
  readonly pitchUp: number;
  readonly pitchDown: number;
  readonly pitchTrim: number;
  /** Below this airspeed height is given up for speed. */
  readonly speedFloor: number;
}

/** As a board is set. */
export function energySettingsOf(values: Values): EnergySettings {
  const { number: n, choice } = settingsOf(values);
  const set = Number(choice('set.active'));
  return {
    climbMps: n('nav.climb'),
    sinkMps: n('nav.sink'),
    cruiseThrottle: n('motor.cruise'),
    maxThrottle: n('motor.max'),
    throttlePerClimb: n('motor.perClimb'),
    heightTime: n('nav.heightTime'),
    speedTime: n('nav.speedTime'),
    pitchUp: n(inSet('level.up', set)) * DEG,
    pitchDown: n(inSet('level.down', set)) * DEG,
    pitchTrim: n('level.pitch') * DEG,
    speedFloor: n('nav.speedFloor'),
  };
}

/**
 * Height and speed together: total energy by throttle, its split between the two by pitch (Lambregts 1983).
 * All rates are written as climb: an energy rate divided by g.
 */
export class EnergyLoop {
  throttle = 0;
  pitch = 0;
  private totalSum = 0;
  private splitSum = 0;
  private lastSpeed = 0;
  private speedRate = 0;

  constructor(
    private readonly s: EnergySettings,
    private readonly dt: number,
  ) {}

  reset(speed: number): void {
    this.totalSum = 0;
    this.splitSum = 0;
    this.lastSpeed = speed;
    this.speedRate = 0;
  }

  /** One step towards a height (m) and airspeed (m/s); results are in `throttle` and `pitch` (rad). */
  step(height: number, climb: number, speed: number, heightDemand: number, speedDemand: number): void {
    const s = this.s;
    const v = Math.max(5, speed);
    const rawRate = (speed - this.lastSpeed) / this.dt;
    this.lastSpeed = speed;
    this.speedRate += clamp(this.dt / 0.8, 0, 1) * (rawRate - this.speedRate);
    const climbDemand =
      speed < s.speedFloor
        ? -s.sinkMps
        : clamp((heightDemand - height) / s.heightTime, -s.sinkMps, s.climbMps);
    const rateDemand = clamp((speedDemand - speed) / s.speedTime, -1.5, 1.5);
    const kineticDemand = (v * rateDemand) / GRAVITY;
    const kinetic = (v * this.speedRate) / GRAVITY;
    const totalError = climbDemand + kineticDemand - (climb + kinetic);
    const splitError = climbDemand - kineticDemand - (climb - kinetic);

    const base = s.cruiseThrottle + s.throttlePerClimb * (climbDemand + kineticDemand + 0.4 * totalError);
    const sum = this.totalSum + 0.06 * s.throttlePerClimb * totalError * this.dt * 5;
    const open = base + sum;
    if ((open < s.maxThrottle || totalError < 0) && (open > 0 || totalError > 0))
      this.totalSum = clamp(sum, -0.5, 0.5);
    this.throttle = clamp(base + this.totalSum, 0, s.maxThrottle);

    const pitchBase = s.pitchTrim + (climbDemand - 0.5 * kineticDemand + 0.3 * splitError) / v;
    const split = this.splitSum + (0.25 * splitError * this.dt) / v;
    const pitchOpen = pitchBase + split;
    if ((pitchOpen < s.pitchUp || splitError < 0) && (pitchOpen > -s.pitchDown || splitError > 0)) {
      this.splitSum = clamp(split, -0.25, 0.25);
    }
    this.pitch = clamp(pitchBase + this.splitSum, -s.pitchDown, s.pitchUp);
  }
}
