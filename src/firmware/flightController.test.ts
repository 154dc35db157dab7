import { beforeEach, describe, expect, it } from 'vitest';
import { quat, setEuler, toBody } from '#core/math/quaternion.ts';
import { DEG, GRAVITY } from '#core/math/scalar.ts';
import { NmeaWriter } from '#core/sensors/nmea.ts';
import { writeCrsfChannels } from '#core/sensors/receiverFrames.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { demoValues } from '../testing/demoCraft.ts';
import { compileConfig } from './config.ts';
import { FlightController } from './flightController.ts';
import { Readings } from './readings.ts';

/** A controller on hand-made readings: no bench, no plant. */
class Rig {
  readonly readings = new Readings();
  readonly controller: FlightController;
  private tick = 0;
  receiver = true;
  satellites = 12;
  airspeed = 0;
  readonly channels = new Float64Array(16).fill(1500);
  private readonly nmea: NmeaWriter;

  constructor(change: Values = {}) {
    this.controller = new FlightController(compileConfig({ ...demoValues('turnstone'), ...change }), 0.001);
    const r = this.readings;
    r.supplyV = 16;
    r.servoRailV = 5;
    this.nmea = new NmeaWriter(r.gnss);
    this.set({ throttle: 1000 });
    this.tilt(0, 0);
  }

  /** Channels as the demo's receiver orders them: throttle, roll, pitch, yaw, arm, attitude, navigation. */
  set(c: Partial<Record<'throttle' | 'roll' | 'pitch' | 'yaw' | 'arm' | 'attitude' | 'home', number>>): void {
    const order = ['throttle', 'roll', 'pitch', 'yaw', 'arm', 'attitude', 'home'] as const;
    order.forEach((name, i) => {
      const us = c[name];
      if (us !== undefined) this.channels[i] = us;
      else if (this.tick === 0) this.channels[i] = i > 3 ? 1000 : 1500;
    });
  }

  tilt(rollDeg: number, pitchDeg: number): void {
    const q = setEuler(quat(), rollDeg * DEG, pitchDeg * DEG, 0);
    this.readings.imus[0].accel.set(toBody(new Float64Array(3), q, Float64Array.of(0, 0, -GRAVITY)));
  }

  run(seconds: number): void {
    const r = this.readings;
    for (let k = 0; k < seconds * 1000; k++) {
      this.tick++;
      r.imus[0].samples++;
      if (this.tick % 20 === 0) {
        if (this.receiver) writeCrsfChannels(r.receiver, this.channels);
        // Honest sensors are never quite still.
        r.baro.value = 100_870 + 0.01 * (this.tick % 7);
        r.baro.samples++;
        r.pitot.value = 0.5 * 1.225 * this.airspeed ** 2 + 0.001 * (this.tick % 7);
        r.pitot.samples++;
      }
      if (this.tick % 200 === 0) this.fix();
      this.controller.step(r);
    }
  }

  private fix(): void {
    const epoch = {
      timeS: 3600 + this.tick / 1000,
      valid: this.satellites >= 4,
      lat: 61.883,
      lon: -12.43,
      heightM: 38,
      speedMps: this.airspeed,
      courseDeg: 0,
      used: this.satellites,
      hdop: 0.9,
    };
    this.nmea.rmc(epoch, 10626);
    this.nmea.gga(epoch);
  }

  arm(): void {
    this.run(4);
    this.set({ arm: 2000 });
    this.run(0.2);
    expect(this.controller.armed).toBe(true);
  }
}

let rig: Rig;
beforeEach(() => {
  rig = new Rig();
});
/** Pulse of an output, 1-based. */
const out = (n: number) => rig.controller.pulses[n - 1]!;

describe('modes by switch', () => {
  it.each([
    [1000, 1000, 'manual'],
    [1500, 1000, 'level'],
    [2000, 1000, 'rate'],
  ] as const)('attitude %i and home %i give %s', (attitude, home, mode) => {
    rig.set({ attitude, home });
    rig.run(0.2);
    expect(rig.controller.mode).toBe(mode);
  });

  it('returns home on the switch only when it has a home, else levels', () => {
    rig.arm();
    rig.airspeed = 16;
    rig.run(2);
    rig.set({ home: 2000 });
    rig.run(0.2);
    expect(rig.controller.mode).toBe('return');
    const homeless = new Rig({ 'arm.needFix': false });
    homeless.satellites = 3;
    homeless.arm();
    homeless.airspeed = 16;
    homeless.run(2);
    homeless.set({ home: 2000 });
    homeless.run(0.2);
    expect(homeless.controller.homeSet).toBe(false);
    expect(homeless.controller.mode).toBe('level');
    expect(homeless.controller.pilot).toBe('sticks');
    expect(homeless.controller.refusal).toContain('Needs a position');
  });

  it('has hysteresis: a switch resting on its edge does not chatter', () => {
    rig.set({ attitude: 1700 });
    rig.run(0.2);
    expect(rig.controller.requestedMode).toBe('level');
    rig.set({ attitude: 1705 });
    rig.run(0.2);
    expect(rig.controller.requestedMode).toBe('level');
    rig.set({ attitude: 1720 });
    rig.run(0.2);
    expect(rig.controller.requestedMode).toBe('rate');
    rig.set({ attitude: 1705 });
    rig.run(0.2);
    expect(rig.controller.requestedMode).toBe('rate');
  });
});

describe('manual', () => {
  it('moves each surface with its stick, the right way', () => {
    rig.set({ roll: 2000 });
    rig.run(0.2);
    // Right roll: left aileron down, which by the differential goes less far, and right aileron up.
    expect(out(3)).toBeGreaterThan(1600);
    expect(out(6)).toBeLessThan(1050);
    rig.set({ roll: 1500, pitch: 2000 });
    rig.run(0.2);
    // Pull: elevator up is a deflection of -1; output 4 is reversed, so the pulse is long.
    expect(out(4)).toBeGreaterThan(1950);
    rig.set({ pitch: 1500, yaw: 2000 });
    rig.run(0.2);
    // Yaw right: trailing edge right, a deflection of -1.
    expect(out(5)).toBeLessThan(1050);
  });

  it('takes a stick within the deadband as rest', () => {
    rig.set({ roll: 1503 });
    rig.run(0.2);
    expect(rig.controller.sticks.roll).toBe(0);
    expect(out(3)).toBe(1500);
  });

  it('softens the middle by expo and keeps the ends', () => {
    rig.set({ roll: 1750 });
    rig.run(0.1);
    expect(rig.controller.sticks.roll).toBeLessThan(0.48);
    rig.set({ roll: 2000 });
    rig.run(0.1);
    expect(rig.controller.sticks.roll).toBeCloseTo(1, 9);
  });
});

describe('motors', () => {
  it('stand still until armed, whatever the stick says', () => {
    rig.run(4);
    rig.set({ throttle: 2000 });
    rig.run(0.5);
    expect(out(1)).toBe(1000);
  });

  it('follow the throttle once armed, by the ramp, and stop at once at disarming', () => {
    rig.arm();
    rig.set({ throttle: 2000 });
    rig.run(0.12);
    expect(out(1)).toBeGreaterThan(1200);
    expect(out(1)).toBeLessThan(1900);
    rig.run(0.5);
    expect(out(1)).toBe(2000);
    rig.set({ arm: 1000 });
    rig.run(0.05);
    expect(out(1)).toBe(1000);
    expect(rig.controller.armed).toBe(false);
  });

  it('turn the craft together with the rudder: yaw right speeds the left motor', () => {
    rig.arm();
    rig.set({ throttle: 1600, yaw: 2000 });
    rig.run(1);
    // In the demo the right motor is on output 1.
    expect(out(2)).toBeGreaterThan(out(1) + 100);
  });
});

describe('timers', () => {
  it('send pulses at their own rate: at 50 Hz nothing changes between two of them', () => {
    const pads = [{ output: 3, pad: 'S3', timer: 2 }];
    const slow = new FlightController(compileConfig(demoValues('turnstone'), pads), 0.001);
    rig = new Rig();
    let changes = 0;
    let last = -1;
    for (let k = 0; k < 1000; k++) {
      rig.channels[1] = 1500 + (k % 400);
      if (k % 5 === 0) writeCrsfChannels(rig.readings.receiver, rig.channels);
      slow.step(rig.readings);
      if (slow.pulses[2] !== last) changes++;
      last = slow.pulses[2]!;
    }
    expect(changes).toBeGreaterThan(40);
    expect(changes).toBeLessThanOrEqual(51);
  });
});

describe('the battery before arming', () => {
  const blockers = () => rig.controller.blockers().map((b) => b.id);

  it('is named low, empty or used up', () => {
    rig.run(4);
    expect(blockers()).toEqual([]);
    rig.readings.supplyV = 13.9;
    rig.run(0.1);
    expect(blockers()).toEqual(['battery-low']);
    rig.readings.supplyV = 12.8;
    rig.run(0.1);
    expect(blockers()).toEqual(['battery-empty']);
    rig.readings.supplyV = 16;
    rig.readings.currentA = 20_000_000;
    rig.run(1);
    expect(blockers()).toEqual(['battery-used']);
  });

  it('is measured by the scale that is set', () => {
    rig = new Rig({ 'battery.scale': 0.85 });
    rig.run(4);
    expect(blockers()).toEqual(['battery-low']);
  });
});

describe('level', () => {
  beforeEach(() => {
    rig.set({ attitude: 1500 });
  });

  it('opposes roll and pitch', () => {
    rig.tilt(25, 0);
    rig.run(4);
    expect(out(3)).toBeLessThan(1450);
    expect(out(6)).toBeGreaterThan(1540);
    rig.tilt(0, 25);
    rig.run(4);
    // Nose up: elevator down, and output 4 is reversed.
    expect(out(4)).toBeLessThan(1450);
  });

  it('opposes in the craft’s axes when the board is mounted turned by a quarter', () => {
    rig = new Rig({ 'mount.yaw': 90 });
    rig.set({ attitude: 1500 });
    // The board's x points right: a craft rolled right is, to the board, nose down.
    const board = rig.readings.imus[0].accel;
    const craft = toBody(
      new Float64Array(3),
      setEuler(quat(), 25 * DEG, 0, 0),
      Float64Array.of(0, 0, -GRAVITY),
    );
    board[0] = craft[1]!;
    board[1] = -craft[0]!;
    board[2] = craft[2]!;
    rig.run(4);
    expect(rig.controller.attitude.roll / DEG).toBeCloseTo(25, 0);
    expect(out(3)).toBeLessThan(1450);
  });
});

describe('lost link in flight', () => {
  const fly = (change: Values) => {
    rig = new Rig(change);
    rig.arm();
    rig.set({ throttle: 1600, attitude: 1500 });
    rig.airspeed = 16;
    rig.run(2);
    rig.receiver = false;
  };

  it('is guarded level first, then flown home', () => {
    fly({});
    rig.run(1.5);
    expect([rig.controller.lost.state, rig.controller.pilot]).toEqual(['guarding', 'guard']);
    rig.run(2);
    expect([rig.controller.lost.state, rig.controller.pilot]).toEqual(['acting', 'return']);
  });

  it.each([
    ['cut', 'cut'],
    ['glide', 'glide'],
    ['nothing', 'nothing'],
  ] as const)('does %s when asked to', (action, pilot) => {
    fly({ 'lost.action': action });
    rig.run(4);
    expect(rig.controller.pilot).toBe(pilot);
    if (action !== 'nothing') expect(out(1)).toBe(1000);
    else expect(out(1)).toBeGreaterThan(1400);
  });

  it('glides instead of returning when the satellites are gone', () => {
    fly({ 'lost.blind': 5, 'land.disarm': 0 });
    rig.satellites = 2;
    rig.run(12);
    expect(rig.controller.pilot).toBe('glide');
  });

  it('gives the sticks back after a steady link and a moved stick', () => {
    fly({});
    rig.run(5);
    rig.receiver = true;
    rig.run(4);
    expect(rig.controller.lost.state).toBe('recovering');
    rig.set({ roll: 1900 });
    rig.run(0.3);
    expect([rig.controller.lost.state, rig.controller.pilot]).toEqual(['fine', 'sticks']);
  });
});
