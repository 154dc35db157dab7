import { describe, expect, it } from 'vitest';
import type { Airframe } from '#core/airframe/airframe.ts';
import { avocet, flock, plainCraft, ruff, turnstone } from '#core/airframe/library.ts';
import { fellF7Model, massifH7A } from '#core/board/boards.ts';
import { dayFromField, densityOn, pressureOn, STANDARD_DAY } from '#core/flight/atmosphere.ts';
import { Plant } from '#core/flight/plant.ts';
import { truthFromSettings } from '#core/formats/benchTruth.ts';
import type { Scenario } from '#core/formats/scenario.ts';
import { pitchOf, rollOf } from '#core/math/quaternion.ts';
import { DEG } from '#core/math/scalar.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { aloft, prepared, run } from '../testing/aloft.ts';
import { torvholm } from '../testing/demoCraft.ts';
import { chanceLoss } from './chanceLoss.ts';
import { Devices } from './devices.ts';
import { rehearse } from './rehearsal.ts';

const fly = (airframe: Airframe, scenario: Scenario, change: Values = {}) => {
  const values = prepared(airframe, change);
  return rehearse({
    board: fellF7Model,
    airframe,
    values,
    truth: truthFromSettings(airframe, values),
    scenario,
    site: torvholm,
  });
};

const short: Scenario = {
  seed: 3,
  home: torvholm.home,
  wind: { speedMps: 5, fromDeg: 230, gustMps: 1 },
  outbound: { bearingDeg: 90, distanceM: 500, heightM: 90 },
  events: [{ atS: 60, do: 'link-lost' }],
  limitS: 900,
};

describe('every craft, on its starting values', () => {
  // Two by chance here; `npm run bench -- --returns` flies two hundred of each.
  it.each(flock.map((a) => ({ name: a.name, a })))('$name comes home from a lost link', ({ a }) => {
    for (const outage of [false, true]) {
      const result = fly(a, chanceLoss(a, torvholm, 7, outage ? 'gnss-out' : 'none'));
      expect(`${result.verdict}: ${result.reason}`).toMatch(/^home/);
    }
  });

  it.each((['quad-plus', 'hex', 'y6', 'conventional'] as const).map((kind) => ({ kind })))(
    'a plain $kind does too',
    ({ kind }) => {
      const result = fly(plainCraft(kind), short, { 'return.height': 100 });
      expect(`${result.verdict}: ${result.reason}`).toMatch(/^home/);
    },
  );

  it('a craft on wheels rolls, lifts off and comes home', () => {
    const result = fly({ ...turnstone, launch: 'wheels' }, short, { 'return.height': 100 });
    expect(`${result.verdict}: ${result.reason}`).toMatch(/^home/);
  });

  it('a craft with flaperons flies as one with ailerons', () => {
    const flaperons: Airframe = {
      ...turnstone,
      surfaces: turnstone.surfaces.map((s) =>
        s.id === 'left-aileron'
          ? { ...s, id: 'left-flaperon' }
          : s.id === 'right-aileron'
            ? { ...s, id: 'right-flaperon' }
            : s,
      ),
    };
    expect(fly(flaperons, short, { 'return.height': 100 }).verdict).toBe('home');
  });

  it('lands at home when told to, wing and rotor alike', () => {
    const result = fly(turnstone, short, { 'return.height': 80, 'return.arrival': 'land' });
    expect(result.verdict).toBe('home');
    expect(result.reason).toMatch(/^Landed/);
    expect(result.decisions.map((d) => d.text).join(' ')).toMatch(/On the approach\. Flares/);
  });

  it('reports a collision with the ground: a return too low behind a ridge', () => {
    const behind: Scenario = {
      ...short,
      outbound: { bearingDeg: 318, distanceM: 5600, heightM: 460 },
      events: [{ atS: 520, do: 'link-lost' }],
      limitS: 1500,
      wind: { speedMps: 3, fromDeg: 230, gustMps: 0 },
    };
    const result = fly(turnstone, behind, { 'return.height': 120, 'return.climb': 'climb-on-the-way' });
    expect(result.verdict).toBe('terrain');
  });
});

describe('wiring mistakes come out in the air', () => {
  it('rotors that turn against the usual way round yaw out of control, unless the settings say so', () => {
    const quad = flock.find((a) => a.kind === 'quad-x')!;
    const flipped: Airframe = {
      ...quad,
      motors: quad.motors.map((m) => ({
        ...m,
        spin: m.spin === 'clockwise' ? 'anticlockwise' : 'clockwise',
      })),
    };
    expect(fly(flipped, short, { 'return.height': 100 }).verdict).not.toBe('home');
    expect(fly(flipped, short, { 'return.height': 100, 'mix.spinFlipped': true }).verdict).toBe('home');
  });

  it('a wing flown as another kind does not stay in the air', () => {
    const wing = flock.find((a) => a.kind === 'v-tail')!;
    const values = prepared(wing);
    const truth = truthFromSettings(wing, values);
    const pads = truth.pads.map((p) =>
      p.actuator.endsWith('ruddervator') ? { ...p, direction: -1 as const } : p,
    );
    const result = rehearse({
      board: fellF7Model,
      airframe: wing,
      values,
      truth: { ...truth, pads },
      scenario: short,
      site: torvholm,
    });
    expect(['lost-control', 'terrain']).toContain(result.verdict);
    expect(result.cause).toBe('wiring');
    expect(result.reason).toMatch(/ruddervator on output \d+ answers the wrong way/);
  });
});

describe('the air of the day', () => {
  it('is the standard day when nothing else is said, and thinner when hot', () => {
    expect(densityOn(STANDARD_DAY, 0)).toBeCloseTo(1.225, 3);
    const hot = dayFromField(38, 99_000, 303.15);
    expect(pressureOn(hot, 38)).toBeCloseTo(99_000, 3);
    // Ideal gas: p/(R T).
    expect(densityOn(hot, 38)).toBeCloseTo(99_000 / (287.05287 * 303.15), 6);
  });

  it('makes a hot day cost more power in hover', () => {
    const quad = flock.find((a) => a.kind === 'quad-x')!;
    const standard = fly(
      quad,
      { ...short, outbound: { ...short.outbound, distanceM: 300 } },
      { 'return.height': 90 },
    );
    const hot = fly(
      quad,
      {
        ...short,
        outbound: { ...short.outbound, distanceM: 300 },
        air: { pressureHpa: 950, temperatureC: 35 },
      },
      { 'return.height': 90 },
    );
    expect(hot.verdict).toBe('home');
    expect(hot.usedWh / hot.seconds).toBeGreaterThan(1.03 * (standard.usedWh / standard.seconds));
  });
});

describe('two gyros on one board', () => {
  it('differ in bias and noise, and both are read', () => {
    const values = prepared(turnstone);
    const truth = truthFromSettings(turnstone, values);
    const devices = new Devices(new Plant(turnstone), truth, values, torvholm, 4, massifH7A);
    const mean = [0, 0];
    const squares = [0, 0];
    for (let k = 0; k < 20_000; k++) {
      devices.step(true, 0.001);
      devices.readings.receiver.clear();
      devices.readings.gnss.clear();
      for (const i of [0, 1]) {
        const rate = devices.readings.imus[i]!.gyro[0]!;
        mean[i]! += rate / 20_000;
        squares[i]! += rate ** 2 / 20_000;
      }
    }
    expect(devices.readings.imus[1].samples).toBe(20_000);
    expect(mean[0]).not.toBeCloseTo(mean[1]!, 4);
    const spread = (i: number) => Math.sqrt(squares[i]! - mean[i]! ** 2);
    expect(spread(1) / spread(0)).toBeCloseTo(1.7, 1);
  });

  it('warm up: the bias of the first seconds is not that of later', () => {
    const values = prepared(turnstone);
    const truth = truthFromSettings(turnstone, values);
    let most = 0;
    for (let seed = 1; seed < 5; seed++) {
      const devices = new Devices(new Plant(turnstone), truth, values, torvholm, seed, fellF7Model);
      const mean = (seconds: number) => {
        let sum = 0;
        for (let k = 0; k < seconds * 1000; k++) {
          devices.step(true, 0.001);
          devices.readings.receiver.clear();
          devices.readings.gnss.clear();
          sum += devices.readings.imus[0].gyro[1]! / (seconds * 1000);
        }
        return sum;
      };
      const cold = mean(8);
      mean(120);
      most = Math.max(most, Math.abs(mean(8) - cold));
    }
    expect(most).toBeGreaterThan(0.002);
    expect(most).toBeLessThan(0.03);
  });
});

describe('rotors thrown into fast air', () => {
  // Air across a rotor tilts its thrust and its disc; the loops have to hold the craft against that.
  it.each(
    [avocet, ruff, plainCraft('quad-plus'), plainCraft('hex'), plainCraft('y6')].map((a) => ({
      name: a.name,
      a,
    })),
  )('$name stays level within 20 degrees at 22 m/s from any side', ({ a }) => {
    for (const side of [0, 90, 180, 270]) {
      const f = aloft(a, { heightM: 300 });
      f.radio.attitude = 1;
      run(f, 1);
      f.plant.velocity[0] = 22 * Math.cos(side * DEG);
      f.plant.velocity[1] = 22 * Math.sin(side * DEG);
      let most = 0;
      run(f, 4, () => {
        most = Math.max(most, Math.abs(rollOf(f.plant.attitude)), Math.abs(pitchOf(f.plant.attitude)));
      });
      expect(most / DEG).toBeLessThan(20);
    }
  });
});
