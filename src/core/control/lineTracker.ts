import { clamp } from '../math/scalar.ts';
import { LowPass } from './lowPass.ts';

/** Poles of the searching filter: how sharply it looks, and how fast it follows. */
const RADIUS = 0.95;
/** Step of the search, share of the normalised gradient; and how fast powers are averaged, s. */
const STEP = 0.012;
const POWER_S = 0.15;
/** A line has to have so many times the power of what no tracker finds: then a notch is set on it, and until it has less than that. */
const LINE_FROM = 0.6;
const LINE_UNTIL = 0.3;

/**
 * Finds the line that shakes most within a span, and follows it: a notch whose zeros lie on the circle, moved down the gradient of what it
 * leaves (Nehorai 1985). What it leaves is given on, so that another one behind it finds the next line. Nothing is allocated.
 */
export class LineTracker {
  /** Where it is, Hz. */
  hz: number;
  /** A line stands out there. */
  found = false;
  /** What is left of the span without it. */
  left = 0;
  private a: number;
  private readonly aLow: number;
  private readonly aHigh: number;
  private x1 = 0;
  private x2 = 0;
  private e1 = 0;
  private e2 = 0;
  private g1 = 0;
  private g2 = 0;
  private gradient = 1e-9;
  private came = 1e-9;
  private stays = 1e-9;
  private readonly forgets: number;

  /** @param dt s @param fromHz @param toHz span, below half the rate @param beginsHz where it begins to look */
  constructor(
    private readonly dt: number,
    fromHz: number,
    toHz: number,
    beginsHz: number,
  ) {
    const turn = (hz: number) => -2 * Math.cos(2 * Math.PI * hz * dt);
    this.aLow = turn(fromHz);
    this.aHigh = turn(Math.min(toHz, 0.45 / dt));
    this.hz = beginsHz;
    this.a = turn(beginsHz);
    this.forgets = dt / POWER_S;
  }

  /** @param x what shakes, without the craft's own turning */
  step(x: number): void {
    const { a } = this;
    const e = x + a * this.x1 + this.x2 - RADIUS * a * this.e1 - RADIUS * RADIUS * this.e2;
    const g = this.x1 - RADIUS * this.e1 - RADIUS * a * this.g1 - RADIUS * RADIUS * this.g2;
    const k = this.forgets;
    this.gradient += k * (g * g - this.gradient);
    this.came += k * (x * x - this.came);
    this.stays += k * (e * e - this.stays);
    const moved = a - (STEP * e * g) / (this.gradient + 1e-12);
    this.a = clamp(moved, this.aLow, this.aHigh);
    this.x2 = this.x1;
    this.x1 = x;
    this.e2 = this.e1;
    this.e1 = e;
    this.g2 = this.g1;
    this.g1 = g;
    this.left = e;
  }

  /** Power of what it finds, and of what it leaves. */
  get power(): number {
    return this.came - this.stays;
  }

  get rest(): number {
    return this.stays;
  }

  /** Tells where the line is, and whether there is one over what is left in the end: from time to time, since it asks for an angle. */
  look(rest: number): void {
    this.hz = Math.acos(-this.a / 2) / (2 * Math.PI * this.dt);
    const times = this.power / (rest + 1e-12);
    if (times > LINE_FROM) this.found = true;
    else if (times < LINE_UNTIL) this.found = false;
  }
}

/** Several of them one behind the other, of what shakes beyond the lower end of their span. */
export class LineTrackers {
  readonly all: readonly LineTracker[];
  private readonly slow: LowPass;
  private readonly slower: LowPass;

  constructor(count: number, fromHz: number, toHz: number, dt: number) {
    this.all = Array.from(
      { length: count },
      (_, k) => new LineTracker(dt, fromHz, toHz, fromHz * (toHz / fromHz) ** ((k + 1) / (count + 1))),
    );
    // The craft turns slowly by itself, and far more than it shakes.
    this.slow = new LowPass(fromHz, dt);
    this.slower = new LowPass(fromHz, dt);
  }

  step(rate: number): void {
    const once = rate - this.slow.step(rate);
    let x = once - this.slower.step(once);
    for (let k = 0; k < this.all.length; k++) {
      const t = this.all[k]!;
      t.step(x);
      x = t.left;
    }
  }

  look(): void {
    const last = this.all.length - 1;
    if (last < 0) return;
    const { rest } = this.all[last]!;
    for (let k = 0; k <= last; k++) this.all[k]!.look(rest);
  }
}
