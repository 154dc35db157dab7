import { type Attitude, attitudeOf } from '#core/calibration/poses.ts';
import type { Plant } from '#core/flight/plant.ts';
import {
  integrate,
  multiply,
  quat,
  setEuler,
  setTurn,
  toBody,
  turnBetween,
  yawOf,
} from '#core/math/quaternion.ts';
import { GRAVITY } from '#core/math/scalar.ts';

/** What holds the craft: hands, which tremble; the table it stands on; things it leans against; straps. */
export const supports = ['hands', 'table', 'propped', 'tied'] as const;
export type Support = (typeof supports)[number];

/** What hands want of the craft. */
export interface Handled {
  readonly support: Support;
  /** Attitude asked for. On the table and tied down only its heading counts. */
  readonly pose: Attitude;
  /** Turned round the vertical for as long as it is so: to the right, not, to the left; or slowly through all directions. */
  readonly turning: 1 | 0 | -1 | 'all';
  /** Lifted by this over where it stands, m. */
  readonly liftM: number;
  /** Carried so far from where it was, on foot, m. */
  readonly walkNorthM: number;
  readonly walkEastM: number;
}

/** Which way the nose points before anybody touched it, degrees. */
export const atRest: Handled = {
  support: 'table',
  pose: attitudeOf(0, 0, 23),
  turning: 0,
  liftM: 0,
  walkNorthM: 0,
  walkEastM: 0,
};

/** How fast hands turn a craft from pose to pose, rad/s, and how fast they get there, rad/s^2. */
const HAND_RATE = 2.2;
const HAND_ACCELERATION = 14;
/** How fast they turn it round and round, rad/s. */
const ROUND_RATE = 0.9;
/** Turns in a second about length and height, and of the nose's nodding, of a craft that is shown the field from all sides. */
const ALL_WAYS = { roll: 0.131, yaw: 0.083, nod: 0.037, nodRad: 1.45 } as const;
/** How fast hands lift it, m/s. */
const LIFT_RATE = 0.5;
/** How fast a person walks with it, m/s. */
const WALK_RATE = 1.4;
/** Trembling of hands: rate, rad/s, at about ten a second (physiological tremor lies at 8 to 12 Hz). */
const TREMOR = 0.012;
const TREMOR_HZ = [8.7, 10.3, 11.9] as const;

/** For how many times as long it is stopped again. */
const BRAKES_SHARE = 1.5;

/** Turns the craft as hands do: on the shortest way, with a beginning and an end, at a pace that hands have. */
export class Handling {
  private readonly wanted = quat();
  private readonly scratch = quat();
  private readonly turn = new Float64Array(3);
  private readonly rates = new Float64Array(3);
  private asked: Attitude | null = null;
  private atS = 0;
  private allS = 0;
  private lifted = 0;
  /** A swing of the arm as if to throw: push along the nose, m/s^2, and how long it lasts yet, s. */
  private push = 0;
  private pushS = 0;
  private tossedS = 0;

  constructor(private readonly plant: Plant) {
    this.ask(atRest.pose);
    plant.attitude.set(this.wanted);
  }

  /** Swings it along its nose as if to throw, and keeps hold of it. */
  toss(push: number, seconds: number): void {
    this.push = push;
    this.pushS = seconds;
    this.tossedS = seconds;
  }

  step(how: Handled, dt: number): void {
    if (how.pose !== this.asked) this.ask(how.pose);
    this.atS += dt;
    if (how.turning === 'all' && how.support !== 'tied') this.allWays(dt);
    else if (how.turning !== 0 && how.turning !== 'all' && how.support !== 'tied') {
      setTurn(this.scratch, 0, 0, how.turning * ROUND_RATE * dt);
      this.wanted.set(multiply(quat(), this.scratch, this.wanted));
    }
    const upright = how.support === 'table' || how.support === 'tied';
    if (upright) setEuler(this.wanted, 0, 0, yawOf(this.wanted));
    this.follow(dt);
    const p = this.plant;
    this.walk(how, dt);
    const up = Math.min(Math.max(how.liftM - this.lifted, -LIFT_RATE * dt), LIFT_RATE * dt);
    this.lifted += up;
    p.position[2]! -= up;
    integrate(p.attitude, this.rates, dt);
    p.rates.set(this.rates);
    if (how.support === 'hands')
      for (let i = 0; i < 3; i++)
        p.rates[i]! += TREMOR * Math.sin(2 * Math.PI * TREMOR_HZ[i]! * this.atS + i);
    const f = p.specificForce;
    f[0] = 0;
    f[1] = 0;
    f[2] = -GRAVITY;
    toBody(f, p.attitude, f);
    if (this.pushS > -BRAKES_SHARE * this.tossedS) {
      // It is stopped at the end of the arm, more gently than it was pushed.
      f[0]! += this.pushS > 0 ? this.push : -this.push / BRAKES_SHARE;
      this.pushS -= dt;
    }
  }

  /** On foot to where it is to be: at a pace, straight. */
  private walk(how: Handled, dt: number): void {
    const { position: p, velocity: v } = this.plant;
    const north = how.walkNorthM - p[0]!;
    const east = how.walkEastM - p[1]!;
    const left = Math.sqrt(north * north + east * east);
    const pace = left > WALK_RATE * dt ? WALK_RATE / left : 0;
    v[0] = pace * north;
    v[1] = pace * east;
    p[0]! += v[0]! * dt;
    p[1]! += v[1]! * dt;
  }

  private ask(pose: Attitude): void {
    this.asked = pose;
    const n = Math.hypot(...pose) || 1;
    for (let i = 0; i < 4; i++) this.wanted[i] = pose[i]! / n;
  }

  private allWays(dt: number): void {
    const { roll, yaw, nod, nodRad } = ALL_WAYS;
    this.allS += dt;
    const turn = 2 * Math.PI * this.allS;
    setEuler(this.wanted, roll * turn, nodRad * Math.sin(nod * turn), yaw * turn);
  }

  /** Speeds up, keeps the pace and slows down in time. */
  private follow(dt: number): void {
    const { turn, rates } = this;
    turnBetween(turn, this.plant.attitude, this.wanted);
    const left = Math.hypot(turn[0]!, turn[1]!, turn[2]!);
    const pace = Math.min(HAND_RATE, Math.sqrt(1.6 * HAND_ACCELERATION * left), left / dt);
    const most = HAND_ACCELERATION * dt;
    for (let i = 0; i < 3; i++) {
      const wanted = left < 1e-9 ? 0 : (turn[i]! / left) * pace;
      rates[i] = Math.min(Math.max(wanted, rates[i]! - most), rates[i]! + most);
    }
  }
}
