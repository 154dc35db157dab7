import type { Loop } from '#core/answers/chain.ts';
import { mostProportional, USUAL_SETTLING } from '#core/answers/solveGains.ts';
import type { GainTimes } from '#core/control/gainLaw.ts';
import {
  FINDS_AXIS_S,
  FINDS_LOWEST_M,
  FORGETS,
  FORGETS_SLIP,
  FOUND_SAYS,
  forwardFor,
  type Identified,
  Identifier,
} from '#core/control/identify.ts';
import type { RateGains } from '#core/control/rateLoop.ts';
import { clamp, DEG, GRAVITY } from '#core/math/scalar.ts';
import type { ModeId } from '#core/modes/modes.ts';
import type { Config, ControlSet } from './config.ts';
import type { AttitudeDemand, Loops } from './loops.ts';
import type { Sensing } from './sensing.ts';

/** Samples of what is told, s, or as often as loops are worked out; so late a command is looked for, s. */
const SAMPLE_S = 0.002;
const LATEST_S = 0.06;
/** It is turned to and fro by a rate that grows quicker and quicker, times a second: slow swings show the damping, quick ones how late it turns. */
const [SLOWEST_HZ, QUICKEST_HZ] = [0.6, 5] as const;
/** And by so much, rad/s. */
const wings = { roll: 90 * DEG, pitch: 28 * DEG } as const;
/** Of wings the turn becomes less where it is quicker than this, times a second: a servo that cannot follow would be told as one that is late. */
const FULL_TO_HZ = 2.2;
const rotors = { roll: 50 * DEG, pitch: 50 * DEG } as const;
/** Less of the turning explained than this is no answer. */
const LEAST_EXPLAINED = 0.6;
/** So many times what it flies by is believed, or one over it. */
const MOST_TIMES = 4;
/** No lag at all is taken as this, s. */
const LEAST_LAG_S = 5e-4;
/** Modes that it is done in: the pilot, or the board, holds the craft about where it is. */
const done: readonly ModeId[] = ['level', 'height', 'course', 'hover', 'position'];

export type TuneState = 'off' | 'roll' | 'pitch' | 'done' | 'waits';
const tuned = ['roll', 'pitch'] as const;
type Tuned = (typeof tuned)[number];

/** Phase of a swing whose frequency grows by the same share in each second, rad. */
const GROWS = Math.log(QUICKEST_HZ / SLOWEST_HZ) / FINDS_AXIS_S;
const chirpPhase = (t: number): number => (2 * Math.PI * SLOWEST_HZ * (Math.exp(GROWS * t) - 1)) / GROWS;

/** What was found for one axis, for the reference of the gain law. */
export interface FoundGains {
  readonly gains: RateGains;
  readonly of: Identified;
}

/** What it looks at, besides sensors and demand. */
export interface TuneLook {
  asked: boolean;
  mode: ModeId;
  flying: boolean;
  linkAlive: boolean;
  /** Over where it was armed, m. */
  aboveM: number;
}

/**
 * Finds gains in flight: on a switch it leans the craft to and fro about one axis after the other, tells from commands and rates what a
 * command turns and how late, and works out P and I by what is to be left. What it found is flown at once where that is set, and until it is
 * disarmed; it is written by nobody but the pilot.
 */
export class AutoTune {
  readonly look: TuneLook = { asked: false, mode: 'manual', flying: false, linkAlive: false, aboveM: 0 };
  readonly found: Record<Tuned, FoundGains | null> = { roll: null, pitch: null };
  state: TuneState = 'off';
  /** Of the axis that it is at, s. */
  seconds = 0;
  private axis = 0;
  private tick = 0;
  private readonly every: number;
  private gainSum = 0;
  private forwardSum = 0;
  private samples = 0;
  private readonly identifier: Identifier;
  private readonly axes: readonly Tuned[];
  private waited = '';
  private written: { readonly holder: Record<string, number>; readonly values: RateGains }[] = [];

  constructor(
    private readonly c: Config,
    /** Between two turns of the loops, s. */
    private readonly dt: number,
    private readonly say: (text: string) => void,
    /** Before a change of settings: what was found stays known until the board loses its power. */
    from?: AutoTune,
  ) {
    if (from) Object.assign(this.found, from.found);
    this.every = Math.max(1, Math.round(SAMPLE_S / dt));
    const step = this.every * dt;
    this.identifier = new Identifier(step, Math.round(LATEST_S / step));
    this.axes = c.tune.axes === 'both' ? tuned : [c.tune.axes];
  }

  /** Adds to what is asked of the attitude. Before the loops. */
  lean(d: AttitudeDemand): void {
    d.addRoll = 0;
    d.addPitch = 0;
    const { look } = this;
    if (!look.asked) {
      if (this.state !== 'off') this.leave();
      return;
    }
    if (this.state === 'done') return;
    const waits = this.why();
    if (waits !== '') {
      if (waits !== this.waited) this.say(`Finding gains waits: ${waits}.`);
      this.waited = waits;
      if (this.state !== 'waits') this.begin();
      this.state = 'waits';
      return;
    }
    this.waited = '';
    const axis = this.axes[this.axis]!;
    if (this.state !== axis) {
      this.say(`Finds gains of ${axis}: leans to and fro for ${FINDS_AXIS_S} s.`);
      this.state = axis;
      this.begin();
    }
    const rate = (this.c.rotorcraft ? rotors : wings)[axis];
    // In and out softly: at both ends it flies as it did.
    const ends = Math.max(0, Math.min(1, this.seconds, FINDS_AXIS_S - this.seconds));
    const hz = SLOWEST_HZ * Math.exp(GROWS * this.seconds);
    const full = this.c.rotorcraft ? 1 : Math.min(1, FULL_TO_HZ / hz);
    const by = ends * rate * full * Math.sin(chirpPhase(this.seconds));
    if (axis === 'roll') d.addRoll = by;
    else d.addPitch = by;
  }

  /** Takes what was given and what came. After the loops. */
  step(loops: Loops, s: Sensing, roll: number, pitch: number): void {
    if (this.state !== 'roll' && this.state !== 'pitch') return;
    this.seconds += this.dt;
    if (this.tick++ % this.every === 0) {
      const i = this.state === 'roll' ? 0 : 1;
      const { rates } = s.attitude;
      this.identifier.step(i === 0 ? roll : pitch, rates[i]!, i === 0 ? this.slips(s) : rates[1]!);
      this.gainSum += loops.gainBy;
      this.forwardSum += loops.forwardBy;
      this.samples++;
    }
    if (this.seconds >= FINDS_AXIS_S) this.conclude(this.state, loops.set);
  }

  /** How fast the air comes to blow from the side, rad/s: by bank, less what the nose turns, and what of a roll the angle of attack makes slip. */
  private slips(s: Sensing): number {
    const a = s.attitude;
    const v = Math.max(6, s.airspeed);
    return (GRAVITY / v) * Math.sin(a.roll) - a.rates[2]! + this.c.energy.pitchTrim * a.rates[0]!;
  }

  /** It is disarmed: what was flown of it is as it is written again. */
  landed(): void {
    for (const { holder, values } of this.written) Object.assign(holder, values);
    this.written = [];
  }

  private leave(): void {
    this.state = 'off';
    this.axis = 0;
    this.waited = '';
  }

  private begin(): void {
    this.seconds = 0;
    this.identifier.reset();
    const forgets = this.axes[this.axis] === 'pitch' ? FORGETS : FORGETS_SLIP;
    this.identifier.forgets = this.c.rotorcraft ? 0 : forgets;
    this.gainSum = 0;
    this.forwardSum = 0;
    this.samples = 0;
  }

  /** Why nothing is tried now; empty where it is. */
  private why(): string {
    const { look } = this;
    if (!look.linkAlive) return 'the transmitter is not heard';
    if (!done.includes(look.mode)) return 'it needs Level or a mode that holds';
    if (!look.flying) return 'it is not in the air';
    return look.aboveM < FINDS_LOWEST_M ? `it is lower than ${FINDS_LOWEST_M} m` : '';
  }

  private conclude(axis: Tuned, set: ControlSet): void {
    const of = this.identifier.result();
    const had = set[axis];
    if (!of || of.explained < LEAST_EXPLAINED || !(of.turns > 0)) {
      this.say(`Found no gains of ${axis}: what it turned is not explained by what was commanded.`);
      this.found[axis] = null;
    } else {
      const by = this.gainSum / this.samples;
      const forwardBy = this.forwardSum / this.samples;
      const settling =
        had.proportional > 0 && had.integral > 0 ? had.integral / had.proportional : USUAL_SETTLING;
      const braking = had.proportional > 0 ? had.derivative / had.proportional : 0;
      const asked = 0.5 * (axis === 'roll' ? set.rollMax : set.pitchMax);
      const most = mostProportional(this.loopFound(axis, of, had, { gain: by, forward: forwardBy }), asked);
      const p = clamp(this.c.tune.share * (most?.p ?? 0), 0, 2);
      const gains: RateGains = {
        proportional: p,
        integral: (most?.settles ?? 1) * settling * p,
        derivative: braking * p,
        // Of rotors nothing slows a turn: what they were told to begin with stays.
        feedForward: this.c.rotorcraft ? had.feedForward : clamp(forwardFor(of, axis) / forwardBy, 0, 2),
      };
      const unlike =
        had.proportional > 0 && (p > MOST_TIMES * had.proportional || p < had.proportional / MOST_TIMES);
      if (!(p > 0) || unlike) {
        this.found[axis] = null;
        this.say(
          `Found no gains of ${axis} that are believed: P would be ${p.toFixed(4)}, and it flies by ${had.proportional.toFixed(4)}.`,
        );
      } else {
        this.found[axis] = { gains, of };
        this.say(
          `${FOUND_SAYS} ${axis}: P ${p.toFixed(4)}, ${Math.round(1000 * (of.lateS + of.lagS))} ms late.`,
        );
        if (this.c.tune.flies) this.fly(had, gains);
      }
    }
    this.axis++;
    if (this.axis >= this.axes.length) {
      this.state = 'done';
      this.axis = 0;
    } else this.state = 'off';
  }

  /** What was found, as a loop: its command waits for the next pulse, and is late by what is left of the lateness. */
  private loopFound(
    axis: Tuned,
    { damping, stiffness, turns, lagS, lateS }: Identified,
    gains: RateGains,
    times: GainTimes,
  ): Loop {
    const { c, dt } = this;
    const waits = c.outputs.filter((o) => o.mix[axis] !== 0).map((o) => o.everySteps);
    const { everySteps } = c.loopShape;
    const waitS = (dt / everySteps) * Math.max(everySteps, ...waits);
    return {
      model: {
        axis,
        speedMps: 0,
        moves: 'servos',
        states: [
          // Slip comes of yaw, which is another loop's.
          [-damping, axis === 'pitch' ? -stiffness : 0, turns],
          [1, -FORGETS, 0],
          [0, 0, -1 / Math.max(LEAST_LAG_S, lagS)],
        ],
        byCommand: [0, 0, 1 / Math.max(LEAST_LAG_S, lagS)],
        motorPole: Number.NaN,
      },
      gains,
      shape: c.loopShape,
      times,
      filters: [],
      // Commands are told in the step that they are decided in: its lateness has all of the loop.
      loopS: 0,
      waitS,
      slew: this.slewOf(axis),
      play: 0,
      lateS: Math.max(0, lateS - waitS / 2),
    };
  }

  /** Share of full command per second that the slowest of the servos for an axis gives; infinite for rotors. */
  private slewOf(axis: Tuned): number {
    const { c } = this;
    const moved = c.outputs.filter((o) => !o.isMotor && o.role !== 'nothing' && o.mix[axis] !== 0);
    const each = moved.map((o) => {
      const limit = o.speed > 0 ? o.speed / 500 : Number.POSITIVE_INFINITY;
      const travel = (Math.abs(o.mix[axis]) * (o.highUs - o.lowUs)) / 1000;
      return Math.min(1 / c.tune.servoS, limit) / Math.max(0.001, travel);
    });
    return c.rotorcraft ? Number.POSITIVE_INFINITY : Math.min(...each);
  }

  private fly(had: RateGains, gains: RateGains): void {
    const holder = had as unknown as Record<string, number>;
    this.written.push({ holder, values: { ...had } });
    Object.assign(holder, gains);
  }
}
