import type { RehearsalInput } from '#bench/rehearsal.ts';
import type { Refused } from '#bench/stepFlown.ts';
import { flyTune, modelOfFlown, TUNE_TRACE_S, type TuneFlown } from '#bench/tuneFlown.ts';
import type { FoundGains } from '#firmware/autoTune.ts';

/** What a person sees of a flight in which gains were found. */
export interface TuneSeen extends Pick<TuneFlown, 'bank' | 'pitch' | 'height' | 'said'> {
  readonly stepS: number;
  readonly found: Readonly<Record<'roll' | 'pitch', Told | null>>;
  /** The P that the craft's model has as the same share of the most. */
  readonly model: Readonly<Record<'roll' | 'pitch', number | null>>;
}

interface Told {
  readonly p: number;
  readonly i: number;
  readonly d: number;
  readonly forward: number;
  readonly lateS: number;
  readonly explained: number;
}

const told = (f: FoundGains | null): Told | null =>
  f && {
    p: f.gains.proportional,
    i: f.gains.integral,
    d: f.gains.derivative,
    forward: f.gains.feedForward,
    lateS: f.of.lateS + f.of.lagS,
    explained: f.of.explained,
  };

/** Rehearses finding gains, and works out what the craft's model says of the same. */
export function tuneSeen(input: RehearsalInput): TuneSeen | Refused {
  const flown = flyTune(input);
  if ('refused' in flown) return flown;
  const model = (axis: 'roll' | 'pitch') => modelOfFlown(input, flown, axis)?.p ?? null;
  const { bank, pitch, height, said, found } = flown;
  return {
    bank,
    pitch,
    height,
    said,
    stepS: TUNE_TRACE_S,
    found: { roll: told(found.roll), pitch: told(found.pitch) },
    model: { roll: model('roll'), pitch: model('pitch') },
  };
}
