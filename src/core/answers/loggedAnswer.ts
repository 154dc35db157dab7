import { type Airframe, isRotorcraft } from '../airframe/airframe.ts';
import { type LoggedStep, type StepFromLog, stepFromLog } from '../analysis/stepResponse.ts';
import type { BoardDescription } from '../board/description.ts';
import type { RatesLog } from '../formats/ratesLog.ts';
import { DEG } from '../math/scalar.ts';
import type { Axis } from '../mixer/authority.ts';
import type { Values } from '../settings/catalogue.ts';
import { loopOf } from './chain.ts';
import { cameBy, type WhyOther, whyOther, withCause } from './whyOther.ts';

/** Sticks that move less than this ask for nothing, rad/s, root mean square. */
export const LEAST_ASKED = 3 * DEG;
/** More than this share at the end of the gyro's range, and what was quicker is missing. */
const CLIPPED_MOST = 0.01;

/** The answer to a step out of a log of rates; refused where its gyro came to its end too often. */
export function stepOfRates(rates: RatesLog): StepFromLog {
  if (rates.clipped > CLIPPED_MOST)
    return {
      ok: false,
      why: `the gyro stands at the end of its range in ${(100 * rates.clipped).toFixed(1)} % of the samples, so that what was quicker is missing`,
    };
  return stepFromLog(rates.stretches, rates.rateHz, LEAST_ASKED);
}

/** A craft, how it is set, and on which timer each output is. */
export interface SetCraft {
  readonly airframe: Airframe;
  readonly values: Values;
  readonly pads: BoardDescription['pads'];
}

export interface WhyRatesOther extends WhyOther {
  /** The answer as this log would show it if the likeliest cause were so; null without one. */
  readonly explained: LoggedStep | null;
}

/** So much of a log is flown again for what explains it, s. */
const AGAIN_S = 180;

/**
 * Why a log of rates is not what the craft as described promises: null where too little was asked for to tell, or nothing turns it so.
 * @param craft with the settings that it was flown by. @param speedMps through the air, of wings
 */
export function whyRatesOther(
  { airframe, values, pads }: SetCraft,
  axis: Axis,
  speedMps: number,
  { stretches, rateHz }: Pick<RatesLog, 'stretches' | 'rateHz'>,
): WhyRatesOther | null {
  const loop = loopOf(airframe, values, pads, axis, isRotorcraft(airframe) ? 0 : speedMps);
  if (!loop) return null;
  const why = whyOther(loop, stretches, rateHz, LEAST_ASKED);
  const cause = why?.causes[0];
  if (!why || !cause) return why && { ...why, explained: null };
  let left = Math.round(AGAIN_S * rateHz);
  const again = stretches.map((s) => {
    const asked = s.asked.subarray(0, Math.max(0, left));
    left -= asked.length;
    return { asked, came: cameBy(withCause(loop, cause), asked, rateHz) };
  });
  const told = stepFromLog(again, rateHz, LEAST_ASKED);
  return { ...why, explained: told.ok ? told.step : null };
}
