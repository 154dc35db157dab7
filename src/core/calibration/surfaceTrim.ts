import { isFitting, isMotor } from '../airframe/actuators.ts';
import type { Airframe } from '../airframe/airframe.ts';
import { DEG } from '../math/scalar.ts';
import { mixRows } from '../mixer/authority.ts';
import { outputShapeOf } from '../mixer/commanded.ts';
import { servoPulse } from '../mixer/pulse.ts';
import type { Values } from '../settings/catalogue.ts';
import { settingsOf } from '../settings/typed.ts';

/** So long it has to fly straight and level, s. */
export const TRIM_FLOWN_S = 20;
/** What counts as that: rad, m/s, rad/s, and of the speed about its usual, share. */
const STRAIGHT = { bank: 6 * DEG, climb: 0.8, turn: 4 * DEG, speed: 0.15 } as const;

/** How a wing flies at a moment: SI. */
export interface TrimLook {
  flying: boolean;
  bank: number;
  climb: number;
  /** Of the nose, to the side. */
  turn: number;
  airspeed: number;
  flap: number;
  /** What is given to roll and pitch it so, share of full command. */
  roll: number;
  pitch: number;
}

/**
 * The mean of what is commanded about roll and pitch while it flies straight and level: what its surfaces are to stand at by themselves.
 * A rudder is left alone: with one that stands off its middle a wing flies as straight, but slips, and a rate loop feels no slip.
 */
export class TrimLearner {
  readonly look: TrimLook = {
    ...{ flying: false, bank: 0, climb: 0, turn: 0, airspeed: 0, flap: 0 },
    ...{ roll: 0, pitch: 0 },
  };
  /** Straight and level so far, s. */
  seconds = 0;
  private rollSum = 0;
  private pitchSum = 0;

  /** @param usualMps speed that it usually flies at */
  constructor(private readonly usualMps: number) {}

  step(dt: number): void {
    const l = this.look;
    if (!l.flying || l.flap > 0) return;
    const straight =
      Math.abs(l.bank) < STRAIGHT.bank &&
      Math.abs(l.climb) < STRAIGHT.climb &&
      Math.abs(l.turn) < STRAIGHT.turn &&
      Math.abs(l.airspeed / this.usualMps - 1) < STRAIGHT.speed;
    if (!straight) return;
    this.seconds += dt;
    this.rollSum += dt * l.roll;
    this.pitchSum += dt * l.pitch;
  }

  reset(): void {
    this.seconds = 0;
    this.rollSum = 0;
    this.pitchSum = 0;
  }

  /** Mean commands, share of full; nought before anything was flown. */
  get roll(): number {
    return this.seconds > 0 ? this.rollSum / this.seconds : 0;
  }

  get pitch(): number {
    return this.seconds > 0 ? this.pitchSum / this.seconds : 0;
  }
}

/** Mean commands of level flight, share of full. */
export interface LevelCommand {
  readonly roll: number;
  readonly pitch: number;
}

/** A wing flown level by its board, which learns what that takes. */
export interface TrimFlown {
  readonly learnt: LevelCommand;
  /** Straight and level of it, s. */
  readonly seconds: number;
  readonly speedMps: number;
  /** New middles of its servos by key, us. */
  readonly edits: Readonly<Record<string, number>>;
  /** What level flight takes once they are written. */
  readonly left: LevelCommand;
  /** Pitch command by the craft's own model, as its rods are meant to be. */
  readonly modelPitch: number | null;
}

/**
 * New middles of the servos that stand where these commands move them to: the same shares of the mix that the board flies by.
 * @returns by key, us, whole; of what moves by less than one nothing
 */
export function trimEdits(
  airframe: Airframe,
  values: Values,
  { roll, pitch }: LevelCommand,
): Record<string, number> {
  const s = settingsOf(values);
  const aileronUp = s.number('mix.aileronUp');
  const edits: Record<string, number> = {};
  for (const { output, drives, mix } of mixRows(airframe, values)) {
    if (isMotor(drives) || isFitting(drives)) continue;
    let d = mix.roll * roll + mix.pitch * pitch;
    // The down-going half of a pair that rolls moves less.
    if (mix.roll !== 0 && mix.pitch === 0 && d > 0) d *= 1 - aileronUp;
    const shape = outputShapeOf(values, output);
    const middle = Math.round(servoPulse(shape, d));
    if (middle !== shape.centreUs) edits[`out.${output}.centre`] = middle;
  }
  return edits;
}
