import { describe, expect, it } from 'vitest';
import { StickLearning, type StickOutcome } from './stickLearning.ts';

const rest = [1000, 1500, 1500, 1500, 1000, 1000];

/** It has seen all sticks rest. */
const rested = (hz = 50): StickLearning => {
  const learning = new StickLearning();
  for (let k = 0; k <= 0.35 * hz; k++) learning.look(rest, 1 / hz);
  return learning;
};

/** A stick that takes half a second to its end and stays there. */
function move(channel: number, to: number, also: readonly (readonly [number, number])[] = [], hz = 50) {
  const learning = rested(hz);
  const seen: StickOutcome[] = [];
  for (let atS = 0; atS < 2.5; atS += 1 / hz) {
    const share = Math.min(1, atS / 0.5);
    const now = [...rest];
    for (const [c, us] of [[channel, to] as const, ...also]) now[c] = rest[c]! + share * (us - rest[c]!);
    seen.push(learning.look(now, 1 / hz));
    if (seen.at(-1)!.kind !== 'waiting') break;
  }
  return { end: seen.at(-1)!, seen };
}

describe('learning a stick', () => {
  it('names the channel that followed, and which way it went', () => {
    expect(move(1, 2000).end).toEqual({ kind: 'learnt', channel: 2, fromUs: 1500, toUs: 2000 });
    expect(move(2, 1010).end).toEqual({ kind: 'learnt', channel: 3, fromUs: 1500, toUs: 1010 });
    expect(move(0, 1900).end).toMatchObject({ channel: 1, toUs: 1900 });
  });

  it.each([14, 50, 150, 500])(
    'takes the same time at %i frames a second: what counts is time, not looks',
    (hz) => {
      const { seen, end } = move(1, 2000, [], hz);
      expect(end).toMatchObject({ kind: 'learnt', channel: 2 });
      expect(seen.length / hz).toBeGreaterThan(0.65);
      expect(seen.length / hz).toBeLessThan(0.7 + 2.5 / hz);
    },
  );

  it('does not answer to a nudge, and asks for more', () => {
    expect(move(1, 1600).end).toMatchObject({ kind: 'waiting', says: 'Farther, to its very end.' });
    expect(move(1, 1510).end).toMatchObject({ kind: 'waiting', says: 'No stick has moved yet.' });
  });

  it('gives up when two channels moved, and names both', () => {
    expect(move(3, 2000, [[1, 1900]]).end).toEqual({
      kind: 'unclear',
      says: 'Channels 2 and 4 moved both; move one stick, one way.',
    });
  });

  it('forgives a little movement on the other axis of the same stick', () => {
    expect(move(1, 2000, [[2, 1600]]).end).toMatchObject({ channel: 2 });
  });

  it('tells of progress that never goes back on the way', () => {
    const shares = move(1, 2000).seen.flatMap((o) => (o.kind === 'waiting' ? [o.progress] : []));
    expect(shares).toEqual([...shares].sort((a, b) => a - b));
    expect(shares.at(-1)).toBeGreaterThan(0.9);
  });

  it('waits for a stick that is still being let go of, and does not take it for the one that is asked for', () => {
    const learning = new StickLearning();
    const look = (roll: number, pitch: number) => learning.look([1000, roll, pitch, 1500], 0.02);
    for (let k = 0; k < 50; k++)
      expect(look(2000 - 10 * k, 1500)).toMatchObject({ kind: 'waiting', progress: 0 });
    expect(learning.stillMoving).toBe(2);
    expect(look(1500, 1500)).toMatchObject({ says: 'Let all sticks rest first. Channel 2 still moves.' });
    for (let k = 0; k < 20; k++) look(1500, 1500);
    expect(learning.stillMoving).toBeNull();
    expect(look(1500, 1500)).toMatchObject({ says: 'No stick has moved yet.' });
    for (let k = 0; k < 20; k++) look(1500, 2000);
    expect(look(1500, 2000)).toEqual({ kind: 'learnt', channel: 3, fromUs: 1500, toUs: 2000 });
  });

  it('does not take a stick that was held at its end from the start, and comes to its middle, for an answer', () => {
    const learning = new StickLearning();
    const look = (roll: number, pitch: number) => learning.look([1000, roll, pitch, 1500], 0.02);
    for (let k = 0; k < 30; k++) look(2000, 1500);
    for (let k = 0; k < 30; k++) look(1500, 1500);
    expect(look(1500, 1500)).toMatchObject({ kind: 'waiting', says: 'Farther, to its very end.' });
    for (let k = 0; k < 60; k++) look(1500, 2000);
    expect(look(1500, 2000)).toMatchObject({ kind: 'unclear' });
  });
});
