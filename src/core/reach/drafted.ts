import { type Airframe, isRotorcraft } from '../airframe/airframe.ts';
import { FlightPower } from '../airframe/flightPower.ts';
import { hoverOf } from '../airframe/performance.ts';
import { densityOn, SEA_LEVEL_DENSITY, STANDARD_DAY } from '../flight/atmosphere.ts';
import { DEG, GRAVITY } from '../math/scalar.ts';
import type { ClimbRule } from '../navigation/returnPlan.ts';
import type { Values } from '../settings/catalogue.ts';
import { settingsOf } from '../settings/typed.ts';

/** Greatest share of what the drive has left that a climb is counted on. */
const CLIMB_SHARE = 0.9;
/** On the descent the motor gives less: of the level flight's power above what everything else takes, as flown in wind. */
const SINKING_SHARE = 0.55;
/** How much more a craft with rotors may lean when it is held up, as the firmware has it. */
const LEANS_MORE = 0.3;
/** An approach of a wing to land takes about so long, s. */
const APPROACH_S = 90;

/** The return as it is drafted, with what the craft needs for each part of it. SI. */
export interface DraftedReturn {
  readonly rotors: boolean;
  /** How far a craft with rotors may lean, rad; not a number for wings. */
  readonly tiltRad: number;
  readonly rule: ClimbRule;
  /** Height above home, or above the ground ahead. */
  readonly heightM: number;
  readonly aboveGround: boolean;
  readonly nearM: number;
  readonly floorM: number;
  readonly lowerM: number;
  readonly watchS: number;
  readonly giveUpS: number;
  /** From the last word of the transmitter to the way home. */
  readonly beforeS: number;
  readonly sinkMps: number;
  readonly radiusM: number;
  readonly arrival: 'circle' | 'circle-low' | 'land';
  readonly arrivalM: number;
  readonly fenceM: number;
  /** As asked for, and as it flies once it is held up: through the air for wings, over ground for rotors. */
  readonly paces: readonly [Pace, Pace];
  /** Staying above home, W; landing from above home: how long it takes from its last height, s, and W. */
  readonly circleW: number;
  readonly sinkW: number;
  readonly landS: number;
  readonly landW: number;
}

export interface Pace {
  readonly speedMps: number;
  /** The greatest speed through the air that it can have; infinite for wings, whose speed is the pace itself. */
  readonly mostAirMps: number;
  readonly climbMps: number;
  /** Level at `speeds[i]` through the air, W; not a number where it cannot be flown. */
  readonly levelW: readonly number[];
  readonly climbW: number;
  readonly speeds: readonly number[];
}

/**
 * @param homeM home above the sea: the air at the return height is taken for all of the way
 * @throws RangeError where the board lacks the settings of a return
 */
export function draftedReturn(airframe: Airframe, values: Values, homeM: number): DraftedReturn {
  if (typeof values['return.speed'] !== 'number')
    throw new RangeError('This board has no settings of a return');
  const s = settingsOf(values);
  const rotors = isRotorcraft(airframe);
  const rho = densityOn(STANDARD_DAY, homeM + s.number('return.height'));
  const power = new FlightPower(airframe, { rho, maxDuty: s.number('motor.max') });
  // What a board holds is the indicated speed; through thinner air it is faster.
  const trueRatio = Math.sqrt(SEA_LEVEL_DENSITY / rho);
  const speed = s.number('return.speed');
  const radiusM = s.number('loiter.radius');
  const pace = (asked: number, more: number): Pace => {
    const mostAirMps = rotors
      ? hoverOf(airframe).topSpeedMps(Math.min(s.number('hover.tilt') * DEG * (1 + more), 1.05))
      : Number.POSITIVE_INFINITY;
    const speedMps = rotors ? asked : asked * trueRatio;
    const speeds = rotors
      ? Array.from({ length: 9 }, (_, i) => (i / 8) * Math.max(1, mostAirMps))
      : [speedMps];
    const climbMps = Math.max(
      0,
      Math.min(s.number('nav.climb'), CLIMB_SHARE * power.mostClimb(rotors ? 0 : speedMps)),
    );
    const load = rotors ? 1 : turning(speedMps, radiusM);
    return {
      speedMps,
      mostAirMps,
      climbMps,
      speeds,
      levelW: speeds.map((v) => power.watts({ speedMps: v, climbMps: 0, load: 1 })),
      climbW: power.watts({ speedMps: rotors ? 0 : speedMps, climbMps, load }),
    };
  };
  const first = pace(speed, 0);
  const circleW = rotors
    ? first.levelW[0]!
    : power.watts({ speedMps: first.speedMps, climbMps: 0, load: turning(first.speedMps, radiusM) });
  const arrival = s.choice('return.arrival');
  const arrivalM = arrival === 'land' ? s.number('land.height') : s.number('return.arrivalHeight');
  return {
    rotors,
    tiltRad: rotors ? s.number('hover.tilt') * DEG : Number.NaN,
    rule: s.choice('return.climb'),
    heightM: s.number('return.height'),
    aboveGround: s.choice('return.above') === 'ground',
    nearM: s.number('lost.near'),
    floorM: s.number('return.floor'),
    lowerM: s.number('return.lower'),
    watchS: s.number('return.watch'),
    giveUpS: s.number('return.timeout'),
    beforeS: s.number('lost.notice') + s.number('lost.guard'),
    sinkMps: s.number('nav.sink'),
    radiusM,
    arrival,
    arrivalM,
    fenceM: s.number('fence.radius'),
    paces: [first, pace(speed + s.number('return.faster'), LEANS_MORE)],
    circleW,
    sinkW: rotors
      ? power.watts({ speedMps: 0, climbMps: -s.number('nav.sink'), load: 1 })
      : power.houseW + SINKING_SHARE * (circleW - power.houseW),
    landS: rotors ? 8 / s.number('hover.land') : APPROACH_S,
    landW: circleW,
  };
}

/** Lift over weight on a circle. */
const turning = (speedMps: number, radiusM: number) => Math.hypot(1, speedMps ** 2 / (GRAVITY * radiusM));

/** Level flight at a speed through the air, W, between the speeds it was worked out for. */
export function levelWatts(pace: Pace, airMps: number): number {
  const { speeds, levelW } = pace;
  if (speeds.length === 1) return levelW[0]!;
  const last = speeds.length - 1;
  const at = Math.min(Math.max(0, (airMps / speeds[last]!) * last), last);
  const i = Math.min(Math.floor(at), last - 1);
  return levelW[i]! + (at - i) * (levelW[i + 1]! - levelW[i]!);
}
