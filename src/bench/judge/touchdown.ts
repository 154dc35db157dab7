import { pitchOf, rollOf } from '#core/math/quaternion.ts';
import { DEG } from '#core/math/scalar.ts';
import type { Pilot } from '#firmware/modeChoice.ts';
import type { FlyingCraft } from '../flyingCraft.ts';
import { JUDGE_STEP_S } from './evidence.ts';

/** What a craft bears as it touches down, m/s: down, and aside (rotors: any way over the ground). */
const DOWN_MOST = { wing: 2.6, rotors: 2.2 } as const;
const ASIDE_MOST = { wing: 2.5, rotors: 1.8 } as const;
/** Standing for so long is standing, s; and it has so long to come to it beyond the board's own time to disarm. */
const STANDS_S = 3;
const SETTLES_S = 25;
const STILL_MPS = 0.4;
const TIPPED = 55 * DEG;
const TURNING = 40;
/** Higher than this again it has not landed, m. */
const AWAY_M = 1.2;

export type TouchState =
  | { readonly kind: 'settling' }
  | { readonly kind: 'away' }
  | { readonly kind: 'stands' }
  | { readonly kind: 'hard'; readonly how: string }
  | { readonly kind: 'tipped' }
  | { readonly kind: 'runs-on'; readonly motors: boolean };

/** Follows a craft from its first touch of the ground until it stands with its motors stopped and disarmed, or does not. */
export class Touchdown {
  /** Who flew it to the ground: once it has disarmed the board no longer says. */
  readonly pilot: Pilot;
  /** At the first touch, m/s. */
  readonly downMps: number;
  readonly asideMps: number;
  /** Over what it bears, the greater of both. */
  share: number;
  private seconds = 0;
  private stood = 0;
  private aloft = 0;

  constructor(
    private readonly craft: FlyingCraft,
    private readonly rotors: boolean,
  ) {
    const { plant } = craft;
    this.pilot = craft.pfad.controller.pilot;
    const v = plant.velocity;
    const heading = Math.atan2(
      2 * (plant.attitude[0]! * plant.attitude[3]! + plant.attitude[1]! * plant.attitude[2]!),
      1 - 2 * (plant.attitude[2]! ** 2 + plant.attitude[3]! ** 2),
    );
    const aside = -v[0]! * Math.sin(heading) + v[1]! * Math.cos(heading);
    this.downMps = Math.max(0, v[2]!);
    this.asideMps = rotors ? Math.hypot(v[0]!, v[1]!) : Math.abs(aside);
    this.share = this.shareNow();
  }

  private shareNow(): number {
    const kind = this.rotors ? 'rotors' : 'wing';
    const down = Math.max(this.downMps, this.craft.plant.contact.impactMps);
    return Math.max(down / DOWN_MOST[kind], this.asideMps / ASIDE_MOST[kind]);
  }

  step(): TouchState {
    const { plant, pfad } = this.craft;
    const c = pfad.controller;
    this.seconds += JUDGE_STEP_S;
    // Points that come down after the first one, and hops, are part of the landing.
    this.share = Math.max(this.share, this.shareNow());
    if (this.share > 1) return { kind: 'hard', how: this.how() };
    const up = this.craft.aboveGround - plant.contact.depth;
    this.aloft = plant.contact.touching ? 0 : this.aloft + JUDGE_STEP_S;
    if (up > AWAY_M && this.aloft > 1) return { kind: 'away' };
    if (Math.abs(rollOf(plant.attitude)) > TIPPED || Math.abs(pitchOf(plant.attitude)) > TIPPED)
      return { kind: 'tipped' };
    const v = plant.velocity;
    const still = Math.hypot(v[0]!, v[1]!, v[2]!) < STILL_MPS;
    const stopped = plant.motors.every(
      (m) => m.omega < TURNING || plant.duties[plant.motors.indexOf(m)] === 0,
    );
    this.stood = still && stopped && !c.armed ? this.stood + JUDGE_STEP_S : 0;
    if (this.stood >= STANDS_S) return { kind: 'stands' };
    if (this.seconds > SETTLES_S + c.config.land.disarm) return { kind: 'runs-on', motors: !stopped };
    return { kind: 'settling' };
  }

  private how(): string {
    const kind = this.rotors ? 'rotors' : 'wing';
    const down = Math.max(this.downMps, this.craft.plant.contact.impactMps);
    return this.asideMps / ASIDE_MOST[kind] > down / DOWN_MOST[kind]
      ? `at ${this.asideMps.toFixed(1)} m/s ${this.rotors ? 'across the ground' : 'sideways'} (it bears ${ASIDE_MOST[kind]})`
      : `at ${down.toFixed(1)} m/s downwards (it bears ${DOWN_MOST[kind]})`;
  }
}
