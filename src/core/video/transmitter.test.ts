import { describe, expect, it } from 'vitest';
import { turnstone } from '../airframe/library.ts';
import { fellF7Model } from '../board/boards.ts';
import {
  APART_MHZ,
  feedSeen,
  readVideo,
  roomFor,
  videoBandIds,
  videoBands,
  videoMhz,
  writeVideo,
} from './transmitter.ts';

describe('bands of video', () => {
  it('are tables of eight within 5.8 GHz, as the trade shares them', () => {
    for (const id of videoBandIds) {
      expect(videoBands[id].mhz).toHaveLength(8);
      expect(new Set(videoBands[id].mhz).size).toBe(8);
      for (const mhz of videoBands[id].mhz) expect(mhz > 5600 && mhz < 6000).toBe(true);
    }
    // Band F goes up by 20 MHz, R by 37, as their makers meant them.
    expect(videoBands.f.mhz.map((m, i) => m - 20 * i)).toEqual(Array(8).fill(5740));
    for (let i = 1; i < 8; i++) expect(videoMhz('r', i + 1) - videoMhz('r', i)).toBeCloseTo(37, 0);
  });

  it('leave room to others, or none', () => {
    expect(roomFor('r', [])).toEqual([1, 2, 3, 4, 5, 6, 7, 8]);
    const others = [5732, 5843];
    for (const channel of roomFor('r', others))
      for (const o of others) expect(Math.abs(videoMhz('r', channel) - o)).toBeGreaterThanOrEqual(APART_MHZ);
    expect(roomFor('f', [5740, 5780, 5820, 5860])).toEqual([]);
  });
});

describe('what a video transmitter lives on', () => {
  const of = (feed: 'battery' | 'rail', leastV: number, mostV: number) =>
    feedSeen(feed, turnstone, fellF7Model, { leastV, mostV });

  it('is the battery from full to empty, or the rail; too much burns it, too little blinds it', () => {
    // Four cells.
    expect(of('battery', 7, 26)).toEqual({ leastV: 12.8, mostV: 16.8, why: null });
    expect(of('battery', 7, 13).why).toContain('it burns with the first power');
    expect(of('battery', 14, 26).why).toContain('nearly empty');
    expect(of('rail', 4.5, 5.5).why).toBeNull();
    expect(of('rail', 4.5, 4.8).why).toContain('The rail gives 5.0 V');
    expect(of('rail', 7, 26).why).toContain('wants 7.0 V');
  });
});

describe('what is said to it', () => {
  it('is six bytes, and what is not is none', () => {
    const frame = writeVideo(5843, 200);
    expect([...frame]).toEqual([0xa7, 0x16, 0xd3, 0x00, 0xc8, (0xa7 + 0x16 + 0xd3 + 0xc8) & 0xff]);
    expect(readVideo(frame)).toEqual({ mhz: 5843, mw: 200 });
    for (let i = 0; i < 6; i++) {
      const bad = frame.slice();
      bad[i]! ^= 0x10;
      expect(readVideo(bad)).toBeNull();
    }
    expect(readVideo(frame.slice(1))).toBeNull();
  });
});
