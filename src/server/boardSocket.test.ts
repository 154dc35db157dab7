import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { WebSocket } from 'ws';
import { demoCraft, demoValues, torvholm } from '../testing/demoCraft.ts';
import { BoardHost, handsSchema } from './boardHost.ts';
import { serveBoard } from './boardSocket.ts';

let server: Server;
let host: BoardHost;
let port = 0;

beforeAll(async () => {
  const craft = demoCraft('turnstone');
  host = new BoardHost({
    airframe: craft.airframe,
    truth: craft.bench!,
    target: craft.board.target,
    values: demoValues('turnstone'),
    site: torvholm,
  });
  server = createServer();
  serveBoard(server, host, '/board');
  server.listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  port = (server.address() as AddressInfo).port;
});
afterAll(() => {
  host.stop();
  server.closeAllConnections();
  server.close();
});

/** How a socket fared: what it was first told, or the code it was closed with, or the refusal. */
const tried = (path: string, headers: Record<string, string> = {}) => {
  const socket = new WebSocket(`ws://127.0.0.1:${port}${path}`, { headers });
  const fared = new Promise<string>((resolve) => {
    socket.on('message', (data) => resolve(String(data)));
    socket.on('close', (code) => resolve(`closed ${code}`));
    socket.on('unexpected-response', (_, response) => resolve(`refused ${response.statusCode}`));
    socket.on('error', () => resolve('error'));
  });
  return { socket, fared };
};

const closed = (socket: WebSocket) => new Promise((resolve) => socket.on('close', resolve));

describe('a board behind a socket', () => {
  it('is joined by a page of this machine, by one at a time', async () => {
    const one = tried('/board', { origin: `http://127.0.0.1:${port}` });
    expect(await one.fared).toBe('joined');
    const two = tried('/board');
    expect(await two.fared).toBe('closed 4001');
    const gone = closed(one.socket);
    one.socket.close();
    await gone;
    await new Promise((resolve) => setTimeout(resolve, 50));
    const three = tried('/board');
    expect(await three.fared).toBe('joined');
    three.socket.terminate();
  });

  it('is refused to pages from elsewhere, under other names and at other places', async () => {
    expect(await tried('/board', { origin: 'https://example.org' }).fared).toMatch(/refused 403|error/);
    expect(await tried('/board', { origin: 'null' }).fared).toMatch(/refused 403|error/);
    expect(await tried('/board', { host: 'evil.example:80' }).fared).toMatch(/refused 403|error/);
    expect(await tried('/').fared).toMatch(/refused 404|error/);
  });

  it('lives on under noise, text and frames that are too large', async () => {
    await new Promise((resolve) => setTimeout(resolve, 100));
    const noisy = tried('/board');
    expect(await noisy.fared).toBe('joined');
    noisy.socket.send('text is no frame');
    noisy.socket.send(Buffer.alloc(3000, 7));
    const gone = closed(noisy.socket);
    noisy.socket.send(Buffer.alloc(40_000));
    await gone;
    await new Promise((resolve) => setTimeout(resolve, 50));
    const again = tried('/board');
    expect(await again.fared).toBe('joined');
    // Its power goes: the cable's other end is told.
    const off = closed(again.socket);
    host.hands({ usb: false });
    await off;
    expect(await tried('/board').fared).toBe('closed 1013');
    host.hands({ usb: true });
    const back = tried('/board');
    expect(await back.fared).toBe('joined');
    back.socket.terminate();
  });

  it('takes from hands only what hands can do', () => {
    expect(handsSchema.safeParse({ battery: true, tilt: { rollDeg: 20, pitchDeg: 0 } }).success).toBe(true);
    for (const bad of [
      { tilt: { rollDeg: 500, pitchDeg: 0 } },
      { battery: 1 },
      { constructor: 1 },
      { stickRoll: Number.NaN },
    ])
      expect(handsSchema.safeParse(bad).success).toBe(false);
  });
});
