import type { IncomingMessage, Server } from 'node:http';
import type { Duplex } from 'node:stream';
import { WebSocketServer } from 'ws';
import type { BoardHost, CableEnd } from './boardHost.ts';
import { isOwnHost, isOwnOrigin } from './ownHosts.ts';

/** Somebody else has the cable. */
const BUSY = 4001;
/** Said once the cable is in. */
const JOINED = 'joined';
/** No frame of the link is longer. */
const MOST_BYTES = 32_768;
/** What a slow reader leaves waiting is let go beyond this; every request is repeated. */
const MOST_WAITING_BYTES = 262_144;

/** Serves a board's cable as a WebSocket of this machine. @param path where, such as "/board" */
export function serveBoard(server: Server, host: BoardHost, path: string): void {
  const sockets = new WebSocketServer({ noServer: true, maxPayload: MOST_BYTES, perMessageDeflate: false });
  server.on('upgrade', (request: IncomingMessage, socket: Duplex, head: Buffer) => {
    const refuse = (status: string) => {
      socket.end(`HTTP/1.1 ${status}\r\nConnection: close\r\nContent-Length: 0\r\n\r\n`);
    };
    if (!isOwnHost(request.headers.host) || !isOwnOrigin(request.headers.origin))
      return refuse('403 Forbidden');
    if ((request.url ?? '').split('?')[0] !== path) return refuse('404 Not Found');
    sockets.handleUpgrade(request, socket, head, (ws) => {
      const end: CableEnd = {
        bytes: (chunk) => {
          if (ws.readyState === ws.OPEN && ws.bufferedAmount < MOST_WAITING_BYTES) ws.send(chunk);
        },
        gone: () => ws.close(1001),
      };
      if (!host.join(end)) return ws.close(host.isTaken ? BUSY : 1013);
      ws.send(JOINED);
      ws.on('message', (data, isBinary) => {
        if (isBinary) host.fromCable(new Uint8Array(data as Buffer));
      });
      ws.on('close', () => host.leave(end));
      ws.on('error', () => ws.terminate());
    });
  });
}
