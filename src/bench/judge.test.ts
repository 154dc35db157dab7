import { beforeEach, describe, expect, it } from 'vitest';
import { avocet, turnstone } from '#core/airframe/library.ts';
import { quat, setEuler } from '#core/math/quaternion.ts';
import { DEG } from '#core/math/scalar.ts';
import type { FlyingCraft } from './flyingCraft.ts';
import { JUDGE_STEP_S, Judge, type Judgement } from './judge.ts';

/** As much of a flying craft as the judge looks at, put where a test wants it. */
class Stage {
  readonly attitude = quat();
  readonly position = new Float64Array(3);
  readonly contact = { touching: false, impactMps: 0 };
  readonly battery = { empty: false, usedAs: 4000, capacityAs: 10_000 };
  readonly home = { phase: 'homeward' };
  controller = {
    pilot: 'return',
    mode: 'return',
    landed: false,
    home: this.home,
    config: { returnSpeed: 20, loiterRadius: 60, arrival: 'circle', lostAction: 'return' },
  };
  aboveGround = 100;
  ground = 40;
  airspeed = 16;
  wind = 3;
  seconds = 0;
  readonly judge: Judge;

  constructor(airframe = turnstone) {
    const stage = this;
    setEuler(this.attitude, 0, 0, 0);
    const craft = {
      plant: {
        position: this.position,
        attitude: this.attitude,
        contact: this.contact,
        battery: this.battery,
        get airspeed() {
          return stage.airspeed;
        },
        get height() {
          return stage.ground + stage.aboveGround;
        },
      },
      pfad: {
        get controller() {
          return stage.controller;
        },
      },
      get aboveGround() {
        return stage.aboveGround;
      },
      get ground() {
        return stage.ground;
      },
    } as unknown as FlyingCraft;
    this.judge = new Judge(craft, airframe, 38, () => this.wind, 1000);
  }

  at(northM: number): this {
    this.position[0] = northM;
    return this;
  }

  /** Watches for some time or until a verdict. */
  watch(seconds: number, each: () => void = () => {}): Judgement | null {
    for (let t = 0; t < seconds; t += JUDGE_STEP_S) {
      this.seconds += JUDGE_STEP_S;
      each();
      const j = this.judge.watch(this.seconds);
      if (j) return j;
    }
    return null;
  }

  hitGround(impactMps: number): Judgement | null {
    this.contact.touching = true;
    this.contact.impactMps = impactMps;
    this.aboveGround = 0.02;
    return this.watch(6);
  }
}

let s: Stage;
beforeEach(() => {
  s = new Stage();
});

describe('a flight that comes home', () => {
  it('is home once it has circled there for half a minute, with what is left of its battery', () => {
    const j = s.at(150).watch(40)!;
    expect(j.verdict).toBe('home');
    expect(j.reason).toMatch(/^Circles above home .* with 60 % of the battery left\.$/);
    expect(s.seconds).toBeCloseTo(25, 0);
  });

  it('is not home by flying past', () => {
    for (let pass = 0; pass < 5; pass++) {
      expect(s.at(100).watch(10)).toBeNull();
      expect(s.at(900).watch(5)).toBeNull();
    }
  });

  it('is not home by circling there under the pilot', () => {
    s.controller.pilot = 'sticks';
    expect(s.at(50).watch(120)).toBeNull();
  });

  it('hovers there on rotors, nearer and for less long', () => {
    const rotors = new Stage(avocet);
    expect(rotors.at(60).watch(100)).toBeNull();
    expect(rotors.at(15).watch(20)!.reason).toMatch(/^Hovers above home/);
  });

  it('has landed when it stands on the ground near home, and not while it still rolls', () => {
    s.controller.config.arrival = 'land';
    s.home.phase = 'flare';
    expect(s.at(80).watch(100)).toBeNull();
    const j = s.hitGround(0.8)!;
    expect(j).toMatchObject({ verdict: 'home' });
    expect(j.reason).toMatch(/^Landed 80 m from home/);
  });
});

describe('a flight that does not', () => {
  it('makes no progress after two and a half minutes no nearer, and the wind is named', () => {
    s.wind = 18;
    const j = s.at(2000).watch(200)!;
    expect(j.verdict).toBe('no-progress');
    expect(j.reason).toMatch(/^The wind is too strong for the return speed: it blows at \d+ m\/s/);
    expect(s.seconds).toBeCloseTo(150, 0);
  });

  it('may creep home as slowly as it likes', () => {
    let north = 2000;
    expect(
      s.watch(900, () => {
        north -= 0.3 * JUDGE_STEP_S;
        s.at(north);
      }),
    ).toBeNull();
  });

  it('may climb on the spot for as long as it climbs', () => {
    s.home.phase = 'climbing';
    expect(s.at(2000).watch(400)).toBeNull();
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
    const j = s.hitGround(12)!;
    expect(j.verdict).toBe('terrain');
    expect(j.reason).toContain('the ground at 210 m above the sea, 1.2 km from home');
  });

  it('flew into the sea where there is no ground', () => {
    s.at(1200).watch(60);
    s.ground = 0;
    expect(s.hitGround(12)!.reason).toContain('the sea');
  });

  it('stalled when it was slow, and lost its attitude when it was upside down', () => {
    s.at(1200).watch(60);
    s.airspeed = 4;
    expect(s.hitGround(9)!.reason).toMatch(/^It stalled and hit/);
    const upset = new Stage();
    upset.at(1200).watch(60);
    setEuler(upset.attitude, 170 * DEG, 0, 0);
    upset.watch(1);
    expect(upset.hitGround(9)!).toMatchObject({
      verdict: 'lost-control',
      reason: expect.stringMatching(/^It did not hold its attitude/),
    });
  });

  it('did not climb away, and surfaces are to be checked', () => {
    s.at(30).watch(8);
    expect(s.hitGround(9)!.reason).toMatch(/^It did not climb away from the launch.*right way\.$/);
  });

  it('came down because the board was told to stop the motors', () => {
    s.controller.pilot = 'cut';
    s.controller.config.lostAction = 'cut';
    s.at(900).watch(60);
    expect(s.hitGround(9)!.reason).toMatch(/the board stopped the motors, as the settings ask/);
  });

  it('never left the ground', () => {
    const rotors = new Stage(avocet);
    rotors.aboveGround = 0.5;
    expect(rotors.at(0).watch(60)!.reason).toMatch(/^It never left the ground/);
    expect(rotors.seconds).toBeCloseTo(45, 0);
  });

  it('is still out when the time is up, and it is said under which mode', () => {
    s.controller.pilot = 'sticks';
    s.controller.mode = 'level';
    s.at(3000).watch(10);
    expect(s.judge.timeOut()).toMatchObject({
      verdict: 'timeout',
      reason: expect.stringContaining('nothing had sent it home; it is 3.0 km out under Level.'),
    });
  });
});
