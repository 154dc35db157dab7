import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { encodeFrame, FrameReader } from '#core/wire/frames.ts';
import { LinkClient } from './client.ts';
import { portTransport, type Transport } from './transport.ts';

interface Sent {
  t: string;
  id: number;
}

/** A client whose other end is in the test's hands. */
function wire() {
  const sent: Sent[] = [];
  const reader = new FrameReader((m) => sent.push(m as Sent));
  const transport: Transport = {
    send: (b) => reader.push(b),
    close: () => {},
    onBytes: () => {},
    onClosed: () => {},
  };
  const client = new LinkClient(transport);
  const say = (message: unknown) => transport.onBytes(encodeFrame(message));
  return { client, transport, sent, say };
}

beforeEach(() => {
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
});

describe('requests', () => {
  it('are answered by their id, in any order', async () => {
    const { client, sent, say } = wire();
    const a = client.request('subscribe', { group: 'power', hz: 4 });
    const b = client.request('subscribe', { group: 'status', hz: 10 });
    say({ t: 'ok', id: sent[1]!.id, a: { hz: 10 } });
    say({ t: 'ok', id: sent[0]!.id, a: { hz: 4 } });
    expect([await a, await b]).toEqual([{ hz: 4 }, { hz: 10 }]);
  });

  it('are repeated under the same id, and given up with a sentence', async () => {
    const { client, sent } = wire();
    const asked = client.request('describe', {}, 3, 100);
    const failed = expect(asked).rejects.toThrow('The board does not answer');
    await vi.advanceTimersByTimeAsync(1000);
    await failed;
    expect(sent).toHaveLength(3);
    expect(new Set(sent.map((s) => s.id)).size).toBe(1);
  });

  it('are not repeated once answered, and a late second answer is ignored', async () => {
    const { client, sent, say } = wire();
    const asked = client.request('subscribe', { group: 'power', hz: 4 });
    say({ t: 'ok', id: sent[0]!.id, a: { hz: 4 } });
    await asked;
    await vi.advanceTimersByTimeAsync(5000);
    expect(sent).toHaveLength(1);
    expect(() => say({ t: 'ok', id: sent[0]!.id, a: { hz: 9 } })).not.toThrow();
  });

  it('are refused with the board’s own sentence', async () => {
    const { client, sent, say } = wire();
    const asked = client.request('restart', {});
    say({ t: 'no', id: sent[0]!.id, code: 'armed', why: 'The craft is armed.' });
    await expect(asked).rejects.toMatchObject({ fault: 'refused', message: 'The craft is armed.' });
  });

  it('are not taken as done when the answer makes no sense', async () => {
    const { client, sent, say } = wire();
    const asked = client.request('write-commit', { session: 1, count: 0, sum: '' });
    say({ t: 'ok', id: sent[0]!.id, a: { state: 'wonderful' } });
    await expect(asked).rejects.toMatchObject({ fault: 'garbled' });
  });

  it('all end when the link closes, and none begins after', async () => {
    const { client, transport } = wire();
    const asked = client.request('describe', {});
    transport.onClosed();
    await expect(asked).rejects.toMatchObject({ fault: 'closed' });
    await expect(client.request('describe', {})).rejects.toMatchObject({ fault: 'closed' });
    expect(client.isOpen).toBe(false);
  });
});

describe('telemetry', () => {
  it('is given on when it has its shape, and dropped when not', () => {
    const { client, say } = wire();
    const got: unknown[] = [];
    client.onTelemetry = (group, value) => got.push([group, value]);
    say({ t: 'tm', g: 'power', n: 1, at: 1, v: [16, 2, 300, 5] });
    say({ t: 'tm', g: 'power', n: 2, at: 2, v: [16, 2] });
    say({ t: 'tm', g: 'weather', n: 3, at: 3, v: [1] });
    say('hello');
    say({ t: 'tm', g: 'status', n: 4, at: 4, v: { mode: 'dance' } });
    expect(got).toEqual([
      ['power', { supplyV: 16, currentA: 2, usedMah: 300, servoRailV: 5 }],
      // What a board tells of its own is nothing to judge.
      ['weather', [1]],
    ]);
  });
});

describe('the overlay over the link', () => {
  it('comes cell by cell with what it blinks, and half of it is none', () => {
    const { client, say } = wire();
    const got: unknown[] = [];
    client.onTelemetry = (_, value) => got.push(value);
    const cells = Uint16Array.of(0x41, 0x20, 0x142, 0xfe);
    const bytes = new Uint8Array(cells.buffer);
    say({ t: 'tm', g: 'overlay', n: 1, at: 1, v: { columns: 2, layout: 'b', cells: bytes } });
    say({ t: 'tm', g: 'overlay', n: 2, at: 2, v: { columns: 2, layout: 'b' } });
    say({ t: 'tm', g: 'overlay', n: 3, at: 3, v: { columns: -1, layout: 'b', cells: bytes } });
    say({ t: 'tm', g: 'overlay', n: 4, at: 4, v: { columns: 2, layout: 'b', cells: 'AB' } });
    expect(got).toEqual([{ columns: 2, layout: 'b', cells }]);
  });
});

describe('a message port as a cable', () => {
  it('carries bytes both ways and tells of being pulled', async () => {
    vi.useRealTimers();
    const { port1, port2 } = new MessageChannel();
    const a = portTransport(port1 as unknown as MessagePort);
    const b = portTransport(port2 as unknown as MessagePort);
    const got: number[] = [];
    b.onBytes = (bytes) => got.push(...bytes);
    let pulled = 0;
    b.onClosed = () => pulled++;
    a.send(Uint8Array.of(1, 2, 3));
    await new Promise((r) => setTimeout(r, 30));
    a.close();
    a.close();
    await new Promise((r) => setTimeout(r, 30));
    expect(got).toEqual([1, 2, 3]);
    expect(pulled).toBe(1);
  });
});
