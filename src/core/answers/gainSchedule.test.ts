import { describe, expect, it } from 'vitest';
import { prepared } from '../../testing/aloft.ts';
import { isRotorcraft } from '../airframe/airframe.ts';
import { avocet, flock, turnstone } from '../airframe/library.ts';
import { supplyUnderLoad, trimLevel } from '../airframe/performance.ts';
import { fellF7 } from '../board/fellF7.ts';
import { GRAVITY } from '../math/scalar.ts';
import type { Values } from '../settings/catalogue.ts';
import {
  answersAt,
  diveSpeed,
  extremesOf,
  gainsWanted,
  referenceFlight,
  solveGainLaw,
  speedLag,
} from './gainSchedule.ts';
import { ringingOf } from './ringing.ts';

const wings = flock.filter((a) => !isRotorcraft(a));
const rotors = flock.filter(isRotorcraft);
const { pads } = fellF7;

describe('what gains would have to be', () => {
  // The dynamic pressure, and the steady rate p b/(2V) (Etkin and Reid 1996, 5.11).
  it.each(wings.map((a) => [a.name, a] as const))(
    'goes with the square of the speed, and feed-forward with the speed: %s',
    (_n, a) => {
      const values = prepared(a);
      const v = values['rate.reference'] as number;
      for (const axis of ['roll', 'pitch'] as const) {
        const [fast] = gainsWanted(a, values, pads, axis, { speedMps: v, flown: {} }, [
          { speedMps: 1.6 * v, flown: {} },
        ]);
        expect(fast!.gain / (1 / 1.6 ** 2)).toBeGreaterThan(0.93);
        expect(fast!.gain / (1 / 1.6 ** 2)).toBeLessThan(1.07);
        expect(fast!.forward * 1.6).toBeGreaterThan(0.88);
        expect(fast!.forward * 1.6).toBeLessThan(1.06);
      }
    },
  );

  // Thrust is k omega^2: a little more duty gives 2 k omega times what the shaft gains, and that goes with the voltage.
  it.each(rotors.map((a) => [a.name, a] as const))(
    'goes with throttle and voltage of rotors: %s',
    (_n, a) => {
      const values = prepared(a);
      const volts = supplyUnderLoad(a);
      const t = 0.5;
      const at = (throttle: number, supplyV: number) => ({ speedMps: 0, flown: { throttle, supplyV } });
      const [more, less] = gainsWanted(a, values, pads, 'roll', at(t, volts), [
        at(1.4 * t, volts),
        at(t / 0.8, 0.8 * volts),
      ]);
      expect(more!.gain * 1.4).toBeGreaterThan(0.93);
      expect(more!.gain * 1.4).toBeLessThan(1.07);
      expect(less!.gain * 0.8).toBeGreaterThan(0.96);
      expect(less!.gain * 0.8).toBeLessThan(1.04);
    },
  );
});

describe('a dive', () => {
  it('ends where drag is what the weight pulls along the path', () => {
    const down = 0.2;
    const v = diveSpeed(turnstone, down, 15);
    expect(trimLevel(turnstone, v)!.thrust / (turnstone.massKg * GRAVITY * Math.sin(down))).toBeCloseTo(1, 3);
    expect(diveSpeed(turnstone, 1.2, 15)).toBe(37.5);
  });

  it("follows a throttle by the slope of drag: m/(D' - T'), seconds for a wing of this size", () => {
    expect(speedLag(turnstone, 15.5)).toBeGreaterThan(2);
    expect(speedLag(turnstone, 15.5)).toBeLessThan(8);
  });
});

describe('a law worked out for a craft', () => {
  it.each(wings.map((a) => [a.name, a] as const))(
    'lets it bear as much at both ends as at cruise: %s',
    (_n, a) => {
      const plain = prepared(a);
      const edits = solveGainLaw(a, plain, pads, 'speed');
      expect(edits['rate.power']).toBeGreaterThan(1.8);
      const values = { ...plain, ...edits };
      for (const axis of ['roll', 'pitch'] as const) {
        const [slow, usual, fast] = answersAt(a, values, pads, axis, extremesOf(a, values)).map(
          (x) => x.answer!.margin.gainLeft,
        );
        expect(Math.abs(slow! / usual! - 1)).toBeLessThan(0.12);
        expect(Math.abs(fast! / usual! - 1)).toBeLessThan(0.12);
      }
    },
  );

  it.each(rotors.map((a) => [a.name, a] as const))('does so from sinking to all throttle: %s', (_n, a) => {
    const plain = prepared(a);
    const values = { ...plain, ...solveGainLaw(a, plain, pads, 'throttle') };
    expect(values).toMatchObject({ 'rate.by': 'throttle', 'rate.voltPower': 1, 'rate.throttleLag': 0 });
    const left = answersAt(a, values, pads, 'roll', extremesOf(a, values)).map(
      (x) => x.answer!.margin.gainLeft,
    );
    expect(Math.max(...left) / Math.min(...left)).toBeLessThan(1.15);
  });

  it('by the throttle holds in a dive with it shut, and takes less at slow speed for that', () => {
    const plain = { ...prepared(turnstone), 'rate.roll.p': 0.2 };
    const edits = solveGainLaw(turnstone, plain, pads, 'throttle');
    const values = { ...plain, ...edits };
    const [, , dive] = answersAt(turnstone, values, pads, 'roll', extremesOf(turnstone, values));
    expect(dive!.answer!.state).toBe('well');
    expect(edits['rate.lowest']).toBeGreaterThan(0.8);
    expect(edits['rate.throttleLag']).toBeGreaterThan(2);
  });

  it('is none of rotors by a speed that they have not', () => {
    expect(solveGainLaw(avocet, prepared(avocet), pads, 'speed')).toEqual({});
  });

  it('refers to where gains hold as written', () => {
    const values = prepared(turnstone);
    expect(referenceFlight(turnstone, values).speedMps).toBe(values['rate.reference']);
    expect(referenceFlight(turnstone, { ...values, 'rate.by': 'throttle' }).speedMps).toBe(
      values['nav.speed'],
    );
  });
});

describe('a loop that rings', () => {
  it('is found in a dive where its gains go by the throttle, and with all throttle where they go by nothing', () => {
    const wing = { ...prepared(turnstone), 'rate.roll.p': 0.6 };
    expect(ringingOf(turnstone, wing, pads).some((r) => r.in === 'dive')).toBe(false);
    const byThrottle = { ...wing, 'rate.by': 'throttle', 'rate.lowest': 0.3 };
    expect(ringingOf(turnstone, byThrottle, pads)).toContainEqual(
      expect.objectContaining({ axis: 'roll', in: 'dive', state: 'rings' }),
    );
    const plain = prepared(avocet);
    const hot = {
      ...plain,
      'rate.roll.p': 14 * (plain['rate.roll.p'] as number),
      'rate.roll.d': 16 * (plain['rate.roll.d'] as number),
    };
    const roll = (set: Values) => ringingOf(avocet, set, pads).filter((r) => r.axis === 'roll');
    expect(roll(hot)).toMatchObject([{ in: 'full', state: 'rings' }]);
    const [goes] = roll({ ...hot, 'rate.by': 'throttle', 'rate.power': 1, 'rate.highest': 3 });
    expect(goes?.in).not.toBe('full');
  });
});
