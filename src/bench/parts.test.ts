import { describe, expect, it } from 'vitest';
import { fellF7Model } from '#core/board/boards.ts';
import { Plant } from '#core/flight/plant.ts';
import { eastOf, northOf } from '#core/navigation/earth.ts';
import { ByteQueue } from '#core/sensors/byteQueue.ts';
import { NmeaReader } from '#core/sensors/nmea.ts';
import { CrsfReader, PulseTrainReader, SbusReader } from '#core/sensors/receiverFrames.ts';
import { Readings } from '#firmware/readings.ts';
import { demoCraft, demoValues, torvholm } from '../testing/demoCraft.ts';
import { Uart } from './devices/uart.ts';
import { Devices } from './devices.ts';
import { PRESET_THROTTLE_US, Radio } from './radio.ts';
import { Wiring } from './wiring.ts';

const craft = demoCraft('turnstone');
const truth = craft.bench!;
const values = demoValues('turnstone');

describe('the transmitter', () => {
  it('sends sticks the wrong way round, and with less travel, where it is set up so', () => {
    const readings = new Readings();
    const inHand = { ...truth.transmitter, lowRate: 0.6, reversed: ['roll' as const] };
    const wire = { joined: true, protocol: 'crsf', turned: false, oneWire: false };
    const radio = new Radio(
      truth.channels,
      { protocol: 'crsf', onLoss: 'stop' },
      inHand,
      readings,
      wire,
      2,
      1,
    );
    const reader = new CrsfReader();
    const channels = (roll: number, pitch: number, throttle: number, low: boolean) => {
      Object.assign(radio, { roll, pitch, throttle, lowRates: low });
      for (let k = 0; k < 100; k++) {
        radio.step(true, 0.001);
        while (readings.receiver.length > 0) reader.push(readings.receiver.shift());
      }
      const at = (n: number) => Math.round(reader.news.channels[n - 1]!);
      return {
        roll: at(truth.channels.roll),
        pitch: at(truth.channels.pitch),
        throttle: at(truth.channels.throttle),
      };
    };
    expect(channels(1, 1, 1, false)).toEqual({ roll: 1000, pitch: 2000, throttle: 2000 });
    // A rates switch leaves the throttle its travel.
    expect(channels(1, 1, 0, true)).toEqual({ roll: 1200, pitch: 1800, throttle: 1000 });
  });
});

describe('the radio receiver', () => {
  const listen = (protocol: 'crsf' | 'sbus' | 'pulse-train', onLoss: 'stop' | 'hold' | 'preset') => {
    const readings = new Readings();
    const radio = new Radio(
      truth.channels,
      { protocol, onLoss },
      truth.transmitter,
      readings,
      { joined: true, protocol, turned: false, oneWire: false },
      2,
      1,
    );
    const reader = protocol === 'sbus' ? new SbusReader() : new CrsfReader();
    const train = new PulseTrainReader();
    const run = (seconds: number) => {
      let frames = 0;
      for (let k = 0; k < seconds * 1000; k++) {
        radio.step(true, 0.001);
        while (readings.receiver.length > 0) if (reader.push(readings.receiver.shift())) frames++;
        for (let i = 0; i < readings.edges; i++) if (train.edge(readings.train[i]!)) frames++;
        readings.edges = 0;
      }
      return frames;
    };
    return { radio, run, channels: protocol === 'pulse-train' ? train.news.channels : reader.news.channels };
  };

  it.each([
    ['crsf', 50],
    ['sbus', 71],
    ['pulse-train', 44],
  ] as const)('speaks %s, about %i frames a second, throttle first as the demo’s does', (protocol, rate) => {
    const { radio, run, channels } = listen(protocol, 'stop');
    radio.throttle = 0.25;
    radio.roll = 1;
    radio.pitch = -1;
    const frames = run(1);
    expect(Math.abs(frames - rate)).toBeLessThanOrEqual(2);
    const near = [1250, 2000, 1000, 1500];
    for (let i = 0; i < 4; i++) expect(Math.abs(channels[i]! - near[i]!)).toBeLessThan(0.4);
  });

  it('falls silent, goes on with old values, or makes some up when the transmitter is gone', () => {
    for (const [onLoss, silent, throttle] of [
      ['stop', true, 1600],
      ['hold', false, 1600],
      ['preset', false, PRESET_THROTTLE_US],
    ] as const) {
      const { radio, run, channels } = listen('crsf', onLoss);
      radio.throttle = 0.6;
      run(0.5);
      radio.on = false;
      run(0.1);
      expect(run(0.5) === 0).toBe(silent);
      expect(Math.abs(channels[truth.channels.throttle - 1]! - throttle)).toBeLessThan(0.5);
    }
  });
});

describe('a serial wire', () => {
  const send = (device: number, port: number, swapped: boolean) => {
    const queue = new ByteQueue(4096);
    const wire = new Uart(queue, device, port, swapped ? 'swapped' : 'right', 3);
    const text = '$GNGGA,a line that means something*00\r\n';
    let got = '';
    for (let k = 0; k < 1000; k++) {
      if (k % 50 === 0) for (const ch of text) wire.out.push(ch.charCodeAt(0));
      wire.step(0.001);
      while (queue.length > 0) got += String.fromCharCode(queue.shift());
    }
    return { got, text };
  };

  it('carries bytes at its speed: at 9600 baud no more than 960 a second', () => {
    const { got, text } = send(9600, 9600, false);
    expect(got.startsWith(text)).toBe(true);
    expect(got.length).toBeLessThanOrEqual(961);
  });

  it('gives garbage at another speed and nothing when swapped', () => {
    const { got } = send(38400, 9600, false);
    expect(got.length).toBeGreaterThan(50);
    expect(got).not.toContain('GNGGA');
    expect(send(38400, 38400, true).got).toBe('');
  });
});

describe('the wiring', () => {
  const rig = () => ({
    plant: new Plant(craft.airframe),
    wiring: new Wiring(craft.airframe, truth),
    pulses: new Float64Array(9).fill(1500),
  });
  const surface = (id: string) => craft.airframe.surfaces.findIndex((s) => s.id === id);

  it('turns a long pulse into trailing edge down, and up where the pushrod is on the far side', () => {
    const { plant, wiring, pulses } = rig();
    pulses[2] = 2000;
    pulses[3] = 2000;
    for (let k = 0; k < 400; k++) wiring.step(pulses, plant, true, 0.001);
    expect(wiring.surfaces[surface('left-aileron')]).toBeCloseTo(1, 1);
    expect(wiring.surfaces[surface('elevator')]).toBeCloseTo(-1, 1);
    // All of the throw but half of the play.
    expect(plant.deflections[surface('left-aileron')]! * (180 / Math.PI)).toBeCloseTo(22 - 0.15, 3);
  });

  it('moves no faster than a servo does', () => {
    const { plant, wiring, pulses } = rig();
    pulses[2] = 2000;
    wiring.step(pulses, plant, true, 0.001);
    expect(wiring.surfaces[surface('left-aileron')]).toBeLessThan(0.02);
  });

  it('lets a motor run only after its controller has seen no throttle', () => {
    const { plant, wiring, pulses } = rig();
    // A servo's middle on a motor's pad: the settings of another craft.
    for (let k = 0; k < 3000; k++) wiring.step(pulses, plant, true, 0.001);
    expect(Math.max(...plant.duties)).toBe(0);
    pulses.fill(1000);
    for (let k = 0; k < 600; k++) wiring.step(pulses, plant, true, 0.001);
    pulses.fill(1500);
    wiring.step(pulses, plant, true, 0.001);
    expect(Math.max(...plant.duties)).toBeCloseTo(0.5, 9);
    wiring.step(pulses, plant, false, 0.001);
    wiring.step(pulses, plant, true, 0.001);
    expect(Math.max(...plant.duties)).toBe(0);
  });

  it('stands still without power or pulses', () => {
    const { plant, wiring, pulses } = rig();
    pulses.fill(2000);
    for (let k = 0; k < 400; k++) wiring.step(pulses, plant, false, 0.001);
    expect(Math.max(...wiring.surfaces.map(Math.abs))).toBe(0);
    expect(Math.max(...plant.duties)).toBe(0);
    pulses.fill(0);
    for (let k = 0; k < 400; k++) wiring.step(pulses, plant, true, 0.001);
    expect(Math.max(...wiring.surfaces.map(Math.abs))).toBe(0);
  });
});

describe('the devices', () => {
  const plantAt = () => {
    const plant = new Plant(craft.airframe);
    plant.position.set([120, -340, -200]);
    plant.velocity.set([12, -5, 0]);
    plant.rates.set([0.3, -0.1, 0.2]);
    plant.specificForce.set([0.5, 0, -9.8]);
    plant.airVelocity.set([17, 0, 0.4]);
    return plant;
  };

  it('scatter about the truth, the GNSS receiver in its own sentences', () => {
    const devices = new Devices(
      plantAt(),
      { ...truth, gnss: { ...truth.gnss, start: 'hot' } },
      values,
      torvholm,
      4,
      fellF7Model,
    );
    const r = devices.readings;
    const nmea = new NmeaReader();
    const mean = { p: 0, z: 0, air: 0, north: 0, east: 0, fixes: 0 };
    const n = 60_000;
    for (let k = 0; k < n; k++) {
      devices.step(true, 0.001);
      mean.p += r.imus[0].gyro[0]! / n;
      mean.z += r.imus[0].accel[2]! / n;
      mean.air += Math.sqrt((2 * Math.max(0, r.pitot.value)) / 1.225) / n;
      r.receiver.clear();
      while (r.gnss.length > 0) {
        if (!nmea.push(r.gnss.shift()) || !nmea.epoch.valid) continue;
        mean.fixes++;
        mean.north += northOf(torvholm.home.lat, nmea.epoch.lat);
        mean.east += eastOf(torvholm.home.lat, torvholm.home.lon, nmea.epoch.lon);
      }
    }
    expect(mean.fixes).toBeGreaterThan(280);
    expect(nmea.faults).toBe(0);
    expect(nmea.epoch.used).toBe(14);
    expect(nmea.satellites.length).toBe(18);
    expect(nmea.epoch.speedMps).toBeCloseTo(13, 0);
    expect(Math.abs(mean.p - 0.3)).toBeLessThan(0.02);
    expect(Math.abs(mean.z + 9.8)).toBeLessThan(0.2);
    expect(Math.abs(mean.air - 17)).toBeLessThan(0.1);
    expect(Math.abs(mean.north / mean.fixes - 120)).toBeLessThan(4);
    expect(Math.abs(mean.east / mean.fixes + 340)).toBeLessThan(4);
  });

  it('need their time to the first fix, longest when cold', () => {
    const firstFix = (start: 'cold' | 'warm' | 'hot') => {
      const devices = new Devices(
        plantAt(),
        { ...truth, gnss: { ...truth.gnss, start } },
        values,
        torvholm,
        4,
        fellF7Model,
      );
      const nmea = new NmeaReader();
      for (let k = 0; k < 60_000; k++) {
        devices.step(true, 0.001);
        devices.readings.receiver.clear();
        while (devices.readings.gnss.length > 0) nmea.push(devices.readings.gnss.shift());
        if (nmea.epoch.valid) return k / 1000;
      }
      return Number.POSITIVE_INFINITY;
    };
    const [hot, warm, cold] = [firstFix('hot'), firstFix('warm'), firstFix('cold')];
    expect(hot).toBeLessThan(warm);
    expect(warm).toBeLessThan(cold);
    expect(cold).toBeLessThan(40);
  });

  it('say nothing of a place when the port listens at another speed', () => {
    const devices = new Devices(
      plantAt(),
      truth,
      { ...values, 'gnss.baud': '9600' },
      torvholm,
      4,
      fellF7Model,
    );
    const nmea = new NmeaReader();
    for (let k = 0; k < 20_000; k++) {
      devices.step(true, 0.001);
      devices.readings.receiver.clear();
      while (devices.readings.gnss.length > 0) nmea.push(devices.readings.gnss.shift());
    }
    expect(nmea.bytes).toBeGreaterThan(100);
    expect(nmea.sentences).toBe(0);
    expect(nmea.epoch.valid).toBe(false);
  });

  it('measure no battery that is not in', () => {
    const devices = new Devices(plantAt(), truth, values, torvholm, 4, fellF7Model);
    devices.step(false, 0.001);
    expect([devices.readings.supplyV, devices.readings.servoRailV]).toEqual([0, 0]);
  });

  it('fail as they are told: dead says nothing, stuck says the same, noisy scatters, slow is rare', () => {
    const watch = (fault: 'none' | 'dead' | 'stuck' | 'noisy' | 'slow' | 'intermittent') => {
      const devices = new Devices(plantAt(), truth, values, torvholm, 4, fellF7Model);
      for (let k = 0; k < 100; k++) devices.step(true, 0.001);
      expect(devices.fail('barometer', fault)).toBe(true);
      const seen: number[] = [];
      let samples = devices.readings.baro.samples;
      for (let k = 0; k < 20_000; k++) {
        devices.step(true, 0.001);
        devices.readings.receiver.clear();
        devices.readings.gnss.clear();
        if (devices.readings.baro.samples === samples) continue;
        samples = devices.readings.baro.samples;
        seen.push(devices.readings.baro.value);
      }
      const mean = seen.reduce((s, v) => s + v, 0) / Math.max(1, seen.length);
      const spread = Math.sqrt(seen.reduce((s, v) => s + (v - mean) ** 2, 0) / Math.max(1, seen.length));
      return { count: seen.length, spread };
    };
    const fine = watch('none');
    expect(fine.count).toBe(1000);
    expect(watch('dead').count).toBe(0);
    expect(watch('stuck')).toEqual({ count: 1000, spread: expect.closeTo(0, 6) });
    expect(watch('noisy').spread).toBeGreaterThan(5 * fine.spread);
    expect(watch('slow').count).toBe(100);
    expect(watch('intermittent').count).toBeLessThan(990);
    expect(new Devices(plantAt(), truth, values, torvholm, 4, fellF7Model).fail('compass', 'dead')).toBe(
      false,
    );
  });
});
