import { groundHeight, type HomeGround } from '../flight/terrain.ts';
import { windAtHeight } from '../flight/wind.ts';
import type { Random } from '../math/random.ts';
import { clamp, GRAVITY } from '../math/scalar.ts';
import { eastOf, northOf } from '../navigation/earth.ts';
import type { FallingCraft } from './fallingCraft.ts';
import type { LastSeen } from './lastSeen.ts';

/** Ways in which a craft that was not seen again may have ended. */
export const endings = [
  'glide',
  'circling',
  'fall',
  'flown-on',
  'flown-round',
  'way-home',
  'down-here',
] as const;
export type Ending = (typeof endings)[number];

export const endingWords: Readonly<Record<Ending, string>> = {
  glide: 'glided straight on',
  circling: 'came down in circles',
  fall: 'fell',
  'flown-on': 'flew on under power',
  'flown-round': 'flew in circles under power',
  'way-home': 'was on its way home when something ended it',
  'down-here': 'came down by itself where it was',
};

/** How likely each is before anything else is known, by what the board does at a loss. Ours; held against losses flown in the bench. */
const wingShares: Readonly<Record<FallingCraft['action'], Readonly<Record<Ending, number>>>> = {
  return: {
    glide: 0.16,
    circling: 0.16,
    fall: 0.2,
    'flown-on': 0.04,
    'flown-round': 0.06,
    'way-home': 0.38,
    'down-here': 0,
  },
  glide: {
    glide: 0.12,
    circling: 0.55,
    fall: 0.2,
    'flown-on': 0.05,
    'flown-round': 0.08,
    'way-home': 0,
    'down-here': 0,
  },
  cut: {
    glide: 0.42,
    circling: 0.28,
    fall: 0.2,
    'flown-on': 0.04,
    'flown-round': 0.06,
    'way-home': 0,
    'down-here': 0,
  },
  nothing: {
    glide: 0.14,
    circling: 0.16,
    fall: 0.2,
    'flown-on': 0.2,
    'flown-round': 0.3,
    'way-home': 0,
    'down-here': 0,
  },
};
const rotorShares: Readonly<Record<FallingCraft['action'], Readonly<Record<Ending, number>>>> = {
  return: {
    glide: 0,
    circling: 0,
    fall: 0.42,
    'flown-on': 0.16,
    'flown-round': 0,
    'way-home': 0.37,
    'down-here': 0.05,
  },
  glide: {
    glide: 0,
    circling: 0,
    fall: 0.4,
    'flown-on': 0.15,
    'flown-round': 0,
    'way-home': 0,
    'down-here': 0.45,
  },
  cut: {
    glide: 0,
    circling: 0,
    fall: 0.85,
    'flown-on': 0.12,
    'flown-round': 0,
    'way-home': 0,
    'down-here': 0.03,
  },
  nothing: {
    glide: 0,
    circling: 0,
    fall: 0.55,
    'flown-on': 0.38,
    'flown-round': 0,
    'way-home': 0,
    'down-here': 0.07,
  },
};

/** A craft that sinks faster than it glides was falling already: what falls is so many times as likely. */
const FALLS_MORE = 5;
/** Without much left it is not flown on for long, and its way home ends by that. */
const EMPTY_SHARE = 0.12;

/** How likely each ending is, given what was last seen; all of them together are one. */
export function sharesOf(craft: FallingCraft, seen: LastSeen): Readonly<Record<Ending, number>> {
  const usual = (craft.rotors ? rotorShares : wingShares)[craft.action];
  const sinks = craft.rotors ? -seen.climbMps > 6 : -seen.climbMps > 0.5 * craft.glideMps;
  const empty = (seen.batteryShare ?? 1) < EMPTY_SHARE;
  const weights = { ...usual };
  if (sinks) weights.fall *= FALLS_MORE;
  if (seen.returning && craft.action === 'return') weights['way-home'] *= 2;
  if (empty) {
    weights['flown-on'] *= 0.2;
    weights['flown-round'] *= 0.2;
  }
  const sum = endings.reduce((s, e) => s + weights[e], 0);
  return Object.fromEntries(endings.map((e) => [e, weights[e] / sum])) as Record<Ending, number>;
}

/** A craft with rotors that nobody holds keeps flying for so long in the mean, s. Ours. */
const WILD_S = 18;
/** What takes the link may take the motors as well: of ways home that ended, so many had hardly begun. Ours. */
const AT_ONCE = 0.4;
/** Turning while it climbs, rad/s; near to home, m, it circles with such a radius, m. Ours. */
const CLIMB_TURN = 0.35;
const ABOVE_HOME_M = 80;
const ABOVE_HOME_RADIUS_M = 60;
/** Of ways home that ended in the air, what a wing does then: glides home, circles down; else it falls. Ours. */
const GLIDES_HOME = 0.55;
const CIRCLES_DOWN = 0.25;
/** Below the height that it returns at the board still asks for a climb: a nose held up without power costs so much of the glide at most. Ours. */
const NOSE_UP_COSTS = 0.75;
/** A glide of less is a fall. */
const LEAST_RATIO = 1.5;
/** Banks that a craft without a hand at it settles into, rad. Ours. */
const LEAST_BANK = 0.15;
const MOST_BANK = 0.9;
const STEP_S = 0.5;
const LONGEST_S = 3600;
/** Where it lies is told from the place it was last seen, m. */
export interface Landed {
  north: number;
  east: number;
  seconds: number;
}

/** Everything about a search that all its flights share. */
export interface SearchWorld {
  readonly craft: FallingCraft;
  readonly seen: LastSeen;
  readonly ground: HomeGround;
  readonly home: { readonly lat: number; readonly lon: number; readonly heightM: number };
}

/** Flies endings as a point that sinks, drifts and is flown; allocates nothing. */
export class EndingFlyer {
  private readonly homeNorth: number;
  private readonly homeEast: number;
  private readonly originEast: number;
  private readonly originNorth: number;
  private north = 0;
  private east = 0;
  private height = 0;
  private seconds = 0;
  private windNorth = 0;
  private windEast = 0;
  private floor = 0;

  constructor(
    private readonly world: SearchWorld,
    private readonly random: Random,
  ) {
    const { seen, home, ground } = world;
    this.homeNorth = northOf(seen.lat, home.lat);
    this.homeEast = eastOf(seen.lat, seen.lon, home.lon);
    this.originNorth = ground.homeNorthM - this.homeNorth;
    this.originEast = ground.homeEastM - this.homeEast;
  }

  /** Flies one ending to the ground. @param out filled with where it lies */
  fly(ending: Ending, out: Landed): void {
    const { random, world } = this;
    const { craft, seen } = world;
    const n = () => random.normal();
    this.north = n() * seen.accuracyM;
    this.east = n() * seen.accuracyM;
    this.height = seen.heightM + n() * Math.max(4, 0.5 * seen.accuracyM);
    this.seconds = 0;
    this.look();
    // The wind that was told, and how far one may trust it.
    const wind = Math.max(0, seen.windMps * (1 + 0.2 * n()) + 0.4 * n());
    const from = seen.windFromRad + 0.2 * n();
    this.windNorth = -wind * Math.cos(from);
    this.windEast = -wind * Math.sin(from);
    const heading = this.headingOf(seen) + 0.12 * n();
    switch (ending) {
      case 'glide':
        this.glide(heading, 0.02 * n());
        break;
      case 'circling':
        this.before(heading);
        this.spiral(heading, this.bank());
        break;
      case 'fall':
        if (craft.action !== 'return' || random.uniform() < 0.3) this.before(heading);
        this.fall(seen.speedMps, seen.courseRad + 0.1 * n(), seen.climbMps);
        break;
      case 'flown-on':
        if (craft.rotors) {
          // Out of control under power it goes anywhere, and not for long.
          const course = 2 * Math.PI * random.uniform();
          this.powered(course, 0, -WILD_S * Math.log(1 - 0.98 * random.uniform()));
          this.fall(craft.cruiseMps, course, 0);
          break;
        }
        this.powered(heading, 0.004 * n(), this.left());
        this.glide(heading, 0.02 * n());
        break;
      case 'flown-round':
        this.powered(
          heading,
          ((GRAVITY * Math.tan(this.bank())) / craft.cruiseMps) * this.side(),
          this.left(),
        );
        this.spiral(heading, this.bank());
        break;
      case 'down-here':
        this.before(heading);
        while (!this.down()) this.move(0, 0, -craft.landMps * (0.8 + 0.4 * random.uniform()), 1);
        break;
      case 'way-home':
        this.wayHome(heading);
        break;
    }
    out.north = this.north;
    out.east = this.east;
    out.seconds = this.seconds;
  }

  /** Where the nose pointed: by the course and the wind at its height. */
  private headingOf({ courseRad, speedMps }: LastSeen): number {
    const north = speedMps * Math.cos(courseRad) - this.windNorth * this.windShare();
    const east = speedMps * Math.sin(courseRad) - this.windEast * this.windShare();
    return Math.hypot(north, east) > 1 ? Math.atan2(east, north) : courseRad;
  }

  private side(): 1 | -1 {
    return this.random.uniform() < 0.5 ? 1 : -1;
  }

  /** A bank that a craft without a hand at it settles into; that of the settings where the board holds it. */
  private bank(): number {
    const { craft } = this.world;
    return craft.action === 'glide' ? craft.circleBankRad : this.looseBank();
  }

  private looseBank(): number {
    return LEAST_BANK + (MOST_BANK - LEAST_BANK) * this.random.uniform();
  }

  /** Sink of a level glide at a speed, as well as the ratio is known, m/s. */
  private sinkAt(speed: number): number {
    return speed / Math.max(LEAST_RATIO, this.world.craft.glideRatio * (1 + 0.2 * this.random.normal()));
  }

  /** How long it may still be flown, s. */
  private left(): number {
    const { craft, seen } = this.world;
    return this.random.uniform() * craft.enduranceS * (seen.batteryShare ?? 0.6);
  }

  /** The board waits before it does what it is to do. */
  private before(heading: number): void {
    const { craft } = this.world;
    if (craft.rotors) {
      this.seconds += craft.beforeS;
      return;
    }
    this.powered(heading, 0, craft.beforeS);
  }

  private powered(heading: number, turnRate: number, forS: number): void {
    const { craft } = this.world;
    const until = this.seconds + Math.min(forS, LONGEST_S);
    let nose = heading;
    const climb = 0.4 * this.random.normal();
    while (this.seconds < until && !this.down()) {
      nose += turnRate * STEP_S;
      this.move(craft.cruiseMps * Math.cos(nose), craft.cruiseMps * Math.sin(nose), climb, 1);
    }
  }

  private glide(heading: number, turnRate: number): void {
    const { craft } = this.world;
    const speed = craft.glideMps * (1 + 0.12 * this.random.normal());
    const sink = this.sinkAt(speed);
    let nose = heading;
    while (!this.down()) {
      nose += turnRate * STEP_S;
      this.move(speed * Math.cos(nose), speed * Math.sin(nose), -sink, 1);
    }
  }

  /** In a bank the same lift costs more speed, and sinks faster by one over the cosine to the power of one and a half. */
  private spiral(heading: number, bank: number): void {
    const { craft } = this.world;
    const load = 1 / Math.max(0.3, Math.cos(bank));
    const speed = craft.glideMps * Math.sqrt(load);
    const sink = this.sinkAt(craft.glideMps) * load ** 1.5;
    const rate = ((GRAVITY * Math.tan(bank)) / speed) * this.side();
    let nose = heading;
    while (!this.down()) {
      nose += rate * STEP_S;
      this.move(speed * Math.cos(nose), speed * Math.sin(nose), -sink, 1);
    }
  }

  /** A point with drag in moving air: Newton's law with the terminal speed that it comes to. */
  private fall(speed: number, course: number, climb: number): void {
    const { craft } = this.world;
    const terminal = craft.terminalMps * Math.exp(0.3 * this.random.normal());
    let north = speed * Math.cos(course);
    let east = speed * Math.sin(course);
    let up = climb;
    const dt = 0.1;
    while (!this.down()) {
      const share = this.windShare();
      const airNorth = north - this.windNorth * share;
      const airEast = east - this.windEast * share;
      const pull = (GRAVITY * Math.hypot(airNorth, airEast, up)) / terminal ** 2;
      north -= pull * airNorth * dt;
      east -= pull * airEast * dt;
      up -= (GRAVITY + pull * up) * dt;
      this.north += north * dt;
      this.east += east * dt;
      this.height += up * dt;
      this.seconds += dt;
      this.look();
    }
  }

  /** Flies home as the board would, until at some moment it does not any more. */
  private wayHome(heading: number): void {
    const { craft, seen, home } = this.world;
    if (!seen.returning) this.before(heading);
    const straight = Math.hypot(this.homeNorth - this.north, this.homeEast - this.east);
    const top = home.heightM + craft.returnHeightM;
    const climbS = Math.max(0, top - this.height) / Math.max(0.5, craft.climbMps);
    const wholeS = straight / Math.max(2, craft.cruiseMps) + (craft.climbsFirst ? climbS : 0);
    const until = this.seconds + (this.random.uniform() < AT_ONCE ? 0.02 : this.random.uniform()) * wholeS;
    let nose = heading;
    let circled = 0;
    while (this.seconds < until && !this.down()) {
      const north = this.homeNorth - this.north;
      const east = this.homeEast - this.east;
      const distance = Math.hypot(north, east);
      if (distance < craft.seenM) break;
      const climb = this.height < top - 1 ? craft.climbMps : this.height > top + 1 ? -craft.climbMps : 0;
      if (craft.climbsFirst && this.height < top - 5) {
        circled += CLIMB_TURN * STEP_S;
        const round = craft.rotors ? 0 : craft.cruiseMps;
        this.move(
          round * Math.cos(nose + circled),
          round * Math.sin(nose + circled),
          climb,
          craft.rotors ? 0 : 1,
        );
        continue;
      }
      // The nose is held so far into the wind that the way is straight home.
      const share = this.windShare();
      const across = (-this.windNorth * share * east + this.windEast * share * north) / distance;
      const into = Math.asin(clamp(-across / craft.cruiseMps, -0.95, 0.95));
      nose = Math.atan2(east, north) + into;
      this.move(craft.cruiseMps * Math.cos(nose), craft.cruiseMps * Math.sin(nose), climb, 1);
    }
    if (this.down()) return;
    if (craft.rotors) {
      this.fall(craft.cruiseMps, nose, 0);
      return;
    }
    const how = this.random.uniform();
    if (how < GLIDES_HOME) this.glideHome(nose);
    else if (how < GLIDES_HOME + CIRCLES_DOWN) this.spiral(nose, this.looseBank());
    else this.fall(craft.cruiseMps, nose, 0);
  }

  /** Without its motor the board still points it home. */
  private glideHome(nose: number): void {
    const { craft, home } = this.world;
    const heldUp = this.height < home.heightM + craft.returnHeightM;
    const kept = heldUp ? 1 - NOSE_UP_COSTS * this.random.uniform() : 1;
    const sink = this.sinkAt(craft.glideMps) / kept;
    let to = nose;
    while (!this.down()) {
      const north = this.homeNorth - this.north;
      const east = this.homeEast - this.east;
      if (Math.hypot(north, east) > ABOVE_HOME_M) to = Math.atan2(east, north);
      else to += (STEP_S * craft.glideMps) / ABOVE_HOME_RADIUS_M;
      this.move(craft.glideMps * Math.cos(to), craft.glideMps * Math.sin(to), -sink, 1);
    }
  }

  /** Wind where it is now over that at 10 m. */
  private windShare(): number {
    return windAtHeight(1, this.height - this.floor);
  }

  /** @param carried share of the wind that it goes with */
  private move(airNorth: number, airEast: number, up: number, carried: number): void {
    const share = this.windShare() * carried;
    this.north += (airNorth + this.windNorth * share) * STEP_S;
    this.east += (airEast + this.windEast * share) * STEP_S;
    this.height += up * STEP_S;
    this.seconds += STEP_S;
    this.look();
  }

  private look(): void {
    this.floor = groundHeight(
      this.world.ground.terrain,
      this.originEast + this.east,
      this.originNorth + this.north,
    );
  }

  private down(): boolean {
    return this.height <= this.floor || this.seconds > LONGEST_S;
  }
}
