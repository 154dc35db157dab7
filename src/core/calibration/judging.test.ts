import { describe, expect, it } from 'vitest';
import { welch } from '../analysis/spectrum.ts';
import { openCircuitV } from '../flight/battery.ts';
import { Random } from '../math/random.ts';
import { DEG } from '../math/scalar.ts';
import { judgeHeard } from '../sensors/portHearing.ts';
import { airspeedFromCircles, type CircleSample } from './airspeedCircles.ts';
import { baroAtRest, disturbedBy } from './airWatch.ts';
import { gyroAtRest } from './gyroRest.ts';
import {
  cellsFrom,
  currentFrom,
  currentScaleFromCharge,
  dischargeUnder,
  sagFrom,
  usedAtMark,
  voltageScaleFrom,
} from './power.ts';
import { judgeShake, shakeOf } from './shake.ts';

const RATE = 1000;

describe('a spectrum', () => {
  it('of white noise is flat, with its variance under it (Parseval)', () => {
    const random = new Random(1);
    const s = welch(
      Float64Array.from({ length: 60_000 }, () => 0.02 * random.normal()),
      RATE,
    )!;
    const density = s.density.subarray(10, 250);
    const mean = density.reduce((a, b) => a + b, 0) / density.length;
    // One-sided: variance over half the rate.
    expect(mean / (0.02 ** 2 / (RATE / 2))).toBeCloseTo(1, 1);
    expect(s.density.reduce((a, b) => a + b * s.stepHz, 0) / 0.02 ** 2).toBeCloseTo(1, 1);
  });
});

describe('a gyro at rest', () => {
  const rest = (
    seconds: number,
    { density = 0.007 * DEG, bias = [0.002, -0.004, 0.001], drift = 0 } = {},
  ) => {
    const random = new Random(2);
    const sigma = density * Math.sqrt(RATE / 2);
    return gyroAtRest(
      Float64Array.from(
        { length: 3 * seconds * RATE },
        (_, i) => bias[i % 3]! + (drift * i) / 3 / RATE / 60 + sigma * random.normal(),
      ),
      RATE,
    );
  };
  it('is told its bias, its noise density and its drift', () => {
    const r = rest(12);
    if ('refused' in r) throw new Error(r.refused);
    expect(r.bias[1]).toBeCloseTo(-0.004, 3);
    expect(r.density / (0.007 * DEG)).toBeCloseTo(1, 1);
    expect(r.verdict).toBe('good');
    expect(rest(12, { density: 0.03 * DEG })).toMatchObject({ verdict: 'noisy' });
    expect(rest(20, { drift: 0.6 * DEG })).toMatchObject({ verdict: 'warming' });
    expect(rest(12, { bias: [0.03, 0, 0] })).toMatchObject({ verdict: 'biased' });
  });
  it('is not judged when it moved, or for too short a time', () => {
    expect(rest(3)).toHaveProperty('refused');
    const moved = Float64Array.from({ length: 3 * 12 * RATE }, (_, i) => (i > 20_000 ? 0.1 : 0));
    expect(gyroAtRest(moved, RATE)).toHaveProperty('refused');
  });
});

describe('shake', () => {
  const running = (shaft: number, size: { once: number; blades: number }) => {
    const random = new Random(3);
    const gyro = new Float64Array(3 * 6000);
    for (let i = 0; i < 6000; i++) {
      const t = (2 * Math.PI * shaft * i) / RATE;
      gyro[3 * i] = size.once * Math.sin(t) + size.blades * Math.sin(2 * t) + 0.003 * random.normal();
      gyro[3 * i + 1] = 0.3 * gyro[3 * i]! + 0.003 * random.normal();
      gyro[3 * i + 2] = 0.003 * random.normal();
    }
    return shakeOf(gyro, RATE, { throttle: 0.6, shaftHz: Number.NaN, blades: 2 })!;
  };
  it('names the propeller’s lines at their true frequencies, though nobody tells the motor’s speed', () => {
    const shake = running(83.7, { once: 0.2, blades: 0.1 });
    const by = (from: string) => shake.lines.find((l) => l.from === from)!;
    expect(by('shaft').hz).toBeCloseTo(83.7, 0);
    expect(by('blades').hz).toBeCloseTo(167.4, 0);
    expect(by('shaft').rms).toBeCloseTo(0.2 / Math.SQRT2, 1);
  });
  it('comes with what to do: balance what turns, mount softly what hums, filter what is left', () => {
    expect(judgeShake([running(80, { once: 0.01, blades: 0.01 })])?.verdict).toBe('good');
    expect(judgeShake([running(80, { once: 0.4, blades: 0.05 })])?.verdict).toBe('balance');
    expect(judgeShake([running(80, { once: 0.3, blades: 0.6 })])?.verdict).toBe('soft-mount');
    expect(judgeShake([running(80, { once: 0.05, blades: 0.15 })])?.verdict).toBe('filter');
    expect(judgeShake([])).toBeNull();
  });
});

describe('volts and amperes', () => {
  it('says which numbers of cells a voltage may be', () => {
    expect(cellsFrom(16.4)).toEqual([4, 5]);
    expect(cellsFrom(25.2)[0]).toBe(6);
    expect(cellsFrom(25.2)).toContain(7);
    expect(cellsFrom(1)).toEqual([]);
  });
  it('scales from one reading of a meter, and refuses what no divider does', () => {
    expect(voltageScaleFrom(15.4, 16, 1, 0.01)).toMatchObject({ scale: 16 / 15.4 });
    expect(voltageScaleFrom(15.4, 24, 1, 0.01)).toHaveProperty('refused');
    expect(voltageScaleFrom(0, 16, 1, 0)).toHaveProperty('refused');
    expect(voltageScaleFrom(15.4, 16, 1, 0.4)).toHaveProperty('refused');
  });
  it('finds scale and offset of the current within 2 %, whatever they are now', () => {
    const random = new Random(9);
    for (let k = 0; k < 1000; k++) {
      const scale = 0.7 + 0.7 * random.uniform();
      const offset = 2 * (random.uniform() - 0.5);
      const now = { scale: 0.8 + 0.4 * random.uniform(), offset: random.uniform() - 0.5 };
      const board = (a: number) => now.scale * (a / scale + offset - now.offset);
      const found = currentFrom(
        { boardA: board(0), knownA: 0 },
        { boardA: board(10), knownA: 10 * (1 + 0.005 * random.normal()) },
        now,
      );
      if ('refused' in found) throw new Error(found.refused);
      const raw = 20 / scale + offset;
      expect(Math.abs((found.scale * (raw - found.offset)) / 20 - 1)).toBeLessThan(0.02);
    }
    expect(
      currentFrom({ boardA: 0, knownA: 0 }, { boardA: 0.5, knownA: 1 }, { scale: 1, offset: 0 }),
    ).toHaveProperty('refused');
    expect(
      currentFrom({ boardA: 0, knownA: 0 }, { boardA: 0, knownA: 9 }, { scale: 1, offset: 0 }),
    ).toHaveProperty('refused');
    expect(currentScaleFromCharge(1800, 2000, 1)).toMatchObject({ scale: 2000 / 1800 });
    expect(currentScaleFromCharge(40, 50, 1)).toHaveProperty('refused');
  });
  it('finds internal resistance from a run-up', () => {
    const random = new Random(4);
    const amps = Array.from({ length: 200 }, (_, i) => i / 10);
    const sag = sagFrom(
      amps.map((a) => 16 - 0.042 * a + 0.01 * random.normal()),
      amps,
    );
    expect(sag).toMatchObject({ ohms: expect.closeTo(0.042, 3), restV: expect.closeTo(16, 1) });
    expect(
      sagFrom(
        amps.map(() => 16),
        amps.map(() => 1),
      ),
    ).toHaveProperty('refused');
  });
  it('marks where on its own discharge a battery warns', () => {
    const curve = dischargeUnder((left) => openCircuitV('lipo', left), { cells: 4, ohms: 0.04, amps: 12 });
    // Without load 3.6 V is 10 % left and less; under this load it is met sooner.
    const open = dischargeUnder((left) => openCircuitV('lipo', left), { cells: 4, ohms: 0.04, amps: 0 });
    expect(usedAtMark(curve, 3.6)).toBeLessThan(usedAtMark(open, 3.6));
    expect(usedAtMark(open, 3.73)).toBeCloseTo(0.7, 2);
    expect(usedAtMark(curve, 1)).toBe(1);
  });
});

describe('airspeed from circles', () => {
  const flown = (scale: number, wind: readonly [number, number], turns = 2, seed = 1): CircleSample[] => {
    const random = new Random(seed);
    return Array.from({ length: 240 }, (_, i) => {
      const course = (2 * Math.PI * turns * i) / 240;
      const v = 16 + 0.4 * random.normal();
      return {
        north: v * Math.cos(course) + wind[0] + 0.1 * random.normal(),
        east: v * Math.sin(course) + wind[1] + 0.1 * random.normal(),
        airspeed: v / scale + 0.2 * random.normal(),
      };
    });
  };
  it('finds scale and wind together', () => {
    for (let seed = 0; seed < 50; seed++) {
      const found = airspeedFromCircles(flown(1.08, [5, -4], 2, seed));
      if ('refused' in found) throw new Error(found.refused);
      expect(found.factor).toBeCloseTo(1.08, 1.9);
      expect(Math.hypot(found.windNorth - 5, found.windEast + 4)).toBeLessThan(0.3);
      expect(Math.abs(found.factor - 1.08)).toBeLessThan(5 * found.sigma);
    }
  });
  it('wants whole circles', () => {
    expect(airspeedFromCircles(flown(1, [5, 0], 0.3))).toHaveProperty('refused');
    expect(airspeedFromCircles([])).toHaveProperty('refused');
  });
});

describe('a barometer', () => {
  const heights = (seconds: number, { noise = 0.1, drift = 0 } = {}) => {
    const random = new Random(8);
    return Array.from(
      { length: 50 * seconds },
      (_, i) => 38 + noise * random.normal() + (drift * i) / 50 / 60,
    );
  };
  it('is judged by noise and drift', () => {
    expect(baroAtRest(heights(20), 50)).toMatchObject({ verdict: 'good' });
    expect(baroAtRest(heights(20, { noise: 1.5 }), 50)).toMatchObject({ verdict: 'noisy' });
    expect(baroAtRest(heights(30, { drift: 6 }), 50)).toMatchObject({ verdict: 'drifts' });
    expect(baroAtRest(heights(3), 50)).toHaveProperty('refused');
  });
  it('in a stream of air pretends a height that grows with the square of speed', () => {
    const found = disturbedBy(
      heights(3),
      heights(3).map((h) => h + 2),
      { speed: 8, cruise: 16 },
    );
    expect(found).toMatchObject({
      shiftM: expect.closeTo(2, 1),
      atCruiseM: expect.closeTo(8, 0),
      verdict: 'shield-it',
    });
    expect(disturbedBy(heights(3), heights(3), { speed: 8, cruise: 16 })).toMatchObject({
      verdict: 'shielded',
    });
    expect(disturbedBy([1], [2], { speed: 8, cruise: 16 })).toHaveProperty('refused');
  });
});

describe('what is heard on a port', () => {
  const at = (baud: number, more: Partial<Parameters<typeof judgeHeard>[0][number]> = {}) => ({
    baud, seconds: 1.2, bytes: 0, framing: 0, sentences: 0, crossed: 0, ...more,
  }); // biome-ignore format: a table
  it('tells a wrong speed, crossed wires and silence apart by counting', () => {
    expect(
      judgeHeard([at(9600, { bytes: 300, framing: 80 }), at(38400, { bytes: 900, sentences: 12 })]),
    ).toMatchObject({ kind: 'found', baud: 38400, crossed: false });
    expect(
      judgeHeard([at(9600, { crossed: 300 }), at(38400, { crossed: 900, sentences: 12 })]),
    ).toMatchObject({ kind: 'found', baud: 38400, crossed: true });
    expect(judgeHeard([at(9600, { bytes: 300, framing: 80 }), at(38400, { bytes: 90 })])).toEqual({
      kind: 'garbage',
      crossed: false,
    });
    expect(judgeHeard([at(9600), at(38400)])).toEqual({ kind: 'silent' });
  });
});
