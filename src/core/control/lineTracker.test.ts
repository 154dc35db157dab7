import { describe, expect, it } from 'vitest';
import { Random } from '../math/random.ts';
import { LineTrackers } from './lineTracker.ts';

const DT = 0.001;

/** What trackers say at the end of a signal. */
function tracked(count: number, seconds: number, signal: (t: number, random: Random) => number) {
  const trackers = new LineTrackers(count, 60, 350, DT);
  const random = new Random(3);
  for (let k = 0; k < seconds / DT; k++) {
    trackers.step(signal(k * DT, random));
    if (k % 5 === 0) trackers.look();
  }
  return trackers.all;
}
const swing = (hz: number, t: number) => Math.sin(2 * Math.PI * hz * t);

describe('a tracker', () => {
  it.each([75, 140, 230, 330])('finds a line at %d Hz under noise and the craft’s own turning', (hz) => {
    const [t] = tracked(1, 3, (at, r) => 3 * swing(1.5, at) + 0.3 * swing(hz, at) + 0.05 * r.normal());
    expect(t!.found).toBe(true);
    expect(Math.abs(t!.hz - hz)).toBeLessThan(2);
  });

  it('follows one that a throttle moves, forty hertz in a second', () => {
    let at = 0;
    const [t] = tracked(1, 4, (s, r) => {
      at += DT * (100 + 40 * s);
      return 0.3 * Math.sin(2 * Math.PI * at) + 0.05 * r.normal();
    });
    expect(Math.abs(t!.hz - 260)).toBeLessThan(8);
  });

  it('leaves the next line to the one behind it', () => {
    const all = tracked(2, 4, (at, r) => 0.4 * swing(110, at) + 0.2 * swing(260, at) + 0.03 * r.normal());
    const found = all.map((t) => t.hz).sort((a, b) => a - b);
    expect(Math.abs(found[0]! - 110)).toBeLessThan(3);
    expect(Math.abs(found[1]! - 260)).toBeLessThan(4);
    expect(all.every((t) => t.found)).toBe(true);
  });

  it('says that there is none where nothing stands out, and stays within its span', () => {
    const [noise] = tracked(1, 3, (_, r) => 0.2 * r.normal());
    expect(noise!.found).toBe(false);
    const [beyond] = tracked(1, 3, (at, r) => 0.3 * swing(30, at) + 0.01 * r.normal());
    expect(beyond!.hz).toBeGreaterThan(59);
    expect(beyond!.hz).toBeLessThan(351);
  });
});
