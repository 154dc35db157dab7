import { describe, expect, it } from 'vitest';
import { GnssReceiver } from '#bench/devices/gnssReceiver.ts';
import { demoCraft, torvholm } from '../../testing/demoCraft.ts';
import { Plant } from '../flight/plant.ts';
import { ByteQueue } from '../sensors/byteQueue.ts';
import { gnssLoad, i2cShare } from './budget.ts';

/** Bytes a second that the receiver of the bench really sends, with all satellites in view. */
function sent(hz: number, view: boolean): number {
  const out = new ByteQueue(4096);
  const receiver = new GnssReceiver(3, new Plant(demoCraft('turnstone').airframe), out, torvholm.home, {
    start: 'hot',
    swapped: false,
    hz,
    view,
  });
  let bytes = 0;
  for (let ms = 0; ms < 40_000; ms++) {
    receiver.step(0.001);
    if (ms >= 20_000) bytes += out.length;
    out.clear();
  }
  return bytes / 20;
}

describe('what a GNSS receiver asks of its wire', () => {
  it.each([
    [1, true],
    [5, true],
    [10, true],
    [10, false],
  ])('at %s Hz, with satellites %s, is never less than what one sends, and not much more', (hz, view) => {
    const { wanted } = gnssLoad(hz, view, 38400);
    const real = sent(hz, view);
    expect(wanted).toBeGreaterThan(real);
    expect(wanted).toBeLessThan(1.45 * real);
  });

  it('is a tenth of the baud: start and stop bits go with each byte', () => {
    expect(gnssLoad(1, false, 9600)).toEqual({ wanted: 200, room: 960 });
  });
});

describe('an I2C bus', () => {
  it('at 400 kHz carries a compass and an airspeed sensor with room to spare', () => {
    // 100 readings of 7 + 4 bytes and 100 of 4 + 4, nine bits each, of 400,000.
    const share = i2cShare(
      [
        { device: 'compass', kind: 'i2c' },
        { device: 'airspeed', kind: 'i2c' },
      ],
      [],
    );
    expect(share).toBeCloseTo((100 * 11 * 9 + 100 * 8 * 9) / 400_000, 9);
  });

  it('counts what is soldered on it, and nothing that is no device of the bus', () => {
    expect(i2cShare([], ['barometer', 'gyro and accelerometer'])).toBeCloseTo((50 * 10 * 9) / 400_000, 9);
  });
});
