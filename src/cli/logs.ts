import { type Line, linesOf, noiseDensity, welch } from '#core/analysis/spectrum.ts';
import { middleOf, throttleSpectra } from '#core/analysis/throttleSpectra.ts';
import { usualSpeed } from '#core/answers/answers.ts';
import { stepOfRates, whyRatesOther } from '#core/answers/loggedAnswer.ts';
import { figuresOf } from '#core/answers/stepAnswer.ts';
import type { Cause, WhyOther } from '#core/answers/whyOther.ts';
import { knownDescription } from '#core/board/boardRef.ts';
import type { CraftFile } from '#core/formats/craftFile.ts';
import { type LoggedSeries, readFlightLog } from '#core/formats/flightLog.ts';
import {
  type RatesLog,
  type ReadRates,
  ratesOfFlight,
  ratesOfTable,
  shakeOfFlight,
  shakeOfTable,
} from '#core/formats/ratesLog.ts';
import { SamplesReader, type SamplesTable } from '#core/formats/samplesTable.ts';
import { DEG } from '#core/math/scalar.ts';
import { type Axis, axes } from '#core/mixer/authority.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { settingsOfFlight } from '#firmware/releases.ts';
import { BadInput, readBytes, readPieces } from './input.ts';
import { say } from './output.ts';

const MAX_LOG_BYTES = 400_000_000;

export interface LogOptions {
  readonly axis: string | undefined;
  readonly map: string | undefined;
}

/** A craft to compare with, and its settings. */
interface GivenCraft {
  readonly craft: CraftFile;
  readonly values: Values;
}

/** `Zeit=t_ms,Soll=asked_dps,Ist=came_dps` */
function mapOf(text: string | undefined): ReadonlyMap<string, string> {
  if (text === undefined) return new Map();
  const pairs = text.split(',').map((pair) => {
    const at = pair.lastIndexOf('=');
    return [pair.slice(0, at).trim(), pair.slice(at + 1).trim()] as const;
  });
  if (pairs.some(([from, to]) => !from || !/^(t|asked|came|throttle)_[a-z]+$/.test(to)))
    throw new BadInput(
      `--map ${text} is not understood: write COLUMN=NAME_UNIT pairs, as Zeit=t_ms,Soll=asked_dps,Ist=came_dps. Nothing was read.`,
    );
  return new Map(pairs);
}

function axisOf(text: string | undefined): Axis {
  const axis = axes.find((a) => a === text);
  if (!axis) throw new BadInput(`Say which axis with --axis roll, pitch or yaw. Nothing was read.`);
  return axis;
}

/** @throws BadInput */
function tableIn(file: string, map: string | undefined): SamplesTable {
  const reader = new SamplesReader(mapOf(map));
  readPieces(file, MAX_LOG_BYTES, (text) => reader.push(text));
  const samples = reader.end();
  if (!samples.ok) throw new BadInput(`${file}: ${samples.why}`);
  return samples.table;
}

/** @throws BadInput */
function flightIn(file: string): LoggedSeries {
  const log = readFlightLog(readBytes(file, MAX_LOG_BYTES));
  if (!log) throw new BadInput(`${file} is no flight log. Nothing was read.`);
  return log;
}

/** Rates of one axis from a board's log, or from a table. @throws BadInput where there are none to be read */
function ratesIn(file: string, { axis, map }: LogOptions): RatesLog {
  const read: ReadRates = file.toLowerCase().endsWith('.csv')
    ? ratesOfTable(tableIn(file, map))
    : ratesOfFlight(flightIn(file), axisOf(axis));
  if (!read.ok) throw new BadInput(`${file} cannot be used: ${read.why}.`);
  return read.rates;
}

const digits = (x: number, n: number): number | null => (Number.isFinite(x) ? Number(x.toFixed(n)) : null);

/** Why a log is not what a craft promises, or null where no craft is given or nothing can be told. */
function whyOf(
  rates: RatesLog,
  options: LogOptions & { readonly speed: number | undefined },
  craft: GivenCraft | null,
): WhyOther | null {
  if (!craft) return null;
  const { airframe, board } = craft.craft;
  const values = settingsOfFlight(rates.flownBy) ?? craft.values;
  const speed = options.speed ?? rates.speedMps ?? usualSpeed(airframe, values);
  const pads = knownDescription(board)?.pads ?? [];
  return whyRatesOther({ airframe, values, pads }, axisOf(options.axis), speed, rates);
}

const causeWords: Readonly<Record<Cause['kind'], (size: number) => string>> = {
  inertia: (k) => `${k.toFixed(2)} times the inertia described`,
  throw: (k) => `a command turns it ${k.toFixed(2)} times as much as described`,
  servo: (k) => `servos at ${(100 * k).toFixed(0)} % of the speed described`,
  late: (s) => `${(1000 * s).toFixed(0)} ms later than known of`,
  play: (h) => `${(100 * h).toFixed(0)} % of the whole way loose between servos and surfaces`,
};

function whyInWords({ unexplained, agrees, causes }: WhyOther): string {
  const rest = `${(100 * unexplained).toFixed(1)} % of how it turned`;
  if (agrees) return `It flies as promised: all but ${rest} follows from what was asked for.\n`;
  const head = `${rest} does not follow from what was asked for by the craft as described.\n`;
  if (causes.length === 0) return `${head}  Nothing that is known of explains it.\n`;
  const lines = causes.map(
    ({ kind, size, explains }) =>
      `  ${causeWords[kind](size)} would explain ${(100 * explains).toFixed(0)} % of it\n`,
  );
  return head + lines.join('');
}

/** The answer to a step out of a log, with how sure it is; exit code 1 where it says nothing, or says something else than the craft. */
export function showStep(
  file: string,
  options: LogOptions & { readonly speed: number | undefined },
  craft: GivenCraft | null,
  json: boolean,
): number {
  const rates = ratesIn(file, options);
  const told = stepOfRates(rates);
  const why = told.ok ? whyOf(rates, options, craft) : null;
  const { rateHz, gaps } = rates;
  if (!told.ok) {
    if (json) say(`${JSON.stringify({ rateHz, gaps, refused: told.why }, null, 2)}\n`);
    else say(`No answer can be told: ${told.why}.\n`);
    return 1;
  }
  const { mean, spread, stepS, windows, looked, upToHz } = told.step;
  const f = figuresOf({ rates: mean, commands: mean, stepS }, 1);
  const error = Math.max(...spread);
  if (json) {
    const answer = Array.from(mean, (share, k) => ({
      s: digits(k * stepS, 4),
      share: digits(share, 4),
      error: digits(spread[k]!, 4),
    }));
    const figures = {
      riseS: digits(f.riseS, 4),
      halfwayS: digits(f.delayS, 4),
      overshoot: digits(f.overshoot, 3),
      reaches: digits(f.reaches, 3),
    };
    say(
      `${JSON.stringify({ rateHz: digits(rateHz, 2), gaps, windows, looked, upToHz: digits(upToHz, 1), error: digits(error, 3), figures, why: why && { unexplained: why.unexplained, agrees: why.agrees, causes: why.causes }, answer }, null, 2)}\n`,
    );
  } else {
    say(
      `Up in ${f.riseS.toFixed(2)} s, ${(100 * f.overshoot).toFixed(0)} % over, comes to ${(100 * f.reaches).toFixed(0)} % of what is asked; sure to ${(100 * error).toFixed(0)} %.\n`,
    );
    say(
      `  From ${windows} of ${looked} windows with something asked, at ${rateHz.toFixed(0)} samples a second${gaps > 0 ? `, over ${gaps} ${gaps === 1 ? 'gap' : 'gaps'}` : ''}; nothing quicker than ${upToHz.toFixed(0)} Hz is resolved.\n`,
    );
    if (why) say(whyInWords(why));
  }
  return why && !why.agrees ? 1 : 0;
}

/** What shakes one axis: evenly spaced, and beside it the throttle of then where that is told. */
interface Shaken {
  readonly axis: string;
  readonly rateHz: number;
  readonly stretches: readonly { readonly signal: Float64Array; readonly throttle: Float64Array | null }[];
}

/** The raw gyro where a log has it; else rates as they were flown by. @throws BadInput where there is neither */
function shakenIn(file: string, options: LogOptions): readonly Shaken[] {
  const withoutThrottle = (axis: string, { rateHz, stretches }: RatesLog): Shaken => ({
    axis,
    rateHz,
    stretches: stretches.map((s) => ({ signal: s.came, throttle: null })),
  });
  if (file.toLowerCase().endsWith('.csv')) {
    const table = tableIn(file, options.map);
    const read = table.columns.has('throttle') ? shakeOfTable(table) : ratesOfTable(table);
    if (!read.ok) throw new BadInput(`${file} cannot be used: ${read.why}.`);
    const axis = options.axis ?? 'rate';
    if (!table.columns.has('throttle')) return [withoutThrottle(axis, read.rates)];
    const stretches = read.rates.stretches.map((s) => ({ signal: s.came, throttle: s.asked }));
    return [{ axis, rateHz: read.rates.rateHz, stretches }];
  }
  const wanted = options.axis === undefined ? axes : [axisOf(options.axis)];
  const log = flightIn(file);
  const raw = shakeOfFlight(log);
  return wanted.map((axis) => {
    if (raw.ok) return { axis, rateHz: raw.rateHz, stretches: raw.axes[axes.indexOf(axis)]! };
    return withoutThrottle(axis, ratesIn(file, { ...options, axis }));
  });
}

/** Bands of throttle that lines are told in, and how many lines of each. */
const BANDS = 10;
const BAND_LINES = 3;

/** The loudest lines by throttle, of bands that were flown; null where nobody told the throttle. */
function linesByThrottle({ rateHz, stretches }: Shaken) {
  const known = stretches.flatMap(({ signal, throttle }) => (throttle ? [{ signal, throttle }] : []));
  if (known.length === 0) return null;
  return throttleSpectra(known, rateHz, BANDS).bands.flatMap((band, k) =>
    band ? [{ throttle: middleOf(k, BANDS), lines: linesOf(band, BAND_LINES).map(lineDigits) }] : [],
  );
}

const lineDigits = ({ hz, rms }: Line) => ({ hz: digits(hz, 1), rmsDegPerS: digits(rms / DEG, 3) });

/** Lines and floor of what shakes each axis, and by throttle where that is told; exit code 1 where a log is too short to tell. */
export function showSpectrum(file: string, options: LogOptions, json: boolean): number {
  const told = shakenIn(file, options).map((shaken) => {
    const { axis, rateHz, stretches } = shaken;
    const longest = stretches.reduce((a, b) => (b.signal.length > a.signal.length ? b : a)).signal;
    const size = 2 ** Math.min(11, Math.floor(Math.log2(longest.length)));
    const spectrum = size >= 64 ? welch(longest, rateHz, size) : null;
    return {
      axis,
      rateHz: digits(rateHz, 2),
      floorDegPerSPerRootHz: spectrum
        ? digits(noiseDensity(spectrum, 0.1 * rateHz, 0.5 * rateHz) / DEG, 4)
        : null,
      lines: spectrum ? linesOf(spectrum).map(lineDigits) : null,
      byThrottle: linesByThrottle(shaken),
    };
  });
  if (json) say(`${JSON.stringify({ spectra: told }, null, 2)}\n`);
  else
    for (const { axis, rateHz, floorDegPerSPerRootHz, lines, byThrottle } of told) {
      if (!lines) {
        say(`${axis}: too short to tell anything.\n`);
        continue;
      }
      say(`${axis}, at ${rateHz} samples a second: floor ${floorDegPerSPerRootHz} °/s per root Hz.\n`);
      for (const { hz, rmsDegPerS } of lines) say(`  ${String(hz).padStart(7)} Hz  ${rmsDegPerS} °/s\n`);
      if (lines.length === 0) say('  No line stands out of it.\n');
      for (const { throttle, lines: loudest } of byThrottle ?? [])
        say(
          `  ${(100 * throttle).toFixed(0).padStart(3)} % throttle: ${loudest.map((l) => `${l.hz} Hz ${l.rmsDegPerS} °/s`).join(', ') || 'no line'}\n`,
        );
    }
  return told.some((t) => t.lines === null) ? 1 : 0;
}
