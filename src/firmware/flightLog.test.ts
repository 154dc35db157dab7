import { describe, expect, it } from 'vitest';
import { turnstone } from '#core/airframe/library.ts';
import { readFlightLog } from '#core/formats/flightLog.ts';
import { GYRO_BLOCK, GYRO_STEP, unpackGyro } from '#core/formats/gyroTrace.ts';
import { Random } from '#core/math/random.ts';
import { demoValues } from '../testing/demoCraft.ts';
import { compileConfig } from './config.ts';
import { FlightController } from './flightController.ts';
import { FlightLog, logFields } from './flightLog.ts';

/** A controller that only says that it is armed; the log reads nothing else of it that matters here. */
function controller(change = {}): FlightController {
  return new FlightController(compileConfig({ ...demoValues('turnstone'), ...change }), 0.001);
}

function fly(log: FlightLog, c: FlightController, seconds: number): void {
  c.armed = true;
  for (let k = 0; k < seconds * 1000; k++) {
    c.uptimeS += 0.001;
    if (k === 500) c.journal.say(c.uptimeS, `Flight begun with ${turnstone.name}.`);
    log.step(c, 0.001);
  }
  c.armed = false;
  log.step(c, 0.001);
}

const whole = (log: FlightLog, flight: number) => log.read(flight, 0, 10_000_000)!;

describe('the flight log', () => {
  it('is a CBOR sequence: a head that names the fields, samples at the chosen rate, decisions in words', () => {
    const log = new FlightLog();
    const c = controller();
    fly(log, c, 3);
    const { flight, fields, samples, decisions } = readFlightLog(whole(log, 1))!;
    expect(flight).toBe(1);
    expect(fields).toEqual([...logFields]);
    expect(samples.length).toBeGreaterThanOrEqual(29);
    expect(samples.length).toBeLessThanOrEqual(31);
    expect(samples[10]![0]! - samples[0]![0]!).toBeCloseTo(1, 2);
    expect(decisions.map((d) => d.text)).toContain('Flight begun with Turnstone 1600.');
  });

  it('writes as often as it is set to, more fields when asked, nothing when off', () => {
    const count = (change: object) => {
      const log = new FlightLog();
      fly(log, controller(change), 2);
      return log.list()[0]?.bytes ?? 0;
    };
    expect(count({ 'log.rate': '50' })).toBeGreaterThan(4 * count({ 'log.rate': '10' }));
    expect(count({ 'log.loops': true })).toBeGreaterThan(1.2 * count({}));
    expect(count({ 'log.rate': '0' })).toBe(0);
  });

  it('is bounded: the oldest flight goes as a whole, the others stay readable', () => {
    const log = new FlightLog(12_000);
    const c = controller();
    for (let k = 0; k < 6; k++) fly(log, c, 2.5);
    const flights = log.list();
    expect(flights.length).toBeLessThan(6);
    expect(flights.at(-1)!.flight).toBe(6);
    expect(flights.reduce((s, f) => s + f.bytes, 0)).toBeLessThanOrEqual(12_000);
    for (const f of flights) {
      expect(f.whole).toBe(true);
      expect(readFlightLog(whole(log, f.flight))!.flight).toBe(f.flight);
    }
    expect(log.read(1, 0, 100)).toBeNull();
  });

  it('is read up to where it was cut off; what is no log is none', () => {
    const log = new FlightLog();
    fly(log, controller(), 3);
    const bytes = whole(log, 1);
    const all = readFlightLog(bytes)!.samples;
    expect(readFlightLog(bytes.slice(0, -7))!.samples).toEqual(all.slice(0, -1));
    expect(readFlightLog(new TextEncoder().encode('no log at all'))).toBeNull();
    expect(readFlightLog(new Uint8Array())).toBeNull();
    expect(readFlightLog(bytes.slice(5))).toBeNull();
  });

  it('keeps every step of the raw gyro without loss, joined to one stretch, and as much as was written before a cut', () => {
    const log = new FlightLog();
    const c = controller({ 'log.gyro': true });
    const random = new Random(3);
    const steps: number[][] = [];
    c.armed = true;
    for (let k = 0; k < 3210; k++) {
      c.uptimeS += 0.001;
      // What a converter of 16 bits tells: whole steps, up to its end.
      const step = [30 * random.normal(), 4000 * Math.sin(k / 9), k === 2000 ? 40_000 : -32_767].map(
        (x) => Math.round(x) + 0,
      );
      steps.push(step.map((n) => Math.min(n, 32_767)));
      for (let i = 0; i < 3; i++) c.sensing.rawGyro[i] = step[i]! * GYRO_STEP;
      log.step(c, 0.001);
    }
    c.armed = false;
    log.step(c, 0.001);
    const { gyro } = readFlightLog(whole(log, 1))!;
    expect(gyro).toHaveLength(1);
    expect(gyro[0]!.stepS).toBe(0.001);
    expect(gyro[0]!.axes.map((a) => Array.from(a, (x) => Math.round(x / GYRO_STEP)))).toEqual(
      [0, 1, 2].map((i) => steps.map((s) => s[i]!)),
    );
    const cut = readFlightLog(whole(log, 1).slice(0, 9000))!.gyro;
    expect(cut[0]!.axes[0]!.length % GYRO_BLOCK).toBe(0);
    expect(cut[0]!.axes[0]!.length).toBeGreaterThan(400);
    expect(unpackGyro(Uint8Array.of(1, 2, 0x80))).toBeNull();
    expect(unpackGyro(Uint8Array.of(0xff, 0xff, 0xff, 0xff, 1, 2, 3))).toBeNull();
  });

  it('of one endless flight keeps the beginning, and is read in parts', () => {
    const log = new FlightLog(5000);
    fly(log, controller(), 20);
    expect(log.list()).toEqual([{ flight: 1, startedS: expect.any(Number), bytes: 5000, whole: true }]);
    const parts = [log.read(1, 0, 3000)!, log.read(1, 3000, 3000)!];
    expect(parts.map((p) => p.length)).toEqual([3000, 2000]);
    expect([...parts[0]!, ...parts[1]!]).toEqual([...whole(log, 1)]);
  });
});

describe('control sets', () => {
  it('are chosen by a switch on the ground, and stay in the air', () => {
    const c = controller({ 'set.active': '2', 'set.2.level.bank': 20 });
    expect(c.loops.set.bank).toBeCloseTo((20 * Math.PI) / 180, 9);
    const s = controller({ 'set.channel': 9, 'set.3.rate.roll.p': 0.5 });
    const choose = (us: number) => {
      s.input.channels[8] = us;
      s.input.fresh = true;
      (s as unknown as { listen(): void }).listen();
      return s.loops.set.roll.proportional;
    };
    const first = choose(1000);
    expect(choose(2000)).toBe(0.5);
    s.armed = true;
    s.input.armWanted = true;
    expect(choose(1000)).toBe(0.5);
    s.armed = false;
    s.input.armWanted = false;
    expect(choose(1000)).toBe(first);
  });
});
