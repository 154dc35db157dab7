import type { Cause, Verdict } from '#core/formats/rehearsalResult.ts';
import type { FlyingCraft } from '../flyingCraft.ts';
import type { Why } from './reasons.ts';

/** How a flight ended, why, and on what that rests. */
export interface Judgement {
  readonly verdict: Verdict;
  readonly reason: string;
  readonly cause: Cause;
  readonly causeAtS: number;
  readonly settings: readonly string[];
}

/** An end with nothing wrong behind it. */
export const fine = (verdict: Verdict, reason: string): Judgement => ({
  verdict,
  reason,
  cause: 'nothing',
  causeAtS: 0,
  settings: [],
});

/** An end, what is to be said of it first, and what made it. */
export function because(verdict: Verdict, what: string, why: Why): Judgement {
  return {
    verdict,
    reason: what === '' ? why.text : `${what} ${why.text}`,
    cause: why.cause,
    causeAtS: Math.round(10 * why.atS) / 10,
    settings: why.settings,
  };
}

export function kilometres(metres: number): string {
  return metres >= 1000 ? `${(metres / 1000).toFixed(1)} km` : `${metres.toFixed(0)} m`;
}

/** Of the battery left, percent. */
export function charge(craft: FlyingCraft): string {
  const { battery } = craft.plant;
  return (100 * Math.max(0, 1 - battery.usedAs / battery.capacityAs)).toFixed(0);
}
