import { clamp } from '#core/math/scalar.ts';
import { BandSwitch, type SwitchedMode, switchedModes } from '#core/modes/modes.ts';
import {
  CrsfReader,
  PulseTrainReader,
  type ReceiverReader,
  SbusReader,
} from '#core/sensors/receiverFrames.ts';
import type { Config } from './config.ts';
import type { Readings } from './readings.ts';
import { Sticks } from './sticks.ts';

/** A frame younger than this means the link is alive, s. */
const FRAME_AGE_S = 0.15;
/** A knob or switch of flaps, from up to down, us. */
const FLAP_UP_US = 1000;
const FLAP_TRAVEL_US = 1000;
/** A quality channel that says less than this says that nothing is heard. */
const NO_QUALITY = 0.03;
/** Bytes of its port that can be looked at as they came. */
const KEPT_BYTES = 256;

/** Takes what comes to the receiver's port in place of the pilot's reader. */
export interface ReceiverTap {
  take(r: Readings): void;
}

/** The pilot as the receiver tells of him: sticks, switches, whether the link lives. */
export class PilotInput {
  readonly sticks: Sticks;
  /** us, as last received. */
  readonly channels: Float64Array;
  linkAlive = false;
  frameAge = Number.POSITIVE_INFINITY;
  quality = 0;
  /** Bytes or edges that came in, and whole frames in them. */
  heard = 0;
  private readonly newest = new Uint8Array(KEPT_BYTES);
  private bytes = 0;
  frames = 0;
  /** Of these, those that said, or showed by a pulse, that the transmitter is not heard. */
  refused = 0;
  /** Hears the port instead of the pilot's reader, while protocols are tried. */
  tap: ReceiverTap | null = null;
  /** A frame came in this step. */
  fresh = false;
  armWanted = false;
  /** Arming has been seen off since the start. */
  armSeenOff = false;
  /** Modes the switches ask for, in the order of `switchedModes`. */
  readonly wanted: boolean[] = switchedModes.map(() => false);
  flap = 0;
  /** Turning over is asked for. */
  flipWanted = false;
  private readonly serial: ReceiverReader;
  private readonly train = new PulseTrainReader();
  private readonly faultsBefore: number = 0;
  private readonly armSwitch: BandSwitch;
  private readonly flipSwitch: BandSwitch;
  private readonly switches: readonly BandSwitch[];

  constructor(
    private readonly c: Config,
    from?: PilotInput,
  ) {
    this.sticks = from?.sticks ?? new Sticks();
    this.serial = c.rx.protocol === 'sbus' ? new SbusReader() : new CrsfReader();
    this.channels = (c.rx.protocol === 'pulse-train' ? this.train : this.serial).news.channels;
    this.armSwitch = new BandSwitch(c.arm);
    this.flipSwitch = new BandSwitch(c.flip.band);
    this.switches = switchedModes.map((m) => new BandSwitch(c.modeBands[m]));
    if (from) {
      this.channels.set(from.channels);
      this.frameAge = from.frameAge;
      this.linkAlive = from.linkAlive;
      this.quality = from.quality;
      // What was counted, and who listens, does not begin anew with a setting.
      this.heard = from.heard;
      this.frames = from.frames;
      this.refused = from.refused;
      this.faultsBefore = from.faults;
      this.tap = from.tap;
    }
  }

  step(r: Readings, dt: number): void {
    this.fresh = false;
    this.frameAge += dt;
    if (this.tap) this.tap.take(r);
    else if (this.c.rx.protocol === 'pulse-train') this.edges(r);
    else {
      this.heard += r.receiver.length;
      while (r.receiver.length > 0) {
        const byte = r.receiver.shift();
        this.newest[this.bytes++ % KEPT_BYTES] = byte;
        if (this.serial.push(byte)) this.frame(this.serial);
      }
    }
    this.linkAlive = this.frameAge < FRAME_AGE_S;
    if (!this.linkAlive) this.quality = 0;
  }

  /** The newest bytes of its port as they came, oldest first. */
  recent(): Uint8Array {
    const n = Math.min(this.bytes, KEPT_BYTES);
    return Uint8Array.from({ length: n }, (_, i) => this.newest[(this.bytes - n + i) % KEPT_BYTES]!);
  }

  private edges(r: Readings): void {
    this.heard += r.edges;
    for (let i = 0; i < r.edges; i++) if (this.train.edge(r.train[i]!)) this.frame(this.train);
    r.edges = 0;
  }

  private frame(reader: Pick<ReceiverReader, 'news'>): void {
    const { rx } = this.c;
    const { news } = reader;
    this.frames++;
    // A receiver that says it lost its transmitter, or pulls the throttle below what a stick can, gives no sticks.
    const preset = rx.lossBelow > 0 && rx.throttle > 0 && news.channels[rx.throttle - 1]! < rx.lossBelow;
    const quality = this.qualityOf(news.channels) ?? news.quality;
    if (news.failsafe || preset || (rx.qualityChannel > 0 && quality < NO_QUALITY)) {
      this.refused++;
      return;
    }
    this.fresh = true;
    this.frameAge = 0;
    this.quality = quality < 0 ? 1 : quality;
    const ch = this.channels;
    this.sticks.read(ch, rx);
    this.armWanted = this.armSwitch.step(ch);
    if (!this.armWanted) this.armSeenOff = true;
    this.flipWanted = this.c.flip.band.channel > 0 && this.flipSwitch.step(ch);
    for (let i = 0; i < this.switches.length; i++) this.wanted[i] = this.switches[i]!.step(ch);
    const flap = this.c.flapChannel;
    this.flap = flap > 0 ? clamp((ch[flap - 1]! - FLAP_UP_US) / FLAP_TRAVEL_US, 0, 1) : 0;
  }

  /** Frames that came damaged, by the reader of the protocol that is set. */
  get faults(): number {
    return this.faultsBefore + (this.c.rx.protocol === 'pulse-train' ? this.train : this.serial).faults;
  }

  /** 0..1 by the channel that carries it; null where none does. */
  private qualityOf(channels: Float64Array): number | null {
    const { qualityChannel, qualityNone, qualityFull } = this.c.rx;
    if (qualityChannel < 1 || qualityNone === qualityFull) return null;
    return clamp((channels[qualityChannel - 1]! - qualityNone) / (qualityFull - qualityNone), 0, 1);
  }

  wants(mode: SwitchedMode): boolean {
    const i = switchedModes.indexOf(mode);
    return i >= 0 && this.wanted[i]!;
  }

  /** The control set that the switch chooses, 0-based; -1 when none does. */
  get set(): number {
    const ch = this.c.setChannel;
    if (ch < 1) return -1;
    const us = this.channels[ch - 1]!;
    return us < 1300 ? 0 : us > 1700 ? 2 : 1;
  }
}
