import { clamp } from '#core/math/scalar.ts';
import { type BenchTarget, DEAD_MAN_MS } from '#core/wire/messages.ts';

/** Duty of a motor that is moved on the bench: just enough to see which one turns. */
const BENCH_DUTY = 0.12;
/** The slowest timer sends a pulse every 20 ms; the last one must have gone out within the 300 ms. */
const SLOWEST_PULSE_MS = 20;
const SWING_S = 0.75;
const PAUSE_S = 0.5;
/** A servo that is brought somewhere goes so slowly that a hand can follow, us/s. */
const GLIDE_US_PER_S = 500;
/** From one end to the other and back, s. */
const SWEEP_S = 8;
const SERVO_MIDDLE_US = 1500;
/** How far it goes to a side of its middle to come to it from there, us. */
const ASIDE_US = 150;

const glide = (from: number, to: number, since: number) =>
  from + clamp(to - from, -GLIDE_US_PER_S * since, GLIDE_US_PER_S * since);

/** Ends and centre of an output, us. */
interface Ends {
  readonly lowUs: number;
  readonly centreUs: number;
  readonly highUs: number;
}

/** Above this a battery is in, V. */
const BATTERY_V = 5;
/** Leave that nobody used for so long has lapsed, s. */
const LEAVE_S = 300;

/**
 * Moving one output on request, for a person to watch. Only with the propellers confirmed off and disarmed;
 * only while the request is said again at least every 300 ms, by the board's own clock.
 */
export class BenchMoves {
  /** A person confirmed that the propellers are off, and nothing has happened since that could have put them on. */
  private leave = false;
  private leaveS = 0;
  private battery = false;
  /** Output being moved, 1-based; 0 for none. */
  output = 0;
  /** The end that motor controllers are shown while they are taught, by pulses; empty otherwise. */
  teaching: '' | 'low' | 'high' = '';
  private sinceRequest = 0;
  private phase = 0;
  private run = -1;
  private target: BenchTarget | undefined;
  /** Where a glide began: pulse, us (0 before the first), and when in this hold, s. */
  private glideFrom = 0;
  private glideSince = 0;
  private lastPulse = 0;

  get allowed(): boolean {
    return this.leave;
  }

  allow(): void {
    this.leave = true;
    this.leaveS = 0;
  }

  /** Takes the leave back: said so, armed, or whoever gave it is not heard any more. */
  withdraw(): void {
    this.leave = false;
    this.stop();
  }

  /**
   * @param run the number of the hold in the order of commands, so that one that has ended is not begun anew
   * @param to where a servo is brought; left out, it swings
   */
  request(output: number, run: number, to?: BenchTarget): boolean {
    if (!this.leave || run < this.run) return false;
    if (run > this.run || this.output !== output) {
      if (run === this.run && this.output === 0) return false;
      this.phase = 0;
      this.lastPulse = 0;
      this.target = undefined;
    }
    if (to !== this.target) {
      this.glideFrom = this.lastPulse;
      this.glideSince = this.phase;
      this.target = to;
    }
    this.run = run;
    this.output = output;
    this.sinceRequest = 0;
    this.leaveS = 0;
    return true;
  }

  stop(): void {
    this.output = 0;
  }

  /** @param supplyV of the battery; leave lapses with the battery put in or taken out, and after a while by itself */
  step(dt: number, supplyV: number): void {
    const battery = supplyV > BATTERY_V;
    this.leaveS += dt;
    if (battery !== this.battery || this.leaveS > LEAVE_S) this.withdraw();
    this.battery = battery;
    if (this.output === 0) return;
    this.sinceRequest += dt;
    this.phase += dt;
    if (this.sinceRequest * 1000 > DEAD_MAN_MS - SLOWEST_PULSE_MS - 1) this.stop();
  }

  /** Where the pulse stands: first towards the long pulse, then the short one, then rest. -1..1 */
  private get swing(): number {
    const t = this.phase % (2 * SWING_S + PAUSE_S);
    return t < SWING_S ? 0.7 : t < 2 * SWING_S ? -0.7 : 0;
  }

  /** Pulse of the servo that is moved, us. */
  servoPulse(o: Ends): number {
    const at = this.target === undefined ? this.swung(o) : this.glided(o, this.target);
    this.lastPulse = at;
    return at;
  }

  private swung({ lowUs, centreUs, highUs }: Ends): number {
    const { swing } = this;
    return centreUs + swing * (swing > 0 ? highUs - centreUs : centreUs - lowUs);
  }

  private glided({ lowUs, centreUs, highUs }: Ends, target: BenchTarget): number {
    const since = this.phase - this.glideSince;
    const from = this.glideFrom > 0 ? this.glideFrom : centreUs;
    const middle = clamp(SERVO_MIDDLE_US, lowUs, highUs);
    let to = centreUs;
    if (target === 'low') to = lowUs;
    else if (target === 'high') to = highUs;
    else if (target === 'middle') to = middle;
    else if (target === 'sweep')
      to =
        centreUs + Math.sin((2 * Math.PI * since) / SWEEP_S) * Math.min(highUs - centreUs, centreUs - lowUs);
    else if (target !== 'centre') {
      // To one side of the middle first, and back: its play is taken up from there.
      const aside = clamp(middle + (target === 'middle-from-low' ? -ASIDE_US : ASIDE_US), lowUs, highUs);
      const there = Math.abs(aside - from) / GLIDE_US_PER_S;
      return since < there ? glide(from, aside, since) : glide(aside, middle, since - there);
    }
    return glide(from, to, since);
  }

  get duty(): number {
    return BENCH_DUTY;
  }
}
