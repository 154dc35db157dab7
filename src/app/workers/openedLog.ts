import { gainsFromLog, type MeasuredGains } from '#core/analysis/gainsFromLog.ts';
import type { LoggedStep } from '#core/analysis/stepResponse.ts';
import { type ThrottleSpectra, throttleSpectra } from '#core/analysis/throttleSpectra.ts';
import type { WhyRatesOther } from '#core/answers/loggedAnswer.ts';
import { type SetCraft, stepOfRates, whyRatesOther } from '#core/answers/loggedAnswer.ts';
import { tunedAnswer, tuningValues } from '#core/answers/tunings.ts';
import { type LoggedSeries, movedInFlight, readFlightLog } from '#core/formats/flightLog.ts';
import {
  GAIN_COLUMNS,
  loopOfTable,
  RATE_COLUMNS,
  type RatesLog,
  ratesOfFlight,
  ratesOfTable,
  SHAKE_COLUMNS,
  shakeOfFlight,
  shakeOfTable,
} from '#core/formats/ratesLog.ts';
import { SamplesReader, type SamplesTable } from '#core/formats/samplesTable.ts';
import type { TunedAnswer, Tuning } from '#core/formats/tuning.ts';
import type { Axis } from '#core/mixer/authority.ts';
import { settingsOfFlight } from '#firmware/releases.ts';

export type OpenedLog =
  | {
      readonly kind: 'answer';
      readonly step: LoggedStep;
      readonly why: WhyRatesOther | null;
      readonly rateHz: number;
      readonly seconds: number;
      readonly gaps: number;
      /** rad/s, the farthest asked for: whoever took degrees for radians sees it. */
      readonly askedMost: number;
      readonly speedMps: number | null;
      /** Whether the log tells by which settings it was flown, so that it is compared with those. */
      readonly ownSettings: boolean;
    }
  /** A table whose columns have to be named first. */
  | { readonly kind: 'columns'; readonly names: readonly string[] }
  | { readonly kind: 'refused'; readonly why: string };

const MOST_LOG_BYTES = 64_000_000;
const MOST_TABLE_BYTES = 600_000_000;

/**
 * Opens a log of rates, a board's own or a table that is read piece by piece, and compares it with a craft.
 * @param named of a table: columns and what they are, as `asked_dps`
 * @param craft with what it is taken to have been flown by where the log does not tell
 * @param usualMps how fast it is taken to have flown where the log does not tell
 */
export async function openLog(
  file: File,
  axis: Axis,
  named: ReadonlyMap<string, string>,
  craft: SetCraft,
  usualMps: number,
): Promise<OpenedLog> {
  const tooLong = tooManyBytes(file);
  if (tooLong) return tooLong;
  const read = isTable(file) ? await ratesInTable(file, named) : await ratesInFlight(file, axis);
  if ('kind' in read) return read;
  const { rates } = read;
  const told = stepOfRates(rates);
  if (!told.ok) return refused(file, `tells no answer: ${told.why}`);
  const flown = settingsOfFlight(rates.flownBy);
  const flownAs = { ...craft, values: flown ?? craft.values };
  return {
    kind: 'answer',
    step: told.step,
    why: whyRatesOther(flownAs, axis, rates.speedMps ?? usualMps, rates),
    rateHz: rates.rateHz,
    seconds: rates.stretches.reduce((sum, s) => sum + s.came.length, 0) / rates.rateHz,
    gaps: rates.gaps,
    askedMost: rates.stretches.reduce(
      (most, s) => s.asked.reduce((m, x) => Math.max(m, Math.abs(x)), most),
      0,
    ),
    speedMps: rates.speedMps,
    ownSettings: flown !== null,
  };
}

const refused = (file: File, why: string): Extract<OpenedLog, { kind: 'refused' }> => ({
  kind: 'refused',
  why: `${file.name} ${why}. Nothing was taken from it.`,
});

const isTable = (file: File): boolean => /\.(csv|tsv|txt)$/i.test(file.name);

function tooManyBytes(file: File): Extract<OpenedLog, { kind: 'refused' }> | null {
  const most = isTable(file) ? MOST_TABLE_BYTES : MOST_LOG_BYTES;
  if (file.size <= most) return null;
  return refused(file, `has ${(file.size / 1e6).toFixed(0)} MB; at most ${most / 1e6} MB are read`);
}

/** A board's own log. */
async function flightIn(file: File): Promise<LoggedSeries | Extract<OpenedLog, { kind: 'refused' }>> {
  const log = readFlightLog(new Uint8Array(await file.arrayBuffer()));
  return (
    log ?? refused(file, 'is no flight log of a board, and no table either: tables end in .csv, .tsv or .txt')
  );
}

type Rates = { readonly rates: RatesLog } | OpenedLog;

async function ratesInFlight(file: File, axis: Axis): Promise<Rates> {
  const log = await flightIn(file);
  if ('kind' in log) return log;
  const read = ratesOfFlight(log, axis);
  return read.ok ? read : refused(file, `cannot be used: ${read.why}`);
}

type Opened =
  | { readonly kind: 'read'; readonly table: SamplesTable }
  | Extract<OpenedLog, { kind: 'columns' | 'refused' }>;

/** A table read piece by piece; asks for its columns where what is wanted is not among them and nobody named any. */
async function openTable(
  file: File,
  named: ReadonlyMap<string, string>,
  wanted: readonly string[],
): Promise<Opened> {
  const reader = new SamplesReader(named);
  const pieces = file.stream().pipeThrough(new TextDecoderStream()).getReader();
  for (let piece = await pieces.read(); !piece.done && !reader.failed; piece = await pieces.read())
    reader.push(piece.value);
  const samples = reader.end();
  const lacks = !samples.ok || wanted.some((c) => !samples.table.columns.has(c));
  const { names } = reader;
  if (lacks && named.size === 0 && new Set(names).size >= wanted.length) return { kind: 'columns', names };
  if (samples.ok) return { kind: 'read', table: samples.table };
  return refused(
    file,
    `cannot be read. ${samples.why.replace(/ Nothing was read\.$/, '').replace(/\.$/, '')}`,
  );
}

async function ratesInTable(file: File, named: ReadonlyMap<string, string>): Promise<Rates> {
  const opened = await openTable(file, named, RATE_COLUMNS);
  if (opened.kind !== 'read') return opened;
  const read = ratesOfTable(opened.table);
  return read.ok ? read : refused(file, `cannot be used: ${read.why}`);
}

export type OpenedShake =
  | {
      readonly kind: 'shake';
      /** About roll, pitch and yaw from a board's log; one from a table, of whatever axis it is. */
      readonly spectra: readonly ThrottleSpectra[];
      readonly seconds: number;
      readonly rateHz: number;
    }
  | Extract<OpenedLog, { kind: 'columns' | 'refused' }>;

/** Bands of throttle that spectra are told in. */
export const SHAKE_BANDS = 20;
/** Slower samples than this tell nothing of propellers. */
const LEAST_SHAKE_HZ = 150;

/** Opens an unfiltered gyro with its throttle: a board's own log, or a table. */
export async function openShake(file: File, named: ReadonlyMap<string, string>): Promise<OpenedShake> {
  const tooLong = tooManyBytes(file);
  if (tooLong) return tooLong;
  return isTable(file) ? shakeInTable(file, named) : shakeInFlight(file);
}

async function shakeInFlight(file: File): Promise<OpenedShake> {
  const log = await flightIn(file);
  if ('kind' in log) return log;
  const read = shakeOfFlight(log);
  if (!read.ok) return refused(file, `cannot be used: ${read.why}`);
  const spectra = read.axes.map((stretches) => throttleSpectra(stretches, read.rateHz, SHAKE_BANDS));
  if (spectra[0]!.bands.every((b) => b === null)) return refused(file, TOO_SHORT);
  const seconds = read.axes[0]!.reduce((sum, s) => sum + s.signal.length, 0) / read.rateHz;
  return { kind: 'shake', spectra, seconds, rateHz: read.rateHz };
}

const TOO_SHORT = 'is too short: nothing of it lasts a second without a gap';

async function shakeInTable(file: File, named: ReadonlyMap<string, string>): Promise<OpenedShake> {
  const opened = await openTable(file, named, SHAKE_COLUMNS);
  if (opened.kind !== 'read') return opened;
  const read = shakeOfTable(opened.table);
  if (!read.ok) return refused(file, `cannot be used: ${read.why}`);
  const { rateHz, stretches } = read.rates;
  if (rateHz < LEAST_SHAKE_HZ)
    return refused(
      file,
      `has ${rateHz.toFixed(0)} samples a second: what propellers do is faster than half of that. At least ${LEAST_SHAKE_HZ} are needed`,
    );
  const most = stretches.reduce((m, s) => s.asked.reduce((a, x) => Math.max(a, x), m), 0);
  if (most > 1.05)
    return refused(
      file,
      `has a throttle of up to ${most.toFixed(1)} where 1 is all of it: say that it is in per cent`,
    );
  const spectra = throttleSpectra(
    stretches.map(({ asked, came }) => ({ throttle: asked, signal: came })),
    rateHz,
    SHAKE_BANDS,
  );
  if (spectra.bands.every((b) => b === null)) return refused(file, TOO_SHORT);
  const seconds = stretches.reduce((sum, s) => sum + s.came.length, 0) / rateHz;
  return { kind: 'shake', spectra: [spectra], seconds, rateHz };
}

export type OpenedGains =
  | {
      readonly kind: 'gains';
      readonly gains: MeasuredGains;
      readonly seconds: number;
      readonly rateHz: number;
    }
  | Extract<OpenedLog, { kind: 'columns' | 'refused' }>;

/** Half a pulse that is a full command, s, as microseconds are read. */
const HALF_PULSE = 500e-6;
/** Less than this of what was given explained by gains is no loop of that kind, share. */
const LEAST_EXPLAINED = 0.5;

/** Opens a table of a loop: what it was asked, what came, what it gave; and tells its gains. */
export async function openGains(file: File, named: ReadonlyMap<string, string>): Promise<OpenedGains> {
  const tooLong = tooManyBytes(file);
  if (tooLong) return tooLong;
  const opened = await openTable(file, named, GAIN_COLUMNS);
  if (opened.kind !== 'read') return opened;
  const us = [...named.values()].includes('given_us');
  const read = loopOfTable(opened.table, us ? HALF_PULSE : 1);
  if (!read.ok) return refused(file, `cannot be used: ${read.why}`);
  const most = read.stretches.reduce((m, s) => s.given.reduce((a, x) => Math.max(a, Math.abs(x)), m), 0);
  if (most > 1.3)
    return refused(
      file,
      `has commands of up to ${most.toFixed(1)} where 1 is all of it: say that they are in per cent or microseconds`,
    );
  const gains = gainsFromLog(read.stretches, read.rateHz);
  if (!gains)
    return refused(
      file,
      'tells no gains: it needs a dozen seconds without a gap in which the command moves and is not at its end',
    );
  if (gains.explained < LEAST_EXPLAINED)
    return refused(
      file,
      `is no rate loop as it is named: P, I, D and feed-forward explain only ${Math.round(100 * gains.explained)} % of what was given`,
    );
  const seconds = read.stretches.reduce((sum, s) => sum + s.given.length, 0) / read.rateHz;
  return { kind: 'gains', gains, seconds, rateHz: read.rateHz };
}

export type OpenedTuning =
  | ({ readonly kind: 'tuning' } & Pick<Tuning, 'seconds' | 'speedMps' | 'values' | 'moved' | 'answers'>)
  | Extract<OpenedLog, { kind: 'refused' }>;

const axes = ['roll', 'pitch', 'yaw'] as const;
/** The last of what was moved in flight that is kept. */
const MOST_MOVED = 8;

/** Opens a board's own log for what it was flown by and how each axis answered. */
export async function openTuning(file: File): Promise<OpenedTuning> {
  const tooLong = tooManyBytes(file);
  if (tooLong) return tooLong;
  const log = readFlightLog(new Uint8Array(await file.arrayBuffer()));
  if (!log)
    return refused(file, 'is no flight log of a board: only those tell by which settings they were flown');
  const flown = settingsOfFlight(
    Object.keys(log.settings).length > 0 ? { firmware: log.firmware, changed: log.settings } : null,
  );
  if (!flown) return refused(file, 'does not tell by which settings it was flown');
  const answers: Record<Axis, TunedAnswer | null> = { roll: null, pitch: null, yaw: null };
  let [seconds, speedMps, why] = [0, 0, ''];
  for (const axis of axes) {
    const read = ratesOfFlight(log, axis);
    if (!read.ok) {
      why = read.why;
      continue;
    }
    const { rates } = read;
    seconds = rates.stretches.reduce((sum, s) => sum + s.came.length, 0) / rates.rateHz;
    speedMps = rates.speedMps ?? 0;
    const told = stepOfRates(rates);
    if (told.ok) answers[axis] = tunedAnswer(told.step);
    else why = told.why;
  }
  if (axes.every((a) => answers[a] === null)) return refused(file, `tells no answer: ${why}`);
  const moved = movedInFlight(log).slice(-MOST_MOVED);
  return { kind: 'tuning', seconds, speedMps, values: tuningValues(flown), moved, answers };
}
