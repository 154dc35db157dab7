import type { LoopStretch } from '../analysis/gainsFromLog.ts';
import type { Stretch } from '../analysis/stepResponse.ts';
import type { ThrottleStretch } from '../analysis/throttleSpectra.ts';
import { DEG } from '../math/scalar.ts';
import type { Axis } from '../mixer/authority.ts';
import type { Values } from '../settings/catalogue.ts';
import type { LoggedSeries } from './flightLog.ts';
import type { SamplesTable } from './samplesTable.ts';

/** What a log says of the rates about one axis, in stretches without a gap. */
export interface RatesLog {
  readonly rateHz: number;
  readonly stretches: readonly Stretch[];
  /** Places where samples are missing. */
  readonly gaps: number;
  /** Share of samples at the end of the gyro's range. */
  readonly clipped: number;
  /** Mean speed through the air, m/s; null where the log does not tell it. */
  readonly speedMps: number | null;
  /** What it was flown by, as far as it differs from the firmware's defaults; null where the log does not tell it. */
  readonly flownBy: { readonly firmware: string; readonly changed: Values } | null;
}

export type ReadRates =
  | { readonly ok: true; readonly rates: RatesLog }
  | { readonly ok: false; readonly why: string };

/** A space between samples is a gap beyond so many of the usual ones; so much unevenness is jitter, share. */
const GAP = 1.8;
const JITTER = 0.3;
/** So many spaces are enough to tell the usual one. */
const MOST_SPACES = 20_000;
/** Rates that come again and again at the very top are clipped; less than this is no top, rad/s. */
const LEAST_TOP = 1;

const NO_LOOPS =
  'it does not hold what was asked for: switch "Log the loops" on and fly again, at fifty a second';

/** Of a board's own log. */
export function ratesOfFlight(log: LoggedSeries, axis: Axis): ReadRates {
  const at = (name: string) => log.fields.indexOf(name);
  const [t, came, asked] = [at('seconds'), at(`${axis}Rate`), at(`${axis}RateWanted`)];
  if (t < 0 || came < 0) return { ok: false, why: 'it holds no rates' };
  if (asked < 0) return { ok: false, why: NO_LOOPS };
  const column = (k: number) => Float64Array.from(log.samples, (s) => s[k]!);
  const air = at('airspeed');
  const speedMps = air < 0 ? null : column(air).reduce((sum, v) => sum + v, 0) / log.samples.length;
  const told = Object.keys(log.settings).length > 0;
  return inStretches(column(t), column(asked), column(came), {
    speedMps,
    flownBy: told ? { firmware: log.firmware, changed: log.settings } : null,
  });
}

/** What a table has to name. */
export const RATE_COLUMNS = ['t', 'asked', 'came'] as const;
export const SHAKE_COLUMNS = ['t', 'throttle', 'came'] as const;

/** Of a table with the columns `t`, `throttle` and `came`: throttle stands where others have what was asked. */
export function shakeOfTable({ columns }: SamplesTable): ReadRates {
  const [t, throttle, came] = [columns.get('t'), columns.get('throttle'), columns.get('came')];
  if (!t || !throttle || !came) return { ok: false, why: 'it names no time, no throttle or no rate' };
  return inStretches(t, throttle, came, { speedMps: null, flownBy: null });
}

const NO_GYRO =
  'it does not hold the gyro as it is before its filters: switch "Log the raw gyro" on and fly again';

export type ReadShake =
  | { readonly ok: true; readonly rateHz: number; readonly axes: readonly (readonly ThrottleStretch[])[] }
  | { readonly ok: false; readonly why: string };

/** The raw gyro of a board's own log, about roll, pitch and yaw, beside the throttle of then. */
export function shakeOfFlight(log: LoggedSeries): ReadShake {
  const [t, lever] = ['seconds', 'throttle'].map((name) => log.fields.indexOf(name)) as [number, number];
  if (log.gyro.length === 0) return { ok: false, why: NO_GYRO };
  if (t < 0 || lever < 0) return { ok: false, why: 'it holds no throttle' };
  const { stepS } = log.gyro[0]!;
  const stretches = log.gyro.filter((g) => g.stepS === stepS);
  const throttles = stretches.map(({ fromS, axes }) => {
    let at = 0;
    return axes[0]!.map((_, k) => {
      while (at + 1 < log.samples.length && log.samples[at + 1]![t]! <= fromS + k * stepS) at++;
      return log.samples[at]?.[lever] ?? Number.NaN;
    });
  });
  return {
    ok: true,
    rateHz: 1 / stepS,
    axes: [0, 1, 2].map((i) =>
      stretches.map(({ axes }, n) => ({ signal: axes[i]!, throttle: throttles[n]! })),
    ),
  };
}

/** What a loop was asked, what came and what it gave: share of full command, per cent or microseconds of half a pulse. */
export const GAIN_COLUMNS = ['t', 'asked', 'came', 'given'] as const;

export type ReadLoop =
  | { readonly ok: true; readonly rateHz: number; readonly stretches: readonly LoopStretch[] }
  | { readonly ok: false; readonly why: string };

/** Of a table with all of those. @param full how much of `given`, as it was read, is a full command */
export function loopOfTable({ columns }: SamplesTable, full: number): ReadLoop {
  const [t, asked, came, given] = GAIN_COLUMNS.map((name) => columns.get(name));
  if (!t || !asked || !came || !given)
    return {
      ok: false,
      why: 'it names no time, no rate asked for, no rate that came, or nothing that was given',
    };
  const read = inStretches(t, asked, came, { speedMps: null, flownBy: null });
  if (!read.ok) return read;
  // Stretches are cut where a gap is: what was given is cut at the same places.
  let from = 0;
  const stretches = read.rates.stretches.map((s): LoopStretch => {
    while (asked[from] !== s.asked[0] || came[from] !== s.came[0]) from++;
    const cut = given.slice(from, from + s.came.length);
    from += s.came.length;
    return { ...s, given: cut.map((x) => x / full) };
  });
  return { ok: true, rateHz: read.rates.rateHz, stretches };
}

/** Of a table with the columns `t`, `asked` and `came`. */
export function ratesOfTable({ columns }: SamplesTable): ReadRates {
  const [t, asked, came] = [columns.get('t'), columns.get('asked'), columns.get('came')];
  if (!t || !came)
    return {
      ok: false,
      why: 'it names no time or no rate: say with --map which column is t_s, asked_dps and came_dps (or _ms, _us, _radps)',
    };
  return inStretches(t, asked ?? new Float64Array(t.length), came, { speedMps: null, flownBy: null });
}

/** Cuts at gaps. @param t s @param asked rad/s @param came rad/s */
function inStretches(
  t: Float64Array,
  asked: Float64Array,
  came: Float64Array,
  told: Pick<RatesLog, 'speedMps' | 'flownBy'>,
): ReadRates {
  if (t.length < 16) return { ok: false, why: `it has ${t.length} samples` };
  const spaces = Float64Array.from({ length: t.length - 1 }, (_, k) => t[k + 1]! - t[k]!);
  const every = Math.ceil(spaces.length / MOST_SPACES);
  const some = spaces.filter((_, k) => k % every === 0).sort();
  const usual = some[some.length >> 1]!;
  if (!(usual > 0)) return { ok: false, why: 'its time does not go on' };
  const isGap = (k: number) =>
    !(spaces[k]! > 0 && spaces[k]! < GAP * usual) || !Number.isFinite(came[k]! + asked[k]!);
  const stretches: Stretch[] = [];
  let [from, gaps, within, count, uneven] = [0, 0, 0, 0, 0];
  for (let k = 0; k <= spaces.length; k++) {
    if (k < spaces.length && !isGap(k)) {
      within += spaces[k]!;
      count++;
      if (Math.abs(spaces[k]! / usual - 1) > JITTER) uneven++;
      continue;
    }
    if (k < spaces.length) gaps++;
    if (k > from) stretches.push({ asked: asked.slice(from, k + 1), came: came.slice(from, k + 1) });
    from = k + 1;
  }
  if (count === 0 || uneven > 0.2 * count)
    return { ok: false, why: 'its samples come so unevenly that their rate is not known' };
  const rateHz = count / within;
  return { ok: true, rates: { rateHz, stretches, gaps, clipped: clippedShare(came), ...told } };
}

/** Share of samples that stand at the very top, to either side. */
function clippedShare(came: Float64Array): number {
  const top = came.reduce((m, x) => Math.max(m, Math.abs(x)), 0);
  if (top < LEAST_TOP) return 0;
  const at = came.reduce((n, x) => (Math.abs(Math.abs(x) - top) < 0.01 * DEG ? n + 1 : n), 0);
  return at <= 2 ? 0 : at / came.length;
}
