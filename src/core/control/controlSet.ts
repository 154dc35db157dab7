import type { Values } from '../settings/catalogue.ts';
import { type NumberKey, settingsOf } from '../settings/typed.ts';
import type { RateGains } from './rateLoop.ts';

/** The key of a setting in a control set: the first has no prefix. @param set 1 to 3 */
export const inSet = (key: string, set: number): NumberKey =>
  (set === 1 ? key : `set.${set}.${key}`) as NumberKey;

/** Gains of one axis in a control set. @param set 1 to 3 */
export function gainsOf(values: Values, axis: 'roll' | 'pitch' | 'yaw', set: number): RateGains {
  const s = settingsOf(values);
  const part = (name: string) => s.number(inSet(`rate.${axis}.${name}`, set));
  return {
    feedForward: part('forward'),
    proportional: part('p'),
    integral: part('i'),
    derivative: part('d'),
  };
}
