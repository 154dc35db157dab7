import { describe, expect, it } from 'vitest';
import { turnRadius } from '#core/airframe/performance.ts';
import { fellF7Model } from '#core/board/boards.ts';
import { pitchOf, rollOf, setEuler } from '#core/math/quaternion.ts';
import { DEG } from '#core/math/scalar.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { demoCraft, demoValues, torvholm } from '../testing/demoCraft.ts';
import { FlyingCraft } from './flyingCraft.ts';

const craft = demoCraft('turnstone');

/** Turnstone in the air at 300 m in Level, armed, its fix found; sticks in the test's hands. */
function airborne(wind = { speedMps: 0, fromDeg: 0, gustMps: 0 }, change: Values = {}): FlyingCraft {
  const f = new FlyingCraft(
    craft.airframe,
    fellF7Model,
    { ...demoValues('turnstone'), ...change },
    { ...craft.bench!, gnss: { start: 'hot', swapped: false, hz: 5 } },
    {
      terrain: torvholm.terrain,
      home: torvholm.home,
      year: torvholm.year,
      homeEast: 0,
      homeNorth: -2449,
      homeHeightM: 38,
      wind,
    },
    5,
  );
  f.plant.position[2] = -300;
  setEuler(f.plant.attitude, 0, 2 * DEG, 0);
  f.radio.attitude = 1;
  run(f, 8);
  f.radio.arm = true;
  run(f, 1);
  expect(f.pfad.controller.blockers()).toEqual([]);
  expect(f.pfad.controller.armed).toBe(true);
  f.held = false;
  // Sixteen metres a second through the air, whichever way that blows.
  f.plant.velocity[0] = 16 + f.wind.velocity[0]!;
  f.plant.velocity[1] = f.wind.velocity[1]!;
  f.radio.throttle = 0.5;
  return f;
}

function run(f: FlyingCraft, seconds: number, each?: () => void): void {
  for (let k = 0; k < seconds * 1000; k++) {
    f.step();
    each?.();
  }
}

describe('in Level, hands off', () => {
  it('flies wings level, and near its cruise speed and attitude on cruise throttle', () => {
    const f = airborne();
    run(f, 40);
    expect(Math.abs(rollOf(f.plant.attitude)) / DEG).toBeLessThan(2);
    expect(Math.abs(pitchOf(f.plant.attitude) / DEG - 1.6)).toBeLessThan(2);
    expect(f.plant.airspeed).toBeGreaterThan(13);
    expect(f.plant.airspeed).toBeLessThan(18);
  });

  it('rights itself from a steep bank within three seconds', () => {
    const f = airborne();
    run(f, 3);
    setEuler(f.plant.attitude, 60 * DEG, 0, 0);
    setEuler(f.pfad.controller.attitude.attitude, 60 * DEG, 0, 0);
    run(f, 3);
    expect(Math.abs(rollOf(f.plant.attitude)) / DEG).toBeLessThan(6);
  });

  it('stays upright in strong gusts', () => {
    const f = airborne({ speedMps: 9, fromDeg: 200, gustMps: 3 });
    let most = 0;
    run(f, 60, () => {
      most = Math.max(most, Math.abs(rollOf(f.plant.attitude)));
    });
    expect(most / DEG).toBeLessThan(45);
  });

  it('reaches the bank that the stick asks for, and turns with the radius V^2/(g tan bank)', () => {
    const f = airborne();
    f.radio.roll = 0.75;
    f.radio.throttle = 0.6;
    run(f, 12);
    const bank = rollOf(f.plant.attitude);
    expect(bank / DEG).toBeGreaterThan(20);
    const p = f.plant.position;
    let turned = 0;
    let way = 0;
    let last = Math.atan2(f.plant.velocity[1]!, f.plant.velocity[0]!);
    let mean = 0;
    let speed = 0;
    const n = 15_000;
    let before: readonly [number, number] = [p[0]!, p[1]!];
    run(f, n / 1000, () => {
      const course = Math.atan2(f.plant.velocity[1]!, f.plant.velocity[0]!);
      turned += Math.atan2(Math.sin(course - last), Math.cos(course - last));
      last = course;
      way += Math.hypot(p[0]! - before[0], p[1]! - before[1]);
      before = [p[0]!, p[1]!];
      mean += rollOf(f.plant.attitude) / n;
      speed += f.plant.airspeed / n;
    });
    const flown = way / turned;
    expect(flown / turnRadius(speed, mean)).toBeGreaterThan(0.9);
    expect(flown / turnRadius(speed, mean)).toBeLessThan(1.1);
  });
});

describe('what the board believes', () => {
  it('is near the truth after a minute of turning in wind', () => {
    const f = airborne({ speedMps: 6, fromDeg: 250, gustMps: 1 });
    f.radio.roll = 0.5;
    run(f, 60);
    const c = f.pfad.controller;
    expect(Math.abs(c.attitude.roll - rollOf(f.plant.attitude)) / DEG).toBeLessThan(4);
    expect(Math.abs(c.attitude.pitch - pitchOf(f.plant.attitude)) / DEG).toBeLessThan(4);
    expect(Math.abs(c.position.height - f.plant.height)).toBeLessThan(6);
    expect(
      Math.hypot(
        c.position.velocityNorth - f.plant.velocity[0]!,
        c.position.velocityEast - f.plant.velocity[1]!,
      ),
    ).toBeLessThan(2.5);
    expect(Math.abs(c.airspeed - f.plant.airspeed)).toBeLessThan(2);
  });

  it('counts the charge that was drawn', () => {
    const f = airborne();
    run(f, 30);
    const drawn = f.plant.battery.usedAs / 3.6;
    expect(Math.abs(f.pfad.controller.usedMah / drawn - 1)).toBeLessThan(0.03);
  });
});

describe('the way home, flown', () => {
  it('holds its circle within a fifth of the radius in calm air, and its height within 5 m', () => {
    const f = airborne();
    f.radio.returnHome = true;
    // It was armed in the air, so home lies at 300 m: up to the return height above that, and down again.
    run(f, 420);
    const home = f.pfad.controller.home;
    expect(home.phase).toBe('circling');
    const radius = f.pfad.controller.config.loiterRadius;
    run(f, 40, () => {
      const d = Math.hypot(f.plant.position[0]!, f.plant.position[1]!);
      if (Math.abs(d - radius) > 0.2 * radius) throw new Error(`${d} m from home`);
      if (Math.abs(f.plant.height - home.goal.height) > 5) throw new Error(`at ${f.plant.height} m`);
    });
  });

  it('gives up height rather than speed when the motors fail', () => {
    const f = airborne();
    f.radio.returnHome = true;
    run(f, 5);
    f.plant.battery.usedAs = f.plant.battery.capacityAs;
    for (const m of f.plant.motors) m.propellerFitted = false;
    run(f, 25);
    expect(f.plant.airspeed).toBeGreaterThan(9);
    expect(f.plant.height).toBeLessThan(300);
  });
});
