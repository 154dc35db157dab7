import { windAtHeight } from '../flight/wind.ts';
import { type Airframe, isRotorcraft } from './airframe.ts';
import { stallSpeed } from './performance.ts';

/** How a craft with wings gets its first speed. `hover` lifts off on its rotors. */
export type LaunchKind = Airframe['launch'];
/** Those that a craft with wings may use. */
export const wingLaunches = ['hand', 'bungee', 'catapult', 'wheels'] as const satisfies readonly LaunchKind[];

export const launchWords: Readonly<Record<LaunchKind, string>> = {
  hand: 'thrown by hand',
  bungee: 'pulled by a bungee',
  catapult: 'shot from a catapult',
  wheels: 'rolls on wheels',
  hover: 'lifts off',
};

/** Share of the stall speed that a launch gives where it can, and the least a craft under full power can make do with. */
const WANTED_SHARE = 1.35;
/** Nobody leans on all of the wind: it may drop as the craft is let go, by its gusts and more. */
const WIND_TRUSTED = 0.5;
export const LEAST_SHARE = 1.1;

/**
 * What throws the craft. An arm's energy goes into the craft and into the arm itself (after throwing balls of unlike
 * mass, e.g. Cross 2004, as a law of ours: 110 J, 0.9 kg); a few steps' run comes on top.
 */
interface Thrower {
  readonly energyJ: number;
  readonly ownKg: number;
  readonly runMps: number;
  readonly mostMps: number;
  readonly accel: number;
  readonly heightM: number;
}
const throwers: Readonly<Record<'hand' | 'bungee' | 'catapult', Thrower>> = {
  hand: { energyJ: 110, ownKg: 0.9, runMps: 2.5, mostMps: 16, accel: 45, heightM: 1.8 },
  bungee: { energyJ: 1200, ownKg: 0.3, runMps: 0, mostMps: 24, accel: 30, heightM: 1 },
  catapult: { energyJ: 5000, ownKg: 1, runMps: 0, mostMps: 32, accel: 90, heightM: 1.5 },
};

export interface Launch {
  /** Over ground, that it gives at most and that the craft asks for, m/s. */
  readonly mostMps: number;
  readonly wantedMps: number;
  /** Given: the lesser of both. */
  readonly speedMps: number;
  readonly accel: number;
  readonly heightM: number;
  /** Kinetic energy that the wanted speed means for the craft, J. */
  readonly wantedJ: number;
}

/**
 * The launch of a craft that is thrown, pulled or shot, into a wind. Null for one that rolls or lifts off.
 * @param windAt10M mean wind at 10 m, m/s. @param gustMps standard deviation of its gusts, m/s
 */
export function launchOf(airframe: Airframe, windAt10M = 0, gustMps = 0): Launch | null {
  const { launch: kind, massKg } = airframe;
  if (kind === 'wheels' || kind === 'hover' || isRotorcraft(airframe)) return null;
  const t = throwers[kind];
  const mostMps = Math.min(t.mostMps, t.runMps + Math.sqrt((2 * t.energyJ) / (massKg + t.ownKg)));
  const air = windAtHeight(windAt10M, 2);
  const relied = Math.max(0, WIND_TRUSTED * air - gustMps);
  const wantedMps = Math.max(4, WANTED_SHARE * stallSpeed(airframe) - relied);
  return {
    mostMps,
    wantedMps,
    speedMps: Math.min(mostMps, wantedMps),
    accel: t.accel,
    heightM: t.heightM,
    wantedJ: 0.5 * massKg * wantedMps ** 2,
  };
}

/** Whether the launch gives a flying speed in still air: `LEAST_SHARE` of the stall speed. */
export function launchSuffices(airframe: Airframe, windAt10M = 0): boolean {
  const launch = launchOf(airframe, windAt10M);
  return launch === null || launch.mostMps + windAtHeight(windAt10M, 2) >= LEAST_SHARE * stallSpeed(airframe);
}

/** The gentlest launch that gives this craft its speed. */
export function launchThatSuffices(airframe: Airframe): LaunchKind {
  if (isRotorcraft(airframe)) return 'hover';
  return wingLaunches.find((launch) => launchSuffices({ ...airframe, launch })) ?? 'wheels';
}
