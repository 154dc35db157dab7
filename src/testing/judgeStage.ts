import { launchOf } from '#core/airframe/launch.ts';
import { turnstone } from '#core/airframe/library.ts';
import { quat, setEuler } from '#core/math/quaternion.ts';
import type { FlyingCraft } from '../bench/flyingCraft.ts';
import { JUDGE_STEP_S } from '../bench/judge/evidence.ts';
import { Judge } from '../bench/judge/judge.ts';
import type { Judgement } from '../bench/judge/judgement.ts';
import type { Mistake } from '../bench/judge/mistakes.ts';

/** As much of a flying craft as the judge looks at, put where a test wants it. */
export class Stage {
  readonly attitude = quat();
  readonly position = new Float64Array(3);
  readonly velocity = new Float64Array(3);
  readonly rates = new Float64Array(3);
  readonly airVelocity = Float64Array.of(16, 0, 0.5);
  readonly contact = { touching: false, impactMps: 0, depth: 0.06, clear: () => {} };
  readonly battery = {
    empty: false,
    usedAs: 4000,
    capacityAs: 10_000,
    usedWh: 10,
    voltage: 15,
    openV: 15.2,
    resistanceOhm: 0.014,
  };
  readonly home = { phase: 'homeward', homeNorth: 0, homeEast: 0, goal: { height: 98 } };
  readonly motors = [{ omega: 500, limited: false, burnt: false }];
  readonly duties = [0.5];
  readonly believed = { north: 0, east: 0, height: 100, usable: true };
  broken = false;
  controller = {
    pilot: 'return',
    mode: 'return',
    landed: false,
    armed: true,
    homeSet: true,
    airspeed: 16,
    satellitesUsed: 14,
    home: this.home,
    position: this.believed,
    attitude: { attitude: this.attitude },
    sensing: { imuAlive: true },
    lost: { state: 'acting' },
    command: { throttle: 0.5 },
    route: { goal: { sink: 0 } },
    noReturn: (): string | null => null,
    config: {
      returnSpeed: 20,
      faster: 3,
      loiterRadius: 60,
      loiterSense: 1,
      arrival: 'circle',
      lostAction: 'return',
      giveUp: 1800,
      battery: { returns: true },
      returnSatellites: 6,
      position: { blindFor: 45 },
      hover: { tilt: 0.5 },
      energy: { maxThrottle: 1 },
      land: { disarm: 3 },
    },
  };
  aboveGround = 100;
  ground = 40;
  airspeed = 16;
  seconds = 0;
  readonly judge: Judge;

  constructor(airframe = turnstone, mistakes: Mistake[] = [], lastEventS = -100) {
    const stage = this;
    setEuler(this.attitude, 0, 0, 0);
    const { position, velocity, attitude, rates, airVelocity, contact, battery, motors, duties } = this;
    const craft = {
      plant: {
        position,
        velocity,
        attitude,
        rates,
        airVelocity,
        contact,
        battery,
        motors,
        duties,
        density: 1.225,
        specificForce: Float64Array.of(0, 0, -9.8),
        get broken() {
          return stage.broken;
        },
        get airspeed() {
          return stage.airspeed;
        },
        get height() {
          return stage.ground + stage.aboveGround;
        },
      },
      wind: { velocity: Float64Array.of(3, 0, 0) },
      field: { wind: { speedMps: 3, fromDeg: 0, gustMps: 0 } },
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
    this.judge = new Judge({
      craft,
      airframe,
      homeHeight: 38,
      mistakes,
      launch: launchOf(airframe),
      limitS: 3000,
      lastEventS,
      endsEarly: null,
    });
    this.judge.windAt10 = 3;
    this.judge.begin(14);
  }

  at(northM: number, eastM = 0): this {
    this.position[0] = northM;
    this.position[1] = eastM;
    this.believed.north = northM;
    this.believed.east = eastM;
    return this;
  }

  /** Watches for some time or until a verdict. */
  watch(seconds: number, each: (s: number) => void = () => {}): Judgement | null {
    for (let t = 0; t < seconds; t += JUDGE_STEP_S) {
      this.seconds += JUDGE_STEP_S;
      each(this.seconds);
      const j = this.judge.watch(this.seconds);
      if (j) return j;
    }
    return null;
  }

  /** Flies round home, one circle in so many seconds. */
  circle(seconds: number, radius = 70, period = 30): Judgement | null {
    this.home.phase = 'circling';
    return this.watch(seconds, (t) => {
      const a = (2 * Math.PI * t) / period;
      this.at(radius * Math.cos(a), radius * Math.sin(a));
      this.battery.usedWh += (80 * JUDGE_STEP_S) / 3600;
    });
  }

  touch(downMps: number, overGroundMps = 0, asideMps = 0): this {
    this.contact.touching = true;
    this.velocity.set([overGroundMps, asideMps, downMps]);
    this.aboveGround = 0.02;
    return this;
  }

  /** Stands, motors off, disarmed. */
  rest(): this {
    this.velocity.fill(0);
    this.motors[0]!.omega = 0;
    this.duties[0] = 0;
    this.controller.armed = false;
    this.controller.landed = true;
    return this;
  }
}
