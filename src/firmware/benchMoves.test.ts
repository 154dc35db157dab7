import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { BenchMoves } from './benchMoves.ts';

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
      seen.push(Math.sign(moves.swing));
      step(moves, 100);
    }
    expect(seen.filter((s, i) => i === 0 || s !== seen[i - 1])).toEqual([1, -1, 0]);
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
