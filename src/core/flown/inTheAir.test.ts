import { describe, expect, it } from 'vitest';
import type { Flown, ToldName } from './flown.ts';
import { inTheAir } from './inTheAir.ts';

/** A flight of one moment a second, by what is told at each. */
function flight(seconds: number, at: (t: number) => Partial<Record<ToldName, number>>): Flown {
  const rows = Array.from({ length: seconds }, (_, t) => at(t));
  const names = Object.keys(rows[0]!) as ToldName[];
  return {
    ...{ kind: 'board', name: 'a flight', firmware: 'Pfad 3.2', origin: { lat: 61.9, lon: -12.43 } },
    seconds: Float64Array.from(rows, (_, t) => t),
    told: Object.fromEntries(names.map((n) => [n, Float64Array.from(rows, (r) => r[n]!)])),
    mode: new Int8Array(seconds),
    ...{ modes: ['level'], decisions: [], settings: {}, dropped: 0, gaps: 0 },
  };
}
const flies = (t: number) => t >= 20 && t < 80;
const between = (f: Flown) => {
  const air = inTheAir(f);
  return air && [f.seconds[air.from], f.seconds[air.to]];
};

describe('when a flight was in the air', () => {
  it('is from its throw to its landing', () => {
    const f = flight(100, (t) => ({
      ...{ north: flies(t) ? 15 * (t - 20) : t < 20 ? 0 : 900, east: 0, height: flies(t) ? 60 : 10 },
      ...{ velocityNorth: flies(t) ? 15 : 0, velocityEast: 0, airspeed: flies(t) ? 16 : 0 },
    }));
    expect(between(f)).toEqual([20, 79]);
  });

  it('is not a craft that is carried: it moves at a walk', () => {
    const f = flight(100, (t) => ({
      ...{ north: 1.4 * t, east: 0, height: 10, velocityNorth: 1.4, velocityEast: 0, airspeed: 0 },
    }));
    expect(inTheAir(f)).toBeNull();
  });

  it('is not a receiver that wanders on the table: it does not rise, and nothing blows into a tube', () => {
    const f = flight(100, (t) => ({
      ...{ north: 3 * Math.sin(t), east: 3 * Math.cos(t), height: 10 + Math.sin(t) },
      ...{ velocityNorth: t === 50 ? 6 : 0.2, velocityEast: 0, airspeed: 0 },
    }));
    expect(inTheAir(f)).toBeNull();
  });

  it('goes on over a moment in which it hung against the wind, and over one that was not told', () => {
    const f = flight(100, (t) => ({
      ...{ north: flies(t) ? 300 : 0, east: 0, height: flies(t) ? 60 : 10, airspeed: flies(t) ? 16 : 0 },
      velocityNorth: flies(t) ? (t === 50 ? 0 : t === 51 ? Number.NaN : 12) : 0,
      velocityEast: 0,
    }));
    expect(between(f)).toEqual([20, 79]);
  });

  it('is known of a track that tells places alone', () => {
    const f = flight(100, (t) => ({
      ...{ north: flies(t) ? 15 * (t - 20) : t < 20 ? 0 : 900, east: 0 },
      ...{ velocityNorth: flies(t) ? 15 : 0, velocityEast: 0 },
    }));
    expect(between(f)).toEqual([20, 79]);
  });
});
