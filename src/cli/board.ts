import { createServer } from 'node:http';
import { createInterface } from 'node:readline';
import { truthFromSettings } from '#core/formats/benchTruth.ts';
import type { CraftFile } from '#core/formats/craftFile.ts';
import { parsed } from '#core/parsed.ts';
import type { Values } from '#core/settings/catalogue.ts';
import type { Site } from '#core/site/site.ts';
import { BoardHost, type CableEnd, type Hands, handsSchema, type OnBench } from '#server/boardHost.ts';
import { serveBoard } from '#server/boardSocket.ts';
import { BadInput } from './input.ts';

/** The stand-in board as a process of its own: its cable is standard input and output, or a WebSocket. */

const LONGEST_LINE = 10_000;

export interface BoardOptions {
  readonly socket?: string | undefined;
  readonly hands?: string | undefined;
  /** Per cent of the chunks that are lost, and their longest delay in ms. */
  readonly loss?: string | undefined;
  readonly delay?: string | undefined;
}

export function onBench(craft: CraftFile, values: Values, site: Pick<Site, 'home' | 'year'>): OnBench {
  const truth = craft.bench ?? truthFromSettings(craft.airframe, values);
  return { airframe: craft.airframe, truth, target: craft.board.target, values, site };
}

export function parseHands(text: string): Hands {
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch {
    throw new BadInput(
      'Hands are told as JSON, such as {"battery": true, "outdoors": true}. Nothing was done.',
    );
  }
  const result = parsed(handsSchema, raw);
  if (!result.success) {
    const issue = result.error.issues[0]!;
    throw new BadInput(
      `Hands cannot do that: ${issue.path.join('.') || 'the whole'}: ${issue.message}. Nothing was done.`,
    );
  }
  return result.data;
}

function numberIn(name: string, text: string | undefined, most: number): number {
  const value = text === undefined ? 0 : Number(text);
  if (!Number.isFinite(value) || value < 0 || value > most)
    throw new BadInput(`--${name} goes from 0 to ${most}; "${text}" does not. Nothing was started.`);
  return value;
}

/** Runs a board until it is stopped, or its standard input ends. @returns the exit code */
export async function runBoard(craft: OnBench, options: BoardOptions): Promise<number> {
  const cable = {
    loss: numberIn('loss', options.loss, 90) / 100,
    delayMs: numberIn('delay', options.delay, 2000),
  };
  const hands = options.hands === undefined ? {} : parseHands(options.hands);
  const port = options.socket === undefined ? null : numberIn('socket', options.socket, 65_535);
  const host = new BoardHost(craft, hands, cable);
  const tell = (text: string) => process.stderr.write(`${text}\n`);
  return await new Promise<number>((resolve) => {
    const stop = (code: number) => {
      host.stop();
      resolve(code);
      // Timers and sockets of the board go with it.
      setImmediate(() => process.exit(code));
    };
    for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, () => stop(0));
    if (port === null) {
      const join = () => {
        const end: CableEnd = {
          bytes: (chunk) => process.stdout.write(chunk),
          // The board restarts; the cable stays where it is.
          gone: () => setTimeout(join, 50),
        };
        if (!host.join(end)) setTimeout(join, 50);
      };
      join();
      process.stdin.on('data', (chunk: Buffer) => host.fromCable(new Uint8Array(chunk)));
      process.stdin.on('end', () => stop(0));
      process.stdout.on('error', () => stop(0));
      tell(`${host.name} is on standard input and output.`);
      return;
    }
    const server = createServer((_, response) => {
      response.writeHead(426, { 'Content-Type': 'text/plain' });
      response.end('Here is a board; it speaks over a WebSocket.\n');
    });
    serveBoard(server, host, '/');
    server.on('error', () => {
      tell(`Port ${port} cannot be opened.`);
      stop(1);
    });
    server.listen(port, '127.0.0.1', () => {
      const at = server.address();
      tell(`${host.name} is on ws://127.0.0.1:${typeof at === 'object' ? at?.port : port}/`);
    });
    // A line of JSON is what hands do.
    createInterface({ input: process.stdin }).on('line', (line) => {
      if (line.trim() === '' || line.length > LONGEST_LINE) return;
      try {
        host.hands(parseHands(line));
      } catch (error) {
        tell((error as Error).message);
      }
    });
  });
}
