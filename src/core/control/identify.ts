import { Matrix, solve } from 'ml-matrix';

/** Of a craft about one axis, as a loop feels it: p' = b v - a p - k x, x' = drive - w x, v behind a lag of u(t - late). SI, u a share of full command. */
export interface Identified {
  /** How fast a turn dies away by itself, 1/s. */
  readonly damping: number;
  /** How stiffly the air turns it back by the angle that it comes at, 1/s^2: about pitch its weathercock, about roll its dihedral. */
  readonly stiffness: number;
  /** What a whole command turns, rad/s^2. */
  readonly turns: number;
  /** How slowly what moves it follows a command, s: a motor's shaft, or a servo. */
  readonly lagS: number;
  /** From a command to when it turns, and the gyro says so, s, besides that. */
  readonly lateS: number;
  /** Share of the turning that this explains. */
  readonly explained: number;
}

/** How a board finds gains: it turns each axis so long, s, and tries nothing lower than this over where it was armed, m. */
export const FINDS_AXIS_S = 12;
export const FINDS_LOWEST_M = 30;

/** Unknowns: damping, what the command turns, stiffness, and what turns it without a command. */
const N = 4;
/** How the air forgets the angle that it comes at, 1/s: of attack, as a wing's lift evens it out; of slip, as its sides do. */
export const FORGETS = 9;
export const FORGETS_SLIP = 0.7;
/** Less than this nothing that can be held is damped, 1/s. */
const LEAST_DAMPING = -3;
/** Lags that are tried, s. */
const LAGS = [0, 0.006, 0.012, 0.018, 0.022, 0.026, 0.034, 0.045] as const;
/** Both command and rate are looked at below this, Hz: what a loop crosses over at, and not its noise. */
const LOOKED_HZ = 6;

/** Two poles; tells the slope of what it gives without a difference. */
class StateFilter {
  value = 0;
  slope = 0;
  private first = 0;

  constructor(
    private readonly k: number,
    private readonly dt: number,
  ) {}

  step(input: number): void {
    this.first += this.k * (input - this.first);
    const by = this.k * (this.first - this.value);
    this.value += by;
    this.slope = by / this.dt;
  }

  reset(): void {
    this.value = 0;
    this.slope = 0;
    this.first = 0;
  }
}

/**
 * Tells what a command turns by least squares while it is flown, for every lateness at once; the one that leaves least is taken. Commands
 * and rates go through the same filter first (Young 1981, state variable filters), so that noise is no part of a slope. Sums only: nothing
 * is kept of the flight, and nothing is allocated.
 */
export class Identifier {
  private readonly sums: Float64Array;
  private readonly right: Float64Array;
  private square = 0;
  private count = 0;
  private readonly rate: StateFilter;
  /** The command behind each lag, filtered as the rate is, and what was of late. */
  private readonly lagged = new Float64Array(LAGS.length);
  private readonly command: readonly StateFilter[];
  private readonly commands: readonly Float64Array[];
  private last = 0;
  private turned = 0;
  private at = 0;
  private readonly row = new Float64Array(N);
  /** How the angle is forgotten that the air comes at and turns it back by, 1/s; 0 where it does not, as of rotors in a hover. */
  forgets = 0;
  private readonly drive: StateFilter;

  /**
   * @param dt s between samples @param latest so late a command is looked for, samples
   */
  constructor(
    private readonly dt: number,
    private readonly latest: number,
  ) {
    const k = 1 - Math.exp(-2 * Math.PI * LOOKED_HZ * dt);
    this.rate = new StateFilter(k, dt);
    this.drive = new StateFilter(k, dt);
    this.command = LAGS.map(() => new StateFilter(k, dt));
    this.commands = LAGS.map(() => new Float64Array(latest + 1));
    const pairs = LAGS.length * (latest + 1);
    this.sums = new Float64Array(pairs * N * N);
    this.right = new Float64Array(pairs * N);
  }

  reset(): void {
    this.sums.fill(0);
    this.right.fill(0);
    this.square = 0;
    this.count = 0;
    this.at = 0;
    this.turned = 0;
    this.last = 0;
    this.rate.reset();
    this.drive.reset();
    for (const c of this.command) c.reset();
    this.lagged.fill(0);
  }

  /**
   * @param command as it was given, share of full @param rate as the loop takes it, rad/s
   * @param drive how fast the angle grows that the air comes at, rad/s: of a wing about pitch its rate
   */
  step(command: number, rate: number, drive: number): void {
    const { commands, latest, row, lagged } = this;
    const before = this.rate.value;
    this.rate.step(rate);
    // A slope is that of the middle between two samples: so is the rate.
    const p = 0.5 * (before + this.rate.value);
    this.drive.step(drive);
    this.turned += this.dt * (this.drive.value - this.forgets * this.turned);
    for (let i = 0; i < LAGS.length; i++) {
      // Half of this command and half of the last one: a lag that is neither early nor late by a part of a sample.
      const lag = LAGS[i]!;
      if (lag === 0) lagged[i] = command;
      else lagged[i]! += (1 - Math.exp(-this.dt / lag)) * (0.5 * (command + this.last) - lagged[i]!);
      this.command[i]!.step(lagged[i]!);
      const of = commands[i]!;
      for (let k = latest; k > 0; k--) of[k] = of[k - 1]!;
      of[0] = this.command[i]!.value;
    }
    this.last = command;
    // Filters have to fill first.
    if (++this.at < 2 * (latest + 1)) return;
    const { slope } = this.rate;
    this.square += slope * slope;
    this.count++;
    row[0] = -p;
    row[2] = this.forgets > 0 ? -this.turned : 0;
    row[3] = 1;
    for (let pair = 0; pair < LAGS.length * (latest + 1); pair++) {
      row[1] = commands[Math.floor(pair / (latest + 1))]![pair % (latest + 1)]!;
      for (let i = 0; i < N; i++) {
        for (let j = i; j < N; j++) this.sums[pair * N * N + N * i + j]! += row[i]! * row[j]!;
        this.right[pair * N + i]! += row[i]! * slope;
      }
    }
  }

  /** @returns null where too little was turned to tell */
  result(): Identified | null {
    let best: (Identified & { readonly left: number }) | null = null;
    const mean = this.right[N - 1]! / Math.max(1, this.count);
    const about = this.square - this.count * mean * mean;
    if (!(about > 1e-6)) return null;
    for (let pair = 0; pair < LAGS.length * (this.latest + 1); pair++) {
      const at = (i: number, j: number) => this.sums[pair * N * N + (i <= j ? N * i + j : N * j + i)]!;
      const m = new Matrix(
        Array.from({ length: N }, (_, i) => Array.from({ length: N }, (__, j) => at(i, j))),
      );
      const y = Array.from({ length: N }, (_, i) => this.right[pair * N + i]!);
      const x = solve(m, Matrix.columnVector(y), true).to1DArray();
      if (!x.every(Number.isFinite)) continue;
      // What turns against its command, or by itself ever faster, is no craft but chance.
      if (!(x[1]! > 0) || x[0]! < LEAST_DAMPING) continue;
      const explains = x.reduce((sum, v, i) => sum + v * y[i]!, 0);
      const left = this.square - explains;
      if (best && left >= best.left) continue;
      best = {
        damping: x[0]!,
        turns: x[1]!,
        stiffness: x[2]!,
        lagS: LAGS[Math.floor(pair / (this.latest + 1))]!,
        lateS: Math.max(0, (pair % (this.latest + 1)) - 0.5) * this.dt,
        explained: 1 - left / about,
        left,
      };
    }
    if (!best) return null;
    const { left: _, ...found } = best;
    return found;
  }
}

/** The feed-forward that brings a turn to what is asked: what holds it back, about pitch in the long run, over what a command turns. */
export const forwardFor = ({ damping, stiffness, turns }: Identified, axis: 'roll' | 'pitch'): number =>
  Math.max(0, damping + (axis === 'pitch' ? stiffness / FORGETS : 0)) / turns;

/** How a board begins to say that it flies by gains that it found. */
export const FOUND_SAYS = 'Found gains of';
