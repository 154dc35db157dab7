import { describe, expect, it } from 'vitest';
import { PositionEstimator } from '#core/estimation/position.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { demoValues } from '../testing/demoCraft.ts';
import { type BatteryView, BatteryWatch } from './batteryWatch.ts';
import { compileConfig } from './config.ts';
import { HomeFlight } from './homeFlight.ts';
import type { Sensing } from './sensing.ts';

/** The watch on hand-made estimates: home at the origin at sea level, a full pack of 5000 mAh. */
class Watch {
  readonly said: string[] = [];
  readonly position = new PositionEstimator();
  readonly watch: BatteryWatch;
  readonly home: HomeFlight;
  view: BatteryView = {
    armed: true,
    flown: true,
    homeSet: true,
    returning: false,
    supplyV: 16.6,
    usedMah: 0,
  };

  constructor(change: Values = {}, supplyV = 16.8) {
    const c = compileConfig({
      ...demoValues('turnstone'),
      'battery.watch': 'home',
      'battery.lowAction': 'return',
      'battery.homeCurrent': 10,
      'battery.climbCharge': 0,
      'return.height': 100,
      'return.speed': 20,
      ...change,
    });
    this.watch = new BatteryWatch(c.battery, (text) => this.said.push(text));
    this.home = new HomeFlight(c, () => {});
    this.home.setHome(0, 0, 0);
    this.position.place.health = 'good';
    this.position.wind.health = 'good';
    this.position.height = 100;
    this.watch.begin(supplyV, 0);
  }

  run(seconds: number, change: Partial<BatteryView> = {}): this {
    this.view = { ...this.view, ...change };
    const sensing = { position: this.position, air: { health: 'good', accuracy: 1 } } as unknown as Sensing;
    for (let t = 0; t < seconds - 1e-9; t += 0.02) this.watch.step(this.view, sensing, this.home, 0.02);
    return this;
  }
}

describe('the battery watched by the way home', () => {
  it('is low once what is left is the way home and the reserve, and says the figures', () => {
    const w = new Watch({ 'battery.reserve': 0.2 });
    w.position.north = 4000;
    w.run(20, { usedMah: 3000 });
    expect(w.watch.low).toBe(false);
    expect(w.watch.leftMah).toBeCloseTo(2000, 0);
    // 4 km at 20 m/s and 10 A, with the turn: some 620 mAh; 1000 are to be left.
    expect(w.watch.needMah).toBeGreaterThan(550);
    expect(w.watch.needMah).toBeLessThan(700);
    w.run(8, { usedMah: 3450 });
    expect(w.watch.low).toBe(true);
    expect(w.said[0]).toMatch(
      /^1550 mAh are left: 6\d\d for the way home and 1000 to be left: returns home\.$/,
    );
  });

  it('knows a battery that was not full by its voltage at arming', () => {
    const w = new Watch({}, 4 * 3.84);
    w.run(1);
    expect(w.watch.leftMah).toBeCloseTo(3000, -2);
  });

  it('is low sooner the stronger it blows against the way home', () => {
    const w = new Watch();
    w.position.north = 4000;
    w.run(60, { usedMah: 2500 });
    const calm = w.watch.needMah;
    w.position.windNorth = 10;
    w.run(200);
    expect(w.watch.needMah).toBeGreaterThan(1.5 * calm);
  });

  it('says nothing on the ground, on its way, or while a gust lasts', () => {
    const w = new Watch();
    w.position.north = 9000;
    w.run(20, { usedMah: 3900, flown: false });
    w.run(20, { flown: true, returning: true });
    w.run(4, { returning: false });
    expect(w.said).toEqual([]);
    w.run(3);
    expect(w.said).toHaveLength(1);
  });

  it('goes by the voltage where it was never told what the way home takes, or knows no place', () => {
    const blind = new Watch({ 'battery.homeCurrent': 0 });
    blind.position.north = 9000;
    blind.run(20, { usedMah: 4700 });
    expect(blind.watch.low).toBe(false);
    blind.run(8, { supplyV: 13.5 });
    expect(blind.said).toEqual(['The battery is low: returns home.']);
    const lost = new Watch();
    lost.position.place.health = 'lost';
    lost.run(8, { supplyV: 13.5 });
    expect(lost.watch.low).toBe(true);
  });

  it('by charge it is low at the reserve, wherever it is', () => {
    const w = new Watch({ 'battery.watch': 'charge', 'battery.lowAction': 'say', 'battery.reserve': 0.3 });
    w.run(10, { usedMah: 3400 });
    expect(w.watch.low).toBe(false);
    w.run(6, { usedMah: 3600 });
    expect(w.said).toEqual(['1400 mAh are left, 1500 are to be.']);
  });

  it('begins anew with each arming', () => {
    const w = new Watch({ 'battery.watch': 'charge' });
    w.run(10, { usedMah: 4500 });
    expect(w.watch.low).toBe(true);
    w.watch.begin(16.8, 4500);
    expect(w.watch.low).toBe(false);
    w.run(10);
    expect(w.watch.low).toBe(false);
  });
});
