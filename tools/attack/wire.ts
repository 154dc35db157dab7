import { flashWith } from '#bench/flashImage.ts';
import { fellF7Model } from '#core/board/boards.ts';
import type { Random } from '#core/math/random.ts';
import { isActing } from '#core/wire/acts.ts';
import { encodeFrame, FrameReader } from '#core/wire/frames.ts';
import { fromBoardSchema, requestKinds } from '#core/wire/messages.ts';
import { BoardLink } from '#firmware/boardLink.ts';
import { Pfad } from '#firmware/pfad.ts';
import { Readings } from '#firmware/readings.ts';
import { LinkClient } from '#link/client.ts';
import type { Transport } from '#link/transport.ts';
import { type Attack, answers, mutated, oneOf, whole } from './attack.ts';

/** Requests as they should be, to be bent. */
function goodRequests(pfad: Pfad): Record<string, unknown>[] {
  const { key, after } = pfad.acts;
  const bodies: Record<string, Record<string, unknown>> = {
    hello: { link: 1 },
    catalogue: { from: 0 },
    values: { from: 64 },
    'write-begin': { session: 3, base: pfad.fingerprint },
    'write-put': { session: 3, part: 0, items: [['return.height', 90]] },
    'write-commit': { session: 3, count: 1, sum: '00000000' },
    'write-status': { session: 3 },
    subscribe: { group: 'status', hz: 10 },
    stream: { source: 'gyro', hz: 100 },
    'bench-allow': { propellersOff: false },
    'bench-move': { output: 1, run: after },
    'procedure-start': { run: after, kind: 'learn-stick', with: { stick: 'roll' } },
    'procedure-state': { run: 1 },
    'procedure-cancel': { run: 1 },
    decisions: { from: 0 },
    'log-read': { flight: 1, from: 0, count: 100 },
    'loader-begin': {
      plan: { product: 'Pfad', target: 'fell-f7', version: '3.1', size: 9, crc: 1 },
      wipe: true,
    },
    'loader-block': { at: 0, bytes: new Uint8Array(8), crc: 0 },
  };
  return requestKinds.map((t) => ({
    t,
    id: 1,
    ...bodies[t],
    ...(isActing(t) ? { act: [key, after + 1] } : {}),
  }));
}

/** A frame: right, bent, damaged on the way, cut, or noise. */
function hostileFrame(random: Random, good: readonly Record<string, unknown>[]): Uint8Array {
  const how = whole(random, 6);
  if (how === 0) return Uint8Array.from({ length: whole(random, 60) }, () => whole(random, 256));
  const message = how < 4 ? mutated(random, oneOf(random, good)) : oneOf(random, good);
  let frame: Uint8Array;
  try {
    frame = encodeFrame(message);
  } catch {
    // Longer than a frame may be, or nothing that CBOR has.
    return new Uint8Array(20_000).fill(1 + whole(random, 255));
  }
  if (how === 4) frame[whole(random, frame.length)]! ^= 1 << whole(random, 8);
  if (how === 5) return frame.slice(0, whole(random, frame.length));
  return frame;
}

/** At the board: nothing is thrown, nothing moves, and no setting leaves its bounds. */
const atBoard: Attack = {
  name: 'frames at the board',
  cases: 1_000_000,
  begin() {
    const pfad = new Pfad(fellF7Model, flashWith({}), 'A-1', 'power on');
    const readings = new Readings();
    const link = new BoardLink(pfad, readings, () => {});
    let n = 0;
    let good = goodRequests(pfad);
    return (random) =>
      answers(() => {
        if (n++ % 50 === 0) {
          good = goodRequests(pfad);
          pfad.step(readings);
          link.pump();
        }
        link.reader.push(hostileFrame(random, good));
        if (pfad.controller.bench.output !== 0 && !pfad.controller.bench.allowed)
          return 'an output moves without leave';
        if (n % 1000 === 0 && pfad.catalogue.check(pfad.values).length > 0)
          return 'a setting is out of its bounds';
        return null;
      });
  },
};

/** At the application: nothing is thrown, and no answer that is none is taken. */
const atApplication: Attack = {
  name: 'frames at the application',
  cases: 1_000_000,
  begin() {
    const transport: Transport = { send: () => {}, close: () => {}, onBytes: () => {}, onClosed: () => {} };
    const client = new LinkClient(transport);
    const good = [
      { t: 'ok', id: 1, a: { board: 'x', settings: 3, total: 3, items: [['a', 1]] } },
      { t: 'no', id: 2, code: 'armed', why: 'The craft is armed.' },
      { t: 'tm', g: 'attitude', n: 1, at: 1, v: [0, 0, 0, 0, 0, 0] },
      { t: 'tm', g: 'status', n: 1, at: 1, v: { mode: 'manual', armed: false, blockers: [] } },
      { t: 'st', s: 'gyro', n: 1, at: 1, dt: 0.001, v: new Uint8Array(24) },
    ];
    let bad = '';
    client.onTelemetry = (group, value) => {
      if (group === 'attitude' && !Object.values(value as object).every((v) => typeof v === 'number'))
        bad = 'telemetry of a wrong kind was taken';
    };
    const reader = new FrameReader((m) => {
      if (!fromBoardSchema.safeParse) bad = String(m);
    });
    return (random) =>
      answers(() => {
        const frame = hostileFrame(random, good);
        transport.onBytes(frame);
        reader.push(frame);
        return bad || null;
      });
  },
};

/** Every frame that was ever sent comes again, in any order: nothing that is old does anything. */
const replayed: Attack = {
  name: 'late and repeated commands',
  cases: 200_000,
  begin() {
    const readings = new Readings();
    const pfad = new Pfad(fellF7Model, flashWith({}), 'A-1', 'power on');
    const link = new BoardLink(pfad, readings, () => {});
    const old: Uint8Array[] = [];
    let n = 0;
    const state = () => {
      const { bench } = pfad.controller;
      return `${bench.output} ${bench.allowed} ${pfad.fingerprint} ${link.restartWanted} ${pfad.storing}`;
    };
    return (random) =>
      answers(() => {
        if (n++ % 3 === 0) {
          // A command in its order.
          const [message] = [
            oneOf(
              random,
              goodRequests(pfad).filter((m) => isActing(String(m.t))),
            ),
          ];
          const frame = encodeFrame(
            message.t === 'bench-allow' ? { ...message, propellersOff: random.uniform() < 0.7 } : message,
          );
          old.push(frame);
          if (old.length > 3000) old.splice(whole(random, old.length), 1);
          link.reader.push(frame);
          link.restartWanted = false;
          link.loaderWanted = false;
          for (let k = 0; k < 20; k++) pfad.step(readings);
          return null;
        }
        const before = state();
        link.reader.push(oneOf(random, old));
        return state() === before ? null : `an old frame changed ${before} to ${state()}`;
      });
  },
};

export const wireAttacks = [atBoard, atApplication, replayed];
