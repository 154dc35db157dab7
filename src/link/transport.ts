/** A stream of bytes to a board, whatever carries it. */
export interface Transport {
  send(bytes: Uint8Array): void;
  close(): void;
  onBytes: (bytes: Uint8Array) => void;
  onClosed: () => void;
}

/** A link over a MessagePort, as to a board in a worker. A posted null is the cable coming out. */
export function portTransport(port: MessagePort): Transport {
  let open = true;
  const transport: Transport = {
    send(bytes) {
      if (open) port.postMessage(bytes);
    },
    close() {
      if (!open) return;
      open = false;
      port.postMessage(null);
      port.close();
    },
    onBytes: () => {},
    onClosed: () => {},
  };
  port.onmessage = (event: MessageEvent) => {
    if (event.data instanceof Uint8Array) transport.onBytes(event.data);
    else if (event.data === null && open) {
      open = false;
      port.close();
      transport.onClosed();
    }
  };
  return transport;
}
