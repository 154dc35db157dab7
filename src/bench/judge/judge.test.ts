import { beforeEach, describe, expect, it } from 'vitest';
import { avocet, turnstone } from '#core/airframe/library.ts';
import { setEuler } from '#core/math/quaternion.ts';
import { DEG } from '#core/math/scalar.ts';
import { Stage } from '../../testing/judgeStage.ts';
import { JUDGE_STEP_S } from './evidence.ts';
import type { Mistake } from './mistakes.ts';

let s: Stage;
beforeEach(() => {
  s = new Stage();
});

describe('home is the end of the whole return', () => {
  it('two full circles at the last height with room below', () => {
    const j = s.at(150).circle(100)!;
    expect(j.verdict).toBe('home');
    expect(j.reason).toMatch(/^Circles above home .* 100 m above the ground, with 60 % of the battery left/);
    expect(s.seconds).toBeCloseTo(60, 0);
  });

  it('not a moment near it, while it still climbs or sinks, or flies past', () => {
    s.home.phase = 'climbing';
    expect(s.at(50).watch(200)).toBeNull();
    const sinking = new Stage();
    sinking.believed.height = 240;
    expect(sinking.circle(200)).toBeNull();
    const passing = new Stage();
    for (let pass = 0; pass < 5; pass++) {
      expect(passing.at(100).watch(10)).toBeNull();
      expect(passing.at(900).watch(5)).toBeNull();
    }
  });

  it('after a way down that took as long as it liked', () => {
    s.believed.height = 400;
    s.home.phase = 'circling';
    expect(s.circle(400)).toBeNull();
    s.believed.height = 98;
    expect(s.circle(100)!.verdict).toBe('home');
  });

  it('not where it has reached its height and closes no circle', () => {
    s.home.phase = 'circling';
    expect(s.at(60).watch(300)).toMatchObject({
      verdict: 'no-progress',
      reason: expect.stringContaining('It reaches home and cannot circle there'),
    });
  });

  it('not by circling there under the pilot', () => {
    s.controller.pilot = 'sticks';
    expect(s.circle(200)).toBeNull();
  });

  it('not before the last thing of the scenario has happened and been lived through', () => {
    const later = new Stage(turnstone, [], 150);
    expect(later.at(70).circle(400)!.verdict).toBe('home');
    expect(later.seconds).toBeGreaterThan(150 + 20 + 59);
  });

  it('not where the circle has no room over the ground', () => {
    s.aboveGround = 9;
    expect(s.circle(200)).toMatchObject({
      verdict: 'terrain',
      cause: 'ground',
      settings: ['return.arrivalHeight'],
    });
  });

  it('not where the battery ends within ten minutes and nothing lands it', () => {
    s.battery.usedAs = 9500;
    expect(s.circle(200)).toMatchObject({
      verdict: 'energy',
      cause: 'power',
      reason: expect.stringMatching(/5 % of the battery left, which lasts .* nothing lands it/),
    });
  });

  it('not where the board takes another place for home', () => {
    s.circle(20);
    const j = s.watch(200, (t) => {
      const a = (2 * Math.PI * t) / 30;
      s.at(70 * Math.cos(a), 70 * Math.sin(a));
      s.believed.north += 120;
    });
    expect(j).toMatchObject({ verdict: 'astray', cause: 'estimate' });
  });

  it('half a minute over home on rotors', () => {
    const rotors = new Stage(avocet);
    rotors.home.phase = 'circling';
    expect(rotors.at(60).watch(100)).toBeNull();
    expect(rotors.at(15).watch(40)!.reason).toMatch(/^Hovers above home/);
  });

  it('or down, upright, stopped and disarmed near it', () => {
    s.controller.config.arrival = 'land';
    s.at(80).watch(5);
    s.home.phase = 'flare';
    s.touch(1.2, 9);
    expect(s.watch(2)).toBeNull();
    const j = s.rest().watch(6)!;
    expect(j).toMatchObject({ verdict: 'home' });
    expect(j.reason).toMatch(/^Landed 80 m from home .* upright, motors stopped and disarmed/);
  });
});

describe('a landing that is none', () => {
  const flaring = (stage = s) => {
    stage.at(30).watch(5);
    stage.home.phase = stage === s ? 'flare' : 'descending';
    return stage;
  };

  it('is too hard downwards, or sideways', () => {
    expect(flaring().touch(3.4, 8).watch(1)).toMatchObject({
      verdict: 'bad-landing',
      reason: expect.stringContaining('at 3.4 m/s downwards'),
    });
    const rotors = flaring(new Stage(avocet));
    expect(rotors.touch(0.5, 0, 2.9).watch(1)!.reason).toContain('2.9 m/s across the ground');
  });

  it('blames no device that the craft does not fly by', () => {
    s.judge.evidence.fault(2, 'compass', 'dead');
    s.judge.evidence.fault(2, 'voltage', 'dead');
    expect(flaring().touch(3.4, 8).watch(1)!.cause).not.toBe('device');
    const noisy = new Stage();
    noisy.judge.evidence.fault(2, 'gnss', 'noisy');
    noisy.at(30).watch(5);
    noisy.home.phase = 'flare';
    expect(noisy.touch(3.4, 8).watch(1)!.cause).toBe('device');
  });

  it('tips over afterwards', () => {
    flaring().touch(1);
    expect(s.watch(1)).toBeNull();
    setEuler(s.attitude, 85 * DEG, 0, 0);
    expect(s.watch(1)).toMatchObject({
      verdict: 'bad-landing',
      reason: expect.stringContaining('tipped over'),
    });
  });

  it('leaves its motors running, and the setting is named that leaves it so', () => {
    s.controller.config.land.disarm = 0;
    flaring().touch(1);
    s.velocity.fill(0);
    expect(s.watch(60)).toMatchObject({
      verdict: 'bad-landing',
      reason: expect.stringContaining('its motors went on turning'),
      settings: ['land.disarm'],
    });
  });
});

describe('a flight that does not come home', () => {
  it('makes no progress after two and a half minutes no nearer, and the wind is named', () => {
    s.judge.windAt10 = 18;
    const j = s.at(2000).watch(200)!;
    expect(j).toMatchObject({ verdict: 'no-progress', cause: 'wind' });
    expect(j.reason).toMatch(/The wind is too strong for the return speed: it blows at \d+ m\/s/);
    expect(s.seconds).toBeCloseTo(150, 0);
  });

  it('never blames a wind that is not there', () => {
    s.judge.windAt10 = 0;
    const j = s.at(2000).watch(200)!;
    expect(j.cause).not.toBe('wind');
    expect(j.reason).not.toMatch(/wind is too strong/);
  });

  it('goes astray where the board believes itself elsewhere, and the receiver is named that said so', () => {
    s.judge.evidence.fault(1, 'gnss', 'stuck');
    s.at(2000).watch(1);
    s.believed.north = 400;
    expect(s.watch(300)).toMatchObject({
      verdict: 'astray',
      cause: 'device',
      reason: expect.stringContaining('The GNSS receiver went on saying the same at 1 s'),
    });
  });

  it('may creep home as slowly as it likes, and climb on the spot for as long as it climbs', () => {
    let north = 2000;
    expect(
      s.watch(900, () => {
        north -= 0.3 * JUDGE_STEP_S;
        s.at(north);
      }),
    ).toBeNull();
    const climbing = new Stage();
    climbing.home.phase = 'climbing';
    expect(climbing.at(2000).watch(400)).toBeNull();
  });

  it('has an empty battery', () => {
    s.at(1500).watch(1);
    s.battery.empty = true;
    expect(s.watch(1)).toMatchObject({
      verdict: 'energy',
      reason: expect.stringContaining('1.5 km from home'),
    });
  });

  it('flew into the ground when it had its attitude and speed', () => {
    s.at(1200).watch(60);
    s.ground = 210;
    expect(s.touch(12).watch(1)).toMatchObject({
      verdict: 'terrain',
      cause: 'ground',
      reason: expect.stringContaining('the ground at 210 m above the sea, 1.2 km from home'),
      settings: expect.arrayContaining(['return.height']),
    });
  });

  it('was thrown at a hill by its pilot, which is no fault of its surfaces', () => {
    s.controller.pilot = 'sticks';
    s.controller.lost.state = 'fine';
    s.aboveGround = 12;
    s.at(140).watch(8);
    s.ground = 93;
    const j = s.touch(9).watch(1)!;
    expect(j).toMatchObject({ verdict: 'terrain', cause: 'pilot' });
    expect(j.reason).toMatch(/launched it against the wind towards ground that rises 55 m above home/);
  });

  it('stalled when it was slow', () => {
    s.at(1200).watch(60);
    s.airspeed = 4;
    s.airVelocity.set([3.5, 0, 2]);
    s.watch(2);
    expect(s.touch(9).watch(1)!.reason).toMatch(/^It stalled and hit/);
  });

  it('went over for good, and a balance behind the neutral point is named', () => {
    const mistake: Mistake = {
      cause: 'balance',
      weight: 0.9,
      text: 'The balance lies 20 mm behind the aft limit.',
      settings: [],
    };
    const upset = new Stage(turnstone, [mistake]);
    upset.at(1200).watch(30);
    setEuler(upset.attitude, 170 * DEG, 0, 0);
    expect(upset.watch(10)).toMatchObject({ verdict: 'lost-control', cause: 'balance' });
    expect(upset.seconds).toBeLessThan(36);
  });

  it('tumbled because the board was told to do nothing', () => {
    s.controller.config.lostAction = 'nothing';
    s.controller.pilot = 'nothing';
    s.at(800).watch(30);
    setEuler(s.attitude, 120 * DEG, 0, 0);
    expect(s.watch(10)).toMatchObject({
      verdict: 'lost-control',
      cause: 'setting',
      settings: ['lost.action'],
      reason: expect.stringContaining('nothing held its attitude any more'),
    });
  });

  it('sank under full throttle for what a receiver that stands still made the board believe', () => {
    const rotors = new Stage(avocet);
    rotors.at(600).watch(30);
    rotors.judge.evidence.fault(rotors.seconds, 'gnss', 'stuck');
    rotors.believed.north += 200;
    rotors.watch(5);
    rotors.controller.command.throttle = 1;
    rotors.velocity[2] = 6;
    rotors.watch(8);
    const j = rotors.touch(6).watch(1)!;
    expect(j).toMatchObject({ cause: 'device' });
    expect(j.reason).toMatch(/The GNSS receiver went on saying the same .*, and the board went by it/);
  });

  it('lost its gyro, whatever else is odd about it', () => {
    s.judge.evidence.fault(30, 'gyro', 'dead');
    s.at(1200).watch(31);
    setEuler(s.attitude, 170 * DEG, 0, 0);
    expect(s.watch(10)).toMatchObject({ verdict: 'lost-control', cause: 'device', causeAtS: 30 });
  });

  it('broke its wing', () => {
    s.at(1200).watch(10);
    s.broken = true;
    expect(s.watch(1)).toMatchObject({ verdict: 'broken', cause: 'structure' });
  });

  it.each([
    ['position-lost', /lost its position/, 'lost.blind'],
    ['few-satellites', /used 14 satellites, and its settings ask for 6/, 'return.satellites'],
    ['gave-up', /gave up the way home after 30 min/, 'return.timeout'],
    ['no-home', /no home to return to/, 'arm.needFix'],
  ])('came down out there since the board could not return: %s', (why, words, key) => {
    s.at(900).watch(5);
    s.controller.pilot = 'glide';
    s.controller.noReturn = () => why;
    s.watch(5);
    s.touch(1, 8);
    s.watch(1);
    const j = s.rest().watch(8)!;
    expect(j.verdict).toBe('elsewhere');
    expect(j.reason).toMatch(words);
    expect(j.settings).toContain(key);
  });

  it('came down softly far from home because the board was told to, and had disarmed by then', () => {
    s.controller.config.lostAction = 'glide';
    s.controller.pilot = 'glide';
    s.at(900).watch(60);
    expect(s.touch(0.5).watch(0.1)).toBeNull();
    s.controller.pilot = 'sticks';
    expect(s.rest().watch(8)).toMatchObject({
      verdict: 'elsewhere',
      settings: ['lost.action'],
      reason: expect.stringMatching(/the board glided it down 900 m from home.*So the settings ask/),
    });
  });

  it('came down because the board was told to stop the motors', () => {
    s.controller.config.lostAction = 'cut';
    s.controller.pilot = 'cut';
    s.at(900).watch(60);
    const j = s.touch(9).watch(1)!;
    expect(j).toMatchObject({ verdict: 'elsewhere', settings: ['lost.action'] });
    expect(j.reason).toMatch(/the board stopped the motors, and the craft fell.*So the settings ask/);
  });

  it('never left the ground', () => {
    const rotors = new Stage(avocet);
    rotors.aboveGround = 0.5;
    expect(rotors.at(0).watch(60)).toMatchObject({
      verdict: 'not-flown',
      reason: expect.stringMatching(/^It never left the ground/),
    });
    expect(rotors.seconds).toBeCloseTo(45, 0);
  });

  it('is still out when the time is up, and it is said under which mode', () => {
    s.controller.pilot = 'sticks';
    s.controller.mode = 'level';
    s.controller.lost.state = 'fine';
    s.at(3000).watch(10);
    expect(s.judge.timeOut()).toMatchObject({
      verdict: 'timeout',
      reason: expect.stringContaining('nothing had sent it home; it is 3.0 km out under Level.'),
    });
  });

  it('had too little time to show how it ends, and nothing is blamed for it', () => {
    s.controller.home.phase = 'circling';
    s.at(90).watch(100);
    expect(s.judge.timeOut()).toMatchObject({
      verdict: 'timeout',
      cause: 'nothing',
      reason: expect.stringMatching(/it was at home and had yet to come down.*the time was too short/),
    });
  });

  it('ended in numbers that cannot be, which are said to be ours', () => {
    s.at(1200).watch(1);
    s.velocity[0] = Number.NaN;
    expect(s.watch(1)).toMatchObject({
      verdict: 'invalid',
      cause: 'bench',
      reason: expect.stringContaining('Please report it'),
    });
  });
});
