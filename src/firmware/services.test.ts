import { describe, expect, it } from 'vitest';
import { BenchBoard, shelfFor } from '#bench/benchBoard.ts';
import { BenchWorld } from '#bench/benchWorld.ts';
import { avocet } from '#core/airframe/library.ts';
import { truthFromSettings } from '#core/formats/benchTruth.ts';
import { prepared } from '../testing/aloft.ts';
import { torvholm } from '../testing/demoCraft.ts';
import { servicesOf } from './services.ts';

/** What a bus does in twenty seconds, with and without pull-ups. */
function bus(speed: '100' | '400', pullUps: boolean) {
  const values = prepared(avocet, { 'bus.speed': speed, 'compass.fitted': true });
  const board = BenchBoard.fresh(shelfFor('fell-f7')[0]!, values);
  const world = new BenchWorld(
    avocet,
    { ...truthFromSettings(avocet, values), pullUps },
    board,
    11,
    torvholm,
  );
  Object.assign(world.controls, { usb: true, battery: true });
  for (let k = 0; k < 20_000; k++) world.step();
  const told = servicesOf(world.pfad!, world.readings!, 0.004, 3);
  const [gyro, baro, lateMs, damaged, streams, logUsed, logRoom, khz, share, reads, errors] =
    told as number[];
  return {
    gyro,
    baro,
    lateMs,
    damaged,
    streams,
    logUsed,
    logRoom,
    khz,
    share,
    reads: reads!,
    errors: errors!,
  };
}

describe('the services of a board', () => {
  it('are counted: samples in twenty seconds, frames, log, and how full the bus is', () => {
    const fast = bus('400', true);
    expect(fast).toMatchObject({
      lateMs: 4,
      damaged: 3,
      streams: 0,
      logUsed: 0,
      logRoom: 4_000_000,
      khz: 400,
    });
    // A gyro a thousand times a second, a barometer fifty times.
    expect(fast.gyro! / 20_000).toBeCloseTo(1, 2);
    expect(fast.baro! / 1000).toBeCloseTo(1, 2);
    // Four times as long at a quarter of the speed.
    expect(bus('100', true).share! / fast.share!).toBeCloseTo(4, 6);
  });

  it('count readings that a bus without pull-ups loses: many when it is fast, few when it is slow, none with them', () => {
    expect(bus('400', true).errors).toBe(0);
    const fast = bus('400', false);
    expect(fast.reads).toBeGreaterThan(900);
    expect(fast.errors / fast.reads).toBeGreaterThan(0.03);
    const slow = bus('100', false);
    expect(slow.errors / slow.reads).toBeLessThan(0.01);
  });
});
