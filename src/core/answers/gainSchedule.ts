import { type Airframe, isRotorcraft } from '../airframe/airframe.ts';
import { stallSpeed, supplyUnderLoad, thrustAt, trimLevel } from '../airframe/performance.ts';
import { rememberedOf } from '../airframe/remembered.ts';
import type { BoardDescription } from '../board/description.ts';
import { type GainBy, gainLawOf } from '../control/gainLaw.ts';
import { openCircuitV } from '../flight/battery.ts';
import { sizeOf } from '../math/complex.ts';
import { clamp, DEG, GRAVITY } from '../math/scalar.ts';
import type { Axis } from '../mixer/authority.ts';
import type { SettingValue, Values } from '../settings/catalogue.ts';
import { settingsOf } from '../settings/typed.ts';
import { axisAnswer, MARGIN_LEAST_DEG, stateOf, usualSpeed } from './answers.ts';
import { type AxisModel, axisModel, craftAt, type FlownOtherwise, levelThrottle } from './axisModel.ts';
import { loopOf } from './chain.ts';
import { marginOf } from './margin.ts';

/** A flight in which a loop is looked at. */
export interface Flight {
  readonly speedMps: number;
  readonly flown: FlownOtherwise;
}

/** Slower than this over the stall nothing is promised. */
const SLOWEST_STALLS = 1.15;
/** No faster than this many times its cruise a dive is looked at: before that one pulls out of it. */
const DIVE_MOST = 2.5;

const divesKnown = rememberedOf<number>();

/**
 * How fast a wing becomes in a dive without power, its nose as low as it is let: where its drag is what its weight pulls along the path,
 * m/s. Of a craft cleaner than that, a few times its cruise.
 * @param downRad nose-down limit. @param cruiseMps where it is no slower than
 */
export const diveSpeed = (airframe: Airframe, downRad: number, cruiseMps: number): number =>
  divesKnown(airframe, `${downRad} ${cruiseMps}`, () => {
    const pulls = airframe.massKg * GRAVITY * Math.sin(downRad);
    let [low, high] = [cruiseMps, DIVE_MOST * cruiseMps];
    if ((trimLevel(airframe, high)?.thrust ?? Number.POSITIVE_INFINITY) < pulls) return high;
    for (let k = 0; k < 20; k++) {
      const mid = (low + high) / 2;
      if ((trimLevel(airframe, mid)?.thrust ?? Number.POSITIVE_INFINITY) < pulls) low = mid;
      else high = mid;
    }
    return low;
  });

/** Slow, usual and fast: just above the stall, cruise and a dive with the throttle shut; of rotors sinking, hover and all throttle. */
export interface Extremes {
  readonly slow: Flight;
  readonly usual: Flight;
  readonly fast: Flight;
}

/** Share of the hover's throttle at which rotors sink fast, and the most that leaves room to steer. */
const SINKING = 0.5;
const FULL = 0.9;

export function extremesOf(airframe: Airframe, values: Values): Extremes {
  const usual = usualSpeed(airframe, values);
  if (isRotorcraft(airframe)) {
    const hover = levelThrottle(airframe, 0);
    return {
      slow: { speedMps: 0, flown: { throttle: SINKING * hover } },
      usual: { speedMps: 0, flown: { throttle: hover } },
      fast: { speedMps: 0, flown: { throttle: FULL } },
    };
  }
  const down = settingsOf(values).number('level.down') * DEG;
  return {
    slow: { speedMps: SLOWEST_STALLS * stallSpeed(airframe), flown: {} },
    usual: { speedMps: usual, flown: {} },
    fast: { speedMps: diveSpeed(airframe, down, usual), flown: { throttle: 0 } },
  };
}

/** Where a loop would ring is where its gains count: of one that cannot, this, Hz. */
const USUAL_HZ = 6;

/** What gains and feed-forward would have to be multiplied by. */
export interface Wanted {
  readonly gain: number;
  readonly forward: number;
}

/** The steady rate that a whole command comes to, rad/s; NaN of rotors, which nothing slows. */
function steadyRate({ axis, moves, states, byCommand }: AxisModel): number {
  if (moves === 'motors' || states.length < 2) return Number.NaN;
  const [[a, b], [c, d]] = states as readonly (readonly number[])[] as [[number, number], [number, number]];
  const [u, v] = byCommand as [number, number];
  // Of a pitching wing once its angle of attack has settled; a roll or yaw before the craft slips by it.
  return axis === 'pitch' ? (b * v - d * u) / (a * d - b * c) : -u / a;
}

/**
 * What gains would have to be multiplied by in each flight, that the craft bears there what it bears where they hold as written: what a
 * command turns where the loop would ring, and for the feed-forward the steady rate that it comes to, in the one over the other.
 * @returns NaN where nothing turns the craft so
 */
export function gainsWanted(
  airframe: Airframe,
  values: Values,
  pads: BoardDescription['pads'],
  axis: Axis,
  reference: Flight,
  flights: readonly Flight[],
): readonly Wanted[] {
  const none = { gain: Number.NaN, forward: Number.NaN };
  const at = loopOf(airframe, values, pads, axis, reference.speedMps, 1, reference.flown);
  if (!at) return flights.map(() => none);
  const { ringsHz } = marginOf(at);
  const hz = Number.isNaN(ringsHz) ? USUAL_HZ : ringsHz;
  const [size, steady] = [sizeOf(craftAt(at.model, hz)), steadyRate(at.model)];
  return flights.map(({ speedMps, flown }) => {
    const there = axisModel(airframe, values, axis, speedMps, 1, flown);
    if (!there) return none;
    return { gain: size / sizeOf(craftAt(there, hz)), forward: steady / steadyRate(there) };
  });
}

/** Where gains hold as they are written: the flight of the law's reference. */
export function referenceFlight(airframe: Airframe, values: Values): Flight {
  if (isRotorcraft(airframe)) return { speedMps: 0, flown: {} };
  const law = gainLawOf(values, false);
  // By the throttle they hold at cruise throttle, which is the cruise.
  return {
    speedMps: law.by === 'speed' ? law.reference : usualSpeed(airframe, values),
    flown: {},
  };
}

const POINTS = 9;

/** Flights from the slow one to the fast one: wings level by their throttle, rotors by it. */
export function flightsBetween(
  airframe: Airframe,
  { slow, fast }: Extremes,
  points = POINTS,
): readonly Flight[] {
  const share = (k: number) => k / (points - 1);
  return Array.from({ length: points }, (_, k) => {
    if (!isRotorcraft(airframe))
      return { speedMps: slow.speedMps + share(k) * (fast.speedMps - slow.speedMps), flown: {} };
    const [from, to] = [slow.flown.throttle!, fast.flown.throttle!];
    return { speedMps: 0, flown: { throttle: from + share(k) * (to - from) } };
  });
}

/** A battery under load from full to where one lands, V, and the throttle that hovers by it. */
export function voltagesOf(
  airframe: Airframe,
  points = 5,
): readonly { readonly volts: number; readonly throttle: number }[] {
  const { battery } = airframe;
  const half = supplyUnderLoad(airframe);
  const of = (charge: number) =>
    openCircuitV(battery.chemistry, charge) / openCircuitV(battery.chemistry, 0.55);
  return Array.from({ length: points }, (_, k) => {
    const volts = half * of(1 - (0.9 * k) / (points - 1));
    // The same thrust is the same shaft speed, and very nearly the same volts at the motor.
    return { volts, throttle: Math.min(FULL, (levelThrottle(airframe, 0) * half) / volts) };
  });
}

/** The power p of the least squares through log(wanted) = p log(1/x), as settings take it; null where nothing is wanted. */
function powerThrough(points: readonly { readonly x: number; readonly wanted: number }[]): number | null {
  let [over, under] = [0, 0];
  for (const { x, wanted } of points) {
    if (!(wanted > 0 && x > 0)) continue;
    const by = -Math.log(x);
    over += by * Math.log(wanted);
    under += by * by;
  }
  return under > 0 ? clamp(round(over / under, 0.05), 0, 2) : null;
}

/** How long the speed of a wing takes after its throttle, s: mass over how drag less thrust grows with speed. */
export function speedLag(airframe: Airframe, speedMps: number): number {
  const duty = levelThrottle(airframe, speedMps);
  const h = 0.02 * speedMps;
  const less = (v: number) =>
    (trimLevel(airframe, v)?.thrust ?? Number.NaN) - thrustAt(airframe, duty, v).thrust;
  const slope = (less(speedMps + h) - less(speedMps - h)) / (2 * h);
  return slope > 0 ? airframe.massKg / slope : LAG_MOST;
}

const LAG_MOST = 10;
const round = (value: number, step: number) => Number((Math.round(value / step) * step).toFixed(4));

/** The axes that a law is fitted to: what surfaces and rotors turn most. */
const FITTED = ['roll', 'pitch'] as const;

/**
 * The law that gives this craft the same answer over its flights as far as one can: power fitted to what a command turns, ends where it
 * flies. By the throttle, a wing that dives with it shut must not ring by gains that take it for slow.
 * @returns edits; empty where nothing turns it
 */
export function solveGainLaw(
  airframe: Airframe,
  values: Values,
  pads: BoardDescription['pads'],
  by: Exclude<GainBy, 'nothing'>,
): Readonly<Record<string, SettingValue>> {
  const rotors = isRotorcraft(airframe);
  const set = { ...values, 'rate.by': by };
  const law = gainLawOf(set, rotors);
  if (law.by === 'nothing') return {};
  const reference = referenceFlight(airframe, set);
  const extremes = extremesOf(airframe, set);
  const flights = flightsBetween(airframe, extremes);
  const x = (f: Flight) =>
    law.by === 'speed'
      ? f.speedMps / law.reference
      : (f.flown.throttle ?? levelThrottle(airframe, f.speedMps)) / law.reference;
  const points = FITTED.flatMap((axis) =>
    gainsWanted(airframe, set, pads, axis, reference, flights).map((wanted, k) => ({
      x: x(flights[k]!),
      wanted,
    })),
  );
  const power = powerThrough(points.map((p) => ({ x: p.x, wanted: p.wanted.gain })));
  if (power === null) return {};
  const forward = powerThrough(points.map((p) => ({ x: p.x, wanted: p.wanted.forward })));
  const xs = points.map((p) => p.x);
  const ends = {
    'rate.lowest': clamp(Math.floor(100 * Math.min(...xs)) / 100, 0.2, 1),
    'rate.highest': clamp(Math.ceil(100 * Math.max(...xs)) / 100, 1, 4),
  };
  const edits = {
    'rate.by': by,
    'rate.power': power,
    ...(forward === null ? {} : { 'rate.forwardPower': forward }),
    ...ends,
  };
  // What a rotor turns follows its throttle at once.
  if (rotors) return { ...edits, 'rate.throttleLag': 0, ...overVoltage(airframe, set, pads) };
  if (by === 'speed') return edits;
  return {
    ...edits,
    'rate.lowest': lowestThatHolds(airframe, { ...set, ...edits }, pads, extremes.fast),
    'rate.throttleLag': clamp(round(speedLag(airframe, reference.speedMps), 0.1), 0, LAG_MOST),
  };
}

/** By the throttle: as far down as gains may grow that a dive with it shut keeps what is to be left; no farther than as written. */
function lowestThatHolds(
  airframe: Airframe,
  values: Values,
  pads: BoardDescription['pads'],
  { speedMps, flown }: Flight,
): number {
  const from = values['rate.lowest'] as number;
  for (let lowest = from; lowest < 1; lowest += 0.05) {
    const holds = FITTED.every((axis) => {
      const loop = loopOf(airframe, { ...values, 'rate.lowest': lowest }, pads, axis, speedMps, 1, flown);
      if (!loop) return true;
      const m = marginOf(loop);
      return stateOf(m) === 'well' && (m.crossover?.degrees ?? 180) >= MARGIN_LEAST_DEG;
    });
    if (holds) return round(lowest, 0.01);
  }
  return 1;
}

/** What a battery that falls takes from motors, as a power of it. */
function overVoltage(airframe: Airframe, values: Values, pads: BoardDescription['pads']) {
  const half = supplyUnderLoad(airframe);
  const volts = voltagesOf(airframe);
  const flights = volts.map((v) => ({ speedMps: 0, flown: { throttle: v.throttle, supplyV: v.volts } }));
  const reference = { speedMps: 0, flown: { throttle: levelThrottle(airframe, 0), supplyV: half } };
  const points = FITTED.flatMap((axis) =>
    gainsWanted(airframe, values, pads, axis, reference, flights).map((wanted, k) => ({
      x: volts[k]!.volts / half,
      wanted: wanted.gain,
    })),
  );
  return {
    'rate.voltPower': powerThrough(points) ?? 0,
    'rate.volts': clamp(round(half / airframe.battery.cells, 0.01), 2.5, 4.4),
  };
}

/** How it answers in each of the three. */
export const answersAt = (
  airframe: Airframe,
  values: Values,
  pads: BoardDescription['pads'],
  axis: Axis,
  extremes: Extremes,
) =>
  (['slow', 'usual', 'fast'] as const).map((id) => {
    const flight = extremes[id];
    return { id, flight, answer: axisAnswer(airframe, values, pads, axis, flight.speedMps, 1, flight.flown) };
  });
