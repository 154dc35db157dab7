import { describe, expect, it } from 'vitest';
import { DEG } from '../math/scalar.ts';
import { ArmingDrill, type ArmingNow, type TryResult } from './drill.ts';

const quiet: ArmingNow = {
  atS: 20,
  switchOn: false,
  throttle: 0,
  tilt: 0,
  rate: 0,
  armed: false,
  launch: false,
  blockers: [],
};

/** Feeds moments of 0.1 s, from a time on. */
function drill(...parts: readonly (readonly [seconds: number, change: Partial<ArmingNow>])[]): TryResult[] {
  const watch = new ArmingDrill();
  const results: TryResult[] = [];
  let atS = parts[0]![1].atS ?? 20;
  for (const [seconds, { atS: from, ...change }] of parts) {
    if (from !== undefined) atS = from;
    for (let k = 0; k < seconds * 10; k++) {
      const r = watch.look({ ...quiet, ...change, atS });
      if (r) results.push(r);
      atS += 0.1;
    }
  }
  return results;
}

describe('a drill of the arming switch', () => {
  it('sees it arm in peace, once the switch has disarmed it again', () => {
    const on = { switchOn: true, armed: true };
    expect(drill([1, {}], [1, on])).toEqual([]);
    expect(drill([1, {}], [1, on], [0.5, {}])).toEqual([{ tried: 'in-peace', good: true }]);
    // What the board says of itself comes a little later than what it hears.
    expect(drill([1, {}], [1, on], [0.3, { armed: true }], [0.3, {}])).toEqual([
      { tried: 'in-peace', good: true },
    ]);
    expect(drill([1, {}], [1, on], [0.9, { armed: true }])).toEqual([{ tried: 'in-peace', good: false }]);
  });

  it('sees it refused with the throttle up, tilted and moving, each once', () => {
    for (const [tried, change] of [
      ['throttle', { throttle: 0.5 }],
      ['tilted', { tilt: 70 * DEG }],
      ['moving', { rate: 1.5 }],
    ] as const) {
      const before = [1, change] as const;
      expect(drill(before, [3, { ...change, switchOn: true, blockers: [tried] }])).toEqual([
        { tried, good: true },
      ]);
      expect(drill(before, [3, { ...change, switchOn: true, armed: true }])).toEqual([
        { tried, good: false },
      ]);
    }
  });

  it('sees a switch that was on before the board began', () => {
    const start = { atS: 0.3, switchOn: true, blockers: ['switch-on'] };
    expect(drill([1, {}], [2, start])).toEqual([{ tried: 'at-start', good: true }]);
    expect(drill([1, {}], [2, { ...start, armed: true, blockers: [] }])).toEqual([
      { tried: 'at-start', good: false },
    ]);
  });

  it('says nothing of a switch put on while something else stands in the way, or put on and off at once', () => {
    expect(drill([1, {}], [3, { switchOn: true, blockers: ['no-fix'] }], [1, {}])).toEqual([]);
    expect(drill([1, {}], [0.2, { switchOn: true }], [1, {}])).toEqual([]);
    expect(drill([1, { switchOn: null }], [1, { switchOn: null, throttle: 1 }])).toEqual([]);
  });
});
