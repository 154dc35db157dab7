import type { RehearsalInput } from '#bench/rehearsal.ts';
import { flyStep, type Refused } from '#bench/stepFlown.ts';
import { tunedAnswer, tuningValues } from '#core/answers/tunings.ts';
import type { TunedAnswer } from '#core/formats/tuning.ts';
import { type Axis, axes } from '#core/mixer/authority.ts';
import type { OpenedTuning } from './openedLog.ts';

/** Each axis flown with its stick thrown about, as a log would show it. */
export function flyTuning(input: RehearsalInput): OpenedTuning | Refused {
  const answers: Record<Axis, TunedAnswer | null> = { roll: null, pitch: null, yaw: null };
  let [seconds, speedMps, refused] = [0, 0, ''];
  for (const axis of axes) {
    const flown = flyStep(input, axis);
    if ('refused' in flown) {
      refused = flown.refused;
      continue;
    }
    answers[axis] = tunedAnswer(flown.step);
    seconds += flown.seconds;
    speedMps = flown.speedMps;
  }
  if (axes.every((a) => answers[a] === null)) return { refused };
  return { kind: 'tuning', seconds, speedMps, values: tuningValues(input.values), moved: [], answers };
}
