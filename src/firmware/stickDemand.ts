import { clamp } from '#core/math/scalar.ts';
import type { ModeId } from '#core/modes/modes.ts';
import type { Config, ControlSet } from './config.ts';
import type { AttitudeDemand } from './loops.ts';
import type { Sticks } from './sticks.ts';

/** Rate, Level and Horizon: the sticks ask for rates, angles, or some of both. */
export function demandBySticks(mode: ModeId, s: Sticks, c: Config, set: ControlSet, d: AttitudeDemand): void {
  if (mode === 'rate') {
    d.freeRoll = 1;
    d.freePitch = 1;
    return;
  }
  const trim = c.rotorcraft ? 0 : c.energy.pitchTrim;
  d.roll = s.roll * set.bank;
  d.pitch = trim + (s.pitch >= 0 ? s.pitch * set.up : s.pitch * set.down);
  if (mode === 'horizon') {
    d.freeRoll = freeShare(s.roll, c.horizonBlend);
    d.freePitch = freeShare(s.pitch, c.horizonBlend);
  }
}

/** How much of a stick in Horizon turns freely: none up to `from`, all at the end. */
function freeShare(stick: number, from: number): number {
  return clamp((Math.abs(stick) - from) / (1.001 - from), 0, 1);
}

/** Throttle after the limits: none unless armed, never below idle while armed, up by the ramp and down at once. */
export function limitedThrottle(wanted: number, now: number, armed: boolean, c: Config, dt: number): number {
  if (!armed) return 0;
  const target = clamp(wanted, c.idle, c.energy.maxThrottle);
  return target > now && c.ramp > 0 ? Math.min(target, now + dt / c.ramp) : target;
}
