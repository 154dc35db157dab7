import { type BoardPort, MOST_WAITING_BYTES } from '#link/port.ts';
import type { Transport } from '#link/transport.ts';

/** Rates that a serial adapter can be set to; a board that is on USB itself does not mind. */
export type Baud = 115_200 | 57_600 | 230_400 | 460_800 | 921_600;

/** What is used of a browser's serial port (Web Serial, W3C draft). */
export interface SerialLike extends EventTarget {
  readonly readable: ReadableStream<Uint8Array> | null;
  readonly writable: WritableStream<Uint8Array> | null;
  open(options: { baudRate: number; bufferSize?: number }): Promise<void>;
  close(): Promise<void>;
  getInfo(): { usbVendorId?: number; usbProductId?: number };
}

export interface SerialsLike extends EventTarget {
  getPorts(): Promise<SerialLike[]>;
  requestPort(): Promise<SerialLike>;
}

const BUFFER_BYTES = 16_384;

/** The browser's serial ports; null where it gives none to a page. */
export function serialsOf(): SerialsLike | null {
  return (navigator as { serial?: SerialsLike }).serial ?? null;
}

/** Bytes over an open serial port. Its end is told once, whoever brought it about. */
function serialTransport(port: SerialLike): Transport {
  const reader = port.readable!.getReader();
  const writer = port.writable!.getWriter();
  let open = true;
  let waiting = 0;
  const shut = async () => {
    await reader.cancel().catch(() => {});
    reader.releaseLock();
    await writer.abort().catch(() => {});
    writer.releaseLock();
    await port.close().catch(() => {});
  };
  const transport: Transport = {
    send(bytes) {
      // What waits too long is let go: every request is repeated.
      if (!open || waiting + bytes.length > MOST_WAITING_BYTES) return;
      waiting += bytes.length;
      writer.write(bytes).then(
        () => {
          waiting -= bytes.length;
        },
        () => end(),
      );
    },
    close() {
      if (!open) return;
      open = false;
      void shut();
    },
    onBytes: () => {},
    onClosed: () => {},
  };
  const end = () => {
    if (!open) return;
    open = false;
    void shut();
    transport.onClosed();
  };
  void (async () => {
    try {
      for (;;) {
        const { value, done } = await reader.read();
        if (done) break;
        if (open && value) transport.onBytes(value);
      }
    } catch {
      // Pulled out: the port is gone.
    }
    end();
  })();
  return transport;
}

/** A board on a serial port of this machine. A board that restarts may leave the machine and come back. */
export class SerialBoardPort implements BoardPort {
  readonly kind = 'serial';
  onAppear: () => void = () => {};
  private readonly appeared = (e: Event) => {
    if (e.target instanceof EventTarget && this.isOurs(e.target as unknown as SerialLike)) {
      this.port = e.target as unknown as SerialLike;
      this.onAppear();
    }
  };

  constructor(
    private readonly serials: SerialsLike,
    private port: SerialLike,
    readonly baud: number,
  ) {
    serials.addEventListener('connect', this.appeared);
  }

  get name(): string {
    return `USB, ${this.baud} baud`;
  }

  /** No longer used. */
  forget(): void {
    this.serials.removeEventListener('connect', this.appeared);
  }

  private isOurs(other: SerialLike): boolean {
    if (other === this.port) return true;
    if (typeof other.getInfo !== 'function') return false;
    const [a, b] = [other.getInfo(), this.port.getInfo()];
    return a.usbVendorId === b.usbVendorId && a.usbProductId === b.usbProductId;
  }

  async open(): Promise<Transport> {
    try {
      await this.port.open({ baudRate: this.baud, bufferSize: BUFFER_BYTES });
    } catch (error) {
      const name = (error as { name?: string }).name;
      if (name === 'InvalidStateError')
        throw new Error('The port is open already in this page. Reload the page and connect again.');
      throw new Error(
        'The port cannot be opened: another program has it, or the board is gone. Close the other program, plug the board in again and connect.',
      );
    }
    return serialTransport(this.port);
  }

  async presence() {
    const now = (await this.serials.getPorts()).find((p) => this.isOurs(p));
    if (!now) return 'away' as const;
    this.port = now;
    return 'there' as const;
  }

  async settle(): Promise<void> {}
}
