import { type Airframe, isRotorcraft } from '../airframe/airframe.ts';
import { FlightPower } from '../airframe/flightPower.ts';
import { hoverOf } from '../airframe/performance.ts';
import { densityOn, SEA_LEVEL_DENSITY, STANDARD_DAY } from '../flight/atmosphere.ts';
import { loadedV, openCircuitV } from '../flight/battery.ts';
import { groundAbout, groundHeight } from '../flight/terrain.ts';
import { windAtHeight } from '../flight/wind.ts';
import { DEG, GRAVITY } from '../math/scalar.ts';
import { eastOf, northOf } from '../navigation/earth.ts';
import { highestAhead } from '../navigation/groundLine.ts';
import { EARTH_M } from '../navigation/skyline.ts';
import type { Limit } from '../reach/homeMarch.ts';
import { homeMarch, planOf, type ReachInput } from '../reach/reachMap.ts';
import { settingsOf } from '../settings/typed.ts';
import { brokenFence, type LocalFence, localFences } from './fences.ts';
import type { FlightPlan, RoutePoint } from './plan.ts';

/** A route as it would be flown from a launch at home with a full battery, in the wind of the day. */
export interface RouteAsked extends Omit<ReachInput, 'circumstances' | 'fences'> {
  readonly plan: FlightPlan;
  readonly wind: ReachInput['circumstances']['wind'];
  /** Charge at the launch and charge to be left at the end, share. */
  readonly batteryShare: number;
  readonly reserveShare: number;
  /** How far the transmitter is heard where nothing is in between, m; 0 where that is not known. */
  readonly linkM: number;
}

/** One moment of it. Metres from home, heights above home. */
export interface RouteMoment {
  readonly seconds: number;
  /** Along the way. */
  readonly wayM: number;
  readonly northM: number;
  readonly eastM: number;
  readonly heightM: number;
  readonly groundM: number;
  readonly share: number;
  /** Point flown to, 0-based. */
  readonly to: number;
  /** The transmitter on the ground at home is heard: near enough, and no ground in between. */
  readonly heard: boolean;
  /** Index of the fence that is broken; -1 for none. */
  readonly broken: number;
  /** Of the way home if the link were lost here; not a number where it was not asked. */
  readonly margin: number;
  readonly limit: Limit | null;
}

/** How a point is met. */
interface RouteArrival {
  readonly seconds: number;
  readonly wayM: number;
  /** Above home as it comes there, and as it was asked for, m. */
  readonly heightM: number;
  readonly askedM: number;
  readonly share: number;
}

export interface RouteWay {
  readonly moments: readonly RouteMoment[];
  readonly arrivals: readonly RouteArrival[];
  /** After the last point, all the way to the end above home where it returns. */
  readonly seconds: number;
  readonly lengthM: number;
  readonly leftShare: number;
  /** First moment from which it would not come home if the link were lost; null where there is none. */
  readonly noReturn: RouteMoment | null;
  /** First moment from which its way home leads over a fence. */
  readonly overFence: RouteMoment | null;
  /** Why the way ends before the last point: no way against the wind, or it cannot fly so; null where it does not. */
  readonly stuck: { readonly to: number; readonly why: 'wind' | 'power' } | null;
}

/** Moments along the way, m; how often the way home is asked for, in moments; a circle's moments, s. */
const STEP_M = 60;
const ASK_EVERY = 3;
/** Least over ground that counts as making way, m/s. */
const LEAST_WAY_MPS = 0.6;
/** The transmitter is held so high, m. */
const HAND_M = 1.5;
/** The firmware takes a circled point for done within so much of its height, m. */
const HEIGHT_NEAR_M = 10;
/** Above the ground the firmware looks so far ahead. */
const LOOK_S = 15;
const LOOK_STEP_M = 30;
/** A launch leaves so much height before the route begins, m. */
const LAUNCH_M = 40;

/**
 * Marches along a route as the firmware flies it: straight lines from point to point, height changed on the way no faster
 * than it climbs and sinks, circles where it is told to.
 * @throws RangeError where the board has no settings of a return
 */
export function routeWay(asked: RouteAsked): RouteWay {
  const { airframe, values, site, plan, wind } = asked;
  const s = settingsOf(values);
  const rotors = isRotorcraft(airframe);
  const about = groundAbout(site.terrain, site.home);
  const homeM = groundHeight(about.terrain, about.homeEastM, about.homeNorthM);
  const drafted = planOf(asked);
  const fences = localFences(plan.fences, site.home);
  const rho = densityOn(STANDARD_DAY, homeM + 100);
  const power = powerOf(airframe, rho, s.number('motor.max'));
  const trueRatio = Math.sqrt(SEA_LEVEL_DENSITY / rho);
  const usual = s.number('nav.speed');
  const mostAir = rotors ? hoverOf(airframe).topSpeedMps(s.number('hover.tilt') * DEG) : Number.NaN;
  const radius = rotors ? 0 : s.number('loiter.radius');
  const sinkMps = s.number('nav.sink');
  const b = airframe.battery;
  const ohm = b.cells * b.cellResistanceOhm;
  const groundAt = (n: number, e: number) =>
    groundHeight(about.terrain, about.homeEastM + e, about.homeNorthM + n);
  const windTo = [-Math.cos(wind.fromDeg * DEG), -Math.sin(wind.fromDeg * DEG)] as const;

  const moments: RouteMoment[] = [];
  const arrivals: RouteArrival[] = [];
  let [north, east, height, seconds, wayM, share] = [0, 0, LAUNCH_M, 0, 0, asked.batteryShare];
  let stuck: RouteWay['stuck'] = null;
  const watts = (speedMps: number, climbMps: number, load = 1) => remembered(power, speedMps, climbMps, load);
  const spend = (w: number, dt: number) => {
    seconds += dt;
    const open = b.cells * openCircuitV(b.chemistry, Math.max(0, share));
    share -= ((w / loadedV(open, w, ohm)) * dt) / (b.capacityMah * 3.6);
  };
  const returns = s.choice('lost.action') === 'return';
  const note = (to: number) => {
    const ground = groundAt(north, east) - homeM;
    let [margin, limit] = [Number.NaN, null as Limit | null];
    if (returns && moments.length % ASK_EVERY === 0) {
      const circumstances = {
        wind,
        batteryShare: Math.max(0, share),
        reserveShare: asked.reserveShare,
        heightM: Math.max(20, height),
      };
      const march = homeMarch({ ...asked, circumstances, fences: plan.fences }, drafted);
      margin = march.from(north, east);
      limit = march.limit;
    }
    moments.push({
      ...{ seconds, wayM, northM: north, eastM: east, heightM: height, groundM: ground, share, to },
      heard: hears(asked.linkM, site.terrain.known, groundAt, homeM, north, east, homeM + height),
      broken: fences.length === 0 ? -1 : brokenFence(fences, north, east, height, 0),
      ...{ margin, limit },
    });
  };
  note(0);
  for (const [to, point] of plan.points.entries()) {
    const goalN = northOf(site.home.lat, point.lat);
    const goalE = eastOf(site.home.lat, site.home.lon, point.lon);
    const speed = point.speedMps || usual;
    const air0 = rotors ? speed : speed * trueRatio;
    const climbMps = Math.max(0, Math.min(s.number('nav.climb'), 0.9 * power.mostClimb(rotors ? 0 : air0)));
    const goalH = heightOf(point, goalN, goalE, groundAt, homeM);
    for (let left = Math.hypot(goalN - north, goalE - east); left > 1; ) {
      const [toN, toE] = [(goalN - north) / left, (goalE - east) / left];
      const blows = windAtHeight(wind.speedMps, Math.max(2, height + homeM - groundAt(north, east)));
      const along = blows * (windTo[0] * toN + windTo[1] * toE);
      const across = Math.abs(blows * (windTo[1] * toN - windTo[0] * toE));
      const most = rotors ? mostAir : air0;
      let way = across < most ? Math.sqrt(most * most - across * across) + along : along - across;
      let air = most;
      if (rotors && way > speed) {
        way = speed;
        air = Math.hypot(way - along, across);
      }
      if (way < LEAST_WAY_MPS) {
        stuck = { to, why: 'wind' };
        break;
      }
      const step = Math.min(STEP_M, left);
      const dt = step / way;
      // Above the ground it goes by the highest on the next stretch, as the firmware does.
      const here = { north, east };
      const want =
        point.above === 'ground'
          ? highestAhead(groundAt, here, goalN, goalE, LOOK_S * speed, LOOK_STEP_M) - homeM + point.heightM
          : goalH;
      const change = Math.max(-sinkMps * dt, Math.min(climbMps * dt, want - height));
      height += change;
      const w = watts(air, Math.max(-0.9 * sinkMps, change / dt));
      if (Number.isNaN(w)) {
        stuck = { to, why: 'power' };
        break;
      }
      spend(w, dt);
      north += toN * step;
      east += toE * step;
      wayM += step;
      left -= step;
      note(to);
    }
    if (stuck) break;
    arrivals.push({ seconds, wayM, heightM: height, askedM: goalH, share });
    const stays = staysAt(point, rotors, radius, air0, Math.abs(goalH - height), climbMps, sinkMps);
    if (stays === Number.POSITIVE_INFINITY) {
      stuck = { to, why: 'power' };
      break;
    }
    if (stays > 0) {
      const load = rotors ? 1 : Math.hypot(1, air0 ** 2 / (GRAVITY * radius));
      const air = rotors ? Math.min(mostAir, windAtHeight(wind.speedMps, Math.max(2, height))) : air0;
      spend(
        watts(air, 0, load) + Math.max(0, goalH - height) * airframe.massKg * GRAVITY * (2 / stays),
        stays,
      );
      height = goalH;
      note(to);
    }
  }
  let leftShare = share;
  if (!stuck && plan.end === 'return' && plan.points.length > 0) {
    const circumstances = {
      wind,
      batteryShare: Math.max(0, share),
      reserveShare: asked.reserveShare,
      heightM: Math.max(20, height),
    };
    const march = homeMarch({ ...asked, circumstances, fences: plan.fences }, drafted);
    march.from(north, east);
    leftShare = march.leftShare;
    seconds += Number.isFinite(march.seconds) ? march.seconds : 0;
    wayM += Math.hypot(north, east);
  }
  const noReturn = moments.find((m) => m.margin < 0 && m.limit !== 'fence') ?? null;
  const overFence = moments.find((m) => m.margin < 0 && m.limit === 'fence') ?? null;
  return { moments, arrivals, seconds, lengthM: wayM, leftShare, noReturn, overFence, stuck };
}

/** Height of a point above home, m. */
function heightOf(
  point: RoutePoint,
  north: number,
  east: number,
  groundAt: (n: number, e: number) => number,
  homeM: number,
): number {
  return point.above === 'ground' ? groundAt(north, east) - homeM + point.heightM : point.heightM;
}

/** How long it stays at a point, s. */
function staysAt(
  { do: what, seconds, turns }: RoutePoint,
  rotors: boolean,
  radius: number,
  airMps: number,
  awayM: number,
  climbMps: number,
  sinkMps: number,
): number {
  if (what !== 'circle' && what !== 'climb') return 0;
  const rate = Math.min(climbMps, sinkMps);
  const rises = awayM <= HEIGHT_NEAR_M ? 0 : rate > 0.05 ? awayM / rate : Number.POSITIVE_INFINITY;
  const round = rotors ? 0 : (turns * 2 * Math.PI * radius) / airMps;
  return what === 'climb' ? rises : Math.max(rises, seconds, round);
}

/** A transmitter in the hand at home is heard: within its range, with no ground on the line to it. */
function hears(
  linkM: number,
  known: boolean,
  groundAt: (n: number, e: number) => number,
  homeM: number,
  north: number,
  east: number,
  aboveSea: number,
): boolean {
  const flat = Math.hypot(north, east);
  const eye = homeM + HAND_M;
  if (linkM > 0 && Math.hypot(flat, aboveSea - eye) > linkM) return false;
  if (!known) return true;
  for (let d = STEP_M; d < flat; d += STEP_M) {
    const k = d / flat;
    // Over the earth's roundness the middle of the line lies lower.
    const line = eye + k * (aboveSea - eye) - (d * (flat - d)) / (2 * EARTH_M);
    if (groundAt(k * north, k * east) > line) return false;
  }
  return true;
}

/** The last power of each craft: while a route is dragged it is the same one. */
const powers = new WeakMap<Airframe, { readonly key: string; readonly power: FlightPower }>();
function powerOf(airframe: Airframe, rho: number, maxDuty: number): FlightPower {
  const key = `${rho} ${maxDuty}`;
  const known = powers.get(airframe);
  if (known?.key === key) return known.power;
  const power = new FlightPower(airframe, { rho, maxDuty });
  powers.set(airframe, { key, power });
  return power;
}

/** Powers of one craft, worked out once for each way of flying: a route asks for the same ones over and over. */
const memory = new WeakMap<FlightPower, Map<string, number>>();
function remembered(power: FlightPower, speedMps: number, climbMps: number, load: number): number {
  let known = memory.get(power);
  if (!known) {
    known = new Map();
    memory.set(power, known);
  }
  const [v, c] = [Math.round(5 * speedMps) / 5, Math.round(4 * climbMps) / 4];
  const key = `${v} ${c} ${load.toFixed(2)}`;
  let watts = known.get(key);
  if (watts === undefined) {
    watts = power.watts({ speedMps: v, climbMps: c, load });
    known.set(key, watts);
  }
  return watts;
}

/** Whether home itself lies within every fence that is to be kept in and out of the others. */
export const homeBreaks = (fences: readonly LocalFence[]): number => brokenFence(fences, 0, 0, 1, 0);
