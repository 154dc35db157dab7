import type { LoggedStep } from '../analysis/stepResponse.ts';
import type { TunedAnswer } from '../formats/tuning.ts';
import { type Catalogue, sameValue, type Values } from '../settings/catalogue.ts';
import { figuresOf } from './stepAnswer.ts';

/** Settings that tuning is made of: loops, filters, levels, what stands around them. */
const TUNING = /^(set\.|rate\.|gyro\.|level\.|hover\.|rx\.expo$|nav\.(period|damping|heightTime|speedTime)$)/;

export const isTuning = (key: string): boolean => TUNING.test(key);

export const tuningValues = (values: Values): Values =>
  Object.fromEntries(Object.entries(values).filter(([key]) => isTuning(key)));

/** A setting of tuning that is another one in the later of two. */
export interface TuningChange {
  readonly key: string;
  readonly from: Values[string] | undefined;
  readonly to: Values[string] | undefined;
}

/** What changed from one to another, in the order of the catalogue. Values that are finer than a setting's thousandth are the same. */
export function tuningChanges(before: Values, after: Values, catalogue: Catalogue): readonly TuningChange[] {
  return catalogue.entries
    .filter(({ key }) => isTuning(key) && !same(before[key], after[key]))
    .map(({ key }) => ({ key, from: before[key], to: after[key] }));
}

function same(a: Values[string] | undefined, b: Values[string] | undefined): boolean {
  if (a === undefined || b === undefined) return a === b;
  return sameValue(a, b);
}

/** So much of an answer counts, s. */
const LOOKED_S = 0.6;

/** What is kept of an answer out of a log or a flight. */
export function tunedAnswer({ mean, spread, stepS }: LoggedStep): TunedAnswer {
  const line = mean.subarray(0, Math.round(LOOKED_S / stepS));
  const f = figuresOf({ rates: line, commands: line, stepS }, 1);
  const known = (x: number) => (Number.isFinite(x) ? Number(x.toFixed(4)) : null);
  const sure = 2 * Math.max(...spread.subarray(0, line.length));
  return {
    riseS: known(f.riseS),
    delayS: known(f.delayS),
    overshoot: known(f.overshoot) ?? 0,
    sure: known(sure) ?? 0,
  };
}

/** Less than this is no change that can be told, share of the answer. */
const LEAST = 0.03;

/** What a change did to an answer: only what is larger than both are sure to. */
export interface AnswerChange {
  /** s, later below nought; null where that cannot be told. */
  readonly rise: number | null;
  /** Share of what is asked, less below nought. */
  readonly overshoot: number | null;
}

export function answerChange(before: TunedAnswer, after: TunedAnswer): AnswerChange {
  const sure = Math.max(LEAST, Math.hypot(before.sure, after.sure));
  const over = after.overshoot - before.overshoot;
  const rise = before.riseS !== null && after.riseS !== null ? after.riseS - before.riseS : null;
  return {
    rise: rise !== null && Math.abs(rise) > sure * Math.min(before.riseS!, after.riseS!) ? rise : null,
    overshoot: Math.abs(over) > sure ? over : null,
  };
}

/** Gains that were found, as settings take them: of rotors the feed-forward is not told. */
export function gainsPart(
  found: { readonly p: number; readonly i: number; readonly d: number; readonly forward: number },
  rotors: boolean,
): readonly (readonly ['p' | 'i' | 'd' | 'forward', number])[] {
  const value = (x: number) => Number(x.toPrecision(4));
  return [
    ['p', value(found.p)],
    ['i', value(found.i)],
    ['d', value(found.d)],
    ...(rotors ? [] : [['forward', value(found.forward)] as const]),
  ];
}
