import { linesOf, noiseDensity, welch } from '#core/analysis/spectrum.ts';
import { stepFromLog } from '#core/analysis/stepResponse.ts';
import { figuresOf } from '#core/answers/stepAnswer.ts';
import { readFlightLog } from '#core/formats/flightLog.ts';
import { type RatesLog, type ReadRates, ratesOfFlight, ratesOfTable } from '#core/formats/ratesLog.ts';
import { readSamples } from '#core/formats/samplesTable.ts';
import { DEG } from '#core/math/scalar.ts';
import { type Axis, axes } from '#core/mixer/authority.ts';
import { BadInput, readBytes, readText } from './input.ts';
import { say } from './output.ts';

const MAX_LOG_BYTES = 400_000_000;
/** Sticks that move less than this ask for nothing, rad/s, root mean square. */
const LEAST_ASKED = 6 * DEG;
/** More than this share at the end of the gyro's range, and what was quicker is missing. */
const CLIPPED_MOST = 0.01;

export interface LogOptions {
  readonly axis: string | undefined;
  readonly map: string | undefined;
}

/** `Zeit=t_ms,Soll=asked_dps,Ist=came_dps` */
function mapOf(text: string | undefined): ReadonlyMap<string, string> {
  if (text === undefined) return new Map();
  const pairs = text.split(',').map((pair) => {
    const at = pair.lastIndexOf('=');
    return [pair.slice(0, at).trim(), pair.slice(at + 1).trim()] as const;
  });
  if (pairs.some(([from, to]) => !from || !/^(t|asked|came)_[a-z]+$/.test(to)))
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

/** Rates of one axis from a board's log, or from a table. @throws BadInput where there are none to be read */
function ratesIn(file: string, { axis, map }: LogOptions): RatesLog {
  let read: ReadRates;
  if (file.toLowerCase().endsWith('.csv')) {
    const samples = readSamples(readText(file, MAX_LOG_BYTES), mapOf(map));
    if (!samples.ok) throw new BadInput(`${file}: ${samples.why}`);
    read = ratesOfTable(samples.table);
  } else {
    const log = readFlightLog(readBytes(file, MAX_LOG_BYTES));
    if (!log) throw new BadInput(`${file} is no flight log. Nothing was read.`);
    read = ratesOfFlight(log, axisOf(axis));
  }
  if (!read.ok) throw new BadInput(`${file} cannot be used: ${read.why}.`);
  return read.rates;
}

const digits = (x: number, n: number): number | null => (Number.isFinite(x) ? Number(x.toFixed(n)) : null);

/** The answer to a step out of a log, with how sure it is; exit code 1 where it says nothing. */
export function showStep(file: string, options: LogOptions, json: boolean): number {
  const rates = ratesIn(file, options);
  const told =
    rates.clipped > CLIPPED_MOST
      ? ({
          ok: false,
          why: `the gyro stands at the end of its range in ${(100 * rates.clipped).toFixed(1)} % of the samples, so that what was quicker is missing`,
        } as const)
      : stepFromLog(rates.stretches, rates.rateHz, LEAST_ASKED);
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
      `${JSON.stringify({ rateHz: digits(rateHz, 2), gaps, windows, looked, upToHz: digits(upToHz, 1), error: digits(error, 3), figures, answer }, null, 2)}\n`,
    );
  } else {
    say(
      `Up in ${f.riseS.toFixed(2)} s, ${(100 * f.overshoot).toFixed(0)} % over, comes to ${(100 * f.reaches).toFixed(0)} % of what is asked; sure to ${(100 * error).toFixed(0)} %.\n`,
    );
    say(
      `  From ${windows} of ${looked} windows with something asked, at ${rateHz.toFixed(0)} samples a second${gaps > 0 ? `, over ${gaps} ${gaps === 1 ? 'gap' : 'gaps'}` : ''}; nothing quicker than ${upToHz.toFixed(0)} Hz is resolved.\n`,
    );
  }
  return 0;
}

/** Lines and floor of what shakes each axis; exit code 1 where a log is too short to tell. */
export function showSpectrum(file: string, options: LogOptions, json: boolean): number {
  const table = file.toLowerCase().endsWith('.csv');
  const asked = table || options.axis !== undefined ? [options.axis] : axes;
  const told = asked.map((axis) => {
    const { rateHz, stretches } = ratesIn(file, { ...options, axis });
    const longest = stretches.reduce((a, b) => (b.came.length > a.came.length ? b : a));
    const size = 2 ** Math.min(11, Math.floor(Math.log2(longest.came.length)));
    const spectrum = size >= 64 ? welch(longest.came, rateHz, size) : null;
    return {
      axis: axis ?? 'rate',
      rateHz: digits(rateHz, 2),
      floorDegPerSPerRootHz: spectrum
        ? digits(noiseDensity(spectrum, 0.1 * rateHz, 0.5 * rateHz) / DEG, 4)
        : null,
      lines: spectrum
        ? linesOf(spectrum).map((l) => ({ hz: digits(l.hz, 1), rmsDegPerS: digits(l.rms / DEG, 3) }))
        : null,
    };
  });
  if (json) say(`${JSON.stringify({ spectra: told }, null, 2)}\n`);
  else
    for (const { axis, rateHz, floorDegPerSPerRootHz, lines } of told) {
      if (!lines) {
        say(`${axis}: too short to tell anything.\n`);
        continue;
      }
      say(`${axis}, at ${rateHz} samples a second: floor ${floorDegPerSPerRootHz} °/s per root Hz.\n`);
      for (const { hz, rmsDegPerS } of lines) say(`  ${String(hz).padStart(7)} Hz  ${rmsDegPerS} °/s\n`);
      if (lines.length === 0) say('  No line stands out of it.\n');
    }
  return told.some((t) => t.lines === null) ? 1 : 0;
}
