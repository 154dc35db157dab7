import type { Stretch } from '../analysis/stepResponse.ts';
import type { AxisModel } from './axisModel.ts';
import { LOOP_S, type Loop } from './chain.ts';
import { LoopRun } from './stepAnswer.ts';

/** What may make a craft fly otherwise than its model says. */
type CauseKind = 'inertia' | 'throw' | 'servo' | 'late' | 'play';

export interface Cause {
  readonly kind: CauseKind;
  /** Of inertia, throw and servo: times what is described. Beyond what is described: `late` s, `play` share of full command. */
  readonly size: number;
  /** Of what is not explained as described, the share that it explains: 0..1. */
  readonly explains: number;
}

export interface WhyOther {
  /** Share of what it turned that does not follow from what was asked, by the loop as described, 0..1 of its power. */
  readonly unexplained: number;
  /** So little of it that nothing has to be looked for. */
  readonly agrees: boolean;
  /** Likely ones, the likeliest first: more than one where the log does not tell them apart. Empty where none explains it. */
  readonly causes: readonly Cause[];
}

/** Windows of a log that are looked at: so long, s, with a lead that is flown but not judged, and at most so many. */
const WINDOW_S = 5;
const LEAD_S = 1;
const MOST_WINDOWS = 8;
/** Slower than this follows wind, bank and trim, not what was asked, Hz. */
const FROM_HZ = 0.3;
/** Less than this is as promised: model and bench differ by it where nothing is wrong; rotors more, whose motors slow down as they like. */
const AGREES = { servos: 0.05, motors: 0.09 } as const;
/** A cause explains at least this share of the rest, and one that does nearly as well as the best is told too. */
const LEAST_EXPLAINED = 0.35;
const NEARLY = 0.85;
const REFINED = 5;

interface Trial {
  readonly kind: CauseKind;
  readonly sizes: readonly number[];
  readonly loop: (loop: Loop, size: number) => Loop;
}

/** The same craft with so many times its inertia about this axis. */
function heavier(model: AxisModel, times: number): AxisModel {
  const { states: a, byCommand: b } = model;
  // The second state of motors is an acceleration of their making.
  const turns = (i: number) => i === 0 || model.moves === 'motors';
  return {
    ...model,
    states: a.map((row, i) =>
      row.map((x, j) => (turns(i) && !(j > 0 && model.moves === 'motors') ? x / times : x)),
    ),
    byCommand: b.map((x, i) => (turns(i) ? x / times : x)),
  };
}

const trials: readonly Trial[] = [
  {
    kind: 'inertia',
    sizes: [0.5, 0.65, 0.8, 1.25, 1.6, 2.1, 2.8],
    loop: (l, k) => ({ ...l, model: heavier(l.model, k) }),
  },
  {
    kind: 'throw',
    sizes: [0.35, 0.5, 0.65, 0.8, 1.25, 1.6],
    loop: (l, k) => ({ ...l, model: { ...l.model, byCommand: l.model.byCommand.map((x) => k * x) } }),
  },
  {
    kind: 'servo',
    sizes: [0.08, 0.12, 0.2, 0.35, 0.6],
    loop: (l, k) => ({ ...l, slew: k * l.slew }),
  },
  { kind: 'late', sizes: [0.01, 0.02, 0.04, 0.07, 0.1], loop: (l, s) => ({ ...l, lateS: l.lateS + s }) },
  { kind: 'play', sizes: [0.05, 0.1, 0.18, 0.3, 0.5], loop: (l, h) => ({ ...l, play: l.play + h }) },
];

/** A loop with what may be so. */
export const withCause = (loop: Loop, { kind, size }: Pick<Cause, 'kind' | 'size'>): Loop =>
  trials.find((t) => t.kind === kind)!.loop(loop, size);

/**
 * Why a craft flew otherwise than its loop as described: what was asked in the log is flown again by the loop with one thing changed, each
 * thing in its turn, by as much as leaves the least unexplained (one-parameter grey-box fit of the output error; Ljung 1999, 7.2 and 10.2).
 * Moves of different sizes tell them apart: what is loose takes from small moves, a slow servo from large ones.
 * @param loop of the axis at the speed that was flown
 * @param rateHz of the samples
 * @param least windows where what was asked moved less than this, rad/s root mean square, tell nothing
 * @returns null where too little was asked for to tell
 */
export function whyOther(
  loop: Loop,
  stretches: readonly Stretch[],
  rateHz: number,
  least: number,
): WhyOther | null {
  const windows = chosen(stretches, rateHz, least);
  if (windows.length < 2) return null;
  const whole = windows.reduce((sum, w) => sum + w.power, 0);
  const left = (l: Loop) => windows.reduce((sum, w) => sum + misfit(l, w, rateHz), 0);
  const described = left(loop);
  const unexplained = described / whole;
  if (unexplained < AGREES[loop.model.moves]) return { unexplained, agrees: true, causes: [] };
  const servos = loop.model.moves === 'servos';
  const found = trials
    .filter(({ kind }) => servos || (kind !== 'servo' && kind !== 'play'))
    .map((trial): Cause => {
      const { size, rest } = best(trial.sizes, (x) => left(trial.loop(loop, x)));
      return { kind: trial.kind, size, explains: 1 - rest / described };
    })
    .sort((a, b) => b.explains - a.explains);
  const most = found[0]!.explains;
  return {
    unexplained,
    agrees: false,
    causes: most < LEAST_EXPLAINED ? [] : found.filter((c) => c.explains >= NEARLY * most),
  };
}

/** A part of a log, and how much it turned. */
interface Window extends Stretch {
  readonly power: number;
}

/** The liveliest windows and, as many, the quietest of those in which enough was asked for. */
function chosen(stretches: readonly Stretch[], rateHz: number, least: number): readonly Window[] {
  const size = Math.round((WINDOW_S + LEAD_S) * rateHz);
  const all: { asked: number; window: Window }[] = [];
  for (const { asked, came } of stretches)
    for (let from = 0; from + size <= asked.length; from += size - Math.round(LEAD_S * rateHz)) {
      const window = { asked: asked.subarray(from, from + size), came: came.subarray(from, from + size) };
      const rms = Math.sqrt(powerOf(window.asked, rateHz) / (WINDOW_S * rateHz));
      if (rms >= least) all.push({ asked: rms, window: { ...window, power: powerOf(window.came, rateHz) } });
    }
  all.sort((a, b) => b.asked - a.asked);
  const half = MOST_WINDOWS / 2;
  const picked = all.length <= MOST_WINDOWS ? all : [...all.slice(0, half), ...all.slice(-half)];
  return picked.map((x) => x.window);
}

/** One pole that lets through what is quicker than FROM_HZ. */
class Quicker {
  private slow = Number.NaN;
  private readonly share: number;

  constructor(rateHz: number) {
    this.share = 1 - Math.exp((-2 * Math.PI * FROM_HZ) / rateHz);
  }

  step(value: number): number {
    if (Number.isNaN(this.slow)) this.slow = value;
    this.slow += this.share * (value - this.slow);
    return value - this.slow;
  }
}

/** Sum of squares of what is quick, after the lead. */
function powerOf(signal: Float64Array, rateHz: number): number {
  const quicker = new Quicker(rateHz);
  const lead = LEAD_S * rateHz;
  let sum = 0;
  for (let k = 0; k < signal.length; k++) {
    const quick = quicker.step(signal[k]!);
    if (k >= lead) sum += quick * quick;
  }
  return sum;
}

/** What a loop would have turned at in a log, of what was asked in it. @returns rad/s, sampled as the log is */
export function cameBy(loop: Loop, asked: Float64Array, rateHz: number): Float64Array {
  const run = new LoopRun(loop);
  const each = 1 / (rateHz * LOOP_S);
  const came = new Float64Array(asked.length);
  let at = 0;
  for (let k = 0; k < asked.length; k++) {
    // Between two samples of what was asked it is taken to go straight.
    for (; at < k * each; at++) {
      const share = Math.min(1, at / each - (k - 1));
      run.step(asked[k - 1]! + share * (asked[k]! - asked[k - 1]!), 0);
    }
    came[k] = run.rate;
  }
  return came;
}

/** Sum of squares of what came less what the loop makes of what was asked. */
function misfit(loop: Loop, { asked, came }: Stretch, rateHz: number): number {
  const off = cameBy(loop, asked, rateHz);
  for (let k = 0; k < off.length; k++) off[k] = came[k]! - off[k]!;
  return powerOf(off, rateHz);
}

/** The size that leaves the least: among some, then between the neighbours of the best by golden section. */
function best(sizes: readonly number[], left: (size: number) => number): { size: number; rest: number } {
  const tried = sizes.map((size) => ({ size, rest: left(size) }));
  const at = tried.reduce((b, t, k) => (t.rest < tried[b]!.rest ? k : b), 0);
  let [low, high] = [tried[Math.max(0, at - 1)]!.size, tried[Math.min(tried.length - 1, at + 1)]!.size];
  const g = (Math.sqrt(5) - 1) / 2;
  const probe = (size: number) => ({ size, rest: left(size) });
  let [a, b] = [probe(high - g * (high - low)), probe(low + g * (high - low))];
  for (let k = 0; k < REFINED; k++) {
    if (a.rest < b.rest) {
      high = b.size;
      b = a;
      a = probe(high - g * (high - low));
    } else {
      low = a.size;
      a = b;
      b = probe(low + g * (high - low));
    }
  }
  return [tried[at]!, a, b].reduce((x, y) => (y.rest < x.rest ? y : x));
}
