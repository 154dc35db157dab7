import { WebSocketServer } from 'ws';
import { KarBoard } from './board.ts';

/** Runs Kar on a WebSocket of this machine: `npx tsx examples/kar/main.ts [port]`. */

const server = new WebSocketServer({
  host: '127.0.0.1',
  port: Number(process.argv[2] ?? 0),
  maxPayload: 32_768,
});
const OWN_PAGES = /^(https?:\/\/)?(localhost|127\.0\.0\.1|\[::1\])(:\d+)?$/;
let taken = false;

server.on('connection', (socket, request) => {
  const { origin } = request.headers;
  if (origin !== undefined && !OWN_PAGES.test(origin)) return socket.close(1008);
  if (taken) return socket.close(4001);
  taken = true;
  const board = new KarBoard(
    (bytes) => socket.readyState === socket.OPEN && socket.send(bytes),
    () => socket.close(1001),
  );
  socket.send('joined');
  socket.on('message', (data, isBinary) => isBinary && board.push(data as Buffer));
  socket.on('error', () => socket.terminate());
  socket.on('close', () => {
    board.stop();
    taken = false;
  });
});
server.on('listening', () => {
  const at = server.address();
  process.stderr.write(`Kar is on ws://127.0.0.1:${typeof at === 'object' ? at?.port : at}/\n`);
});
