import { describe, expect, it } from 'vitest';
import { MemoryRows } from '../../testing/memoryRows.ts';
import { fileLogId, type KeptLog, LogShelf, logId } from './LogShelf.ts';

const log = (change: Partial<KeptLog> = {}): KeptLog => ({
  ...{ id: logId('a', 'FF7-1', 1, 12.34), serial: 'FF7-1', flight: 1, startedS: 12.34, file: '' },
  ...{ total: 10, upTo: 10, whole: true, readAt: '2026-11-27T10:00:00.000Z' },
  ...change,
});
const bytes = Uint8Array.from({ length: 10 }, (_, k) => k);

describe('the shelf of logs', () => {
  it('knows a flight by craft, board, number and when it began', () => {
    const id = logId('a', 'FF7-1', 1, 12.34);
    expect(logId('a', 'FF7-1', 1, 12.34001)).toBe(id);
    for (const other of [
      logId('b', 'FF7-1', 1, 12.34),
      logId('a', 'FF7-2', 1, 12.34),
      logId('a', 'FF7-1', 2, 12.34),
      logId('a', 'FF7-1', 1, 99),
    ])
      expect(other).not.toBe(id);
    expect(fileLogId('a', 'x.gpx', 'one')).not.toBe(fileLogId('a', 'x.gpx', 'two'));
  });

  it('keeps as much of a flight as came, and what comes later over it', async () => {
    const shelf = new LogShelf(new MemoryRows());
    await shelf.put(log({ upTo: 4 }), bytes);
    expect(await shelf.bytes(log().id)).toEqual(bytes.slice(0, 4));
    await shelf.put(log(), bytes);
    expect(await shelf.bytes(log().id)).toEqual(bytes);
    expect(await shelf.list('a')).toEqual([log()]);
  });

  it('lists those of one craft, the newest first, and leaves out what is damaged', async () => {
    const rows = new MemoryRows();
    const shelf = new LogShelf(rows);
    await shelf.put(log(), bytes);
    await shelf.put(
      log({ id: logId('a', 'FF7-1', 2, 99), flight: 2, readAt: '2026-11-28T10:00:00.000Z' }),
      bytes,
    );
    await shelf.put(log({ id: logId('a', 'FF7-1', 3, 200), flight: 3 }), bytes);
    // One whose name begins alike is another craft.
    await shelf.put(log({ id: logId('ab', 'FF7-1', 1, 1) }), bytes);
    await rows.write([{ in: 'logs', put: { id: 'a/damaged', flight: 'seven' } }]);
    expect((await shelf.list('a')).map((l) => l.flight)).toEqual([2, 3, 1]);
    await shelf.drop(log().id);
    expect((await shelf.list('a')).map((l) => l.flight)).toEqual([2, 3]);
    expect(await shelf.bytes(log().id)).toBeNull();
  });

  it('refuses as the browser does, and what was kept before stands', async () => {
    const rows = new MemoryRows();
    const shelf = new LogShelf(rows);
    await shelf.put(log({ upTo: 3 }), bytes);
    rows.refuses = true;
    await expect(shelf.put(log(), bytes)).rejects.toThrow('disk of this browser is full');
    rows.refuses = false;
    expect((await shelf.list('a'))[0]!.upTo).toBe(3);
    expect(await shelf.bytes('a/none')).toBeNull();
  });
});
