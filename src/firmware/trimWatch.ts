import { TRIM_FLOWN_S, type TrimLearner } from '#core/calibration/surfaceTrim.ts';
import type { Config } from './config.ts';
import type { Command } from './outputs.ts';
import type { Sensing } from './sensing.ts';

/** Shows a wing's learner how it flies. @returns whether it has just flown level for long enough */
export function learnTrim(trim: TrimLearner, s: Sensing, k: Command, flying: boolean, dt: number): boolean {
  const { look, seconds } = trim;
  look.flying = flying;
  look.bank = s.attitude.roll;
  look.climb = s.position.climb;
  look.turn = s.attitude.rates[2]!;
  look.airspeed = s.airspeed;
  look.flap = k.flap;
  look.roll = k.roll;
  look.pitch = k.pitch;
  trim.step(dt);
  return seconds < TRIM_FLOWN_S && trim.seconds >= TRIM_FLOWN_S;
}

/** Whether servos stand in the middle where they did: what was learnt holds for those. */
export const middlesStay = (before: Config, now: Config): boolean =>
  before.outputs.every((o, i) => o.centreUs === now.outputs[i]!.centreUs);
