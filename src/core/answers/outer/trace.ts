/** How often a trace has a point, s. */
export const TRACE_S = 0.1;

/**
 * How a craft went through something that was asked of it, from the moment it was: SI, north where the line it was to follow leads or
 * its nose pointed, east to the right of that, both from where it was.
 */
export interface Trace {
  readonly bank: Float64Array;
  /** Over where it was. */
  readonly height: Float64Array;
  /** Of wings through the air, of rotors over ground. */
  readonly speed: Float64Array;
  readonly north: Float64Array;
  readonly east: Float64Array;
}

const traceSteps = (seconds: number): number => Math.round(seconds / TRACE_S) + 1;

export function newTrace(seconds: number): Trace {
  const n = traceSteps(seconds);
  const line = () => new Float64Array(n);
  return { bank: line(), height: line(), speed: line(), north: line(), east: line() };
}

/** What comes over what is asked, and when it is there. */
export interface TraceFigures {
  /** From the moment it is asked until it stays within a tenth of it, s; NaN where it does not. */
  readonly thereS: number;
  /** Share over what is asked. */
  readonly over: number;
}

/** @param line what answers, from 0 to what is asked */
export function figuresOfTrace(line: Float64Array, asked: number): TraceFigures {
  let most = 0;
  let there = Number.NaN;
  for (let k = line.length - 1; k >= 0; k--) {
    if (Math.abs(line[k]! - asked) > 0.1 * Math.abs(asked)) break;
    there = k * TRACE_S;
  }
  for (const x of line) most = Math.max(most, x / asked);
  return { thereS: there, over: Math.max(0, most - 1) };
}

/** The farthest that a line gets from nought, either way, with its sign. */
export const farthest = (line: Float64Array): number =>
  line.reduce((m, x) => (Math.abs(x) > Math.abs(m) ? x : m), 0);

const mean = (line: Float64Array): number => line.reduce((sum, x) => sum + x, 0) / line.length;

/** Seen from the middle of where it was: a place that is held is not where the satellites say it is. */
export function aboutItsMiddle(trace: Trace): Trace {
  const from = (line: Float64Array) => {
    const middle = mean(line);
    return line.map((x) => x - middle);
  };
  return { ...trace, north: from(trace.north), east: from(trace.east), height: from(trace.height) };
}

/** Root of the mean square of how far away it was, m. */
export const wanders = ({ north, east }: Trace): number =>
  Math.sqrt(mean(north.map((n, k) => n * n + east[k]! * east[k]!)));
