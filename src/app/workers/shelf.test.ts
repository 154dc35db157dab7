import 'fake-indexeddb/auto';
import { describe, expect, it } from 'vitest';
import { BenchBoard, shelfFor } from '#bench/benchBoard.ts';
import { boards } from '#core/board/boards.ts';
import { demoValues } from '../../testing/demoCraft.ts';
import { rows } from '../store/database.ts';
import { keepBoard, loadBoard, onBench, putOnBench } from './shelf.ts';

const shelf = shelfFor('fell-f7');
const CRAFT = 'demo';
const own = shelf[0]!;
const take = () => loadBoard(BenchBoard, CRAFT, own, () => demoValues('turnstone'));

describe('the boards of the bench', () => {
  it('come as they are described: with firmware and settings, or empty', async () => {
    for (const from of shelf) {
      const board = await loadBoard(BenchBoard, CRAFT, from, () => ({}));
      expect(board.model.target).toBe(from.target);
      expect(board.image.startable).toBe(from.firmware !== null);
    }
  });

  it('have one of their own for every make, and a Fell F7 for a make that nobody has', () => {
    for (const { target } of boards) {
      const [first, ...rest] = shelfFor(target);
      expect(first!.target).toBe(target);
      expect(rest.map((b) => b.serial)).not.toContain(first!.serial);
    }
    expect(shelfFor('granite-x1')[0]!.target).toBe('fell-f7');
  });

  it('hold what was on them the last time, half a firmware as well', async () => {
    const board = await take();
    const before = board.changes;
    board.image.begin({ ...board.image.plan!, version: '3.2-rc1', crc: 1 });
    board.image.erase(2000);
    expect(board.changes).toBeGreaterThan(before);
    await keepBoard(CRAFT, board.serial, board.keep());
    const again = await loadBoard(BenchBoard, CRAFT, own, () => ({}));
    expect(again.image.startable).toBe(false);
    expect(again.image.plan?.version).toBe('3.2-rc1');
    expect(again.image.toErase).toBe(board.image.toErase);
    expect(again.flash.pages).toEqual(board.flash.pages);
  });

  it('come new where what was kept is damaged', async () => {
    await rows.write([{ in: 'bench', put: { pages: [1, 2] }, key: `${CRAFT}/${own.serial}` }]);
    expect((await take()).image.startable).toBe(true);
  });

  it('are of one craft each: another has others, with other numbers', async () => {
    const board = await take();
    board.flash.write(0, 0, 7);
    await keepBoard(CRAFT, own.serial, board.keep());
    const other = await loadBoard(BenchBoard, 'another', own, () => demoValues('turnstone'));
    expect(other.flash.pages[0][0]).not.toBe(7);
    const numbers = ['a', 'b', null].map((craft) => shelfFor('fell-f7', craft)[0]!.serial);
    expect(new Set(numbers).size).toBe(3);
    for (const n of numbers) expect(n).toMatch(/^FF7-\d{4}-\d{2}$/);
  });

  it('lie where they were put', async () => {
    expect(await onBench(CRAFT)).toBeNull();
    await putOnBench(CRAFT, shelf[3]!.serial);
    expect(await onBench(CRAFT)).toBe(shelf[3]!.serial);
  });
});
