import { describe, expect, it } from 'vitest';
import { learnStick, startWatch } from './stickLearning.ts';

const rest = [1000, 1500, 1500, 1500, 1000, 1000];

function move(channel: number, to: number, also: (readonly [number, number])[] = []) {
  const watch = startWatch(rest);
  for (let k = 0; k <= 40; k++) {
    const now = [...rest];
    const share = Math.min(1, k / 20);
    now[channel] = rest[channel]! + share * (to - rest[channel]!);
    for (const [c, us] of also) now[c] = rest[c]! + share * (us - rest[c]!);
    const found = learnStick(watch, now);
    if (found) return found;
  }
  return null;
}

describe('learning a stick', () => {
  it('names the channel that followed, and which way it went', () => {
    expect(move(1, 2000)).toEqual({ channel: 2, fromUs: 1500, toUs: 2000 });
    expect(move(2, 1010)).toEqual({ channel: 3, fromUs: 1500, toUs: 1010 });
  });

  it('does not answer to a nudge', () => {
    expect(move(1, 1600)).toBeNull();
  });

  it('does not answer when two channels moved', () => {
    expect(move(1, 2000, [[3, 1900]])).toBeNull();
  });

  it('forgives a little movement on the other axis of the same stick', () => {
    expect(move(1, 2000, [[2, 1600]])?.channel).toBe(2);
  });
});
