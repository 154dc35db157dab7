import { beforeEach, describe, expect, it } from 'vitest';
import { StreamRing } from '#link/streamRing.ts';
import { clearTelemetry, takeTelemetry } from '../../live/telemetry.ts';
import { csvOf, GRID_HZ, streamChannels, tableOf, toldChannels, trembleOf } from './channels.ts';

beforeEach(() => clearTelemetry());

const power = (supplyV: number) => ({ supplyV, currentA: 2, usedMah: 10, servoRailV: 5 });

describe('channels', () => {
  it('are every number of every group that is live', () => {
    expect(toldChannels()).toEqual([]);
    takeTelemetry('power', power(12), 1);
    takeTelemetry('outputs', { pulses: [1000, 1500] }, 1);
    const ids = toldChannels().map((c) => c.id);
    expect(ids).toContain('power.supplyV');
    expect(ids).toContain('outputs.pulses.2');
    expect(toldChannels().find((c) => c.id === 'power.supplyV')!.unit).toBe('V');
  });

  it('stand side by side by the time of the board, each with what was said last', () => {
    for (let k = 0; k <= 50; k++) takeTelemetry('power', power(10 + k), 5 + 0.02 * k);
    const ring = new StreamRing(1, 1000);
    ring.push({
      n: 0,
      atS: 5,
      dtS: 0.02,
      values: Float32Array.from({ length: 51 }, (_, i) => 100 + i),
    } as never);
    const channels = [
      toldChannels().find((c) => c.id === 'power.supplyV')!,
      ...streamChannels([{ source: 'barometer', fields: ['pressure'], unit: 'pa', mostHz: 50 }]),
    ];
    const table = tableOf(
      channels,
      new Map([['barometer', ring]]),
      new Map([['barometer', ['pressure']]]),
      1,
    );
    expect(table.times).toHaveLength(GRID_HZ);
    expect(table.values[0]!.at(-1)).toBe(60);
    expect(table.values[1]!.at(-1)).toBe(150);
    // Half a second before: 25 samples of 0.02 s.
    expect(table.values[0]![49]).toBe(35);
    expect(table.values[1]![49]).toBe(125);
    const csv = csvOf(channels, table).split('\n');
    expect(csv[0]).toBe('t_s,power supply (V),barometer pressure (pa)');
    expect(csv[100]).toBe('0.00,60,150');
  });

  it('tremble about a slope, not by it', () => {
    const { mean, rms } = trembleOf(Float64Array.from({ length: 100 }, (_, i) => i + (i % 2 ? 1 : -1)));
    expect(mean).toBeCloseTo(49.5, 9);
    expect(rms).toBeCloseTo(1, 2);
    expect(trembleOf(new Float64Array(100).fill(Number.NaN)).rms).toBeNaN();
  });
});
