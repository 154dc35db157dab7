import { DEG } from '../math/scalar.ts';

/**
 * What a board does when its arming switch is put on, in peace and where it must not be: watched, not asked for. Each try is told
 * from what the board says of channels, attitude and itself.
 */

/** Ways in which a switch is put on. `in-peace` has to arm; the others must not. */
export const armTries = ['at-start', 'throttle', 'tilted', 'moving', 'in-peace'] as const;
export type ArmTry = (typeof armTries)[number];

/** What the board told at one moment. */
export interface ArmingNow {
  /** s, of the board's own clock: it begins when the board does */
  readonly atS: number;
  /** The arming switch as its channel has it; null while no receiver is heard. */
  readonly switchOn: boolean | null;
  /** Throttle stick, 0..1. */
  readonly throttle: number;
  /** rad from upright, and rad/s */
  readonly tilt: number;
  readonly rate: number;
  readonly armed: boolean;
  /** Hand launch is asked for: the throttle may be up then. */
  readonly launch: boolean;
  readonly blockers: readonly string[];
}

export interface TryResult {
  readonly tried: ArmTry;
  /** As it should be: refused, or armed in peace and disarmed with the switch. */
  readonly good: boolean;
}

/** A switch that is on for so long was refused, s; one that was on this soon after the start was on before it. */
const REFUSED_S = 1;
const START_S = 4;
/** A switch that is off has disarmed within this, s. */
const DISARMS_S = 0.6;
/** So much is beyond doubt, whatever the board is set to. */
const THROTTLE_UP = 0.25;
const TILTED = 50 * DEG;
const MOVING = 0.6;

/** Watches a drill: feed it all that the board tells. */
export class ArmingDrill {
  private onSince: { readonly atS: number; readonly as: ArmTry | null } | null = null;
  private told = false;
  private armed = false;
  private offS: number | null = null;
  private lastS = Number.POSITIVE_INFINITY;
  private heardOff = false;
  private moved = 0;

  /** @returns what came to an end just now; null for nothing */
  look(now: ArmingNow): TryResult | null {
    // The board began anew: whatever was on then was on from its start.
    if (now.atS < this.lastS) {
      this.heardOff = false;
      this.onSince = null;
      this.offS = null;
    }
    this.lastS = now.atS;
    // Hands move it to and fro: a moment of rest between does not count.
    this.moved = Math.max(now.rate, this.moved * 0.9);
    if (now.switchOn === null) return null;
    if (!now.switchOn) {
      if (this.onSince?.as === 'in-peace' && this.armed) this.offS = now.atS;
      this.heardOff = true;
      this.onSince = null;
      this.armed = false;
      this.told = false;
      return this.afterOff(now);
    }
    this.offS = null;
    if (this.onSince === null) {
      this.onSince = { atS: now.atS, as: this.kindOf(now) };
    }
    const { atS, as } = this.onSince;
    if (as === null || this.told) return null;
    if (as === 'in-peace') {
      if (now.armed) this.armed = true;
      return null;
    }
    if (now.armed) {
      this.told = true;
      return { tried: as, good: false };
    }
    if (now.atS - atS < REFUSED_S) return null;
    this.told = true;
    return { tried: as, good: true };
  }

  /** It armed in peace and the switch is off again: the board says a moment later that it is disarmed. */
  private afterOff(now: ArmingNow): TryResult | null {
    if (this.offS === null || (now.armed && now.atS - this.offS < DISARMS_S)) return null;
    this.offS = null;
    return { tried: 'in-peace', good: !now.armed };
  }

  private kindOf(now: ArmingNow): ArmTry | null {
    if (!this.heardOff) return now.atS < START_S ? 'at-start' : null;
    if (now.throttle > THROTTLE_UP) return now.launch ? null : 'throttle';
    if (now.tilt > TILTED) return 'tilted';
    if (this.moved > MOVING) return 'moving';
    return now.blockers.length === 0 ? 'in-peace' : null;
  }
}
