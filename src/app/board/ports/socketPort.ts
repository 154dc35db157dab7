import { type BoardPort, MOST_WAITING_BYTES } from '#link/port.ts';
import type { Transport } from '#link/transport.ts';

const OPENS_WITHIN_MS = 4000;
/** The other end says that the cable is in, or closes since somebody else has it (docs/link.md). */
const JOINED = 'joined';
const BUSY = 4001;

/** An address as it is typed: with or without ws://. Null for one that is none, or not on this machine. */
export function socketAddress(text: string): string | null {
  const typed = text.trim();
  const whole = /^wss?:\/\//i.test(typed) ? typed : `ws://${typed}`;
  if (!URL.canParse(whole)) return null;
  const url = new URL(whole);
  return ['127.0.0.1', 'localhost', '[::1]'].includes(url.hostname) ? url.href : null;
}

/** A board behind a WebSocket of this machine: a shared bench, or a board process. */
export class SocketBoardPort implements BoardPort {
  readonly kind = 'socket';
  onAppear: () => void = () => {};

  constructor(readonly address: string) {}

  get name(): string {
    return this.address;
  }

  open(): Promise<Transport> {
    return new Promise((resolve, reject) => {
      const socket = new WebSocket(this.address);
      socket.binaryType = 'arraybuffer';
      let open = false;
      const none = `No board answers at ${this.address}. Start one there with "wanderweg board --socket PORT", and connect again.`;
      const late = setTimeout(() => socket.close(), OPENS_WITHIN_MS);
      const transport: Transport = {
        send(bytes) {
          // What waits too long is let go: every request is repeated.
          if (open && socket.readyState === WebSocket.OPEN && socket.bufferedAmount < MOST_WAITING_BYTES)
            socket.send(bytes as Uint8Array<ArrayBuffer>);
        },
        close() {
          open = false;
          socket.close();
        },
        onBytes: () => {},
        onClosed: () => {},
      };
      socket.onmessage = (e) => {
        // A socket that is open leads to a board only once its cable is in.
        if (!open && e.data === JOINED) {
          clearTimeout(late);
          open = true;
          resolve(transport);
        } else if (open && e.data instanceof ArrayBuffer) transport.onBytes(new Uint8Array(e.data));
      };
      socket.onclose = (e) => {
        clearTimeout(late);
        reject(
          new Error(
            e.code === BUSY ? `Somebody else has the board at ${this.address}. It has one cable.` : none,
          ),
        );
        if (!open) return;
        open = false;
        transport.onClosed();
      };
    });
  }

  async presence() {
    // Nobody tells; it is tried.
    return 'there' as const;
  }

  async settle(): Promise<void> {}
}
