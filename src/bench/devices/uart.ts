import { Noise } from '#core/math/random.ts';
import { ByteQueue } from '#core/sensors/byteQueue.ts';

/** Bits on the wire for a byte: start, eight, stop. */
const BITS = 10;

/**
 * A serial wire from a device to a port of the board. Where the two disagree about the speed the port reads
 * garbage; where RX and TX are swapped, or nobody listens there, it reads nothing.
 */
export class Uart {
  /** Where the device writes. */
  readonly out: ByteQueue;
  private readonly garbage: Noise;
  /** Bytes that came to the pad the board sends on. */
  crossed = 0;
  /** Bytes whose stop bit was none, since the speeds differ. */
  framing = 0;
  /** Set while the port listens at another speed than it was set up for. */
  portBaud: number;
  /** What comes to the pad that the board sends on, where it listens there as well. */
  crossedTo: ByteQueue | null = null;
  private due = 0;

  constructor(
    private readonly port: ByteQueue,
    private readonly deviceBaud: number,
    portBaud: number,
    /** Set anew while the port is listened to otherwise than it was set up for. */
    public joined: 'right' | 'swapped' | 'not',
    seed: number,
    capacity = 2048,
  ) {
    this.out = new ByteQueue(capacity);
    this.portBaud = portBaud;
    this.garbage = new Noise(seed);
  }

  /** Moves the bytes that dt has time for. */
  step(dt: number): void {
    if (this.out.length === 0) {
      this.due = 0;
      return;
    }
    this.due += (this.deviceBaud / BITS) * dt;
    while (this.due >= 1 && this.out.length > 0) {
      this.due -= 1;
      const byte = this.out.shift();
      if (this.joined === 'not') continue;
      const swapped = this.joined === 'swapped';
      if (swapped) this.crossed++;
      const to = swapped ? this.crossedTo : this.port;
      if (this.deviceBaud === this.portBaud) to?.push(byte);
      else this.garble(byte, to);
    }
  }

  /** The port samples at the wrong times: some bits of what it takes for a byte, some of the next. */
  private garble(byte: number, to: ByteQueue | null): void {
    if (this.garbage.next() * this.deviceBaud >= this.portBaud) return;
    const taken = (byte * 167 + Math.floor(90 * Math.abs(this.garbage.next()))) & 0xff;
    if ((taken & 3) === 0) this.framing++;
    to?.push(taken);
  }
}
