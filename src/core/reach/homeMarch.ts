import type { Airframe } from '../airframe/airframe.ts';
import { Battery, loadedV } from '../flight/battery.ts';
import { groundHeight, type HomeGround } from '../flight/terrain.ts';
import { windAtHeight } from '../flight/wind.ts';
import { DEG } from '../math/scalar.ts';
import { GROUND_MARGIN_M, returnHeights } from '../navigation/returnPlan.ts';
import { brokenFence, type LocalFence } from '../plan/fences.ts';
import { type DraftedReturn, levelWatts, type Pace } from './drafted.ts';

/** What lets a return fail first. */
export const limits = ['energy', 'wind', 'ground', 'time', 'fence'] as const;
export type Limit = (typeof limits)[number];

/** The circumstances that a return is worked out for. */
export interface ReachCircumstances {
  /** At 10 m above ground, m/s; where it comes from, degrees; spread of the gusts, m/s. */
  readonly wind: { readonly speedMps: number; readonly fromDeg: number; readonly gustMps: number };
  /** Charge left where the link is lost, share. */
  readonly batteryShare: number;
  /** Charge that is to be left at the end, share. */
  readonly reserveShare: number;
  /** Height above home at which the link is lost, m; over high ground it flies as far above that as it has to. */
  readonly heightM: number;
}

/** Steps along the way, m: along the line, and upward in a climb on the spot. */
const STEP_M = 60;
const CLIMB_STEP_M = 15;
/** As the firmware has them: what it looks ahead, from which wind no climb goes on, how far a climb may be carried. */
const LOOK_AHEAD_S = 25;
const WIND_SHARE = 0.8;
const CARRIED_M = 100;
const CARRIED_RADII = 3;
const LEAST_HEIGHT_M = 15;
const GAINS_NONE_MPS = 5 / 30;
/** A pilot flies no nearer to the ground than this, m. */
const OVER_GROUND_M = 60;
/**
 * Over ground it has to make this to be said to come home, m/s, and for each m/s of gusts so much more: what is left of
 * them over the minutes that a craft is watched for. What is left of them over a whole way home makes it slower.
 */
const LEAST_WAY_MPS = 0.6;
const PER_GUST = 1.2;
const SLOWER_PER_GUST = 0.45;
/** With so much less than that, by the gusts, a craft makes no way for sure. */
const NO_WAY_PER_GUST = 0.6;
/** What the way takes is known to this share of it: so much more has to be left for it to be said to do. */
const UNSURE = 0.08;
/** Bad by more than this is called bad; between that and nought a map does not say. */
export const CLEARLY = 0.1;
/** A craft that circles has to have battery for so much longer, as rehearsals ask, s; and the circles take so long. */
const LASTS_S = 600;
const CIRCLES_TURNS = 2;
const HOVER_S = 30;
/** What gusts add to the power of a circle, by their share of the airspeed: the worst of several flights, and most of them. */
const ROUGH = 2.5;
const LIKELY_ROUGH = 0.4;
/** Within so many radii of home it comes down anyway: there the ground may be nearer, m. */
const NEAR_RADII = 4;
const NEAR_MARGIN_M = 15;

/** One place on the way, for drawings. */
export interface WayPoint {
  readonly distanceM: number;
  /** Above home, and the ground there above home. */
  readonly heightM: number;
  readonly groundM: number;
  /** Since the link was lost. */
  readonly seconds: number;
  readonly batteryShare: number;
  /** Over ground towards home, m/s; 0 in a climb on the spot. */
  readonly wayMps: number;
  /** Mean wind there, m/s. */
  readonly windMps: number;
}

/**
 * The return as it is drafted, marched from where the link is lost to the end above home: climb, line, wind by height,
 * what the board does when it is held up, ground under the path and charge. What it finds lies in its fields; a march
 * allocates nothing, so that a map of tens of thousands of them is drawn while a handle moves.
 */
export class HomeMarch {
  /** Least of all margins; below nought it does not come home. Shares: of all the charge that it takes, the pace, the height, the time, the fence. */
  margin = 0;
  limit: Limit = 'energy';
  /** Charge at the end, share, where it gets there (minus infinity where it cannot fly so at all); and what it has to be. */
  leftShare = 0;
  needShare = 0;
  /** Charge when it comes above home, share; not a number where it does not. */
  atHomeShare = 0;
  /** What asks for most of that: the reserve, or staying above home until somebody takes it down. */
  needFor: 'reserve' | 'circling' = 'reserve';
  seconds = 0;
  /** Least over ground towards home, m/s, and where. */
  leastWayMps = 0;
  leastWayAtM = 0;
  clearanceM = 0;
  clearanceAtM = 0;
  /** Home above the sea, m. */
  readonly homeM: number;
  private readonly pack: { readonly cells: number; readonly ohm: number; readonly capacityAs: number };
  private readonly open: Float64Array;
  private readonly windNorth: number;
  private readonly windEast: number;
  private readonly profile: Float64Array;
  private share = 0;
  private failed = false;
  /** Charge that the gusts' slow part is reckoned to take, share: it may not come. */
  private spare = 0;
  private north = 0;
  private east = 0;
  private height = 0;
  private ground = 0;
  private wind = 0;
  private record: WayPoint[] | null = null;
  private way = 0;

  constructor(
    airframe: Airframe,
    private readonly plan: DraftedReturn,
    private readonly about: HomeGround,
    private readonly known: boolean,
    private readonly c: ReachCircumstances,
    private readonly fences: readonly LocalFence[] = [],
  ) {
    const b = airframe.battery;
    this.pack = { cells: b.cells, ohm: b.cells * b.cellResistanceOhm, capacityAs: b.capacityMah * 3.6 };
    const cell = new Battery(b.chemistry, 1, 1, 0);
    this.open = Float64Array.from({ length: SHARES + 1 }, (_, i) => {
      cell.charge(i / SHARES);
      return b.cells * cell.openV;
    });
    this.homeM = groundHeight(about.terrain, about.homeEastM, about.homeNorthM);
    this.windNorth = -Math.cos(c.wind.fromDeg * DEG);
    this.windEast = -Math.sin(c.wind.fromDeg * DEG);
    this.profile = Float64Array.from({ length: PROFILE + 1 }, (_, i) =>
      windAtHeight(c.wind.speedMps, i * PROFILE_M),
    );
  }

  /**
   * Marches home from a place. @param north @param east of home, m. @param record takes the points of the way
   * @returns the margin, as in the field
   */
  from(north: number, east: number, record: WayPoint[] | null = null): number {
    const { plan, c } = this;
    this.record = record;
    this.north = north;
    this.east = east;
    this.share = c.batteryShare;
    this.seconds = 0;
    this.way = 0;
    this.margin = Number.POSITIVE_INFINITY;
    this.failed = false;
    this.spare = 0;
    this.limit = 'energy';
    this.leftShare = Number.NaN;
    this.atHomeShare = Number.NaN;
    this.needShare = c.reserveShare;
    this.needFor = 'reserve';
    this.clearanceM = Number.POSITIVE_INFINITY;
    this.clearanceAtM = 0;
    this.leastWayMps = Number.POSITIVE_INFINITY;
    this.leastWayAtM = 0;
    const distance = Math.hypot(north, east);
    this.look();
    // Above home as it is asked for, but never into a hill.
    this.height = Math.max(this.homeM + c.heightM, this.ground + OVER_GROUND_M);
    this.feel();
    if (plan.fenceM > 0) this.keep((plan.fenceM - distance) / plan.fenceM, 'fence');
    this.fenced();
    this.note();
    this.spend(plan.beforeS, levelWatts(plan.paces[0], plan.paces[0].speedMps));
    const start = this.height - this.homeM;
    const near = distance < plan.nearM;
    const asked = returnHeights(near ? 'keep-height' : plan.rule, start, plan.heightM);
    let cruise = this.homeM + Math.max(asked.heightM, LEAST_HEIGHT_M);
    if (asked.climbFirst) cruise = this.climbHere(cruise, distance);
    if (this.line(cruise)) this.arrive();
    return this.margin;
  }

  /** Climbs on the spot; the height that it then flies at. */
  private climbHere(cruise: number, startDistance: number): number {
    const { plan } = this;
    const pace = plan.paces[0];
    const [startNorth, startEast] = [this.north, this.east];
    for (;;) {
      const goal = Math.max(cruise, this.overGround());
      if (this.height > goal - 5) return cruise;
      const strong = !plan.rotors && this.wind > WIND_SHARE * pace.speedMps;
      if (strong && this.known && this.clearFrom(this.height))
        return Math.max(this.height, this.homeM + plan.floorM);
      if (pace.climbMps < GAINS_NONE_MPS) {
        this.spend(30, pace.climbW + this.leaning(pace));
        return Math.max(this.height, this.homeM + plan.floorM);
      }
      const up = Math.min(CLIMB_STEP_M, goal - 4 - this.height);
      const dt = up / pace.climbMps;
      // A circle is held against any wind that is slower than the craft.
      const air = plan.rotors ? pace.mostAirMps : pace.speedMps;
      const carried = Math.max(0, this.wind - air) * dt;
      this.north += this.windNorth * carried;
      this.east += this.windEast * carried;
      this.height += up;
      this.way = 0;
      this.spend(dt, pace.climbW + this.leaning(pace));
      this.look();
      this.feel();
      this.note();
      const away = Math.hypot(this.north - startNorth, this.east - startEast);
      if (
        away > 0 &&
        Math.hypot(this.north, this.east) > startDistance + CARRIED_M + CARRIED_RADII * plan.radiusM
      )
        return cruise;
      if (this.seconds > plan.giveUpS) return cruise;
    }
  }

  /** The straight line home. False where it does not get there. */
  private line(cruise: number): boolean {
    const { plan, c } = this;
    const need = LEAST_WAY_MPS + PER_GUST * c.wind.gustMps;
    let held = 0;
    let level = cruise;
    for (let distance = Math.hypot(this.north, this.east); distance > 0; ) {
      const pace = plan.paces[held > 0 ? 1 : 0];
      const toNorth = -this.north / distance;
      const toEast = -this.east / distance;
      const along =
        this.wind * (this.windNorth * toNorth + this.windEast * toEast) - SLOWER_PER_GUST * c.wind.gustMps;
      const across = Math.abs(this.wind * (this.windEast * toNorth - this.windNorth * toEast));
      const most = plan.rotors ? pace.mostAirMps : pace.speedMps;
      let way = across < most ? Math.sqrt(most * most - across * across) + along : along - across;
      let air = most;
      if (plan.rotors && way > pace.speedMps) {
        way = pace.speedMps;
        air = Math.hypot(way - along, across);
      }
      if (way < need) {
        // No nearer for as long as it watches: faster, then lower, then nothing is left.
        const lower = Math.max(this.homeM + plan.floorM, this.height - plan.lowerM);
        if (held === 0 && plan.paces[1].speedMps > plan.paces[0].speedMps) held = 1;
        else if (held <= 1 && plan.lowerM > 0 && lower < level - 5) {
          held = 2;
          level = lower;
          this.sink(pace, lower);
        } else {
          this.slowest(way, distance);
          this.keepWay(way, pace.speedMps);
          return false;
        }
        this.spend(plan.watchS, levelWatts(pace, most));
        continue;
      }
      this.slowest(way, distance);
      this.keepWay(way, pace.speedMps);
      const before = this.share;
      const step = Math.min(STEP_M, distance);
      const dt = step / way;
      const goal = Math.max(level, this.overGround());
      const rise = goal - this.height;
      const levelled = levelWatts(pace, air);
      if (rise > 0.5 && pace.climbMps > 0) {
        const up = Math.min(rise, pace.climbMps * dt);
        this.height += up;
        const climbing = up / (pace.climbMps * dt);
        this.spend(dt, levelled + climbing * Math.max(0, pace.climbW - levelled));
      } else if (rise < -0.5) {
        const down = Math.min(-rise, plan.sinkMps * dt);
        this.height -= down;
        this.spend(dt, levelled - (down / (plan.sinkMps * dt)) * Math.max(0, levelled - plan.sinkW));
      } else this.spend(dt, levelled);
      const slower = plan.rotors && way >= pace.speedMps ? 0 : SLOWER_PER_GUST * c.wind.gustMps;
      this.spare += (before - this.share) * (slower / (way + slower));
      this.north += toNorth * step;
      this.east += toEast * step;
      distance -= step;
      this.way = way;
      this.look();
      this.feel();
      this.fenced();
      this.note();
      if (this.seconds - plan.beforeS > plan.giveUpS) break;
    }
    this.keep((plan.giveUpS - (this.seconds - plan.beforeS)) / plan.giveUpS, 'time');
    return this.seconds - plan.beforeS <= plan.giveUpS;
  }

  /** What a craft with rotors takes more to stay in the wind here, W; a wing flies through it as it does anyway. */
  private leaning(pace: Pace): number {
    return this.plan.rotors ? levelWatts(pace, Math.min(this.wind, pace.mostAirMps)) - pace.levelW[0]! : 0;
  }

  /** Down to where there is less wind, where it is. */
  private sink(pace: Pace, to: number): void {
    const down = Math.max(0, this.height - to);
    this.height = Math.min(this.height, to);
    this.spend(down / this.plan.sinkMps, this.plan.sinkW + this.leaning(pace));
    this.look();
    this.feel();
  }

  /** Above home: what circling or landing takes, and whether the wind lets it circle. */
  private arrive(): void {
    const { plan, c } = this;
    this.atHomeShare = this.share;
    const up = this.height - this.homeM;
    const last = plan.arrival === 'circle' ? up : Math.min(up, plan.arrivalM);
    const down = plan.arrival === 'land' && plan.rotors ? Math.max(0, up - 8) : up - last;
    const pace = plan.paces[0];
    this.spend(down / plan.sinkMps, plan.sinkW + this.leaning(pace));
    this.wind = this.windAt(last);
    const air = plan.rotors ? plan.paces[0].mostAirMps : plan.paces[0].speedMps;
    if (this.keepWay(air - this.wind, air)) {
      this.leastWayMps = air - this.wind;
      this.leastWayAtM = 0;
    }
    const before = this.share;
    let likely = c.reserveShare;
    // Gusts are flown against on every side of a circle.
    const rough = plan.rotors ? 0 : c.wind.gustMps / air;
    if (plan.arrival === 'land') this.spend(plan.landS, plan.landW + this.leaning(pace));
    else {
      const circling = plan.rotors ? HOVER_S : (CIRCLES_TURNS * 2 * Math.PI * plan.radiusM) / air;
      this.spend(circling, plan.circleW + this.leaning(pace));
      // Nobody takes it down yet.
      const each = (before - this.share) / circling;
      const stays = LASTS_S * each * (1 + ROUGH * rough);
      likely = Math.max(likely, LASTS_S * each * (1 + LIKELY_ROUGH * rough));
      if (stays > c.reserveShare) {
        this.needShare = stays;
        this.needFor = 'circling';
      }
    }
    this.leftShare = this.share;
    if (this.share === Number.NEGATIVE_INFINITY) {
      this.keep(-1, 'energy');
      return;
    }
    const used = c.batteryShare - this.share;
    this.needShare += UNSURE * used;
    this.keep(this.energyMargin(used, likely - UNSURE * used - this.spare), 'energy');
  }

  /** Good with all that is unsure to spare, bad for sure where it would not do without; between the two up to a tenth short. */
  private energyMargin(used: number, likely: number): number {
    const { share, needShare } = this;
    if (share >= needShare) return (share - needShare) / (used + needShare);
    if (share > likely) return (-CLEARLY * (needShare - share)) / (needShare - likely);
    return -CLEARLY - (likely - share) / (used + Math.max(0.05, likely));
  }

  /** How far it may lean, rad, and what that makes through the air, m/s; null for wings. */
  get lean(): { readonly tiltRad: number; readonly airMps: number } | null {
    const { rotors, tiltRad, paces } = this.plan;
    return rotors ? { tiltRad, airMps: paces[0].mostAirMps } : null;
  }

  /** Mean wind where the march ended, m/s. */
  get windHere(): number {
    return this.wind;
  }

  /** Keeps the least margin. What fails clearly first decides, since nothing comes after it. */
  private keep(margin: number, limit: Limit): boolean {
    if (!(margin < this.margin) || (this.failed && limit !== this.limit)) return false;
    this.margin = margin;
    this.limit = limit;
    this.failed = margin < -CLEARLY;
    return true;
  }

  /** Of a way over ground: short of what is wanted it may still do, down to where it surely does not. */
  private keepWay(way: number, pace: number): boolean {
    const { gustMps } = this.c.wind;
    const need = LEAST_WAY_MPS + PER_GUST * gustMps;
    const least = Math.min(need - 0.1, LEAST_WAY_MPS - NO_WAY_PER_GUST * gustMps);
    if (way >= need) return this.keep((way - need) / pace, 'wind');
    return this.keep(-CLEARLY * ((need - way) / (need - least)) ** (way > least ? 1 : 2), 'wind');
  }

  private slowest(way: number, distance: number): void {
    if (way >= this.leastWayMps) return;
    this.leastWayMps = way;
    this.leastWayAtM = distance;
  }

  /** Time goes by at so many watts. */
  private spend(dt: number, watts: number): void {
    this.seconds += dt;
    this.draw(watts, dt);
    // Empty on the way: whatever would have come later does not.
    if (this.share < 0) this.keep(-CLEARLY - 1e-6, 'energy');
  }

  private draw(watts: number, dt: number): void {
    const { pack } = this;
    // It cannot fly so at all: too heavy, or slower than it stalls.
    if (Number.isNaN(watts)) {
      this.share = Number.NEGATIVE_INFINITY;
      return;
    }
    const at = Math.min(Math.max(0, this.share), 1) * SHARES;
    const i = Math.min(SHARES - 1, Math.floor(at));
    const open = this.open[i]! + (at - i) * (this.open[i + 1]! - this.open[i]!);
    this.share -= (watts / loadedV(open, watts, pack.ohm) / pack.capacityAs) * dt;
  }

  /** Ground and wind where it is now. */
  private look(): void {
    const { about } = this;
    this.ground = groundHeight(about.terrain, about.homeEastM + this.east, about.homeNorthM + this.north);
    this.wind = this.windAt(this.height - this.ground);
  }

  private windAt(aboveGround: number): number {
    const at = Math.min(Math.max(aboveGround, 0) / PROFILE_M, PROFILE - 1e-9);
    const i = Math.floor(at);
    return this.profile[i]! + (at - i) * (this.profile[i + 1]! - this.profile[i]!);
  }

  /** A fence on the way: what the board does at it is not the way home. */
  private fenced(): void {
    const { fences } = this;
    if (fences.length > 0 && brokenFence(fences, this.north, this.east, this.height - this.homeM, 0) >= 0)
      this.keep(-2 * CLEARLY, 'fence');
  }

  /** Room over the ground here. */
  private feel(): void {
    this.wind = this.windAt(this.height - this.ground);
    const distance = Math.hypot(this.north, this.east);
    const clearance = this.height - this.ground;
    if (clearance < this.clearanceM) {
      this.clearanceM = clearance;
      this.clearanceAtM = distance;
    }
    if (!this.known) return;
    const room = distance < NEAR_RADII * this.plan.radiusM ? NEAR_MARGIN_M : GROUND_MARGIN_M;
    // Nearer than the margin is not yet a hit: that begins where a tenth is short.
    const scale = Math.max(50, this.plan.heightM);
    const margin =
      clearance >= room
        ? (clearance - room) / scale
        : (CLEARLY * (clearance - room)) / room + Math.min(0, clearance) / scale;
    this.keep(margin, 'ground');
  }

  private note(): void {
    this.record?.push({
      distanceM: Math.hypot(this.north, this.east),
      heightM: this.height - this.homeM,
      groundM: this.ground - this.homeM,
      seconds: this.seconds,
      batteryShare: this.share,
      wayMps: this.way,
      windMps: this.wind,
    });
  }

  /** What the return height above the ground ahead asks for, m above sea; minus infinity where home counts. */
  private overGround(): number {
    const { plan } = this;
    if (!plan.aboveGround || !this.known) return Number.NEGATIVE_INFINITY;
    const reach = LOOK_AHEAD_S * Math.max(plan.paces[0].speedMps, 8);
    return this.highestAhead(reach) + plan.heightM;
  }

  /** The straight line home keeps its room at a height. */
  private clearFrom(height: number): boolean {
    return this.highestAhead(Number.POSITIVE_INFINITY) + GROUND_MARGIN_M <= height;
  }

  /** Highest ground between here and so far along the straight line home, m above sea. */
  private highestAhead(reach: number): number {
    const { about } = this;
    const distance = Math.hypot(this.north, this.east);
    let most = this.ground;
    for (let s = STEP_M; s <= Math.min(distance, reach); s += STEP_M) {
      const k = 1 - s / Math.max(1, distance);
      const here = groundHeight(
        about.terrain,
        about.homeEastM + k * this.east,
        about.homeNorthM + k * this.north,
      );
      if (here > most) most = here;
    }
    return most;
  }
}

/** Steps of the open-circuit curve and of the wind's profile. */
const SHARES = 50;
const PROFILE_M = 10;
const PROFILE = 100;
