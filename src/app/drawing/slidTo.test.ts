import { describe, expect, it } from 'vitest';
import { slidTo } from './slidTo.ts';

const by = (key: string, at: number, shiftKey = false) => slidTo({ key, shiftKey }, at, 99, 2);

describe('a slider along time', () => {
  it('goes by arrows, tenfold with Shift and by pages, to its ends and no farther', () => {
    expect([by('ArrowRight', 10), by('ArrowLeft', 10)]).toEqual([12, 8]);
    expect([by('ArrowRight', 10, true), by('ArrowLeft', 50, true)]).toEqual([30, 30]);
    expect([by('PageUp', 10), by('PageDown', 50)]).toEqual([30, 30]);
    expect([by('Home', 50), by('End', 50)]).toEqual([0, 99]);
    expect([by('ArrowLeft', 1), by('ArrowRight', 98), by('PageDown', 5)]).toEqual([0, 99, 0]);
  });

  it('leaves other keys to others', () => {
    for (const key of ['Tab', 'Enter', ' ', 'a', 'ArrowUp', 'constructor']) expect(by(key, 10)).toBeNull();
  });
});
