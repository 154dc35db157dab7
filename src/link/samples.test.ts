import { describe, expect, it } from 'vitest';
import { Samples } from './samples.ts';

const power = (supplyV: number) => ({ supplyV, currentA: 0, usedMah: 0, servoRailV: 5 });

describe('samples of a board', () => {
  it('are kept in the order of its own time; what was overtaken on the cable is let go', () => {
    const samples = new Samples();
    expect([3, 1, 2, 5, 5, 4].map((at) => samples.take('power', power(at), at))).toEqual([
      true,
      false,
      false,
      true,
      false,
      false,
    ]);
    expect(samples.newest('power')).toEqual({ atS: 5, value: power(5) });
    expect(samples.since('power', 0).map((s) => s.atS)).toEqual([3, 5]);
    expect(samples.since('power', 3).map((s) => s.value.supplyV)).toEqual([5]);
    expect(samples.since('power', 5)).toEqual([]);
  });

  it('are bounded, each group for itself', () => {
    const samples = new Samples();
    for (let k = 1; k <= 3000; k++) samples.take('power', power(k), k * 0.02);
    samples.take('outputs', { pulses: [1500] }, 1);
    const kept = samples.since('power', 0);
    expect(kept).toHaveLength(512);
    expect(kept[0]!.value.supplyV).toBe(3000 - 511);
    expect(kept.at(-1)!.value.supplyV).toBe(3000);
    expect(samples.since('outputs', 0)).toHaveLength(1);
  });

  it('are not filled up by a board that invents one group after the other', () => {
    const samples = new Samples();
    for (let k = 0; k < 1000; k++) samples.take(`g${k}`, k, 1);
    expect(samples.ofItsOwn.size).toBe(32);
    expect(samples.take('g5', 'again', 2)).toBe(true);
  });

  it('begin anew with another board or after a restart', () => {
    const samples = new Samples();
    samples.take('power', power(1), 900);
    samples.take('mood', 'calm', 900);
    samples.clear();
    expect(samples.newest('power')).toBeNull();
    expect(samples.ofItsOwn.size).toBe(0);
    expect(samples.take('power', power(2), 0.1)).toBe(true);
  });
});
