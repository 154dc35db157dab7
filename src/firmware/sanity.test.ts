import { beforeEach, describe, expect, it } from 'vitest';
import { PositionEstimator } from '#core/estimation/position.ts';
import { EMPTY_PLAN, type FlightPlan } from '#core/plan/plan.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { demoValues, torvholm } from '../testing/demoCraft.ts';
import { routeOf, squareAt } from '../testing/plans.ts';
import type { BatteryView } from './batteryWatch.ts';
import { compileConfig } from './config.ts';
import { HomeFlight } from './homeFlight.ts';
import { Sanity } from './sanity.ts';
import type { Sensing } from './sensing.ts';

const origin = { originLat: torvholm.home.lat, originLon: torvholm.home.lon };

/** The watch on hand-made estimates: home at the origin, 38 m above the sea. */
class Watch {
  readonly said: string[] = [];
  readonly position = new PositionEstimator();
  satellites = 12;
  air: 'good' | 'degraded' | 'lost' = 'good';
  view: BatteryView = {
    armed: true,
    flown: true,
    homeSet: true,
    returning: false,
    supplyV: 16,
    usedMah: 0,
  };
  readonly sanity: Sanity;
  readonly home: HomeFlight;

  constructor(change: Values = {}, plan: FlightPlan = EMPTY_PLAN) {
    const c = compileConfig({ ...demoValues('turnstone'), ...change });
    this.sanity = new Sanity(c, plan, (text) => this.said.push(text));
    this.sanity.reset(16, 0, origin);
    this.home = new HomeFlight(c, () => {});
    this.home.setHome(0, 0, 38);
    this.position.place.health = 'good';
    this.position.height = 138;
    this.run(0.02);
    this.said.length = 0;
  }

  run(seconds: number): void {
    const sensing = {
      position: this.position,
      satellites: this.satellites,
      air: { health: this.air, accuracy: 1 },
    } as unknown as Sensing;
    for (let t = 0; t < seconds - 1e-9; t += 0.02) this.sanity.step(this.view, sensing, this.home, 0.02);
  }
}

let w: Watch;
beforeEach(() => {
  w = new Watch();
});

describe('the battery', () => {
  it('is low only after five seconds below its mark, not by a short pull of the motors', () => {
    w = new Watch({ 'battery.low': 3.5, 'battery.cells': 4 });
    w.view = { ...w.view, supplyV: 13.6 };
    w.run(4);
    w.view = { ...w.view, supplyV: 15 };
    w.run(4);
    w.view = { ...w.view, supplyV: 13.6 };
    w.run(4);
    expect(w.sanity.battery.low).toBe(false);
    w.run(1.2);
    expect(w.sanity.battery.low).toBe(true);
    w.run(30);
    expect(w.said).toHaveLength(1);
  });

  it('sends it home only when that is set', () => {
    for (const [action, words] of [
      ['return', 'The battery is low: returns home.'],
      ['say', 'The battery is low.'],
    ]) {
      w = new Watch({ 'battery.lowAction': action!, 'battery.low': 3.5, 'battery.cells': 4 });
      w.view = { ...w.view, supplyV: 13.4 };
      w.run(6);
      expect(w.said).toEqual([words]);
    }
  });

  it('that is not measured at all is not called low', () => {
    w.view = { ...w.view, supplyV: 0 };
    w.run(60);
    expect(w.sanity.battery.low).toBe(false);
  });

  it('takes back what it only said when a load had sagged it, and not a way home that was begun', () => {
    for (const action of ['say', 'return']) {
      w = new Watch({ 'battery.low': 3.5, 'battery.cells': 4, 'battery.lowAction': action });
      w.view = { ...w.view, supplyV: 13.6 };
      w.run(6);
      expect(w.sanity.battery.low).toBe(true);
      w.view = { ...w.view, supplyV: 14.2 };
      w.run(30);
      // Above the mark, but not by enough.
      expect(w.sanity.battery.low).toBe(true);
      w.view = { ...w.view, supplyV: 14.8 };
      w.run(16);
      expect(w.sanity.battery.low).toBe(action === 'return');
    }
  });

  it('is empty by its voltage, or by what is left of its charge', () => {
    w = new Watch({ 'battery.empty': 3.2, 'battery.cells': 4, 'battery.emptyAction': 'down' });
    w.view = { ...w.view, supplyV: 12.7 };
    w.run(6);
    expect(w.sanity.battery.empty).toBe(true);
    expect(w.said.at(-1)).toMatch(/empty: comes down here/);
    w = new Watch({ 'battery.watch': 'charge', 'battery.capacity': 5000, 'battery.cells': 4 });
    w.view = { ...w.view, usedMah: 4900 };
    w.run(6);
    expect(w.sanity.battery.empty).toBe(true);
  });

  it('is asked anew on the next flight', () => {
    w.view = { ...w.view, supplyV: 12 };
    w.run(10);
    expect(w.sanity.battery.low).toBe(true);
    w.sanity.reset(16, 0, origin);
    expect(w.sanity.battery.low).toBe(false);
  });
});

describe('drawn fences', () => {
  it('keep in and keep out, each with its heights and by its name', () => {
    const keepIn = squareAt(0, 0, 1000, { name: 'The common', keep: 'in', toM: 150 });
    const keepOut = squareAt(500, 0, 100, { name: 'The farm', fromM: 0, toM: 80 });
    w = new Watch({}, routeOf([], 'return', [keepIn, keepOut]));
    const at = (north: number, east: number, height: number) => {
      [w.position.north, w.position.east, w.position.height] = [north, east, 38 + height];
      w.run(0.1);
      return w.sanity.outsideFence;
    };
    expect(at(0, 0, 100)).toBe(false);
    expect(at(500, 0, 100)).toBe(false);
    expect(at(500, 0, 60)).toBe(true);
    expect(w.said.at(-1)).toMatch(/inside The farm, which is to be kept out of/);
    // Just beyond its edge is not yet out of it again.
    expect(at(610, 0, 60)).toBe(true);
    expect(at(640, 0, 60)).toBe(false);
    expect(w.said.at(-1)).toBe('Inside the fence again.');
    expect(at(0, 1001, 100)).toBe(true);
    expect(w.said.at(-1)).toMatch(/outside The common/);
    expect(at(0, 0, 100)).toBe(false);
    expect(at(0, 0, 151)).toBe(true);
  });
});

describe('the fence', () => {
  const fenced = { 'fence.radius': 1000, 'fence.top': 200, 'fence.action': 'return' };

  it('is crossed outwards at its line and inwards only with some room', () => {
    w = new Watch(fenced);
    w.position.north = 1001;
    w.run(0.1);
    expect(w.sanity.outsideFence).toBe(true);
    w.position.north = 950;
    w.run(0.1);
    expect(w.sanity.outsideFence).toBe(true);
    w.position.north = 890;
    w.run(0.1);
    expect(w.sanity.outsideFence).toBe(false);
    expect(w.said).toEqual(['Outside the fence: too far. Returns home.', 'Inside the fence again.']);
  });

  it('has a top above home, not above the sea', () => {
    w = new Watch(fenced);
    w.position.height = 230;
    w.run(0.1);
    expect(w.sanity.outsideFence).toBe(false);
    w.position.height = 240;
    w.run(0.1);
    expect(w.said).toEqual(['Outside the fence: too high. Returns home.']);
  });

  it('of no size keeps nobody in', () => {
    w = new Watch({ 'fence.radius': 0, 'fence.top': 0 });
    w.position.north = 50_000;
    w.position.height = 5000;
    w.run(0.1);
    expect(w.sanity.outsideFence).toBe(false);
  });

  it('means nothing without home or place', () => {
    w = new Watch(fenced);
    w.view = { ...w.view, homeSet: false };
    w.position.north = 5000;
    w.run(0.1);
    expect(w.sanity.outsideFence).toBe(false);
  });
});

describe('satellites', () => {
  it('may be few for as long as is set, while there is a fix', () => {
    w = new Watch({ 'return.satellites': 6, 'return.fewFor': 10 });
    w.satellites = 5;
    w.run(9.5);
    expect(w.sanity.tooFew).toBe(false);
    w.run(1);
    expect(w.sanity.tooFew).toBe(true);
    w.satellites = 6;
    w.run(0.02);
    expect(w.sanity.tooFew).toBe(false);
  });
});

describe('estimates that change their health', () => {
  it('are said once each, and only in a flight', () => {
    w = new Watch({ 'lost.blind': 30 });
    w.position.place.health = 'degraded';
    w.run(1);
    w.position.place.health = 'lost';
    w.run(1);
    w.position.place.health = 'good';
    w.run(1);
    expect(w.said).toEqual([
      'No fix: goes on by speed through the air and the last wind.',
      'No fix for 30 s: the position is lost.',
      'The fix is back.',
    ]);
    w.view = { ...w.view, armed: false };
    w.position.place.health = 'lost';
    w.run(1);
    expect(w.said).toHaveLength(3);
  });

  it('of the airspeed only where a sensor is fitted', () => {
    for (const fitted of [true, false]) {
      w = new Watch({ 'pitot.fitted': fitted });
      w.air = 'degraded';
      w.run(1);
      w.air = 'lost';
      w.run(1);
      expect(w.said).toHaveLength(fitted ? 2 : 0);
    }
  });
});

describe('the time on the way home', () => {
  it('ends in giving up, said once', () => {
    w = new Watch({ 'return.timeout': 300 });
    w.view = { ...w.view, returning: true };
    w.home.begin(w.position, true);
    w.home.seconds = 299;
    w.run(1);
    expect(w.sanity.gaveUp).toBe(false);
    w.home.seconds = 301;
    w.run(5);
    expect(w.sanity.gaveUp).toBe(true);
    expect(w.said).toEqual(['On the way home for 5 min: gives up.']);
  });
});
