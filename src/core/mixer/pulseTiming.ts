import type { Values } from '../settings/catalogue.ts';
import { settingsOf } from '../settings/typed.ts';

/** A timer: its number, which is part of the keys of its settings; undefined for an output on none that is known. */
type Timer = number | undefined;

/** Steps of a millisecond from one pulse of a timer to the next; each step has one where frames are sent, or nothing is known. */
export function stepsBetweenPulses(values: Values, timer: Timer): number {
  return timer === undefined || sendsFrames(values, timer)
    ? 1
    : Math.max(1, Math.round(1000 / Number(settingsOf(values).choice(`timer.${timer}.rate`))));
}

/** A timer sends digital frames instead of pulses. */
export function sendsFrames(values: Values, timer: Timer): boolean {
  return timer !== undefined && settingsOf(values).choice(`timer.${timer}.sends`) !== 'pulses';
}
