import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { BenchTarget } from '#core/wire/messages.ts';
import { BenchMoves } from './benchMoves.ts';

const ends = { lowUs: 1000, centreUs: 1500, highUs: 2000 };
const step = (moves: BenchMoves, ms: number) => {
  for (let k = 0; k < ms; k++) moves.step(0.001, 0);
};

describe('moves on the bench', () => {
  it('need leave first', () => {
    const moves = new BenchMoves();
    expect(moves.request(1, 1)).toBe(false);
    moves.allow();
    expect(moves.request(1, 1)).toBe(true);
  });

  it('go towards the long pulse first, then the short one, then rest', () => {
    const moves = new BenchMoves();
    moves.allow();
    const seen: number[] = [];
    for (let k = 0; k < 20; k++) {
      moves.request(3, 1);
      seen.push(Math.sign(moves.servoPulse(ends) - 1500));
      step(moves, 100);
    }
    expect(seen.filter((s, i) => i === 0 || s !== seen[i - 1])).toEqual([1, -1, 0]);
  });

  it('bring a servo to its ends slowly, hold it there, and sweep between them', () => {
    const moves = new BenchMoves();
    moves.allow();
    const go = (to: BenchTarget, ms: number) => {
      let [least, most, quickest] = [Number.POSITIVE_INFINITY, 0, 0];
      let last = 0;
      for (let k = 0; k < ms / 20; k++) {
        moves.request(3, 1, to);
        const at = moves.servoPulse({ lowUs: 1100, centreUs: 1540, highUs: 1900 });
        if (last > 0) quickest = Math.max(quickest, Math.abs(at - last));
        [least, most, last] = [Math.min(least, at), Math.max(most, at), at];
        step(moves, 20);
      }
      return { least, most, last, quickest };
    };
    const high = go('high', 2000);
    expect(high.last).toBe(1900);
    // 20 ms at 500 us/s.
    expect(high.quickest).toBeLessThanOrEqual(10 + 1e-9);
    const low = go('low', 3000);
    expect(low).toMatchObject({ last: 1100, most: 1900 });
    expect(low.quickest).toBeLessThanOrEqual(10 + 1e-9);
    expect(go('middle', 3000).last).toBe(1500);
    expect(go('middle-from-high', 3000)).toMatchObject({ last: 1500 });
    expect(go('middle-from-low', 3000)).toMatchObject({ last: 1500, most: 1500 });
    expect(go('centre', 3000).last).toBe(1540);
    const swept = go('sweep', 9000);
    // As far to both sides as the nearer end lies.
    expect(swept.least).toBeCloseTo(1180, 0);
    expect(swept.most).toBeCloseTo(1900, 0);
    expect(swept.quickest).toBeLessThanOrEqual(10 + 1e-9);
  });

  it('end the moment leave is withdrawn', () => {
    const moves = new BenchMoves();
    moves.allow();
    moves.request(2, 1);
    moves.withdraw();
    moves.step(0.001, 0);
    expect(moves.output).toBe(0);
  });

  it('never outlive 300 ms without a request, in any order of requests, stops and waits', () => {
    const action = fc.oneof(
      fc.record({
        kind: fc.constant('move' as const),
        output: fc.integer({ min: 1, max: 9 }),
        run: fc.integer({ min: 0, max: 6 }),
      }),
      fc.record({ kind: fc.constant('stop' as const) }),
      fc.record({ kind: fc.constant('wait' as const), ms: fc.integer({ min: 1, max: 700 }) }),
    );
    fc.assert(
      fc.property(fc.array(action, { maxLength: 40 }), (actions) => {
        const moves = new BenchMoves();
        moves.allow();
        let quiet = 0;
        for (const a of actions) {
          if (a.kind === 'move') {
            if (moves.request(a.output, a.run)) quiet = 0;
          } else if (a.kind === 'stop') moves.stop();
          else {
            step(moves, a.ms);
            quiet += a.ms;
          }
          if (quiet > 301) expect(moves.output).toBe(0);
        }
      }),
    );
  });
});

describe('leave to move outputs', () => {
  const led = (volts: number) => {
    const moves = new BenchMoves();
    moves.step(0.001, volts);
    moves.allow();
    return moves;
  };

  it('lapses with the battery put in or taken out, as somebody was at the craft', () => {
    for (const [from, to] of [
      [16, 0],
      [0, 16],
    ] as const) {
      const moves = led(from);
      moves.step(0.001, from);
      expect(moves.allowed).toBe(true);
      moves.request(1, 1);
      moves.step(0.001, to);
      expect([moves.allowed, moves.output]).toEqual([false, 0]);
      expect(moves.request(1, 2)).toBe(false);
    }
  });

  it('lapses by itself when nobody used it for five minutes, and not while it is used', () => {
    const moves = led(16);
    for (let s = 0; s < 400; s++) {
      moves.step(1, 16);
      moves.request(1, s);
    }
    expect(moves.allowed).toBe(true);
    for (let s = 0; s < 301; s++) moves.step(1, 16);
    expect(moves.allowed).toBe(false);
  });
});
