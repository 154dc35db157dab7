import { clamp } from '#core/math/scalar.ts';
import { rowGives, rowSources } from '#core/mixer/freeRows.ts';
import { motorPulse, servoPulse } from '#core/mixer/pulse.ts';
import { RotorShare } from '#core/mixer/rotorShare.ts';
import { BandSwitch } from '#core/modes/modes.ts';
import type { BenchMoves } from './benchMoves.ts';
import { OUTPUT_COUNT } from './catalogue/counts.ts';
import type { Config } from './config.ts';
import type { PilotInput } from './pilotInput.ts';

/** Commands after the loops: -1..1, throttle and flap 0..1. */
export interface Command {
  roll: number;
  pitch: number;
  yaw: number;
  throttle: number;
  flap: number;
}

/** Channels that rows can take, from this one on. */
const FIRST_CHANNEL = 5;
const SOURCES_BEFORE = rowSources.indexOf(`channel-${FIRST_CHANNEL}`);

/** What rows of a mix of one's own take their parts of: in the order of `rowSources`. */
export class RowInputs {
  readonly values = new Float64Array(rowSources.length);

  /** @param roll of the craft, rad, right wing down positive @param pitch the same, nose up positive @param camera of a right angle down */
  fill(k: Command, input: PilotInput, roll: number, pitch: number, camera: number): void {
    const v = this.values;
    const { sticks, channels, linkAlive } = input;
    v[0] = k.roll;
    v[1] = k.pitch;
    v[2] = k.yaw;
    v[3] = k.throttle;
    v[4] = k.flap;
    // Of sticks that nobody holds any more nothing is taken.
    v[5] = linkAlive ? sticks.roll : 0;
    v[6] = linkAlive ? sticks.pitch : 0;
    v[7] = linkAlive ? sticks.yaw : 0;
    v[8] = linkAlive ? sticks.throttle : 0;
    v[9] = roll / RIGHT_ANGLE;
    v[10] = pitch / RIGHT_ANGLE;
    v[11] = 1;
    v[12] = camera;
    for (let i = SOURCES_BEFORE; i < v.length; i++)
      v[i] = clamp((channels[FIRST_CHANNEL - 1 + i - SOURCES_BEFORE]! - 1500) / 500, -1.2, 1.2);
  }
}
const RIGHT_ANGLE = Math.PI / 2;

/** Outputs are looked at after so many steps at the latest, should none have a pulse due: one may be tried by hand. */
const MOST_STEPS = 20;

/** The mixer's last stage: commands to pulses, each output at its timer's own rate. */
export class Outputs {
  /** us per output; 0 where nothing is sent. */
  readonly pulses = new Float64Array(OUTPUT_COUNT);
  /** Rotors turn backwards and lift one side of a craft that lies on its back. */
  turningOver = false;
  private readonly rotors: RotorShare;
  /** Of each output its place among the rotors; -1 where it drives none. */
  private readonly rotorAt: Int8Array;
  /** Steps until each output's next pulse. */
  private readonly left = new Int16Array(OUTPUT_COUNT);
  /** Steps from the last pulse to the next of any output, and how many of them have passed. */
  private soonest = 0;
  private waited = 0;
  /** What rows add to each output; their conditions. */
  private readonly added = new Float64Array(OUTPUT_COUNT);
  private readonly conditions: readonly BandSwitch[];
  private readonly hasRows: boolean;
  private readonly withRows: Uint8Array;

  constructor(
    private readonly c: Config,
    private readonly dt: number,
  ) {
    const motors = c.outputs.filter((o) => o.isMotor);
    this.rotors = new RotorShare(
      motors.map((o) => o.mix),
      c.idle,
    );
    this.conditions = c.mixRows.map((r) => new BandSwitch(r.condition));
    this.hasRows = c.mixRows.length > 0;
    this.withRows = new Uint8Array(OUTPUT_COUNT);
    for (const r of c.mixRows) this.withRows[r.output - 1] = 1;
    this.rotorAt = Int8Array.from(c.outputs, (o) => motors.indexOf(o));
  }

  /** The mixer had to give up part of a command for want of room. Rotors only. */
  get saturated(): boolean {
    return this.rotors.saturated;
  }

  /** @param inputs what rows take their parts of @param channels of the receiver, us, for their conditions */
  step(k: Command, bench: BenchMoves, armed: boolean, inputs?: Float64Array, channels?: Float64Array): void {
    const c = this.c;
    if (c.rotorcraft && armed) this.rotors.share(k);
    // A timer sends its pulses at its own rate; between them nothing changes on the wire.
    this.waited++;
    if (this.waited < this.soonest) return;
    const { waited, left } = this;
    this.waited = 0;
    if (this.hasRows && inputs && channels) this.addRows(inputs, channels);
    let soonest = MOST_STEPS;
    for (let i = 0; i < OUTPUT_COUNT; i++) {
      const o = c.outputs[i]!;
      if (o.role === 'nothing' && bench.output !== i + 1 && this.withRows[i] === 0) {
        this.pulses[i] = 0;
        left[i] = 0;
        continue;
      }
      left[i]! -= waited;
      const due = left[i]! <= 0;
      if (due) left[i] = o.everySteps;
      if (left[i]! < soonest) soonest = left[i]!;
      if (!due) continue;
      let pulse = 0;
      if (bench.teaching !== '' && o.isMotor && !o.frames) {
        pulse = bench.teaching === 'high' ? o.highUs : o.lowUs;
      } else if (bench.output === i + 1) {
        pulse = o.isMotor ? motorPulse(o, bench.duty) : bench.servoPulse(o);
      } else if (o.isMotor) {
        pulse = motorPulse(o, armed ? this.motorDuty(i, k) : 0);
      } else {
        let d = o.mix.roll * k.roll + o.mix.pitch * k.pitch + o.mix.yaw * k.yaw;
        if (o.mix.yaw !== 0 && o.mix.roll === 0) d += o.mix.yaw * c.turnRudder * k.roll;
        // The down-going half of a pair that rolls moves less, against adverse yaw.
        if (o.mix.roll !== 0 && o.mix.pitch === 0 && d > 0) d *= 1 - c.aileronUp;
        d += o.mix.flap * k.flap;
        if (this.hasRows) d += this.added[i]!;
        pulse = bench.output !== 0 ? o.centreUs : servoPulse(o, d);
      }
      const last = this.pulses[i]!;
      if (o.speed > 0 && last > 0 && pulse > 0 && !o.isMotor) {
        const step = o.speed * o.everySteps * this.dt;
        pulse = clamp(pulse, last - step, last + step);
      }
      this.pulses[i] = pulse;
    }
    this.soonest = soonest;
  }

  private addRows(inputs: Float64Array, channels: Float64Array): void {
    const { added, conditions } = this;
    const rows = this.c.mixRows;
    added.fill(0);
    for (let j = 0; j < rows.length; j++) {
      const r = rows[j]!;
      if (r.channel > 0 && !conditions[j]!.step(channels)) continue;
      added[r.output - 1]! += rowGives(r, inputs[r.from]!);
    }
  }

  private motorDuty(i: number, k: Command): number {
    if (!this.c.rotorcraft) return this.wingMotor(i, k);
    return this.turningOver ? this.overDuty(i, k) : this.rotorDuty(i);
  }

  /** What each output's rotor would be given of a command at half throttle, 0..1, while nothing turns; 0 for what drives no rotor. */
  wouldGive(k: Command): number[] {
    if (!this.c.rotorcraft) return [];
    const motors = this.c.outputs.filter((o) => o.isMotor);
    const tried = new RotorShare(
      motors.map((o) => o.mix),
      this.c.idle,
    );
    tried.share({ ...k, throttle: 0.5 });
    return Array.from(this.rotorAt, (at) => (at >= 0 ? tried.duties[at]! : 0));
  }

  /**
   * Backwards a rotor pulls its side of the craft away from its belly: those on the side that the stick points to, so that the craft
   * turns the way the stick says, as it would in the air. None idles.
   */
  private overDuty(i: number, k: Command): number {
    const { mix } = this.c.outputs[i]!;
    return clamp(-(mix.roll * k.roll + mix.pitch * k.pitch), 0, 1) * this.c.flip.power;
  }

  /** What its share of the commands leaves a rotor, and its rows after that: never less than idle. */
  private rotorDuty(i: number): number {
    const share = this.rotors.duties[this.rotorAt[i]!]!;
    return this.hasRows ? clamp(share + this.added[i]!, this.c.idle, 1) : share;
  }

  private wingMotor(i: number, k: Command): number {
    const c = this.c;
    const yaw = c.outputs[i]!.mix.yaw * c.differential * k.yaw;
    const own = this.hasRows ? this.added[i]! : 0;
    return clamp(k.throttle + yaw * Math.min(1, 3 * k.throttle) + own * Math.min(1, 3 * k.throttle), 0, 1);
  }
}
