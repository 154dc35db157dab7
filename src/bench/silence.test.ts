import { describe, expect, it } from 'vitest';
import { type AtLoss, SilenceWatch, unmasking, WATCH_S } from '#core/calibration/silence.ts';
import type { BenchTruth } from '#core/formats/benchTruth.ts';
import { Random } from '#core/math/random.ts';
import { compileConfig } from '#firmware/config.ts';
import { PilotInput } from '#firmware/pilotInput.ts';
import { Readings } from '#firmware/readings.ts';
import { demoCraft, demoValues } from '../testing/demoCraft.ts';
import { Radio } from './radio.ts';

const truth = demoCraft('turnstone').bench!;
const { channels } = truth;

type Receiver = BenchTruth['receiver'];

/** A transmitter switched off at some moment, as the board hears it, and what is said of the receiver afterwards. */
function drill(receiver: Receiver, change = {}, noiseUs = 3, seed = 1, forgets = false, lateS = 0) {
  const values = {
    ...demoValues('turnstone'),
    'rx.protocol': receiver.protocol,
    'rx.throttle.channel': channels.throttle,
    ...change,
  };
  const readings = new Readings();
  const radio = new Radio(
    channels,
    receiver,
    { ...truth.transmitter, noiseUs },
    readings,
    { joined: true, protocol: receiver.protocol, turned: false, oneWire: false },
    2,
    seed,
  );
  const input = new PilotInput(compileConfig(values));
  const watch = new SilenceWatch(channels.throttle, [
    channels.roll,
    channels.pitch,
    channels.throttle,
    channels.yaw,
  ]);
  radio.throttle = 0.45;
  radio.roll = 0.2;
  let [atS, k] = [0, 0];
  const run = (seconds: number, hand = (_: number) => {}) => {
    for (let n = 0; n < seconds * 1000; n++, k++) {
      atS += 0.001;
      hand(n / 1000);
      radio.step(true, 0.001);
      input.step(readings, 0.001);
      if (k % 40 === 0) watch.look({ atS, channels: [...input.channels], frameAge: input.frameAge });
      if (k % 200 === 0) watch.count({ atS, frames: input.frames, refused: input.refused });
    }
  };
  run(2);
  expect(watch.mark()).toBe(true);
  radio.on = forgets;
  run(1 + lateS);
  watch.off(atS);
  // Somebody who has switched it off may still stir its sticks.
  run(WATCH_S + 0.1, (s) => {
    radio.roll = Math.sin(6 * s);
  });
  return watch.found;
}

describe('what a receiver does when its transmitter is off', () => {
  const does: Readonly<Record<Receiver['onLoss'], AtLoss>> = {
    stop: 'stops',
    hold: 'holds',
    preset: 'makes-up',
    flag: 'says-so',
  };

  it('is named rightly for every protocol and behaviour, however noisy the sticks and however late it does it, within 3 s', () => {
    const random = new Random(5);
    for (let n = 0; n < 60; n++)
      for (const protocol of ['crsf', 'sbus', 'pulse-train'] as const)
        for (const onLoss of ['stop', 'hold', 'preset', 'flag'] as const) {
          if (onLoss === 'flag' && protocol === 'pulse-train') continue;
          if (n > 3 && n % 12 !== ['stop', 'hold', 'preset', 'flag'].indexOf(onLoss)) continue;
          const found = drill(
            { protocol, onLoss, afterS: 1.4 * random.uniform() },
            {},
            5 * random.uniform(),
            n,
          );
          expect(found, `${protocol} ${onLoss}`).toMatchObject({
            does: does[onLoss],
            noticed: onLoss === 'stop' || onLoss === 'flag',
          });
        }
  });

  it('is unmasked by the throttle that it makes up, where that is lower than a stick can give', () => {
    const found = drill({ protocol: 'sbus', onLoss: 'preset' });
    if (!found || 'refused' in found) throw new Error('not found');
    const edits = unmasking(found, 1000)!;
    expect(edits['rx.lossBelow']).toBeGreaterThan(955);
    expect(edits['rx.lossBelow']).toBeLessThan(1000);
    expect(drill({ protocol: 'sbus', onLoss: 'preset' }, edits)).toMatchObject({
      does: 'makes-up',
      noticed: true,
    });
    expect(unmasking({ ...found, throttleUs: 990 }, 1000)).toBeNull();
  });

  it('is unmasked by a channel that tells of the link, whichever way that counts', () => {
    for (const [noneUs, fullUs] of [
      [1000, 2000],
      [1880, 1120],
    ] as const) {
      const receiver: Receiver = {
        protocol: 'crsf',
        onLoss: 'hold',
        quality: { channel: 12, noneUs, fullUs },
      };
      const found = drill(receiver);
      expect(found).toMatchObject({ does: 'holds', noticed: false, tells: { channel: 12 } });
      if (!found || 'refused' in found) throw new Error('not found');
      const edits = unmasking(found, 1000)!;
      expect(drill(receiver, edits)).toMatchObject({ does: 'holds', noticed: true });
    }
  });

  it('that only holds, and tells nothing, cannot be told from one that hears', () => {
    const found = drill({ protocol: 'sbus', onLoss: 'hold' });
    if (!found || 'refused' in found) throw new Error('not found');
    expect(unmasking(found, 1000)).toBeNull();
  });

  it('is not begun by what was heard before the link was lost', () => {
    const watch = new SilenceWatch(1, [1, 2]);
    const channels = [1500, 1500, 1500];
    for (let k = 0; k < 25; k++) watch.look({ atS: k * 0.04, channels, frameAge: 0.02 });
    expect(watch.ready).toBe(true);
    for (let k = 0; k < 6; k++) watch.look({ atS: 1 + k * 0.04, channels, frameAge: 0.15 + k * 0.04 });
    expect(watch.ready).toBe(false);
    expect(watch.mark()).toBe(false);
  });

  it('is not said while sticks still come through', () => {
    expect(drill({ protocol: 'crsf', onLoss: 'stop' }, {}, 3, 1, true)).toHaveProperty('refused');
  });
});
