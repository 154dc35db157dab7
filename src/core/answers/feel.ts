import { type Airframe, isRotorcraft } from '../airframe/airframe.ts';
import { hoverOf, stallSpeed } from '../airframe/performance.ts';
import { answerOf } from '../airframe/turning.ts';
import { inSet } from '../control/controlSet.ts';
import { clamp, DEG, GRAVITY } from '../math/scalar.ts';
import { type Axis, axes } from '../mixer/authority.ts';
import type { SettingValue, Values } from '../settings/catalogue.ts';
import { settingsOf } from '../settings/typed.ts';

/** What a control set feels like, in what one sees. */
export interface Feel {
  /** A full turn about the length at full stick, s. */
  readonly rollTurnS: number;
  readonly bankDeg: number;
  /** Of lift over weight in a level turn at the greatest bank. */
  readonly load: number;
  readonly wing: {
    readonly cruiseMps: number;
    /** Where it stalls in that turn, m/s, and how many times that it cruises. */
    readonly stallMps: number;
    readonly margin: number;
    readonly radiusM: number;
    readonly circleS: number;
  } | null;
  readonly rotors: {
    /** The most it can lean and still hold its height, degrees. */
    readonly holdsDeg: number;
    /** What it comes to at its greatest bank, m/s, and how far it goes on when it is braked from there at that bank, m; null where it leans farther than is known of. */
    readonly fast: { readonly topMps: number; readonly brakesM: number } | null;
  } | null;
}

/** Leant over farther, air blows through the rotors as nobody has reckoned here, degrees. */
const KNOWN_LEAN_DEG = 45;
/** Of full thrust, what steering is left out of. */
const THRUST_SHARE = 0.85;

/** Lean at which so much of the thrust carries just the weight (vertical share of it: cos), degrees. */
function leanThatHolds(airframe: Airframe): number {
  return Math.acos(clamp(1 / (THRUST_SHARE * hoverOf(airframe).thrustToWeight), 0, 1)) / DEG;
}

/**
 * Level turns: load 1/cos(bank), stall by its root, radius V^2/(g tan(bank)) (Anderson, Introduction to Flight, 6.17).
 * @param set control set, 1 to 3
 */
export function feelOf(airframe: Airframe, values: Values, set: number): Feel {
  const s = settingsOf(values);
  const bankDeg = s.number(inSet('level.bank', set));
  const bank = bankDeg * DEG;
  const base = { rollTurnS: 360 / s.number(inSet('rate.roll.max', set)), bankDeg, load: 1 / Math.cos(bank) };
  if (isRotorcraft(airframe)) {
    const topMps = hoverOf(airframe).topSpeedMps(bank);
    const brakesM = topMps ** 2 / (2 * GRAVITY * Math.tan(bank));
    const fast = bankDeg <= KNOWN_LEAN_DEG ? { topMps, brakesM } : null;
    return { ...base, wing: null, rotors: { holdsDeg: leanThatHolds(airframe), fast } };
  }
  const cruiseMps = s.number('nav.speed');
  const stallMps = stallSpeed(airframe) * Math.sqrt(base.load);
  return {
    ...base,
    rotors: null,
    wing: {
      cruiseMps,
      stallMps,
      margin: cruiseMps / stallMps,
      radiusM: cruiseMps ** 2 / (GRAVITY * Math.tan(bank)),
      circleS: (2 * Math.PI * cruiseMps) / (GRAVITY * Math.tan(bank)),
    },
  };
}

/** Where nobody flies faster, a stick asks for no more, degrees a second. */
const ROTORS_MOST = 600;
const SLOWEST_STALLS = 1.3;

/** What its surfaces turn it at slow flight about each axis, degrees a second; of rotors more than anybody asks for. */
export function mostRates(airframe: Airframe): Readonly<Record<Axis, number>> {
  const most = (k: 0 | 1 | 2) =>
    isRotorcraft(airframe)
      ? ROTORS_MOST
      : Math.abs(answerOf(airframe, k, SLOWEST_STALLS * stallSpeed(airframe)).rate) / DEG;
  return { roll: most(0), pitch: most(1), yaw: most(2) };
}

export type FeelId = 'calm' | 'learner' | 'brisk';

/** What each is made of: share of what the craft can, no more than so many degrees a second, how near the stall it turns. */
const makings: Readonly<
  Record<
    FeelId,
    {
      readonly share: number;
      readonly most: Readonly<Record<Axis, number>>;
      /** Times the stall in the turn that it cruises. */
      readonly margin: number;
      readonly bankMost: number;
      /** Of what rotors can lean and hold their height. */
      readonly leanShare: number;
      readonly pitch: number;
      readonly expo: number;
    }
  >
> = {
  calm: {
    share: 0.5,
    most: { roll: 60, pitch: 40, yaw: 40 },
    margin: 1.5,
    bankMost: 30,
    leanShare: 0.45,
    pitch: 15,
    expo: 0.3,
  },
  learner: {
    share: 0.6,
    most: { roll: 90, pitch: 60, yaw: 60 },
    margin: 1.35,
    bankMost: 40,
    leanShare: 0.6,
    pitch: 20,
    expo: 0.45,
  },
  brisk: {
    share: 0.95,
    most: { roll: 360, pitch: 200, yaw: 180 },
    margin: 1.2,
    bankMost: 60,
    leanShare: 0.85,
    pitch: 35,
    expo: 0.25,
  },
};

const down = (x: number, step: number) => Math.floor(x / step + 1e-9) * step;

/** Settings of a control set that make a craft feel so; rates that its surfaces do not give are not asked for. */
export function feelEdits(
  airframe: Airframe,
  values: Values,
  id: FeelId,
  set: number,
): Readonly<Record<string, SettingValue>> {
  const m = makings[id];
  const can = mostRates(airframe);
  const bank = isRotorcraft(airframe)
    ? Math.min(m.bankMost, m.leanShare * leanThatHolds(airframe))
    : bankOfMargin(airframe, values, m.margin, m.bankMost);
  const lean = clamp(down(bank, 1), 10, 75);
  const pitch = isRotorcraft(airframe) ? lean : Math.min(m.pitch, lean);
  return {
    ...Object.fromEntries(
      axes.map((axis) => [
        inSet(`rate.${axis}.max`, set),
        // A craft without anything that yaws it is asked for what it would be asked for anyway.
        clamp(down(Math.min(m.most[axis], can[axis] > 3 ? m.share * can[axis] : m.most[axis]), 5), 20, 720),
      ]),
    ),
    [inSet('level.bank', set)]: lean,
    [inSet('level.up', set)]: pitch,
    [inSet('level.down', set)]: pitch,
    'rx.expo': m.expo,
  };
}

/** The bank in which a craft cruises so many times as fast as it stalls there, degrees. */
function bankOfMargin(airframe: Airframe, values: Values, margin: number, most: number): number {
  const load = (settingsOf(values).number('nav.speed') / (margin * stallSpeed(airframe))) ** 2;
  return load <= 1 ? 0 : Math.min(most, Math.acos(1 / load) / DEG);
}

/** What of a control set makes how it feels. */
export const FEEL_KEYS = [
  'rate.roll.max',
  'rate.pitch.max',
  'rate.yaw.max',
  'level.bank',
  'level.up',
  'level.down',
  'level.time',
] as const;
const GAINS = axes.flatMap((axis) => ['forward', 'p', 'i', 'd'].map((part) => `rate.${axis}.${part}`));

/** All of one control set as settings of another. */
export const carriedSet = (
  values: Values,
  from: number,
  to: number,
): Readonly<Record<string, SettingValue>> =>
  Object.fromEntries(
    [...FEEL_KEYS, ...GAINS].flatMap((key) => {
      const value = values[inSet(key, from)];
      return value === undefined ? [] : [[inSet(key, to), value]];
    }),
  );
