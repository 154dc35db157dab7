import fc from 'fast-check';
import { afterEach, describe, expect, it } from 'vitest';
import { encodeFrame, FrameReader } from '#core/wire/frames.ts';
import { canDo, greet, readBoard, writeEdits } from '#link/board.ts';
import { LinkClient } from '#link/client.ts';
import { lossyPair, noLosses } from '#link/lossyPair.ts';
import { KarBoard } from './board.ts';
import { frameOf, reader } from './frames.ts';

/** Kar was written from docs/link.md alone: what holds between the two holds for the page. */

let stop: () => void = () => {};
afterEach(() => stop());

function joined(losses = noLosses) {
  const [own, boards] = lossyPair(losses, 3);
  const board = new KarBoard(
    (bytes) => boards.send(bytes),
    () => boards.close(),
  );
  boards.onBytes = (bytes) => board.push(bytes);
  const client = new LinkClient(own);
  stop = () => {
    client.close();
    board.stop();
  };
  return client;
}

async function met(losses = noLosses) {
  const client = joined(losses);
  return { client, copy: await readBoard(client, await greet(client), () => {}) };
}

describe('the frames of Kar and of Wanderweg', () => {
  const message = fc.record({
    t: fc.string(),
    id: fc.nat(),
    v: fc.array(fc.oneof(fc.integer({ min: -3e9, max: 3e9 }), fc.string(), fc.boolean()), { maxLength: 200 }),
    bytes: fc.array(fc.constantFrom(0, 1, 255), { maxLength: 700 }),
  });

  it('are read by each other, whatever runs of zeros or of none are in them', () => {
    fc.assert(
      fc.property(message, (m) => {
        const read: unknown[] = [];
        new FrameReader((x) => read.push(x)).push(frameOf(m));
        reader((x) => read.push(x))(encodeFrame(m));
        expect(read).toEqual([m, m]);
      }),
      { numRuns: 400 },
    );
    // A run of exactly 254 bytes without a zero, and those beside it.
    for (const length of [253, 254, 255, 508, 509]) {
      const read: unknown[] = [];
      new FrameReader((x) => read.push(x)).push(frameOf('q'.repeat(length - 6)));
      reader((x) => read.push(x))(encodeFrame('q'.repeat(length - 6)));
      expect(read).toEqual(Array(2).fill('q'.repeat(length - 6)));
    }
  });
});

describe('a firmware that nobody knows', () => {
  it('is read whole: forty settings, its own units as they are, kinds that are not known as text', async () => {
    const { copy } = await met();
    expect(copy.identity).toMatchObject({ firmware: 'Kar', settings: 40 });
    expect(copy.catalogue.entries).toHaveLength(40);
    expect(copy.unreadable).toBe(0);
    expect(copy.catalogue.entry('home.up')).toMatchObject({ unit: 'fathom', type: 'number' });
    expect(copy.catalogue.entry('machine.curve')).toMatchObject({ type: 'other' });
    expect(copy.values['machine.curve']).toBe('[0,1,3,6,10]');
    expect(copy.catalogue.rules).toEqual([]);
    expect(copy.description.pads.map((p) => p.pad)).toEqual(['Q1', 'Q2', 'Q3']);
  });

  it('says what it can be asked for, and refuses the rest under a code that it shares with every board', async () => {
    const { client, copy } = await met();
    expect(canDo(copy.identity, 'restart')).toBe(true);
    expect(canDo(copy.identity, 'self-test')).toBe(false);
    await expect(client.request('self-test', {})).rejects.toMatchObject({ code: 'unknown-request' });
    await expect(client.request('subscribe', { group: 'power', hz: 1 })).rejects.toMatchObject({
      code: 'unknown-group',
    });
  });

  it('tells groups of its own beside the known ones', async () => {
    const { client } = await met();
    const told = new Map<string, unknown>();
    client.onTelemetry = (group, value) => told.set(group, value);
    for (const group of ['attitude', 'status', 'mood']) await client.request('subscribe', { group, hz: 50 });
    await expect.poll(() => told.size).toBe(3);
    expect(told.get('mood')).toMatchObject({ word: 'calm' });
    expect(told.get('status')).toMatchObject({ mode: 'flat', lost: 'humming' });
    expect(told.get('attitude')).toMatchObject({ yawRate: 0.2 });
  });

  it('takes edits all together or not at all, also over a cable that loses a tenth', async () => {
    const { client, copy } = await met({ drop: 0.1, corrupt: 0.02, duplicate: 0.05, delayMs: 5 });
    const wrong = { 'home.up': 77, 'home.ring': 99 };
    expect(await writeEdits(client, copy.identity.fingerprint, wrong)).toMatchObject({
      kind: 'refused',
      refusals: [{ key: 'home.ring', code: 'out-of-range' }],
    });
    expect((await greet(client)).fingerprint).toBe(copy.identity.fingerprint);
    const right = { 'home.up': 77, 'home.ring': 9, 'home.then': 'sit', 'left.turned': true };
    expect(await writeEdits(client, copy.identity.fingerprint, right)).toMatchObject({
      kind: 'written',
      values: right,
    });
  });

  it('ends the link when it restarts', async () => {
    const { client } = await met();
    const closed = new Promise<void>((resolve) => {
      client.onClosed = resolve;
    });
    await client.request('restart', {});
    await closed;
  });
});
