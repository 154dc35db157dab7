import type { RateGains } from '#core/control/rateLoop.ts';
import type { Axis } from '#core/mixer/authority.ts';
import type { Catalogue, SettingValue, Values } from '#core/settings/catalogue.ts';

const GAIN_STEP = 1e-4;
const LEAST_TIMES = 0.05;

/** The gains of an axis, those first that are raised and lowered together. */
export const gainKeys = (axis: Axis) =>
  [`rate.${axis}.p`, `rate.${axis}.i`, `rate.${axis}.d`, `rate.${axis}.forward`] as const;

const together = (axis: Axis) => gainKeys(axis).slice(0, 3);

/** How many times what the board has P is; null where the board has none, so that nothing can be said of ratios. */
export function timesOf(base: Values, values: Values, axis: Axis): number | null {
  const [had, has] = [base[`rate.${axis}.p`], values[`rate.${axis}.p`]];
  return typeof had === 'number' && typeof has === 'number' && had > 0 ? has / had : null;
}

/**
 * P, I and D so many times what the board has, their ratios kept; the feed-forward is the craft's and stays.
 * @param most what each may be at most
 */
export function scaledGains(
  base: Values,
  axis: Axis,
  times: number,
  most: (key: string) => number,
): Record<string, SettingValue> {
  const had = together(axis).flatMap((key) => {
    const value = base[key];
    return typeof value === 'number' ? [{ key, value }] : [];
  });
  // None beyond its bounds, or the ratios would not be kept.
  const bound = Math.min(
    ...had.map(({ key, value }) => (value > 0 ? most(key) / value : Number.POSITIVE_INFINITY)),
  );
  const k = Math.min(bound, Math.max(LEAST_TIMES, times));
  return Object.fromEntries(
    had.map(({ key, value }) => [key, Number((Math.round((value * k) / GAIN_STEP) * GAIN_STEP).toFixed(4))]),
  );
}

/** Found gains as edits: within what the board takes, and no finer than it keeps them. */
export function gainEdits(gains: RateGains, axis: Axis, catalogue: Catalogue): Record<string, SettingValue> {
  const [p, i, d, forward] = gainKeys(axis);
  return Object.fromEntries(
    (
      [
        [p, gains.proportional],
        [i, gains.integral],
        [d, gains.derivative],
        [forward, gains.feedForward],
      ] as const
    ).flatMap(([key, value]) => {
      const entry = catalogue.entry(key);
      if (!entry) return [];
      const within = Math.min(entry.max ?? value, Math.max(entry.min ?? value, value));
      return [[key, Number((Math.floor(within / GAIN_STEP) * GAIN_STEP).toFixed(4))]];
    }),
  );
}
