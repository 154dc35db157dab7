import { describe, expect, it } from 'vitest';
import { Random } from '../math/random.ts';
import { FORGETS, forwardFor, Identifier } from './identify.ts';

const DT = 0.002;

/** A craft of these figures under a command that sweeps, and what is told of it. */
function told(
  craft: { a: number; b: number; k: number; late: number; lag: number; noise: number },
  forgets: number,
) {
  const identifier = new Identifier(DT, 30);
  identifier.forgets = forgets;
  const random = new Random(2);
  const way = new Float64Array(craft.late + 1);
  let [p, x, v] = [0, 0, 0];
  for (let n = 0; n < 6000; n++) {
    const t = n * DT;
    const hz = 0.6 * (5 / 0.6) ** (t / 12);
    const u = 0.3 * Math.sin((2 * Math.PI * (hz - 0.6) * 12) / Math.log(5 / 0.6)) + 0.05;
    identifier.step(u, p + craft.noise * random.normal(), p);
    way.copyWithin(1, 0);
    way[0] = u;
    v += craft.lag > 0 ? (1 - Math.exp(-DT / craft.lag)) * (way[craft.late]! - v) : way[craft.late]! - v;
    p += DT * (craft.b * v - craft.a * p - craft.k * x - 0.4);
    x += DT * (p - Math.max(1, forgets) * x);
  }
  return identifier.result();
}

describe('what a command turns', () => {
  it.each([
    ['a roll', { a: 14, b: 80, k: 0, late: 8, lag: 0, noise: 0.01 }, 0],
    ['rotors', { a: 0.8, b: 1000, k: 0, late: 3, lag: 0.02, noise: 0.05 }, 0],
    ['a nose', { a: 6, b: 48, k: 70, late: 6, lag: 0, noise: 0.01 }, FORGETS],
  ] as const)('is told of %s, and how late', (_name, craft, forgets) => {
    const found = told(craft, forgets)!;
    expect(found.explained).toBeGreaterThan(0.98);
    expect(Math.abs(found.turns / craft.b - 1)).toBeLessThan(0.06);
    expect(Math.abs(found.damping - craft.a)).toBeLessThan(0.06 * craft.a + 0.4);
    expect(Math.abs(found.stiffness - craft.k)).toBeLessThan(0.08 * craft.k + 1);
    expect(Math.abs(found.lateS + found.lagS - (craft.late * DT + craft.lag))).toBeLessThan(0.0045);
  });

  it('is not told where nothing moves, nor of what turns by itself', () => {
    const still = new Identifier(DT, 30);
    for (let n = 0; n < 3000; n++) still.step(0, 0, 0);
    expect(still.result()).toBeNull();
    const random = new Random(4);
    const wild = new Identifier(DT, 30);
    for (let n = 0; n < 6000; n++) wild.step(random.normal(), Math.sin(n / 40) + random.normal(), 0);
    expect(wild.result()?.explained ?? 0).toBeLessThan(0.5);
  });

  it('and what holds it back is the feed-forward', () => {
    const of = { damping: 12, stiffness: 90, turns: 60, lagS: 0, lateS: 0.02, explained: 1 };
    expect(forwardFor(of, 'roll')).toBeCloseTo(0.2, 12);
    expect(forwardFor(of, 'pitch')).toBeCloseTo((12 + 90 / FORGETS) / 60, 12);
    expect(forwardFor({ ...of, damping: -1 }, 'roll')).toBe(0);
  });
});
