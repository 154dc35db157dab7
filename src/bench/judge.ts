import { type Airframe, isRotorcraft } from '#core/airframe/airframe.ts';
import { stallSpeed } from '#core/airframe/performance.ts';
import { windAtHeight } from '#core/flight/wind.ts';
import type { Verdict } from '#core/formats/rehearsalResult.ts';
import { pitchOf, rollOf } from '#core/math/quaternion.ts';
import { DEG } from '#core/math/scalar.ts';
import { modeNames } from '#core/modes/modes.ts';
import { formatDuration } from '#core/units/units.ts';
import type { FlyingCraft } from './flyingCraft.ts';

/** Around home for this long is home. */
const ARRIVED_S = 25;
const ARRIVED_ROTOR_S = 12;
/** No nearer home for this long is no progress. */
const HELD_UP_S = 150;
/** The ground is reached gently below this, m/s. */
const GENTLE_MPS = 2.6;
const LANDED_WITHIN_M = 120;
export const JUDGE_STEP_S = 0.02;

export interface Judgement {
  readonly verdict: Verdict;
  readonly reason: string;
}

/** Watches a flight from outside and says how it ended, with the reason in a sentence. */
export class Judge {
  /** Nearest to home since the way home began, and before it, m. */
  best = Number.POSITIVE_INFINITY;
  closestOut = Number.POSITIVE_INFINITY;
  private arrivedFor = 0;
  private homeward = false;
  /** Distance that the last 20 m of progress began from. */
  private progressMark = 0;
  private sinceBest = 0;
  private upsetFor = 0;
  private airborne = false;
  private downFor = 0;
  private readonly rotors: boolean;

  constructor(
    private readonly craft: FlyingCraft,
    private readonly airframe: Airframe,
    private readonly homeHeight: number,
    /** Wind at 10 m now, m/s. */
    private readonly windNow: () => number,
    private readonly limitS: number,
  ) {
    this.rotors = isRotorcraft(airframe);
  }

  get distance(): number {
    const p = this.craft.plant.position;
    return Math.hypot(p[0]!, p[1]!);
  }

  /** Looks once more, every 20 ms. @param seconds since the launch */
  watch(seconds: number): Judgement | null {
    const { plant, pfad } = this.craft;
    const c = pfad.controller;
    const distance = this.distance;
    const roll = Math.abs(rollOf(plant.attitude));
    const pitch = Math.abs(pitchOf(plant.attitude));
    const upset = roll > 80 * DEG || pitch > (this.rotors ? 75 : 55) * DEG;
    this.upsetFor = upset ? Math.min(5, this.upsetFor + 0.1) : Math.max(0, this.upsetFor - 0.02);
    if (!this.airborne) {
      this.airborne = this.craft.aboveGround > 2.5;
      if (!this.airborne && seconds > 45) return this.never();
      if (this.airframe.launch !== 'hand' || seconds < 0.5) return null;
    }
    if (plant.contact.touching || this.craft.aboveGround <= 0.02) return this.down(distance, seconds);
    this.downFor = 0;
    if (plant.battery.empty) {
      return {
        verdict: 'energy',
        reason: `The battery is empty ${kilometres(distance)} from home, ${formatDuration(seconds)} after launch.`,
      };
    }
    if (c.pilot !== 'return') {
      this.closestOut = Math.min(this.closestOut, distance);
      this.homeward = false;
      this.arrivedFor = 0;
      return null;
    }
    return this.onTheWay(distance, seconds);
  }

  private onTheWay(distance: number, seconds: number): Judgement | null {
    const c = this.craft.pfad.controller;
    if (!this.homeward) {
      this.homeward = true;
      this.best = distance;
      this.progressMark = distance;
      this.sinceBest = 0;
    }
    this.best = Math.min(this.best, distance);
    // While it climbs on the spot the wind carries it where it likes.
    if (distance < this.progressMark - 20 || c.home.phase === 'climbing') {
      this.progressMark = distance;
      this.sinceBest = 0;
    } else this.sinceBest += JUDGE_STEP_S;
    const near = this.rotors ? 20 : 2 * c.config.loiterRadius + 80;
    this.arrivedFor = distance < near ? this.arrivedFor + JUDGE_STEP_S : 0;
    const landing = c.config.arrival === 'land';
    const long = this.rotors ? ARRIVED_ROTOR_S : ARRIVED_S;
    if (!landing && this.arrivedFor >= long) return this.arrive(seconds);
    if (this.arrivedFor === 0 && c.home.phase === 'homeward' && this.sinceBest > HELD_UP_S)
      return {
        verdict: 'no-progress',
        reason: `${this.windSentence()} It is ${kilometres(distance)} from home and came no nearer for ${formatDuration(HELD_UP_S)}.`,
      };
    return null;
  }

  private arrive(seconds: number): Judgement {
    const doing = this.rotors ? 'Hovers' : 'Circles';
    return {
      verdict: 'home',
      reason: `${doing} above home ${formatDuration(seconds)} after launch, with ${this.charge()} % of the battery left.`,
    };
  }

  private charge(): string {
    const battery = this.craft.plant.battery;
    return (100 * (1 - battery.usedAs / battery.capacityAs)).toFixed(0);
  }

  private windSentence(): string {
    const wind = this.windHere();
    const speed = this.craft.pfad.controller.config.returnSpeed;
    const above = Math.max(10, this.craft.aboveGround);
    const head = wind > 0.8 * speed ? 'The wind is too strong for the return speed' : 'The wind';
    const through = this.rotors ? 'over ground' : 'through the air';
    return `${head}: it blows at ${wind.toFixed(0)} m/s at ${above.toFixed(0)} m above ground, and the craft flies home at ${speed.toFixed(0)} m/s ${through}.`;
  }

  private windHere(): number {
    return windAtHeight(this.windNow(), Math.max(10, this.craft.aboveGround));
  }

  timeOut(): Judgement {
    const distance = this.distance;
    const limit = formatDuration(this.limitS);
    const c = this.craft.pfad.controller;
    if (c.pilot !== 'return') {
      return {
        verdict: 'timeout',
        reason: `After ${limit} nothing had sent it home; it is ${kilometres(distance)} out under ${modeNames[c.mode]}.`,
      };
    }
    const wind = this.windHere() > 0.5 * c.config.returnSpeed ? ` ${this.windSentence()}` : '';
    return {
      verdict: 'timeout',
      reason: `After ${limit} it was still on its way home, ${kilometres(distance)} out.${wind}`,
    };
  }

  private never(): Judgement {
    return {
      verdict: 'lost-control',
      reason: 'It never left the ground. Check the motors, their outputs and the take-off.',
    };
  }

  private down(distance: number, seconds: number): Judgement | null {
    const { plant, pfad, ground } = this.craft;
    const c = pfad.controller;
    const where = `${kilometres(distance)} from home, ${formatDuration(seconds)} after launch`;
    const surface = ground > 0.5 ? `the ground at ${ground.toFixed(0)} m above the sea` : 'the sea';
    const gentle = plant.contact.impactMps < GENTLE_MPS && this.upsetFor < 0.4;
    const landing =
      c.landed ||
      (c.pilot === 'return' && ['flare', 'descending', 'final'].includes(c.home.phase)) ||
      (this.rotors && (c.pilot === 'glide' || c.pilot === 'route'));
    if (gentle && landing) {
      // On the ground as it was meant to be: wait until it stands.
      this.downFor += JUDGE_STEP_S;
      if (this.downFor < 4 && !c.landed) return null;
      if (distance < LANDED_WITHIN_M) {
        return {
          verdict: 'home',
          reason: `Landed ${kilometres(distance)} from home ${formatDuration(seconds)} after launch, with ${this.charge()} % of the battery left.`,
        };
      }
      return { verdict: 'lost-control', reason: `It came down by itself ${where}.` };
    }
    if (c.pilot === 'cut' || c.pilot === 'glide') {
      const chosen = c.pilot === 'cut' ? 'stopped the motors' : this.rotors ? 'came down' : 'glided down';
      const asked =
        c.config.lostAction === c.pilot ? 'as the settings ask' : 'since it had no home to return to';
      return {
        verdict: 'lost-control',
        reason: `With the link lost the board ${chosen}, ${asked}, and the craft came down ${where}.`,
      };
    }
    return this.crash(seconds, where, surface);
  }

  private crash(seconds: number, where: string, surface: string): Judgement {
    const { plant, pfad } = this.craft;
    const slow = !this.rotors && plant.airspeed < 0.75 * stallSpeed(this.airframe);
    if (this.upsetFor > 0.4 || slow || seconds < 20) {
      const how =
        seconds < 20
          ? 'It did not climb away from the launch'
          : slow
            ? 'It stalled'
            : 'It did not hold its attitude';
      const windy = this.windHere() > 15 ? ` in a wind of ${this.windHere().toFixed(0)} m/s` : '';
      const doubt = windy ? '' : ' Check that every surface and motor answers the right way.';
      return { verdict: 'lost-control', reason: `${how}${windy} and hit ${surface}, ${where}.${doubt}` };
    }
    const windy = this.windHere() > 0.8 * pfad.controller.config.returnSpeed ? ` ${this.windSentence()}` : '';
    return {
      verdict: 'terrain',
      reason: `It flew into ${surface}, ${where}, at a height of ${(plant.height - this.homeHeight).toFixed(0)} m above home.${windy}`,
    };
  }
}

export function kilometres(metres: number): string {
  return metres >= 1000 ? `${(metres / 1000).toFixed(1)} km` : `${metres.toFixed(0)} m`;
}
