import { describe, expect, it } from 'vitest';
import { avocet, dunlin, ruff, sandpiper, turnstone } from '#core/airframe/library.ts';
import { massifH7B } from '#core/board/boards.ts';
import { pitchOf, rollOf, yawOf } from '#core/math/quaternion.ts';
import { DEG, wrapPi } from '#core/math/scalar.ts';
import { aloft, calm, farSwitch, onGround, run } from '../testing/aloft.ts';
import { pointAt, routeOf, squareAt } from '../testing/plans.ts';
import { controllerAsItComes } from './devices/controllers.ts';
import type { FlyingCraft } from './flyingCraft.ts';

const breeze = { speedMps: 5, fromDeg: 250, gustMps: 0.8 };
const away = (f: FlyingCraft, north = 0, east = 0) =>
  Math.hypot(f.plant.position[0]! - north, f.plant.position[1]! - east);
const said = (f: FlyingCraft) => f.pfad.controller.journal.decisions.map((d) => d.text).join(' | ');

describe('wings, by mode', () => {
  it('Height hold keeps its height in wind, and climbs and sinks by the stick', () => {
    const f = aloft(turnstone, { change: farSwitch('height'), wind: breeze });
    run(f, 4);
    f.radio.attitude = 2;
    run(f, 25);
    expect(f.pfad.controller.mode).toBe('height');
    const height = f.plant.height;
    let most = 0;
    run(f, 40, () => {
      most = Math.max(most, Math.abs(f.plant.height - height));
    });
    expect(most).toBeLessThan(6);
    f.radio.pitch = 1;
    run(f, 10);
    f.radio.pitch = 0;
    run(f, 10);
    expect(f.plant.height - height).toBeGreaterThan(15);
  });

  it('Course hold flies a straight line over ground across the wind', () => {
    const f = aloft(turnstone, {
      change: farSwitch('course'),
      wind: { ...breeze, speedMps: 7, fromDeg: 270 },
    });
    run(f, 6);
    f.radio.attitude = 2;
    run(f, 20);
    const course = () => Math.atan2(f.plant.velocity[1]!, f.plant.velocity[0]!);
    const held = course();
    let most = 0;
    run(f, 40, () => {
      most = Math.max(most, Math.abs(wrapPi(course() - held)));
    });
    expect(most / DEG).toBeLessThan(8);
    // It crabs: the nose points off the course into the wind.
    expect(Math.abs(wrapPi(yawOf(f.plant.attitude) - course())) / DEG).toBeGreaterThan(15);
  });

  it('Loiter here circles about the place where it was asked for', () => {
    const f = aloft(dunlin, { change: farSwitch('loiter'), wind: breeze });
    run(f, 8);
    f.radio.attitude = 2;
    const [north, east] = [f.plant.position[0]!, f.plant.position[1]!];
    run(f, 40);
    const radius = f.pfad.controller.config.loiterRadius;
    let near = Number.POSITIVE_INFINITY;
    let far = 0;
    run(f, 60, () => {
      near = Math.min(near, away(f, north, east));
      far = Math.max(far, away(f, north, east));
    });
    expect(near).toBeGreaterThan(0.6 * radius);
    expect(far).toBeLessThan(1.5 * radius);
  });

  it('Horizon levels itself below the blend and turns freely beyond it', () => {
    const f = aloft(turnstone, { change: farSwitch('horizon'), heightM: 400 });
    run(f, 3);
    f.radio.attitude = 2;
    f.radio.roll = 0.4;
    run(f, 5);
    expect(rollOf(f.plant.attitude) / DEG).toBeGreaterThan(8);
    expect(rollOf(f.plant.attitude) / DEG).toBeLessThan(30);
    f.radio.roll = 1;
    let most = 0;
    run(f, 1.5, () => {
      most = Math.max(most, rollOf(f.plant.attitude));
    });
    expect(most / DEG).toBeGreaterThan(70);
    f.radio.roll = 0;
    run(f, 5);
    expect(Math.abs(rollOf(f.plant.attitude)) / DEG).toBeLessThan(8);
  });

  it('Route passes its points in order, loiters where told, and returns', () => {
    const f = aloft(turnstone, {
      change: { ...farSwitch('route'), 'return.height': 100 },
      plan: routeOf([
        pointAt(500, 0, { heightM: 120 }),
        pointAt(500, 600, { heightM: 150, do: 'circle', seconds: 30 }),
        pointAt(0, 600, { heightM: 120 }),
      ]),
    });
    run(f, 3);
    f.radio.attitude = 2;
    const near = [9999, 9999, 9999];
    let returned = false;
    run(f, 260, () => {
      near[0] = Math.min(near[0]!, away(f, 500, 0));
      near[1] = Math.min(near[1]!, Math.abs(away(f, 500, 600) - f.pfad.controller.config.loiterRadius));
      near[2] = Math.min(near[2]!, away(f, 0, 600));
      returned ||= f.pfad.controller.mode === 'return';
    });
    expect(near[0]).toBeLessThan(50);
    expect(near[1]).toBeLessThan(15);
    expect(near[2]).toBeLessThan(50);
    expect(returned).toBe(true);
    expect(said(f)).toMatch(/point 1 done.*point 2 done.*point 3 done.*all points done/);
  });

  it('Hand launch keeps the motor still until the throw, then climbs away by itself', () => {
    const f = onGround(turnstone, farSwitch('launch'));
    f.plant.position[2] = -(38 + 1.8);
    f.radio.attitude = 2;
    f.radio.throttle = 0.8;
    f.radio.arm = true;
    run(f, 2);
    const c = f.pfad.controller;
    expect([c.armed, c.mode]).toEqual([true, 'launch']);
    expect(Math.max(...f.plant.motors.map((m) => m.omega))).toBe(0);
    f.throw(11, 45);
    run(f, 8);
    expect(f.plant.height - 38).toBeGreaterThan(15);
    run(f, 4);
    expect(said(f)).toMatch(/waits for the throw.*thrown.*done/);
  });

  it('turns back at a drawn area, and gives the sticks back inside', () => {
    const plan = routeOf([], 'return', [squareAt(0, 0, 400, { keep: 'in', toM: 0 })]);
    const f = aloft(turnstone, { change: { 'return.height': 100, 'fence.action': 'loiter' }, plan });
    let most = 0;
    run(f, 60, () => {
      most = Math.max(most, away(f));
    });
    expect(said(f)).toMatch(/outside The square. Loiters here.*Inside the fence again.*Mode: Level/);
    expect(most).toBeLessThan(700);
  });

  it('lets whoever asks for it come home from outside every area', () => {
    const plan = routeOf([], 'return', [squareAt(3000, 0, 400, { keep: 'in', toM: 0 })]);
    const f = aloft(turnstone, { change: { 'fence.action': 'loiter' }, plan });
    run(f, 6);
    expect(f.pfad.controller.mode).toBe('loiter');
    f.radio.returnHome = true;
    run(f, 3);
    expect(f.pfad.controller.mode).toBe('return');
  });

  it('turns back at the fence, and flies home when the battery is low and the settings ask for it', () => {
    const f = aloft(turnstone, { change: { 'fence.radius': 400, 'return.height': 100 } });
    run(f, 60);
    expect(said(f)).toContain('Outside the fence: too far. Returns home.');
    expect(away(f)).toBeLessThan(400);
    const b = aloft(sandpiper, { change: { 'battery.lowAction': 'return', 'return.height': 100 } });
    b.plant.battery.usedAs = 0.985 * b.plant.battery.capacityAs;
    run(b, 12);
    expect(said(b)).toContain('The battery is low: returns home.');
    expect(b.pfad.controller.mode).toBe('return');
  });

  it.each([
    ['turnstone', 4],
    ['turnstone', 8],
    ['turnstone', 11],
    ['sandpiper', 8],
  ] as const)('lands %s against %d m/s near home, softly, motor off, and disarms', (name, speedMps) => {
    const f = aloft(name === 'turnstone' ? turnstone : sandpiper, {
      change: { 'return.arrival': 'land', 'return.height': 80 },
      wind: { speedMps, fromDeg: 230, gustMps: 0.15 * speedMps },
      heightM: 90,
    });
    run(f, 2);
    f.radio.returnHome = true;
    let touched = false;
    run(f, 400, () => {
      if (touched || !f.plant.contact.touching) return;
      touched = true;
    });
    expect(touched).toBe(true);
    expect(f.plant.contact.impactMps).toBeLessThan(2.6);
    expect(away(f)).toBeLessThan(60);
    expect(said(f)).toMatch(/Lands against the wind.*On the approach.*Flares.*Landed: disarmed/);
    expect(f.pfad.controller.armed).toBe(false);
  });

  it('takes a low battery back once a long climb at full power no longer pulls it down', () => {
    const f = aloft(turnstone, { change: { 'battery.low': 3.6 }, heightM: 150 });
    f.plant.battery.charge(0.5);
    // Cells that have aged.
    f.plant.battery.resistanceOhm *= 2;
    run(f, 5);
    f.radio.pitch = 0.5;
    f.radio.throttle = 1;
    run(f, 12);
    f.radio.pitch = 0;
    f.radio.throttle = 0.4;
    expect(said(f)).toMatch(/The battery is low\./);
    run(f, 30);
    expect(said(f)).toMatch(/above its low mark again: a heavy load had pulled it down/);
    expect(f.pfad.controller.sanity.battery.low).toBe(false);
  });

  it('lands along a strip across the wind, from its downwind end', () => {
    const f = aloft(turnstone, {
      change: {
        ...{ 'return.arrival': 'land', 'return.height': 80 },
        ...{ 'land.along': 'strip', 'land.strip': 100 },
      },
      wind: { speedMps: 3, fromDeg: 230, gustMps: 0.3 },
      heightM: 90,
    });
    run(f, 2);
    f.radio.returnHome = true;
    let touched: { course: number; off: number } | null = null;
    run(f, 400, () => {
      if (touched || !f.plant.contact.touching) return;
      const [n, e] = [f.plant.velocity[0]!, f.plant.velocity[1]!];
      touched = { course: Math.atan2(e, n) / DEG, off: away(f) };
    });
    expect(touched).not.toBeNull();
    // Wind from 230 lies more against 280 than against 100.
    expect(Math.abs(wrapPi((touched!.course - 280) * DEG)) / DEG).toBeLessThan(25);
    expect(touched!.off).toBeLessThan(150);
    expect(said(f)).toMatch(/Lands along the strip, in the wind of \d m/);
  });

  it('keeps its height above the ground on the way home where terrain is on the card', () => {
    const height = (above: string) => {
      const f = aloft(turnstone, {
        change: { 'return.above': above, 'return.height': 60, 'return.climb': 'at-least' },
        heightM: 60,
      });
      // Lifted to behind Aldrygg's shoulder.
      f.plant.position[0] = 3900;
      f.plant.position[1] = -3000;
      f.plant.position[2] = -330;
      const p = f.pfad.controller.position;
      p.north = 3900;
      p.east = -3000;
      p.height = 330;
      run(f, 3);
      f.radio.returnHome = true;
      let least = Number.POSITIVE_INFINITY;
      run(f, 200, () => {
        if (away(f) > 400) least = Math.min(least, f.aboveGround);
      });
      return least;
    };
    expect(height('ground')).toBeGreaterThan(20);
  });
});

describe('rotors, by mode', () => {
  it.each([avocet, ruff].map((a) => ({ name: a.name, a })))(
    '$name hovers on the spot in a gusty wind',
    ({ a }) => {
      const f = aloft(a, {
        change: farSwitch('hover'),
        wind: { speedMps: 5, fromDeg: 30, gustMps: 1 },
        heightM: 40,
      });
      run(f, 3);
      f.radio.attitude = 2;
      run(f, 15);
      const [north, east, height] = [f.plant.position[0]!, f.plant.position[1]!, f.plant.height];
      let drift = 0;
      let off = 0;
      run(f, 40, () => {
        drift = Math.max(drift, away(f, north, east));
        off = Math.max(off, Math.abs(f.plant.height - height));
      });
      expect(drift).toBeLessThan(7);
      expect(off).toBeLessThan(2.5);
      // Leaning into the wind.
      expect(Math.hypot(rollOf(f.plant.attitude), pitchOf(f.plant.attitude)) / DEG).toBeGreaterThan(2);
    },
  );

  it('Forward as armed goes that way whatever its nose does; Forward from home comes nearer with the stick pulled', () => {
    const f = aloft(avocet, {
      change: { ...farSwitch('as-armed'), 'mode.from-home.channel': 9, 'mode.from-home.from': 1700 },
      heightM: 40,
    });
    run(f, 3);
    f.radio.attitude = 2;
    f.radio.throttle = 0.5;
    f.radio.yaw = 0.6;
    run(f, 1.5);
    f.radio.yaw = 0;
    run(f, 1);
    const turned = yawOf(f.plant.attitude);
    expect(Math.abs(wrapPi(turned))).toBeGreaterThan(0.6);
    expect(f.pfad.controller.mode).toBe('as-armed');
    f.radio.pitch = -0.6;
    run(f, 8);
    // Armed with its nose north.
    expect(f.plant.position[0]).toBeGreaterThan(25);
    expect(Math.abs(f.plant.position[1]!)).toBeLessThan(0.35 * f.plant.position[0]!);
    f.radio.switchChannel = 9;
    f.radio.switchUs = 2000;
    f.radio.pitch = 0.6;
    run(f, 3);
    expect(f.pfad.controller.mode).toBe('from-home');
    const from = away(f);
    run(f, 4);
    expect(away(f)).toBeLessThan(from - 15);
  });

  it('comes down where it is once the battery is empty, where that is asked for', () => {
    const f = aloft(avocet, {
      change: { ...farSwitch('hover'), 'battery.emptyAction': 'down' },
      heightM: 30,
    });
    run(f, 2);
    f.radio.attitude = 2;
    run(f, 3);
    f.plant.battery.charge(0.02);
    run(f, 60);
    expect(said(f)).toMatch(/empty: comes down here.*Comes down where it is/);
    expect(f.plant.height - f.ground).toBeLessThan(0.5);
    expect(f.pfad.controller.armed).toBe(false);
  });

  it('Position hold moves as fast as the stick asks, stops when it is let go, and climbs by the throttle', () => {
    const f = aloft(avocet, { change: farSwitch('position'), heightM: 40 });
    run(f, 3);
    f.radio.attitude = 2;
    f.radio.throttle = 0.5;
    run(f, 5);
    f.radio.pitch = -1;
    run(f, 6);
    const speed = Math.hypot(f.plant.velocity[0]!, f.plant.velocity[1]!);
    expect(Math.abs(speed - 8)).toBeLessThan(1.5);
    f.radio.pitch = 0;
    run(f, 8);
    expect(Math.hypot(f.plant.velocity[0]!, f.plant.velocity[1]!)).toBeLessThan(0.8);
    const height = f.plant.height;
    f.radio.throttle = 0.9;
    run(f, 5);
    expect(f.plant.height - height).toBeGreaterThan(6);
  });

  it('Rate turns as fast as the stick asks, and Level stays upright hands off', () => {
    const f = aloft(avocet, { change: farSwitch('rate'), heightM: 100 });
    run(f, 3);
    expect(Math.abs(rollOf(f.plant.attitude)) / DEG).toBeLessThan(3);
    f.radio.attitude = 2;
    f.radio.roll = 0.6;
    run(f, 0.4);
    let mean = 0;
    run(f, 0.3, () => {
      mean += f.plant.rates[0]! / 300;
    });
    const c = f.pfad.controller;
    expect(mean / (c.sticks.roll * c.loops.set.rollMax)).toBeGreaterThan(0.85);
    expect(mean / (c.sticks.roll * c.loops.set.rollMax)).toBeLessThan(1.15);
  });

  it('comes down level where it is when it has no fix and the link is lost', () => {
    const f = aloft(avocet, { heightM: 25, change: { 'lost.blind': 5 } });
    run(f, 2);
    f.devices.fail('gnss', 'dead');
    run(f, 7);
    f.radio.on = false;
    run(f, 80);
    expect(said(f)).toContain('Comes down where it is.');
    expect(f.plant.contact.impactMps).toBeLessThan(2.6);
    expect(f.pfad.controller.armed).toBe(false);
  });
});

describe('devices that fail in flight', () => {
  it.each([
    ['airspeed', 'dead', /airspeed from ground speed and wind/],
    ['airspeed', 'stuck', /airspeed from ground speed and wind/],
    ['barometer', 'dead', /./],
    ['gnss', 'slow', /./],
    ['gnss', 'noisy', /./],
    ['barometer', 'noisy', /./],
    ['gyro', 'noisy', /./],
  ] as const)('%s %s: the way home is flown all the same', (device, fault, words) => {
    const f = aloft(turnstone, { change: { 'return.height': 150 }, wind: breeze, heightM: 150 });
    run(f, 25);
    expect(f.devices.fail(device, fault)).toBe(true);
    run(f, 5);
    f.radio.on = false;
    run(f, 130);
    const c = f.pfad.controller;
    expect([c.pilot, c.home.phase]).toEqual(['return', 'circling']);
    expect(away(f)).toBeLessThan(420);
    expect(f.plant.height).toBeGreaterThan(70);
    expect(said(f)).toMatch(words);
  });

  it('a dead gyro chip is no matter where a board has two of them, and is where it has one', () => {
    const two = aloft(turnstone, { board: massifH7B, heightM: 150 });
    run(two, 10);
    two.devices.fail('gyro', 'dead');
    let most = 0;
    run(two, 30, () => {
      most = Math.max(most, Math.abs(rollOf(two.plant.attitude)) / DEG);
    });
    expect(said(two)).toContain('A gyro chip fell silent: flies by the other one.');
    expect(most).toBeLessThan(35);
    expect(two.plant.height).toBeGreaterThan(100);
    const one = aloft(turnstone, { heightM: 150 });
    run(one, 10);
    one.devices.fail('gyro', 'dead');
    run(one, 1);
    expect(said(one)).not.toContain('gyro chip');
    expect(one.pfad.controller.sensing.imuAlive).toBe(false);
  });

  it.each([0, 1] as const)(
    'motor %i of a twin stops: its controller tells, it is trimmed for and taken back',
    (motor) => {
      const telling = turnstone.motors.map(({ id }) => ({ ...controllerAsItComes(id), version: '16.4' }));
      const f = aloft(turnstone, {
        change: { ...farSwitch('course'), 'timer.1.sends': 'dshot600' },
        truth: { controllers: telling },
        wind: breeze,
        heightM: 200,
      });
      f.radio.attitude = 2;
      run(f, 40);
      const { twin } = f.pfad.controller;
      expect(twin.out).toBeNull();
      const { id } = turnstone.motors[motor]!;
      f.plant.motors[motor]!.failed = true;
      run(f, 5);
      expect(twin.out).toBe(id);
      expect(said(f)).toMatch(new RegExp(`The ${id.split('-')[0]} motor stands`));
      run(f, 20);
      expect(Math.sign(twin.yawAt(1))).toBe(id === 'left-motor' ? 1 : -1);
      expect(f.plant.height).toBeGreaterThan(120);
      f.plant.motors[motor]!.failed = false;
      run(f, 8);
      expect([twin.out, twin.yawAt(1)]).toEqual([null, 0]);
      expect(said(f)).toContain('Both motors turn again.');
    },
  );

  it('a jammed GNSS receiver says so by having no satellites, and the board flies on blind for a while', () => {
    const f = aloft(turnstone, { change: { 'return.height': 150 }, heightM: 150 });
    run(f, 20);
    f.devices.fail('gnss', 'jammed');
    run(f, 3);
    const c = f.pfad.controller;
    expect(c.satellitesUsed).toBe(0);
    expect(c.position.place.health).toBe('degraded');
    f.devices.fail('gnss', 'none');
    run(f, 15);
    expect(c.position.place.health).toBe('good');
    expect(said(f)).toContain('The fix is back.');
  });

  it('a compass that the current pulls aside is not believed once it is far off', () => {
    const f = aloft(avocet, { heightM: 60, truth: { iron: { x: 0, y: 0, z: 0, perAmp: 6 } } });
    run(f, 3);
    expect(f.pfad.controller.sensing.compassHealthy).toBe(false);
  });
});

describe('receivers and their ways of losing the link', () => {
  const lost = (
    onLoss: 'stop' | 'hold' | 'preset',
    change = {},
    protocol: 'crsf' | 'sbus' | 'pulse-train' = 'crsf',
  ) => {
    const f = aloft(turnstone, {
      change: { 'rx.protocol': protocol, 'return.height': 150, ...change },
      truth: { receiver: { protocol, onLoss } },
      wind: calm,
    });
    run(f, 3);
    f.radio.on = false;
    run(f, 6);
    return f.pfad.controller.lost.state;
  };

  it('silence is noticed by every protocol', () => {
    for (const protocol of ['crsf', 'sbus', 'pulse-train'] as const)
      expect(lost('stop', {}, protocol)).toBe('acting');
  });

  it('made-up values hide the loss, unless the board knows what they look like', () => {
    expect(lost('hold')).toBe('fine');
    expect(lost('preset')).toBe('fine');
    expect(lost('preset', { 'rx.lossBelow': 970 })).toBe('acting');
  });
});
