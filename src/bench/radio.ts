import type { BenchTruth } from '#core/formats/benchTruth.ts';
import { Noise } from '#core/math/random.ts';
import { writeCrsfChannels, writeCrsfLink, writeSbus } from '#core/sensors/receiverFrames.ts';
import type { Readings } from '#firmware/readings.ts';
import { Uart } from './devices/uart.ts';

/** Time between frames, s, and speed of the wire. */
const FRAME_S = { crsf: 0.02, sbus: 0.014, 'pulse-train': 0.0225 } as const;
const BAUD = { crsf: 420000, sbus: 83333, 'pulse-train': 0 } as const;
const LINK_EVERY = 10;
const TRAIN_CHANNELS = 8;
/** Share of frames that come even over the best link. */
const BEST_QUALITY = 0.98;
/** Of a normal number over which a frame is not heard at full reach: with half of it one in ten is. */
const WEAK_LOSES = 0.8;

/** What a receiver's lamp does: nothing without power; steady while it hears its transmitter; slow flashes while it does not; double ones before it was ever taught one. */
export type Lamp = 'dark' | 'steady' | 'slow' | 'double';
/** Throttle that a receiver with a preset sends when it has lost its transmitter, us. */
export const PRESET_THROTTLE_US = 950;

/** How a board is set to listen to its receiver. */
interface Listening {
  /** At the port that the receiver is soldered to. */
  readonly joined: boolean;
  readonly protocol: string;
  readonly turned: boolean;
  readonly oneWire: boolean;
}

/** The transmitter in the pilot's hands and the receiver on the craft, which speaks its own protocol. */
export class Radio {
  /** Transmitter switched on and in reach. */
  on = true;
  /** -1..1; pitch positive is pulled back. Throttle 0..1. */
  roll = 0;
  pitch = 0;
  yaw = 0;
  throttle = 0;
  arm = false;
  /** Three positions: 0, 1, 2. */
  attitude: 0 | 1 | 2 = 0;
  returnHome = false;
  /** 0..1, of a transmitter that has a dial. */
  dial = 0.5;
  /** One more switch, on its channel; 0 for none. */
  switchChannel = 0;
  switchUs = 1000;
  /** How well the receiver hears it, 0..1: less with its aerial off, or far away. */
  reach = 1;
  /** The receiver holds its last values at a loss, whatever it was set to. */
  holds = false;
  /** Its rates switch is low. */
  lowRates = false;
  private due = 0;
  private count = 0;
  private readonly pulses = new Float64Array(16).fill(1500);
  private readonly wire: Uart;
  private readonly ownBaud: number;
  private joined = false;
  private everHeard = false;
  /** Since the transmitter was last heard, s. */
  private sinceHeard = 0;
  private readonly chance: Noise;
  /** What the receiver's lamp does. */
  lamp: Lamp = 'dark';
  private readonly noise: Noise;
  /** -1 where the transmitter sends a stick the wrong way round. */
  private readonly signs: Readonly<Record<'roll' | 'pitch' | 'throttle' | 'yaw', number>>;

  /**
   * @param set how the board is set to listen: whether at the receiver's port, and for what
   * @param port that the receiver is soldered to
   */
  constructor(
    private readonly channels: BenchTruth['channels'],
    private readonly receiver: BenchTruth['receiver'],
    private readonly inHand: BenchTruth['transmitter'],
    private readonly readings: Readings,
    private readonly set: Listening,
    private readonly port: number,
    seed: number,
  ) {
    const sign = (stick: 'roll' | 'pitch' | 'throttle' | 'yaw') =>
      inHand.reversed?.includes(stick) ? -1 : 1;
    this.signs = { roll: sign('roll'), pitch: sign('pitch'), throttle: sign('throttle'), yaw: sign('yaw') };
    this.noise = new Noise(seed + 1);
    this.chance = new Noise(seed + 2);
    const baud = BAUD[receiver.protocol];
    this.ownBaud = baud;
    this.wire = new Uart(readings.receiver, baud, baud, 'not', seed, 256);
  }

  /** Whether what the board sends to its receiver now comes back to the transmitter: of CRSF alone, and where that is heard. */
  bringsBack(): boolean {
    if (!this.joined || this.receiver.protocol !== 'crsf' || this.lamp !== 'steady') return false;
    return this.reach >= 1 || Math.abs(this.chance.next()) * this.reach <= WEAK_LOSES;
  }

  step(powered: boolean, dt: number): void {
    this.join();
    this.wire.step(dt);
    this.due -= dt;
    if (this.due > 0) return;
    const frameS = FRAME_S[this.receiver.protocol];
    this.due += frameS;
    const heard = powered && this.on && this.receiver.unbound !== true;
    this.lamp = !powered ? 'dark' : heard ? 'steady' : this.receiver.unbound ? 'double' : 'slow';
    if (!powered) return;
    this.sinceHeard = heard ? 0 : this.sinceHeard + frameS;
    if (heard) {
      // Of a weak signal some frames are not heard, and not sent on.
      if (this.reach < 1 && Math.abs(this.chance.next()) * this.reach > WEAK_LOSES) return;
      this.hear();
      this.send(BEST_QUALITY * this.reach, false);
    } else if (this.everHeard) this.onLoss();
  }

  /** Joins the wire to the board as that listens now: as it is set, or for whatever it tries. */
  private join(): void {
    const { readings: r, set, receiver } = this;
    const tries = r.listens !== '';
    const protocol = tries ? r.listens : set.protocol;
    const turned = tries ? r.listensTurned : set.turned;
    const oneWire = tries ? r.listensOneWire : set.oneWire;
    this.joined =
      (tries && r.listensPort > 0 ? r.listensPort === this.port : set.joined) &&
      oneWire === (receiver.oneWire === true);
    const understood = protocol === receiver.protocol && turned === (receiver.turned === true);
    this.wire.joined = this.joined ? 'right' : 'not';
    this.wire.portBaud = this.ownBaud + (understood ? 0 : 1);
  }

  /** Most receivers fall silent; some say the last values again, some made-up ones. */
  private onLoss(): void {
    const { afterS = 0, quality } = this.receiver;
    // What it puts on a channel of its own it puts there at once; what its frames say of the link is a lie where it hides the loss.
    if (quality) this.pulses[quality.channel - 1] = quality.noneUs;
    switch (this.holds || this.sinceHeard <= afterS ? 'hold' : this.receiver.onLoss) {
      case 'stop':
        return;
      case 'flag':
        this.send(0, true);
        return;
      case 'hold':
        this.send(BEST_QUALITY, false);
        return;
      case 'preset': {
        const c = this.channels;
        for (const at of [c.roll, c.pitch, c.yaw]) this.pulses[at - 1] = 1500;
        this.pulses[c.throttle - 1] = PRESET_THROTTLE_US;
        this.send(BEST_QUALITY, false);
      }
    }
  }

  private hear(): void {
    this.everHeard = true;
    const c = this.channels;
    const p = this.pulses;
    const { travel, trimUs, lowRate } = this.inHand;
    const goes = 500 * travel * (this.lowRates ? (lowRate ?? 1) : 1);
    p[c.roll - 1] = 1500 + trimUs.roll + this.tremble() + this.signs.roll * goes * this.roll;
    p[c.pitch - 1] = 1500 + trimUs.pitch + this.tremble() + this.signs.pitch * goes * this.pitch;
    p[c.yaw - 1] = 1500 + trimUs.yaw + this.tremble() + this.signs.yaw * goes * this.yaw;
    p[c.throttle - 1] = 1500 + this.tremble() + this.signs.throttle * 500 * travel * (2 * this.throttle - 1);
    p[c.arm - 1] = this.arm ? 2000 : 1000;
    const { dial, mixed, switchNoiseUs = 0 } = this.inHand;
    p[c.attitude - 1] = 1000 + 500 * this.attitude;
    if (mixed) p[c.attitude - 1] = 1000 + 200 * (2 * this.attitude + (this.returnHome ? 1 : 0));
    else p[c.navigation - 1] = this.returnHome ? 2000 : 1000;
    if (dial) p[dial - 1] = 1000 + 1000 * this.dial;
    if (switchNoiseUs > 0)
      for (const at of [c.arm, c.attitude, c.navigation]) p[at - 1]! += switchNoiseUs * this.noise.next();
    const { quality } = this.receiver;
    if (quality)
      p[quality.channel - 1] = quality.noneUs + BEST_QUALITY * this.reach * (quality.fullUs - quality.noneUs);
    if (this.switchChannel > 0) p[this.switchChannel - 1] = this.switchUs;
  }

  private tremble(): number {
    const { noiseUs } = this.inHand;
    return noiseUs > 0 ? noiseUs * this.noise.next() : 0;
  }

  private send(quality: number, failsafe: boolean): void {
    switch (this.receiver.protocol) {
      case 'crsf':
        writeCrsfChannels(this.wire.out, this.pulses);
        if (this.count++ % LINK_EVERY === 0) writeCrsfLink(this.wire.out, quality, -60);
        return;
      case 'sbus':
        writeSbus(this.wire.out, this.pulses, failsafe, failsafe);
        return;
      case 'pulse-train': {
        if (!this.joined) return;
        const r = this.readings;
        let sum = 0;
        for (let i = 0; i < TRAIN_CHANNELS; i++) sum += this.pulses[i]!;
        if (r.edges + TRAIN_CHANNELS + 1 > r.train.length) return;
        for (let i = 0; i < TRAIN_CHANNELS; i++) r.train[r.edges++] = this.pulses[i]!;
        r.train[r.edges++] = FRAME_S['pulse-train'] * 1e6 - sum;
      }
    }
  }
}
