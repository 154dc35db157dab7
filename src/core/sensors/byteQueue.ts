/** Bytes on their way, first in first out, in a ring of fixed size. What does not fit is lost, as in a UART. */
export class ByteQueue {
  private readonly ring: Uint8Array;
  private head = 0;
  length = 0;

  constructor(capacity = 1024) {
    this.ring = new Uint8Array(capacity);
  }

  push(byte: number): void {
    if (this.length === this.ring.length) return;
    this.ring[(this.head + this.length) % this.ring.length] = byte;
    this.length++;
  }

  /** The oldest byte, or -1 when there is none. */
  shift(): number {
    if (this.length === 0) return -1;
    const byte = this.ring[this.head]!;
    this.head = this.head + 1 === this.ring.length ? 0 : this.head + 1;
    this.length--;
    return byte;
  }

  clear(): void {
    this.length = 0;
  }
}
