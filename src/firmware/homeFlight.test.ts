import { describe, expect, it } from 'vitest';
import { PositionEstimator } from '#core/estimation/position.ts';
import { GRAVITY } from '#core/math/scalar.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { demoValues } from '../testing/demoCraft.ts';
import { compileConfig } from './config.ts';
import { Steering } from './goal.ts';
import { HomeFlight, type HomeView } from './homeFlight.ts';

/** A point that does what it is told: banks at once, climbs by at most 4 m/s, flies through wind. */
function fly(
  change: Values,
  start: readonly [north: number, east: number, height: number],
  wind: readonly [number, number],
  seconds: number,
  groundAt: HomeView['groundAt'] = null,
  knowsWind = false,
) {
  const c = compileConfig({ ...demoValues('turnstone'), ...change });
  const said: string[] = [];
  const home = new HomeFlight(c, (text) => said.push(text));
  const steering = new Steering(c);
  home.setHome(0, 0, 38);
  const p = new PositionEstimator();
  [p.north, p.east, p.height] = start;
  let course = Math.PI / 2;
  const phases: string[] = [];
  let farthestInClimb = 0;
  p.velocityNorth = wind[0];
  p.velocityEast = 20 + wind[1];
  if (knowsWind) {
    [p.windNorth, p.windEast] = wind;
    p.wind.health = 'good';
  }
  const lowest = { above: Number.POSITIVE_INFINITY };
  const around = { aboveGround: Number.NaN, groundAt };
  home.begin(p, true);
  for (let k = 0; k < seconds * 50; k++) {
    home.step(p, around, 0.02);
    steering.wings(home.goal, p, c.sets[0]!.bank);
    if (phases.at(-1) !== home.phase) phases.push(home.phase);
    if (home.phase === 'climbing')
      farthestInClimb = Math.max(farthestInClimb, Math.hypot(p.north - start[0], p.east - start[1]));
    const v = home.goal.speed;
    course += ((GRAVITY * Math.tan(steering.bank)) / v) * 0.02;
    p.velocityNorth = v * Math.cos(course) + wind[0];
    p.velocityEast = v * Math.sin(course) + wind[1];
    p.north += p.velocityNorth * 0.02;
    p.east += p.velocityEast * 0.02;
    if (groundAt && home.phase !== 'final' && home.phase !== 'flare')
      lowest.above = Math.min(lowest.above, p.height - groundAt(p.north, p.east));
    p.height += Math.max(-2, Math.min(4, (home.goal.height - p.height) / 5)) * 0.02;
  }
  return { home, p, phases, farthestInClimb, said, lowest };
}

const view = { aboveGround: Number.NaN, groundAt: null };

describe('the way home', () => {
  it('climbs over the place where it began, then flies home, then circles at the arrival height', () => {
    const r = fly({}, [2000, 1500, 158], [0, 0], 600);
    expect(r.phases).toEqual(['climbing', 'homeward', 'circling']);
    expect(r.farthestInClimb).toBeLessThan(350);
    expect(r.p.height).toBeCloseTo(38 + 60, 0);
    expect(r.home.distance(r.p)).toBeGreaterThan(90);
    expect(r.home.distance(r.p)).toBeLessThan(130);
  });

  it('climbs on the way when asked to', () => {
    const r = fly({ 'return.climb': 'climb-on-the-way' }, [2000, 1500, 158], [0, 0], 400);
    expect(r.phases).toEqual(['homeward', 'circling']);
  });

  it('comes home against a wind of half its speed from any side', () => {
    for (const wind of [
      [-10, 0],
      [10, 0],
      [0, 10],
      [0, -10],
    ] as const) {
      const r = fly({}, [2000, 1500, 458], wind, 700);
      expect(r.phases.at(-1)).toBe('circling');
      expect(r.home.distance(r.p)).toBeLessThan(220);
    }
  });

  it('says that it makes no progress against a wind as fast as itself, and flies faster', () => {
    const r = fly({}, [2000, 0, 458], [25, 0], 120);
    expect(r.home.heldUp).toBeGreaterThanOrEqual(1);
    expect(r.home.goal.speed).toBe(21 + 3);
    expect(r.said.some((s) => s.includes('flies 3 m/s faster'))).toBe(true);
  });

  it('only circles when the link is lost near home', () => {
    const r = fly({ 'lost.near': 300 }, [100, 100, 90], [0, 0], 60);
    expect(r.phases).toEqual(['circling']);
    expect(r.p.height).toBeLessThan(110);
  });

  it('goes home anew when it is blown out of its circle', () => {
    const r = fly({}, [100, 100, 458], [0, 0], 60);
    expect(r.home.phase).toBe('circling');
    r.p.north = 3000;
    r.home.step(r.p, view, 0.02);
    expect(r.home.phase).toBe('homeward');
  });

  it('flies circles the other way round when asked to', () => {
    const turn = (sense: string) => {
      const r = fly({ 'loiter.sense': sense }, [300, 0, 98], [0, 0], 120);
      return Math.sign(r.p.north * r.p.velocityEast - r.p.east * r.p.velocityNorth);
    };
    expect(turn('clockwise')).toBe(1);
    expect(turn('anticlockwise')).toBe(-1);
  });

  it('does not circle for ever where it cannot climb', () => {
    const c = compileConfig(demoValues('turnstone'));
    const said: string[] = [];
    const home = new HomeFlight(c, (text) => said.push(text));
    home.setHome(0, 0, 38);
    const p = new PositionEstimator();
    [p.north, p.east, p.height] = [1000, 0, 150];
    home.begin(p, true);
    for (let k = 0; k < 40 * 50; k++) home.step(p, view, 0.02);
    expect(home.phase).toBe('homeward');
    expect(said.at(-1)).toContain('gained no height for 30 s');
    expect(home.goal.height).toBe(150);
  });

  it('goes faster, then lower, then says that the wind is stronger', () => {
    const r = fly({ 'return.watch': 20 }, [2000, 0, 458], [26, 0], 120);
    expect(r.home.heldUp).toBe(3);
    expect(r.said.join(' ')).toMatch(
      /flies 3 m\/s faster.*goes down to \d+ m above home.*wind is stronger than the craft/,
    );
  });
});

describe('where the ground is known', () => {
  it('circles as low as the ground about home lets it, and says so', () => {
    // A knoll of 75 m above home, 80 m to the north.
    const knoll = (n: number, e: number) => (Math.hypot(n - 80, e) < 70 ? 113 : 38);
    const r = fly({}, [900, 900, 300], [0, 0], 700, knoll);
    expect(r.phases.at(-1)).toBe('circling');
    expect(r.p.height - 38).toBeGreaterThan(100);
    expect(r.lowest.above).toBeGreaterThan(25);
    expect(r.said.join(' ')).toMatch(/ground under its circle is too high for 60 m: circles at 105 m/);
  });

  it('sinks to the arrival height where it has room', () => {
    const r = fly({}, [900, 900, 300], [0, 0], 700, () => 38);
    expect(r.p.height).toBeCloseTo(38 + 60, 0);
    expect(r.said.join(' ')).not.toMatch(/too high/);
  });

  it('begins its approach over ground that it clears', () => {
    const hill = (n: number, e: number) => (n > 200 ? 38 + 0.15 * (n - 200) : 38 + 0 * e);
    const r = fly({ 'return.arrival': 'land' }, [-900, 0, 200], [5, 0], 900, hill, true);
    expect(r.said.join(' ')).toMatch(/Lands against the wind of 5 m\/s/);
    expect(r.lowest.above).toBeGreaterThan(5);
  });
});

describe('in strong wind', () => {
  it('gives up a climb that carries it away, and climbs on the way', () => {
    const r = fly({ 'return.height': 400 }, [300, 0, 98], [30, 0], 120);
    expect(r.said.join(' ')).toMatch(/The wind carries it away while it climbs/);
    expect(r.phases.slice(0, 2)).toEqual(['climbing', 'homeward']);
  });

  it('does not climb into a wind as fast as itself where the way is clear below', () => {
    const r = fly({ 'return.height': 400 }, [300, 0, 98], [20, 0], 30, () => 38, true);
    expect(r.said.join(' ')).toMatch(/nearly as fast as the craft: turns for home at this height/);
    // With a ridge in between it has to climb.
    const ridge = (n: number) => (n > 100 && n < 200 ? 300 : 38);
    const over = fly({ 'return.height': 400 }, [300, 0, 98], [20, 0], 5, ridge, true);
    expect(over.phases).toEqual(['climbing']);
  });

  it('approaches faster by the wind, and does not land in a gale', () => {
    const speedOnFinal = (wind: number) => {
      let speed = 0;
      const r = fly({ 'return.arrival': 'land' }, [-900, 0, 120], [wind, 0], 600, null, true);
      speed = r.home.goal.speed;
      return { speed, said: r.said.join(' ') };
    };
    expect(speedOnFinal(9).said).toMatch(/On the approach/);
    expect(speedOnFinal(17).said).toMatch(/too strong to land in: circles/);
    expect(speedOnFinal(17).said).not.toMatch(/On the approach/);
  });

  it('goes round when it is beside its line, and after three approaches stays up', () => {
    // Sixty metres to the side of where it believes its line: blown there each time close to home.
    const c = compileConfig({ ...demoValues('turnstone'), 'return.arrival': 'land' });
    const said: string[] = [];
    const home = new HomeFlight(c, (text) => said.push(text));
    home.setHome(0, 0, 38);
    const p = new PositionEstimator();
    p.height = 38 + c.land.height;
    home.begin(p, true);
    for (let k = 0; k < 4; k++) {
      home.phase = 'circling';
      [p.north, p.east] = [40, 0];
      home.step(p, view, 0.02);
      if ((home.phase as string) !== 'gate') break;
      // At the gate, flying home: onto the approach.
      const gate = home.goal;
      home.step(p, view, 0.02);
      [p.north, p.east] = [gate.north, gate.east];
      [p.velocityNorth, p.velocityEast] = [-18, 0];
      home.step(p, view, 0.02);
      expect(home.phase).toBe('final');
      [p.north, p.east] = [90, 60];
      home.step(p, view, 0.02);
    }
    const text = said.join(' ');
    expect(text.match(/Beside the line of the approach: goes round/g)).toHaveLength(2);
    expect(text).toMatch(/lands no more and circles above home/);
  });
});

describe('the time on the way', () => {
  it('does not count above home: circling there for an hour is no return that failed', () => {
    const r = fly({}, [300, 200, 158], [0, 0], 500);
    expect(r.phases.at(-1)).toBe('circling');
    expect(r.home.seconds).toBeLessThan(200);
  });
});
