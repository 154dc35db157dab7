import { describe, expect, it } from 'vitest';
import { qualityFrom } from './linkQuality.ts';

const heard = (quality: number, change: Readonly<Record<number, number>> = {}) => ({
  quality,
  channels: Array.from({ length: 16 }, (_, k) => change[k + 1] ?? 1500),
});

describe('who tells how well a receiver hears', () => {
  it('is the channel that moved though no hand did, whichever way it counts', () => {
    expect(qualityFrom(heard(1, { 12: 1135 }), heard(1, { 12: 1540 }), [1, 2, 3, 4])).toMatchObject({
      kind: 'channel',
      channel: 12,
      fullUs: 1135,
      noneUs: 2000,
    });
    expect(qualityFrom(heard(1, { 9: 1980 }), heard(0.4, { 9: 1400 }), [1, 2, 3, 4])).toMatchObject({
      kind: 'channel',
      channel: 9,
      fullUs: 1980,
      noneUs: 1000,
    });
  });

  it('is not a stick or switch that was moved meanwhile', () => {
    expect(qualityFrom(heard(1, { 5: 1000 }), heard(1, { 5: 2000 }), [1, 2, 3, 4, 5])).toEqual({
      kind: 'nobody',
    });
  });

  it('is the protocol where that changed, and nobody where nothing did', () => {
    expect(qualityFrom(heard(0.98), heard(0.44), [])).toMatchObject({ kind: 'protocol' });
    expect(qualityFrom(heard(0.98), heard(0.95), [])).toEqual({ kind: 'nobody' });
  });
});
