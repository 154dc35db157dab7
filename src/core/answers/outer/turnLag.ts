import type { Airframe } from '../../airframe/airframe.ts';
import type { BoardDescription } from '../../board/description.ts';
import type { Values } from '../../settings/catalogue.ts';
import { loopOf } from '../chain.ts';
import { answerTo, figuresOf } from '../stepAnswer.ts';

/** Small, so that nothing but the loop holds it back, rad/s. */
const ASKED = 0.3;
const USUAL_S = 0.1;

/** How late a rate loop is as what stands around it feels it, s: from the wish to half of what comes. */
export function turnLag(
  airframe: Airframe,
  values: Values,
  pads: BoardDescription['pads'],
  axis: 'roll' | 'pitch',
  speedMps: number,
): number {
  const loop = loopOf(airframe, values, pads, axis, speedMps, Number(values['set.active'] ?? 1));
  if (!loop) return USUAL_S;
  const { delayS } = figuresOf(answerTo(loop, ASKED, 0, 0.6), ASKED);
  return Number.isFinite(delayS) ? Math.max(0.01, delayS) : USUAL_S;
}
